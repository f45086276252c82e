// Edits of a pane. Each takes a pane and returns a new one; nothing is changed in place.

import { readsTheSame } from '../same.js'
import { kinds } from './kinds/all.js'
import { inside, moved, rounded, stretched } from './regions.js'

/** @param {string} id @returns {PanePart} */
export const emptyPane = id => ({ id, picture: null, labels: [], targets: [] })

/** @param {PanePart} pane @param {string} word @returns {string} An id that nothing on the pane has. */
export function freshId(pane, word) {
  const numbers = [...pane.labels, ...pane.targets].map(part => Number(/-(\d+)$/.exec(part.id)?.[1] ?? 0))
  return `${word}-${Math.max(0, ...numbers) + 1}`
}

/**
 * Lists by the ids in them; as no list is ever changed in place, what was found once stays true.
 * @type {WeakMap<{id: string}[], Map<string, any>>}
 */
const byId = new WeakMap()

/** @template {{id: string}} T @param {T[]} list @param {string} id @returns {T | undefined} */
function found(list, id) {
  const known = byId.get(list) ?? new Map(list.map(thing => [thing.id, thing]))
  byId.set(list, known)
  return known.get(id)
}

/** @param {PanePart} pane @param {string} id @returns {TargetPart | undefined} */
export const targetOf = (pane, id) => found(pane.targets, id)

/** @param {PanePart} pane @param {string} id @returns {LabelPart | undefined} */
export const labelOf = (pane, id) => found(pane.labels, id)

/** @param {PanePart} pane @param {TargetPart} target @returns {PanePart} */
export const withTarget = (pane, target) => ({ ...pane, targets: pane.targets.map(other => (other.id === target.id ? target : other)) })

/** @param {PanePart} pane @param {string} id @param {Partial<LabelPart>} change @returns {PanePart} */
export const withLabel = (pane, id, change) => ({
  ...pane,
  labels: pane.labels.map(label => (label.id === id ? { ...label, ...change } : label)),
})

/** @param {TargetPart} target @returns {string[]} The labels that a target names. */
export function namedBy(target) {
  if (target.kind === 'dropZone' || target.kind === 'hiddenZone') return target.accepts.map(accepted => accepted.label)
  if (target.kind === 'scalePoint') return target.label ? [target.label] : []
  if (target.kind === 'sortRegion') return target.want.kind === 'total' ? [] : target.want.labels
  return []
}

/** @param {PanePart} pane @returns {LabelPart[]} Labels that no target has as its own: they have a row of their own. */
export function withoutPlace({ labels, targets }) {
  const own = new Set(targets.flatMap(target => (target.kind === 'sortRegion' ? [] : namedBy(target))))
  return labels.filter(label => !own.has(label.id))
}

/**
 * @param {PanePart} pane
 * @param {Omit<LabelPart, 'id'>[]} parts
 * @returns {{pane: PanePart, labels: string[]}} Labels that have no place yet.
 */
export function addLabels(pane, parts) {
  const ids = []
  for (const part of parts) {
    const label = { copies: 1, ...part, id: freshId(pane, 'label') }
    ids.push(label.id)
    pane = { ...pane, labels: [...pane.labels, label] }
  }
  return { pane, labels: ids }
}

/**
 * @param {PanePart} pane
 * @param {string} label
 * @param {Region} region
 * @param {'dropZone' | 'hiddenZone'} kind
 * @returns {{pane: PanePart, target: string}} A zone that takes a label which is there already.
 */
export function placeLabel(pane, label, region, kind = 'dropZone') {
  const zone = { kind, id: freshId(pane, 'zone'), region: inside(region, pane), accepts: [{ label }] }
  return { pane: { ...pane, targets: [...pane.targets, zone] }, target: zone.id }
}

/**
 * @typedef {{key: string, row: string, region: Region, isPoint: boolean,
 *   kind: string}} Shape One thing on the picture that a hand takes hold of.
 */

/** The size of a spot that is but a point, in picture units. */
export const spotRadius = 16

