// What a row has beside its words, in a word each, and which of its fields stand behind one further word.

import { phrase } from '../language.js'
import { kinds } from './kinds/all.js'
import { labelOf } from './pane.js'

/** Fields that most rows do without: feedback, explanation, start, look, place. What a kind needs is none of them. */
const isSeldom = (/** @type {string} */ name) =>
  /^(feedback|explanation|region|spot|place|leader|group|prompt|at|link|face|label\.(?!copies))/.test(name)

/**
 * @param {TargetPart | undefined} target
 * @param {import('./kinds/fields.js').Field[][]} lines
 * @returns {{asked: import('./kinds/fields.js').Field[][], further: import('./kinds/fields.js').Field[][]}}
 */
export function sortedFields(target, lines) {
  const needed = target ? (kinds[target.kind].needs ?? []) : []
  const isFurther = (/** @type {import('./kinds/fields.js').Field} */ { name }) =>
    isSeldom(name) && !needed.some(need => name === need || name.startsWith(`${need}.`))
  const parts = (/** @type {boolean} */ further) =>
    lines.map(line => line.filter(field => isFurther(field) === further)).filter(line => line.length > 0)
  const isChoices = (/** @type {import('./kinds/fields.js').Field[] | undefined} */ line) => line?.every(field => field.type === 'choice')
  const asked = parts(false).reduce(
    (lines, line) =>
      isChoices(line) && isChoices(lines.at(-1)) ? [...lines.slice(0, -1), [...(lines.at(-1) ?? []), ...line]] : [...lines, line],
    /** @type {import('./kinds/fields.js').Field[][]} */ ([]),
  )
  return { asked, further: parts(true) }
}

const fractions = /** @type {Record<number, string>} */ ({ 0.25: '¼', 0.5: '½', 0.75: '¾' })

/** @param {number} points */
const pointsIn = points =>
  points in fractions ? phrase('bench.used.part', { part: fractions[points] }) : phrase('bench.used.points', { count: points })

/** @param {LabelPart} label */
const ofLabel = ({ copies, value, start, colour, feedback }) => [
  copies === null ? phrase('bench.used.anyNumber') : (copies ?? 1) > 1 ? phrase('bench.used.copies', { copies: String(copies) }) : '',
  value === null || value === undefined ? '' : phrase('bench.used.value', { value: String(value) }),
  start ? phrase('bench.used.start') : '',
  colour && colour !== 'paper' ? phrase(`bench.${colour}`) : '',
  feedback ? phrase('bench.used.feedback') : '',
]

/** @param {any} target */
const ofTarget = target => [
  (target.points ?? 1) === 1 ? '' : pointsIn(target.points),
  target.accepts?.length > 1 ? phrase('bench.used.also', { count: target.accepts.length - 1 }) : '',
  target.group ?? '',
  target.leader ? phrase('bench.used.leader') : '',
  target.feedback?.right || target.feedback?.wrong ? phrase('bench.used.feedback') : '',
  target.explanation ? phrase('bench.used.explanation') : '',
]

/** @param {PanePart} pane @param {TargetPart | undefined} target @param {string | undefined} label @returns {string[]} */
export function usedIn(pane, target, label) {
  const own = label ? labelOf(pane, label) : undefined
  return [...new Set([...(target ? ofTarget(target) : []), ...(own ? ofLabel(own) : [])].filter(Boolean))]
}
