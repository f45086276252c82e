// A grip of the only thing selected is pressed: a corner resizes it, the one above turns it, those of an outline bend it.

import { withShape } from '../pane.js'
import { crossesItself, resized, turned } from '../regions.js'
import { idle } from './idle.js'

/** @param {import('../bench.js').Bench} bench @param {import('../pane.js').Shape} shape @param {import('../canvas.js').Grip} grip */
export function gripping(bench, shape, grip) {
  const before = bench.pane()
  /** @param {Point} point @returns {Region} */
  const changed = point => {
    const { region } = shape
    if (grip.kind === 'corner') return resized(region, grip.corner, point)
    if (grip.kind === 'turn') return turned(region, point)
    if (region.kind !== 'polygon') return region
    const vertices = grip.kind === 'vertex' ? region.vertices.with(grip.index, point) : region.vertices.toSpliced(grip.index + 1, 0, point)
    // An outline that crosses itself is no region.
    return crossesItself(vertices) ? region : { ...region, vertices }
  }
  return {
    enter() {},
    down() {},
    /** @param {Point} point */
    move(point) {
      bench.preview(withShape(before, shape.key, changed(point)))
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
