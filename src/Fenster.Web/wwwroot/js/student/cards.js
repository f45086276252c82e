// Cards that a spot opens: a question, a lock, or something to read, see or hear.

import { cardOf } from '../scene/face.js'
import { listed, phrase } from '../language.js'
import { setWords } from '../scene/words.js'
import { limits } from '../usual.js'
import { doneAt } from './work.js'

/**
 * @typedef {object} CardActions
 * @property {() => PaneView} pane
 * @property {(move: Move) => void} make
 * @property {(target: string, text: string, isFinished: boolean) => void} type
 */

/**
 * @param {HTMLDialogElement} dialog
 * @param {HTMLElement} tip The small card of spots that answer a pointer.
 * @param {CardActions} actions
 */
export function createCards(dialog, tip, { pane, make, type }) {
  /** @type {string | null} */
  let shown = null
  const targetOf = () => pane().targets.find(target => target.id === shown)
  /** @template {keyof HTMLElementTagNameMap} T @param {T} tag @param {string} className @param {string} [text] */
  const element = (tag, className, text) => {
    const made = document.createElement(tag)
    made.className = className
    if (text !== undefined) setWords(made, text)
    return made
  }
  /** Who gets the focus back. @type {HTMLElement | null} */
  let opener = null
  dialog.addEventListener('close', () => {
    shown = null
    opener?.focus()
    opener = null
  })
  // It stands beside what it is about, so that nothing else is held back: a press beside it closes it.
  addEventListener('pointerdown', event => {
    if (dialog.open && !dialog.contains(/** @type {Node} */ (event.target))) {
      opener = null
      dialog.close()
    }
  })
  // It may grow, such as by signs that are offered.
  let isCovering = false
  new ResizeObserver(() => {
    if (dialog.open && !isCovering) standBeside(dialog, opener)
  }).observe(dialog)
  dialog.addEventListener('keydown', event => {
    if (event.key === 'Escape') dialog.close()
  })

  /** What a spot holds. @param {TargetView} target @returns {HTMLElement[]} */
  const bodyOf = target => {
    const state = pane()
    const done = doneAt(state, target.id)
    const key = state.key?.others.find(other => other.target === target.id)
    if (target.kind === 'choosing') return [question(target, done, key)]
    if (target.kind === 'answering') return [typed(target, done, key)]
    if (target.kind === 'locked') return [lock(target, done)]
    return target.kind === 'telling' ? telling(target) : []
  }

  const fill = () => {
    const target = targetOf()
    if (!target) return
    const body = element('div', 'card-body')
    body.append(...bodyOf(target))
    const close = element('button', 'btn btn-primary card-close', phrase('cards.close'))
    close.type = 'button'
    close.addEventListener('click', () => dialog.close())
    dialog.replaceChildren(body, close)
  }

  /** @param {Extract<TargetView, {kind: 'choosing'}>} target @param {Done} done @param {OtherKey | undefined} key */
  function question(target, done, key) {
    const set = element('fieldset', 'card-options')
    const legend = element('legend', 'card-question', target.text)
    legend.dir = 'auto'
    set.append(legend)
    for (const option of target.options) {
      const line = element('label', `card-option ${key?.picks.includes(option.id) ? 'of-key' : ''}`)
      line.dir = 'auto'
      const input = document.createElement('input')
      Object.assign(input, {
        type: target.multiple ? 'checkbox' : 'radio',
        name: `card-${target.id}`,
        value: option.id,
        checked: done.picks.includes(option.id),
        disabled: !pane().open,
      })
      input.addEventListener('change', () =>
        make({
          kind: 'pickOptions',
          target: target.id,
          options: /** @type {HTMLInputElement[]} */ ([...set.querySelectorAll('input')])
            .filter(input => input.checked)
            .map(input => input.value),
        }),
      )
      line.append(input, element('span', '', option.text))
      if (key?.picks.includes(option.id)) line.append(element('em', 'card-key', phrase('cards.right')))
      set.append(line)
    }
    return set
  }

  /** @param {Extract<TargetView, {kind: 'answering'}>} target @param {Done} done @param {OtherKey | undefined} key */
  function typed(target, done, key) {
    const line = element('label', 'card-typed')
    line.dir = 'auto'
    const input = document.createElement('input')
    Object.assign(input, {
      className: 'form-control',
      value: done.text,
      readOnly: !pane().open,
      maxLength: limits.longestAnswer,
      autocomplete: 'off',
      inputMode: target.isNumber ? 'decimal' : 'text',
    })
    input.addEventListener('input', () => type(target.id, input.value, false))
    input.addEventListener('change', () => type(target.id, input.value, true))
    input.addEventListener('keydown', event => {
      if (event.key === 'Enter') {
        event.preventDefault()
        input.blur()
        dialog.close()
      }
    })
    line.append(element('span', 'card-question', target.text), input)
    if (target.units.length > 0) line.append(element('small', '', phrase('cards.units', { units: listed(target.units) })))
    if (key?.text) line.append(element('em', 'card-key', phrase('cards.answer', { answer: key.text })))
    return line
  }

  /** @param {Extract<TargetView, {kind: 'locked'}>} target @param {Done} done */
  function lock(target, done) {
    if (done.opened) {
      const open = element('div', 'card-inside')
      open.append(element('p', 'card-question', target.prompt || phrase('cards.isOpen')), element('p', '', done.inside))
      return open
    }
    const form = document.createElement('form')
    form.className = 'card-typed'
    const input = document.createElement('input')
    Object.assign(input, { className: 'form-control', maxLength: limits.longestAnswer, autocomplete: 'off', readOnly: !pane().open })
    input.setAttribute('autocapitalize', 'off')
    const label = element('label', 'card-typed')
    label.append(element('span', 'card-question', target.prompt || phrase('cards.whichCode')), input)
    const button = element('button', 'btn btn-outline-primary', phrase('cards.tryCode'))
    const says = element('p', 'card-says')
    says.setAttribute('role', 'status')
    form.append(label, button, says)
    form.addEventListener('submit', event => {
      event.preventDefault()
      if (!input.value.trim() || !pane().open) return
      says.textContent = phrase('cards.trying')
      says.dataset.tried = input.value
      make({ kind: 'tryCode', target: target.id, code: input.value })
      input.select()
    })
    return form
  }

  /** @param {Extract<TargetView, {kind: 'telling'}>} target */
  function telling(target) {
    const parts = []
    if (target.prompt) parts.push(element('h2', 'card-title', target.prompt))
    if (target.face) parts.push(cardOf(target.face, target.text))
    if (target.text) {
      const text = element('p', 'card-text', target.text)
      text.dir = 'auto'
      parts.push(text)
    }
    if (target.link) {
      const link = element('a', 'card-link', phrase('cards.goTo', { site: new URL(target.link).host }))
      Object.assign(link, { href: target.link, target: '_blank', rel: 'noopener noreferrer' })
      parts.push(link)
    }
    return parts
  }

  return {
    bodyOf,
    /** @param {TargetView} target @param {HTMLElement} [spot] What it is about. */
    open(target, spot) {
      tip.hidden = true
      if (dialog.open) dialog.close()
      shown = target.id
      opener = spot ?? null
      if (target.kind === 'telling' && pane().open && !doneAt(pane(), target.id).opened) make({ kind: 'openSpot', target: target.id })
      fill()
      isCovering = target.kind === 'telling' && target.shows === 'covering'
      dialog.classList.toggle('card-covering', isCovering)
      dialog.setAttribute('aria-label', target.prompt || phrase('page.card'))
      dialog.show()
      if (!isCovering) standBeside(dialog, opener)
      const field = /** @type {HTMLElement | null} */ (
        dialog.querySelector('input:not([readonly]):not(:disabled)') ?? dialog.querySelector('.card-close')
      )
      field?.focus({ preventScroll: true })
    },
    /** @param {TargetView} target @param {HTMLElement | null} opener */
    hover(target, opener) {
      tip.hidden = opener === null
      if (!opener || target.kind !== 'telling') return
      tip.replaceChildren(...telling(target))
      const box = opener.getBoundingClientRect()
      tip.style.left = `${Math.max(8, Math.min(box.left, innerWidth - tip.offsetWidth - 8))}px`
      tip.style.top = `${box.bottom + 8 + tip.offsetHeight > innerHeight ? box.top - tip.offsetHeight - 8 : box.bottom + 8}px`
    },
    /** After an answer of the server: a lock may have opened. */
    refresh() {
      const target = targetOf()
      if (!dialog.open || target?.kind !== 'locked') return
      const says = /** @type {HTMLElement | null} */ (dialog.querySelector('.card-says'))
      if (doneAt(pane(), target.id).opened) fill()
      else if (says?.dataset.tried) says.textContent = phrase('cards.notOpen', { code: says.dataset.tried })
    },
    close() {
      if (dialog.open) dialog.close()
    },
  }
}

