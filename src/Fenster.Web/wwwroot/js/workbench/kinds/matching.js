// Things to match: a ledger of two columns.

import { freshId, withTarget } from '../pane.js'
import { button, choice, commonLines, faceFields, note, setCommon, text, withFace } from './fields.js'

/** @typedef {{id: string, text: string, face?: Face | null}} Item */
/** @typedef {import('./fields.js').Field} Field */

export const matching = {
  word: 'matching',
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
  main: target => ({ text: target.prompt ?? '', placeholder: 'What belongs together?', name: 'What is asked of the matching' }),
  /** @param {PanePart} pane @param {PartOf<'matching'>} target @param {string} prompt */
  rename: (pane, target, prompt) => withTarget(pane, { ...target, prompt }),
  /** @param {PartOf<'matching'>} target */
  lines(target) {
    const lonely = (/** @type {'left' | 'right'} */ side) => target[side].filter(item => target.pairs.every(pair => pair[side] !== item.id))
    /** @param {'left' | 'right'} side @param {Item} item @param {string} label */
    const field = (side, item, label) =>
      text(`item.${side}.${item.id}.text`, label, item.text, { hint: item.face ? 'what it shows or says' : 'text' })
    /** @param {'left' | 'right'} side @param {Item} item */
    const face = (side, item) =>
      faceFields(`item.${side}.${item.id}.face`, `${side === 'left' ? 'Left' : 'Right'}: picture or sound`, item.face)
    const shown = new Set()
    /**
     * One thing of a pair: its words, and what stands in their place; a thing that stands in an earlier pair is only named.
     * @param {'left' | 'right'} side
     * @param {string} id
     * @param {string} words
     */
    const thing = (side, id, words) => {
      const item = /** @type {Item} */ (target[side].find(item => item.id === id))
      if (shown.has(id)) return [note(`again.${side}.${id}`, `“${item.text}” again`)]
      shown.add(id)
      return [field(side, item, words), ...face(side, item)]
    }
    const lastOf = new Map(target.pairs.map((pair, i) => [pair.left, i]))
    return [
      ...target.pairs.flatMap((pair, i) => [
        inColumns(`pair.${i}`, thing('left', pair.left, `Pair ${i + 1}, left`), thing('right', pair.right, `Pair ${i + 1}, right`)),
        [
          ...(lastOf.get(pair.left) === i ? [belongs(target, pair.left)] : []),
          ...(target.pairs.length > 1 ? [button(`unpair.${pair.left}.${pair.right}`, `Delete pair ${i + 1}`)] : []),
        ],
      ]),
      ...lonely('left').flatMap(item => [
        inColumns(`left.${item.id}`, [field('left', item, 'Left, without partner'), ...face('left', item)], []),
        [belongs(target, item.id), button(`remove.left.${item.id}`, 'Delete it')],
      ]),
      ...lonely('right').flatMap(item => [
        inColumns(`right.${item.id}`, [], [field('right', item, 'Right, without partner'), ...face('right', item)]),
        [button(`remove.right.${item.id}`, 'Delete it')],
      ]),
      [
        button('addPair', 'Add a pair'),
        button('addLeft', 'Add one on the left without partner'),
        button('addRight', 'Add one on the right without partner'),
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
  return choice(`belongs.${left}`, `${words ? `“${words}”` : 'It'} ${has.size > 0 ? 'also ' : ''}belongs to`, '', {
    '': 'nothing else',
    ...Object.fromEntries(others.map(item => [item.id, item.text])),
    new: 'a new one on the right',
  })
}
