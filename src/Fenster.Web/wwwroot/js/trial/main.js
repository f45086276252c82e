// Trying an activity: the student's screen in frames of several sizes, and the key or chance played through it.

import { phrase } from '../language.js'
import { get } from '../http.js'

const room = document.getElementById('room')
if (room) start(room)

/** @param {HTMLElement} room */
function start(room) {
  /** @template {HTMLElement} T @param {string} id @returns {T} */
  const part = id => /** @type {T} */ (document.getElementById(id))
  const frame = part('frame')
  const screen = /** @type {HTMLIFrameElement} */ (part('screen'))
  const outcome = part('outcome')
  const screens = /** @type {NodeListOf<HTMLInputElement>} */ (document.querySelectorAll('[name=screen]'))
  const turn = part('turn')
  let isTurned = false
  /** Counts the runs, so that a new one ends the one before. */
  let run = 0

  const fit = () => {
    const chosen = [...screens].find(input => input.checked) ?? screens[0]
    const sides = [Number(chosen.dataset.width), Number(chosen.dataset.height)]
    const [width, height] = isTurned ? sides.reverse() : sides
    const scale = Math.min(1, room.clientWidth / (width + 24), room.clientHeight / (height + 24))
    Object.assign(screen.style, { width: `${width}px`, height: `${height}px`, transform: `scale(${scale})` })
    Object.assign(frame.style, { width: `${width * scale}px`, height: `${height * scale}px` })
    frame.dataset.screen = chosen.value
  }
  for (const input of screens) input.addEventListener('change', fit)
  turn.addEventListener('click', () => {
    isTurned = !isTurned
    turn.setAttribute('aria-pressed', String(isTurned))
    fit()
  })
  new ResizeObserver(fit).observe(room)
  fit()

  /** A fresh screen, once it is ready. @returns {Promise<HTMLElement>} */
  const fresh = () =>
    new Promise(resolve => {
      screen.addEventListener('load', () => resolve(/** @type {HTMLElement} */ (screen.contentDocument?.getElementById('work'))), {
        once: true,
      })
      screen.contentWindow?.location.reload()
    })
  part('again').addEventListener('click', () => {
    run++
    outcome.textContent = ''
    fresh()
  })

  /** @param {boolean} isBlind */
  const play = async isBlind => {
    const mine = ++run
    outcome.textContent = isBlind ? phrase('trial.playingBlind') : phrase('trial.playingTheKey')
    const work = await fresh()
    const answer = await get(`${work.dataset.play}&blind=${isBlind}`)
    if (!answer.ok) {
      outcome.textContent = answer.sentence
      return
    }
    const pause = matchMedia('(prefers-reduced-motion: reduce)').matches ? 0 : Math.min(220, 5000 / (answer.body.length + 1))
    for (const step of answer.body) {
      await until(() => work.dataset.link !== 'saving', pause)
      if (mine !== run) return
      work.dispatchEvent(new CustomEvent('play', { detail: step }))
    }
    await until(() => work.dataset.link !== 'saving', pause)
    if (mine !== run) return
    if (work.dataset.purpose === 'LearningOnly') {
      outcome.textContent = phrase('trial.playedToTheEndItIs')
      return
    }
    work.addEventListener(
      'outcome',
      event => {
        if (mine === run) outcome.textContent = sentenceOf(/** @type {CustomEvent} */ (event).detail, isBlind)
      },
      { once: true },
    )
    work.dispatchEvent(new Event('finish'))
  }
  part('play-key').addEventListener('click', () => play(false))
  part('play-blind').addEventListener('click', () => play(true))

  /** @param {any} score @param {boolean} isBlind */
  function sentenceOf(score, isBlind) {
    if (!score) return phrase('trial.playedToTheEndTheRules')
    const earned = phrase('result.score', { score: rounded(score.score), count: rounded(score.possible) })
    if (isBlind) return phrase('trial.blind', { earned, guess: room.dataset.guess ?? '' })
    const notes = Number(room.dataset.notes)
    if (notes > 0 && score.score + notes === score.possible) return phrase('trial.fullAndNotes', { earned, notes: rounded(notes) })
    return score.score === score.possible ? phrase('trial.full', { earned }) : phrase('trial.only', { earned })
  }
}

/** @param {number} number */
const rounded = number => Math.round(number * 100) / 100

/** Waits for a condition, and at least for a while. @param {() => boolean} condition @param {number} pause */
const until = (condition, pause) =>
  new Promise(resolve => {
    const look = () => (condition() ? resolve(true) : setTimeout(look, 20))
    setTimeout(look, pause)
  })