/** @param {PanePart} pane @returns {Shape[]} From the lowest to the topmost. */
export function shapesOf(pane) {
  const spots = pane.targets.flatMap(target => {
    const kind = kinds[target.kind]
    return kind.shapes(target).map((region, part) => ({
      key: part === 0 ? target.id : `${target.id}#${part}`,
      row: target.id,
      region,
      isPoint: kind.isPoint,
      kind: target.kind,
    }))
  })
  const starts = pane.labels.flatMap(label =>
    label.start
      ? [{ key: `start:${label.id}`, row: rowOfLabel(pane, label.id), region: around(label.start), isPoint: true, kind: 'start' }]
      : [],
  )
  const ends = (pane.scale ? [pane.scale.x, ...(pane.scale.y ? [pane.scale.y] : [])] : []).flatMap((axis, i) =>
    /** @type {const} */ (['from', 'to']).map(end => ({
      key: `scale:${i}:${end}`,
      row: 'scale',
      region: around(axis[end], 12),
      isPoint: true,
      kind: 'scaleEnd',
    })),
  )
  const leaders = pane.targets.flatMap(target =>
    target.kind === 'dropZone' && target.leader
      ? [{ key: `leader:${target.id}`, row: target.id, region: around(target.leader, 9), isPoint: true, kind: 'leaderEnd' }]
      : [],
  )
  return [...ends, ...spots, ...leaders, ...starts]
}

/** @param {Point} centre @param {number} [radius] @returns {Region} */
const around = (centre, radius = spotRadius) => ({ kind: 'circle', centre, radius })

/** @param {PanePart} pane @param {string} label @returns {string} The row in which a label is typed. */
export const rowOfLabel = (pane, label) =>
  pane.targets.find(target => target.kind !== 'sortRegion' && namedBy(target).includes(label))?.id ?? label

/** @param {PanePart} pane @param {string} key @param {Region} region @returns {PanePart} With one shape changed. */
export function withShape(pane, key, region) {
  const lies = rounded(inside(region, pane))
  if (key.startsWith('start:')) return withLabel(pane, key.slice(6), { start: lies.kind === 'circle' ? lies.centre : null })
  if (key.startsWith('leader:')) {
    const zone = targetOf(pane, key.slice(7))
    return zone && lies.kind === 'circle' ? withTarget(pane, /** @type {ZonePart} */ ({ ...zone, leader: lies.centre })) : pane
  }
  if (key.startsWith('scale:')) {
    const [, index, end] = key.split(':')
    if (!pane.scale || lies.kind !== 'circle') return pane
    const axis = index === '0' ? 'x' : 'y'
    return withScale(pane, { ...pane.scale, [axis]: { .../** @type {Axis} */ (pane.scale[axis]), [end]: lies.centre } })
  }
  const [id, part] = key.split('#')
  const target = targetOf(pane, id)
  return target ? withTarget(pane, kinds[target.kind].withShape(target, Number(part ?? 0), lies)) : pane
}

/** @param {PanePart} pane @param {string[]} keys @param {(region: Region) => Region} change @returns {PanePart} */
export function changeShapes(pane, keys, change) {
  const shapes = shapesOf(pane).filter(shape => keys.includes(shape.key))
  return shapes.reduce((changed, shape) => withShape(changed, shape.key, change(shape.region)), pane)
}

/** @param {PanePart} pane @param {Scale | null} scale @returns {PanePart} The points on it keep their values. */
export function withScale(pane, scale) {
  const before = pane.scale ?? null
  return {
    ...pane,
    scale,
    targets: pane.targets.map(target =>
      scale && target.kind === 'scalePoint' && readsTheSame(target.scale, before) ? { ...target, scale } : target,
    ),
  }
}

