// A scale as it is drawn: where a value lies, and what a spot reads. Checking is the server’s.

/** @param {Axis} axis @param {number} value @returns {number} */
const shareOf = ({ fromValue, toValue, kind }, value) =>
  kind === 'logarithmic' ? Math.log(value / fromValue) / Math.log(toValue / fromValue) : (value - fromValue) / (toValue - fromValue)

/** @param {Axis} axis @param {number} share @returns {number} */
const valueAt = ({ fromValue, toValue, kind }, share) =>
  kind === 'logarithmic' ? fromValue * (toValue / fromValue) ** share : fromValue + share * (toValue - fromValue)

/** @param {Scale} scale @param {Point} point @returns {{x: number, y: number}} */
export function valueOnScale({ x, y }, point) {
  if (!y) return { x: valueAt(x, along(x, point, null)), y: 0 }
  return { x: valueAt(x, along(x, point, y)), y: valueAt(y, along(y, point, x)) }
}

/** @param {Scale} scale @param {number} valueX @param {number} valueY @returns {Point} */
export function pointOnScale({ x, y }, valueX, valueY) {
  const share = shareOf(x, valueX)
  const point = { x: x.from.x + share * (x.to.x - x.from.x), y: x.from.y + share * (x.to.y - x.from.y) }
  if (!y) return point
  const rest = shareOf(y, valueY) - along(y, point, x)
  return { x: point.x + rest * (y.to.x - y.from.x), y: point.y + rest * (y.to.y - y.from.y) }
}

/** @param {Axis} axis @param {Point} point @param {Axis | null} across @returns {number} */
function along(axis, point, across) {
  const [dx, dy] = [axis.to.x - axis.from.x, axis.to.y - axis.from.y]
  const [px, py] = [point.x - axis.from.x, point.y - axis.from.y]
  if (!across) return (px * dx + py * dy) / (dx * dx + dy * dy)
  const [ax, ay] = [across.to.x - across.from.x, across.to.y - across.from.y]
  return (px * ay - py * ax) / (dx * ay - dy * ax)
}

const day = 86_400_000

/** @param {Axis} axis @param {number} value @returns {string} As it is typed: a number, or a date. */
export function wordsOf(axis, value) {
  if (axis.kind === 'date') return new Date(value * day).toISOString().slice(0, 10)
  return String(Number(value.toPrecision(6)))
}

/** @param {Axis} axis @param {string} text @returns {number | null} Null when it is no value of the axis. */
export function valueOf(axis, text) {
  if (axis.kind === 'date') {
    const time = Date.parse(/^\d{1,4}$/.test(text.trim()) ? `${text.trim().padStart(4, '0')}-01-01` : text)
    return Number.isFinite(time) ? Math.round(time / day) : null
  }
  const value = Number(text.trim().replace(',', '.'))
  return text.trim() !== '' && Number.isFinite(value) ? value : null
}

/** @param {Axis} axis @param {number} value @returns {number} To about a thousandth of the axis. */
export function tidied(axis, value) {
  if (axis.kind === 'date') return Math.round(value)
  if (axis.kind === 'logarithmic') return Number(value.toPrecision(3))
  const step = 10 ** Math.floor(Math.log10(Math.abs(axis.toValue - axis.fromValue) / 500))
  return Number((Math.round(value / step) * step).toPrecision(10))
}
