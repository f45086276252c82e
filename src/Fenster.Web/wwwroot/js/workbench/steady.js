// Lists that the page draws: of what reads as before it is given the very same thing, so that it draws anew only what changed.

import { readsTheSame } from '../same.js'

/**
 * @template {{[name: string]: any}} T
 * @param {keyof T & string} key What tells the things of the list apart.
 * @returns {(list: T[]) => T[]}
 */
export function steady(key) {
  /** @type {Map<any, T>} */
  let known = new Map()
  return list => {
    known = new Map(
      list.map(thing => {
        const before = known.get(thing[key])
        return [thing[key], before !== undefined && readsTheSame(before, thing) ? before : thing]
      }),
    )
    return [...known.values()]
  }
}
