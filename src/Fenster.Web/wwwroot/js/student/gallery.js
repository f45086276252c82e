// What a class has made: each piece as others see it.

import { numeral, phrase } from '../language.js'
import { showPiece } from './piece.js'

/** @typedef {{name: string | null, isOwn: boolean, piece: {own: OwnWork, given: PaneFrame['picture'], questions: string[]}}} Shown */

/** @param {HTMLElement} gallery */
export function showGallery(gallery) {
  const pieces = /** @type {Shown[]} */ (JSON.parse(gallery.dataset.pieces ?? '[]'))
  gallery.replaceChildren(
    ...pieces.map(({ name, isOwn, piece }, i) => {
      const section = document.createElement('section')
      section.className = 'gallery-piece'
      const title = document.createElement('h2')
      title.dir = 'auto'
      title.textContent = name ?? phrase('gallery.piece', { number: numeral(i + 1) })
      if (isOwn) title.append(Object.assign(document.createElement('small'), { textContent: phrase('gallery.yours') }))
      const box = document.createElement('div')
      section.append(title, box)
      // It is measured once it is on the page.
      requestAnimationFrame(() => showPiece(box, piece))
      return section
    }),
  )
}
