// The board: an activity for a whole class, spot after spot. Nothing of it is stored.

import { get } from '../http.js'
import { numeral, phrase } from '../language.js'
import { createBoard, isHeld } from '../scene/board.js'
import { createSpots } from '../scene/spots.js'
import { createStage } from '../scene/stage.js'
import { createBank, createPlacedList } from '../student/bank.js'
import { createMatching } from '../student/matching.js'
import { applied, holdablesOf, moveBack, moveTo, pinnedOf } from '../student/work.js'
import { turnFull } from './full.js'
import { startHands } from './hands.js'
import { opensCard, questionAt, words } from './question.js'
import { answerAt, askedAt, paneShown } from './revealed.js'

/**
 * @typedef {object} State
 * @property {number} pane
 * @property {number} at The spot that is asked about; -1 before the first.
 * @property {PaneWork[]} works What was done by hand.
 * @property {ReadonlySet<string>} revealed As `pane/spot`.
 */

/** Letters for the last row; a small screen is in somebody's hand. */
const smallest = innerWidth < 700 ? 14 : Math.max(20, Math.round(innerWidth * 0.022))
const letters = { largest: Math.round(smallest * 1.2), smallest }

const screen = document.getElementById('board-screen')
if (screen) start(screen)

/** @param {HTMLElement} screen */
function start(screen) {
  /** @template {HTMLElement} T @param {string} id @returns {T} */
  const part = id => /** @type {T} */ (document.getElementById(id))
  const view = /** @type {Sent.BoardView} */ (JSON.parse(screen.dataset.view ?? ''))
  /** @type {State} */
  let state = { pane: 0, at: -1, works: view.panes.map(pane => pane.work), revealed: new Set() }
  /** @type {State[]} */
  const before = []
  /** @type {{label: string, copy: number} | null} */
  let inHand = null
  /**
   * @type {{stage: import('../scene/stage.js').Stage, board: import('../scene/board.js').Board, spots: ReturnType<typeof createSpots>,
   *   numbers: HTMLElement} | null}
   */
  let scene = null
  /** How the class answered, by pane and target; null while that is not shown. @type {Answers | null} */
  let answers = null

  const pane = () => view.panes[state.pane]
  const isRevealed = (/** @type {number} */ spot) => state.revealed.has(`${state.pane}/${spot}`)
  const shown = () => paneShown(pane(), state.works[state.pane], new Set(pane().spots.flatMap((_, i) => (isRevealed(i) ? [i] : []))))

  /** @param {Partial<State>} change */
  const go = change => {
    before.push(state)
    const wasAt = state.pane
    state = { ...state, ...change }
    if (state.pane !== wasAt) build()
    else draw()
  }
  const undo = () => {
    const last = before.pop()
    if (!last) return
    const wasAt = state.pane
    state = last
    if (state.pane !== wasAt) build()
    else draw()
  }
  /** @param {Iterable<number>} spots */
  const reveal = spots => go({ revealed: new Set([...state.revealed, ...[...spots].map(spot => `${state.pane}/${spot}`)]) })
  /** One step further, as a clicker has one key for it: the next question, then its answer. */
  const forward = () => {
    if (state.at >= 0 && !isRevealed(state.at)) return reveal([state.at])
    next()
  }
  const next = () => {
    const open = pane().spots.findIndex((_, i) => i > state.at && !isRevealed(i))
    if (open >= 0) go({ at: open })
    else if (state.pane + 1 < view.panes.length) go({ pane: state.pane + 1, at: -1 })
  }
  /** @param {number} pane */
  const turnTo = pane => {
    if (pane >= 0 && pane < view.panes.length && pane !== state.pane) go({ pane, at: -1 })
  }
  /** @param {Move} move */
  const make = move => {
    const works = applied({ panes: view.panes.map(({ frame }) => frame) }, { panes: state.works }, state.pane, move).panes
    go({ works })
  }

  const drawBank = createBank(part('bank-left'))
  const drawNumbered = createPlacedList(() => part('placed-list'))
  const matching = createMatching(part('matching'), { pane: shown, make, say() {} })
  const hands = startHands(screen, {
    stage: () => scene?.stage ?? null,
    pane: shown,
    bank: part('side'),
    mayTake: label => !isHeld(shown(), label),
    show(label) {
      inHand = label
      draw()
    },
    put(label, place) {
      const now = shown()
      if (!place) {
        if ([...now.placed, ...now.pins].some(p => p.label === label.label && p.copy === label.copy) || isMark(now, label))
          make(moveBack(now, label))
        else draw()
      } else if ('at' in place) make(moveTo(now, label, place.at))
      else if (isRevealed(pane().spots.findIndex(spot => spot.name === place.zone))) draw()
      else make({ kind: 'putDown', ...label, zone: place.zone })
    },
  })

  function build() {
    hands.letGo()
    const { frame } = pane()
    part('mat').hidden = !frame.picture
    screen.classList.toggle(
      'has-matching',
      frame.targets.some(target => target.kind === 'linking'),
    )
    scene = null
    if (frame.picture) {
      const stage = createStage(part('mat'), frame.picture, letters)
      const board = createBoard(stage, shown(), numbered => drawNumbered({ numbered }))
      const spots = createSpots(stage, {
        open: target => ask(pane().spots.findIndex(spot => spot.name === target.id)),
        hover() {},
        type(target, text, isFinished) {
          if (isFinished) make({ kind: 'typeText', target, text })
        },
      })
      const numbers = document.createElement('div')
      numbers.className = 'board-numbers'
      stage.overlay.append(numbers)
      scene = { stage, board, spots, numbers }
    } else part('mat').replaceChildren()
    draw()
  }

  /** @param {number} spot */
  const ask = spot => {
    if (spot >= 0 && spot < pane().spots.length && spot !== state.at) go({ at: spot })
  }

  function draw() {
    const now = shown()
    if (scene) {
      scene.board.draw(now, { inHand, pinned: pinnedOf(now), holdables: holdablesOf(now) })
      scene.spots.draw(now, true)
      scene.numbers.replaceChildren(...pane().spots.flatMap((spot, i) => numberAt(now, spot, i)))
      scene.board.hover(pane().spots[state.at]?.name ?? null)
    }
    matching.draw()
    drawBank(now, inHand)
    part('bank').hidden = holdablesOf(now).length === 0
    drawAsked(now)
    drawAnswers()
    part('side').hidden =
      part('bank').hidden && part('question').hidden && part('answers').hidden && part('placed-list').childElementCount === 0
    part('panes').hidden = view.panes.length === 1
    part('where').textContent = phrase('board.where', { number: state.pane + 1, all: view.panes.length })
    const left = pane().spots.filter((_, i) => !isRevealed(i)).length
    part('left').textContent = phrase('board.left', { count: left })
    const button = (/** @type {string} */ id, /** @type {boolean} */ isIdle) => {
      part(id).setAttribute('aria-disabled', String(isIdle))
    }
    button('undo', before.length === 0)
    button('reveal', state.at < 0 || isRevealed(state.at))
    button('reveal-all', left === 0)
    button('next', left === 0 && state.pane + 1 === view.panes.length)
    button('pane-back', state.pane === 0)
    button('pane-next', state.pane + 1 === view.panes.length)
  }

  /** @param {PaneView} now @param {Sent.BoardSpot} spot @param {number} index @returns {HTMLElement[]} */
  function numberAt(now, spot, index) {
    const isThere =
      spot.at && (spot.isSeen || isRevealed(index) || now.found.some(found => found.id === spot.name && found.kind !== 'concealed'))
    if (!spot.at || !isThere) return []
    const number = document.createElement('button')
    number.type = 'button'
    number.className = 'board-number'
    number.textContent = numeral(index + 1)
    number.setAttribute('aria-label', phrase('board.spot', { number: index + 1 }))
    number.setAttribute('aria-pressed', String(index === state.at))
    number.classList.toggle('revealed', isRevealed(index))
    // All of it stays on the picture.
    const { left, right, top } = /** @type {import('../scene/stage.js').Stage} */ (scene?.stage).plane
    number.style.left = `clamp(calc(var(--unit) * ${left} + 1.5em), calc(var(--unit) * ${spot.at.x}), calc(var(--unit) * ${right}))`
    number.style.top = `max(calc(var(--unit) * ${top} + 1.3em), calc(var(--unit) * ${spot.at.y}))`
    number.classList.toggle('on-spot', opensCard(now, spot))
    number.addEventListener('click', () => ask(index))
    return [number]
  }

  /** What is asked, and what was revealed. @param {PaneView} now */
  function drawAsked(now) {
    const spot = pane().spots[state.at]
    const card = part('question')
    const isCard = spot !== undefined && opensCard(now, spot)
    card.hidden = !isCard
    const caption = part('caption')
    caption.replaceChildren()
    screen.classList.toggle('asking', isCard)
    caption.hidden = isCard
    if (!spot) {
      caption.append(words('span', 'caption-words', phrase(pane().spots.length > 0 ? 'board.begin' : 'board.nothing')))
      return
    }
    const done = now.done.find(done => done.target === spot.name)
    if (isCard)
      card.replaceChildren(
        words('span', 'caption-number', numeral(state.at + 1)),
        ...questionAt(now, spot, {
          isRevealed: isRevealed(state.at),
          picks: done?.picks,
          pick: options => make({ kind: 'pickOptions', target: spot.name ?? '', options }),
        }),
      )
    const answer = isRevealed(state.at) ? answerAt(now, spot) : ''
    caption.append(
      words('span', 'caption-number', numeral(state.at + 1)),
      words('span', 'caption-words', askedAt(now, spot)),
      ...(answer ? [words('strong', 'caption-answer', answer)] : []),
      ...(isRevealed(state.at) && spot.explanation ? [words('span', 'caption-why', spot.explanation)] : []),
    )
  }

  // How the class answered.

  /**
   * @typedef {{answer: string, count: number, isRight: boolean}} Given
   * @typedef {{works: number, targets: Record<string, {count: number, given: Given[], others: number}>}} Answers
   */

  /** @type {number | undefined} */
  let asking
  const from = /** @type {HTMLSelectElement | null} */ (document.getElementById('of'))
  from?.addEventListener('change', () => {
    clearInterval(asking)
    answers = null
    draw()
    if (from.value === '') return
    loadAnswers()
    asking = setInterval(loadAnswers, 5000)
  })
  async function loadAnswers() {
    const of = from?.value
    const answer = await get(`${screen.dataset.answers}&of=${of}`)
    if (of !== from?.value) return
    part('trouble').textContent = answer.sentence
    part('trouble').hidden = answer.ok
    if (answer.ok) answers = answer.body
    draw()
  }

  function drawAnswers() {
    const panel = part('answers')
    const spot = pane().spots[state.at]
    panel.hidden = answers === null
    panel.replaceChildren()
    if (!answers) return
    const known = spot && answers.targets[`${state.pane}/${spot.id}${spot.item ? `/${spot.item}` : ''}`]
    panel.append(
      words(
        'p',
        'answers-sum',
        known ? phrase('board.answered', { count: known.count, all: answers.works }) : phrase('board.begun', { count: answers.works }),
      ),
    )
    if (!known) return
    const list = document.createElement('ul')
    list.className = 'answers-list'
    for (const { answer, count, isRight } of known.given) {
      const item = document.createElement('li')
      const isTold = isRight && isRevealed(state.at)
      item.classList.toggle('is-right', isTold)
      item.style.setProperty('--share', `${(100 * count) / Math.max(1, answers.works)}%`)
      item.append(words('span', 'answers-words', answer), words('strong', 'answers-count', numeral(count)))
      list.append(item)
    }
    panel.append(list)
    if (known.others > 0) panel.append(words('p', 'answers-others', phrase('board.others', { count: known.others })))
  }

  // The bar and the keys.

  const acts = /** @type {Record<string, () => void>} */ ({
    next,
    reveal: () => {
      if (state.at >= 0 && !isRevealed(state.at)) reveal([state.at])
    },
    'reveal-all': () => {
      const open = pane().spots.flatMap((_, i) => (isRevealed(i) ? [] : [i]))
      if (open.length > 0) reveal(open)
    },
    undo,
    'pane-back': () => turnTo(state.pane - 1),
    'pane-next': () => turnTo(state.pane + 1),
    full: turnFull,
  })
  for (const [id, act] of Object.entries(acts)) part(id).addEventListener('click', act)
  /** What a number is typed of, until it is clear which is meant. */
  let typed = ''
  /** @type {number | undefined} */
  let typing
  addEventListener('keydown', event => {
    const target = /** @type {HTMLElement} */ (event.target)
    if (event.altKey || event.metaKey || target.closest('input, textarea, select')) return
    if (event.ctrlKey && event.key !== 'z') return
    // A button that has the focus is pressed by these.
    if ((event.key === ' ' || event.key === 'Enter') && target.closest('button, a')) return
    if (/^\d$/.test(event.key)) {
      clearTimeout(typing)
      typed = (typed + event.key).slice(-3)
      if (Number(typed) > pane().spots.length) typed = event.key
      ask(Number(typed) - 1)
      typing = setTimeout(() => (typed = ''), 1200)
      return
    }
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
    const act = /** @type {Record<string, () => void>} */ ({
      PageDown: forward,
      ' ': forward,
      PageUp: undo,
      Backspace: undo,
      n: next,
      r: acts.reveal,
      a: acts['reveal-all'],
      u: undo,
      z: undo,
      ',': acts['pane-back'],
      '.': acts['pane-next'],
      f: acts.full,
    })[key]
    if (!act) return
    event.preventDefault()
    act()
  })
  build()
  screen.dataset.ready = 'true'
}

/** @param {PaneView} pane @param {{label: string}} held */
const isMark = (pane, { label }) => holdablesOf(pane).some(known => known.id === label && known.isMarker)
