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
  line.append(number, ` of ${plain(score.possible)} points${score.isSoFar ? ' so far; your teacher still reads some of it' : ''}`)
  if (score.maximumGrade !== score.possible && !score.isSoFar)
    line.append(`, grade ${score.grade.toFixed(2)} of ${plain(score.maximumGrade)}`)
  if (score.passed !== null) line.append(score.passed ? ', passed' : ', not passed')
  return line
}

/**
 * @param {PaneView} pane
 * @param {number} returned How many went back to the bank.
 * @returns {string} What the last check found; empty when nothing is to be seen.
 */
export function checkedLine(pane, returned) {
  if (!pane.marks) return ''
  if (returned > 0)
    return `${pane.marks.placed.filter(verdict => verdict === 'right').length} right, ${returned} wrong and back in the bank.`
  const states = pane.marks.others
    .filter(mark => !isPinned(pane, mark))
    .map(mark => kindOf(mark.state))
    .filter(kind => kind !== 'missed')
  const verdicts = [...pane.marks.placed, ...pane.marks.pins, ...states].filter(verdict => verdict !== null && verdict !== 'unscored')
  const right = verdicts.filter(verdict => verdict === 'right').length
  const wrong = verdicts.filter(verdict => verdict === 'wrong').length
  return verdicts.length === 0 ? '' : `${right} right, ${wrong} wrong.`
}

/** Whether a value is shown by a label's pin, which is marked itself. @param {PaneView} pane @param {OtherMark} mark */
function isPinned(pane, mark) {
  const target = pane.targets.find(t => t.id === mark.target)
  return target?.kind === 'showing' && !target.byMark && mark.state !== 'missed'
}

/** @param {HTMLElement} button @param {PaneView} pane @param {boolean} open */
export function drawCheck(button, pane, open) {
  button.hidden = !open || pane.checksLeft === 0
  button.textContent = pane.checksLeft === null ? 'Check' : `Check (${pane.checksLeft} left)`
}

/** What the teacher says to the work as it stands. @param {HTMLElement} box @param {PaneView} pane @param {string | null} bandText */
export function drawNotes(box, pane, bandText) {
  const { feedback, explanation } = pane
  const texts = new Map(pane.labels.map(label => [label.id, label.text]))
  /** @param {string} zone */
  const nameOf = zone =>
    pane.placed
      .filter(placed => placed.zone === zone)
      .map(placed => texts.get(placed.label))
      .join(', ') || `Zone ${pane.zones.findIndex(z => z.id === zone) + 1}`
  const lines = [
    ...(bandText ? [['', bandText]] : []),
    ...(feedback?.zones ?? []).map(({ zone, text }) => [nameOf(zone), text]),
    ...(feedback?.labels ?? []).map(({ label, text }) => [texts.get(label) ?? '', text]),
    ...(explanation?.pane ? [['', explanation.pane]] : []),
    ...(feedback?.others ?? []).map(({ target, text }) => [nameOfTarget(pane, target), text]),
    ...(explanation?.zones ?? []).map(({ zone, text }) => [nameOf(zone), text]),
    ...(explanation?.hidden ?? []).map(text => ['', text]),
    ...(explanation?.others ?? []).map(({ target, text }) => [nameOfTarget(pane, target), text]),
  ]
  box.replaceChildren(
    ...lines.map(([name, text]) => {
      const line = document.createElement('p')
      line.dir = 'auto'
      if (name) {
        const strong = document.createElement('strong')
        strong.append(Object.assign(document.createElement('bdi'), { textContent: name.length > 40 ? `${name.slice(0, 39)}…` : name }))
        line.append(strong, ': ')
      }
      line.append(text)
      return line
    }),
  )
  box.hidden = lines.length === 0
}

const kindNames = {
  marking: 'Mark',
  typing: 'Answer',
  choosing: 'Question',
  answering: 'Question',
  locked: 'Lock',
  noting: 'Note',
  showing: 'Scale',
  linking: 'Matching',
  sorting: 'Region',
  telling: 'Info',
  concealed: '',
}

