// Places that are smaller than a fingertip, shown large enough to be hit. Where they would lie on each other they push each other apart,
// and a line says which place each of them is.

import { boundsOf } from './geometry.js'
import { svg } from './shapes.js'

/** CSS pixels: what WCAG 2.2 calls an enhanced target (2.5.5), and less where so many of them have no room. */
const fingertips = [44, 36, 28]
const [fingertip] = fingertips
const apart = 4
const rounds = 80

/** @typedef {{x: number, y: number, width: number, height: number}} Box By its middle. */

/**
 * Boxes moved as little as keeps them off each other, and inside.
 * @param {Box[]} boxes
 * @param {{width: number, height: number}} room
 * @returns {Box[]}
 */
export function spread(boxes, room) {
  const moved = boxes.map(box => ({ ...box }))
  for (let round = 0; round < rounds; round++) {
    let isQuiet = true
    for (let i = 0; i < moved.length; i++)
      for (let j = i + 1; j < moved.length; j++) {
        const [a, b] = [moved[i], moved[j]]
        const x = (a.width + b.width) / 2 + apart - Math.abs(a.x - b.x)
        const y = (a.height + b.height) / 2 + apart - Math.abs(a.y - b.y)
        if (x <= 0 || y <= 0) continue
        isQuiet = false
        // Where a column is full, its boxes step aside.
        if (x < y || round > rounds / 2) {
          const way = a.x <= b.x ? -x / 2 : x / 2
          ;[a.x, b.x] = [a.x + way, b.x - way]
        } else {
          const way = a.y <= b.y ? -y / 2 : y / 2
          ;[a.y, b.y] = [a.y + way, b.y - way]
        }
      }
    for (const box of moved) {
      box.x = Math.min(room.width - box.width / 2, Math.max(box.width / 2, box.x))
      box.y = Math.min(room.height - box.height / 2, Math.max(box.height / 2, box.y))
    }
    if (isQuiet) break
  }
  return moved
}

/** @param {Box[]} boxes */
const haveRoom = boxes =>
  boxes.every((a, i) =>
    boxes.slice(i + 1).every(b => Math.abs(a.x - b.x) >= (a.width + b.width) / 2 || Math.abs(a.y - b.y) >= (a.height + b.height) / 2),
  )

/**
 * Boxes of a fingertip at least, or as near to it as there is room.
 * @param {Box[]} boxes
 * @param {{width: number, height: number}} room
 * @returns {Box[] | null} Null where not even the smallest have it.
 */
export function enlarged(boxes, room) {
  for (const least of fingertips) {
    const large = spread(
      boxes.map(({ x, y, width, height }) => ({ x, y, width: Math.max(least, width), height: Math.max(least, height) })),
      room,
    )
    if (haveRoom(large)) return large
  }
  return null
}

/** @param {import('./stage.js').Stage} stage */
export function createFingertips(stage) {
  const layer = document.createElement('div')
  layer.className = 'fingertips'
  /** @type {{zone: string, element: HTMLElement}[]} */
  let shown = []

  return {
    /** @param {PaneView | null} pane Null where nothing is in the hand. */
    draw(pane) {
      const scale = stage.scale()
      const { left, top, right, bottom } = stage.plane
      const zones = (pane?.zones ?? []).map((zone, i) => {
        const box = boundsOf(zone.region)
        const [width, height] = [(box.right - box.left) * scale, (box.bottom - box.top) * scale]
        return {
          zone,
          number: i + 1,
          x: ((box.left + box.right) / 2 - left) * scale,
          y: ((box.top + box.bottom) / 2 - top) * scale,
          width,
          height,
        }
      })
      const isNeeded = zones.some(({ width, height }) => Math.min(width, height) < fingertip * 0.75)
      const boxes = isNeeded ? enlarged(zones, { width: (right - left) * scale, height: (bottom - top) * scale }) : null
      // Where there are too many of them for it, the nearest is meant.
      if (!pane || !boxes) {
        shown = []
        layer.remove()
        return
      }
      const lines = svg('svg', { 'aria-hidden': 'true' })
      shown = zones.map(({ zone, number, x, y }, i) => {
        const { x: middle, y: level, width, height } = boxes[i]
        lines.append(svg('line', { class: 'fingertip-line', x1: x, y1: y, x2: middle, y2: level }))
        const element = document.createElement('div')
        element.className = `fingertip ${pane.placed.some(placed => placed.zone === zone.id) ? 'filled' : ''}`
        element.textContent = String(number)
        Object.assign(element.style, {
          left: `${middle - width / 2}px`,
          top: `${level - height / 2}px`,
          width: `${width}px`,
          height: `${height}px`,
        })
        return { zone: zone.id, element }
      })
      layer.replaceChildren(lines, ...shown.map(({ element }) => element))
      stage.element.append(layer)
    },
    /**
     * @param {{clientX: number, clientY: number}} at
     * @returns {{zone: string, away: number} | null} The zone that is meant, and how far its box's middle is, in CSS pixels; null where
     *   none is shown large.
     */
    at({ clientX, clientY }) {
      for (const { zone, element } of shown) {
        const box = element.getBoundingClientRect()
        if (clientX >= box.left && clientX <= box.right && clientY >= box.top && clientY <= box.bottom)
          return { zone, away: Math.hypot(clientX - (box.left + box.right) / 2, clientY - (box.top + box.bottom) / 2) }
      }
      return null
    },
    /** @param {string | null} zone */
    hover(zone) {
      for (const { zone: id, element } of shown) element.classList.toggle('hovered', id === zone)
    },
  }
}
