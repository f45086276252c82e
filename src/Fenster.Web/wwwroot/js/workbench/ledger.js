// The pane as a ledger: one row for each target and for each label that belongs nowhere.

import { listed, numbered, phrase } from '../language.js'
import { kinds } from './kinds/all.js'
import { labelLines } from './kinds/zones.js'
import { button, choice, text } from './kinds/fields.js'
import { labelOf, targetOf, withoutPlace } from './pane.js'
import { wordsOf } from '../scene/scale.js'
import { sortedFields, usedIn } from './used.js'

/**
 * @typedef {{pane: number, about: string | null, sentence: string, weight: 'advice' | 'warning' | 'error', blocks: boolean,
 *   mend: string}} Remark
 * @typedef {import('./kinds/fields.js').Field} Field
 * @typedef {{key: string, text: string, name: string, number: string, kind: string, placeholder: string, deleteName: string,
 *   moreName: string, remarks: object[], classes: string, picture: string, isSound: boolean, canPlace: boolean, hasText: boolean,
 *   used: string, isOpen: boolean, lines: object[], further: object[], isFurther: boolean, hasFurther: boolean, furtherName: string}} Row
 */

const mends = /** @type {Record<string, string>} */ ({
  makeOne: phrase('bench.makeThemOneLabel'),
  enlarge: phrase('bench.makeItLarger'),
  writeAltText: phrase('bench.writeTheAltText'),
  addDistractor: phrase('bench.addADistractor'),
  bringBack: phrase('common.bringItBack'),
  intoBank: phrase('bench.backIntoTheBank'),
  delete: phrase('bench.deleteIt'),
})

/** @param {Remark} remark */
export const remarkLine = remark => ({
  ...remark,
  id: `${remark.pane} ${remark.about} ${remark.sentence}`,
  mendText: mends[remark.mend] ?? '',
  canMend: remark.mend in mends,
  classes: `finding finding-${remark.blocks ? 'blocks' : remark.weight}`,
})

/**
 * @param {PanePart} pane
 * @param {Remark[]} remarks Of this pane.
 * @param {{selected: string[], pointed: string | null, open: string | null, further: boolean}} attention Rows, and whether all fields
 *   of the open one are shown.
 * @returns {Row[]}
 */
export function rowsOf(pane, remarks, { selected, pointed, open, further }) {
  const counts = new Map()
  /**
   * @param {string} key
   * @param {number} number 0 for a row that is not counted.
   * @param {string} kind
   * @param {{text: string, placeholder: string, name: string, label?: string}} main
   * @param {() => Field[][]} lines
   * @param {boolean} isLabel
   */
  const row = (key, number, kind, main, lines, isLabel) => {
    const face = main.label ? labelOf(pane, main.label)?.face : undefined
    const isBeingTyped = selected.includes(key) && main.text.trim() === ''
    const about = isBeingTyped ? [] : remarks.filter(remark => remark.about === key || (main.label && remark.about === main.label))
    counts.set(kind, (counts.get(kind) ?? 0) + 1)
    // Labels that wait are not counted: each that gets its place would have all others drawn anew.
    const name = number === 0 ? main.name : numbered(main.name, counts.get(kind))
    const target = targetOf(pane, key)
    const fields = open === key ? sortedFields(target, lines()) : { asked: [], further: [] }
    const drawn = (/** @type {Field[][]} */ some) => some.map((line, i) => ({ id: i, fields: line.map(field => fieldOf(key, field)) }))
    return {
      key,
      name,
      kind,
      text: main.text,
      placeholder: main.placeholder,
      number: number === 0 ? '' : String(number),
      hasText: key !== 'scale',
      picture: face?.kind === 'picture' ? `/media/${face.media}/480` : '',
      isSound: face?.kind === 'sound',
      canPlace: isLabel && main.text.trim() !== '',
      deleteName: phrase('bench.deleteNamed', { row: main.text || name }),
      moreName: phrase(open === key ? 'bench.lessOf' : 'bench.moreOf', { row: main.text || name }),
      remarks: about.map(remarkLine),
      classes: `${kind ? 'row-of-kind' : ''} ${selected.includes(key) ? 'selected' : ''} ${key === pointed ? 'pointed' : ''}`,
      isOpen: open === key,
      used: open === key ? '' : usedIn(pane, target, main.label).join(' · '),
      lines: drawn(fields.asked),
      hasFurther: fields.further.length > 0,
      isFurther: further,
      furtherName: phrase(further ? 'bench.furtherAway' : target ? 'bench.further' : 'bench.furtherOfLabel'),
      further: further ? drawn(fields.further) : [],
    }
  }
  return [
    ...(pane.scale
      ? [
          row(
            'scale',
            0,
            phrase('bench.scaleWord'),
            { text: '', placeholder: '', name: phrase('bench.scale') },
            () => scaleLines(/** @type {Scale} */ (pane.scale)),
            false,
          ),
        ]
      : []),
    ...pane.targets.map((target, i) =>
      row(
        target.id,
        i + 1,
        target.kind === 'dropZone' ? '' : kinds[target.kind].word,
        kinds[target.kind].main(target, pane),
        () => kinds[target.kind].lines(target, pane),
        false,
      ),
    ),
    ...withoutPlace(pane).map(label => {
      const isSorted = isWanted(pane, label.id)
      return row(
        label.id,
        0,
        phrase(isSorted ? 'bench.labelWord' : 'bench.distractorWord'),
        {
          text: label.text,
          placeholder: isSorted ? phrase('bench.typeTheLabel') : phrase('bench.aLabelThatBelongsNowhere'),
          name: isSorted ? phrase('bench.label') : phrase('bench.distractor'),
          label: label.id,
        },
        () => labelLines(label),
        !isSorted,
      )
    }),
  ]
}

