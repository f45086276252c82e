// The pane as a ledger: one row for each zone and for each label that belongs nowhere.

import { withoutPlace } from './document.js'

/**
 * @typedef {{about: string, sentence: string, alike: boolean}} FindingOf
 * @typedef {{key: string, text: string, name: string, number: string, kind: string, placeholder: string, deleteName: string, finding: string, canMerge: boolean, classes: string, picture: string, isSound: boolean, canPlace: boolean}} Row
 */

/**
 * @param {PanePart} pane
 * @param {FindingOf[]} findings
 * @param {{selected: string | null, pointed: string | null}} attention
 * @returns {Row[]}
 */
export function rowsOf(pane, findings, { selected, pointed }) {
  const labels = new Map(pane.labels.map(label => [label.id, label]))
  /** @param {string} key @param {string} label @param {number} index @param {boolean} isZone @returns {Row} */
  const row = (key, label, index, isZone) => {
    const text = labels.get(label)?.text ?? ''
    const face = labels.get(label)?.face
    const isBeingTyped = key === selected && text.trim() === ''
    const finding = isBeingTyped ? undefined : findings.find(f => f.about === key || f.about === label)
    const name = isZone ? `Label of zone ${index + 1}` : `Distractor ${index + 1 - pane.targets.length}`
    return {
      key, text, name,
      picture: face?.kind === 'picture' ? `/media/${face.media}/480` : '',
      isSound: face?.kind === 'sound',
      canPlace: !isZone && text.trim() !== '',
      number: String(index + 1),
      kind: isZone ? '' : 'distractor',
      placeholder: isZone ? 'Type the label' : 'A label that belongs nowhere',
      deleteName: `Delete ${text || name}`,
      finding: finding?.sentence ?? '',
      canMerge: finding?.alike ?? false,
      classes: `${key === selected ? 'selected' : ''} ${key === pointed ? 'pointed' : ''}`,
    }
  }
  return [
    ...pane.targets.map((zone, i) => row(zone.id, zone.accepts[0]?.label ?? '', i, true)),
    ...withoutPlace(pane).map((label, i) => row(label.id, label.id, pane.targets.length + i, false)),
  ]
}

/** @param {PanePart} pane @returns {{id: string, text: string, picture: string}[]} The bank in the order of the labels. */
export function bankOf({ labels }) {
  return labels.filter(label => label.text.trim() !== '')
    .map(label => ({ id: label.id, text: label.copies === 1 ? label.text : `${label.text} × ${label.copies ?? 'any number'}`, picture: label.face?.kind === 'picture' ? `/media/${label.face.media}/480` : '' }))
}

/** @param {PanePart} pane */
export function countOf(pane) {
  /** @param {number} number @param {string} word */
  const words = (number, word) => `${number} ${word}${number === 1 ? '' : 's'}`
  const spare = withoutPlace(pane).length
  return words(pane.targets.length, 'zone') + (spare > 0 ? `, ${words(spare, 'distractor')}` : '')
}
