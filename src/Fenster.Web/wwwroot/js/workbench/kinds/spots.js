// Spots that open a card: question points, info spots, locks.

import { phrase } from '../../language.js'
import { usual } from '../../usual.js'
import { freshId, spotRadius, withTarget } from '../pane.js'
import {
  answerAs,
  answerText,
  area,
  button,
  check,
  choice,
  commonLines,
  faceFields,
  isOfAnswer,
  number,
  numberIn,
  pointFields,
  setAnswer,
  setCommon,
  text,
  unitLines,
  withAnswerText,
  withCoordinate,
  withFace,
} from './fields.js'

/** @typedef {{kind: string, id: string, at: Point}} AtSpot */

/** What a spot's shape is. */
const point = {
  isPoint: true,
  asks: /** @type {const} */ ('point'),
  /** @param {AtSpot} target @returns {Region[]} */
  shapes: target => [{ kind: 'circle', centre: target.at, radius: spotRadius }],
  /** @param {any} target @param {number} _ @param {Region} region */
  withShape: (target, _, region) => (region.kind === 'circle' ? { ...target, at: region.centre } : target),
}

/** @param {PanePart} pane @param {any} target */
const added = (pane, target) => ({ pane: { ...pane, targets: [...pane.targets, target] }, id: target.id })
/** @param {AtSpot} target */
const placeFields = target => pointFields('at', target.at)
/** @param {any} target @param {string} name @param {any} value */
const withPlace = (target, name, value) => ({ ...target, at: withCoordinate(target.at, name.slice(3), value) })

const questionTypes = {
  single: phrase('bench.oneOfSeveral'),
  multiple: phrase('bench.anyOfSeveral'),
  trueFalse: phrase('bench.trueOrFalse'),
  text: phrase('bench.aShortAnswer'),
  number: phrase('bench.aNumber'),
}

/** @param {any} question */
function typeOf(question) {
  if (question.kind === 'typed') return question.answer.kind
  if (question.multiple) return 'multiple'
  return question.options.length === 2 &&
    question.options[0].text === phrase('bench.true') &&
    question.options[1].text === phrase('bench.false')
    ? 'trueFalse'
    : 'single'
}

/** @param {any} question @param {string} type */
function ofType(question, type) {
  const words = { text: question.text }
  if (type === 'text' || type === 'number')
    return {
      kind: 'typed',
      ...words,
      answer: answerAs(question.answer ?? { kind: 'text', spellings: [{ text: phrase('bench.answer') }] }, type),
    }
  if (type === 'trueFalse')
    return {
      kind: 'choice',
      ...words,
      multiple: false,
      options: [
        { id: 'o1', text: phrase('bench.true'), isRight: true },
        { id: 'o2', text: phrase('bench.false'), isRight: false },
      ],
    }
  const options = question.options ?? [
    { id: 'o1', text: phrase('bench.first'), isRight: true },
    { id: 'o2', text: phrase('bench.second'), isRight: false },
  ]
  const first = options.findIndex((/** @type {any} */ option) => option.isRight)
  return {
    kind: 'choice',
    ...words,
    multiple: type === 'multiple',
    options:
      type === 'multiple'
        ? options
        : options.map((/** @type {any} */ option, /** @type {number} */ i) => ({ ...option, isRight: i === Math.max(0, first) })),
  }
}