/**
 * Lays a card beside its spot, where there is most room; on a narrow screen it is a sheet from below, which leaves the spot in sight.
 * @param {HTMLElement} card
 * @param {HTMLElement | null} spot
 */
function standBeside(card, spot) {
  const [gap, narrowest] = [12, 220]
  const { left, right, top, bottom } = spot?.getBoundingClientRect() ?? { left: 0, right: 0, top: 0, bottom: 0 }
  card.style.cssText = ''
  const isSheet = innerWidth < 560
  card.classList.toggle('card-sheet', isSheet)
  if (isSheet) {
    card.style.maxHeight = `${Math.max(innerHeight * 0.45, innerHeight - bottom - gap)}px`
    return
  }
  const room = { right: innerWidth - right, left }
  const isRight = room.right >= room.left
  const across = Math.max(room.left, room.right) - 2 * gap
  // Rather narrower than over what it is about.
  const isBeside = across >= narrowest
  if (isBeside) card.style.width = `${Math.min(card.offsetWidth, across)}px`
  const { offsetWidth: width, offsetHeight: height } = card
  const x = isBeside ? (isRight ? right + gap : left - gap - width) : (left + right - width) / 2
  const y = isBeside ? (top + bottom - height) / 2 : innerHeight - bottom >= top ? bottom + gap : top - gap - height
  Object.assign(card.style, {
    left: `${Math.min(innerWidth - width - gap, Math.max(gap, x))}px`,
    top: `${Math.min(innerHeight - height - gap, Math.max(gap, y))}px`,
  })
}
