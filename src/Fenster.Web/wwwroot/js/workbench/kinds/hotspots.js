// Regions that students find by marking them: one, all, or any number of them.

import { phrase } from '../../language.js'
import { freshId, targetOf, withTarget } from '../pane.js'
import { commonLines, note, regionFields, setCommon, setTolerance, withRegionField } from './fields.js'

export const hotspots = {
  word: phrase('bench.hotspot'),
  isPoint: false,
  asks: /** @type {const} */ ('region'),

  /**
   * A further place of the hotspots whose row is chosen, or else the first of new ones.
   * @param {PanePart} pane
   * @param {Region} region
   * @param {string | null} chosen
   */
  make(pane, region, chosen) {
    const group = targetOf(pane, chosen ?? '')
    if (group?.kind !== 'hotspots') {
      const target = { kind: /** @type {const} */ ('hotspots'), id: freshId(pane, 'hotspots'), prompt: '', needed: 1, spots: [{ region }] }
      return { pane: { ...pane, targets: [...pane.targets, target] }, id: target.id }
    }
    const needed = group.needed === group.spots.length ? group.needed + 1 : group.needed
    const tolerance = group.spots[0].tolerance
    return {
      pane: withTarget(pane, { ...group, needed, spots: [...group.spots, { region, ...(tolerance ? { tolerance } : {}) }] }),
      id: group.id,
    }
  },
  /** @param {PartOf<'hotspots'>} target */
  shapes: target => target.spots.map(spot => spot.region),
  /** @param {PartOf<'hotspots'>} target @param {number} part @param {Region} region */
  withShape: (target, part, region) => ({ ...target, spots: target.spots.map((spot, i) => (i === part ? { ...spot, region } : spot)) }),
  /** @param {PartOf<'hotspots'>} target */
  main: target => ({ text: target.prompt ?? '', placeholder: phrase('bench.whatToMarkSuchAsMark'), name: phrase('bench.whatToMark') }),
  /** @param {PanePart} pane @param {PartOf<'hotspots'>} target @param {string} prompt */
  rename: (pane, target, prompt) => withTarget(pane, { ...target, prompt }),
  /** @param {PartOf<'hotspots'>} target */
  lines: target => [
    ...commonLines(target),
    ...target.spots.map((spot, i) => [
      ...(target.spots.length > 1 ? [note(`place.${i}`, phrase('bench.place', { number: i + 1 }))] : []),
      ...regionFields(spot.region, `spot.${i}`),
    ]),
  ],
  /** @param {PanePart} pane @param {PartOf<'hotspots'>} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    if (name === 'needed') return withTarget(pane, { ...target, needed: Number(value) })
    if (name === 'slack' || name.startsWith('band.'))
      return withTarget(pane, {
        ...target,
        spots: target.spots.map(spot => ({ ...spot, tolerance: setTolerance(spot.tolerance, name, value) })),
      })
    const [what, index, part] = name.split('.')
    if (what === 'spot') {
      return withTarget(
        pane,
        hotspots.withShape(target, Number(index), withRegionField(target.spots[Number(index)].region, part, value, pane)),
      )
    }
    return withTarget(pane, setCommon(target, name, value))
  },
}
