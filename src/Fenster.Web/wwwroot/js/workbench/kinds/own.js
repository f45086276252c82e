// Students' own pictures: one for a pane, with nothing beside it.

import { phrase } from '../../language.js'
import { freshId, withTarget } from '../pane.js'
import { area, commonLines, numberIn, setCommon } from './fields.js'
import { criteriaIn, criteriaText } from './typed.js'

/** @typedef {PartOf<'ownPicture'>} Own */

export const ownPicture = {
  word: phrase('bench.ownPicture'),
  isPoint: false,
  asks: null,
  /** @param {PanePart} pane */
  make(pane) {
    const target = {
      kind: /** @type {const} */ ('ownPicture'),
      id: freshId(pane, 'own'),
      prompt: '',
      // Where there is a picture already, students put their spots on it.
      whose: /** @type {Sent.PictureFrom} */ (pane.picture ? 'teacher' : 'student'),
    }
    return { pane: { ...pane, targets: [...pane.targets, target] }, id: target.id }
  },
  shapes: () => [],
  /** @param {Own} target */
  withShape: target => target,
  /** @param {Own} target */
  main: target => ({ text: target.prompt ?? '', placeholder: phrase('bench.whatToMake'), name: phrase('bench.whatToMake') }),
  /** @param {PanePart} pane @param {Own} target @param {string} prompt */
  rename: (pane, target, prompt) => withTarget(pane, { ...target, prompt }),
  needs: ['questions', 'criteria'],
  /** @param {Own} target */
  lines: target => [
    [area('questions', phrase('bench.ownQuestions'), (target.questions ?? []).join('\n'), { hint: phrase('bench.ownQuestionsHint') })],
    [area('criteria', phrase('bench.criteria'), criteriaText(target.criteria), { hint: phrase('bench.criteriaHint') })],
    ...commonLines(target).filter(line => !line[0].name.startsWith('feedback')),
  ],
  /** @param {PanePart} pane @param {Own} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    if (name === 'questions') return withTarget(pane, { ...target, questions: linesIn(value) })
    if (name === 'fewest') return withTarget(pane, { ...target, fewest: Math.max(0, Math.round(numberIn(value) ?? 0)) })
    if (name === 'whose' || name === 'needsSources') return withTarget(pane, { ...target, [name]: value })
    if (name === 'criteria') return withTarget(pane, { ...target, criteria: criteriaIn(value) })
    return withTarget(pane, setCommon(target, name, value))
  },
}

/** @param {string} text */
const linesIn = text =>
  text
    .split('\n')
    .map(line => line.trim())
    .filter(Boolean)
