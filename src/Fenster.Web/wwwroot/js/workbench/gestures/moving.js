// A zone is pressed: moving the pointer moves it, letting go where it was selects it.

import { moved, setRegion } from '../document.js'
import { idle } from './idle.js'

/** @param {import('../main.js').Bench} bench @param {ZonePart} zone @param {Point} start */
export function moving(bench, zone, start) {
  const before = bench.document()
  let hasMoved = false
  return {
    enter() { bench.select(zone.id) },
    down() {},
    /** @param {Point} point */
    move(point) {
      const [dx, dy] = [point.x - start.x, point.y - start.y]
      if (!hasMoved && Math.hypot(dx, dy) * bench.stage.scale() < 4) return
      hasMoved = true
      bench.preview(setRegion(before, zone.id, moved(zone.region, dx, dy)))
    },
    up() {
      if (hasMoved) bench.commitPreview()
      else bench.focusRow(zone.id)
      return idle(bench)
    },
    cancel() {
      bench.preview(null)
      return idle(bench)
    },
  }
}
