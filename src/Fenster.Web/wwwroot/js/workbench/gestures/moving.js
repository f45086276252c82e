// Something is pressed: moving the pointer moves all that is selected, letting go where it was selects it.

import { boundsOf } from '../../scene/geometry.js'
import { boundsOfAll, guided } from '../arrange.js'
import { changeShapes, targetOf } from '../pane.js'
import { clamp, moved } from '../regions.js'
import { idle } from './idle.js'

/** @param {import('../bench.js').Bench} bench @param {import('../pane.js').Shape} shape @param {Point} start */
export function moving(bench, shape, start) {
  const before = bench.pane()
  const { plane } = bench.stage
  const keys = bench.selection().includes(shape.key) ? bench.selection() : [shape.key]
  const shapes = bench.shapes()
  const mine = shapes.filter(s => keys.includes(s.key))
  const held = boundsOfAll(mine.map(s => s.region))
  const others = shapes.filter(s => !keys.includes(s.key)).map(s => boundsOf(s.region))
  // What slides on a scale or has a line to it is drawn anew with each step; all else is carried as it is.
  const isCarried = mine.every(
    s =>
      !['scaleEnd', 'scalePoint', 'leaderEnd'].includes(s.kind) && !(/** @type {ZonePart | undefined} */ (targetOf(before, s.row))?.leader),
  )
  /** How far it was moved. @type {Point | null} */
  let by = null
  const there = (/** @type {Point} */ { x, y }) => changeShapes(before, keys, region => moved(region, x, y))
  return {
    enter() {
      bench.select(keys)
    },
    down() {},
    /** @param {Point} point */
    move(point) {
      const way = { x: point.x - start.x, y: point.y - start.y }
      if (!by && Math.hypot(way.x, way.y) * bench.stage.scale() < 4) return
      if (!by && isCarried) bench.lift()
      const { x, y, guides } = guided(held, others, way, 5 / bench.stage.scale())
      by = { x: clamp(x, plane.left - held.left, plane.right - held.right), y: clamp(y, plane.top - held.top, plane.bottom - held.bottom) }
      bench.canvas.guides(guides)
      if (isCarried) bench.canvas.carry(by)
      else bench.preview(there(by))
    },
    up() {
      bench.canvas.guides([])
      bench.canvas.carry(null)
      if (by) {
        bench.preview(there(by))
        bench.commitPreview()
      } else {
        bench.select([shape.key])
        bench.focusRow(shape.row)
      }
      return idle(bench)
    },
    cancel() {
      bench.canvas.guides([])
      bench.canvas.carry(null)
      bench.preview(null)
      return idle(bench)
    },
  }
}
