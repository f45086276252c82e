// Things to match: a ledger of two columns.

import { freshId, withTarget } from '../pane.js'
import { button, commonLines, faceFields, setCommon, text, withFace } from './fields.js'

/** @typedef {{id: string, text: string, face?: Face | null}} Item */

export const matching = {
  word: 'matching',
  isPoint: false,
  asks: null,
  /** @param {PanePart} pane */
  make(pane) {
    const target = {
      kind: /** @type {const} */ ('matching'), id: freshId(pane, 'matching'), prompt: '',
      left: [{ id: 'left-1', text: '' }, { id: 'left-2', text: '' }], right: [{ id: 'right-1', text: '' }, { id: 'right-2', text: '' }],
      pairs: [{ left: 'left-1', right: 'right-1' }, { left: 'left-2', right: 'right-2' }],
    }
    return { pane: { ...pane, targets: [...pane.targets, target] }, id: target.id }
  },
  shapes: () => [],
  /** @param {MatchingPart} target */
  withShape: target => target,
  /** @param {MatchingPart} target */
  main: target => ({ text: target.prompt ?? '', placeholder: 'What belongs together?', name: 'What is asked of the matching' }),
  /** @param {PanePart} pane @param {MatchingPart} target @param {string} prompt */
  rename: (pane, target, prompt) => withTarget(pane, { ...target, prompt }),
  /** @param {MatchingPart} target */
  lines(target) {
    const lonely = (/** @type {'left' | 'right'} */ side) => target[side].filter(item => target.pairs.every(pair => pair[side] !== item.id))
    /** @param {'left' | 'right'} side @param {Item} item @param {string} label */
    const field = (side, item, label) => text(`item.${side}.${item.id}.text`, label, item.text, { hint: item.face ? 'what it shows or says' : 'text' })
    /** @param {'left' | 'right'} side @param {Item} item */
    const face = (side, item) => faceFields(`item.${side}.${item.id}.face`, `${side === 'left' ? 'Left' : 'Right'}: picture or sound`, item.face)
    const of = (/** @type {'left' | 'right'} */ side, /** @type {string} */ id) => /** @type {Item} */ (target[side].find(item => item.id === id))
    return [
      ...target.pairs.flatMap((pair, i) => [
        [field('left', of('left', pair.left), `Pair ${i + 1}, left`), field('right', of('right', pair.right), `Pair ${i + 1}, right`), ...(target.pairs.length > 1 ? [button(`unpair.${pair.left}.${pair.right}`, 'Delete')] : [])],
        [...face('left', of('left', pair.left)), ...face('right', of('right', pair.right))],
      ]),
      ...lonely('left').map(item => [field('left', item, 'Left, without partner'), button(`remove.left.${item.id}`, 'Delete')]),
      ...lonely('right').map(item => [field('right', item, 'Right, without partner'), button(`remove.right.${item.id}`, 'Delete')]),
      [button('addPair', 'Add a pair'), button('addLeft', 'Add one on the left without partner'), button('addRight', 'Add one on the right without partner')],
      ...commonLines(target),
    ]
  },
  /** @param {PanePart} pane @param {MatchingPart} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    const [what, side, id, part, more] = name.split('.')
    const next = (/** @type {'left' | 'right'} */ on) => `${on}-${Math.max(0, ...target[on].map(item => Number(/\d+$/.exec(item.id)?.[0] ?? 0))) + 1}`
    if (what === 'addPair') {
      const [left, right] = [next('left'), next('right')]
      return withTarget(pane, { ...target, left: [...target.left, { id: left, text: '' }], right: [...target.right, { id: right, text: '' }], pairs: [...target.pairs, { left, right }] })
    }
    if (what === 'addLeft') return withTarget(pane, { ...target, left: [...target.left, { id: next('left'), text: '' }] })
    if (what === 'addRight') return withTarget(pane, { ...target, right: [...target.right, { id: next('right'), text: '' }] })
    if (what === 'unpair') {
      const pairs = target.pairs.filter(pair => pair.left !== side || pair.right !== id)
      const used = (/** @type {'left' | 'right'} */ on, /** @type {string} */ item) => pairs.some(pair => pair[on] === item)
      return withTarget(pane, { ...target, pairs, left: target.left.filter(item => item.id !== side || used('left', side)), right: target.right.filter(item => item.id !== id || used('right', id)) })
    }
    const on = /** @type {'left' | 'right'} */ (side)
    if (what === 'remove') return withTarget(pane, { ...target, [on]: target[on].filter(item => item.id !== id) })
    if (what === 'item') {
      return withTarget(pane, { ...target, [on]: target[on].map(item => (item.id !== id ? item
        : part === 'text' ? { ...item, text: value } : { ...item, face: withFace(item.face, more ?? '', value), text: item.text || value?.name || '' })) })
    }
    return withTarget(pane, setCommon(target, name, value))
  },
}