export const questionPoint = {
  ...point,
  word: phrase('bench.questionPoint'),
  sign: '?',
  /** @param {PanePart} pane @param {Point} at */
  make: (pane, at) => added(pane, { kind: 'questionPoint', id: freshId(pane, 'question'), at, question: ofType({ text: '' }, 'single') }),
  /** @param {QuestionPart} target */
  main: target => ({ text: target.question.text, placeholder: phrase('bench.typeTheQuestion'), name: phrase('bench.question') }),
  /** @param {PanePart} pane @param {QuestionPart} target @param {string} words */
  rename: (pane, target, words) => withTarget(pane, { ...target, question: { ...target.question, text: words } }),
  /** @param {QuestionPart} target */
  lines(target) {
    const { question } = target
    const answers =
      question.kind === 'typed'
        ? [
            [
              text(
                'answers',
                question.answer.kind === 'number' ? phrase('bench.number') : phrase('bench.acceptedAnswersSeveralSpellings'),
                answerText(question.answer),
                { wide: true },
              ),
            ],
            ...unitLines(question.answer),
          ]
        : [
            ...question.options.flatMap((/** @type {any} */ option, /** @type {number} */ i) => [
              [
                check(`option.${option.id}.isRight`, phrase('result.right'), option.isRight),
                text(`option.${option.id}.text`, phrase('bench.option', { number: i + 1 }), option.text),
                ...(question.options.length > 2 ? [button(`option.${option.id}.remove`, phrase('common.delete'))] : []),
              ],
              ...(option.isRight
                ? []
                : [[text(`option.${option.id}.feedback`, phrase('bench.sayToWhoPicksIt'), option.feedback, { wide: true })]]),
            ]),
            [button('addOption', phrase('bench.addAnOption'))],
          ]
    return [
      [choice('type', phrase('bench.answer2'), typeOf(question), questionTypes)],
      ...answers,
      ...commonLines(target),
      placeFields(target),
    ]
  },
  /** @param {PanePart} pane @param {QuestionPart} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    const { question } = target
    /** @param {any} next */
    const asked = next => withTarget(pane, { ...target, question: next })
    if (name === 'type') return asked(ofType(question, value))
    if (name === 'answers') return asked({ ...question, answer: withAnswerText(question.answer, value) })
    if (isOfAnswer(name)) return asked({ ...question, answer: setAnswer(question.answer, name, value) })
    if (name === 'addOption') {
      const most = Math.max(0, ...question.options.map((/** @type {any} */ option) => Number(/\d+$/.exec(option.id)?.[0] ?? 0)))
      return asked({
        ...question,
        options: [
          ...question.options,
          { id: `o${most + 1}`, text: phrase('bench.option', { number: question.options.length + 1 }), isRight: false },
        ],
      })
    }
    if (name.startsWith('option.')) return asked({ ...question, options: optionsWith(question, name.split('.'), value) })
    if (name.startsWith('at.')) return withTarget(pane, withPlace(target, name, value))
    return withTarget(pane, setCommon(target, name, value))
  },
}

/** @param {any} question @param {string[]} path @param {any} value */
function optionsWith(question, [, id, what], value) {
  if (what === 'remove') {
    const left = question.options.filter((/** @type {any} */ option) => option.id !== id)
    return left.some((/** @type {any} */ option) => option.isRight)
      ? left
      : left.map((/** @type {any} */ option, /** @type {number} */ i) => ({ ...option, isRight: i === 0 }))
  }
  const next = question.options.map((/** @type {any} */ option) =>
    option.id === id
      ? { ...option, [what]: value }
      : what === 'isRight' && value && !question.multiple
        ? { ...option, isRight: false }
        : option,
  )
  // A question always has a right answer.
  return next.some((/** @type {any} */ option) => option.isRight) ? next : question.options
}

