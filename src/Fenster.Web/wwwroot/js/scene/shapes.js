// Drawing in picture units: regions, their corner brackets, verdict badges.

import { phrase } from '../language.js'
import { boundsOf, centreOf } from './geometry.js'

const namespace = 'http://www.w3.org/2000/svg'

/**
 * @param {string} tag
 * @param {Record<string, string | number>} [attributes]
 * @returns {SVGElement}
 */
export function svg(tag, attributes = {}) {
  const element = /** @type {SVGElement} */ (document.createElementNS(namespace, tag))
  for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, String(value))
  return element
}

/** @param {Region} region @returns {SVGElement} The whole area, for its fill. */
export function areaOf(region) {
  switch (region.kind) {
    case 'circle':
      return svg('circle', { cx: region.centre.x, cy: region.centre.y, r: region.radius, class: 'zone-area' })
    case 'ellipse':
      return svg('ellipse', { cx: region.centre.x, cy: region.centre.y, rx: region.radiusX, ry: region.radiusY, class: 'zone-area' })
    case 'rectangle':
      return svg('rect', {
        x: region.x,
        y: region.y,
        width: region.width,
        height: region.height,
        class: 'zone-area',
        ...rotationOf(region),
      })
    case 'polygon':
      return svg('polygon', { points: region.vertices.map(v => `${v.x},${v.y}`).join(' '), class: 'zone-area', 'fill-rule': 'evenodd' })
  }
}

/** @param {Region} region @param {string} name @returns {SVGElement} Four window corners; a circle's lie on its rim. */
export function bracketsOf(region, name) {
  // Turned by a group of its own: the style moves the path about its middle.
  const group = svg('g', rotationOf(region))
  group.append(svg('path', { d: bracketPath(region), class: name }))
  return group
}

/** @param {Region} region @returns {Record<string, string>} */
function rotationOf(region) {
  if (region.kind !== 'rectangle' || !region.rotation) return {}
  const { x, y } = centreOf(region)
  return { transform: `rotate(${region.rotation} ${x} ${y})` }
}

/** @param {Region} region */
function bracketPath(region) {
  if (region.kind === 'circle') {
    const {
      centre: { x, y },
      radius: r,
    } = region
    /** @param {number} degrees */
    const rim = degrees => `${x + r * Math.cos((degrees * Math.PI) / 180)} ${y + r * Math.sin((degrees * Math.PI) / 180)}`
    return [45, 135, 225, 315].map(middle => `M${rim(middle - 24)}A${r} ${r} 0 0 1 ${rim(middle + 24)}`).join('')
  }
  const { left, top, right, bottom } = boundsOf(region)
  const arm = Math.min(18, (right - left) * 0.3, (bottom - top) * 0.36)
  return (
    `M${left} ${top + arm}V${top}H${left + arm}M${right - arm} ${top}H${right}V${top + arm}` +
    `M${right} ${bottom - arm}V${bottom}H${right - arm}M${left + arm} ${bottom}H${left}V${bottom - arm}`
  )
}

/**
 * A zone's line to the spot that it names, from the nearest place of its edge.
 * @param {Region} region
 * @param {Point} spot
 * @returns {SVGElement}
 */
export function leaderOf(region, spot) {
  const { left, top, right, bottom } = boundsOf(region)
  const from = { x: Math.min(Math.max(spot.x, left), right), y: Math.min(Math.max(spot.y, top), bottom) }
  // Beside a box the line begins in the middle of its side.
  if (from.x !== spot.x && spot.x !== from.x && (from.x === left || from.x === right)) from.y = (top + bottom) / 2
  const group = svg('g', { class: 'leader' })
  const d = `M${from.x} ${from.y}L${spot.x} ${spot.y}`
  group.append(
    svg('path', { class: 'leader-lead', d }),
    svg('path', { class: 'leader-line', d }),
    svg('circle', { class: 'leader-end', cx: spot.x, cy: spot.y, r: 4 }),
  )
  return group
}

/** The path of a ribbon from card to card. @param {Point} from @param {Point} to */
export const ribbonPath = (from, to) =>
  `M${from.x} ${from.y}C${(from.x + to.x) / 2} ${from.y} ${(from.x + to.x) / 2} ${to.y} ${to.x} ${to.y}`

/** How the badge of each verdict is drawn, in a box of 20 by 20. */
export const badges = /** @type {const} */ ({
  right: { path: 'M10 1a9 9 0 1 1 0 18 9 9 0 0 1 0-18z', mark: 'M5.8 10.4l2.9 3 5.6-6.4' },
  part: { path: 'M10 1a9 9 0 1 1 0 18 9 9 0 0 1 0-18z', mark: 'M10 2.5v15' },
  wrong: { path: 'M2 2h16v16H2z', mark: 'M6.4 6.4l7.2 7.2m0-7.2l-7.2 7.2' },
  surplus: { path: 'M2 2h16v16H2z', mark: 'M5.5 10h9' },
  missed: { path: 'M10 1.2L18.8 10 10 18.8 1.2 10z', mark: '' },
})

/** @param {keyof typeof badges} kind @returns {SVGElement} A badge of its own, for HTML. */
export function badge(kind) {
  const element = svg('svg', {
    viewBox: '0 0 20 20',
    class: `badge-mark badge-${kind}`,
    role: 'img',
    'aria-label': phrase(`result.${kind}`),
  })
  element.append(svg('path', { d: badges[kind].path, class: 'badge-shape' }))
  if (kind === 'part') element.append(svg('path', { d: 'M10 1a9 9 0 0 1 0 18z', class: 'badge-half' }))
  else if (badges[kind].mark) element.append(svg('path', { d: badges[kind].mark, class: 'badge-sign' }))
  return element
}

/**
 * The look of a label that lies on the picture.
 * @param {{inHand?: unknown, key?: unknown, held?: unknown, verdict?: string | null, colour?: string}} state
 */
export const classesOf = ({ inHand, key, held, verdict, colour }) =>
  [
    'label placed',
    inHand && 'in-hand',
    key && 'of-key',
    held && 'held',
    verdict && `verdict-${verdict}`,
    colour && colour !== 'paper' && `paper-${colour}`,
  ]
    .filter(Boolean)
    .join(' ')
