// Drop zones, seen by students or hidden from them.

import { phrase } from '../../language.js'
import { usual } from '../../usual.js'
import { freshId, labelOf, withLabel, withTarget } from '../pane.js'
import { measuresOf } from '../regions.js'
import {
  button,
  check,
  choice,
  commonLines,
  faceFields,
  note,
  number,
  numberIn,
  pointFields,
  regionFields,
  setCommon,
  setTolerance,
  text,
  withCoordinate,
  withFace,
  withRegionField,
} from './fields.js'

/** @param {'dropZone' | 'hiddenZone'} kind */
const zone = kind => ({
  word: kind === 'dropZone' ? phrase('bench.dropZone') : phrase('bench.hiddenZone'),
  isPoint: false,
  asks: /** @type {const} */ ('region'),

  /** With an empty label of its own. @param {PanePart} pane @param {Region} region */
  make(pane, region) {
    const label = { id: freshId(pane, 'label'), text: '', copies: 1 }
    const target = {
      kind,
      id: label.id.replace('label', 'zone'),
      region,
      accepts: [{ label: label.id }],
      ...(kind === 'hiddenZone' ? { tolerance: usual.tolerance } : {}),
    }
    return { pane: { ...pane, labels: [...pane.labels, label], targets: [...pane.targets, target] }, id: target.id }
  },
  /** @param {ZonePart} target */
  shapes: target => [target.region],
  /** @param {ZonePart} target @param {number} _ @param {Region} region */
  withShape: (target, _, region) => ({ ...target, region }),
  /** @param {ZonePart} target @param {PanePart} pane */
  main: (target, pane) => ({
    text: labelOf(pane, target.accepts[0]?.label)?.text ?? '',
    placeholder: phrase('bench.typeTheLabel'),
    name: phrase('bench.labelOfZone'),
    label: target.accepts[0]?.label,
  }),
  /** @param {PanePart} pane @param {ZonePart} target @param {string} words */
  rename(pane, target, words) {
    const label = target.accepts[0]?.label
    if (label) return withLabel(pane, label, { text: words })
    const added = { id: freshId(pane, 'label'), text: words, copies: 1 }
    return withTarget({ ...pane, labels: [...pane.labels, added] }, { ...target, accepts: [{ label: added.id }] })
  },
  /** @param {ZonePart} target @param {PanePart} pane */
  lines(target, pane) {
    const label = labelOf(pane, target.accepts[0]?.label ?? '')
    const others = pane.labels.filter(other => other.text.trim() && !target.accepts.some(accepted => accepted.label === other.id))
    const groups = [...new Set(pane.targets.flatMap(other => ('group' in other && other.group ? [other.group] : [])))]
    return [
      [
        choice('kind', phrase('bench.students'), target.kind, {
          dropZone: phrase('bench.seeTheZone'),
          hiddenZone: phrase('bench.findThePlace'),
        }),
      ],
      ...target.accepts.flatMap((accepted, i) =>
        i === 0
          ? []
          : [
              [
                note(`also.${accepted.label}`, phrase('bench.alsoTakes', { label: labelOf(pane, accepted.label)?.text ?? '' })),
                button(`drop.${accepted.label}`, phrase('bench.noMore')),
              ],
            ],
      ),
      ...(others.length > 0
        ? [
            [
              choice('accept', phrase('bench.alsoAccept'), '', {
                '': phrase('bench.anotherLabel'),
                ...Object.fromEntries(others.map(other => [other.id, other.text])),
              }),
            ],
          ]
        : []),
      ...(target.kind === 'dropZone'
        ? [[check('leader', phrase('bench.aLineJoinsItToA'), Boolean(target.leader)), ...pointFields('leader', target.leader)]]
        : []),
      [
        text('group', phrase('bench.interchangeableWithZonesOfGroup'), target.group ?? '', {
          hint: groups[0] ? phrase('bench.suchAs', { group: groups[0] }) : phrase('bench.none'),
          wide: true,
        }),
      ],
      ...(label ? labelLines(label) : []),
      ...commonLines(target),
      ...(target.kind === 'dropZone' ? [[text('prompt', phrase('bench.nameOfThePlaceForStudents'), target.prompt, { wide: true })]] : []),
      regionFields(target.region),
    ]
  },
  /** @param {PanePart} pane @param {ZonePart} target @param {string} name @param {any} value @returns {PanePart} */
  set(pane, target, name, value) {
    const own = target.accepts[0]?.label
    if (name.startsWith('label.') && own) return setLabel(pane, own, name.slice(6), value)
    return withTarget(pane, changed(pane, target, name, value))
  },
})

