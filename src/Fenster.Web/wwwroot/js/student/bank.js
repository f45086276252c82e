// The label bank: what is left to place, and the marks that are left to make.

import { faceOf } from '../scene/face.js'
import { named, numeral, phrase } from '../language.js'
import { whenChanged } from './afresh.js'
import { freeCopy, holdablesOf, usedOf } from './work.js'

/** @typedef {{label: LabelView, copy: number, left: number | null, isInHand: boolean}} InBank */

/**
 * @param {HTMLElement} bank
 * @returns {(pane: PaneView, inHand: {label: string, copy: number} | null) => void} Draws it.
 */
export function createBank(bank) {
  const redraw = whenChanged((/** @type {{inBank: InBank[], size: string, empty: string}} */ { inBank, size, empty }) => {
    if (inBank.length > 0) drawLabels(bank, inBank, size)
    else bank.replaceChildren(Object.assign(document.createElement('p'), { className: 'bank-empty', textContent: empty }))
  })
  return (pane, inHand) =>
    redraw({
      inBank: holdablesOf(pane).flatMap(label => {
        const copy = freeCopy(pane, label)
        // A label that begins on the picture waits there.
        if (copy === null || (label.start && copy === 0)) return []
        return [{ label, copy, left: copiesLeft(pane, label), isInHand: inHand?.label === label.id }]
      }),
      size: pane.labelSize,
      empty: phrase(pane.labels.length > 0 ? 'screen.allLabels' : 'screen.allMarks'),
    })
}

/** @param {HTMLElement} bank @param {InBank[]} inBank @param {string} size */
function drawLabels(bank, inBank, size) {
  const focused = bank.contains(document.activeElement) ? document.activeElement?.getAttribute('data-label') : null
  const items = inBank.map(({ label, copy, left, isInHand }) => {
    const item = document.createElement('li')
    const button = document.createElement('button')
    button.type = 'button'
    button.className = 'label'
    button.dataset.label = label.id
    button.dataset.copy = String(copy)
    button.dir = 'auto'
    if (label.isMarker) button.classList.add('marker')
    if (label.colour && label.colour !== 'paper') button.classList.add(`paper-${label.colour}`)
    button.append(faceOf(label))
    const shown = button.textContent?.trim()
    if (label.face?.kind === 'sound' && shown !== label.text) button.setAttribute('aria-label', named(shown ?? '', label.text))
    button.classList.toggle('with-picture', label.face?.kind === 'picture')
    if (left === null || left > 1) button.append(copiesTag(left))
    button.setAttribute('aria-pressed', String(isInHand))
    button.classList.toggle('in-hand', isInHand)
    item.append(button)
    return item
  })
  const list = document.createElement('ul')
  list.className = `bank-labels label-${size}`
  list.append(...items)
  const scroll = bank.firstElementChild ? { x: bank.firstElementChild.scrollLeft, y: bank.firstElementChild.scrollTop } : { x: 0, y: 0 }
  bank.replaceChildren(list)
  // To scroll is to lay out the page: where nothing was scrolled, that can wait.
  if (scroll.x !== 0 || scroll.y !== 0) list.scrollTo(scroll.x, scroll.y)
  if (focused) /** @type {HTMLElement | null} */ (bank.querySelector(`[data-label="${focused}"]`))?.focus()
}

/** @param {number | null} left */
function copiesTag(left) {
  const tag = document.createElement('span')
  tag.className = 'copies'
  tag.textContent = left === null ? phrase('screen.anyNumber') : `× ${numeral(left)}`
  return tag
}

/** @param {PaneView} pane @param {LabelView} label @returns {number | null} How many can still be put down; null for any number. */
const copiesLeft = (pane, label) => (label.copies === null ? null : label.copies - usedOf(pane, label))

/**
 * What was found on the picture, each of which leads to it.
 * @param {HTMLElement} list
 * @param {(id: string) => void} lead
 * @returns {(facts: {found: import('./work.js').Thing[]}) => void} Draws it.
 */
export const createFoundList = (list, lead) =>
  whenChanged(({ found }) => {
    list.hidden = found.length === 0
    list.replaceChildren(
      ...found.map(({ id, name }) => {
        const item = document.createElement('li')
        const button = Object.assign(document.createElement('button'), { type: 'button', className: 'btn btn-plain', textContent: name })
        button.dir = 'auto'
        button.addEventListener('click', () => lead(id))
        item.append(button)
        return item
      }),
    )
  })

/**
 * The words of labels that lie on the picture as numbers.
 * @param {() => HTMLElement | null} list
 * @returns {(facts: {numbered: import('../scene/board.js').Numbered[]}) => void} Draws it.
 */
export const createPlacedList = list =>
  whenChanged(({ numbered }) => {
    list()?.replaceChildren(
      ...numbered.map(({ label, copy, number, text }) => {
        const item = document.createElement('li')
        const button = document.createElement('button')
        button.type = 'button'
        button.className = 'label'
        button.dataset.label = label
        button.dataset.copy = String(copy)
        button.dir = 'auto'
        button.append(
          Object.assign(document.createElement('span'), { className: 'placed-number', textContent: numeral(number) }),
          faceOf({ id: label, text }),
        )
        item.append(button)
        return item
      }),
    )
  })
