// The states of a student's hand: idle, pressing a label, dragging it, or holding one that was picked up.
// Each state is an object of the events it understands; what it returns is the next state.

import { distanceTo } from '../scene/shapes.js'

const slop = 6
const reach = 28

/**
 * @typedef {{label: string, copy: number}} InHand
 * @typedef {object} Table What the hand works on.
 * @property {import('../scene/stage.js').Stage} stage
 * @property {HTMLElement} bank
 * @property {() => PaneView} pane
 * @property {(label: InHand | null) => void} show Shows which label is in the hand.
 * @property {(zone: string | null) => void} hover
 * @property {(label: InHand) => boolean} mayTake Whether the label may be moved; says why when not.
 * @property {(label: InHand, zone: string) => void} put
 * @property {(label: InHand) => void} takeBack
 * @property {(sentence: string) => void} say
 */

/** @param {Table} table */
export function startPlacing(table) {
  let state = idle(table)
  /** @param {string} event @param {any} detail */
  const go = (event, detail) => {
    const next = /** @type {any} */ (state)[event]?.(detail)
    if (next) state = next
  }
  const work = /** @type {HTMLElement} */ (table.stage.mat.closest('.work-board'))
  work.addEventListener('pointerdown', event => { if (event.isPrimary && event.button === 0) go('down', event) })
  addEventListener('pointermove', event => { if (event.isPrimary) go('move', event) })
  addEventListener('pointerup', event => { if (event.isPrimary) go('up', event) })
  addEventListener('pointercancel', event => { if (event.isPrimary) go('cancel', event) })
  work.addEventListener('keydown', event => go('key', event))
  // A click that no pointer made comes from a keyboard or an assistive device.
  work.addEventListener('click', event => { if (event.detail === 0) go('press', event.target) })
}

/** @param {Table} table */
const idle = table => ({
  /** @param {PointerEvent} event */
  down(event) {
    const label = labelAt(event.target)
    return label && table.mayTake(label) ? pressing(table, label, event) : undefined
  },
  /** @param {HTMLElement} target */
  press(target) {
    const label = labelAt(target) ?? labelIn(table.pane(), zoneAt(target))
    return label && table.mayTake(label) ? pick(table, label, target) : undefined
  },
  /** @param {KeyboardEvent} event */
  key(event) {
    const zone = zoneAt(event.target)
    if (zone && event.key.startsWith('Arrow')) walk(table, zone, event)
    const label = labelIn(table.pane(), zone)
    if (label && (event.key === 'Delete' || event.key === 'Backspace') && table.mayTake(label)) {
      table.takeBack(label)
      event.preventDefault()
    }
  },
})

/** @param {Table} table @param {InHand} label @param {PointerEvent} start */
const pressing = (table, label, start) => ({
  /** @param {PointerEvent} event */
  move(event) {
    return Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) > slop ? dragging(table, label, start, event) : undefined
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
  const ghost = /** @type {HTMLElement} */ (source.cloneNode(true))
  const box = source.getBoundingClientRect()
  // Above a finger, so that the spot stays visible; right at a mouse's pointer.
  const lift = start.pointerType === 'touch' ? 34 : 0
  ghost.classList.add('ghost')
  ghost.removeAttribute('data-label')
  ghost.style.width = `${box.width}px`
  ghost.style.height = `${box.height}px`
  document.body.append(ghost)
  document.body.classList.add('carrying')
  table.show(label)
  /** @param {PointerEvent} at */
  const follow = at => {
    ghost.style.transform = `translate(${at.clientX - box.width / 2}px, ${at.clientY - box.height / 2 - lift}px)`
    table.hover(aim(table, at, lift))
    panAtEdge(table.stage, at)
  }
  const end = () => {
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
      const zone = aim(table, at, lift)
      const next = end()
      if (zone) table.put(label, zone)
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
  const text = table.pane().labels.find(l => l.id === label.label)?.text
  table.say(`${text} is in your hand. Choose its zone.`)
  if (fromKeyboard) /** @type {HTMLElement | null} */ (table.stage.overlay.querySelector(`[data-zone="${firstEmpty(table.pane())}"]`))?.focus()
  return holding(table, label, fromKeyboard)
}

/** @param {Table} table @param {InHand} label @param {boolean} fromKeyboard */
function holding(table, label, fromKeyboard) {
  const letGo = () => {
    table.show(null)
    table.hover(null)
    return idle(table)
  }
  /** @param {string} zone */
  const putInto = zone => {
    const next = letGo()
    table.put(label, zone)
    if (fromKeyboard) (table.bank.querySelector('button') ?? table.stage.overlay.querySelector(`[data-zone="${zone}"]`))?.focus()
    return next
  }
  return {
    /** @param {PointerEvent} event */
    down(event) {
      const zone = aim(table, event, 0)
      if (zone) return putInto(zone)
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
      if (event.pointerType === 'mouse') table.hover(aim(table, event, 0))
    },
    /** @param {HTMLElement} target */
    press(target) {
      const zone = zoneAt(target)
      if (zone) return putInto(zone)
      const other = labelAt(target)
      return other && other.label !== label.label ? (letGo(), pick(table, other, target)) : letGo()
    },
    /** @param {KeyboardEvent} event */
    key(event) {
      if (event.key === 'Escape') {
        const next = letGo()
        table.say('Put back.')
        ;/** @type {HTMLElement | null} */ (table.bank.querySelector(`[data-label="${label.label}"]`))?.focus()
        return next
      }
      const zone = zoneAt(event.target)
      if (zone && event.key.startsWith('Arrow')) walk(table, zone, event)
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
const isPlaced = (pane, label) => pane.placed.some(placed => placed.label === label.label && placed.copy === label.copy)

/** @param {PaneView} pane */
function firstEmpty(pane) {
  const free = pane.zones.find(zone => pane.placed.filter(placed => placed.zone === zone.id).length < zone.capacity)
  return (free ?? pane.zones[0])?.id
}

/**
 * The zone that a pointer means: the nearest within reach, so that a small zone can be hit with a finger.
 * @param {Table} table @param {PointerEvent} event @param {number} lift @returns {string | null}
 */
function aim({ stage, pane, bank }, event, lift) {
  const box = bank.getBoundingClientRect()
  if (event.clientX >= box.left && event.clientX <= box.right && event.clientY >= box.top && event.clientY <= box.bottom) return null
  const point = stage.pointAt({ clientX: event.clientX, clientY: event.clientY - lift })
  let best = { zone: /** @type {string | null} */ (null), distance: reach / stage.scale() }
  for (const zone of pane().zones) {
    const distance = distanceTo(zone.region, point)
    if (distance < best.distance) best = { zone: zone.id, distance }
  }
  return best.zone
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
  const ranked = pane().zones
    .filter(zone => zone.id !== from)
    .map(zone => {
      const there = middle(zone.id)
      const along = (there.x - here.x) * direction[0] + (there.y - here.y) * direction[1]
      const aside = Math.abs((there.x - here.x) * direction[1]) + Math.abs((there.y - here.y) * direction[0])
      return { id: zone.id, along, cost: along + 2 * aside }
    })
    .filter(({ along }) => along > 1)
    .sort((a, b) => a.cost - b.cost)
  if (ranked.length === 0) return
  /** @type {HTMLElement} */ (stage.overlay.querySelector(`[data-zone="${ranked[0].id}"]`)).focus()
  hover(ranked[0].id)
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
