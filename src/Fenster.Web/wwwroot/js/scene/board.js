// A pane as it stands: zones with their corners, the labels that lie in them, and those pinned to a spot.

import { listed, phrase } from '../language.js'
import { faceOf } from './face.js'
import { boundsOf, centreOf } from './geometry.js'
import { areaOf, badge, bracketsOf, classesOf, leaderOf, svg } from './shapes.js'
import { fitLabel, fitNumber, layOver, partsOf, textWidth } from './stage.js'
import { layPins, pinFor } from './pins.js'
import { whereOn } from './where.js'

/**
 * @typedef {import('./stage.js').Stage} Stage
 * @typedef {object} Board
 * @property {(pane: PaneView, options?: {inHand?: {label: string, copy: number} | null, key?: boolean,
 *   pinned?: import('./pins.js').Pinned[], holdables?: LabelView[]}) => void} draw
 * @property {(zone: string | null) => void} hover Closes the corners of a zone in.
 * @property {(zone: string) => HTMLButtonElement} zoneButton
 */

/** @typedef {Placement & {number: number, text: string}} Numbered A label that lies there as its place's number. */

/**
 * @param {Stage} stage
 * @param {PaneView} first
 * @param {(numbered: Numbered[]) => void} [onNumbered] Tells which labels lie there as numbers, whose words have to stand elsewhere.
 * @returns {Board}
 */
export function createBoard(stage, first, onNumbered) {
  const buttons = new Map(first.zones.map((zone, i) => [zone.id, zoneButton(stage, zone, i)]))
  for (const zone of first.zones) if (zone.leader) stage.drawing.append(leaderOf(zone.region, zone.leader))
  const drawn = new Map(
    first.zones.map(zone => {
      const group = svg('g', { class: 'zone', 'data-zone': zone.id })
      group.append(areaOf(zone.region), bracketsOf(zone.region, 'zone-lead'), bracketsOf(zone.region, 'zone-corners'))
      stage.drawing.append(group)
      return [zone.id, group]
    }),
  )
  const labels = document.createElement('div')
  labels.className = 'placed-labels'
  stage.overlay.append(labels)
  /** @type {() => void} */
  let layOut = () => {}
  stage.onResize(() => layOut())
  document.fonts.ready.then(() => layOut())

  return {
    draw(pane, { inHand = null, key = false, pinned = [], holdables = pane.labels } = {}) {
      const texts = new Map(pane.labels.map(label => [label.id, label.text]))
      const labelOf = new Map(holdables.map(label => [label.id, label]))
      const shown = key
        ? keyPlacements(pane)
        : pane.placed.map((placed, i) => ({ ...placed, verdict: pane.marks?.placed[i] ?? undefined, held: isHeld(pane, placed) }))
      /** @type {{label: HTMLElement, box: Bounds, as: Numbered}[]} */
      const laid = []
      pane.zones.forEach((zone, i) => {
        const here = shown.filter(placed => placed.zone === zone.id)
        const parts = partsOf(zone.region, Math.max(here.length, 1))
        const state = key ? undefined : pane.marks?.zones.find(mark => mark.zone === zone.id)?.state
        here.forEach((placed, n) => {
          const isInHand = inHand?.label === placed.label && inHand.copy === placed.copy
          const known = labelOf.get(placed.label) ?? { id: '', text: '', copies: 1 }
          laid.push({
            label: placedLabel(known, placed, i + 1, isInHand, key),
            box: parts[n],
            as: { label: placed.label, copy: placed.copy, zone: zone.id, number: i + 1, text: known.text },
          })
        })
        const button = /** @type {HTMLButtonElement} */ (buttons.get(zone.id))
        const content = here.length === 0 ? phrase('screen.empty') : listed(here.map(placed => texts.get(placed.label) ?? ''))
        button.setAttribute(
          'aria-label',
          listed([
            phrase('screen.zoneOf', { number: i + 1, all: pane.zones.length }),
            zone.prompt || whereOn(stage.plane, centreOf(zone.region)),
            content,
            stateWords(state),
          ]),
        )
        button.replaceChildren(...(state === 'missed' ? [badge('missed')] : []))
        drawn.get(zone.id)?.setAttribute('class', `zone ${here.length > 0 ? 'filled' : ''} ${state ? `state-${state}` : ''}`)
      })
      const focused = pinName(document.activeElement)
      const pins = pinned.map(pin =>
        pinFor(labelOf.get(pin.label) ?? { id: pin.label, text: '', copies: 1 }, pin, {
          inHand: inHand?.label === pin.label && inHand.copy === pin.copy,
          held: isHeld(pane, pin),
          key,
          size: pane.labelSize,
        }),
      )
      labels.replaceChildren(...laid.map(({ label }) => label), ...pins.map(pin => pin.element))
      layOut = () => {
        // One that grows over another place, or can't be read all the same, lies there as a number.
        const areas = pane.zones.map(zone => ({ zone: zone.id, ...boundsOf(zone.region) }))
        const numbered = laid.filter(({ label, box, as }) => {
          if (fitLabel(label, box, stage) || !onNumbered) return false
          const [left, top] = [parseFloat(label.style.left) / stage.scale(), parseFloat(label.style.top) / stage.scale()]
          const [right, bottom] = [
            left + parseFloat(label.style.width) / stage.scale(),
            top + parseFloat(label.style.height) / stage.scale(),
          ]
          const isCut =
            textWidth(as.text, stage.letters.smallest) > parseFloat(label.style.width) - 12 && !label.classList.contains('two-lines')
          const isOver = areas.some(
            area => area.zone !== as.zone && area.left < right && area.right > left && area.top < bottom && area.bottom > top,
          )
          if (isCut || isOver) fitNumber(label, box, stage)
          return isCut || isOver
        })
        layPins(pins, stage)
        onNumbered?.(numbered.map(({ as }) => as))
      }
      if (focused)
        /** @type {HTMLElement | undefined} */ (
          [...labels.querySelectorAll('.pin .label')].find(label => pinName(label) === focused)
        )?.focus()
      layOut()
    },
    hover(zone) {
      for (const [id, group] of drawn) group.classList.toggle('hovered', id === zone)
    },
    zoneButton: zone => /** @type {HTMLButtonElement} */ (buttons.get(zone)),
  }
}

