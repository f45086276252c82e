// Labels on a spot of their own: a strip on a thin line to a small ring, or lying flat where they are sorted into a region.

import { phrase } from '../language.js'
import { faceOf } from './face.js'
import { badge, classesOf } from './shapes.js'

const markPath = 'M-20 0H-8M8 0H20M0 -20V-8M0 8V20M11 0A11 11 0 1 1 -11 0A11 11 0 1 1 11 0'

/**
 * @typedef {{label: string, copy: number, at: Point, isMark: boolean, isFlat?: boolean, isStart?: boolean, verdict?: Verdict}} Pinned
 * @typedef {{element: HTMLElement, label: HTMLElement, at: Point, tip: Point | null}} DrawnPin
 */

/**
 * @param {LabelView} known
 * @param {Pinned} pin
 * @param {{inHand: boolean, held: boolean, key: boolean, size?: string}} looks
 * @returns {DrawnPin}
 */
export function pinFor(known, pin, { inHand, held, key, size = 'medium' }) {
  const element = document.createElement('div')
  const tip = known.tip ?? null
  const shape = pin.isMark ? 'pin-mark' : pin.isFlat || pin.isStart ? 'pin-flat' : tip ? 'pin-tip' : 'pin-line'
  element.className = `pin ${shape} label-${size}`
  // A button, so that a keyboard reaches it.
  const label = document.createElement('button')
  label.type = 'button'
  label.className = classesOf({ inHand, key, held, verdict: pin.verdict, colour: known.colour })
  label.dataset.label = pin.label
  label.dataset.copy = String(pin.copy)
  label.dir = 'auto'
  if (pin.isMark) {
    label.setAttribute('aria-label', phrase('screen.markNumber', { label: known.text, number: pin.copy + 1 }))
    label.innerHTML =
      '<svg viewBox="-22 -22 44 44" aria-hidden="true">' +
      `<path class="mark-lead" d="${markPath}"/><path class="mark-line" d="${markPath}"/></svg>`
  } else {
    label.classList.toggle('with-picture', known.face?.kind === 'picture')
    label.append(faceOf(known))
  }
  if (pin.verdict && pin.verdict !== 'unscored') label.append(badge(pin.verdict))
  element.append(label)
  return { element, label, at: pin.at, tip }
}

/** So many pins are kept off each other; among more of them there is no room left. */
const mostFanned = 120
const mostLift = 160

/**
 * Lays pins on their spots; strips that would cover each other fan out.
 * @param {DrawnPin[]} pins
 * @param {import('./stage.js').Stage} stage
 */
export function layPins(pins, stage) {
  for (const pin of pins) layPin(pin, stage)
  const strips = pins.filter(({ element }) => element.classList.contains('pin-line') || element.classList.contains('pin-flat'))
  if (strips.length === 0 || strips.length > mostFanned) return
  const boxes = strips.map(({ element, label }) => ({ element, box: label.getBoundingClientRect() }))
  /** @type {{left: number, right: number, top: number, bottom: number}[]} */
  const taken = []
  const regions = [...stage.element.querySelectorAll('.sort-region')].map(region => region.getBoundingClientRect())
  const sums = [...stage.overlay.querySelectorAll('.tally')].map(sum => sum.getBoundingClientRect())
  for (const { element, box } of boxes.sort((a, b) => b.box.top - a.box.top || a.box.left - b.box.left)) {
    // Those that hang below their ring go further down, all other strips up.
    const isFlat = element.classList.contains('pin-flat')
    // What a region comes to stands on its upper edge; what lies under it goes down, into the region.
    const sum = isFlat
      ? sums.find(other => box.left < other.right && box.right > other.left && box.top < other.bottom && box.bottom > other.top)
      : undefined
    // What is sorted goes where its region has more room.
    const middle = (box.top + box.bottom) / 2
    const region = isFlat
      ? regions.find(other => middle > other.top && middle < other.bottom && box.left < other.right && box.right > other.left)
      : undefined
    const isUpper = region && middle < (region.top + region.bottom) / 2
    const way = sum || isUpper || element.classList.contains('pin-below') ? 1 : -1
    let by = sum ? sum.bottom - box.top + 2 : 0
    const isTaken = () =>
      taken.find(other => box.left < other.right && box.right > other.left && box.top + by < other.bottom && box.bottom + by > other.top)
    for (let other = isTaken(); other && Math.abs(by) < mostLift; other = isTaken())
      by = way < 0 ? other.top - box.bottom - 2 : other.bottom - box.top + 2
    if (by !== 0) element.style.setProperty('--lift', `${isFlat ? by : Math.abs(by)}px`)
    taken.push({ left: box.left, right: box.right, top: box.top + by, bottom: box.bottom + by })
  }
}

/** Puts a pin's tip onto its spot, and keeps the strip on the picture. @param {DrawnPin} pin @param {import('./stage.js').Stage} stage */
function layPin({ element, label, at, tip }, stage) {
  const scale = stage.scale()
  element.style.left = `${at.x * scale}px`
  element.style.top = `${at.y * scale}px`
  label.style.translate = ''
  element.style.removeProperty('--lift')
  if (tip && element.classList.contains('pin-tip')) {
    label.style.translate = `${-tip.x * 100}% ${-tip.y * 100}%`
    return
  }
  const half = label.offsetWidth / 2
  const { left, right, top } = stage.plane
  const middle = Math.min(Math.max(at.x * scale, left * scale + half), Math.max(left * scale + half, right * scale - half))
  element.style.setProperty('--aside', `${middle - at.x * scale}px`)
  // Near the upper edge the strip hangs below its ring.
  element.classList.toggle('pin-below', element.classList.contains('pin-line') && (at.y - top) * scale < label.offsetHeight + 26)
}
