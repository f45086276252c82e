// The states of a student's hand: idle, pressing a label, dragging it, or holding one that was picked up.
// A mark for a spot that is to be found is held and put down like a label.
// Each state is an object of the events it understands; what it returns is the next state.

import { centreOf, distanceTo } from '../scene/geometry.js'
import { phrase } from '../language.js'
import { holdablesOf, markersOf } from './work.js'

const slop = 6
const reach = 28
/** A place is seen so far outside of its edge, in CSS pixels. */
const bracket = 4

/**
 * @typedef {{label: string, copy: number}} InHand
 * @typedef {{zone: string} | {at: Point}} Place
 * @typedef {object} Table What the hand works on.
 * @property {import('../scene/stage.js').Stage} stage
 * @property {HTMLElement} bank
 * @property {() => PaneView} pane
 * @property {(label: InHand | null) => void} show Shows which label is in the hand.
 * @property {(place: Place | null) => void} hover What would be meant.
 * @property {Pick<ReturnType<typeof import('../scene/fingertips.js').createFingertips>, 'at'>} fingertips Places that are shown large for
 *   a finger.
 * @property {(label: InHand) => boolean} mayTake Whether the label may be moved; says why when not.
 * @property {(label: InHand, place: Place) => void} put
 * @property {(at: Point) => InHand | null} press The bare picture was pressed with an empty hand; what that takes into it.
 * @property {HTMLElement} crosshair What a keyboard moves over the picture, to spots that are no zones.
 * @property {(label: InHand) => void} takeBack
 * @property {(sentence: string) => void} say
 */

/** @param {Table} table @param {AbortSignal} signal Ends it. @returns {{letGo: () => void}} */
export function startPlacing(table, signal) {
  let state = idle(table)
  /** @param {string} event @param {any} detail */
  const go = (event, detail) => {
    const next = /** @type {any} */ (state)[event]?.(detail)
    if (next) state = next
  }
  const work = /** @type {HTMLElement} */ (table.stage.mat.closest('.work-board'))
  work.addEventListener(
    'pointerdown',
    event => {
      // Tools are used with whatever is in the hand.
      const isTool = /** @type {Element} */ (event.target).closest('.tools')
      if (event.isPrimary && event.button === 0 && !isTool) go('down', event)
    },
    { signal },
  )
  addEventListener(
    'pointermove',
    event => {
      if (event.isPrimary) go('move', event)
    },
    { signal },
  )
  addEventListener(
    'pointerup',
    event => {
      if (event.isPrimary) go('up', event)
    },
    { signal },
  )
  addEventListener(
    'pointercancel',
    event => {
      if (event.isPrimary) go('cancel', event)
    },
    { signal },
  )
  work.addEventListener('keydown', event => go('key', event), { signal })
  // A click that no pointer made comes from a keyboard or an assistive device.
  work.addEventListener(
    'click',
    event => {
      const isTool = /** @type {Element} */ (event.target).closest('.tools')
      if (event.detail === 0 && !isTool) go('press', event.target)
    },
    { signal },
  )
  return {
    /** Empties the hand. */
    letGo() {
      table.show(null)
      table.hover(null)
      state = idle(table)
    },
  }
}

/** @param {Table} table */
const idle = table => ({
  /** @param {PointerEvent} event */
  down(event) {
    const label = labelAt(event.target)
    if (label) return table.mayTake(label) ? pressing(table, label, event) : undefined
    const isBare =
      /** @type {Element} */ (event.target).closest('.stage') && !(/** @type {Element} */ (event.target).closest('.spot, .answer-box'))
    return isBare ? touching(table, event) : undefined
  },
  /** @param {HTMLElement} target */
  press(target) {
    const label = labelAt(target) ?? labelIn(table.pane(), zoneAt(target))
    if (!label && target === table.crosshair) {
      const at = crosshairAt(table)
      const taken = table.press(at)
      if (taken) table.put(taken, { at })
    }
    return label && table.mayTake(label) ? pick(table, label, target) : undefined
  },
  /** @param {KeyboardEvent} event */
  key(event) {
    if (event.target === table.crosshair) moveCrosshair(table, event)
    const pin = labelAt(event.target)
    if (pin && isPinElement(event.target) && (event.key === 'Delete' || event.key === 'Backspace') && table.mayTake(pin)) {
      table.takeBack(pin)
      event.preventDefault()
    }
    const zone = zoneAt(event.target)
    if (zone && event.key.startsWith('Arrow')) walk(table, zone, event)
    const label = labelIn(table.pane(), zone)
    if (label && (event.key === 'Delete' || event.key === 'Backspace') && table.mayTake(label)) {
      table.takeBack(label)
      event.preventDefault()
    }
  },
})

