// A corner of the selected zone is pressed: it follows the pointer, the opposite corner stays.

import { resized, setRegion } from '../document.js'
import { idle } from './idle.js'

/** @param {import('../main.js').Bench} bench @param {ZonePart} zone @param {import('../canvas.js').Corner} corner */
export function resizing(bench, zone, corner) {
  const before = bench.document()
  return {
    enter() {},
    down() {},
    /** @param {Point} point */
    move(point) {
      bench.preview(setRegion(before, zone.id, resized(zone.region, corner, point)))
    },
    up() {
      bench.commitPreview()
      return idle(bench)
    },
    cancel() {
      bench.preview(null)
      return idle(bench)
    },
  }
}
