// What a click on the picture makes, and what waits for a place on it.

import { phrase } from '../language.js'
import { usualRegion } from './bench.js'
import { kinds } from './kinds/all.js'
import { addLabels, labelOf, placeLabel, shapesOf, targetOf, withoutPlace } from './pane.js'
import { inside, rounded } from './regions.js'
import { freshScale } from './scale-row.js'
import { rowOf, valueOf } from './typing.js'

const tools = Object.entries(kinds)
  .filter(([, { asks }]) => asks !== null)
  .map(([kind, { word }]) => ({ kind, word }))

/** Kinds whose row says all that they need. @type {string[]} */
const simple = ['dropZone', 'hiddenZone', 'hotspots', 'openNote']

/**
 * @param {import('./desk.js').Desk} desk
 * @param {ReturnType<typeof import('./picture.js').picturePart>} picture
 * @param {ReturnType<typeof import('./tracing.js').tracingPart>} tracing
 */
export function makingPart(desk, picture, tracing) {
  const { pane, change, announce, selectedRows, focusRow } = desk
  /** The label without a place that the next click on the picture puts there. @type {string | null} */
  let next = null
  let shownIndex = desk.index()
  /** The first of the two clicks that calibrate a scale. @type {Point | null} */
  let calibrating = null

  const nameOfNext = () => labelOf(pane(), next ?? '')?.text ?? ''
  const kind = () => kinds[/** @type {TargetPart['kind']} */ (desk.state().tool)]
  /** @param {Point} point */
  const tidied = ({ x, y }) => ({ x: Math.round(x * 100) / 100, y: Math.round(y * 100) / 100 })

  /** The line over the picture: what a click makes. */
  const showLine = () => {
    const state = desk.state()
    const { tool } = state
    state.waiting = next ? nameOfNext() : ''
    state.saysScale = tool === 'scalePoint' && !pane().scale
    state.saysClick = !next && !state.saysScale
    state.scaleStep = calibrating ? phrase('bench.nowClickASecondPositionWhose') : phrase('bench.clickAPositionOnTheScale')
    state.asksRegion = (kind()?.asks ?? 'point') === 'region'
    const isFurther = tool === 'hotspots' && targetOf(pane(), selectedRows()[0] ?? '')?.kind === 'hotspots'
    state.clickHint = isFurther
      ? phrase('bench.oneMorePlaceForTheRow')
      : state.asksRegion || tool === 'hotspots'
        ? phrase('bench.aDragDrawsItShiftDrag')
        : ''
  }

  /**
   * Makes what the line over the picture says.
   * @param {Point} at
   * @param {Region | null} region
   * @param {boolean} [isByKey] Then the keyboard stays on the picture.
   */
  function make(at, region, isByKey = false) {
    const { tool, shape, saysScale } = desk.state()
    // The keyboard points at nothing: it makes what is usual, and says so at once.
    if (!region && !isByKey && shape === 'traced' && (next || kind().asks === 'region')) {
      tracing.trace(at, found => make(at, found))
      return
    }
    if (next) return placeNext(region ?? usualRegion(pane(), 'dropZone', at, shape, next))
    if (saysScale) return calibrate(at)
    const from = kind().asks === 'region' ? rounded(inside(region ?? usualRegion(pane(), tool, at, shape, null), pane())) : tidied(at)
    add(kind().make(pane(), from, selectedRows()[0] ?? null), isByKey)
  }

  /** @param {{pane: PanePart, id: string}} made @param {boolean} [isByKey] */
  function add({ pane: changed, id }, isByKey = false) {
    if (changed.targets.length > 1 && changed.targets.some(target => target.kind === 'ownPicture'))
      return announce(phrase('bench.ownAlone'))
    // Of several spots the one that was just made.
    const key = shapesOf(changed).findLast(shape => shape.row === id && shape.kind !== 'start')?.key ?? id
    desk.mark([key], simple.includes(targetOf(changed, id)?.kind ?? '') ? null : id)
    change(changed)
    if (!isByKey) focusRow(id)
  }

  /** @param {Point} at */
  function calibrate(at) {
    const point = tidied(at)
    if (!calibrating) {
      calibrating = point
      showLine()
      announce(phrase('bench.theFirstPositionIsSetNow'))
      return
    }
    const from = calibrating
    if (Math.hypot(from.x - point.x, from.y - point.y) < 5) return
    calibrating = null
    desk.mark(desk.selection(), 'scale')
    change({ ...pane(), scale: freshScale(from, point) })
    requestAnimationFrame(() => {
      const first = /** @type {HTMLInputElement | null} */ (desk.root.querySelector('[data-row="scale"] .field input'))
      first?.focus()
      first?.select()
    })
    announce(phrase('bench.theScaleIsSetTypeWhat'))
  }

  /** Gives the label that waits for a place this one; the next that waits is named then. @param {Region} region */
  function placeNext(region) {
    const order = pane().labels.map(label => label.id)
    const tool = desk.state().tool === 'hiddenZone' ? 'hiddenZone' : 'dropZone'
    const { pane: placed, target } = placeLabel(pane(), next ?? '', region, tool)
    const waiting = withoutPlace(placed).filter(label => label.text.trim() !== '')
    next = (waiting.find(label => order.indexOf(label.id) > order.indexOf(next ?? '')) ?? null)?.id ?? null
    desk.mark([target])
    change(placed)
    announce(next ? phrase('bench.placedNext', { label: nameOfNext() }) : phrase('bench.placedEveryLabelThatWasWaiting'))
  }

  /** Makes the next thing in the middle, below those already there, and leaves the keyboard on the picture to move it. */
  function makeByKey() {
    const bench = picture.bench()
    if (!bench) return
    const count = shapesOf(pane()).length
    const { top, bottom } = bench.stage.plane
    const at = { x: 500, y: top + (bottom - top) * (0.2 + ((count * 0.13) % 0.7)) }
    if (desk.state().saysScale) {
      calibrating = { x: 100, y: at.y }
      calibrate({ x: 900, y: at.y })
      return
    }
    const wasWaiting = next !== null
    make(at, null, true)
    bench.stage.element.focus()
    if (wasWaiting) return
    announce(desk.state().tool === 'dropZone' ? phrase('bench.aDropZoneWasMadeMove') : phrase('bench.itWasMadeMoveItWith'))
  }

  return {
    make,
    makeByKey,
    /** What a drag on the picture makes. */
    tool: () => (next ? 'dropZone' : desk.state().tool),
    /** Adds labels and lets the clicks that follow give them their places. @param {Omit<LabelPart, 'id'>[]} more */
    waitForPlaces(more) {
      const { pane: changed, labels } = addLabels(pane(), more)
      next = labels[0]
      change(changed)
      announce(phrase('bench.labelsAdded', { count: labels.length, label: nameOfNext() }))
    },
    show() {
      if (shownIndex !== desk.index() || (next && !withoutPlace(pane()).some(label => label.id === next))) next = null
      shownIndex = desk.index()
      showLine()
    },
    page: {
      tool: 'dropZone',
      tools,
      shape: 'rectangle',
      waiting: '',
      saysClick: true,
      saysScale: false,
      scaleStep: '',
      asksRegion: true,
      clickHint: '',
      makeByKey,
      /** @param {Event} event */
      setTool(event) {
        desk.state().tool = valueOf(event)
        calibrating = null
        desk.show()
      },
      /** @param {Event} event */
      setShape(event) {
        desk.state().shape = valueOf(event)
      },
      addMatching() {
        add(kinds.matching.make(pane(), null, null))
      },
      addOwnPicture() {
        add(kinds.ownPicture.make(pane(), null, null))
      },
      /** @param {Event} event */
      givePlace(event) {
        next = rowOf(event)
        desk.show()
        picture.focus()
        announce(phrase('bench.clickWhere', { label: nameOfNext() }))
      },
      stopPlacing() {
        next = null
        desk.show()
      },
    },
  }
}
