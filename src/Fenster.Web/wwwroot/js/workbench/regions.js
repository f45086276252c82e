// Regions as a hand changes them: moved, grown, stretched, turned, kept on the picture.

import { boundsOf, planeOf } from '../scene/geometry.js'

/** @param {number} number */
export const round = number => Math.round(number * 100) / 100

/**
 * @param {Region} region
 * @param {{picture?: Picture | null}} pane
 * @returns {Region} Moved, and if it must be made smaller, so that it lies on the picture.
 */
export function inside(region, pane) {
  if (!pane.picture) return region
  const plane = planeOf(pane.picture)
  const size = boundsOf(region)
  const shrink = Math.min(1, (plane.right - plane.left) / (size.right - size.left), (plane.bottom - plane.top) / (size.bottom - size.top))
  const small = shrink < 1 ? scaled(region, { x: size.left, y: size.top }, shrink, shrink) : region
  const { left, top, right, bottom } = boundsOf(small)
  return rounded(
    moved(small, clamp(left, plane.left, plane.right - (right - left)) - left, clamp(top, plane.top, plane.bottom - (bottom - top)) - top),
  )
}

/** @param {Region} region @returns {Region} */
export function rounded(region) {
  switch (region.kind) {
    case 'circle':
      return { ...region, centre: roundedPoint(region.centre), radius: round(region.radius) }
    case 'ellipse':
      return { ...region, centre: roundedPoint(region.centre), radiusX: round(region.radiusX), radiusY: round(region.radiusY) }
    case 'rectangle':
      return { ...region, x: round(region.x), y: round(region.y), width: round(region.width), height: round(region.height) }
    case 'polygon':
      return { ...region, vertices: region.vertices.map(roundedPoint) }
  }
}

/** @param {Point} point */
export const roundedPoint = ({ x, y }) => ({ x: round(x), y: round(y) })

/** @param {number} value @param {number} low @param {number} high */
export const clamp = (value, low, high) => Math.min(Math.max(value, low), high)

/** @param {Region} region @param {number} dx @param {number} dy @returns {Region} */
export function moved(region, dx, dy) {
  /** @param {Point} point */
  const move = ({ x, y }) => ({ x: x + dx, y: y + dy })
  switch (region.kind) {
    case 'circle':
    case 'ellipse':
      return { ...region, centre: move(region.centre) }
    case 'rectangle':
      return { ...region, ...move(region) }
    case 'polygon':
      return { ...region, vertices: region.vertices.map(move) }
  }
}

/**
 * @param {Region} region
 * @param {Point} fixed
 * @param {number} sx
 * @param {number} sy
 * @returns {Region} Stretched from a point that stays. A circle stays a circle.
 */
function scaled(region, fixed, sx, sy) {
  /** @param {Point} point */
  const stretch = ({ x, y }) => ({ x: fixed.x + (x - fixed.x) * sx, y: fixed.y + (y - fixed.y) * sy })
  switch (region.kind) {
    case 'circle':
      return { ...region, centre: stretch(region.centre), radius: region.radius * Math.min(sx, sy) }
    case 'ellipse':
      return { ...region, centre: stretch(region.centre), radiusX: region.radiusX * sx, radiusY: region.radiusY * sy }
    case 'rectangle':
      return { ...region, ...stretch(region), width: region.width * sx, height: region.height * sy }
    case 'polygon':
      return { ...region, vertices: region.vertices.map(stretch) }
  }
}

/** @param {Region} region @param {number} by @returns {Region} As on a picture that is so many times as tall. */
export const stretched = (region, by) => scaled(region, { x: 0, y: 0 }, 1, by)

/** The smallest side of a region that a gesture makes, in picture units. */
export const smallestSide = 12

/** @param {Region} region @param {number} by @returns {Region} Grown by so many units on each side. */
export function grown(region, by) {
  const { left, top, right, bottom } = boundsOf(region)
  const [width, height] = [right - left, bottom - top]
  const [wider, taller] = [Math.max(smallestSide, width + 2 * by), Math.max(smallestSide, height + 2 * by)]
  return scaled(region, { x: (left + right) / 2, y: (top + bottom) / 2 }, wider / width, taller / height)
}

/**
 * @param {Region} region
 * @param {Corner} corner
 * @param {Point} to
 * @returns {Region} With one corner dragged to a point; the opposite one stays, but a circle keeps its middle.
 */
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

/** @typedef {'nw' | 'ne' | 'sw' | 'se'} Corner */

/** @param {Region} region @param {Point} to @returns {Region} Turned so that its upper side faces a point; only rectangles turn. */
export function turned(region, to) {
  if (region.kind !== 'rectangle') return region
  const [x, y] = [region.x + region.width / 2, region.y + region.height / 2]
  const degrees = Math.round((Math.atan2(to.x - x, y - to.y) * 180) / Math.PI)
  // Upright and level are easy to hit.
  const near = Math.round(degrees / 90) * 90
  return { ...region, rotation: Math.abs(degrees - near) <= 3 ? near : degrees }
}

