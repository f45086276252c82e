// Hands at the board: several fingers at once, a pen or a mouse drag labels; a tap on one and then on its place does it too.

import { aim } from '../student/placing.js'

/** @typedef {{label: string, copy: number}} InHand @typedef {{zone: string} | {at: Point}} Place */

const slop = 8

/**
 * @param {HTMLElement} screen Within which labels lie.
 * @param {object} table
 * @param {() => import('../scene/stage.js').Stage | null} table.stage
 * @param {() => PaneView} table.pane
 * @param {HTMLElement} table.bank
 * @param {(label: InHand) => boolean} table.mayTake
 * @param {(label: InHand, place: Place | null) => void} table.put Null for back into the bank.
 * @param {(label: InHand | null) => void} table.show Which one was picked up by a tap.
 */
export function startHands(screen, { stage, pane, bank, mayTake, put, show }) {
  /**
   * By the pointer that holds it.
   * @type {Map<number, {label: InHand, ghost: HTMLElement | null, from: PointerEvent, source: HTMLElement}>}
   */
  const held = new Map()
  /** What was picked up by a tap or a key. @type {InHand | null} */
  let waiting = null

  /** @param {PointerEvent} event @param {InHand} label */
  const placeOf = (event, label) => {
    const on = stage()
    return on && aim({ stage: on, pane, bank, fingertips: { at: () => null } }, event, 0, label)
  }
  /** @param {InHand | null} label */
  const wait = label => {
    waiting = label
    show(label)
  }

  screen.addEventListener('pointerdown', event => {
    const source = /** @type {Element} */ (event.target).closest('.label[data-label]')
    if (event.button !== 0 || !(source instanceof HTMLElement)) return
    const label = { label: source.dataset.label ?? '', copy: Number(source.dataset.copy) }
    if (!mayTake(label)) return
    event.preventDefault()
    held.set(event.pointerId, { label, ghost: null, from: event, source })
  })
  addEventListener('pointermove', event => {
    const hand = held.get(event.pointerId)
    if (!hand) return
    if (!hand.ghost && Math.hypot(event.clientX - hand.from.clientX, event.clientY - hand.from.clientY) > slop) {
      hand.ghost = ghostOf(hand.source)
      wait(null)
    }
    if (!hand.ghost) return
    hand.ghost.style.transform = `translate(${event.clientX}px, ${event.clientY}px) translate(-50%, -50%)`
  })
  addEventListener('pointerup', event => {
    const hand = held.get(event.pointerId)
    held.delete(event.pointerId)
    if (hand?.ghost) {
      hand.ghost.remove()
      put(hand.label, placeOf(event, hand.label))
    } else if (hand) wait(waiting?.label === hand.label.label && waiting.copy === hand.label.copy ? null : hand.label)
    else if (waiting && /** @type {Element} */ (event.target).closest('.stage, .board-side') && event.button === 0) {
      const label = waiting
      wait(null)
      put(label, placeOf(event, label))
    }
  })
  addEventListener('pointercancel', event => {
    held.get(event.pointerId)?.ghost?.remove()
    held.delete(event.pointerId)
  })
  // A click that no pointer made comes from a keyboard or an assistive device.
  screen.addEventListener('click', event => {
    if (event.detail !== 0) return
    const target = /** @type {HTMLElement} */ (event.target)
    const [label, zone] = [target.closest('.label[data-label]'), target.closest('.zone-button')]
    if (label instanceof HTMLElement) {
      const taken = { label: label.dataset.label ?? '', copy: Number(label.dataset.copy) }
      if (mayTake(taken)) wait(taken)
    } else if (zone instanceof HTMLElement && waiting) {
      const taken = waiting
      wait(null)
      put(taken, { zone: zone.dataset.zone ?? '' })
    }
  })
  return {
    letGo() {
      for (const { ghost } of held.values()) ghost?.remove()
      held.clear()
      wait(null)
    },
  }
}

/** @param {HTMLElement} source */
function ghostOf(source) {
  const box = source.getBoundingClientRect()
  const carried = /** @type {HTMLElement} */ (source.cloneNode(true))
  carried.removeAttribute('data-label')
  carried.style.cssText = `width: ${box.width}px; height: ${box.height}px; font-size: ${getComputedStyle(source).fontSize}`
  const ghost = document.createElement('div')
  ghost.className = 'ghost'
  ghost.append(carried)
  document.body.append(ghost)
  return ghost
}
