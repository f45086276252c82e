// Nothing is pressed: a press takes hold of a corner, of a zone, or of the bare picture.

import { drawing } from './drawing.js'
import { moving } from './moving.js'
import { resizing } from './resizing.js'

/** @typedef {import('../main.js').Bench} Bench */

/** @param {Bench} bench */
export const idle = bench => ({
  enter() {},
  /** @param {Point} point @param {PointerEvent} event */
  down(point, event) {
    const pane = bench.pane()
    const selected = pane.targets.find(zone => zone.id === bench.selected())
    const corner = bench.canvas.cornerAt(selected, point, event.pointerType === 'touch')
    if (selected && corner) return resizing(bench, selected, corner)
    const zone = bench.canvas.zoneAt(pane, point)
    if (zone) return moving(bench, zone, point)
    return drawing(bench, point)
  },
  /** @param {Point} point */
  move(point) {
    bench.pointAt(bench.canvas.zoneAt(bench.pane(), point)?.id ?? null)
  },
  up() {},
  cancel() {},
})
