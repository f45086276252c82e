// What a student sees once the rules let it be seen: score, marks, the right places.

import { listed, named, numbered, numeral, parts, phrase } from '../language.js'
import { badge } from '../scene/shapes.js'

/** @param {number} number */
const plain = number => numeral(Math.round(number * 100) / 100)

/** @param {WorkView} work @returns {HTMLElement | null} The score in a line; null while it may not be seen. */
export function scoreLine({ score }) {
  if (!score) return null
  const line = document.createElement('p')
  line.className = 'score'
  const earned = document.createElement('strong')
  earned.textContent = plain(score.score)
  const rest = [
    score.maximumGrade !== score.possible && !score.isSoFar
      ? phrase('result.grade', { grade: numeral(score.grade, 2), best: score.maximumGrade })
      : '',
    score.passed === null ? '' : phrase(score.passed ? 'result.passed' : 'result.notPassed'),
  ].filter(Boolean)
  const points = document.createElement('span')
  points.append(
    ...parts(score.isSoFar ? 'result.scoreSoFar' : 'result.score', { score: earned, count: score.possible }).map(part =>
      typeof part === 'number' ? plain(part) : part,
    ),
  )
  // The words around the first part are the language's own.
  if (rest.length === 0) line.append(points)
  else line.append(...parts('list.comma', { first: points, next: listed(rest) }))
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
    return phrase('result.returned', { right: pane.marks.placed.filter(verdict => verdict === 'right').length, wrong: returned })
  const states = pane.marks.others
    .filter(mark => !isPinned(pane, mark))
    .map(mark => kindOf(mark.state))
    .filter(kind => kind !== 'missed')
  const verdicts = [...pane.marks.placed, ...pane.marks.pins, ...states].filter(verdict => verdict !== null && verdict !== 'unscored')
  const right = verdicts.filter(verdict => verdict === 'right').length
  const wrong = verdicts.filter(verdict => verdict === 'wrong').length
  return verdicts.length === 0 ? '' : phrase('result.checked', { right, wrong })
}

/** Whether a value is shown by a label's pin, which is marked itself. @param {PaneView} pane @param {OtherMark} mark */
function isPinned(pane, mark) {
  const target = pane.targets.find(t => t.id === mark.target)
  return target?.kind === 'showing' && !target.byMark && mark.state !== 'missed'
}

/** @param {HTMLElement} button @param {PaneView} pane */
export function drawCheck(button, pane) {
  button.hidden = pane.checksLeft === 0
  button.textContent = pane.checksLeft === null ? phrase('page.check') : phrase('screen.checkLeft', { count: pane.checksLeft })
}

/**
 * What the teacher says to the work as it stands.
 * @param {HTMLElement} box
 * @param {PaneView} pane
 * @param {WorkView} work
 */
export function drawNotes(box, pane, { bandText, remarks }) {
  const { feedback, explanation } = pane
  const texts = new Map(pane.labels.map(label => [label.id, label.text]))
  /** @param {string} zone */
  const nameOf = zone =>
    listed(pane.placed.filter(placed => placed.zone === zone).map(placed => texts.get(placed.label) ?? '')) ||
    phrase('screen.zone', { number: pane.zones.findIndex(z => z.id === zone) + 1 })
  const lines = [
    ...(bandText ? [['', bandText]] : []),
    ...remarks.map(text => ['', text]),
    ...remarksOf(pane).map(({ target, number, text }) => [
      number ? numeral(number) : target ? (pane.zones.some(zone => zone.id === target) ? nameOf(target) : nameOfTarget(pane, target)) : '',
      text,
    ]),
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

/**
 * What the teacher has said to this work, spots by number.
 * @param {PaneView} pane
 */
export function remarksOf(pane) {
  let count = 0
  return (pane.feedback?.remarks ?? []).map(remark => ({ ...remark, number: remark.at ? ++count : 0 }))
}

/** @type {Record<Exclude<TargetView['kind'], 'concealed'>, string>} */
const kindNames = {
  marking: 'result.ofMarking',
  typing: 'result.ofTyping',
  choosing: 'result.ofQuestion',
  answering: 'result.ofQuestion',
  locked: 'result.ofLocked',
  noting: 'result.ofNoting',
  showing: 'result.ofShowing',
  linking: 'result.ofLinking',
  sorting: 'result.ofSorting',
  telling: 'result.ofTelling',
  making: 'screen.ownPicture',
}

/** @param {PaneView} pane @param {string} id @returns {string} What a target that is no zone is called. */
function nameOfTarget(pane, id) {
  const target = pane.targets.find(t => t.id === id)
  if (!target || target.kind === 'concealed') return ''
  if (target.prompt) return target.prompt
  if (target.kind === 'choosing' || target.kind === 'answering') return target.text
  const alike = pane.targets.filter(t => t.kind === target.kind)
  const name = phrase(kindNames[target.kind])
  return alike.length > 1 ? numbered(name, alike.indexOf(target) + 1) : name
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
      listed(target.options.filter(option => picks.includes(option.id)).map(option => option.text))
    return [words(done?.picks ?? []), words(key?.picks ?? [])]
  }
  if (target?.kind === 'linking')
    return [
      phrase('result.linksRight', { right: mark.links.filter(verdict => verdict === 'right').length, all: done?.links.length ?? 0 }),
      '',
    ]
  if (target?.kind === 'marking')
    return [phrase('result.spotsFound', { found: mark.points.filter(verdict => verdict === 'right').length, all: target.needed }), '']
  const texts = new Map(pane.labels.map(label => [label.id, label.text]))
  return [
    done?.text ?? '',
    named(
      key?.amount ? phrase(key.amount.name, key.amount.slots) : (key?.text ?? ''),
      listed((key?.labels ?? []).map(label => texts.get(label) ?? '')),
    ),
  ]
}

/** The badge of a state. @param {TargetState} state @returns {Parameters<typeof badge>[0] | null} */
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
    const put = listed(pane.placed.filter(placed => placed.zone === zone.id).map(placed => texts.get(placed.label) ?? ''))
    const belongs = listed(
      (pane.key?.zones.find(key => key.zone === zone.id)?.labels ?? []).map(label => texts.get(label) ?? ''),
      'list.or',
    )
    const kind = kindOf(state) ?? 'missed'
    const did = kind === 'right' ? put : kind === 'missed' ? phrase('result.missed') : phrase('result.youPut', { labels: put })
    list.append(line(kind, did, kind !== 'right' && belongs ? phrase('result.belongs', { labels: belongs }) : ''))
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
        line(kind, named(nameOfTarget(pane, mark.target), did), kind === 'right' || !key ? '' : phrase('result.answerIs', { answer: key })),
      )
    else if (mark.state === 'waiting') list.append(line(null, phrase('result.willRead', { target: nameOfTarget(pane, mark.target) }), ''))
  }
  return list.childElementCount > 0 ? list : null
}

/** @param {Parameters<typeof badge>[0] | null} kind @param {string} text @param {string} key */
function line(kind, text, key) {
  const item = document.createElement('li')
  item.className = `marked marked-${kind ?? 'waiting'}`
  const words = Object.assign(document.createElement('span'), { dir: 'auto', textContent: text })
  item.append(kind ? badge(kind) : document.createElement('span'), words)
  if (key) item.append(Object.assign(document.createElement('span'), { className: 'marked-key', dir: 'auto', textContent: key }))
  return item
}
