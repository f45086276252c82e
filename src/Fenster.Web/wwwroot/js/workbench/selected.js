// What is done to all that is selected.

import { phrase } from '../language.js'
import { post } from '../http.js'
import { boundsOf } from '../scene/geometry.js'
import { arranged } from './arrange.js'
import { duplicate, reordered, targetOf, withTarget } from './pane.js'

/**
 * @param {import('./desk.js').Desk} desk
 * @param {ReturnType<typeof import('./picture.js').picturePart>} picture
 * @returns {import('./desk.js').Part}
 */
export function selectedPart(desk, picture) {
  const { pane, change, announce, selectedRows } = desk
  return {
    show() {
      const count = desk.selection().length
      Object.assign(desk.state(), { isNone: count === 0, isOne: count > 0, isMany: count > 1, arrangeClass: count > 0 ? 'arrange-on' : '' })
    },
    page: {
      isNone: true,
      isMany: false,
      isOne: false,
      arrangeClass: '',
      /** @param {Event} event */
      arrange(event) {
        const how = /** @type {import('./arrange.js').Arrangement} */ (/** @type {HTMLElement} */ (event.currentTarget).dataset.how)
        change(arranged(pane(), desk.selection(), how))
      },
      makeFront() {
        change(reordered(pane(), selectedRows(), 'front'))
      },
      makeBack() {
        change(reordered(pane(), selectedRows(), 'back'))
      },
      duplicate() {
        const { pane: changed, made } = duplicate(pane(), selectedRows())
        change(changed)
        desk.select(made)
      },
      interchange() {
        const zones = selectedRows().filter(row => ['dropZone', 'hiddenZone'].includes(targetOf(pane(), row)?.kind ?? ''))
        const taken = pane().targets.map(target => ('group' in target ? target.group : null))
        let number = 1
        while (taken.includes(phrase('bench.groupName', { number }))) number++
        const group = phrase('bench.groupName', { number })
        change({ ...pane(), targets: pane().targets.map(target => (zones.includes(target.id) ? { ...target, group } : target)) })
        announce(phrase('bench.interchanged', { count: zones.length }))
      },
      /** Zones go to the sides of the picture, each with a line to the spot where it was; without a selection all of them. */
      async layOutLines() {
        const rows = selectedRows()
        const plane = picture.bench()?.stage.plane
        const zones = /** @type {ZonePart[]} */ (
          pane().targets.filter(target => target.kind === 'dropZone' && (rows.length < 2 || rows.includes(target.id)))
        )
        if (!plane || zones.length === 0) return
        const sizes = zones.map(zone => boundsOf(zone.region))
        const spots = zones.map(
          (zone, i) => zone.leader ?? { x: (sizes[i].left + sizes[i].right) / 2, y: (sizes[i].top + sizes[i].bottom) / 2 },
        )
        const answer = await post(`${desk.url}?handler=Lines`, {
          spots,
          width: Math.max(...sizes.map(b => b.right - b.left)),
          height: Math.max(...sizes.map(b => b.bottom - b.top)),
          plane,
        })
        if (!answer.ok) {
          desk.state().problem = answer.sentence
          return
        }
        change(
          zones.reduce(
            (changed, zone, i) => withTarget(changed, { ...zone, region: { kind: 'rectangle', ...answer.body[i] }, leader: spots[i] }),
            pane(),
          ),
        )
        announce(phrase('bench.theZonesStandAtTheSides'))
      },
    },
  }
}
