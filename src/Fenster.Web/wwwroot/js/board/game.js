// A game of teams: spots with points, opened in any order. Scores and what was opened are remembered on this device until they are cleared.

import { numeral, phrase } from '../language.js'
import { createStage } from '../scene/stage.js'
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
  let kept = read(keeper(() => localStorage.getItem(place)) ?? null)
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
    const isKept = keeper(() => {
      localStorage.setItem(place, JSON.stringify(kept))
      return true
    })
    if (!isKept) say(phrase('game.notKept'))
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
        const button = document.createElement('button')
        button.type = 'button'
        button.className = 'game-spot'
        const isOpened = opened.has(`${shown}/${index}`)
        button.classList.toggle('opened', isOpened)
        button.textContent = numeral(spot.points)
        button.setAttribute('aria-label', phrase(isOpened ? 'game.spotOpened' : 'game.spot', { number: index + 1, points: spot.points }))
        button.dataset.spot = String(index)
        const at = /** @type {Point} */ (spot.at)
        button.style.left = `calc(var(--unit) * ${at.x})`
        button.style.top = `calc(var(--unit) * ${at.y})`
        button.addEventListener('click', () => openCard(index))
        return button
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
      const button = document.createElement('button')
      button.type = 'button'
      button.className = `btn ${change > 0 ? 'btn-primary' : 'btn-outline-primary'} team-give`
      button.textContent = change > 0 ? `+${numeral(by)}` : `−${numeral(by)}`
      button.setAttribute('aria-label', phrase(sentence, { team: nameOf(index), points: by }))
      button.addEventListener('click', () => {
        const where = [...item.querySelectorAll('button')].indexOf(button)
        give(index, change)
        part('teams').children[index]?.querySelectorAll('button')[where]?.focus()
      })
      return button
    }
    const away = document.createElement('button')
    away.type = 'button'
    away.className = 'btn btn-plain team-away'
    away.textContent = '×'
    away.setAttribute('aria-label', phrase('game.takeAway', { team: nameOf(index) }))
    away.hidden = kept.teams.length === 1
    away.addEventListener('click', () => keep(withoutTeam(kept, index)))
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
    const act = (/** @type {string} */ sentence, /** @type {string} */ looks, /** @type {() => void} */ does) => {
      const button = document.createElement('button')
      Object.assign(button, { type: 'button', className: `btn ${looks}`, textContent: phrase(sentence) })
      button.addEventListener('click', does)
      acts.append(button)
    }
    if (canReveal) act('game.showAnswer', 'btn-primary', revealCard)
    act('cards.close', 'btn-outline-primary', closeCard)
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
  const full = () => (document.fullscreenElement ? document.exitFullscreen() : document.documentElement.requestFullscreen().catch(() => {}))
  part('full').addEventListener('click', full)
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
    else if (key === 'f') full()
    else return
    event.preventDefault()
  })
  build()
  game.dataset.ready = 'true'
}

/** A browser may keep nothing. @template T @param {() => T} does @returns {T | undefined} */
function keeper(does) {
  try {
    return does()
  } catch {
    return undefined
  }
}
