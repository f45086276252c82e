// The picture is pressed with Shift: a free line is drawn, which becomes an outline of few corners.

import { phrase } from '../../language.js'
import { outlined } from '../regions.js'
import { idle } from './idle.js'

/** @param {import('../bench.js').Bench} bench @param {Point} start */
export function outlining(bench, start) {
  const path = [start]
  return {
    enter() {},
    down() {},
    /** @param {Point} point */
    move(point) {
      path.push(point)
      bench.canvas.sketchPath(path)
    },
    up() {
      bench.canvas.sketch(null)
      const region = outlined(path)
      if (region) bench.make(start, region)
      else bench.say(phrase('bench.thatLineEnclosesNothingOrCrosses'))
      return idle(bench)
    },
    cancel() {
      bench.canvas.sketch(null)
      return idle(bench)
    },
  }
}
