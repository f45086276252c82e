// The work on a pane as the screen sees it, and what a move makes of it before the server has answered.

import { listed, numbered, phrase } from '../language.js'
import { centreOf, distanceTo, planeOf } from '../scene/geometry.js'
import { whereOn } from '../scene/where.js'

/** @param {{panes: PaneFrame[]}} view @param {{panes: PaneWork[]}} work @param {number} index @returns {PaneView} */
export function paneOf(view, work, index) {
  const [frame, done] = [view.panes[index], work.panes[index]]
  const targets = frame.targets.map(target => withNames(done.found.find(found => found.id === target.id) ?? target))
  // What was kept back is told with the key.
  const described = new Map(done.key?.described.map(({ label, text }) => [label, text]))
  const labels = frame.labels.map(label => ({ ...label, text: described.get(label.id) ?? textOf(label) }))
  return { ...frame, ...done, targets, labels }
}

/** @param {TargetView} target @returns {TargetView} */
function withNames(target) {
  if (target.kind !== 'linking') return target
  const named = (/** @type {OptionView[]} */ items) => items.map(item => ({ ...item, text: textOf(item) }))
  return { ...target, left: named(target.left), right: named(target.right) }
}

/** @param {{text: string, number?: number | null, face?: Face | null}} thing @returns {string} */
const textOf = ({ text, number, face }) => (number ? numbered(phrase(`screen.${face?.kind ?? 'picture'}Face`), number) : text)

/**
 * What is put down like a label though it is none: a mark for each spot that is to be found.
 * @param {PaneView} pane
 * @returns {LabelView[]}
 */
export const markersOf = pane =>
  pane.targets.flatMap(target =>
    target.kind === 'marking'
      ? [{ id: target.id, text: target.prompt || phrase('screen.mark'), copies: target.needed, isMarker: true }]
      : target.kind === 'showing' && target.byMark
        ? [{ id: target.id, text: target.prompt || phrase('screen.mark'), copies: 1, isMarker: true }]
        : target.kind === 'noting' && target.pins > 0
          ? [{ id: target.id, text: pinName(target), copies: target.pins, isMarker: true }]
          : [],
  )

/** @param {TargetView} note */
const pinName = ({ prompt }) => (prompt ? phrase('screen.ownPinNamed', { name: prompt }) : phrase('screen.ownPin'))

/** Everything that a hand can hold. @param {PaneView} pane @returns {LabelView[]} */
export const holdablesOf = pane => [...pane.labels, ...markersOf(pane)]

/** @typedef {Pin & {isMark: boolean, isFlat: boolean, verdict?: Verdict}} Pinned */

/** Everything that lies on a spot of its own: pinned labels and marks. @param {PaneView} pane @returns {Pinned[]} */
export const pinnedOf = pane => [
  ...pane.pins.map((pin, i) => ({ ...pin, isMark: false, isFlat: isSorted(pane, pin.at), verdict: pane.marks?.pins[i] ?? undefined })),
  ...pane.done.flatMap(done =>
    done.points.map((at, copy) => ({
      label: done.target,
      copy,
      at,
      isMark: true,
      isFlat: false,
      verdict: pane.marks?.others.find(mark => mark.target === done.target)?.points[copy],
    })),
  ),
]

/** Whether a spot lies in a region to sort into: a label lies flat there. @param {PaneView} pane @param {Point} at */
function isSorted(pane, at) {
  return pane.targets.some(target => target.kind === 'sorting' && distanceTo(target.region, at) === 0)
}

/** @param {PaneView} pane @param {LabelView} label @returns {number} How many copies are in use. */
export const usedOf = (pane, label) =>
  label.isMarker ? doneAt(pane, label.id).points.length : [...pane.placed, ...pane.pins].filter(other => other.label === label.id).length

/** @param {PaneView} pane @param {LabelView} label @returns {number | null} The first copy that is not in use; null when all are. */
export function freeCopy(pane, label) {
  if (label.isMarker) return usedOf(pane, label) < (label.copies ?? Infinity) ? usedOf(pane, label) : null
  const used = new Set([...pane.placed, ...pane.pins].filter(other => other.label === label.id).map(other => other.copy))
  for (let copy = 0; copy < (label.copies ?? used.size + 1); copy++) if (!used.has(copy)) return copy
  return null
}

/** @type {Omit<Done, 'target'>} */
const nothing = { points: [], text: '', picks: [], opened: false, inside: '', links: [], own: null, lacks: [] }

