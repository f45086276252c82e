// What is done to a source picture, as data. Positions are in source units: 1000 across the upright source.

import { phrase } from '../language.js'

/**
 * @typedef {{left: number, top: number, right: number, bottom: number}} Box
 * @typedef {{kind: 'cover' | 'box', x: number, y: number, width: number, height: number, colour: string}} AreaFixing
 * @typedef {{kind: 'line', from: Point, to: Point, isArrow: boolean, colour: string}} LineFixing
 * @typedef {{kind: 'caption', at: Point, text: string, size: number, colour: string}} CaptionFixing
 * @typedef {AreaFixing | LineFixing | CaptionFixing} Fixing
 * @typedef {object} Preparation
 * @property {string} source
 * @property {number} sourceWidth
 * @property {number} sourceHeight
 * @property {number} turn Degrees, clockwise.
 * @property {Box | null} crop
 * @property {string} paper
 * @property {Fixing[]} fixings
 *
 * @typedef {object} Work What the room edits; each change makes a new one.
 * @property {Preparation} preparation
 * @property {Box} margins In picture units, each 0 or more.
 * @property {string} altText
 * @property {string} credit
 */

const noMargins = { left: 0, top: 0, right: 0, bottom: 0 }

/** @param {{hash: string, width: number, height: number}} media @returns {Work} */
export const freshWork = media => ({
  preparation: {
    source: media.hash,
    sourceWidth: media.width,
    sourceHeight: media.height,
    turn: 0,
    crop: null,
    paper: '#ffffff',
    fixings: [],
  },
  margins: noMargins,
  altText: '',
  credit: '',
})

/** @param {any} picture As the activity holds it. @returns {Work} */
export const workOf = picture => ({
  preparation: picture.preparation ?? freshWork({ hash: picture.media, width: picture.width, height: picture.height }).preparation,
  margins: picture.margins ?? noMargins,
  altText: picture.altText ?? '',
  credit: picture.credit ?? '',
})

/** @param {Preparation} p */
export const sourceHeight = p => (1000 * p.sourceHeight) / p.sourceWidth

/** @param {Preparation} p */
const middle = p => ({ x: 500, y: sourceHeight(p) / 2 })

/** @param {Point} point @param {Point} centre @param {number} degrees */
function turnedAbout({ x, y }, centre, degrees) {
  const [sin, cos] = [Math.sin((degrees * Math.PI) / 180), Math.cos((degrees * Math.PI) / 180)]
  return { x: centre.x + (x - centre.x) * cos - (y - centre.y) * sin, y: centre.y + (x - centre.x) * sin + (y - centre.y) * cos }
}

/** @param {Preparation} p @param {Point} point In the source. @returns {Point} Where it lies once the picture is turned. */
export const turned = (p, point) => turnedAbout(point, middle(p), p.turn)

/** @param {Preparation} p @param {Point} point On the turned picture. @returns {Point} */
export const unturned = (p, point) => turnedAbout(point, middle(p), -p.turn)

/** @param {Preparation} p @returns {Box} What is kept of the turned picture: the crop, or all of it. */
export const kept = p => p.crop ?? whole(p)

/** @param {Preparation} p @returns {Box} The smallest box that holds all of the turned picture. */
export function whole(p) {
  const h = sourceHeight(p)
  const corners = [
    { x: 0, y: 0 },
    { x: 1000, y: 0 },
    { x: 1000, y: h },
    { x: 0, y: h },
  ].map(corner => turned(p, corner))
  const [xs, ys] = [corners.map(c => c.x), corners.map(c => c.y)]
  return { left: Math.min(...xs), top: Math.min(...ys), right: Math.max(...xs), bottom: Math.max(...ys) }
}

/** @param {Work} work @returns {Box} What is kept and its margins, in source units. */
export function plane({ preparation, margins }) {
  const box = kept(preparation)
  const unit = (box.right - box.left) / 1000
  return {
    left: box.left - margins.left * unit,
    top: box.top - margins.top * unit,
    right: box.right + margins.right * unit,
    bottom: box.bottom + margins.bottom * unit,
  }
}

/** @param {Preparation} p @returns {boolean} Whether anything is done to the source at all. */
export const isUntouched = p => p.turn === 0 && p.crop === null && p.fixings.length === 0

/** @param {Preparation} p @returns {number} Pixels of the source across what is kept. */
export const pixelsAcross = p => Math.round(((kept(p).right - kept(p).left) / 1000) * p.sourceWidth)

/** @param {number} width Pixels. @returns {string} Whether that is enough for the screens it will fill. */
export function qualityOf(width) {
  if (width < 640) return phrase('room.blurred', { width })
  if (width < 1280) return phrase('room.soft', { width })
  return phrase('room.sharp', { width })
}

