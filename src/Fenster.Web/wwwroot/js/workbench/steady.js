// Lists that the page draws: of what reads as before it is given the very same thing, so that it draws anew only what changed.

/**
 * @template {{[name: string]: any}} T
 * @param {keyof T & string} key What tells the things of the list apart.
 * @returns {(list: T[]) => T[]}
 */
export function steady(key) {
  /** @type {Map<any, {text: string, thing: T}>} */
  let known = new Map()
  return list => {
    const now = new Map(
      list.map(thing => {
        const text = JSON.stringify(thing)
        const before = known.get(thing[key])
        return [thing[key], before?.text === text ? before : { text, thing }]
      }),
    )
    known = now
    return [...now.values()].map(({ thing }) => thing)
  }
}