export const infoSpot = {
  ...point,
  word: phrase('bench.infoSpot'),
  sign: 'i',
  isRinged: true,
  /** @param {PanePart} pane @param {Point} at */
  make: (pane, at) => added(pane, { kind: 'infoSpot', id: freshId(pane, 'info'), prompt: '', at, text: '' }),
  /** @param {PartOf<'infoSpot'>} target */
  main: target => ({ text: target.prompt ?? '', placeholder: phrase('bench.titleOfTheCard'), name: phrase('bench.titleOfTheCard') }),
  /** @param {PanePart} pane @param {PartOf<'infoSpot'>} target @param {string} prompt */
  rename: (pane, target, prompt) => withTarget(pane, { ...target, prompt }),
  /** @param {PartOf<'infoSpot'>} target */
  needs: ['face'],
  /** @param {PartOf<'infoSpot'>} target */
  lines: target => [
    [area('text', phrase('bench.whatItTells'), target.text)],
    faceFields('face', phrase('bench.pictureSoundOrVideo'), target.face),
    [text('link', phrase('bench.link'), target.link, { hint: 'https://', wide: true })],
    [
      choice('shows', phrase('bench.itShows'), target.shows ?? 'onClick', {
        onClick: phrase('bench.onAClick'),
        onHover: phrase('bench.underThePointerOrOnA'),
        covering: phrase('bench.overTheWholePicture'),
      }),
    ],
    [
      check('concealed', phrase('bench.concealedUntilFound'), target.concealed ?? false),
      ...(target.concealed ? [number('reach', phrase('bench.foundWithinPu'), target.reach ?? 40)] : []),
    ],
    [number('points', phrase('bench.worthInAGame'), target.points ?? 1)],
    placeFields(target),
  ],
  /** @param {PanePart} pane @param {PartOf<'infoSpot'>} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    if (name.startsWith('face')) return withTarget(pane, { ...target, face: withFace(target.face, name.slice(4), value) })
    if (name === 'reach') {
      const reach = numberIn(value)
      return reach !== null && reach > 0 ? withTarget(pane, { ...target, reach }) : pane
    }
    if (name === 'link') return withTarget(pane, { ...target, link: linkOf(value) })
    if (name.startsWith('at.')) return withTarget(pane, withPlace(target, name, value))
    return withTarget(pane, name === 'prompt' || name === 'points' ? setCommon(target, name, value) : { ...target, [name]: value })
  },
}

/** @param {string} words @returns {string} A web address; what lacks its beginning gets one. */
function linkOf(words) {
  const link = words.trim()
  return link === '' || /^https?:\/\//i.test(link) ? link : `https://${link}`
}

export const lock = {
  ...point,
  word: phrase('bench.lock'),
  isList: true,
  /** @param {PanePart} pane @param {Point} at */
  make: (pane, at) =>
    added(pane, {
      kind: 'lock',
      id: freshId(pane, 'lock'),
      prompt: '',
      at,
      code: {
        spellings: [{ text: '1234' }],
        rules: usual.spelling,
      },
      inside: '',
      opens: [],
      scored: false,
    }),
  /** @param {PartOf<'lock'>} target */
  main: target => ({
    text: answerText(target.code),
    placeholder: phrase('bench.theCodeOtherSpellings'),
    name: phrase('bench.codeOfTheLock'),
  }),
  /** @param {PanePart} pane @param {PartOf<'lock'>} target @param {string} line */
  rename: (pane, target, line) => withTarget(pane, { ...target, code: withAnswerText(target.code, line) }),
  /** @param {PartOf<'lock'>} target @param {PanePart} pane */
  lines: (target, pane) => [
    [text('prompt', phrase('bench.whatIsReadBeforeItOpens'), target.prompt, { hint: phrase('bench.whichCodeOpensIt'), wide: true })],
    [area('inside', phrase('bench.whatIsReadOnceItIs'), target.inside)],
    ...openable(pane, target).map(other => [
      check(`opens.${other.id}`, phrase('bench.opensThis', { name: nameOf(other) }), (target.opens ?? []).includes(other.id)),
    ]),
    ...((target.scored ?? true) ? commonLines(target) : []),
    placeFields(target),
  ],
  /** @param {PanePart} pane @param {PartOf<'lock'>} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    if (name.startsWith('opens.')) {
      const id = name.slice(6)
      // What one lock opens, no other does.
      const rest = {
        ...pane,
        targets: pane.targets.map(other =>
          other.kind === 'lock' ? { ...other, opens: (other.opens ?? []).filter(opened => opened !== id) } : other,
        ),
      }
      const mine = (target.opens ?? []).filter(opened => opened !== id)
      return withTarget(rest, { ...target, opens: value ? [...mine, id] : mine })
    }
    if (name.startsWith('rules.')) return withTarget(pane, { ...target, code: setAnswer(target.code, name, value) })
    if (name === 'inside' || name === 'scored') return withTarget(pane, { ...target, [name]: value })
    if (name.startsWith('at.')) return withTarget(pane, withPlace(target, name, value))
    return withTarget(pane, setCommon(target, name, value))
  },
}

/**
 * What a lock can open: everything but zones and itself, and no lock that it lies behind.
 * @param {PanePart} pane
 * @param {PartOf<'lock'>} target
 */
function openable(pane, target) {
  const behind = new Set([target.id])
  for (let grew = true; grew;) {
    const outer = pane.targets.filter(
      other => other.kind === 'lock' && !behind.has(other.id) && (other.opens ?? []).some(id => behind.has(id)),
    )
    grew = outer.length > 0
    for (const other of outer) behind.add(other.id)
  }
  return pane.targets.filter(other => other.kind !== 'dropZone' && other.kind !== 'hiddenZone' && !behind.has(other.id))
}

/** @param {TargetPart} target @returns {string} */
const nameOf = target => target.prompt || (target.kind === 'questionPoint' ? target.question.text : '') || target.id
