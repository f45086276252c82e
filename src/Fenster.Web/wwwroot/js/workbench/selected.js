// What is done to all that is selected.

import { phrase } from '../language.js'
import { post } from '../http.js'
import { boundsOf } from '../scene/geometry.js'
import { arranged } from './arrange.js'
import { duplicate, reordered, shapesOf, targetOf, withTarget } from './pane.js'

/** Between the tools and what is selected, in CSS pixels: its handles stay free. */
const gap = 14

/**
 * @param {import('./desk.js').Desk} desk
 * @param {ReturnType<typeof import('./picture.js').picturePart>} picture
 * @returns {import('./desk.js').Part}
 */
export function selectedPart(desk, picture) {
  const { pane, change, announce, selectedRows } = desk

  let shown = ''

  /** Brings the tools to what is selected: over it, or under it where there is no room, and never out of the picture's part. */
  const place = () => {
    const stage = picture.bench()?.stage
    const tools = /** @type {HTMLElement} */ (document.getElementById('at-selection'))
    const bounds = shapesOf(pane())
      .filter(shape => desk.selection().includes(shape.key))
      .map(shape => boundsOf(shape.region))
    if (!stage || bounds.length === 0) return
    const [mat, at, from] = [stage.mat, stage.element, tools.offsetParent].map(part => part?.getBoundingClientRect())
    if (!mat || !at || !from) return
    const across = (/** @type {number} */ x) => at.left + (x - stage.plane.left) * stage.scale()
    const down = (/** @type {number} */ y) => at.top + (y - stage.plane.top) * stage.scale()
    const middle = across((Math.min(...bounds.map(b => b.left)) + Math.max(...bounds.map(b => b.right))) / 2)
    const above = down(Math.min(...bounds.map(b => b.top))) - tools.offsetHeight - gap
    const below = down(Math.max(...bounds.map(b => b.bottom))) + gap
    const top = Math.min(above >= mat.top ? above : below, mat.bottom - tools.offsetHeight)
    const left = Math.max(mat.left, Math.min(middle - tools.offsetWidth / 2, mat.right - tools.offsetWidth))
    tools.style.translate = `${left - from.left}px ${Math.max(mat.top, top) - from.top}px`
  }

  return {
    show() {
      const shapes = shapesOf(pane()).filter(shape => desk.selection().includes(shape.key))
      const selection = desk.selection().join(' ')
      if (selection !== shown) desk.state().isTyping = false
      shown = selection
      // Who names what they just made looks for the next place: nothing lies over the picture then.
      const isNamed = shapes.length > 1 || desk.state().rows.some((/** @type {any} */ row) => row.key === shapes[0]?.row && row.text)
      Object.assign(desk.state(), { isOne: shapes.length > 0 && isNamed && !desk.state().isTyping, isMany: shapes.length > 1 })
      if (shapes.length > 0) requestAnimationFrame(place)
    },
    listen() {
      const mat = /** @type {HTMLElement} */ (document.getElementById('mat'))
      mat.addEventListener('scroll', place, { passive: true })
      const sized = new ResizeObserver(place)
      sized.observe(mat)
      const tools = /** @type {HTMLElement} */ (document.getElementById('at-selection'))
      sized.observe(tools)
      // By hand and not by a style rule, which would be asked again with every step of a drag.
      mat.addEventListener('pointerdown', () => tools.classList.add('is-aside'))
      for (const end of ['pointerup', 'pointercancel']) addEventListener(end, () => tools.classList.remove('is-aside'))
      mat.addEventListener('wheel', () => requestAnimationFrame(place), { passive: true })
    },
    page: {
      isMany: false,
      isTyping: false,
      isOne: false,
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
