// Where things lie, in picture units: the same as the rules say, as far as a hand and an eye need it.

/** @param {Region} region @returns {Bounds} The upright box around a region, before any rotation. */
export function boundsOf(region) {
  switch (region.kind) {
    case 'circle':
      return around(region.centre, region.radius, region.radius)
    case 'ellipse':
      return around(region.centre, region.radiusX, region.radiusY)
    case 'rectangle':
      return { left: region.x, top: region.y, right: region.x + region.width, bottom: region.y + region.height }
    case 'polygon': {
      const [xs, ys] = [region.vertices.map(v => v.x), region.vertices.map(v => v.y)]
      return { left: Math.min(...xs), top: Math.min(...ys), right: Math.max(...xs), bottom: Math.max(...ys) }
    }
  }
}

/** @param {Point} centre @param {number} rx @param {number} ry @returns {Bounds} */
const around = ({ x, y }, rx, ry) => ({ left: x - rx, top: y - ry, right: x + rx, bottom: y + ry })

/** @param {Region} region @returns {Point} */
export function centreOf(region) {
  const { left, top, right, bottom } = boundsOf(region)
  return { x: (left + right) / 2, y: (top + bottom) / 2 }
}

/** @param {Region} region @param {Point} point @returns {number} Distance in picture units; 0 inside. For aiming, not for checking. */
export function distanceTo(region, point) {
  switch (region.kind) {
    case 'circle':
      return Math.max(0, Math.hypot(point.x - region.centre.x, point.y - region.centre.y) - region.radius)
    case 'ellipse': {
      const out = Math.hypot((point.x - region.centre.x) / region.radiusX, (point.y - region.centre.y) / region.radiusY)
      return Math.max(0, (out - 1) * Math.min(region.radiusX, region.radiusY))
    }
    case 'rectangle': {
      const centre = centreOf(region)
      const turn = -((region.rotation ?? 0) * Math.PI) / 180
      const dx = Math.abs((point.x - centre.x) * Math.cos(turn) - (point.y - centre.y) * Math.sin(turn)) - region.width / 2
      const dy = Math.abs((point.x - centre.x) * Math.sin(turn) + (point.y - centre.y) * Math.cos(turn)) - region.height / 2
      return Math.hypot(Math.max(0, dx), Math.max(0, dy))
    }
    case 'polygon':
      return distanceToPolygon(region.vertices, point)
  }
}

/** @param {Point[]} vertices @param {Point} point */
function distanceToPolygon(vertices, point) {
  let inside = false
  let nearest = Infinity
  vertices.forEach((to, i) => {
    const from = vertices.at(i - 1) ?? to
    const [dx, dy] = [to.x - from.x, to.y - from.y]
    if (from.y > point.y !== to.y > point.y && point.x < (dx * (point.y - from.y)) / dy + from.x) inside = !inside
    const along = Math.min(1, Math.max(0, ((point.x - from.x) * dx + (point.y - from.y) * dy) / (dx * dx + dy * dy || 1)))
    nearest = Math.min(nearest, Math.hypot(point.x - from.x - along * dx, point.y - from.y - along * dy))
  })
  return inside ? 0 : nearest
}

/** @param {Picture} picture @returns {Bounds} What its file covers, in picture units. */
export function planeOf({ width, height, margins }) {
  const { left, top, right } = margins ?? { left: 0, top: 0, right: 0 }
  const across = 1000 + left + right
  return { left: -left, top: -top, right: 1000 + right, bottom: (across * height) / width - top }
}