/** The bare picture is pressed: letting go in the same place means that spot. @param {Table} table @param {PointerEvent} start */
const touching = (table, start) => ({
  /** @param {PointerEvent} event */
  move(event) {
    return Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) > slop * 2 ? idle(table) : undefined
  },
  up() {
    const at = table.stage.pointAt(start)
    const taken = table.press(at)
    if (taken) table.put(taken, { at })
    return idle(table)
  },
  cancel() {
    return idle(table)
  },
})

/** @param {Table} table @param {InHand} label @param {PointerEvent} start */
const pressing = (table, label, start) => ({
  /** @param {PointerEvent} event */
  move(event) {
    return Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) > slop
      ? dragging(table, label, start, event)
      : undefined
  },
  up() {
    return pick(table, label, /** @type {HTMLElement} */ (start.target))
  },
  cancel() {
    return idle(table)
  },
})

/** @param {Table} table @param {InHand} label @param {PointerEvent} start @param {PointerEvent} event */
function dragging(table, label, start, event) {
  const source = /** @type {HTMLElement} */ (/** @type {HTMLElement} */ (start.target).closest('.label'))
  const carried = /** @type {HTMLElement} */ (source.cloneNode(true))
  const box = source.getBoundingClientRect()
  const known = holdablesOf(table.pane()).find(held => held.id === label.label)
  const ghost = document.createElement('div')
  ghost.append(carried)
  // Above a finger, so that the spot stays visible; right at a mouse's pointer.
  const lift = start.pointerType === 'touch' ? 34 : 0
  ghost.className = 'ghost'
  carried.removeAttribute('data-label')
  carried.style.cssText = ''
  carried.style.width = `${box.width}px`
  carried.style.height = `${box.height}px`
  document.body.append(ghost)
  document.body.classList.add('carrying')
  table.show(label)
  /** What is under a finger is seen beside it. @type {ReturnType<typeof import('../scene/loupe.js').createLoupe> | null} */
  let loupe = null
  let hasEnded = false
  if (lift > 0 && isFreely(table.pane(), label))
    import('../scene/loupe.js').then(({ createLoupe }) => {
      if (!hasEnded) loupe = createLoupe(table.stage)
    })
  /** @param {PointerEvent} at */
  const follow = at => {
    const place = aim(table, at, lift, label)
    const isSpot = place !== null && 'at' in place
    // A pin's strip is held above the spot that it means; a pin tip lies on it.
    ghost.classList.toggle('ghost-pin', isSpot && !known?.tip)
    const [x, y] = known?.tip && isSpot ? [known.tip.x, known.tip.y] : [0.5, isSpot ? 1 : 0.5]
    const above = lift + (isSpot && !known?.tip ? 22 : 0)
    ghost.style.transform = `translate(${at.clientX - box.width * x}px, ${at.clientY - box.height * y - above}px)`
    table.hover(place)
    if (isSpot) loupe?.show({ clientX: at.clientX, clientY: at.clientY - lift })
    else loupe?.hide()
    panAtEdge(table.stage, at)
  }
  const end = () => {
    hasEnded = true
    loupe?.hide()
    ghost.remove()
    document.body.classList.remove('carrying')
    table.show(null)
    table.hover(null)
    return idle(table)
  }
  follow(event)
  return {
    move: follow,
    /** @param {PointerEvent} at */
    up(at) {
      const place = aim(table, at, lift, label)
      const next = end()
      if (place) table.put(label, place)
      else if (source.classList.contains('placed')) table.takeBack(label)
      return next
    },
    cancel: end,
    /** @param {KeyboardEvent} pressed */
    key(pressed) {
      return pressed.key === 'Escape' ? end() : undefined
    },
  }
}

/** @param {Table} table @param {InHand} label @param {HTMLElement} from */
function pick(table, label, from) {
  const fromKeyboard = from.matches(':focus-visible')
  table.show(label)
  const pane = table.pane()
  const text = holdablesOf(pane).find(l => l.id === label.label)?.text ?? ''
  const isFree = isFreely(pane, label)
  const zone = isMarker(pane, label) ? undefined : firstEmpty(pane)
  table.say(phrase(zone ? 'screen.inHandForZone' : 'screen.inHandForSpot', { label: text }))
  if (fromKeyboard) {
    table.crosshair.hidden = !isFree
    if (zone) /** @type {HTMLElement | null} */ (table.stage.overlay.querySelector(`[data-zone="${zone}"]`))?.focus()
    else table.crosshair.focus()
  }
  return holding(table, label, fromKeyboard)
}

