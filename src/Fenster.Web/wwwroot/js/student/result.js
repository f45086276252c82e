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
