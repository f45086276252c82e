// Whether two things read the same: values, lists and objects, whatever the order of an object's fields. What is undefined is not there.

/** @param {any} a @param {any} b @returns {boolean} */
export function readsTheSame(a, b) {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return Number.isNaN(a) && Number.isNaN(b)
  if (Array.isArray(a) || Array.isArray(b))
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((item, i) => readsTheSame(item, b[i]))
  const [ours, theirs] = [a, b].map(it => Object.keys(it).filter(name => it[name] !== undefined))
  return ours.length === theirs.length && ours.every(name => Object.hasOwn(b, name) && readsTheSame(a[name], b[name]))
}