/** @param {PaneWork} pane @param {string} target @returns {Done} */
export const doneAt = (pane, target) => pane.done.find(done => done.target === target) ?? { target, ...nothing }

/**
 * @typedef {{id: string, kind: 'zone' | 'label' | 'link' | TargetView['kind'], item?: string, name: string, isDone: boolean,
 *   isCompulsory?: boolean}} Thing
 *   Something to be done at a pane: at a place of the picture, or with a label that belongs to no place that is shown.
 */

/** Where a spot lies on the picture, in words. @param {PaneView} pane @param {Point} at */
export const whereIs = (pane, at) => (pane.picture ? whereOn(planeOf(pane.picture), at) : '')

/** What a zone is called: what the teacher asks for there, or its number and place. @param {PaneView} pane @param {number} index */
export const zoneName = (pane, index) =>
  listed([phrase('screen.zone', { number: index + 1 }), pane.zones[index].prompt || whereIs(pane, centreOf(pane.zones[index].region))])

const kindWords = { choosing: 'question', answering: 'question', locked: 'lock', telling: 'info', typing: 'answer', noting: 'note' }

/** All that is to be done at a pane, one by one. @param {PaneView} pane @returns {Thing[]} */
export function thingsOf(pane) {
  const spots = pane.targets.filter(target => 'at' in target || target.kind === 'typing' || target.kind === 'noting')
  const isFree = pane.takesPins || pane.targets.some(target => target.kind === 'sorting')
  return [
    ...pane.zones.map((zone, i) => ({
      id: zone.id,
      kind: /** @type {const} */ ('zone'),
      name: zoneName(pane, i),
      isDone: pane.placed.some(placed => placed.zone === zone.id),
      isCompulsory: zone.compulsory,
    })),
    // Labels that belong to no place that is shown are laid one by one.
    ...(isFree ? pane.labels : []).map(label => ({
      id: label.id,
      kind: /** @type {const} */ ('label'),
      name: label.text,
      isDone: usedOf(pane, label) > 0,
    })),
    ...pane.targets.flatMap(
      /** @returns {Thing[]} */ target => {
        const done = doneAt(pane, target.id)
        const { kind, id } = target
        const isCompulsory = target.compulsory
        if (kind === 'sorting' && isCompulsory)
          return [{ id, kind, name: regionName(pane, target), isDone: layingIn(pane, target.region).length > 0, isCompulsory }]
        if (kind === 'making')
          return [
            {
              id,
              kind,
              name: target.prompt || phrase('screen.ownPicture'),
              isDone: done.own !== null && done.lacks.length === 0,
              isCompulsory,
            },
          ]
        if (kind === 'sorting' || kind === 'concealed' || (kind === 'showing' && !target.byMark)) return []
        if (kind === 'linking')
          return target.left.map(item => ({
            id,
            item: item.id,
            kind: /** @type {const} */ ('link'),
            name: item.text,
            isDone: done.links.some(link => link.left === item.id),
            isCompulsory: isCompulsory && done.links.length === 0,
          }))
        const isDone =
          kind === 'marking'
            ? done.points.length >= target.needed
            : kind === 'showing'
              ? done.points.length > 0
              : kind === 'choosing'
                ? done.picks.length > 0
                : kind === 'locked' || kind === 'telling'
                  ? done.opened
                  : done.text.trim() !== '' || done.points.length > 0
        const name =
          kind === 'marking' || kind === 'showing'
            ? target.prompt || phrase('screen.mark')
            : listed([
                phrase(`screen.${kindWords[kind]}`, { number: spots.findIndex(spot => spot.id === id) + 1 }),
                target.prompt || ('text' in target && kind !== 'telling' ? target.text : ''),
              ])
        return [{ id, kind, name, isDone, isCompulsory }]
      },
    ),
  ]
}

/** What lies in a region to sort into. @param {PaneView} pane @param {Region} region */
const layingIn = (pane, region) => pane.pins.filter(pin => distanceTo(region, pin.at) === 0)

/** @param {PaneView} pane @param {TargetView} target A region to sort into. */
export const regionName = (pane, target) => {
  const regions = pane.targets.flatMap(target => (target.kind === 'sorting' ? [target] : []))
  const number = regions.findIndex(other => other.id === target.id)
  return listed([phrase('singly.region', { number: number + 1 }), target.prompt || whereIs(pane, centreOf(regions[number].region))])
}