/** @param {PanePart} pane @param {string} row @returns {PanePart} A target goes with its own labels, unless another wants them too. */
export function remove(pane, row) {
  if (row === 'scale') return { ...pane, scale: null, targets: pane.targets.filter(target => target.kind !== 'scalePoint') }
  const target = targetOf(pane, row)
  const targets = pane.targets
    .filter(other => other !== target)
    .map(other => withoutMention(other, target ? [] : [row], target ? row : null))
  const gone = new Set(target ? (target.kind === 'sortRegion' ? [] : namedBy(target)) : [row])
  const labels = pane.labels.flatMap(label => {
    if (!gone.has(label.id)) return [label]
    const uses = usesOf(targets, label.id)
    return uses === 0 ? [] : [{ ...label, copies: label.copies && Math.min(label.copies, uses) }]
  })
  return { ...pane, labels, targets }
}

/**
 * @param {PanePart} pane
 * @param {string} key
 * @returns {PanePart} Without one shape: a spot of several, a label's start, or the whole row.
 */
export function removeShape(pane, key) {
  if (key.startsWith('start:')) return withLabel(pane, key.slice(6), { start: null })
  if (key.startsWith('scale:')) return pane
  if (key.startsWith('leader:')) return withTarget(pane, /** @type {ZonePart} */ ({ ...targetOf(pane, key.slice(7)), leader: null }))
  const [id, part] = key.split('#')
  const target = targetOf(pane, id)
  if (target?.kind === 'hotspots' && target.spots.length > 1) {
    const spots = target.spots.filter((_, i) => i !== Number(part ?? 0))
    return withTarget(pane, {
      ...target,
      spots,
      needed: target.needed === target.spots.length ? spots.length : Math.min(target.needed, spots.length),
    })
  }
  return remove(pane, id)
}

/** @param {TargetPart} target @param {string[]} labels @param {string | null} gone @returns {TargetPart} */
function withoutMention(target, labels, gone) {
  if (target.kind === 'sortRegion' && target.want.kind !== 'total')
    return { ...target, want: { ...target.want, labels: target.want.labels.filter(label => !labels.includes(label)) } }
  if (target.kind === 'lock' && gone) return { ...target, opens: (target.opens ?? []).filter(id => id !== gone) }
  if (target.kind === 'dropZone' || target.kind === 'hiddenZone')
    return { ...target, accepts: target.accepts.filter(accepted => !labels.includes(accepted.label)) }
  return target
}

/** @param {TargetPart[]} targets @param {string} label */
const usesOf = (targets, label) => targets.filter(target => namedBy(target).includes(label)).length

/**
 * @param {PanePart} pane
 * @param {string} id Of a label that reads like an earlier one.
 * @returns {PanePart} One label with as many copies as targets want it.
 */
export function mergeAlike(pane, id) {
  const fold = (/** @type {string} */ text) => text.trim().toLowerCase()
  const twin = labelOf(pane, id)
  const kept = twin && pane.labels.find(label => label.id !== id && fold(label.text) === fold(twin.text))
  if (!kept) return pane
  const targets = pane.targets.map(target =>
    target.kind === 'dropZone' || target.kind === 'hiddenZone'
      ? { ...target, accepts: target.accepts.map(accepted => (accepted.label === id ? { ...accepted, label: kept.id } : accepted)) }
      : target.kind === 'scalePoint' && target.label === id
        ? { ...target, label: kept.id }
        : target,
  )
  const labels = pane.labels
    .filter(label => label !== twin)
    .map(label => (label === kept ? { ...label, copies: Math.max(1, usesOf(targets, kept.id)) } : label))
  return { ...pane, labels, targets }
}

/**
 * Puts a label where it belongs: over the one that was there, or as a further one.
 * @param {PanePart} pane
 * @param {string} id Of a target.
 * @param {string} label
 * @param {boolean} isFurther
 * @returns {PanePart}
 */
