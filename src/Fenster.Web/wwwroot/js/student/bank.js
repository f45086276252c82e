// The label bank: what is left to place.

import { faceOf } from '../scene/face.js'

/**
 * @param {HTMLElement} bank
 * @param {PaneView} pane
 * @param {{label: string, copy: number} | null} inHand
 */
export function drawBank(bank, pane, inHand) {
  const focused = bank.contains(document.activeElement) ? document.activeElement?.getAttribute('data-label') : null
  const items = pane.labels.flatMap(label => {
    const copy = freeCopy(pane, label)
    if (copy === null) return []
    const item = document.createElement('li')
    const button = document.createElement('button')
    button.type = 'button'
    button.className = 'label'
    button.dataset.label = label.id
    button.dataset.copy = String(copy)
    button.dir = 'auto'
    button.append(label.face ? faceOf(label) : label.text)
    if (label.face?.kind === 'sound') button.setAttribute('aria-label', `${button.textContent?.trim()}: ${label.text}`)
    button.classList.toggle('with-picture', label.face?.kind === 'picture')
    const left = copiesLeft(pane, label)
    if (left === null || left > 1) button.append(copiesTag(left))
    button.setAttribute('aria-pressed', String(inHand?.label === label.id))
    button.classList.toggle('in-hand', inHand?.label === label.id)
    item.append(button)
    return [item]
  })
  const list = document.createElement('ul')
  list.className = 'bank-labels'
  list.append(...items)
  if (items.length === 0) {
    const empty = document.createElement('p')
    empty.className = 'bank-empty'
    empty.textContent = 'Every label is on the picture.'
    bank.replaceChildren(empty)
    return
  }
  const scroll = bank.firstElementChild ? { x: bank.firstElementChild.scrollLeft, y: bank.firstElementChild.scrollTop } : { x: 0, y: 0 }
  bank.replaceChildren(list)
  list.scrollTo(scroll.x, scroll.y)
  if (focused) /** @type {HTMLElement | null} */ (bank.querySelector(`[data-label="${focused}"]`))?.focus()
}

/** @param {number | null} left */
function copiesTag(left) {
  const tag = document.createElement('span')
  tag.className = 'copies'
  tag.textContent = left === null ? 'any number' : `× ${left}`
  return tag
}

/** @param {PaneView} pane @param {LabelView} label @returns {number | null} How many can still be placed; null for any number. */
function copiesLeft(pane, label) {
  return label.copies === null ? null : label.copies - pane.placed.filter(placed => placed.label === label.id).length
}

/** @param {PaneView} pane @param {LabelView} label @returns {number | null} The first copy that is not placed. */
export function freeCopy(pane, label) {
  const used = new Set(pane.placed.filter(placed => placed.label === label.id).map(placed => placed.copy))
  for (let copy = 0; copy < (label.copies ?? used.size + 1); copy++) if (!used.has(copy)) return copy
  return null
}
