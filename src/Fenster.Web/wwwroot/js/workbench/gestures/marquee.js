// The picture is pressed with Alt: everything that the box touches is selected.

import { boundsOf } from '../../scene/geometry.js'
import { idle } from './idle.js'

/** @param {import('../bench.js').Bench} bench @param {Point} start */
export function marquee(bench, start) {
  let box = { left: start.x, top: start.y, right: start.x, bottom: start.y }
  return {
    enter() {},
    down() {},
    /** @param {Point} point */
    move(point) {
      box = {
        left: Math.min(start.x, point.x),
        top: Math.min(start.y, point.y),
        right: Math.max(start.x, point.x),
        bottom: Math.max(start.y, point.y),
      }
      bench.canvas.sketch({
        kind: 'rectangle',
        x: box.left,
        y: box.top,
        width: Math.max(1, box.right - box.left),
        height: Math.max(1, box.bottom - box.top),
      })
    },
    up() {
      bench.canvas.sketch(null)
      bench.select(
        bench
          .shapes()
          .filter(shape => {
            const at = boundsOf(shape.region)
            return at.left <= box.right && at.right >= box.left && at.top <= box.bottom && at.bottom >= box.top
          })
          .map(shape => shape.key),
      )
      return idle(bench)
    },
    cancel() {
      bench.canvas.sketch(null)
      return idle(bench)
    },
  }
}
