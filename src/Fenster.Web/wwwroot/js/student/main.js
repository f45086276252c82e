// The student's screen: the picture, the bank, and what the server says of them.

import { createBoard, isHeld } from '../scene/board.js'
import { play } from '../scene/face.js'
import { createStage } from '../scene/stage.js'
import { drawBank } from './bank.js'
import { startPlacing } from './placing.js'
import { checkedLine, drawCheck, drawNotes, markList, scoreLine } from './result.js'
import { createSender } from './sender.js'

const work = document.getElementById('work')
if (work) start(work)

/** @param {HTMLElement} work */
function start(work) {
  /** @param {string} id */
  const part = id => /** @type {HTMLElement} */ (document.getElementById(id))
  const view = /** @type {StudentView} */ (JSON.parse(work.dataset.view ?? ''))
  let current = view.work
  /** @type {{label: string, copy: number} | null} */
  let inHand = null
  /** @type {import('./sender.js').Link} */
  let link = 'saved'
  let returned = 0
  let touched = current.panes[0].placed.length > 0
  const stage = createStage(part('mat'), view.panes[0].picture)
  /** @returns {PaneView} */
  const pane = () => ({ ...view.panes[0], ...current.panes[0] })
  const board = createBoard(stage, pane())

  const draw = () => {
    board.draw(pane(), { inHand })
    if (current.open) drawCheck(part('check'), current)
    drawNotes(part('notes'), pane(), current.bandText)
    drawBank(part('bank'), pane(), inHand)
    const filled = pane().zones.filter(zone => pane().placed.some(placed => placed.zone === zone.id)).length
    const words = { saved: touched ? 'Saved.' : '', saving: 'Saving.', offline: 'Offline, kept on this device.' }[link]
    const line = [`${filled} of ${pane().zones.length} placed.`, checkedLine(pane(), returned), words].filter(Boolean).join(' ')
    if (part('progress').textContent !== line) part('progress').textContent = line
    work.classList.toggle('holding', inHand !== null)
  }
  /** @param {string} sentence */
  const say = sentence => { part('say').textContent = sentence }

  addZoom(part('zoom'), stage)
  if (!current.open) {
    showResult()
    return
  }

  const sender = createSender({
    movesUrl: work.dataset.moves ?? '',
    handInUrl: work.dataset.handIn ?? '',
    deviceKey: work.dataset.key,
    onWork(next) {
      returned = Math.max(0, current.panes[0].placed.length - next.panes[0].placed.length)
      current = next
      draw()
    },
    onLink(next) { link = next; draw() },
    onRefused(sentence) { say(sentence); part('trouble').textContent = sentence; part('trouble').hidden = false },
  })
  for (const { move } of sender.waiting()) {
    current = applied(view, current, move)
    touched = true
  }

  /** @param {Move} move */
  const make = move => {
    current = applied(view, current, move)
    touched = true
    sender.send(pane().id, move)
    draw()
  }
  startPlacing({
    stage,
    bank: part('bank'),
    pane,
    show(label) {
      if (label) play(pane().labels.find(known => known.id === label.label))
      inHand = label
      draw()
    },
    hover: board.hover,
    mayTake(label) {
      if (!isHeld(pane(), label)) return pane().open
      say(`${textOf(label.label)} is right and stays where it is.`)
      return false
    },
    put(label, zone) {
      const there = pane().placed.filter(placed => placed.zone === zone)
      if (!pane().open || (there.some(placed => isHeld(pane(), placed)) && there.length >= (pane().zones.find(z => z.id === zone)?.capacity ?? 1))) {
        say('What lies there is right and stays where it is.')
        return
      }
      make({ kind: 'putDown', ...label, zone })
      say(`${textOf(label.label)} put into zone ${pane().zones.findIndex(z => z.id === zone) + 1}.`)
    },
    takeBack(label) {
      make({ kind: 'takeBack', ...label })
      say(`${textOf(label.label)} is back in the bank.`)
    },
    say,
  })
  part('check').addEventListener('click', () => {
    part('trouble').hidden = true
    make({ kind: 'pressCheck' })
  })
  draw()

  /** @param {string} label */
  function textOf(label) {
    return pane().labels.find(l => l.id === label)?.text ?? ''
  }

  const review = /** @type {HTMLDialogElement} */ (part('review'))
  part('hand-in').addEventListener('click', () => {
    const empty = pane().zones.filter(zone => !pane().placed.some(placed => placed.zone === zone.id)).length
    part('review-text').textContent = empty === 0 ? 'Every zone has a label. After handing in you can’t change anything.'
      : `${empty === 1 ? 'One zone is' : `${empty} zones are`} still empty. After handing in you can’t change anything.`
    part('review-problem').hidden = true
    review.showModal()
  })
  part('review-back').addEventListener('click', () => review.close())
  part('review-go').addEventListener('click', async () => {
    const button = /** @type {HTMLButtonElement} */ (part('review-go'))
    button.disabled = true
    try {
      current = await sender.handIn()
      review.close()
      part('hand-in').remove()
      part('check').hidden = true
      showResult()
    } catch (error) {
      part('review-problem').textContent = error instanceof Error ? error.message : String(error)
      part('review-problem').hidden = false
    }
    button.disabled = false
  })

  function showResult() {
    work.classList.add('done')
    drawNotes(part('notes'), pane(), current.bandText)
    const lines = scoreLine(current)
    part('progress').replaceChildren(lines ?? 'Handed in. Your teacher decides when the results can be seen.')
    let key = false
    const show = () => board.draw(pane(), { key })
    const list = markList(pane())
    const panel = part('bank')
    panel.setAttribute('aria-label', 'Result')
    panel.className = 'bank result'
    if (pane().key) {
      const toggle = document.createElement('button')
      toggle.type = 'button'
      toggle.className = 'btn btn-outline-primary'
      const name = () => { toggle.textContent = key ? 'Show my answers' : 'Show the right places' }
      toggle.addEventListener('click', () => { key = !key; name(); show() })
      name()
      panel.replaceChildren(toggle, ...(list ? [list] : []))
    } else {
      panel.replaceChildren(...(list ? [list] : []))
    }
    panel.hidden = panel.childElementCount === 0
    for (const button of stage.overlay.querySelectorAll('.zone-button')) /** @type {HTMLButtonElement} */ (button).tabIndex = -1
    show()
  }
}

