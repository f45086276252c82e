// Something is pressed: moving the pointer moves all that is selected, letting go where it was selects it.

import { guided } from '../arrange.js'
import { changeShapes } from '../pane.js'
import { moved } from '../regions.js'
import { idle } from './idle.js'

/** @param {import('../bench.js').Bench} bench @param {import('../pane.js').Shape} shape @param {Point} start */
export function moving(bench, shape, start) {
  const before = bench.pane()
  const keys = bench.selection().includes(shape.key) ? bench.selection() : [shape.key]
  const shapes = bench.shapes()
  const [held, others] = [shapes.filter(s => keys.includes(s.key)), shapes.filter(s => !keys.includes(s.key))]
  let hasMoved = false
  return {
    enter() { bench.select(keys) },
    down() {},
    /** @param {Point} point */
    move(point) {
      const by = { x: point.x - start.x, y: point.y - start.y }
      if (!hasMoved && Math.hypot(by.x, by.y) * bench.stage.scale() < 4) return
      hasMoved = true
      const { x, y, guides } = guided(held.map(s => s.region), others.map(s => s.region), by, 5 / bench.stage.scale())
      bench.canvas.guides(guides)
      bench.preview(changeShapes(before, keys, region => moved(region, x, y)))
    },
    up() {
      bench.canvas.guides([])
      if (hasMoved) bench.commitPreview()
      else {
        bench.select([shape.key])
        bench.focusRow(shape.row)
      }
      return idle(bench)
    },
    cancel() {
      bench.canvas.guides([])
      bench.preview(null)
      return idle(bench)
    },
  }
}