/** @param {PaneView} pane @param {string} id @returns {string} What a target that is no zone is called. */
function nameOfTarget(pane, id) {
  const target = pane.targets.find(t => t.id === id)
  if (!target) return ''
  if (target.prompt) return target.prompt
  if (target.kind === 'choosing' || target.kind === 'answering') return target.text
  const alike = pane.targets.filter(t => t.kind === target.kind)
  return alike.length > 1 ? `${kindNames[target.kind]} ${alike.indexOf(target) + 1}` : kindNames[target.kind]
}

/**
 * What a student did at a target that is no zone, and what was right there.
 * @param {PaneView} pane
 * @param {OtherMark} mark
 * @returns {[string, string]}
 */
function didAndKey(pane, mark) {
  const target = pane.targets.find(t => t.id === mark.target)
  const done = pane.done.find(d => d.target === mark.target)
  const key = pane.key?.others.find(other => other.target === mark.target)
  if (target?.kind === 'choosing') {
    const words = (/** @type {string[]} */ picks) =>
      target.options
        .filter(option => picks.includes(option.id))
        .map(option => option.text)
        .join(', ')
    return [words(done?.picks ?? []), words(key?.picks ?? [])]
  }
  if (target?.kind === 'linking')
    return [`${mark.links.filter(verdict => verdict === 'right').length} of ${done?.links.length ?? 0} links right`, '']
  if (target?.kind === 'marking') return [`${mark.points.filter(verdict => verdict === 'right').length} of ${target.needed} found`, '']
  const texts = new Map(pane.labels.map(label => [label.id, label.text]))
  return [done?.text ?? '', [key?.text, key?.labels.map(label => texts.get(label)).join(', ')].filter(Boolean).join(': ')]
}

/** The badge of a state. @param {TargetState} state @returns {keyof typeof badges | null} */
const kindOf = state =>
  /** @type {const} */ ({ earned: 'right', partEarned: 'part', missed: 'missed', wrong: 'wrong', waiting: null, unscored: null })[state]

/** @param {PaneView} pane @returns {HTMLElement | null} Each zone in words, with what was put and what belongs; null without marks. */
export function markList(pane) {
  if (!pane.marks) return null
  const texts = new Map(pane.labels.map(label => [label.id, label.text]))
  const list = document.createElement('ol')
  list.className = 'marked-list'
  pane.zones.forEach(zone => {
    const state = pane.marks?.zones.find(mark => mark.zone === zone.id)?.state ?? 'missed'
    const put = pane.placed
      .filter(placed => placed.zone === zone.id)
      .map(placed => texts.get(placed.label))
      .join(', ')
    const belongs = pane.key?.zones
      .find(key => key.zone === zone.id)
      ?.labels.map(label => texts.get(label))
      .join(' or ')
    const kind = kindOf(state) ?? 'missed'
    const did = kind === 'right' ? put : kind === 'missed' ? badges.missed.word : `You put ${put}`
    list.append(line(kind, did, kind !== 'right' && belongs ? `${belongs} belongs here` : ''))
  })
  pane.pins.forEach((pin, i) => {
    const verdict = pane.marks?.pins[i]
    if (verdict && verdict !== 'unscored') list.append(line(verdict, texts.get(pin.label) ?? '', ''))
  })
  for (const mark of pane.marks.others.filter(mark => !isPinned(pane, mark))) {
    const kind = kindOf(mark.state)
    const [did, key] = didAndKey(pane, mark)
    if (kind)
      list.append(
        line(kind, [nameOfTarget(pane, mark.target), did].filter(Boolean).join(': '), kind === 'right' || !key ? '' : `${key} is right`),
      )
    else if (mark.state === 'waiting') list.append(line(null, `${nameOfTarget(pane, mark.target)}: your teacher will read it`, ''))
  }
  return list.childElementCount > 0 ? list : null
}

/** @param {keyof typeof badges | null} kind @param {string} text @param {string} key */
function line(kind, text, key) {
  const item = document.createElement('li')
  item.className = `marked marked-${kind ?? 'waiting'}`
  const words = Object.assign(document.createElement('span'), { dir: 'auto', textContent: text })
  item.append(kind ? badge(kind) : document.createElement('span'), words)
  if (key) item.append(Object.assign(document.createElement('span'), { className: 'marked-key', dir: 'auto', textContent: key }))
  return item
}