/** How many labels lie in a region, or what they come to. @param {PaneView} pane @param {TargetView} target */
export function tallyIn(pane, target) {
  if (target.kind !== 'sorting' || !target.tally) return ''
  const there = layingIn(pane, target.region)
  const { values } = target.tally
  if (values.length === 0) return phrase('screen.tally', { count: there.length })
  const total = there.reduce((sum, pin) => sum + (values.find(value => value.label === pin.label)?.value ?? 0), 0)
  // Decimals are added as such: 0.1 and 0.2 are 0.3.
  return phrase('screen.total', { total: Number(total.toPrecision(12)) })
}

/** What was concealed at first and is known now. @param {PaneView} pane */
export const foundOf = pane => thingsOf(pane).filter(thing => pane.found.some(found => found.id === thing.id))

/** What of a pane is still open. @param {PaneView} pane */
export const openThings = pane => thingsOf(pane).filter(thing => !thing.isDone)

/**
 * How much of a pane is done, as far as a student can tell.
 * @param {PaneView} pane
 * @returns {{done: number, all: number, pinned: number}}
 */
export function tallyOf(pane) {
  const parts = [
    ...pane.zones.map(zone => pane.placed.some(placed => placed.zone === zone.id)),
    ...pane.targets.flatMap(target => {
      const done = doneAt(pane, target.id)
      switch (target.kind) {
        case 'marking':
          return Array.from({ length: target.needed }, (_, i) => i < done.points.length)
        case 'showing':
          return target.byMark ? [done.points.length > 0] : []
        case 'typing':
        case 'answering':
        case 'noting':
          return [done.text.trim() !== '' || done.points.length > 0]
        case 'choosing':
          return [done.picks.length > 0]
        case 'linking':
          return target.left.map(item => done.links.some(link => link.left === item.id))
        case 'locked':
          return [done.opened]
        case 'making':
          return [done.own !== null && done.lacks.length === 0]
        default:
          return []
      }
    }),
  ]
  return { done: parts.filter(Boolean).length, all: parts.length, pinned: pane.pins.length }
}

/**
 * The move that puts a thing of the hand onto a spot.
 * @param {PaneView} pane
 * @param {{label: string, copy: number}} inHand
 * @param {Point} at
 * @returns {Move}
 */
export function moveTo(pane, { label, copy }, at) {
  const point = { x: Math.round(at.x * 100) / 100, y: Math.round(at.y * 100) / 100 }
  if (!markersOf(pane).some(marker => marker.id === label)) return { kind: 'pinDown', label, copy, at: point }
  const points = [...doneAt(pane, label).points]
  points[Math.min(copy, points.length)] = point
  return { kind: 'markPoints', target: label, points }
}

/** The move that takes a thing off the picture. @param {PaneView} pane @param {{label: string, copy: number}} inHand @returns {Move} */
export const moveBack = (pane, { label, copy }) =>
  markersOf(pane).some(marker => marker.id === label)
    ? { kind: 'markPoints', target: label, points: doneAt(pane, label).points.filter((_, i) => i !== copy) }
    : { kind: 'takeBack', label, copy }

/** The work with what the server tells of it now. @param {WorkView} work @param {WorkAnswer} answer @returns {WorkView} */
export const merged = (work, answer) => ({ ...answer, panes: answer.panes.map((pane, i) => pane ?? work.panes[i]) })

/**
 * The work as it will be once the server has the move.
 * @template {{panes: PaneWork[]}} T
 * @param {{panes: PaneFrame[]}} view
 * @param {T} work
 * @param {number} index Of the pane.
 * @param {Move} move
 * @returns {T}
 */
export function applied(view, work, index, move) {
  const next = onPane(view.panes[index], work.panes[index], move)
  return next === work.panes[index] ? work : { ...work, panes: work.panes.map((pane, i) => (i === index ? next : pane)) }
}

