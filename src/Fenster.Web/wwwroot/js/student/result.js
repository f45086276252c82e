// What a student sees once the rules let it be seen: score, marks, the right places.

import { badge, badges } from '../scene/shapes.js'

/** @param {number} number */
const plain = number => String(Math.round(number * 100) / 100)

/** @param {WorkView} work @returns {HTMLElement | null} The score in a line; null while it may not be seen. */
export function scoreLine({ score }) {
  if (!score) return null
  const line = document.createElement('p')
  line.className = 'score'
  const number = document.createElement('strong')
  number.textContent = plain(score.score)
  line.append(number, ` of ${plain(score.possible)} points`)
  if (score.maximumGrade !== score.possible) line.append(`, grade ${score.grade.toFixed(2)} of ${plain(score.maximumGrade)}`)
  if (score.passed !== null) line.append(score.passed ? ', passed' : ', not passed')
  return line
}

/** @param {PaneView} pane @param {number} returned How many went back to the bank. @returns {string} What the last check found; empty when nothing is to be seen. */
export function checkedLine(pane, returned) {
  if (!pane.marks) return ''
  if (returned > 0) return `${pane.marks.placed.filter(verdict => verdict === 'right').length} right, ${returned} wrong and back in the bank.`
  const verdicts = pane.marks.placed.filter(verdict => verdict !== null)
  const right = verdicts.filter(verdict => verdict === 'right').length
  const wrong = verdicts.filter(verdict => verdict === 'wrong').length
  return verdicts.length === 0 ? '' : `${right} right, ${wrong} wrong.`
}

/** @param {HTMLElement} button @param {WorkView} work */
export function drawCheck(button, { open, panes: [pane] }) {
  button.hidden = !open || pane.checksLeft === 0
  button.textContent = pane.checksLeft === null ? 'Check' : `Check (${pane.checksLeft} left)`
}

/** What the teacher says to the work as it stands. @param {HTMLElement} box @param {PaneView} pane @param {string | null} bandText */
export function drawNotes(box, pane, bandText) {
  const { feedback, explanation } = pane
  const texts = new Map(pane.labels.map(label => [label.id, label.text]))
  /** @param {string} zone */
  const nameOf = zone => pane.placed.filter(placed => placed.zone === zone).map(placed => texts.get(placed.label)).join(', ') || `Zone ${pane.zones.findIndex(z => z.id === zone) + 1}`
  const lines = [
    ...(bandText ? [['', bandText]] : []),
    ...(feedback?.zones ?? []).map(({ zone, text }) => [nameOf(zone), text]),
    ...(feedback?.labels ?? []).map(({ label, text }) => [texts.get(label) ?? '', text]),
    ...(explanation?.pane ? [['', explanation.pane]] : []),
    ...(explanation?.zones ?? []).map(({ zone, text }) => [nameOf(zone), text]),
  ]
  box.replaceChildren(...lines.map(([name, text]) => {
    const line = document.createElement('p')
    line.dir = 'auto'
    if (name) {
      const strong = document.createElement('strong')
      strong.append(Object.assign(document.createElement('bdi'), { textContent: name.length > 40 ? `${name.slice(0, 39)}…` : name }))
      line.append(strong, ': ')
    }
    line.append(text)
    return line
  }))
  box.hidden = lines.length === 0
}

/** @param {PaneView} pane @returns {HTMLElement | null} Each zone in words, with what was put and what belongs; null without marks. */
export function markList(pane) {
  if (!pane.marks) return null
  const texts = new Map(pane.labels.map(label => [label.id, label.text]))
  const list = document.createElement('ol')
  list.className = 'marked-list'
  pane.zones.forEach(zone => {
    const state = pane.marks?.zones.find(mark => mark.zone === zone.id)?.state ?? 'missed'
    const put = pane.placed.filter(placed => placed.zone === zone.id).map(placed => texts.get(placed.label)).join(', ')
    const belongs = pane.key?.zones.find(key => key.zone === zone.id)?.labels.map(label => texts.get(label)).join(' or ')
    const kind = /** @type {keyof typeof badges} */ ({ earned: 'right', partEarned: 'part', missed: 'missed', wrong: 'wrong' }[state])
    const item = document.createElement('li')
    item.className = `marked marked-${kind}`
    const words = document.createElement('span')
    words.dir = 'auto'
    words.textContent = kind === 'right' ? put : kind === 'missed' ? badges.missed.word : `You put ${put}`
    item.append(badge(kind), words)
    if (kind !== 'right' && belongs) {
      const right = document.createElement('span')
      right.className = 'marked-key'
      right.dir = 'auto'
      right.textContent = `${belongs} belongs here`
      item.append(right)
    }
    list.append(item)
  })
  return list
}
