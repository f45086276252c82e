// Places of a picture in words, for whoever can't see them.

import { phrase } from '../language.js'

const rows = ['upper', 'middle', 'lower']
const columns = ['left', 'middle', 'right']

/** @param {Bounds} plane What the picture covers. @param {Point} at @returns {string} Which ninth of it. */
export function whereOn({ left, top, right, bottom }, { x, y }) {
  const third = (/** @type {number} */ share) => Math.min(2, Math.max(0, Math.floor(3 * share)))
  return phrase(`place.${rows[third((y - top) / (bottom - top))]}.${columns[third((x - left) / (right - left))]}`)
}
