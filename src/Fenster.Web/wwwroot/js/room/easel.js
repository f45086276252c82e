// The picture on the easel: drawn in source units, and the hand that works on it.

import { phrase } from '../language.js'
import { svg } from '../scene/shapes.js'
import { cropped, kept, movedFixing, plane, reshapedFixing, sourceHeight, turned, unturned, whole, withFixing } from './preparation.js'

/**
 * @typedef {import('./preparation.js').Work} Work
 * @typedef {import('./preparation.js').Fixing} Fixing
 * @typedef {import('./preparation.js').Box} Box
 * @typedef {object} Hand What the room does with what the hand does.
 * @property {() => Work} work
 * @property {() => string} tool
 * @property {() => number | null} selected
 * @property {(index: number | null) => void} select
 * @property {(from: Point, to: Point) => void} drag A drag on the turned picture, in source units.
 * @property {(work: Work) => void} changed Something was moved or reshaped.
 */

const gripSize = 7
const mostZoom = 8

/** @param {HTMLElement} mat @param {Hand} hand */
export function createEasel(mat, hand) {
  const root = /** @type {SVGSVGElement} */ (svg('svg', { class: 'easel-picture', role: 'img' }))
  const paper = svg('rect', { class: 'easel-paper' })
  const window = svg('svg', { overflow: 'hidden' })
  const image = svg('image', { x: 0, y: 0, width: 1000, preserveAspectRatio: 'none' })
  window.append(image)
  const fixings = svg('g')
  const shade = svg('path', { class: 'easel-shade', 'fill-rule': 'evenodd' })
  const draft = svg('g', { class: 'easel-draft' })
  const grips = svg('g')
  root.append(paper, window, fixings, shade, draft, grips)
  mat.replaceChildren(root)
  let zoom = 1
  let middle = { x: 500, y: 500 }

  /** @param {PointerEvent | WheelEvent} event @returns {Point} On the turned picture. */
  const pointAt = event => {
    const matrix = root.getScreenCTM()
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix?.inverse())
    return { x: point.x, y: point.y }
  }
  /** What can be seen at all: while it is cut, the part that is cut off too. @param {Work} work @returns {Box} */
  const all = work => (hand.tool() === 'crop' ? grown(whole(work.preparation), 20) : plane(work))

  /** @param {Box} box */
  const look = ({ left, top, right, bottom }) => {
    const [width, height] = [(right - left) / zoom, (bottom - top) / zoom]
    middle = {
      x: Math.min(right - width / 2, Math.max(left + width / 2, middle.x)),
      y: Math.min(bottom - height / 2, Math.max(top + height / 2, middle.y)),
    }
    root.setAttribute('viewBox', `${middle.x - width / 2} ${middle.y - height / 2} ${width} ${height}`)
  }

  /** @param {Work} work */
  const draw = work => {
    const { preparation: p } = work
    const isCutting = hand.tool() === 'crop'
    const [box, uncut] = [kept(p), whole(p)]
    look(all(work))
    root.setAttribute('aria-label', work.altText || phrase('common.thePicture'))
    place(paper, isCutting ? uncut : plane(work))
    paper.setAttribute('fill', p.paper)
    place(window, isCutting ? uncut : box)
    window.setAttribute('viewBox', ['x', 'y', 'width', 'height'].map(name => window.getAttribute(name)).join(' '))
    const url = `/media/${p.source}/1920`
    if (image.getAttribute('href') !== url) image.setAttribute('href', url)
    image.setAttribute('height', String(sourceHeight(p)))
    image.setAttribute('transform', `rotate(${p.turn} 500 ${sourceHeight(p) / 2})`)
    shade.setAttribute('d', isCutting ? outlineOf(uncut) + outlineOf(box) : '')
    fixings.replaceChildren(
      ...p.fixings.map((fixing, i) => {
        const group = svg('g', { class: `fixing ${i === hand.selected() ? 'selected' : ''}`, 'data-fixing': i })
        group.append(...shapesOf(work, fixing))
        return group
      }),
    )
    const size = gripSize / (root.getScreenCTM()?.a || 1)
    grips.replaceChildren(
      ...gripsOf(work).map(({ at }, i) =>
        svg('rect', { class: 'easel-grip', 'data-grip': i, x: at.x - size, y: at.y - size, width: 2 * size, height: 2 * size }),
      ),
    )
  }

  /**
   * Where the frame of what is kept, or what is selected, is taken hold of.
   * @param {Work} work
   * @returns {{at: Point, to: (point: Point) => Work}[]}
   */
  const gripsOf = work => {
    const { preparation: p } = work
    if (hand.tool() === 'crop')
      return cornersOf(kept(p)).map((at, corner) => ({ at, to: point => cropped(work, withCorner(kept(p), corner, point)) }))
    const index = hand.selected()
    const fixing = index === null ? null : p.fixings[index]
    if (!fixing || fixing.kind === 'caption' || index === null) return []
    const ends =
      fixing.kind === 'line'
        ? [fixing.from, fixing.to]
        : cornersOf({ left: fixing.x, top: fixing.y, right: fixing.x + fixing.width, bottom: fixing.y + fixing.height })
    return ends.map((end, i) => ({
      at: turned(p, end),
      to: point => withFixing(work, index, reshapedFixing(fixing, i, unturned(p, point))),
    }))
  }

  /**
   * What the hand does as long as it is down; each step shows what would come of it.
   * @type {{move: (to: Point, event: PointerEvent) => void, up: (to: Point) => void} | null}
   */
  let hold = null

  /** Something is taken hold of; a mere press changes nothing. @param {Point} from @param {(to: Point) => Work} changed */
  const changing = (from, changed) => ({
    move(/** @type {Point} */ to) {
      draw(changed(to))
    },
    up(/** @type {Point} */ to) {
      if (Math.hypot(to.x - from.x, to.y - from.y) > 1) hand.changed(changed(to))
    },
  })
  /** @param {Point} from @param {number} index */
  const moving = (from, index) => {
    const work = hand.work()
    const start = unturned(work.preparation, from)
    return changing(from, to => {
      const { x, y } = unturned(work.preparation, to)
      return withFixing(work, index, movedFixing(work.preparation.fixings[index], x - start.x, y - start.y))
    })
  }
  /** @param {Point} from @param {number | null} over What lies there, which a mere click selects. */
  const drawing = (from, over) => ({
    move(/** @type {Point} */ to) {
      draft.replaceChildren(...draftShapes(hand.tool(), from, to))
    },
    up(/** @type {Point} */ to) {
      if (over !== null && Math.hypot(to.x - from.x, to.y - from.y) < 4) hand.select(over)
      else hand.drag(from, to)
    },
  })
  /** @param {PointerEvent} start */
  const panning = start => {
    const [from, scale] = [middle, root.getScreenCTM()?.a || 1]
    return {
      move(/** @type {Point} */ _, /** @type {PointerEvent} */ event) {
        middle = { x: from.x - (event.clientX - start.clientX) / scale, y: from.y - (event.clientY - start.clientY) / scale }
        look(all(hand.work()))
      },
      up() {},
    }
  }

  /**
   * A press takes hold of what is selected or what the tool makes; over all else it draws, as a line from a patch does.
   * @param {number} index
   */
  const isTaken = index => {
    const { kind } = hand.work().preparation.fixings[index]
    return index === hand.selected() || kind === hand.tool() || (kind === 'line' && hand.tool() === 'arrow')
  }

  root.addEventListener('pointerdown', event => {
    if (!event.isPrimary || event.button > 1) return
    root.setPointerCapture(event.pointerId)
    event.preventDefault()
    const touched = /** @type {Element} */ (event.target)
    const grip = touched.getAttribute('data-grip')
    const fixing = touched.closest('[data-fixing]')
    const index = hand.tool() === 'crop' || !fixing ? null : Number(fixing.getAttribute('data-fixing'))
    if (event.button === 1) hold = panning(event)
    else if (grip !== null) hold = changing(pointAt(event), gripsOf(hand.work())[Number(grip)].to)
    else if (index !== null && isTaken(index)) {
      hand.select(index)
      hold = moving(pointAt(event), index)
    } else {
      hand.select(null)
      hold = drawing(pointAt(event), index)
    }
  })
  root.addEventListener('pointermove', event => hold?.move(pointAt(event), event))
  const letGo = (/** @type {PointerEvent} */ event) => {
    const held = hold
    hold = null
    draft.replaceChildren()
    if (!held) return
    if (event.type === 'pointerup') held.up(pointAt(event))
    draw(hand.work())
  }
  root.addEventListener('pointerup', letGo)
  root.addEventListener('pointercancel', letGo)

  /** @param {number} next @param {Point} [at] Stays where it is. */
  const zoomTo = (next, at = middle) => {
    const before = zoom
    zoom = Math.min(mostZoom, Math.max(1, next))
    middle = { x: at.x + ((middle.x - at.x) * before) / zoom, y: at.y + ((middle.y - at.y) * before) / zoom }
    draw(hand.work())
  }
  root.addEventListener(
    'wheel',
    event => {
      event.preventDefault()
      zoomTo(zoom * 1.0015 ** -event.deltaY, pointAt(event))
    },
    { passive: false },
  )
  new ResizeObserver(() => {
    if (mat.clientWidth > 0) draw(hand.work())
  }).observe(mat)
  return { draw, zoomTo, zoom: () => zoom }
}

