// Another picture for a pane on which something stands: it is shown with all of it before it is done.

import { phrase } from '../language.js'
import { shapesOf, tallerBy, withPicture } from './pane.js'

/** @param {import('./desk.js').Desk} desk @returns {import('./desk.js').Part & {offer: (picture: Picture) => void}} */
export function swapPart(desk) {
  const { pane, change, announce } = desk
  /** @type {Picture | null} */
  let offered = null
  const fitted = () => withPicture(pane(), /** @type {Picture} */ (offered), desk.state().swapFit)
  const stop = () => {
    offered = null
    desk.state().isSwapping = false
    desk.look(null)
  }

  return {
    /** Takes a picture at once where nothing can lie wrong on it, and asks first where it can. @param {Picture} picture */
    offer(picture) {
      const next = { ...picture, altText: pane().picture?.altText ?? '' }
      if (shapesOf(pane()).length === 0) return change({ ...pane(), picture: next })
      offered = next
      const hasOtherShape = Math.abs(tallerBy(picture, pane().picture) - 1) > 0.005
      Object.assign(desk.state(), { isSwapping: true, hasOtherShape, swapFit: hasOtherShape ? 'stretch' : 'stay' })
      desk.look(fitted())
      announce(phrase('bench.thisIsHowEverythingLiesOn'))
      requestAnimationFrame(() => document.getElementById('use-picture')?.focus())
    },
    show() {
      // Undone, or gone to another pane.
      if (offered && !desk.isLooking()) stop()
    },
    page: {
      isSwapping: false,
      hasOtherShape: false,
      swapFit: /** @type {'stay' | 'stretch'} */ ('stay'),
      /** @param {Event} event */
      setSwapFit(event) {
        desk.state().swapFit = /** @type {HTMLSelectElement} */ (event.currentTarget).value
        desk.look(fitted())
      },
      useSwap() {
        const changed = fitted()
        stop()
        change(changed)
        announce(phrase('bench.thePictureWasChangedCtrlZ'))
      },
      keepOld() {
        stop()
      },
    },
  }
}