/** @param {PanePart} pane @param {ZonePart} target @param {string} name @param {any} value @returns {TargetPart} */
function changed(pane, target, name, value) {
  const [what, id] = name.split('.')
  switch (what) {
    case 'kind':
      return value === 'hiddenZone'
        ? { ...target, kind: 'hiddenZone', tolerance: target.tolerance ?? usual.tolerance }
        : { ...target, kind: 'dropZone' }
    case 'accept':
      return value ? { ...target, accepts: [...target.accepts, { label: value, credit: 1 }] } : target
    case 'drop':
      return { ...target, accepts: target.accepts.filter(accepted => accepted.label !== id) }
    case 'credit': {
      const credit = (numberIn(value) ?? 0) / 100
      return credit > 0 && credit <= 1
        ? {
            ...target,
            accepts: target.accepts.map((accepted, i) => ((id ? accepted.label === id : i === 0) ? { ...accepted, credit } : accepted)),
          }
        : target
    }
    case 'capacity': {
      const capacity = Math.round(numberIn(value) ?? 0)
      return capacity >= 1 ? { ...target, capacity } : target
    }
    case 'leader': {
      if (id) return target.leader ? { ...target, leader: withCoordinate(target.leader, id, value) } : target
      const [x, y, , height] = measuresOf(target.region)
      return { ...target, leader: value ? { x, y: y + height / 2 + 60 } : null }
    }
    case 'group':
      return { ...target, group: String(value).trim() || null }
    case 'slack':
    case 'band':
      return { ...target, tolerance: setTolerance(target.tolerance, name, value) }
    case 'region':
      return { ...target, region: withRegionField(target.region, id, value, pane) }
    default:
      return setCommon(target, name, value)
  }
}

const colours = {
  paper: phrase('bench.paper'),
  honey: phrase('bench.honey'),
  sky: phrase('bench.sky'),
  leaf: phrase('bench.leaf'),
  rose: phrase('bench.rose'),
  lilac: phrase('bench.lilac'),
}

/** @param {LabelPart} label @returns {import('./fields.js').Field[][]} What a label has, beside its words. */
export const labelLines = label => [
  [
    choice('label.copies', phrase('bench.canBeUsed'), label.copies === null ? 'any' : String(Math.min(label.copies ?? 1, 12)), {
      ...Object.fromEntries(Array.from({ length: 12 }, (_, i) => [String(i + 1), phrase('bench.howOften', { count: i + 1 })])),
      any: phrase('bench.withoutLimit'),
    }),
    choice('label.colour', phrase('common.paper'), label.colour ?? 'paper', colours),
    number('label.value', phrase('bench.valueForTotals'), label.value, { hint: phrase('bench.none') }),
  ],
  [
    check('label.start', phrase('bench.liesOnThePictureAtFirst'), label.start !== null && label.start !== undefined),
    ...pointFields('label.start', label.start),
    ...(label.face?.kind === 'picture' ? [choice('label.tip', phrase('bench.pinTip'), tipOf(label), tips)] : []),
  ],
  faceFields('label.face', phrase('bench.pictureOrSoundInPlaceOf'), label.face),
  ...(label.face
    ? [
        [
          choice(
            'label.description',
            phrase('bench.itsDescriptionIs'),
            label.description ?? (label.face.kind === 'picture' ? 'students' : 'teachers'),
            describedFor,
          ),
        ],
      ]
    : []),
  [text('label.feedback', phrase('bench.sayWhenThisLabelIsPut'), label.feedback, { wide: true })],
]

const describedFor = { teachers: phrase('bench.forYouAloneUntilTheKey'), students: phrase('bench.forStudentsToo') }

const tips = {
  '': phrase('bench.aRingOnALine'),
  '0,0': phrase('bench.upperLeftCorner'),
  '0.5,0': phrase('bench.upperEdge'),
  '1,0': phrase('bench.upperRightCorner'),
  '0,0.5': phrase('bench.leftEdge'),
  '0.5,0.5': phrase('bench.itsMiddle'),
  '1,0.5': phrase('bench.rightEdge'),
  '0,1': phrase('bench.lowerLeftCorner'),
  '0.5,1': phrase('bench.lowerEdge'),
  '1,1': phrase('bench.lowerRightCorner'),
}

/** @param {LabelPart} label */
const tipOf = ({ tip }) => (tip ? `${tip.x},${tip.y}` : '')

/** @param {PanePart} pane @param {string} id @param {string} name @param {any} value @returns {PanePart} */
export function setLabel(pane, id, name, value) {
  const label = labelOf(pane, id)
  if (!label) return pane
  if (name === 'copies') return withLabel(pane, id, { copies: value === 'any' ? null : Math.max(1, Number(value)) })
  if (name === 'value') return withLabel(pane, id, { value: numberIn(value) })
  if (name.startsWith('start.'))
    return label.start ? withLabel(pane, id, { start: withCoordinate(label.start, name.slice(6), value) }) : pane
  if (name === 'start')
    return withLabel(pane, id, { start: value ? { x: 500, y: 60 + 45 * (pane.labels.filter(other => other.start).length % 12) } : null })
  if (name === 'tip') {
    const [x, y] = String(value).split(',').map(Number)
    return withLabel(pane, id, { tip: value ? { x, y } : null })
  }
  if (name.startsWith('face'))
    return withLabel(pane, id, {
      face: withFace(label.face, name.slice(4), value),
      // A file's name may be the answer, and nobody has read it yet.
      ...(!label.text && value?.name ? { text: value.name, description: 'teachers' } : {}),
    })
  return withLabel(pane, id, { [name]: value })
}

export const dropZone = zone('dropZone')
export const hiddenZone = zone('hiddenZone')