/** @param {Box} box @returns {Point[]} */
const cornersOf = ({ left, top, right, bottom }) => [
  { x: left, y: top },
  { x: right, y: top },
  { x: right, y: bottom },
  { x: left, y: bottom },
]

/** @param {Box} box @param {number} corner As in `cornersOf`. @param {Point} point @returns {Box} */
function withCorner(box, corner, { x, y }) {
  const isLeft = corner === 0 || corner === 3
  const isTop = corner < 2
  return { left: isLeft ? x : box.left, right: isLeft ? box.right : x, top: isTop ? y : box.top, bottom: isTop ? box.bottom : y }
}

/** @param {Box} box @param {number} by @returns {Box} */
const grown = ({ left, top, right, bottom }, by) => ({ left: left - by, top: top - by, right: right + by, bottom: bottom + by })

/** @param {Box} box */
const outlineOf = box =>
  `M${cornersOf(box)
    .map(({ x, y }) => `${x} ${y}`)
    .join('L')}z`

/** @param {SVGElement} rect @param {import('./preparation.js').Box} box */
function place(rect, box) {
  for (const [name, value] of Object.entries({ x: box.left, y: box.top, width: box.right - box.left, height: box.bottom - box.top }))
    rect.setAttribute(name, String(value))
}

/** How wide lines are drawn, in source units. @param {Work} work */
export const strokeOf = work => Math.max(1.5, (kept(work.preparation).right - kept(work.preparation).left) / 300)

