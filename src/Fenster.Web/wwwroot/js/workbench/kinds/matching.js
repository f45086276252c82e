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
    const next = (/** @type {'left' | 'right'} */ on) =>
      `${on}-${Math.max(0, ...target[on].map(item => Number(/\d+$/.exec(item.id)?.[0] ?? 0))) + 1}`
    if (what === 'addPair') {
      const [left, right] = [next('left'), next('right')]
      return withTarget(pane, {
        ...target,
        left: [...target.left, { id: left, text: '' }],
        right: [...target.right, { id: right, text: '' }],
        pairs: [...target.pairs, { left, right }],
      })
    }
    if (what === 'belongs') {
      if (value === '') return pane
      const right = value === 'new' ? next('right') : value
      const things = value === 'new' ? [...target.right, { id: right, text: '' }] : target.right
      const after = target.pairs.findLastIndex(pair => pair.left === side)
      return withTarget(pane, {
        ...target,
        right: things,
        pairs: target.pairs.toSpliced(after < 0 ? target.pairs.length : after + 1, 0, { left: side, right }),
      })
    }
    if (what === 'addLeft') return withTarget(pane, { ...target, left: [...target.left, { id: next('left'), text: '' }] })
    if (what === 'addRight') return withTarget(pane, { ...target, right: [...target.right, { id: next('right'), text: '' }] })
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
    if (what === 'remove') return withTarget(pane, { ...target, [on]: target[on].filter(item => item.id !== id) })
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
