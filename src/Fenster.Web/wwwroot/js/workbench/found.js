// Things that were found in a picture, each with a tick and a name, before something is made of them.

import { valueOf } from './typing.js'

/**
 * @template {{id: string, text: string, isTicked: boolean}} T
 * @param {() => void} draw After each change.
 */
export function createFound(draw) {
  /** @type {T[]} */
  let things = []
  const of = (/** @type {Event} */ event) =>
    /** @type {T} */ (things.find(thing => thing.id === /** @type {HTMLElement} */ (event.currentTarget).dataset.name))
  return {
    all: () => things,
    ticked: () => things.filter(thing => thing.isTicked),
    /** @param {T[]} found */
    set(found) {
      things = found
      draw()
    },
    /** @param {Event} event */
    tick(event) {
      of(event).isTicked = /** @type {HTMLInputElement} */ (event.currentTarget).checked
      draw()
    },
    /** @param {Event} event @param {Partial<T>} [more] What its being named changes beside. */
    name(event, more) {
      Object.assign(of(event), { text: valueOf(event), ...more })
      draw()
    },
  }
}
