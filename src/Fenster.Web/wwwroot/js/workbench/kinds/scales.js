// Values on a scale: shown by a label's pin or by a mark.

import { phrase } from '../../language.js'
import { freshId, labelOf, spotRadius, withLabel, withTarget } from '../pane.js'
import { pointOnScale, tidied, valueOf, valueOnScale, wordsOf } from '../../scene/scale.js'
import { choice, commonLines, setCommon, setTolerance, text } from './fields.js'
import { labelLines, setLabel } from './zones.js'

export const scalePoint = {
  word: phrase('bench.pointOnTheScale'),
  isPoint: true,
  asks: /** @type {const} */ ('point'),
  /** @param {PanePart} pane @param {Point} at */
  make(pane, at) {
    const scale = /** @type {Scale} */ (pane.scale)
    const value = valueOnScale(scale, at)
    const label = { id: freshId(pane, 'label'), text: '', copies: 1 }
    const target = {
      kind: /** @type {const} */ ('scalePoint'),
      id: label.id.replace('label', 'value'),
      scale,
      x: tidied(scale.x, value.x),
      y: scale.y ? tidied(scale.y, value.y) : 0,
      label: label.id,
      within: { slack: usualTolerance(scale.x), bands: [] },
    }
    return { pane: { ...pane, labels: [...pane.labels, label], targets: [...pane.targets, target] }, id: target.id }
  },
  /** @param {ScalePart} target @returns {Region[]} */
  shapes: target => [{ kind: 'circle', centre: pointOnScale(target.scale, target.x, target.y ?? 0), radius: spotRadius }],
  /** @param {ScalePart} target @param {number} _ @param {Region} region */
  withShape(target, _, region) {
    if (region.kind !== 'circle') return target
    const value = valueOnScale(target.scale, region.centre)
    return { ...target, x: tidied(target.scale.x, value.x), y: target.scale.y ? tidied(target.scale.y, value.y) : 0 }
  },
  /** @param {ScalePart} target @param {PanePart} pane */
  main: (target, pane) =>
    target.label
      ? {
          text: labelOf(pane, target.label)?.text ?? '',
          placeholder: phrase('bench.typeTheLabel'),
          name: phrase('bench.labelOnTheScale'),
          label: target.label,
        }
      : { text: target.prompt ?? '', placeholder: phrase('bench.whatToMarkSuchAsMark2'), name: phrase('bench.whatToMarkOnTheScale') },
  /** @param {PanePart} pane @param {ScalePart} target @param {string} words */
  rename: (pane, target, words) =>
    target.label ? withLabel(pane, target.label, { text: words }) : withTarget(pane, { ...target, prompt: words }),
  /** @param {ScalePart} target @param {PanePart} pane */
  lines(target, pane) {
    const label = target.label ? labelOf(pane, target.label) : undefined
    return [
      [
        text('x', target.scale.y ? phrase('bench.valueAcross') : phrase('bench.value'), wordsOf(target.scale.x, target.x)),
        ...(target.scale.y ? [text('y', phrase('bench.valueUp'), wordsOf(target.scale.y, target.y ?? 0))] : []),
      ],
      [
        choice('shown', phrase('bench.shownBy'), target.label ? 'label' : 'mark', {
          label: phrase('bench.aLabel'),
          mark: phrase('bench.aMark'),
        }),
      ],
      ...(label ? labelLines(label) : []),
      ...commonLines(target),
    ]
  },
  /** @param {PanePart} pane @param {ScalePart} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    if (name.startsWith('label.') && target.label) return setLabel(pane, target.label, name.slice(6), value)
    if (name === 'x' || name === 'y') {
      const axis = name === 'x' ? target.scale.x : target.scale.y
      const read = axis && valueOf(axis, value)
      return read === null || read === undefined ? pane : withTarget(pane, { ...target, [name]: read })
    }
    if (name === 'showsValue') return withTarget(pane, { ...target, showsValue: value })
    if (name === 'shown') return asShown(pane, target, value)
    if (name === 'slack' || name.startsWith('band.'))
      return withTarget(pane, { ...target, within: setTolerance(target.within, name, value) })
    return withTarget(pane, setCommon(target, name, value))
  },
}

/** A fiftieth of the axis is near enough for a hand on a phone; common practice. @param {Axis} axis */
const usualTolerance = axis =>
  axis.kind === 'logarithmic' ? Number((axis.fromValue / 10).toPrecision(1)) : tidied(axis, Math.abs(axis.toValue - axis.fromValue) / 50)

/** @param {PanePart} pane @param {ScalePart} target @param {string} how @returns {PanePart} */
function asShown(pane, target, how) {
  if (how === 'label' && !target.label) {
    const label = { id: freshId(pane, 'label'), text: target.prompt ?? '', copies: 1 }
    return withTarget({ ...pane, labels: [...pane.labels, label] }, { ...target, label: label.id })
  }
  if (how === 'mark' && target.label) {
    const words = labelOf(pane, target.label)?.text ?? ''
    return withTarget(
      { ...pane, labels: pane.labels.filter(label => label.id !== target.label) },
      { ...target, label: null, prompt: target.prompt || words },
    )
  }
  return pane
}
