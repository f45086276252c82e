// A game of teams: spots with points, opened in any order. Scores and what was opened are remembered on this device until they are cleared.

import { button, element } from '../element.js'
import { numeral, phrase } from '../language.js'
import { createStage } from '../scene/stage.js'
import { recall, remember } from '../student/device.js'
import { turnFull } from './full.js'
import { opensCard, questionAt } from './question.js'
import { paneShown } from './revealed.js'
import { fresh, mostTeams, read, standing, takenBack, withoutTeam, withStep } from './score.js'

const game = document.getElementById('game')
if (game) start(game)

/** @param {HTMLElement} game */
function start(game) {
  /** @template {HTMLElement} T @param {string} id @returns {T} */
  const part = id => /** @type {T} */ (document.getElementById(id))
  const view = /** @type {Sent.BoardView} */ (JSON.parse(game.dataset.view ?? ''))
  const place = `fenster.game.${game.dataset.id}`
  let kept = read(recall(place))
  let shown = 0
  /** The spot whose card is open. @type {number | null} */
  let open = null
  let isRevealed = false
  /** @type {HTMLElement | null} */
  let board = null

  const pane = () => view.panes[shown]
  /** Those that open a card; what is concealed or locked away is there from the beginning, since nobody looks for it here. */
  const everything = () => paneShown(pane(), pane().work, new Set(pane().spots.map((_, i) => i)))
  const cards = () => pane().spots.flatMap((spot, i) => (spot.at && opensCard(everything(), spot) ? [i] : []))
  const nameOf = (/** @type {number} */ team) => kept.teams[team] || phrase('game.team', { number: team + 1 })
  /** @param {import('./score.js').Kept} next */
  const keep = next => {
    kept = next
    if (!remember(place, JSON.stringify(kept))) say(phrase('game.notKept'))
    draw()
  }
  const say = (/** @type {string} */ sentence) => {
    part('say').textContent = sentence
  }
  /** What a point button gives: what the open card is worth, or the one that was opened last. */
  const stake = () => {
    if (open !== null) return pane().spots[open].points
    const last = kept.steps.findLast(step => step.kind === 'open')
    const [at, spot] = last?.kind === 'open' ? last.spot.split('/').map(Number) : [shown, cards()[0] ?? 0]
    return view.panes[at]?.spots[spot]?.points ?? 1
  }
  /** @param {number} team @param {number} points */
  const give = (team, points) => {
    keep(withStep(kept, { kind: 'points', team, points }))
    say(phrase('game.has', { team: nameOf(team), points: standing(kept).scores[team] }))
  }

  function build() {
    const { frame } = pane()
    if (!frame.picture) return
    const stage = createStage(part('mat'), frame.picture)
    board = document.createElement('div')
    board.className = 'board-numbers'
    stage.overlay.append(board)
    draw()
  }

  function draw() {
    const { scores, opened } = standing(kept)
    board?.replaceChildren(
      ...cards().map(index => {
        const spot = pane().spots[index]
        const isOpened = opened.has(`${shown}/${index}`)
        const made = button(`game-spot ${isOpened ? 'opened' : ''}`, numeral(spot.points), () => openCard(index))
        made.setAttribute('aria-label', phrase(isOpened ? 'game.spotOpened' : 'game.spot', { number: index + 1, points: spot.points }))
        made.dataset.spot = String(index)
        const at = /** @type {Point} */ (spot.at)
        made.style.left = `calc(var(--unit) * ${at.x})`
        made.style.top = `calc(var(--unit) * ${at.y})`
        return made
      }),
    )
    const isTyping = document.activeElement instanceof HTMLInputElement && part('teams').contains(document.activeElement)
    if (isTyping && part('teams').children.length === kept.teams.length)
      for (const [i, score] of part('teams').querySelectorAll('.team-score').entries()) score.textContent = numeral(scores[i])
    else part('teams').replaceChildren(...kept.teams.map((_, i) => team(i, scores[i])))
    part('panes').hidden = view.panes.length === 1
    part('where').textContent = phrase('board.where', { number: shown + 1, all: view.panes.length })
    part('left').textContent = phrase('game.left', { count: cards().filter(index => !opened.has(`${shown}/${index}`)).length })
    part('undo').setAttribute('aria-disabled', String(kept.steps.length === 0))
    part('add').setAttribute('aria-disabled', String(kept.teams.length >= mostTeams))
    drawCard()
  }

  /** @param {number} index @param {number} score */
  function team(index, score) {
    const item = document.createElement('li')
    item.className = 'team'
    const name = document.createElement('input')
    Object.assign(name, { className: 'team-name', value: kept.teams[index], placeholder: nameOf(index), maxLength: 40, dir: 'auto' })
    name.setAttribute('aria-label', phrase('game.nameOf', { team: phrase('game.team', { number: index + 1 }) }))
    name.addEventListener('change', () => keep({ ...kept, teams: kept.teams.map((known, i) => (i === index ? name.value.trim() : known)) }))
    const points = document.createElement('output')
    points.className = 'team-score'
    points.textContent = numeral(score)
    const by = stake()
    const act = (/** @type {number} */ change, /** @type {string} */ sentence) => {
      const looks = `btn ${change > 0 ? 'btn-primary' : 'btn-outline-primary'} team-give`
      // A sign and its number stand as the language writes them.
      const made = element('button', looks, `${change > 0 ? '+' : '−'}${numeral(by)}`)
      made.type = 'button'
      made.addEventListener('click', () => {
        const where = [...item.querySelectorAll('button')].indexOf(made)
        give(index, change)
        part('teams').children[index]?.querySelectorAll('button')[where]?.focus()
      })
      made.setAttribute('aria-label', phrase(sentence, { team: nameOf(index), points: by }))
      return made
    }
    const away = button('btn btn-plain team-away', '×', () => keep(withoutTeam(kept, index)))
    away.setAttribute('aria-label', phrase('game.takeAway', { team: nameOf(index) }))
    away.hidden = kept.teams.length === 1
    item.append(name, points, act(by, 'game.give'), act(-by, 'game.take'), away)
    return item
  }

  /** @param {number} index */
  function openCard(index) {
    ;[open, isRevealed] = [index, false]
    const spot = `${shown}/${index}`
    if (standing(kept).opened.has(spot)) draw()
    else keep(withStep(kept, { kind: 'open', spot }))
    part('card').focus()
  }

  function closeCard() {
    const index = open
    open = null
    draw()
    const spot = /** @type {HTMLElement | null} */ (game.querySelector(`.game-spot[data-spot="${index}"]`))
    spot?.focus()
  }

  function drawCard() {
    const card = part('card')
    card.hidden = open === null
    part('mat').inert = open !== null
    if (open === null) return
    const spot = pane().spots[open]
    const now = everything()
    const target = now.targets.find(known => known.id === spot.name)
    // Of an info spot the title is the question; without one, all of it is there to be read at once.
    const isHidden = target?.kind === 'telling' && target.prompt !== '' && !isRevealed
    const seen = isHidden
      ? { ...now, targets: now.targets.map(known => (known === target ? { ...target, text: '', face: null } : known)) }
      : now
    const canReveal = !isRevealed && (target?.kind !== 'telling' || (isHidden && (target.text !== '' || target.face)))
    const acts = document.createElement('div')
    acts.className = 'game-acts'
    if (canReveal) acts.append(button('btn btn-primary', phrase('game.showAnswer'), revealCard))
    acts.append(button('btn btn-outline-primary', phrase('cards.close'), closeCard))
    const worth = document.createElement('p')
    worth.className = 'game-worth'
    worth.textContent = phrase('game.for', { count: spot.points })
    card.replaceChildren(worth, ...questionAt(seen, spot, { isRevealed }), acts)
  }
  const revealCard = () => {
    isRevealed = true
    draw()
    part('card').focus()
  }

  const undo = () => {
    if (kept.steps.length === 0) return
    const last = kept.steps.at(-1)
    if (last?.kind === 'open') open = null
    keep(takenBack(kept))
  }
  part('undo').addEventListener('click', undo)
  part('add').addEventListener('click', () => {
    if (kept.teams.length < mostTeams) keep({ ...kept, teams: [...kept.teams, ''] })
  })
  const dialog = /** @type {HTMLDialogElement} */ (part('clear-dialog'))
  part('clear').addEventListener('click', () => {
    dialog.returnValue = ''
    dialog.showModal()
  })
  dialog.addEventListener('close', () => {
    if (dialog.returnValue !== 'clear') return
    open = null
    keep({ ...fresh(), teams: kept.teams })
  })
  const turn = (/** @type {number} */ by) => {
    if (!view.panes[shown + by]) return
    ;[shown, open] = [shown + by, null]
    build()
  }
  part('pane-back').addEventListener('click', () => turn(-1))
  part('pane-next').addEventListener('click', () => turn(1))
  part('full').addEventListener('click', turnFull)
  addEventListener('keydown', event => {
    const target = /** @type {HTMLElement} */ (event.target)
    if (event.altKey || event.metaKey || target.closest('input, dialog')) return
    if (event.ctrlKey && event.key !== 'z') return
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
    // With Shift the key writes something else.
    const number = Number(/^Digit(\d)$/.exec(event.code)?.[1])
    if (number >= 1 && number <= kept.teams.length) give(number - 1, event.shiftKey ? -stake() : stake())
    else if (key === 'u' || key === 'z') undo()
    else if (key === 'Escape' && open !== null) closeCard()
    else if ((key === 'r' || key === 'PageDown') && open !== null && !isRevealed) revealCard()
    else if (key === 'PageDown' && open !== null) closeCard()
    else if (key === 'f') turnFull()
    else return
    event.preventDefault()
  })
  build()
  game.dataset.ready = 'true'
}