/**
 * The outline of an arrow from one point to another, its head at the end.
 * @param {Point} from
 * @param {Point} to
 * @param {number} stroke
 * @returns {Point[]}
 */
export function arrowHead(from, to, stroke) {
  const length = Math.hypot(to.x - from.x, to.y - from.y) || 1
  const [ux, uy] = [(to.x - from.x) / length, (to.y - from.y) / length]
  const size = stroke * 5
  return [
    to,
    { x: to.x - ux * size - uy * size * 0.45, y: to.y - uy * size + ux * size * 0.45 },
    { x: to.x - ux * size + uy * size * 0.45, y: to.y - uy * size - ux * size * 0.45 },
  ]
}

/** @param {Work} work @param {Fixing} fixing @returns {SVGElement[]} */
function shapesOf(work, fixing) {
  const p = work.preparation
  const stroke = strokeOf(work)
  const spin = `rotate(${p.turn} 500 ${sourceHeight(p) / 2})`
  switch (fixing.kind) {
    case 'cover':
    case 'box': {
      const { x, y, width, height, colour } = fixing
      /** @type {Record<string, string | number>} */
      const look =
        fixing.kind === 'cover' ? { fill: colour } : { fill: 'none', stroke: colour, 'stroke-width': stroke, 'pointer-events': 'all' }
      return [svg('rect', { x, y, width, height, transform: spin, ...look })]
    }
    case 'line': {
      const [from, to] = [turned(p, fixing.from), turned(p, fixing.to)]
      const line = { x1: from.x, y1: from.y, x2: to.x, y2: to.y }
      return [
        svg('line', { ...line, class: 'fixing-reach' }),
        svg('line', { ...line, stroke: fixing.colour, 'stroke-width': stroke, 'stroke-linecap': 'round' }),
        ...(fixing.isArrow
          ? [
              svg('polygon', {
                points: arrowHead(from, to, stroke)
                  .map(({ x, y }) => `${x},${y}`)
                  .join(' '),
                fill: fixing.colour,
              }),
            ]
          : []),
      ]
    }
    case 'caption': {
      const at = turned(p, fixing.at)
      const text = svg('text', {
        x: at.x,
        y: at.y,
        class: 'fixing-caption',
        'font-size': fixing.size,
        fill: fixing.colour,
        'text-anchor': 'middle',
        'dominant-baseline': 'central',
      })
      text.textContent = fixing.text
      return [text]
    }
  }
}

/** @param {string} tool @param {Point} from @param {Point} to @returns {SVGElement[]} */
function draftShapes(tool, from, to) {
  if (tool === 'line' || tool === 'arrow') return [svg('line', { x1: from.x, y1: from.y, x2: to.x, y2: to.y })]
  const box = svg('rect')
  place(box, { left: Math.min(from.x, to.x), top: Math.min(from.y, to.y), right: Math.max(from.x, to.x), bottom: Math.max(from.y, to.y) })
  return [box]
}