/** @param {Stage} stage @param {ZoneView} zone @param {number} index */
function zoneButton(stage, zone, index) {
  const button = document.createElement('button')
  button.type = 'button'
  button.className = 'zone-button'
  button.dataset.zone = zone.id
  button.dataset.index = String(index)
  layOver(button, zone.region)
  stage.overlay.append(button)
  return button
}

/**
 * @param {LabelView} known
 * @param {Placement & {verdict?: Verdict, held?: boolean, isMine?: boolean}} placed
 * @param {number} number Of its place.
 * @param {boolean} inHand
 * @param {boolean} key
 */
function placedLabel(known, placed, number, inHand, key) {
  const label = document.createElement('div')
  label.className = classesOf({ inHand, key: key && !placed.isMine, held: placed.held, verdict: placed.verdict })
  label.classList.toggle('instead', placed.isMine ?? false)
  label.dataset.label = placed.label
  label.dataset.copy = String(placed.copy)
  label.dataset.zone = placed.zone
  label.dir = 'auto'
  label.title = known.text
  if (known.colour && known.colour !== 'paper') label.classList.add(`paper-${known.colour}`)
  label.classList.toggle('with-picture', known.face?.kind === 'picture')
  label.append(faceOf(known), Object.assign(document.createElement('span'), { className: 'label-number', textContent: String(number) }))
  const { verdict } = placed
  if (verdict && verdict !== 'unscored') label.append(badge(verdict))
  return label
}

/** Whether a check found the label right and it stays where it is. @param {PaneView} pane @param {{label: string, copy: number}} label */
export const isHeld = (pane, { label, copy }) => pane.held.some(held => held.label === label && held.copy === copy)

/**
 * What belongs into each zone, and beside it what the student put there instead.
 * @param {PaneView} pane
 * @returns {(Placement & {verdict?: Verdict, isMine?: boolean})[]}
 */
const keyPlacements = pane =>
  (pane.key?.zones ?? []).flatMap(({ zone, labels }) => {
    const capacity = pane.zones.find(z => z.id === zone)?.capacity ?? 1
    const belongs = labels.slice(0, capacity)
    const instead = pane.placed.filter(placed => placed.zone === zone && !labels.includes(placed.label))
    return [
      ...instead.map(placed => ({ ...placed, verdict: /** @type {Verdict} */ ('wrong'), isMine: true })),
      ...belongs.map(label => ({ label, copy: 0, zone })),
    ]
  })

/** @param {Element | null} element @returns {string} Which pin it is; empty for none. */
const pinName = element =>
  element instanceof HTMLElement && element.closest('.pin') ? `${element.dataset.label}/${element.dataset.copy}` : ''

/** @type {Record<TargetState, string>} */
const sentences = {
  earned: 'result.isRight',
  partEarned: 'result.isPart',
  missed: 'result.isMissed',
  wrong: 'result.isWrong',
  waiting: 'result.isWaiting',
  unscored: '',
}

/** @param {TargetState | undefined} state @returns {string} Empty where it says nothing. */
export function stateWords(state) {
  const name = state && sentences[state]
  return name ? phrase(name) : ''
}
