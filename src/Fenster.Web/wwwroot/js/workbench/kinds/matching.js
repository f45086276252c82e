// Things to match: a ledger of two columns.

import { phrase } from '../../language.js'
import { freshId, withTarget } from '../pane.js'
import { button, choice, commonLines, faceFields, note, setCommon, text, withFace } from './fields.js'

/** @typedef {{id: string, text: string, face?: Face | null}} Item */
/** @typedef {import('./fields.js').Field} Field */

export const matching = {
  word: phrase('bench.matching'),
  isPoint: false,
  asks: null,
  /** @param {PanePart} pane */
  make(pane) {
    const target = {
      kind: /** @type {const} */ ('matching'),
      id: freshId(pane, 'matching'),
      prompt: '',
      left: [
        { id: 'left-1', text: '' },
        { id: 'left-2', text: '' },
      ],
      right: [
        { id: 'right-1', text: '' },
        { id: 'right-2', text: '' },
      ],
      pairs: [
        { left: 'left-1', right: 'right-1' },
        { left: 'left-2', right: 'right-2' },
      ],
    }
    return { pane: { ...pane, targets: [...pane.targets, target] }, id: target.id }
  },
  shapes: () => [],
  /** @param {PartOf<'matching'>} target */
  withShape: target => target,
  /** @param {PartOf<'matching'>} target */
  main: target => ({
    text: target.prompt ?? '',
    placeholder: phrase('bench.whatBelongsTogether'),
    name: phrase('bench.whatIsAskedOfTheMatching'),
  }),
  /** @param {PanePart} pane @param {PartOf<'matching'>} target @param {string} prompt */
  rename: (pane, target, prompt) => withTarget(pane, { ...target, prompt }),
  /** @param {PartOf<'matching'>} target */
  lines(target) {
    const lonely = (/** @type {'left' | 'right'} */ side) => target[side].filter(item => target.pairs.every(pair => pair[side] !== item.id))
    /** @param {'left' | 'right'} side @param {Item} item @param {string} label */
    const field = (side, item, label) =>
      text(`item.${side}.${item.id}.text`, label, item.text, {
        hint: item.face ? phrase('bench.whatItShowsOrSays') : phrase('bench.textHint'),
      })
    /** @param {'left' | 'right'} side @param {Item} item */
    const face = (side, item) =>
      faceFields(`item.${side}.${item.id}.face`, phrase(side === 'left' ? 'bench.leftFace' : 'bench.rightFace'), item.face)
    const shown = new Set()
    /**
     * One thing of a pair: its words, and what stands in their place; a thing that stands in an earlier pair is only named.
     * @param {'left' | 'right'} side
     * @param {string} id
     * @param {string} words
     */
    const thing = (side, id, words) => {
      const item = /** @type {Item} */ (target[side].find(item => item.id === id))
      if (shown.has(id)) return [note(`again.${side}.${id}`, phrase('bench.again', { text: item.text }))]
      shown.add(id)
      return [field(side, item, words), ...face(side, item)]
    }
    const lastOf = new Map(target.pairs.map((pair, i) => [pair.left, i]))
    return [
      ...target.pairs.flatMap((pair, i) => [
        inColumns(
          `pair.${i}`,
          thing('left', pair.left, phrase('bench.pairLeft', { number: i + 1 })),
          thing('right', pair.right, phrase('bench.pairRight', { number: i + 1 })),
        ),
        [
          ...(lastOf.get(pair.left) === i ? [belongs(target, pair.left)] : []),
          ...(target.pairs.length > 1 ? [button(`unpair.${pair.left}.${pair.right}`, phrase('bench.deletePair', { number: i + 1 }))] : []),
        ],
      ]),
      ...lonely('left').flatMap(item => [
        inColumns(`left.${item.id}`, [field('left', item, phrase('bench.leftWithoutPartner')), ...face('left', item)], []),
        [belongs(target, item.id), button(`remove.left.${item.id}`, phrase('bench.deleteIt'))],
      ]),
      ...lonely('right').flatMap(item => [
        inColumns(`right.${item.id}`, [], [field('right', item, phrase('bench.rightWithoutPartner')), ...face('right', item)]),
        [button(`remove.right.${item.id}`, phrase('bench.deleteIt'))],
      ]),
      [
        button('addPair', phrase('bench.addAPair')),
        button('addLeft', phrase('bench.addOneOnTheLeftWithout')),
        button('addRight', phrase('bench.addOneOnTheRightWithout')),
      ],
      ...commonLines(target),
    ]
  },
  /** @param {PanePart} pane @param {PartOf<'matching'>} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    const [what, side, id, part, more] = name.split('.')
    if (what === 'addPair') return withTarget(pane, withNewPair(target).target)
    if (what === 'belongs') {
      if (value === '') return pane
      const right = value === 'new' ? nextId(target, 'right') : value
      const things = value === 'new' ? [...target.right, { id: right, text: '' }] : target.right
      const after = target.pairs.findLastIndex(pair => pair.left === side)
      return withTarget(pane, {
        ...target,
        right: things,
        pairs: target.pairs.toSpliced(after < 0 ? target.pairs.length : after + 1, 0, { left: side, right }),
      })
    }
    if (what === 'addLeft') return withTarget(pane, withOneMore(target, 'left').target)
    if (what === 'addRight') return withTarget(pane, withOneMore(target, 'right').target)
    if (what === 'unpair') {
      const pairs = target.pairs.filter(pair => pair.left !== side || pair.right !== id)
      const used = (/** @type {'left' | 'right'} */ on, /** @type {string} */ item) => pairs.some(pair => pair[on] === item)
      return withTarget(pane, {
        ...target,
        pairs,
        left: target.left.filter(item => item.id !== side || used('left', side)),
        right: target.right.filter(item => item.id !== id || used('right', id)),
      })
    }
    const on = /** @type {'left' | 'right'} */ (side)
    if (what === 'remove') return withTarget(pane, withoutItem(target, on, id))
    if (what === 'item') {
      // A file's name may be the answer, and nobody has read it yet.
      const isUnread = part !== 'text' && value?.name && !target[on].find(item => item.id === id)?.text
      return withTarget(pane, {
        ...target,
        ...(isUnread ? { descriptions: target.descriptions ?? 'teachers' } : {}),
        [on]: target[on].map(item =>
          item.id !== id
            ? item
            : part === 'text'
              ? { ...item, text: value }
              : { ...item, face: withFace(item.face, more ?? '', value), text: item.text || value?.name || '' },
        ),
      })
    }
    return withTarget(pane, setCommon(target, name, value))
  },
}

