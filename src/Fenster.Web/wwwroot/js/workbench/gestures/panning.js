// The picture is pressed with the space bar down or the middle button: it moves under the pointer.

import { idle } from './idle.js'

/** @param {import('../bench.js').Bench} bench @param {PointerEvent} start */
export function panning(bench, start) {
  const { mat } = bench.stage
  const from = { left: mat.scrollLeft, top: mat.scrollTop }
  return {
    enter() {},
    down() {},
    /** @param {Point} _ @param {PointerEvent} event */
    move(_, event) {
      mat.scrollTo(from.left + start.clientX - event.clientX, from.top + start.clientY - event.clientY)
    },
    up: () => idle(bench),
    cancel: () => idle(bench),
  }
}
