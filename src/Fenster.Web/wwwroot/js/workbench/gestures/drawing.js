// The bare picture is pressed: letting go at once makes a thing of the usual size, a drag draws it.

import { smallestSide } from '../regions.js'
import { idle } from './idle.js'

/** @param {import('../bench.js').Bench} bench @param {Point} start */
export function drawing(bench, start) {
  /** @type {Region | null} */
  let region = null
  return {
    enter() {},
    down() {},
    /** @param {Point} point */
    move(point) {
      if (bench.asks() !== 'region') return
      if (!region && Math.hypot(point.x - start.x, point.y - start.y) * bench.stage.scale() < 6) return
      region = between(start, point, bench.shape())
      bench.canvas.sketch(region)
    },
    up() {
      bench.canvas.sketch(null)
      bench.make(start, region)
      return idle(bench)
    },
    cancel() {
      bench.canvas.sketch(null)
      return idle(bench)
    },
  }
}

/** @param {Point} a @param {Point} b @param {string} shape @returns {Region} */
function between(a, b, shape) {
  const [width, height] = [Math.max(smallestSide, Math.abs(a.x - b.x)), Math.max(smallestSide, Math.abs(a.y - b.y))]
  const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }
  return shape === 'circle'
    ? { kind: 'circle', centre: middle, radius: Math.max(width, height) / 2 }
    : { kind: 'rectangle', x: middle.x - width / 2, y: middle.y - height / 2, width, height }
}
