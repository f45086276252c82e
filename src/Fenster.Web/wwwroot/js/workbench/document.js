// Edits of the activity document. Each takes a document and returns a new one; nothing is changed in place.

import { boundsOf } from '../scene/shapes.js'
import { planeOf } from '../scene/stage.js'

/** @param {ActivityDocument} doc @returns {PanePart} The pane that the workbench shows. */
export const paneOf = doc => doc.panes[0]

/** @param {ActivityDocument} doc @param {Partial<PanePart>} change @returns {ActivityDocument} */
const withPane = (doc, change) => ({ ...doc, panes: [{ ...doc.panes[0], ...change }, ...doc.panes.slice(1)] })

/** @param {PanePart} pane @param {string} word */
function freshId(pane, word) {
  const numbers = [...pane.labels, ...pane.targets].map(part => Number(/-(\d+)$/.exec(part.id)?.[1] ?? 0))
  return `${word}-${Math.max(0, ...numbers) + 1}`
}

/** @param {ActivityDocument} doc @param {Region} region @returns {{doc: ActivityDocument, zone: string}} With an empty label of its own. */
export function addZone(doc, region) {
  const pane = paneOf(doc)
  const label = { id: freshId(pane, 'label'), text: '', copies: 1 }
  const zone = { kind: /** @type {const} */ ('dropZone'), id: label.id.replace('label', 'zone'), region: inside(region, pane), accepts: [{ label: label.id }] }
  return { doc: withPane(doc, { labels: [...pane.labels, label], targets: [...pane.targets, zone] }), zone: zone.id }
}

/** @param {ActivityDocument} doc @param {Omit<LabelPart, 'id'>[]} parts @returns {{doc: ActivityDocument, labels: string[]}} Labels that have no place yet. */
export function addLabels(doc, parts) {
  const labels = []
  for (const part of parts) {
    const label = { copies: 1, ...part, id: freshId(paneOf(doc), 'label') }
    labels.push(label.id)
    doc = withPane(doc, { labels: [...paneOf(doc).labels, label] })
  }
  return { doc, labels }
}

/** @param {ActivityDocument} doc @param {string} label @param {Region} region @returns {{doc: ActivityDocument, zone: string}} A zone that takes a label which is there already. */
export function placeLabel(doc, label, region) {
  const pane = paneOf(doc)
  const zone = { kind: /** @type {const} */ ('dropZone'), id: freshId(pane, 'zone'), region: inside(region, pane), accepts: [{ label }] }
  return { doc: withPane(doc, { targets: [...pane.targets, zone] }), zone: zone.id }
}

/** @param {PanePart} pane @returns {LabelPart[]} Labels that no zone wants. */
export function withoutPlace({ labels, targets }) {
  const wanted = new Set(targets.flatMap(t => t.accepts.map(a => a.label)))
  return labels.filter(label => !wanted.has(label.id))
}

/** @param {ActivityDocument} doc @returns {{doc: ActivityDocument, label: string}} */
export function addDistractor(doc) {
  const pane = paneOf(doc)
  const label = { id: freshId(pane, 'label'), text: '', copies: 1 }
  return { doc: withPane(doc, { labels: [...pane.labels, label] }), label: label.id }
}

/** @param {ActivityDocument} doc @param {string} zone @param {Region} region @returns {ActivityDocument} */
export function setRegion(doc, zone, region) {
  const pane = paneOf(doc)
  return withPane(doc, { targets: pane.targets.map(t => (t.id === zone ? { ...t, region: inside(region, pane) } : t)) })
}

/** @param {ActivityDocument} doc @param {string} row Id of a zone or of a distractor. @param {string} text @returns {ActivityDocument} */
export function rename(doc, row, text) {
  const pane = paneOf(doc)
  const zone = pane.targets.find(t => t.id === row)
  const label = zone ? zone.accepts[0]?.label : row
  if (zone && !label) {
    const added = { id: freshId(pane, 'label'), text, copies: 1 }
    return withPane(doc, { labels: [...pane.labels, added], targets: pane.targets.map(t => (t === zone ? { ...t, accepts: [{ label: added.id }] } : t)) })
  }
  return withPane(doc, { labels: pane.labels.map(l => (l.id === label ? { ...l, text } : l)) })
}

/** @param {ActivityDocument} doc @param {string} row @returns {ActivityDocument} A zone goes with its label, unless another zone wants that too. */
export function remove(doc, row) {
  const pane = paneOf(doc)
  const zone = pane.targets.find(t => t.id === row)
  const targets = pane.targets.filter(t => t !== zone)
  const gone = new Set(zone ? zone.accepts.map(a => a.label) : [row])
  const labels = pane.labels.flatMap(label => {
    if (!gone.has(label.id)) return [label]
    const uses = usesOf(targets, label.id)
    return uses === 0 ? [] : [{ ...label, copies: label.copies && Math.min(label.copies, uses) }]
  })
  return withPane(doc, { labels, targets })
}

/** @param {ZonePart[]} targets @param {string} label */
const usesOf = (targets, label) => targets.filter(t => t.accepts.some(a => a.label === label)).length

/** @param {ActivityDocument} doc @param {string} id Of a label that reads like an earlier one. @returns {ActivityDocument} One label with as many copies as zones want it. */
export function mergeAlike(doc, id) {
  const pane = paneOf(doc)
  const fold = (/** @type {string} */ text) => text.trim().toLowerCase()
  const twin = pane.labels.find(l => l.id === id)
  const kept = twin && pane.labels.find(l => l.id !== id && fold(l.text) === fold(twin.text))
  if (!kept) return doc
  const targets = pane.targets.map(t => ({ ...t, accepts: t.accepts.map(a => (a.label === id ? { ...a, label: kept.id } : a)) }))
  const labels = pane.labels.filter(l => l !== twin).map(l => (l === kept ? { ...l, copies: Math.max(1, usesOf(targets, kept.id)) } : l))
  return withPane(doc, { labels, targets })
}

