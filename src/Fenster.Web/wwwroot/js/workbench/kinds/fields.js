// The fields of a row, as data: the page draws them all in the same way.

import { phrase } from '../../language.js'
import { usual } from '../../usual.js'
import { asShape, crossesItself, inside, rounded } from '../regions.js'

/**
 * @typedef {object} Field
 * @property {string} name
 * @property {string} label
 * @property {'text' | 'area' | 'number' | 'check' | 'choice' | 'button' | 'file' | 'note' | 'sound'} type
 * @property {string} value
 * @property {boolean} [on] Of a check.
 * @property {{value: string, text: string}[]} [options] Of a choice.
 * @property {string} [hint] Shown in an empty field.
 * @property {boolean} [wide] As wide as the row.
 * @property {boolean} [half] One of two columns.
 * @property {string} [media] What a file field holds: an address to show or play.
 */

/** @param {string} name @param {string} label @param {string | undefined} value @param {Partial<Field>} [more] @returns {Field} */
export const text = (name, label, value, more) => ({ name, label, type: 'text', value: value ?? '', ...more })
/** @param {string} name @param {string} label @param {string | undefined} value @param {Partial<Field>} [more] @returns {Field} */
export const area = (name, label, value, more) => ({ name, label, type: 'area', value: value ?? '', wide: true, ...more })
/** @param {string} name @param {string} label @param {number | null | undefined} value @param {Partial<Field>} [more] @returns {Field} */
export const number = (name, label, value, more) => ({
  name,
  label,
  type: 'number',
  value: value === null || value === undefined ? '' : String(value),
  ...more,
})
/** @param {string} name @param {string} label @param {boolean} on @returns {Field} */
export const check = (name, label, on) => ({ name, label, type: 'check', value: '', on })
/** @param {string} name @param {string} label @param {string} value @param {Record<string, string>} options @returns {Field} */
export const choice = (name, label, value, options) => ({
  name,
  label,
  type: 'choice',
  value,
  options: Object.entries(options).map(([value, text]) => ({ value, text })),
})
/** @param {string} name @param {string} label @returns {Field} */
export const button = (name, label) => ({ name, label, type: 'button', value: '' })
/** @param {string} name @param {string} words @returns {Field} */
export const note = (name, words) => ({ name, label: words, type: 'note', value: '', wide: true })

/**
 * @param {string} name
 * @param {string} label
 * @param {Face | null | undefined} face
 * @returns {Field[]} A field for a picture, sound or video, and what belongs to one that is there.
 */
export function faceFields(name, label, face) {
  const file = {
    name,
    label,
    type: /** @type {const} */ ('file'),
    value: face?.kind ?? '',
    media: face ? `/media/${face.media}/${face.kind === 'picture' ? 480 : 0}` : '',
  }
  if (!face) return [file]
  const clip =
    face.kind === 'picture'
      ? []
      : [
          number(`${name}.from`, phrase('bench.fromSecond'), face.from || undefined, { hint: '0' }),
          number(`${name}.to`, phrase('bench.toSecond'), face.to, { hint: phrase('bench.end') }),
        ]
  const captions =
    face.kind === 'video'
      ? [
          {
            name: `${name}.captions`,
            label: face.captions ? phrase('bench.captionsChange') : phrase('bench.captionsWebvtt'),
            type: /** @type {const} */ ('file'),
            value: face.captions ? 'captions' : '',
            media: '',
          },
        ]
      : []
  return [file, ...clip, ...captions, button(`${name}.remove`, phrase(`bench.away.${face.kind}`))]
}

/**
 * @param {Face | null | undefined} face
 * @param {string} path Behind the field's own name, such as `.from`.
 * @param {any} value
 * @returns {Face | null}
 */
export function withFace(face, path, value) {
  const part = path.replace(/^\./, '')
  if (part === '') {
    // The file's name describes it elsewhere.
    const { name: _name, ...bare } = value
    return bare
  }
  if (part === 'remove' || !face) return null
  if (part === 'captions' && face.kind === 'video') return { ...face, captions: value.media }
  if (face.kind === 'picture') return face
  if (part === 'from') return { ...face, from: Math.max(0, numberIn(value) ?? 0) }
  const to = numberIn(value)
  return { ...face, to: to !== null && to > (face.from ?? 0) ? to : null }
}

/** @param {any} value @returns {number | null} */
export function numberIn(value) {
  const text = String(value).trim().replace(',', '.')
  const number = Number(text)
  return text === '' || !Number.isFinite(number) ? null : number
}

