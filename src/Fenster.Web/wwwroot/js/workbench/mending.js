// What one click mends of what the proof found.

import { thresholds } from '../usual.js'
import { boundsOf } from '../scene/geometry.js'
import { changeShapes, mergeAlike, remove, shapesOf, withLabel } from './pane.js'
import { sized } from './regions.js'

/** Enough for a finger on a phone, in picture units. */
const fingertip = (thresholds.advisedFingertip / thresholds.narrowestScreen) * 1000

/** @param {PanePart} pane @param {string} how @param {string} about @returns {PanePart} */
export function mended(pane, how, about) {
  const keys = shapesOf(pane)
    .filter(shape => shape.row === about && shape.kind !== 'start')
    .map(shape => shape.key)
  switch (how) {
    case 'makeOne':
      return mergeAlike(pane, about)
    case 'delete':
      return remove(pane, about)
    case 'intoBank':
      return withLabel(pane, about, { start: null })
    case 'bringBack':
      return changeShapes(pane, keys, region => region)
    case 'enlarge':
      return changeShapes(pane, keys, region => {
        const { left, top, right, bottom } = boundsOf(region)
        return sized(region, Math.max(right - left, fingertip), Math.max(bottom - top, fingertip))
      })
    default:
      return pane
  }
}
