// The picture of the pane as something to work on: what gestures see of it, and how a pointer and a wheel reach them.

import { phrase } from '../language.js'
import { usual } from '../usual.js'
import { createStage, textWidth } from '../scene/stage.js'
import { createCanvas } from './canvas.js'
import { idle } from './gestures/idle.js'
import { kinds } from './kinds/all.js'
import { labelOf, shapesOf, withShape } from './pane.js'
import { inside, round, sized, withoutCorner } from './regions.js'
import { valueOnScale, wordsOf } from '../scene/scale.js'

/** The picture's width in CSS pixels on a common laptop, for the usual size of a zone. */
const usualPictureWidth = 860

/**
 * @typedef {object} Bench What gestures work on.
 * @property {import('../scene/stage.js').Stage} stage
 * @property {ReturnType<typeof createCanvas>} canvas
 * @property {() => PanePart} pane As it was before the gesture.
 * @property {() => import('./pane.js').Shape[]} shapes
 * @property {() => string[]} selection Keys of shapes.
 * @property {() => string} shape Of new regions: a rectangle or a circle.
 * @property {() => 'region' | 'point' | null} asks What the next thing is made from.
 * @property {(keys: string[]) => void} select
 * @property {(row: string | null) => void} pointAt
 * @property {(pane: PanePart | null) => void} preview Shows a pane that is not a step yet; null goes back.
 * @property {() => void} commitPreview
 * @property {() => void} lift Takes what is selected off the picture, to be carried.
 * @property {(at: Point, region: Region | null) => void} make With a region that was drawn, or one of the usual size.
 * @property {(row: string) => void} focusRow
 * @property {(point: Point) => void} read Shows what the scale reads there.
 * @property {(sentence: string) => void} say
 * @property {() => boolean} isSpaceDown
 */

/** Picture units for each CSS pixel there. */
const unit = 1000 / usualPictureWidth

/**
 * @param {PanePart} pane
 * @returns {{width: number, height: number}} Of a box that takes a label of words: as large as the widest of the pane.
 */
function usualSize(pane) {
  const widest = Math.max(70, ...pane.labels.filter(label => !label.face).map(label => textWidth(label.text, 17)))
  return { width: round(Math.min(240, (widest + 34) * unit)), height: round(38 * unit) }
}

/** Boxes of the usual size keep it when the widest label is another. @param {PanePart} before @param {PanePart} pane @returns {PanePart} */
export function withUsualSizes(before, pane) {
  if (before.labels === pane.labels) return pane
  const [was, is] = [usualSize(before), usualSize(pane)]
  if (was.width === is.width) return pane
  const grows = (/** @type {TargetPart} */ target) =>
    target.kind === 'dropZone' &&
    target.region.kind === 'rectangle' &&
    !target.region.rotation &&
    target.region.width === was.width &&
    target.region.height === was.height
  return {
    ...pane,
    targets: pane.targets.map(target =>
      grows(target) ? { ...target, region: inside(sized(/** @type {ZonePart} */ (target).region, is.width, is.height), pane) } : target,
    ),
  }
}

/**
 * @param {PanePart} pane
 * @param {string} kind
 * @param {Point} point
 * @param {string} shape
 * @param {string | null} label One that waits for its place.
 * @returns {Region} As large as the widest label of the pane.
 */
export function usualRegion(pane, kind, point, shape, label) {
  const box = (/** @type {number} */ width, /** @type {number} */ height) =>
    /** @type {Region} */ ({ kind: 'rectangle', x: point.x - width / 2, y: point.y - height / 2, width, height })
  if (kind === 'hiddenZone' || kind === 'hotspots') return { kind: 'circle', centre: point, radius: usual.hiddenRadius }
  if (kind === 'sortRegion') return shape === 'circle' ? { kind: 'circle', centre: point, radius: 150 } : box(280, 220)
  if (kind === 'openNote') return box(300, 130)
  if (kind === 'answerBox') return box(150, 44 * unit)
  const face = label ? labelOf(pane, label)?.face : null
  if (face?.kind === 'picture') {
    const height = 80 * unit
    return box(Math.min(280, (height * face.width) / face.height), height)
  }
  const { width, height } = usualSize(pane)
  return shape === 'circle' ? { kind: 'circle', centre: point, radius: 45 } : box(width, height)
}

