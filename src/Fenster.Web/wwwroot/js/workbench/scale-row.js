// The scale of a pane: calibrated by two clicks, and changed in its row.

import { withScale } from './pane.js'
import { valueOf } from '../scene/scale.js'

/** @param {Point} from @param {Point} to @returns {Scale} A scale between two clicks, until its values are typed. */
export const freshScale = (from, to) => ({ x: { from, to, fromValue: 0, toValue: 10, kind: 'linear' }, y: null })

/** @param {PanePart} pane @param {string} name @param {string} value @returns {PanePart} */
export function setScale(pane, name, value) {
  const { scale } = pane
  if (!scale) return pane
  if (name === 'second') {
    const { from, fromValue, toValue } = scale.x
    return withScale(pane, {
      ...scale,
      y: {
        from,
        to: { x: from.x, y: Math.max(from.y - 300, 10) },
        fromValue: scale.x.kind === 'linear' ? fromValue : 0,
        toValue: scale.x.kind === 'linear' ? toValue : 10,
        kind: 'linear',
      },
    })
  }
  if (name === 'noSecond') return withScale(pane, { ...scale, y: null })
  const [which, part] = /** @type {['x' | 'y', string]} */ (name.split('.'))
  const axis = scale[which]
  if (!axis) return pane
  const next = part === 'kind' ? asKind(axis, value) : withValue(axis, part === 'from' ? 'fromValue' : 'toValue', value)
  const isSound = next.fromValue !== next.toValue && (next.kind !== 'logarithmic' || (next.fromValue > 0 && next.toValue > 0))
  return isSound ? withScale(pane, { ...scale, [which]: next }) : pane
}

/** @param {Axis} axis @param {'fromValue' | 'toValue'} end @param {string} words @returns {Axis} */
function withValue(axis, end, words) {
  const value = valueOf(axis, words)
  return value === null ? axis : { ...axis, [end]: value }
}

/** @param {Axis} axis @param {string} kind @returns {Axis} With values that such an axis can have. */
function asKind(axis, kind) {
  if (kind === 'logarithmic')
    return {
      ...axis,
      kind,
      fromValue: axis.fromValue > 0 ? axis.fromValue : 1,
      toValue: axis.toValue > 0 && axis.toValue !== axis.fromValue ? axis.toValue : 1000,
    }
  if (kind === 'date') return { ...axis, kind, fromValue: -18262, toValue: 10957 }
  return { ...axis, kind: 'linear', ...(axis.kind === 'date' ? { fromValue: 0, toValue: 10 } : {}) }
}