/** @param {ActivityDocument} doc @param {{hash: string, width: number, height: number}} media @returns {ActivityDocument} Zones stay, moved onto the new picture where they would lie outside. */
export function setPicture(doc, media) {
  const picture = { media: media.hash, width: media.width, height: media.height, altText: '' }
  const pane = { ...paneOf(doc), picture }
  return withPane(doc, { picture, targets: pane.targets.map(t => ({ ...t, region: inside(t.region, pane) })) })
}

/** @param {ActivityDocument} doc @param {string} altText @returns {ActivityDocument} */
export function setAltText(doc, altText) {
  const { picture } = paneOf(doc)
  return picture ? withPane(doc, { picture: { ...picture, altText } }) : doc
}

/** @param {number} number */
const round = number => Math.round(number * 100) / 100

/** @param {Region} region @param {PanePart} pane @returns {Region} Moved, and if it must be made smaller, so that it lies on the picture. */
function inside(region, pane) {
  if (!pane.picture) return region
  const plane = planeOf(pane.picture)
  const size = boundsOf(region)
  const shrink = Math.min(1, (plane.right - plane.left) / (size.right - size.left), (plane.bottom - plane.top) / (size.bottom - size.top))
  const small = shrink < 1 ? scaled(region, { x: size.left, y: size.top }, shrink, shrink) : region
  const { left, top, right, bottom } = boundsOf(small)
  return rounded(moved(small, clamp(left, plane.left, plane.right - (right - left)) - left, clamp(top, plane.top, plane.bottom - (bottom - top)) - top))
}

/** @param {Region} region @returns {Region} */
function rounded(region) {
  switch (region.kind) {
    case 'circle': return { ...region, centre: roundedPoint(region.centre), radius: round(region.radius) }
    case 'ellipse': return { ...region, centre: roundedPoint(region.centre), radiusX: round(region.radiusX), radiusY: round(region.radiusY) }
    case 'rectangle': return { ...region, x: round(region.x), y: round(region.y), width: round(region.width), height: round(region.height) }
    case 'polygon': return { ...region, vertices: region.vertices.map(roundedPoint) }
  }
}

/** @param {Point} point */
const roundedPoint = ({ x, y }) => ({ x: round(x), y: round(y) })

/** @param {number} value @param {number} low @param {number} high */
const clamp = (value, low, high) => Math.min(Math.max(value, low), high)

/** @param {Region} region @param {number} dx @param {number} dy @returns {Region} */
export function moved(region, dx, dy) {
  /** @param {Point} point */
  const move = ({ x, y }) => ({ x: x + dx, y: y + dy })
  switch (region.kind) {
    case 'circle':
    case 'ellipse': return { ...region, centre: move(region.centre) }
    case 'rectangle': return { ...region, ...move(region) }
    case 'polygon': return { ...region, vertices: region.vertices.map(move) }
  }
}

/** @param {Region} region @param {Point} fixed @param {number} sx @param {number} sy @returns {Region} Stretched from a point that stays. A circle stays a circle. */
function scaled(region, fixed, sx, sy) {
  /** @param {Point} point */
  const stretch = ({ x, y }) => ({ x: fixed.x + (x - fixed.x) * sx, y: fixed.y + (y - fixed.y) * sy })
  switch (region.kind) {
    case 'circle': return { ...region, centre: stretch(region.centre), radius: region.radius * Math.min(sx, sy) }
    case 'ellipse': return { ...region, centre: stretch(region.centre), radiusX: region.radiusX * sx, radiusY: region.radiusY * sy }
    case 'rectangle': return { ...region, ...stretch(region), width: region.width * sx, height: region.height * sy }
    case 'polygon': return { ...region, vertices: region.vertices.map(stretch) }
  }
}

/** The smallest side of a region that a gesture makes, in picture units. */
export const smallestSide = 12

/** @param {Region} region @param {number} by @returns {Region} Grown by so many units on each side. */
export function grown(region, by) {
  const { left, top, right, bottom } = boundsOf(region)
  const [width, height] = [right - left, bottom - top]
  const [wider, taller] = [Math.max(smallestSide, width + 2 * by), Math.max(smallestSide, height + 2 * by)]
  return scaled(region, { x: (left + right) / 2, y: (top + bottom) / 2 }, wider / width, taller / height)
}

/** @param {Region} region @param {'nw' | 'ne' | 'sw' | 'se'} corner @param {Point} to @returns {Region} With one corner dragged to a point; the opposite one stays, but a circle keeps its middle. */
export function resized(region, corner, to) {
  if (region.kind === 'circle') {
    return { ...region, radius: Math.max(Math.abs(to.x - region.centre.x), Math.abs(to.y - region.centre.y), smallestSide / 2) }
  }
  const { left, top, right, bottom } = boundsOf(region)
  const [west, north] = [corner.endsWith('w'), corner.startsWith('n')]
  const width = Math.max(smallestSide, west ? right - to.x : to.x - left)
  const height = Math.max(smallestSide, north ? bottom - to.y : to.y - top)
  return scaled(region, { x: west ? right : left, y: north ? bottom : top }, width / (right - left), height / (bottom - top))
}
