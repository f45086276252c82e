// Regions to sort or collect into.

import { phrase } from '../../language.js'
import { freshId, withTarget } from '../pane.js'
import { check, commonLines, numberIn, regionFields, setCommon, withRegionField } from './fields.js'

export const sortRegion = {
  word: phrase('bench.sortingRegion'),
  isPoint: false,
  asks: /** @type {const} */ ('region'),
  /** @param {PanePart} pane @param {Region} region */
  make(pane, region) {
    const target = {
      kind: /** @type {const} */ ('sortRegion'),
      id: freshId(pane, 'region'),
      prompt: '',
      region,
      want: { kind: /** @type {const} */ ('set'), labels: /** @type {string[]} */ ([]) },
    }
    return { pane: { ...pane, targets: [...pane.targets, target] }, id: target.id }
  },
  /** @param {PartOf<'sortRegion'>} target */
  shapes: target => [target.region],
  /** @param {PartOf<'sortRegion'>} target @param {number} _ @param {Region} region */
  withShape: (target, _, region) => ({ ...target, region }),
  /** @param {PartOf<'sortRegion'>} target */
  main: target => ({
    text: target.prompt ?? '',
    placeholder: phrase('bench.whatBelongsHereSuchAsMammals'),
    name: phrase('bench.nameOfTheRegion'),
  }),
  /** @param {PanePart} pane @param {PartOf<'sortRegion'>} target @param {string} prompt */
  rename: (pane, target, prompt) => withTarget(pane, { ...target, prompt }),
  /** @param {PartOf<'sortRegion'>} target @param {PanePart} pane */
  lines(target, pane) {
    const { want } = target
    const named =
      want.kind === 'total'
        ? []
        : pane.labels
            .filter(label => label.text.trim())
            .map(label => [check(`wants.${label.id}`, label.text, want.labels.includes(label.id))])
    return [...named, ...commonLines(target), regionFields(target.region)]
  },
  /** @param {PanePart} pane @param {PartOf<'sortRegion'>} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    const { want } = target
    /** @param {PartOf<'sortRegion'>['want']} next */
    const wanting = next => withTarget(pane, { ...target, want: next })
    if (name === 'want') {
      const labels = want.kind === 'total' ? [] : want.labels
      if (value === 'total') return wanting({ kind: 'total', from: 10, to: 10 })
      return wanting(
        value === 'set' ? { kind: 'set', labels } : { kind: 'count', labels, is: 'exactly', number: Math.max(1, labels.length) },
      )
    }
    if (name.startsWith('wants.') && want.kind !== 'total') {
      const id = name.slice(6)
      return wanting({ ...want, labels: value ? [...want.labels, id] : want.labels.filter(label => label !== id) })
    }
    if (name === 'is' && want.kind === 'count') return wanting({ ...want, is: value })
    const typed = numberIn(value)
    if (name === 'number' && want.kind === 'count')
      return typed !== null && typed >= 0 ? wanting({ ...want, number: Math.round(typed) }) : pane
    if ((name === 'from' || name === 'to') && want.kind === 'total') {
      if (typed === null) return pane
      return wanting(
        name === 'from' ? { ...want, from: typed, to: Math.max(typed, want.to) } : { ...want, to: typed, from: Math.min(typed, want.from) },
      )
    }
    if (name === 'showsTally') return withTarget(pane, { ...target, showsTally: value })
    if (name.startsWith('region.'))
      return withTarget(pane, { ...target, region: withRegionField(target.region, name.slice(7), value, pane) })
    return withTarget(pane, setCommon(target, name, value))
  },
}