/** @typedef {PartOf<'matching'>} Matching */
/** @typedef {'left' | 'right'} Side */

/** @param {Matching} target @param {Side} side */
const nextId = (target, side) => `${side}-${Math.max(0, ...target[side].map(item => Number(/\d+$/.exec(item.id)?.[0] ?? 0))) + 1}`

/** @param {Matching} target @param {Side} side @returns {{target: Matching, id: string}} With one more that has no partner. */
export function withOneMore(target, side) {
  const id = nextId(target, side)
  return { target: { ...target, [side]: [...target[side], { id, text: '' }] }, id }
}

/** @param {Matching} target @returns {{target: Matching, left: string, right: string}} With one more pair, still empty. */
export function withNewPair(target) {
  const { target: half, id: left } = withOneMore(target, 'left')
  const { target: whole, id: right } = withOneMore(half, 'right')
  return { target: { ...whole, pairs: [...whole.pairs, { left, right }] }, left, right }
}

/** @param {Matching} target @param {Side} side @param {string} id @param {Partial<Item>} different @returns {Matching} */
const withItem = (target, side, id, different) => ({
  ...target,
  [side]: target[side].map(item => (item.id === id ? { ...item, ...different } : item)),
})

/** @param {Matching} target @param {Side} side @param {string} id @param {string} words @returns {Matching} */
export const withText = (target, side, id, words) => withItem(target, side, id, { text: words })

/**
 * Two are joined or parted. What never had another partner than an empty card leaves that card behind.
 * @param {Matching} target @param {string} left @param {string} right @returns {Matching} The same where nothing would be paired.
 */
export function toggledLink(target, left, right) {
  const isThere = target.pairs.some(pair => pair.left === left && pair.right === right)
  if (isThere) {
    const pairs = target.pairs.filter(pair => pair.left !== left || pair.right !== right)
    return pairs.length === 0 ? target : { ...target, pairs }
  }
  const isEmpty = (/** @type {Side} */ side, /** @type {string} */ id) =>
    target[side].some(item => item.id === id && item.text.trim() === '' && !item.face)
  // A pair with an empty card was only waiting for this partner.
  const waiting = target.pairs.filter(
    pair => (pair.left === left && isEmpty('right', pair.right)) || (pair.right === right && isEmpty('left', pair.left)),
  )
  const pairs = [...target.pairs.filter(pair => !waiting.includes(pair)), { left, right }]
  const stays = (/** @type {Side} */ side) => (/** @type {Item} */ item) =>
    !isEmpty(side, item.id) || !waiting.some(pair => pair[side] === item.id) || pairs.some(pair => pair[side] === item.id)
  return { ...target, left: target.left.filter(stays('left')), right: target.right.filter(stays('right')), pairs }
}