/** @param {TargetPart} target @returns {Field[][]} What every kind of target has. */
export const commonLines = target => [
  [text('feedback.right', phrase('bench.sayWhenRight'), target.feedback?.right, { wide: true })],
  [text('feedback.wrong', phrase('bench.sayWhenWrong'), target.feedback?.wrong, { wide: true })],
  [text('explanation', phrase('bench.explainTheAnswer'), target.explanation, { wide: true })],
]

/** @param {TargetPart} target @param {string} name @param {any} value @returns {TargetPart} */
export function setCommon(target, name, value) {
  if (name === 'points') {
    const points = numberIn(value)
    return points !== null && points > 0 ? { ...target, points } : target
  }
  if (name.startsWith('feedback.')) return { ...target, feedback: { right: '', wrong: '', ...target.feedback, [name.slice(9)]: value } }
  if (name === 'explanation' || name === 'prompt' || name === 'compulsory') return { ...target, [name]: value }
  if (name === 'takenOut') return { ...target, takenOut: value || null }
  return target
}

/** @param {Region} region @param {string} [prefix] @returns {Field[]} Its place and size, to be read and typed. */
export function regionFields(region, prefix = 'region') {
  /** @param {string} name @param {string} label @param {number} value */
  const field = (name, label, value) => number(`${prefix}.${name}`, label, Math.round(value * 100) / 100)
  const shape = choice(`${prefix}.shape`, phrase('bench.shape'), region.kind, {
    rectangle: phrase('bench.box'),
    circle: phrase('bench.circle'),
    ellipse: phrase('bench.oval'),
    polygon: phrase('bench.outline'),
  })
  switch (region.kind) {
    case 'circle':
      return [
        shape,
        field('x', 'x', region.centre.x),
        field('y', 'y', region.centre.y),
        field('radius', phrase('bench.radius'), region.radius),
      ]
    case 'ellipse':
      return [
        shape,
        field('x', 'x', region.centre.x),
        field('y', 'y', region.centre.y),
        field('radiusX', phrase('bench.radiusAcross'), region.radiusX),
        field('radiusY', phrase('bench.radiusDown'), region.radiusY),
      ]
    case 'rectangle':
      return [
        shape,
        field('x', 'x', region.x),
        field('y', 'y', region.y),
        field('width', phrase('bench.width'), region.width),
        field('height', phrase('bench.height'), region.height),
        field('rotation', phrase('bench.turn'), region.rotation ?? 0),
      ]
    case 'polygon':
      return [
        shape,
        text(`${prefix}.corners`, phrase('bench.cornersXYADoubleClick'), region.vertices.map(({ x, y }) => `${x} ${y}`).join('; '), {
          wide: true,
        }),
      ]
  }
}

/** @param {Region} region @param {string} part @param {any} value @returns {Region} */
function setRegionField(region, part, value) {
  if (part === 'shape') return asShape(region, value)
  if (part === 'corners') {
    const vertices = cornersIn(String(value))
    return vertices && region.kind === 'polygon' ? { ...region, vertices } : region
  }
  const number = numberIn(value)
  if (number === null) return region
  if (part === 'x' || part === 'y')
    return 'centre' in region ? { ...region, centre: withCoordinate(region.centre, part, value) } : { ...region, [part]: number }
  if (part === 'rotation') return region.kind === 'rectangle' ? { ...region, rotation: number } : region
  return number > 0 ? { ...region, [part]: number } : region
}

/**
 * The region with a field typed, kept on the picture.
 * @param {Region} region
 * @param {string} part
 * @param {any} value
 * @param {PanePart} pane
 */
export const withRegionField = (region, part, value, pane) => rounded(inside(setRegionField(region, part, value), pane))

/** @param {string} words As in “10 20; 30 20; 20 40”. @returns {Point[] | null} Null when they make no outline. */
function cornersIn(words) {
  const vertices = words
    .split(';')
    .map(part => part.trim())
    .filter(Boolean)
    .map(part => part.split(/\s+/).map(numberIn))
  if (vertices.length < 3 || vertices.some(numbers => numbers.length !== 2 || numbers.includes(null))) return null
  const points = vertices.map(([x, y]) => ({ x: Number(x), y: Number(y) }))
  return crossesItself(points) ? null : points
}

/**
 * @param {string} name
 * @param {Point | null | undefined} point
 * @returns {Field[]} Where it lies, to be read and typed; nothing for no point.
 */