/** @param {Table} table @param {InHand} label @param {boolean} fromKeyboard */
function holding(table, label, fromKeyboard) {
  const letGo = () => {
    table.show(null)
    table.hover(null)
    return idle(table)
  }
  /** @param {Place} place */
  const putInto = place => {
    const next = letGo()
    table.put(label, place)
    if (fromKeyboard)
      (
        table.bank.querySelector('button') ??
        ('zone' in place ? table.stage.overlay.querySelector(`[data-zone="${place.zone}"]`) : table.crosshair)
      )?.focus()
    return next
  }
  return {
    /** @param {PointerEvent} event */
    down(event) {
      const place = aim(table, event, 0, label)
      // What lies flat where labels are sorted hides the place that is meant; a pin's strip stands beside its own.
      const isOther = labelAt(event.target) !== null && isPinElement(event.target) && !isFlatElement(event.target)
      if (place && !isOther && !(/** @type {Element} */ (event.target).closest('.spot, .answer-box'))) return putInto(place)
      const other = labelAt(event.target)
      if (other && (other.label !== label.label || other.copy !== label.copy)) {
        letGo()
        return pressing(table, other, event)
      }
      if (/** @type {Element} */ (event.target).closest('.bank') && isPlaced(table.pane(), label)) table.takeBack(label)
      return letGo()
    },
    /** @param {PointerEvent} event */
    move(event) {
      if (event.pointerType !== 'mouse') return
      table.hover(aim(table, event, 0, label))
    },
    /** @param {HTMLElement} target */
    press(target) {
      const zone = zoneAt(target)
      if (zone && !isMarker(table.pane(), label)) return putInto({ zone })
      if (target === table.crosshair) return putInto({ at: crosshairAt(table) })
      const other = labelAt(target)
      return other && other.label !== label.label ? (letGo(), pick(table, other, target)) : letGo()
    },
    /** @param {KeyboardEvent} event */
    key(event) {
      if (event.key === 'Escape') {
        const next = letGo()
        table.say(phrase('screen.putBack'))
        ;/** @type {HTMLElement | null} */ (table.bank.querySelector(`[data-label="${label.label}"]`))?.focus()
        return next
      }
      const zone = zoneAt(event.target)
      if (zone && event.key.startsWith('Arrow')) walk(table, zone, event)
      if (event.target === table.crosshair) moveCrosshair(table, event)
      return undefined
    },
  }
}

/** @param {EventTarget | null} target @returns {InHand | null} */
function labelAt(target) {
  const element = /** @type {HTMLElement | null} */ (/** @type {Element | null} */ (target)?.closest?.('.label[data-label]'))
  return element ? { label: element.dataset.label ?? '', copy: Number(element.dataset.copy) } : null
}

/** @param {EventTarget | null} target @returns {string | null} */
function zoneAt(target) {
  return /** @type {HTMLElement | null} */ (/** @type {Element | null} */ (target)?.closest?.('.zone-button'))?.dataset.zone ?? null
}

/** @param {PaneView} pane @param {string | null} zone @returns {InHand | null} */
function labelIn(pane, zone) {
  return pane.placed.find(placed => placed.zone === zone) ?? null
}

/** @param {PaneView} pane @param {InHand} label */
const isPlaced = (pane, label) => [...pane.placed, ...pane.pins].some(placed => placed.label === label.label && placed.copy === label.copy)

/** @param {EventTarget | null} target */
const isFlatElement = target => /** @type {Element | null} */ (target)?.closest?.('.pin-flat') !== null

/** @param {EventTarget | null} target */
const isPinElement = target => /** @type {Element | null} */ (target)?.closest?.('.pin') !== null

/** @param {PaneView} pane @param {InHand} label */
const isMarker = (pane, label) => markersOf(pane).some(marker => marker.id === label.label)

/** Whether it may be put on any spot. @param {PaneView} pane @param {InHand} label */
const isFreely = (pane, label) => pane.takesPins || isMarker(pane, label)

/** @param {PaneView} pane */
function firstEmpty(pane) {
  const free = pane.zones.find(zone => pane.placed.filter(placed => placed.zone === zone.id).length < zone.capacity)
  return (free ?? pane.zones[0])?.id
}

/**
 * What a pointer means: the nearest zone within reach, so that a small zone can be hit with a finger; or, where labels
 * may lie anywhere, the spot itself.
 * @param {Pick<Table, 'stage' | 'pane' | 'bank' | 'fingertips'>} table
 * @param {PointerEvent} event
 * @param {number} lift
 * @param {InHand} label
 * @returns {Place | null}
 */
