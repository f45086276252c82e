// Draws the zones of the pane on the picture, and tells what lies under a point.

import { areaOf, boundsOf, bracketsOf, centreOf, distanceTo, svg } from '../scene/shapes.js'
import { textWidth } from '../scene/stage.js'

/** @typedef {'nw' | 'ne' | 'sw' | 'se'} Corner */

const corners = /** @type {Corner[]} */ (['nw', 'ne', 'sw', 'se'])
const gripSize = 5
const smallestWord = 14
const largestWord = 22
const unnamed = 'no label yet'

/** @param {import('../scene/stage.js').Stage} stage */
export function createCanvas(stage) {
  const zones = svg('g')
  const grips = svg('g')
  const draft = svg('g')
  stage.drawing.append(zones, grips, draft)

  return {
    /** @param {PanePart} pane @param {string | null} selected @param {string | null} pointed */
    draw(pane, selected, pointed) {
      const texts = new Map(pane.labels.map(label => [label.id, label.text]))
      const faces = new Map(pane.labels.map(label => [label.id, label.face]))
      const wordOf = (/** @type {ZonePart} */ zone) => zone.accepts.map(a => texts.get(a.label)).filter(Boolean).join(' / ')
      // One size for all, so that the picture reads like a printed diagram. What fits in no readable size is cut short.
      const sizes = pane.targets.map(zone => sizeIn(zone.region, wordOf(zone) || unnamed)).filter(size => size >= smallestWord)
      const size = sizes.length > 0 ? Math.min(largestWord, ...sizes) : smallestWord
      zones.replaceChildren(...pane.targets.map(zone => {
        const group = svg('g', { class: `zone zone-box ${zone.id === selected ? 'selected' : ''} ${zone.id === pointed ? 'pointed' : ''}`, 'data-zone': zone.id })
        group.append(areaOf(zone.region), bracketsOf(zone.region, 'zone-lead'), bracketsOf(zone.region, 'zone-corners'))
        const face = faces.get(zone.accepts[0]?.label)
        group.append(face?.kind === 'picture' ? pictureIn(zone.region, face) : wordIn(zone.region, wordOf(zone), size))
        return group
      }))
      const zone = pane.targets.find(t => t.id === selected)
      const grip = gripSize / stage.scale()
      grips.replaceChildren(...(zone ? corners.map(corner => {
        const at = cornerOf(zone.region, corner)
        return svg('rect', { class: `grip grip-${corner}`, x: at.x - grip, y: at.y - grip, width: 2 * grip, height: 2 * grip })
      }) : []))
    },
    /** @param {Region | null} region Shows a region that is being drawn. */
    sketch(region) {
      if (!region) return draft.replaceChildren()
      const area = areaOf(region)
      area.setAttribute('class', 'zone-draft')
      draft.replaceChildren(area)
    },
    /** @param {PanePart} pane @param {Point} point @returns {ZonePart | undefined} The topmost zone there. */
    zoneAt: (pane, point) => pane.targets.findLast(zone => distanceTo(zone.region, point) === 0),
    /** @param {ZonePart | undefined} zone @param {Point} point @param {boolean} touch @returns {Corner | undefined} */
    cornerAt(zone, point, touch) {
      if (!zone) return undefined
      const reach = (touch ? 18 : 9) / stage.scale()
      return corners.find(corner => {
        const at = cornerOf(zone.region, corner)
        return Math.abs(at.x - point.x) <= reach && Math.abs(at.y - point.y) <= reach
      })
    },
  }
}

/** @param {Region} region @param {Corner} corner @returns {Point} */
function cornerOf(region, corner) {
  const { left, top, right, bottom } = boundsOf(region)
  return { x: corner.endsWith('w') ? left : right, y: corner.startsWith('n') ? top : bottom }
}

/** @param {Region} region @param {string} words @returns {number} The largest size, in picture units, in which the words stay inside. */
function sizeIn(region, words) {
  const { left, right, top, bottom } = boundsOf(region)
  return Math.min((bottom - top) * 0.6, (20 * (right - left - 14)) / Math.max(1, textWidth(words, 20)))
}

/** @param {Region} region @param {{media: string}} face */
function pictureIn(region, { media }) {
  const { left, top, right, bottom } = boundsOf(region)
  return svg('image', { href: `/media/${media}/480`, x: left + 3, y: top + 3, width: Math.max(1, right - left - 6), height: Math.max(1, bottom - top - 6), class: 'zone-picture' })
}

/** @param {Region} region @param {string} text @param {number} size */
function wordIn(region, text, size) {
  const { left, right } = boundsOf(region)
  const { x, y } = centreOf(region)
  const words = text || unnamed
  const room = Math.max(4, Math.floor((words.length * (right - left)) / (textWidth(words, size) + 14)))
  const element = svg('text', { x, y, class: text ? 'zone-word' : 'zone-word zone-unnamed', 'font-size': size })
  element.textContent = words.length > room ? `${words.slice(0, room - 1)}…` : words
  return element
}