/** @param {Work} work @param {Partial<Preparation>} change @returns {Work} */
export const prepared = (work, change) => ({ ...work, preparation: { ...work.preparation, ...change } })

/** The smallest side that a cut or a patch can have, in source units. */
const smallest = 5

/**
 * @param {Work} work
 * @param {Box} box What is to be kept, its corners in any order.
 * @returns {Work} Nothing is kept that is not there, and a cut of nothing is none.
 */
export function cropped(work, { left, top, right, bottom }) {
  const all = whole(work.preparation)
  const [x, y] = [[left, right].sort((a, b) => a - b), [top, bottom].sort((a, b) => a - b)]
  const crop = {
    left: Math.max(x[0], all.left),
    top: Math.max(y[0], all.top),
    right: Math.min(x[1], all.right),
    bottom: Math.min(y[1], all.bottom),
  }
  if (crop.right - crop.left < smallest || crop.bottom - crop.top < smallest) return work
  const isAll = /** @type {const} */ (['left', 'top', 'right', 'bottom']).every(side => Math.abs(crop[side] - all[side]) < 0.5)
  return prepared(work, { crop: isAll ? null : crop })
}

/**
 * @param {Fixing} fixing
 * @param {number} end Of a line its first or second, of an area a corner, clockwise from the upper left.
 * @param {Point} to In the source.
 * @returns {Fixing}
 */
export function reshapedFixing(fixing, end, to) {
  if (fixing.kind === 'caption') return fixing
  if (fixing.kind === 'line') {
    const other = end === 0 ? fixing.to : fixing.from
    return Math.hypot(to.x - other.x, to.y - other.y) < 1 ? fixing : { ...fixing, [end === 0 ? 'from' : 'to']: to }
  }
  // The corner across stays.
  const across = { x: end === 0 || end === 3 ? fixing.x + fixing.width : fixing.x, y: end < 2 ? fixing.y + fixing.height : fixing.y }
  return {
    ...fixing,
    x: Math.min(across.x, to.x),
    y: Math.min(across.y, to.y),
    width: Math.max(smallest, Math.abs(to.x - across.x)),
    height: Math.max(smallest, Math.abs(to.y - across.y)),
  }
}

/**
 * @param {Fixing} fixing
 * @returns {{end: number, at: Point}} The end that keys move: of a line where it leads, of an area its lower right corner.
 */
export const farEnd = fixing =>
  fixing.kind === 'line'
    ? { end: 1, at: fixing.to }
    : fixing.kind === 'caption'
      ? { end: 0, at: fixing.at }
      : { end: 2, at: { x: fixing.x + fixing.width, y: fixing.y + fixing.height } }

/** @param {Work} work @param {number} index @param {Fixing | null} fixing Null to take it away. @returns {Work} */
export function withFixing(work, index, fixing) {
  const fixings = work.preparation.fixings.slice()
  fixings.splice(index, 1, ...(fixing ? [fixing] : []))
  return prepared(work, { fixings })
}

/** @param {Fixing} fixing @param {number} dx @param {number} dy @returns {Fixing} */
export function movedFixing(fixing, dx, dy) {
  switch (fixing.kind) {
    case 'line':
      return { ...fixing, from: { x: fixing.from.x + dx, y: fixing.from.y + dy }, to: { x: fixing.to.x + dx, y: fixing.to.y + dy } }
    case 'caption':
      return { ...fixing, at: { x: fixing.at.x + dx, y: fixing.at.y + dy } }
    default:
      return { ...fixing, x: fixing.x + dx, y: fixing.y + dy }
  }
}

/** @param {Fixing} fixing @returns {string} */
export const nameOf = fixing =>
  fixing.kind === 'line' && fixing.isArrow
    ? phrase('room.arrow')
    : { cover: phrase('room.coverPatch'), box: phrase('room.box'), line: phrase('room.leaderLine'), caption: phrase('room.caption') }[
        fixing.kind
      ]

/** A quarter turn; what is kept turns too. @param {Work} work @param {1 | -1} way @returns {Work} */
export function quarterTurned(work, way) {
  const { preparation: p } = work
  const turn = ((p.turn + 90 * way + 540) % 360) - 180
  if (!p.crop) return prepared(work, { turn })
  const centre = middle(p)
  const [a, b] = [
    turnedAbout({ x: p.crop.left, y: p.crop.top }, centre, 90 * way),
    turnedAbout({ x: p.crop.right, y: p.crop.bottom }, centre, 90 * way),
  ]
  return prepared(work, {
    turn,
    crop: { left: Math.min(a.x, b.x), top: Math.min(a.y, b.y), right: Math.max(a.x, b.x), bottom: Math.max(a.y, b.y) },
  })
}
