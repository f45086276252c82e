// A student's own picture as others see it: numbers on the picture, and beside it what each of them tells.

import { named, numeral, phrase } from '../language.js'
import { cardOf } from '../scene/face.js'
import { createStage } from '../scene/stage.js'
import { setWords } from '../scene/words.js'

/** @typedef {import('../scene/stage.js').Stage} Stage */

/**
 * The picture that spots lie on: what the student brought, or the pane's.
 * @param {OwnWork | null | undefined} own
 * @param {PaneFrame['picture']} given
 * @returns {Picture | null}
 */
export const pictureOf = (own, given) =>
  own?.picture ? /** @type {Picture} */ ({ ...own.picture, margins: { left: 0, top: 0, right: 0, bottom: 0 }, credit: '' }) : given

/**
 * The numbers on a picture.
 * @param {Stage} stage
 * @param {(spot: string) => void} press
 */
export function createNumbers(stage, press) {
  const layer = document.createElement('div')
  layer.className = 'own-numbers'
  stage.overlay.append(layer)
  return {
    layer,
    /** @param {readonly OwnSpot[]} spots @param {string | null} chosen */
    draw(spots, chosen) {
      const focused = layer.contains(document.activeElement) ? /** @type {HTMLElement} */ (document.activeElement).dataset.spot : null
      layer.replaceChildren(
        ...spots.map((spot, i) => {
          const number = numberAt(spot, i)
          number.dataset.spot = spot.id
          number.setAttribute('aria-label', nameOf(spot, i))
          number.setAttribute('aria-pressed', String(spot.id === chosen))
          number.addEventListener('click', () => press(spot.id))
          return number
        }),
      )
      if (focused) /** @type {HTMLElement | null} */ (layer.querySelector(`[data-spot="${CSS.escape(focused)}"]`))?.focus()
    },
  }
}

/**
 * @template {'button' | 'span'} T
 * @param {OwnSpot} spot
 * @param {number} index
 * @param {T} [tag]
 * @returns {HTMLElementTagNameMap[T]}
 */
function numberAt(spot, index, tag = /** @type {T} */ ('button')) {
  const number = document.createElement(tag)
  number.className = 'own-number'
  if (number instanceof HTMLButtonElement) number.type = 'button'
  number.textContent = numeral(index + 1)
  number.style.left = `calc(var(--unit) * ${spot.at.x})`
  number.style.top = `calc(var(--unit) * ${spot.at.y})`
  return number
}

/** @param {OwnSpot} spot @param {number} index */
export function nameOf(spot, index) {
  const name = phrase('making.spot', { number: index + 1 })
  return named(name, spot.title)
}

/** What a spot tells. @param {OwnSpot} spot @param {readonly string[]} questions @returns {HTMLElement[]} */
export function tellingOf(spot, questions) {
  /** @type {HTMLElement[]} */
  const parts = []
  const line = (/** @type {string} */ tag, /** @type {string} */ className, /** @type {string} */ text) => {
    const element = document.createElement(tag)
    element.className = className
    element.dir = 'auto'
    setWords(element, text)
    parts.push(element)
    return element
  }
  if (spot.question !== null && spot.question !== undefined && questions[spot.question]) line('p', 'own-asked', questions[spot.question])
  if (spot.title) line('p', 'own-title', spot.title)
  if (spot.text) line('p', 'own-text', spot.text)
  if (spot.face) parts.push(cardOf(spot.face, spot.title))
  if (spot.link) {
    const link = document.createElement('a')
    Object.assign(link, { className: 'own-link', href: spot.link, target: '_blank', rel: 'noopener noreferrer' })
    link.textContent = phrase('making.goTo', { site: hostOf(spot.link) })
    parts.push(link)
  }
  if (spot.source) line('p', 'own-source', phrase('making.from', { source: spot.source }))
  return parts
}

/** @param {string} link */
function hostOf(link) {
  try {
    return new URL(link).host
  } catch {
    return link
  }
}

/**
 * A whole piece, to be looked at.
 * @param {HTMLElement} box
 * @param {{own: OwnWork, given: PaneFrame['picture'], questions?: readonly string[]}} piece
 * @returns {Stage | null} Null without a picture.
 */
export function showPiece(box, { own, given, questions = [] }) {
  box.classList.add('piece')
  const picture = pictureOf(own, given)
  const list = document.createElement('ol')
  list.className = 'own-list'
  list.append(
    ...own.spots.map(spot => {
      const item = document.createElement('li')
      item.append(...tellingOf(spot, questions))
      return item
    }),
  )
  if (!picture) {
    const none = document.createElement('p')
    none.className = 'piece-none'
    none.textContent = phrase('making.noPicture')
    box.replaceChildren(none, list)
    return null
  }
  const mat = document.createElement('div')
  mat.className = 'mat'
  mat.style.aspectRatio = `${picture.width} / ${picture.height}`
  box.replaceChildren(mat, list)
  const stage = createStage(mat, picture)
  const layer = document.createElement('div')
  layer.className = 'own-numbers'
  // What they are stands in the list.
  layer.setAttribute('aria-hidden', 'true')
  layer.append(...own.spots.map((spot, i) => numberAt(spot, i, 'span')))
  stage.overlay.append(layer)
  return stage
}