export function setKey(pane, id, label, isFurther) {
  const target = targetOf(pane, id)
  if (target?.kind === 'sortRegion') {
    if (target.want.kind === 'total' || target.want.labels.includes(label)) return pane
    return withTarget(pane, { ...target, want: { ...target.want, labels: [...target.want.labels, label] } })
  }
  if (target?.kind === 'scalePoint') return withTarget(pane, { ...target, label })
  if (target?.kind !== 'dropZone' && target?.kind !== 'hiddenZone') return pane
  if (target.accepts.some(accepted => accepted.label === label)) return pane
  if (isFurther) return withTarget(pane, { ...target, accepts: [...target.accepts, { label, credit: 1 }] })
  const [before] = target.accepts
  const mended = withTarget(pane, { ...target, accepts: [{ ...before, label }, ...target.accepts.slice(1)] })
  // A label that is there once leaves the zone where it was; the two change places.
  const other = pane.targets.find(
    t => t.id !== id && (t.kind === 'dropZone' || t.kind === 'hiddenZone') && t.accepts.some(accepted => accepted.label === label),
  )
  const isSingle = labelOf(pane, label)?.copies === 1
  if (!isSingle || !other || (other.kind !== 'dropZone' && other.kind !== 'hiddenZone')) return withoutEmpty(mended)
  const accepts = other.accepts.flatMap(accepted =>
    accepted.label !== label ? [accepted] : before ? [{ ...accepted, label: before.label }] : [],
  )
  return withoutEmpty(withTarget(mended, { ...other, accepts }))
}

/** @param {PanePart} pane @returns {PanePart} Without labels that read nothing and belong nowhere. */
function withoutEmpty(pane) {
  const spare = new Set(
    withoutPlace(pane)
      .filter(label => label.text.trim() === '' && !label.face)
      .map(label => label.id),
  )
  return spare.size === 0 ? pane : { ...pane, labels: pane.labels.filter(label => !spare.has(label.id)) }
}

/**
 * @param {PanePart} pane
 * @param {string[]} ids
 * @returns {{pane: PanePart, made: string[]}} Copies beside the originals, with labels of their own.
 */
export function duplicate(pane, ids) {
  const made = []
  for (const id of ids) {
    const target = targetOf(pane, id)
    if (!target) continue
    const copy = structuredClone(target)
    copy.id = freshId(pane, target.id.replace(/-\d+$/, ''))
    if (copy.kind === 'dropZone' || copy.kind === 'hiddenZone') {
      const label = { id: freshId({ ...pane, targets: [...pane.targets, copy] }, 'label'), text: '', copies: 1 }
      pane = { ...pane, labels: [...pane.labels, label] }
      copy.accepts = [{ label: label.id }]
    }
    pane = { ...pane, targets: [...pane.targets, copy] }
    for (const shape of shapesOf(pane).filter(shape => shape.row === copy.id && shape.kind !== 'start'))
      pane = withShape(pane, shape.key, moved(shape.region, 20, 20))
    if (copy.kind === 'lock') pane = withTarget(pane, { .../** @type {any} */ (targetOf(pane, copy.id)), opens: [] })
    made.push(copy.id)
  }
  return { pane, made }
}

/** @param {PanePart} pane @param {string[]} ids @param {'front' | 'back'} where @returns {PanePart} What is in front is drawn last. */
export function reordered(pane, ids, where) {
  const [taken, rest] = [pane.targets.filter(target => ids.includes(target.id)), pane.targets.filter(target => !ids.includes(target.id))]
  return { ...pane, targets: where === 'front' ? [...rest, ...taken] : [...taken, ...rest] }
}

/** How many times as tall one picture is as another of the same width. @param {Picture} picture @param {Picture | null} before */
export const tallerBy = (picture, before) => (before ? (picture.height * before.width) / (picture.width * before.height) : 1)

/**
 * @param {PanePart} pane @param {Picture} picture @param {'stay' | 'stretch'} fit
 * @returns {PanePart} What stands on it keeps its place or is stretched with the picture, and is moved inside where it would lie outside.
 */
export function withPicture(pane, picture, fit = 'stay') {
  const by = fit === 'stretch' ? tallerBy(picture, pane.picture) : 1
  // A point on the scale goes with its scale.
  return shapesOf(pane)
    .filter(shape => shape.kind !== 'scalePoint')
    .reduce((/** @type {PanePart} */ fitted, shape) => withShape(fitted, shape.key, stretched(shape.region, by)), { ...pane, picture })
}
