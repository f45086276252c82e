// The picture of the pane on its bench: opened when another one is shown, drawn as the pane changes.

import { phrase } from '../language.js'
import { openBench } from './bench.js'
import { pictureKeys } from './picture-keys.js'

/**
 * @typedef {object} Hands What gestures and keys on the picture do.
 * @property {(at: Point, region: Region | null) => void} make
 * @property {() => void} makeByKey
 * @property {() => string} tool
 * @property {() => void} showRows
 */

/** @param {import('./desk.js').Desk} desk @param {() => Hands} hands */
export function picturePart(desk, hands) {
  const { pane, shown, change, select, focusRow, announce, selection } = desk
  /** @type {ReturnType<typeof openBench> | null} */
  let bench = null
  let opened = ''
  const draw = () => bench?.draw(shown(), desk.pointed())
  const key = pictureKeys({
    pane,
    change,
    focusRow,
    select,
    selection,
    makeByKey: () => hands().makeByKey(),
    say: announce,
    fit: () => bench?.stage.zoomTo(1),
  })

  const open = () => {
    const { picture } = shown()
    if (!picture) return
    bench?.close()
    bench = openBench(/** @type {HTMLElement} */ (document.getElementById('mat')), picture, {
      pane,
      shown,
      select,
      focusRow,
      make: (at, region) => hands().make(at, region),
      key,
      selection,
      tool: () => hands().tool(),
      shape: () => desk.state().shape,
      say: announce,
      readout(words) {
        desk.state().readout = words
      },
      pointAt: row => point(row),
      preview(changed) {
        desk.glance(changed)
        draw()
      },
      commitPreview() {
        const changed = desk.isLooking() ? shown() : null
        desk.glance(null)
        if (changed) change(changed)
        draw()
      },
    })
    draw()
    bench.stage.element.querySelector('.stage-picture')?.addEventListener('error', () => {
      desk.state().problem = phrase('bench.thePictureCantBeFoundOn')
    })
  }

  /** Points at a row, in the ledger and on the picture. @param {string | null} row */
  const point = row => {
    if (!desk.point(row)) return
    hands().showRows()
    draw()
  }

  return {
    bench: () => bench,
    point,
    draw,
    focus: () => bench?.stage.element.focus({ preventScroll: true }),
    show() {
      const { picture } = shown()
      const which = picture ? `${desk.index()} ${picture.media}` : ''
      if (picture && opened !== which) {
        // The mat has no size before it is shown.
        requestAnimationFrame(open)
      }
      opened = which
      if (!picture) {
        bench?.close()
        bench = null
      }
      draw()
    },
    // A hand may be moving something: only a change draws the picture anew.
    hear() {},
    page: {
      readout: '',
      /** @param {Event} event */
      zoom(event) {
        const by = Number(/** @type {HTMLButtonElement} */ (event.currentTarget).value)
        bench?.stage.zoomTo(by === 0 ? 1 : bench.stage.zoom() * by)
      },
    },
  }
}