/** @param {PaneFrame} frame @param {PaneWork} pane @param {Move} move @returns {PaneWork} */
function onPane(frame, pane, move) {
  switch (move.kind) {
    case 'putDown': {
      let placed = without(pane.placed, move)
      const capacity = frame.zones.find(zone => zone.id === move.zone)?.capacity ?? 1
      const here = placed.filter(other => other.zone === move.zone)
      if (here.length >= capacity) placed = placed.filter(other => other !== here[0])
      return labelled(pane, [...placed, { label: move.label, copy: move.copy, zone: move.zone }], without(pane.pins, move))
    }
    case 'pinDown':
      return labelled(pane, without(pane.placed, move), [...without(pane.pins, move), { label: move.label, copy: move.copy, at: move.at }])
    case 'takeBack':
      return labelled(pane, without(pane.placed, move), without(pane.pins, move))
    case 'markPoints':
      return answered(pane, move.target, { points: move.points })
    case 'typeText':
      return answered(pane, move.target, { text: move.text })
    case 'pickOptions':
      return answered(pane, move.target, { picks: move.options })
    case 'drawLinks':
      return answered(pane, move.target, { links: move.links })
    case 'bringPicture':
      return made(pane, move.target, own => ({ ...own, picture: move.picture }))
    case 'putSpot':
      return made(pane, move.target, own => ({
        ...own,
        spots: own.spots.some(spot => spot.id === move.spot.id)
          ? own.spots.map(spot => (spot.id === move.spot.id ? move.spot : spot))
          : [...own.spots, move.spot],
      }))
    case 'takeSpot':
      return made(pane, move.target, own => ({ ...own, spots: own.spots.filter(spot => spot.id !== move.spot) }))
    case 'openSpot':
      return answered(pane, move.target, { opened: true })
    default:
      return pane
  }
}

/** What is lacking, the server says. @param {PaneWork} pane @param {string} target @param {(own: Sent.OwnWork) => Sent.OwnWork} change */
const made = (pane, target, change) => answered(pane, target, { own: change(doneAt(pane, target).own ?? { picture: null, spots: [] }) })

/** @template {{label: string, copy: number}} T @param {T[]} all @param {{label: string, copy: number}} one */
const without = (all, one) => all.filter(other => other.label !== one.label || other.copy !== one.copy)

/** @param {PaneWork} pane @param {string} target @param {Partial<Done>} change @returns {PaneWork} Its marks were of another answer. */
function answered(pane, target, change) {
  const next = { ...doneAt(pane, target), ...change }
  return {
    ...pane,
    done: pane.done.some(done => done.target === target)
      ? pane.done.map(done => (done.target === target ? next : done))
      : [...pane.done, next],
    marks: pane.marks && { ...pane.marks, others: pane.marks.others.filter(mark => mark.target !== target) },
  }
}

/**
 * @param {PaneWork} pane
 * @param {Placement[]} placed
 * @param {Pin[]} pins
 * @returns {PaneWork} With the marks of what still lies where it was checked.
 */
function labelled(pane, placed, pins) {
  const { marks } = pane
  if (!marks) return { ...pane, placed, pins }
  /** @param {Placement[]} all @param {string} zone */
  const inZone = (all, zone) =>
    all
      .filter(p => p.zone === zone)
      .map(p => p.label)
      .sort()
      .join()
  return {
    ...pane,
    placed,
    pins,
    marks: {
      ...marks,
      placed: placed.map(
        now => marks.placed[pane.placed.findIndex(p => p.label === now.label && p.copy === now.copy && p.zone === now.zone)] ?? null,
      ),
      zones: marks.zones.filter(({ zone }) => inZone(placed, zone) === inZone(pane.placed, zone)),
      pins: pins.map(
        now =>
          marks.pins[
            pane.pins.findIndex(p => p.label === now.label && p.copy === now.copy && p.at.x === now.at.x && p.at.y === now.at.y)
          ] ?? null,
      ),
    },
  }
}

/** How many answers a pane has, as the server counts them. @param {PaneWork} pane */
export const answersIn = ({ placed, pins, done }) =>
  placed.length +
  pins.length +
  done.filter(
    ({ points, text, picks, links, own }) =>
      points.length > 0 ||
      text !== '' ||
      picks.length > 0 ||
      links.length > 0 ||
      (own !== null && own !== undefined && (own.picture !== null || own.spots.length > 0)),
  ).length

/** How much of a pane is found right. @param {PaneWork} pane */
export const rightIn = ({ marks }) =>
  marks
    ? [...marks.placed, ...marks.pins].filter(verdict => verdict === 'right').length +
      marks.others.filter(mark => mark.state === 'earned').length
    : 0

/** @param {PaneView} pane */
export const isAllRight = ({ marks }) =>
  marks !== null && [...marks.zones, ...marks.others].every(mark => mark.state === 'earned' || mark.state === 'unscored')
