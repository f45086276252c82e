// What is painted onto the picture, as a list: each in a line of its own, to be reworded, recoloured, moved and taken away.

import { phrase } from '../language.js'
import { farEnd, movedFixing, nameOf, reshapedFixing, withFixing } from './preparation.js'

/**
 * @typedef {import('./preparation.js').Work} Work
 * @typedef {import('./preparation.js').Fixing} Fixing
 * @typedef {object} Room
 * @property {HTMLElement} list
 * @property {HTMLElement} none Shown when there is nothing.
 * @property {() => Work} work
 * @property {() => number | null} selected
 * @property {(index: number) => void} select
 * @property {(work: Work) => void} changed
 */

/** @param {Room} room */
export function createFixings(room) {
  /** Each shows how it stands. @type {{line: HTMLElement, show: () => void}[]} */
  let lines = []
  return {
    draw() {
      const { fixings } = room.work().preparation
      room.none.hidden = fixings.length > 0
      const kinds = fixings.map(fixing => fixing.kind).join(' ')
      // A line stays as long as it can: a click that ends the typing in it must find its button.
      if (room.list.dataset.kinds !== kinds) {
        room.list.dataset.kinds = kinds
        const focused = [...room.list.children].findIndex(line => line.contains(document.activeElement))
        const focusedClass = document.activeElement?.className.split(' ')[0]
        lines = fixings.map((_, i) => fixingLine(room, i))
        room.list.replaceChildren(...lines.map(({ line }) => line))
        if (focused >= 0 && focusedClass)
          /** @type {HTMLElement | null} */ (room.list.children[focused]?.querySelector(`.${focusedClass}`))?.focus()
      }
      lines.forEach(({ show }) => show())
    },
  }
}

const ways = /** @type {Record<string, [number, number]>} */ ({
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
})

/** @param {Room} room @param {number} i */
function fixingLine(room, i) {
  const fixing = () => room.work().preparation.fixings[i]
  /** @param {Fixing | null} next */
  const put = next => room.changed(withFixing(room.work(), i, next))
  /** @param {Partial<Fixing>} different */
  const set = different => put(/** @type {Fixing} */ ({ ...fixing(), ...different }))
  const line = document.createElement('li')
  const name = document.createElement('button')
  name.type = 'button'
  name.className = 'fixing-name btn btn-plain btn-sm'
  name.title = phrase('room.arrowKeysMoveItWithAlt')
  name.addEventListener('focus', () => {
    if (room.selected() !== i) room.select(i)
  })
  name.addEventListener('keydown', event => {
    const way = ways[event.key]
    const far = event.shiftKey ? 10 : 1
    if (way && event.altKey) {
      const { end, at } = farEnd(fixing())
      put(reshapedFixing(fixing(), end, { x: at.x + way[0] * far, y: at.y + way[1] * far }))
    } else if (way) put(movedFixing(fixing(), way[0] * far, way[1] * far))
    else if (event.key === 'Delete' || event.key === 'Backspace') put(null)
    else return
    event.preventDefault()
  })
  const colour = document.createElement('input')
  colour.type = 'color'
  colour.className = 'fixing-colour'
  colour.addEventListener('change', () => set({ colour: colour.value }))
  line.append(name)
  const text = document.createElement('input')
  if (fixing().kind === 'caption') {
    text.className = 'caption-text form-control form-control-sm'
    text.maxLength = 200
    text.dir = 'auto'
    text.setAttribute('aria-label', phrase('room.whatTheCaptionReads'))
    text.addEventListener('change', () => {
      if (text.value.trim()) set({ text: text.value.trim() })
    })
    text.addEventListener('wanted', () => {
      text.focus()
      text.select()
    })
    line.append(
      text,
      ...[
        ['smaller', 1 / 1.15],
        ['larger', 1.15],
      ].map(([size, factor]) => sizeButton(String(size), Number(factor))),
    )
  }
  /** @param {string} size @param {number} factor */
  function sizeButton(size, factor) {
    const button = document.createElement('button')
    button.type = 'button'
    button.className = 'btn btn-plain btn-sm'
    button.innerHTML = `<span class="icon icon-${size}"></span>`
    button.setAttribute('aria-label', phrase(`room.caption.${size}`))
    button.addEventListener('click', () => {
      const now = fixing()
      if (now.kind === 'caption') set({ size: Math.min(200, Math.max(5, now.size * factor)) })
    })
    return button
  }
  const remove = document.createElement('button')
  remove.type = 'button'
  remove.className = 'btn btn-plain btn-sm fixing-delete'
  remove.innerHTML = '<span class="icon icon-delete"></span>'
  remove.addEventListener('click', () => put(null))
  line.append(colour, remove)
  const show = () => {
    const now = fixing()
    line.className = i === room.selected() ? 'selected' : ''
    name.textContent = nameOf(now)
    colour.value = now.colour
    colour.setAttribute('aria-label', phrase('room.colourOf', { thing: nameOf(now) }))
    remove.setAttribute('aria-label', phrase('room.takeAway', { thing: nameOf(now) }))
    if (now.kind === 'caption' && text !== document.activeElement) text.value = now.text
  }
  return { line, show }
}