/** The work as it will be once the server has the move. @param {StudentView} view @param {WorkView} work @param {Move} move @returns {WorkView} */
function applied(view, work, move) {
  if (move.kind === 'pressCheck') return work
  let placed = work.panes[0].placed.filter(other => other.label !== move.label || other.copy !== move.copy)
  if (move.kind === 'putDown') {
    const capacity = view.panes[0].zones.find(zone => zone.id === move.zone)?.capacity ?? 1
    const here = placed.filter(other => other.zone === move.zone)
    if (here.length >= capacity) placed = placed.filter(other => other !== here[0])
    placed = [...placed, { label: move.label, copy: move.copy, zone: move.zone }]
  }
  return { ...work, panes: [{ ...work.panes[0], placed, marks: marksOf(work.panes[0], placed) }] }
}

/** The marks of what still lies where it was checked. @param {PaneWork} pane @param {Placement[]} placed @returns {PaneWork['marks']} */
function marksOf(pane, placed) {
  if (!pane.marks) return null
  /** @param {Placement[]} all @param {string} zone */
  const inZone = (all, zone) => all.filter(p => p.zone === zone).map(p => p.label).sort().join()
  return {
    placed: placed.map(now => pane.marks?.placed[pane.placed.findIndex(p => p.label === now.label && p.copy === now.copy && p.zone === now.zone)] ?? null),
    zones: pane.marks.zones.filter(({ zone }) => inZone(placed, zone) === inZone(pane.placed, zone)),
  }
}

/** @param {HTMLElement} bar @param {import('../scene/stage.js').Stage} stage */
function addZoom(bar, stage) {
  for (const button of bar.querySelectorAll('button')) {
    button.addEventListener('click', () => stage.zoomTo(button.value === '0' ? 1 : stage.zoom() * Number(button.value)))
  }
}
