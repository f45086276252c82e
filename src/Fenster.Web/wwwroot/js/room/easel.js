// The picture on the easel: drawn in source units, and the hand that works on it.

import { svg } from '../scene/shapes.js'
import { kept, movedFixing, plane, sourceHeight, turned, unturned } from './preparation.js'

/**
 * @typedef {import('./preparation.js').Work} Work
 * @typedef {import('./preparation.js').Fixing} Fixing
 * @typedef {object} Hand What the room does with what the hand does.
 * @property {() => Work} work
 * @property {() => string} tool
 * @property {() => number | null} selected
 * @property {(index: number | null) => void} select
 * @property {(from: Point, to: Point) => void} drag A drag on the turned picture, in source units.
 * @property {(index: number, fixing: Fixing) => void} moved
 */

/** @param {HTMLElement} mat @param {Hand} hand */
export function createEasel(mat, hand) {
  const root = /** @type {SVGSVGElement} */ (svg('svg', { class: 'easel-picture', role: 'img' }))
  const paper = svg('rect', { class: 'easel-paper' })
  const clip = svg('clipPath', { id: 'kept' })
  const clipBox = svg('rect')
  clip.append(clipBox)
  const window = svg('g', { 'clip-path': 'url(#kept)' })
  const image = svg('image', { x: 0, y: 0, width: 1000, preserveAspectRatio: 'none' })
  window.append(image)
  const fixings = svg('g')
  const draft = svg('g', { class: 'easel-draft' })
  root.append(clip, paper, window, fixings, draft)
  mat.replaceChildren(root)

  /** @param {PointerEvent} event @returns {Point} On the turned picture. */
  const pointAt = event => {
    const matrix = root.getScreenCTM()
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix?.inverse())
    return { x: point.x, y: point.y }
  }

  /** @param {Work} work */
  const draw = work => {
    const { preparation: p } = work
    const [all, box] = [plane(work), kept(p)]
    root.setAttribute('viewBox', `${all.left} ${all.top} ${all.right - all.left} ${all.bottom - all.top}`)
    root.setAttribute('aria-label', work.altText || 'The picture')
    place(paper, all)
    paper.setAttribute('fill', p.paper)
    place(clipBox, box)
    const url = `/media/${p.source}/1920`
    if (image.getAttribute('href') !== url) image.setAttribute('href', url)
    image.setAttribute('height', String(sourceHeight(p)))
    image.setAttribute('transform', `rotate(${p.turn} 500 ${sourceHeight(p) / 2})`)
    fixings.replaceChildren(...p.fixings.map((fixing, i) => {
      const group = svg('g', { class: `fixing ${i === hand.selected() ? 'selected' : ''}`, 'data-fixing': i })
      group.append(...shapesOf(work, fixing))
      return group
    }))
  }

  /** @type {{from: Point, index: number | null} | null} */
  let grip = null
  root.addEventListener('pointerdown', event => {
    if (!event.isPrimary || event.button !== 0) return
    root.setPointerCapture(event.pointerId)
    const touched = /** @type {Element} */ (event.target).closest('[data-fixing]')
    const index = touched ? Number(touched.getAttribute('data-fixing')) : null
    hand.select(index)
    grip = { from: pointAt(event), index }
    event.preventDefault()
  })
  root.addEventListener('pointermove', event => {
    if (!grip) return
    const to = pointAt(event)
    if (grip.index === null) {
      draft.replaceChildren(...draftShapes(hand.tool(), grip.from, to))
      return
    }
    const work = hand.work()
    const [a, b] = [unturned(work.preparation, grip.from), unturned(work.preparation, to)]
    const moving = movedFixing(work.preparation.fixings[grip.index], b.x - a.x, b.y - a.y)
    fixings.children[grip.index]?.replaceChildren(...shapesOf(work, moving))
  })
  const letGo = (/** @type {PointerEvent} */ event) => {
    if (!grip) return
    const [{ from, index }, to] = [grip, pointAt(event)]
    grip = null
    draft.replaceChildren()
    if (event.type === 'pointercancel') {
      draw(hand.work())
      return
    }
    if (index === null) {
      hand.drag(from, to)
      return
    }
    const work = hand.work()
    const [a, b] = [unturned(work.preparation, from), unturned(work.preparation, to)]
    if (Math.hypot(b.x - a.x, b.y - a.y) > 1) hand.moved(index, movedFixing(work.preparation.fixings[index], b.x - a.x, b.y - a.y))
  }
  root.addEventListener('pointerup', letGo)
  root.addEventListener('pointercancel', letGo)
  return { draw }
}

/** @param {SVGElement} rect @param {import('./preparation.js').Box} box */
function place(rect, box) {
  for (const [name, value] of Object.entries({ x: box.left, y: box.top, width: box.right - box.left, height: box.bottom - box.top })) rect.setAttribute(name, String(value))
}

/** How wide lines are drawn, in source units. @param {Work} work */
export const strokeOf = work => Math.max(1.5, (kept(work.preparation).right - kept(work.preparation).left) / 300)

/** The outline of an arrow from one point to another, its head at the end. @param {Point} from @param {Point} to @param {number} stroke @returns {Point[]} */
export function arrowHead(from, to, stroke) {
  const length = Math.hypot(to.x - from.x, to.y - from.y) || 1
  const [ux, uy] = [(to.x - from.x) / length, (to.y - from.y) / length]
  const size = stroke * 5
  return [to, { x: to.x - ux * size - uy * size * 0.45, y: to.y - uy * size + ux * size * 0.45 }, { x: to.x - ux * size + uy * size * 0.45, y: to.y - uy * size - ux * size * 0.45 }]
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
      const look = fixing.kind === 'cover' ? { fill: colour } : { fill: 'none', stroke: colour, 'stroke-width': stroke, 'pointer-events': 'all' }
      return [svg('rect', { x, y, width, height, transform: spin, ...look })]
    }
    case 'line': {
      const [from, to] = [turned(p, fixing.from), turned(p, fixing.to)]
      const line = { x1: from.x, y1: from.y, x2: to.x, y2: to.y }
      return [
        svg('line', { ...line, class: 'fixing-reach' }),
        svg('line', { ...line, stroke: fixing.colour, 'stroke-width': stroke, 'stroke-linecap': 'round' }),
        ...(fixing.isArrow ? [svg('polygon', { points: arrowHead(from, to, stroke).map(({ x, y }) => `${x},${y}`).join(' '), fill: fixing.colour })] : []),
      ]
    }
    case 'caption': {
      const at = turned(p, fixing.at)
      const text = svg('text', { x: at.x, y: at.y, class: 'fixing-caption', 'font-size': fixing.size, fill: fixing.colour, 'text-anchor': 'middle', 'dominant-baseline': 'central' })
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
