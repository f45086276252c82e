// Nothing is pressed: a press takes hold of a grip, of what lies there, or of the bare picture.

import { drawing } from './drawing.js'
import { gripping } from './gripping.js'
import { marquee } from './marquee.js'
import { moving } from './moving.js'
import { outlining } from './outlining.js'
import { panning } from './panning.js'

/** @typedef {import('../bench.js').Bench} Bench */

/** @param {Bench} bench */
export const idle = bench => ({
  enter() {},
  /** @param {Point} point @param {PointerEvent} event */
  down(point, event) {
    if (event.button === 1 || bench.isSpaceDown()) return panning(bench, event)
    if (event.altKey) return marquee(bench, point)
    const pane = bench.pane()
    const [only] = bench.shapes().filter(shape => bench.selection().includes(shape.key))
    const isTouch = event.pointerType === 'touch'
    const grip = only && bench.selection().length === 1 && !only.isPoint ? bench.canvas.gripAt(only.region, point, isTouch) : undefined
    if (grip) return gripping(bench, only, grip)
    const shape = bench.canvas.shapeAt(pane, point, isTouch)
    if (shape && (event.ctrlKey || event.metaKey)) {
      bench.select(
        bench.selection().includes(shape.key) ? bench.selection().filter(key => key !== shape.key) : [...bench.selection(), shape.key],
      )
      return undefined
    }
    if (event.shiftKey && bench.asks() === 'region') return outlining(bench, point)
    if (shape) return moving(bench, shape, point)
    return drawing(bench, point)
  },
  /** @param {Point} point */
  move(point) {
    bench.pointAt(bench.canvas.shapeAt(bench.pane(), point)?.row ?? null)
    bench.read(point)
  },
  up() {},
  cancel() {},
})
