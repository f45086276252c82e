// Answer boxes and open notes: what is typed onto the picture.

import { phrase } from '../../language.js'
import { usual } from '../../usual.js'
import { freshId, withTarget } from '../pane.js'
import {
  answerAs,
  answerText,
  area,
  choice,
  commonLines,
  isOfAnswer,
  numberIn,
  regionFields,
  setAnswer,
  setCommon,
  text,
  unitLines,
  withAnswerText,
  withRegionField,
} from './fields.js'

/** @param {PanePart} pane @param {BoxPart | PartOf<'openNote'>} target @param {string} name @param {any} value */
const withRegion = (pane, target, name, value) =>
  withTarget(pane, { ...target, region: withRegionField(target.region, name.slice(7), value, pane) })

export const answerBox = {
  word: phrase('bench.answerBox'),
  isList: true,
  isPoint: false,
  asks: /** @type {const} */ ('region'),
  /** @param {PanePart} pane @param {Region} region */
  make(pane, region) {
    const target = {
      kind: /** @type {const} */ ('answerBox'),
      id: freshId(pane, 'box'),
      prompt: '',
      region,
      answer: {
        kind: 'text',
        spellings: [{ text: phrase('bench.answer') }],
        rules: usual.spelling,
      },
    }
    return { pane: { ...pane, targets: [...pane.targets, target] }, id: target.id }
  },
  /** @param {BoxPart} target */
  shapes: target => [target.region],
  /** @param {BoxPart} target @param {number} _ @param {Region} region */
  withShape: (target, _, region) => ({ ...target, region }),
  /** @param {BoxPart} target */
  main: target => ({
    text: answerText(target.answer),
    placeholder: phrase('bench.acceptedAnswersSeveralSpellings'),
    name: phrase('bench.acceptedAnswersSeparatedBySemicolons'),
  }),
  /** @param {PanePart} pane @param {BoxPart} target @param {string} line */
  rename: (pane, target, line) => withTarget(pane, { ...target, answer: withAnswerText(target.answer, line) }),
  /** @param {BoxPart} target */
  needs: ['prompt'],
  /** @param {BoxPart} target */
  lines: target => [
    [
      choice('answerKind', phrase('bench.studentsType'), target.answer.kind, {
        text: phrase('bench.words'),
        number: phrase('bench.aNumber'),
      }),
    ],
    ...unitLines(target.answer),
    [text('prompt', phrase('bench.whatIsAskedForStudentsWho'), target.prompt, { wide: true })],
    ...commonLines(target),
    regionFields(target.region),
  ],
  /** @param {PanePart} pane @param {BoxPart} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    if (name === 'answerKind') return withTarget(pane, { ...target, answer: answerAs(target.answer, value) })
    if (isOfAnswer(name)) return withTarget(pane, { ...target, answer: setAnswer(target.answer, name, value) })
    if (name.startsWith('region.')) return withRegion(pane, target, name, value)
    return withTarget(pane, setCommon(target, name, value))
  },
}

/** One in a line, as in “Names the danger = 2”; without a number it is worth 1. @param {string} lines */
export const criteriaIn = lines =>
  lines
    .split('\n')
    .map(line => /^(.*?)(?:=\s*([\d.,]+))?\s*$/.exec(line) ?? ['', '', ''])
    .map(([, text, points]) => ({ text: text.trim(), points: numberIn(points ?? '') || 1 }))
    .filter(({ text }) => text !== '')

/** @param {Sent.Criterion[] | undefined} criteria A line for each. */
export const criteriaText = criteria => (criteria ?? []).map(({ text, points }) => `${text} = ${points}`).join('\n')

export const openNote = {
  word: phrase('bench.openNote'),
  isPoint: false,
  asks: /** @type {const} */ ('region'),
  /** @param {PanePart} pane @param {Region} region */
  make(pane, region) {
    const target = { kind: /** @type {const} */ ('openNote'), id: freshId(pane, 'note'), prompt: '', region }
    return { pane: { ...pane, targets: [...pane.targets, target] }, id: target.id }
  },
  /** @param {PartOf<'openNote'>} target */
  shapes: target => [target.region],
  /** @param {PartOf<'openNote'>} target @param {number} _ @param {Region} region */
  withShape: (target, _, region) => ({ ...target, region }),
  /** @param {PartOf<'openNote'>} target */
  main: target => ({ text: target.prompt ?? '', placeholder: phrase('bench.whatToWriteAbout'), name: phrase('bench.whatToWriteAbout') }),
  /** @param {PanePart} pane @param {PartOf<'openNote'>} target @param {string} prompt */
  rename: (pane, target, prompt) => withTarget(pane, { ...target, prompt }),
  /** @param {PartOf<'openNote'>} target */
  lines: target => [
    [
      area('criteria', phrase('bench.criteria'), criteriaText(target.criteria), {
        hint: phrase('bench.criteriaHint'),
      }),
    ],
    ...commonLines(target).filter(line => !line[0].name.startsWith('feedback')),
    regionFields(target.region),
  ],
  /** @param {PanePart} pane @param {PartOf<'openNote'>} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    if (name.startsWith('region.')) return withRegion(pane, target, name, value)
    if (name === 'criteria') return withTarget(pane, { ...target, criteria: criteriaIn(value) })
    if (name === 'pins') return withTarget(pane, { ...target, pins: Math.max(0, Math.round(numberIn(value) ?? 0)) })
    return withTarget(pane, setCommon(target, name, value))
  },
}