/** @param {Region} region @param {number} width @param {number} height @returns {Region} About its middle. */
export function sized(region, width, height) {
  const { left, top, right, bottom } = boundsOf(region)
  return scaled(region, { x: (left + right) / 2, y: (top + bottom) / 2 }, width / (right - left), height / (bottom - top))
}

/**
 * @param {Point[]} path A free line of a hand.
 * @param {number} tolerance In picture units.
 * @returns {Point[]} Its corners. Source: Ramer (1972), Douglas and Peucker (1973).
 */
export function simplified(path, tolerance) {
  if (path.length < 3) return path
  const [first, last] = [path[0], path[path.length - 1]]
  const length = Math.hypot(last.x - first.x, last.y - first.y)
  let [far, index] = [0, 0]
  for (let i = 1; i < path.length - 1; i++) {
    const { x, y } = path[i]
    const off =
      length === 0
        ? Math.hypot(x - first.x, y - first.y)
        : Math.abs((last.x - first.x) * (first.y - y) - (first.x - x) * (last.y - first.y)) / length
    if (off > far) [far, index] = [off, i]
  }
  if (far <= tolerance) return [first, last]
  return [...simplified(path.slice(0, index + 1), tolerance).slice(0, -1), ...simplified(path.slice(index), tolerance)]
}

/** @param {Point[]} path @returns {Region | null} The polygon that a free line encloses; null when it encloses none. */
export function outlined(path) {
  if (path.length < 4) return null
  // From the point farthest from the first, so that both halves are open lines.
  const far = path.reduce((best, point, i) => (distance(point, path[0]) > distance(path[best], path[0]) ? i : best), 0)
  const vertices = [...simplified(path.slice(0, far + 1), 4).slice(0, -1), ...simplified([...path.slice(far), path[0]], 4).slice(0, -1)]
  return vertices.length < 3 || crossesItself(vertices) ? null : { kind: 'polygon', vertices: vertices.map(roundedPoint) }
}

/** @param {Point} a @param {Point} b */
const distance = (a, b) => Math.hypot(a.x - b.x, a.y - b.y)

/** @param {Point[]} vertices */
export function crossesItself(vertices) {
  const count = vertices.length
  /** @param {Point} a @param {Point} b @param {Point} c */
  const side = (a, b, c) => (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)
  for (let i = 0; i < count; i++) {
    for (let j = i + 2; j < count; j++) {
      if (i === 0 && j === count - 1) continue
      const [a, b, c, d] = [vertices[i], vertices[i + 1], vertices[j], vertices[(j + 1) % count]]
      // In a point that is no end of either edge.
      if (side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0) return true
    }
  }
  return false
}

/** @param {Region} region @param {Region['kind']} shape @returns {Region} Another shape of the same size in the same place. */
export function asShape(region, shape) {
  const [x, y, width, height] = measuresOf(region)
  switch (shape) {
    case 'circle':
      return { kind: 'circle', centre: { x, y }, radius: Math.max(width, height) / 2 }
    case 'ellipse':
      return { kind: 'ellipse', centre: { x, y }, radiusX: width / 2, radiusY: height / 2 }
    case 'rectangle':
      return { kind: 'rectangle', x: x - width / 2, y: y - height / 2, width, height }
    case 'polygon':
      return { kind: 'polygon', vertices: outlineOf(region) }
  }
}

/** @param {Region} region @returns {number[]} Its middle, width and height; of a turned box as if it were upright. */
export function measuresOf(region) {
  const { left, right, top, bottom } = boundsOf(region.kind === 'rectangle' ? { ...region, rotation: 0 } : region)
  return [(left + right) / 2, (top + bottom) / 2, right - left, bottom - top]
}

/** The corners that a round region gets when it becomes an outline. */
const roundCorners = 12

/** @param {Region} region @returns {Point[]} */
function outlineOf(region) {
  if (region.kind === 'polygon') return region.vertices
  const [x, y, width, height] = measuresOf(region)
  if (region.kind !== 'rectangle') {
    return Array.from({ length: roundCorners }, (_, i) => (2 * Math.PI * i) / roundCorners).map(turn => ({
      x: x + (width / 2) * Math.cos(turn),
      y: y + (height / 2) * Math.sin(turn),
    }))
  }
  const turn = ((region.rotation ?? 0) * Math.PI) / 180
  return [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ]
    .map(([dx, dy]) => [(dx * width) / 2, (dy * height) / 2])
    .map(([dx, dy]) => ({ x: x + dx * Math.cos(turn) - dy * Math.sin(turn), y: y + dx * Math.sin(turn) + dy * Math.cos(turn) }))
}

/** @param {Region} region @param {number} index Of a corner. @returns {Region} Without it, as long as an outline is left. */
export function withoutCorner(region, index) {
  if (region.kind !== 'polygon' || region.vertices.length <= 3) return region
  const vertices = region.vertices.toSpliced(index, 1)
  return crossesItself(vertices) ? region : { ...region, vertices }
}
