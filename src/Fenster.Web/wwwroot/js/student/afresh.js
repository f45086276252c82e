// What is drawn again only when it would look otherwise: whoever is just pressing a button must find it there when they let go.

import { readsTheSame } from '../same.js'

/**
 * @template T
 * @param {(facts: T) => void} draw Draws from the facts alone.
 * @returns {(facts: T) => void}
 */
export function whenChanged(draw) {
  /** @type {T | undefined} */
  let before
  return facts => {
    if (readsTheSame(facts, before)) return
    before = facts
    draw(facts)
  }
}