/** Whether a label is to be sorted somewhere. @param {PanePart} pane @param {string} label */
const isWanted = (pane, label) =>
  pane.targets.some(target => target.kind === 'sortRegion' && (target.want.kind === 'total' || target.want.labels.includes(label)))

/** A field with what the page asks of it. @param {string} row @param {Field} field */
export const fieldOf = (row, field) => ({
  on: false,
  hint: '',
  media: '',
  ...field,
  id: `${row}/${field.name}`,
  options: (field.options ?? []).map(option => ({ ...option, isChosen: option.value === field.value })),
  isText: field.type === 'text',
  isArea: field.type === 'area',
  isNumber: field.type === 'number',
  isCheck: field.type === 'check',
  isChoice: field.type === 'choice',
  isButton: field.type === 'button',
  isFile: field.type === 'file',
  isNote: field.type === 'note',
  isPicture: field.type === 'file' && field.value === 'picture',
  isPlayed: field.type === 'file' && (field.value === 'sound' || field.value === 'video'),
  mayRecord: field.type === 'file' && field.value === '' && !field.name.endsWith('captions'),
  classes: `field ${field.wide ? 'field-wide' : ''} ${field.half ? 'field-half' : ''}`,
})

/** @param {Scale} scale @returns {Field[][]} */
function scaleLines({ x, y }) {
  const axis = (/** @type {Axis} */ axis, /** @type {string} */ name, /** @type {string} */ words) => [
    text(`${name}.from`, phrase('bench.firstEnd', { axis: words }), wordsOf(axis, axis.fromValue)),
    text(`${name}.to`, phrase('bench.secondEndReads'), wordsOf(axis, axis.toValue)),
    choice(`${name}.kind`, phrase('bench.itRuns'), axis.kind ?? 'linear', {
      linear: phrase('bench.evenly'),
      logarithmic: phrase('bench.inPowers'),
      date: phrase('bench.inDates'),
    }),
  ]
  return [
    axis(x, 'x', y ? phrase('bench.across') : phrase('bench.scale')),
    ...(y
      ? [axis(y, 'y', phrase('bench.up')), [button('noSecond', phrase('bench.takeTheSecondAxisAway'))]]
      : [[button('second', phrase('bench.addASecondAxis'))]]),
  ]
}

/** @param {PanePart} pane @returns {{id: string, text: string, picture: string, classes: string}[]} The bank in the order of the labels. */
export const bankOf = ({ labels }) =>
  labels
    .filter(label => label.text.trim() !== '' && !label.start)
    .map(label => ({
      id: label.id,
      text: label.copies === 1 || label.copies === undefined ? label.text : `${label.text} × ${label.copies ?? phrase('screen.anyNumber')}`,
      picture: label.face?.kind === 'picture' ? `/media/${label.face.media}/480` : '',
      classes: `label paper-${label.colour ?? 'paper'}`,
    }))

/** @param {PanePart} pane */
export function countOf(pane) {
  const spare = withoutPlace(pane).filter(label => !isWanted(pane, label.id)).length
  const isZones = pane.targets.every(target => target.kind === 'dropZone')
  return listed([
    phrase(isZones ? 'bench.zones' : 'common.rows', { count: pane.targets.length }),
    spare > 0 ? phrase('bench.distractors', { count: spare }) : '',
  ])
}