/**
 * @param {HTMLElement} mat @param {Picture} picture
 * @param {Omit<Bench, 'stage' | 'canvas' | 'shapes' | 'read' | 'isSpaceDown' | 'asks' | 'lift'> & {tool: () => string,
 *   shown: () => PanePart, key: (event: KeyboardEvent) => boolean, readout: (words: string) => void}} hands
 * @returns {Bench & {draw: (pane: PanePart, pointed: string | null) => void, close: () => void}}
 */
export function openBench(mat, picture, hands) {
  const stage = createStage(mat, picture)
  const canvas = createCanvas(stage)
  const closing = new AbortController()
  let isSpaceDown = false
  const bench = {
    ...hands,
    stage,
    canvas,
    shapes: () => shapesOf(hands.pane()),
    isSpaceDown: () => isSpaceDown,
    asks: () => (hands.tool() in kinds ? kinds[/** @type {TargetPart['kind']} */ (hands.tool())].asks : 'point'),
    /** @param {Point} point */
    read(point) {
      const { scale } = hands.pane()
      if (!scale) return hands.readout('')
      const value = valueOnScale(scale, point)
      hands.readout([wordsOf(scale.x, value.x), ...(scale.y ? [wordsOf(scale.y, value.y)] : [])].join(', '))
    },
    /** @param {PanePart} pane @param {string | null} pointed */
    draw: (pane, pointed) => canvas.draw(pane, hands.selection(), pointed, pane !== hands.pane()),
    lift: () => canvas.draw(hands.pane(), hands.selection(), null, true),
    close: () => closing.abort(),
  }
  listen(bench, hands.key, closing.signal, down => {
    isSpaceDown = down
  })
  stage.onResize(() => canvas.draw(hands.shown(), hands.selection(), null))
  return bench
}

/**
 * @param {Bench} bench
 * @param {(event: KeyboardEvent) => boolean} key
 * @param {AbortSignal} signal
 * @param {(down: boolean) => void} space
 */
function listen(bench, key, signal, space) {
  const { element, mat } = bench.stage
  element.tabIndex = 0
  element.setAttribute('role', 'application')
  element.setAttribute('aria-label', phrase('bench.keys'))
  /** @type {any} */
  let gesture = idle(bench)
  /** @param {any} next */
  const go = next => {
    if (!next) return
    gesture = next
    gesture.enter?.()
  }
  element.addEventListener('pointerdown', event => {
    if (!event.isPrimary || event.button > 1) return
    event.preventDefault()
    element.focus({ preventScroll: true })
    element.setPointerCapture(event.pointerId)
    go(gesture.down(bench.stage.pointAt(event), event))
  })
  element.addEventListener('pointermove', event => {
    if (event.isPrimary) go(gesture.move(bench.stage.pointAt(event), event))
  })
  element.addEventListener('pointerup', event => {
    if (event.isPrimary) go(gesture.up())
  })
  element.addEventListener('pointercancel', () => go(gesture.cancel()))
  element.addEventListener('dblclick', event => {
    const [only] = bench.shapes().filter(shape => bench.selection().includes(shape.key))
    const grip =
      only && bench.selection().length === 1 && !only.isPoint
        ? bench.canvas.gripAt(only.region, bench.stage.pointAt(event), false)
        : undefined
    if (grip?.kind !== 'vertex') return
    bench.preview(withShape(bench.pane(), only.key, withoutCorner(only.region, grip.index)))
    bench.commitPreview()
  })
  element.addEventListener('pointerleave', () => bench.pointAt(null))
  element.addEventListener('keydown', event => {
    if (event.key === ' ') space(true)
    if (event.key === 'Escape') go(gesture.cancel())
    if (event.key === ' ' || key(event)) event.preventDefault()
  })
  addEventListener(
    'keyup',
    event => {
      if (event.key === ' ') space(false)
    },
    { signal },
  )
  mat.addEventListener(
    'wheel',
    event => {
      event.preventDefault()
      bench.stage.zoomTo(bench.stage.zoom() * 1.0015 ** -event.deltaY, event)
    },
    { passive: false, signal },
  )
}