export function aim({ stage, pane, bank, fingertips }, event, lift, label) {
  const box = bank.getBoundingClientRect()
  if (event.clientX >= box.left && event.clientX <= box.right && event.clientY >= box.top && event.clientY <= box.bottom) return null
  const meant = { clientX: event.clientX, clientY: event.clientY - lift }
  const point = stage.pointAt(meant)
  const large = fingertips.at(meant)
  if (large) {
    // A place that is seen under its neighbour's large box is meant where it is nearer.
    const isSeen = (/** @type {Region} */ region) =>
      distanceTo(region, point) * stage.scale() <= bracket && between(centreOf(region), point) * stage.scale() < large.away
    const seen = pane().zones.find(zone => isSeen(zone.region))
    return { zone: seen?.id ?? large.zone }
  }
  const isFree = isFreely(pane(), label)
  let best = { zone: /** @type {string | null} */ (null), distance: isFree ? 1e-9 : reach / stage.scale() }
  for (const zone of isMarker(pane(), label) ? [] : pane().zones) {
    const distance = distanceTo(zone.region, point)
    if (distance < best.distance) best = { zone: zone.id, distance }
  }
  if (best.zone) return { zone: best.zone }
  const { left, top, right, bottom } = stage.plane
  return isFree && point.x >= left && point.x <= right && point.y >= top && point.y <= bottom ? { at: point } : null
}

/** @param {Point} a @param {Point} b */
const between = (a, b) => Math.hypot(a.x - b.x, a.y - b.y)

/** @param {Table} table @returns {Point} */
const crosshairAt = ({ crosshair }) => ({ x: Number(crosshair.dataset.x), y: Number(crosshair.dataset.y) })

/** @param {Table} table @param {KeyboardEvent} event Arrow keys move by ten units, with Shift by one. */
function moveCrosshair({ stage, crosshair, hover, say }, event) {
  const direction = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
  if (!direction) return
  event.preventDefault()
  const step = event.shiftKey ? 1 : 10
  const { left, top, right, bottom } = stage.plane
  const x = Math.min(right, Math.max(left, Number(crosshair.dataset.x) + direction[0] * step))
  const y = Math.min(bottom, Math.max(top, Number(crosshair.dataset.y) + direction[1] * step))
  placeCrosshair(crosshair, { x, y })
  hover({ at: { x, y } })
  say(
    phrase('screen.crossAt', {
      left: Math.round((100 * (x - left)) / (right - left)),
      top: Math.round((100 * (y - top)) / (bottom - top)),
    }),
  )
}

/** @param {HTMLElement} crosshair @param {Point} at */
export function placeCrosshair(crosshair, { x, y }) {
  crosshair.dataset.x = String(x)
  crosshair.dataset.y = String(y)
  crosshair.style.left = `calc(var(--unit) * ${x})`
  crosshair.style.top = `calc(var(--unit) * ${y})`
}

/** Moves the focus to the nearest zone in an arrow's direction. @param {Table} table @param {string} from @param {KeyboardEvent} event */
function walk({ stage, pane, hover }, from, event) {
  const direction = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
  if (!direction) return
  event.preventDefault()
  /** @param {string} zone */
  const middle = zone => {
    const box = /** @type {Element} */ (stage.overlay.querySelector(`[data-zone="${zone}"]`)).getBoundingClientRect()
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  }
  const here = middle(from)
  const ranked = pane()
    .zones.filter(zone => zone.id !== from)
    .map(zone => {
      const there = middle(zone.id)
      const along = (there.x - here.x) * direction[0] + (there.y - here.y) * direction[1]
      const aside = Math.abs((there.x - here.x) * direction[1]) + Math.abs((there.y - here.y) * direction[0])
      return { id: zone.id, along, cost: along + 2 * aside }
    })
    .filter(({ along }) => along > 1)
    .sort((a, b) => a.cost - b.cost)
  if (ranked.length === 0) return
  ;/** @type {HTMLElement} */ (stage.overlay.querySelector(`[data-zone="${ranked[0].id}"]`)).focus()
  hover({ zone: ranked[0].id })
}

/** @param {import('../scene/stage.js').Stage} stage @param {PointerEvent} event */
function panAtEdge({ mat }, event) {
  const box = mat.getBoundingClientRect()
  const edge = 36
  if (event.clientX < box.left || event.clientX > box.right || event.clientY < box.top || event.clientY > box.bottom) return
  mat.scrollBy(
    event.clientX < box.left + edge ? -12 : event.clientX > box.right - edge ? 12 : 0,
    event.clientY < box.top + edge ? -12 : event.clientY > box.bottom - edge ? 12 : 0,
  )
}