/** @param {Matching} target @param {Side} side @param {string} id @returns {Matching} Without it and what it was joined to it by. */
export function withoutItem(target, side, id) {
  const other = side === 'left' ? 'right' : 'left'
  const partners = target.pairs.filter(pair => pair[side] === id).map(pair => pair[other])
  const pairs = target.pairs.filter(pair => pair[side] !== id)
  if (pairs.length === 0) return target
  const isLeft = (/** @type {Item} */ item) =>
    !partners.includes(item.id) || item.text.trim() !== '' || item.face || pairs.some(pair => pair[other] === item.id)
  return { ...target, pairs, [side]: target[side].filter(item => item.id !== id), [other]: target[other].filter(isLeft) }
}

/**
 * Rows of a table, from a card on and below it: of two cells both sides are filled, of one its own side.
 * @param {Matching} target @param {Side} side @param {string} id @param {string[][]} rows @returns {Matching}
 */
export function withRows(target, side, id, rows) {
  let [now, at] = [target, target.pairs.findIndex(pair => pair[side] === id)]
  if (at < 0) at = target.pairs.length
  for (const [first = '', second] of rows) {
    if (!now.pairs[at]) now = withNewPair(now).target
    const pair = now.pairs[at++]
    now =
      second === undefined
        ? withText(now, side, pair[side], first)
        : withText(withText(now, 'left', pair.left, first), 'right', pair.right, second)
  }
  return now
}

/**
 * Pictures and sounds, from a card on and below it; from the first that is empty where none is named. A file's name describes it until
 * somebody has read it.
 * @param {Matching} target @param {Side} side @param {string} id @param {{face: Face, name: string}[]} faces @returns {Matching}
 */
export function withFaces(target, side, id, faces) {
  const isFree = (/** @type {Matching} */ of, /** @type {number} */ i) =>
    of[side].some(item => item.id === of.pairs[i][side] && item.text.trim() === '' && !item.face)
  let now = target
  let at = id ? now.pairs.findIndex(pair => pair[side] === id) : 0
  if (id && at < 0) at = now.pairs.length
  for (const { face, name } of faces) {
    while (!id && at < now.pairs.length && !isFree(now, at)) at++
    if (!now.pairs[at]) now = withNewPair(now).target
    const item = now.pairs[at++][side]
    const words = now[side].find(thing => thing.id === item)?.text
    if (!words) now = { ...now, descriptions: now.descriptions ?? 'teachers' }
    now = withItem(now, side, item, { face, text: words || name })
  }
  return now
}

/**
 * Fields side by side: those of the left in one column, those of the right in the other.
 * @param {string} name
 * @param {Field[]} left
 * @param {Field[]} right
 * @returns {Field[]}
 */
const inColumns = (name, left, right) =>
  Array.from({ length: Math.max(left.length, right.length) }, (_, i) => [
    left[i] ?? note(`${name}.left.${i}`, ''),
    right[i] ?? note(`${name}.right.${i}`, ''),
  ])
    .flat()
    .map(field => ({ ...field, half: true, wide: false }))

/** With which further thing on the right one on the left belongs together. @param {PartOf<'matching'>} target @param {string} left */
function belongs(target, left) {
  const has = new Set(target.pairs.filter(pair => pair.left === left).map(pair => pair.right))
  const others = target.right.filter(item => !has.has(item.id) && item.text.trim() !== '')
  const words = target.left.find(item => item.id === left)?.text.trim()
  return choice(
    `belongs.${left}`,
    words
      ? phrase(has.size > 0 ? 'bench.wordsAlsoBelong' : 'bench.wordsBelong', { words })
      : phrase(has.size > 0 ? 'bench.itAlsoBelongs' : 'bench.itBelongs'),
    '',
    {
      '': phrase('bench.nothingElse'),
      ...Object.fromEntries(others.map(item => [item.id, item.text])),
      new: phrase('bench.aNewOneOnTheRight'),
    },
  )
}
