// The bank below the picture: a label is dragged onto its place, and so the key is made.

import { phrase } from '../language.js'
import { listenForKeys } from './keying.js'
import { labelOf, setKey, withLabel } from './pane.js'

/** @param {import('./desk.js').Desk} desk @param {ReturnType<typeof import('./picture.js').picturePart>} picture */
export function bankPart(desk, picture) {
  const { pane, change, announce } = desk
  /** @param {PointerEvent} event @returns {ReturnType<typeof picture.bench>} Null beside the picture. */
  const under = event => {
    const box = picture.bench()?.stage.mat.getBoundingClientRect()
    const isOver = box && event.clientX >= box.left && event.clientX <= box.right && event.clientY >= box.top && event.clientY <= box.bottom
    return isOver ? picture.bench() : null
  }
  return {
    show() {
      desk.state().bankOrder = pane().bankOrder ?? 'shuffled'
      desk.state().labelSize = pane().labelSize ?? 'medium'
    },
    listen() {
      listenForKeys(/** @type {HTMLElement} */ (document.getElementById('bench-bank')), {
        targetAt(event) {
          const bench = under(event)
          return bench?.canvas.shapeAt(pane(), bench.stage.pointAt(event))?.row ?? null
        },
        hover(target) {
          if (desk.point(target)) picture.draw()
        },
        drop(target, label, isFurther) {
          if (isFurther) desk.mark(desk.selection(), target)
          change(setKey(pane(), target, label, isFurther))
          desk.show()
          announce(phrase('bench.belongsThere', { label: labelOf(pane(), label)?.text ?? '' }))
        },
        bare(label, event) {
          const bench = under(event)
          if (!bench) return
          // On the bare picture it lies as students will find it.
          const at = bench.stage.pointAt(event)
          change(withLabel(pane(), label, { start: { x: Math.round(at.x), y: Math.round(at.y) } }))
          announce(phrase('bench.liesThere', { label: labelOf(pane(), label)?.text ?? '' }))
        },
      })
    },
    page: {
      bankOrder: 'shuffled',
      labelSize: 'medium',
      /** @param {Event} event */
      setBankOrder(event) {
        change({ ...pane(), bankOrder: /** @type {HTMLSelectElement} */ (event.currentTarget).value })
      },
      /** @param {Event} event */
      setLabelSize(event) {
        change({ ...pane(), labelSize: /** @type {HTMLSelectElement} */ (event.currentTarget).value })
      },
    },
  }
}