export const pointFields = (name, point) =>
  point ? [number(`${name}.x`, 'x', Math.round(point.x * 100) / 100), number(`${name}.y`, 'y', Math.round(point.y * 100) / 100)] : []

/** @param {Point} point @param {string} which @param {any} value @returns {Point} */
export function withCoordinate(point, which, value) {
  const number = numberIn(value)
  return number === null ? point : { ...point, [which]: number }
}

/** @param {any} tolerance @param {string} name @param {any} value */
export function setTolerance(tolerance, name, value) {
  const now = { ...usual.tolerance, ...tolerance }
  const number = numberIn(value)
  const [band, ...rest] = now.bands
  if (name === 'slack' && number !== null && number >= 0)
    return { slack: number, bands: now.bands.filter((/** @type {any} */ b) => b.slack > number) }
  if (name === 'band.slack')
    return number !== null && number > now.slack
      ? { ...now, bands: [{ slack: number, credit: band?.credit ?? 0.5 }, ...rest] }
      : { ...now, bands: rest }
  if (name === 'band.credit' && number !== null && number > 0 && number < 100 && band)
    return { ...now, bands: [{ ...band, credit: number / 100 }, ...rest] }
  return now
}

/** @param {any} answer @returns {Field[][]} The units that may stand behind a number. */
export const unitLines = answer =>
  answer.kind !== 'number'
    ? []
    : [
        [
          text(
            'answer.units',
            phrase('bench.unitsEachWithHowManyOf'),
            (answer.units ?? [])
              .map((/** @type {any} */ unit, /** @type {number} */ i) => (i === 0 ? unit.name : `${unit.name} = ${unit.factor}`))
              .join('; '),
            { hint: 'm; cm = 0.01', wide: true },
          ),
        ],
      ]

/** @param {string} name @returns {boolean} Whether a field is one of a typed answer. */
export const isOfAnswer = name => ['answer.', 'rules.', 'spelling.'].some(start => name.startsWith(start))

/** @param {any} answer @param {string} name @param {any} value */
export function setAnswer(answer, name, value) {
  if (name.startsWith('rules.'))
    return {
      ...answer,
      rules: {
        ...usual.spelling,
        ...answer.rules,
        [name.slice(6)]: value,
      },
    }
  if (name.startsWith('spelling.')) {
    const credit = (numberIn(value) ?? 0) / 100
    return credit > 0 && credit <= 1
      ? {
          ...answer,
          spellings: answer.spellings.map((/** @type {any} */ spelling, /** @type {number} */ i) =>
            i === Number(name.slice(9)) ? { ...spelling, credit } : spelling,
          ),
        }
      : answer
  }
  const part = name.slice(7)
  if (part === 'units') return { ...answer, units: unitsIn(value) }
  const number = numberIn(value)
  if (number === null) return answer
  if (part === 'withinShare') return { ...answer, withinShare: Math.max(0, number) / 100 }
  return { ...answer, [part]: part === 'within' ? Math.max(0, number) : number }
}

/** @param {string} words As in “m; cm = 0.01”. */
function unitsIn(words) {
  return words
    .split(';')
    .map(part => part.split('='))
    .map(([name, factor], i) => ({ name: name.trim(), factor: i === 0 ? 1 : (numberIn(factor ?? '') ?? 1) }))
    .filter(unit => unit.name !== '' && unit.factor > 0)
}

/** @param {any} answer @returns {string} The accepted answers in one line. */
export const answerText = answer =>
  answer.kind === 'number' ? String(answer.value) : answer.spellings.map((/** @type {any} */ spelling) => spelling.text).join('; ')

/** @param {any} answer @param {string} line @returns {any} */
export function withAnswerText(answer, line) {
  if (answer.kind === 'number') return { ...answer, value: numberIn(line) ?? answer.value }
  const texts = line
    .split(';')
    .map(part => part.trim())
    .filter(Boolean)
  const spellings = texts.map(text => answer.spellings.find((/** @type {any} */ spelling) => spelling.text === text) ?? { text })
  return { ...answer, spellings: spellings.length > 0 ? spellings : answer.spellings }
}

/** @param {any} answer @param {string} to */
export const answerAs = (answer, to) =>
  answer.kind === to
    ? answer
    : to === 'number'
      ? { kind: 'number', value: numberIn(answer.spellings?.[0]?.text ?? '') ?? 0 }
      : { kind: 'text', spellings: [{ text: String(answer.value ?? 'answer') }] }
