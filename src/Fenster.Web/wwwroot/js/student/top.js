// The top of the screen: the panes as a lattice, and what it is about.

import { listed, phrase } from '../language.js'
import { whenChanged } from './afresh.js'

/** @typedef {{tallies: {done: number, all: number, pinned: number}[], shown: number, marked: number[]}} Facts */

/**
 * @param {HTMLElement} list
 * @param {{show: (pane: number) => void, overview: () => void}} actions
 * @returns {(facts: Facts) => void} Draws it.
 */
export function createPanes(list, { show, overview }) {
  return whenChanged((/** @type {Facts} */ facts) => {
    list.hidden = facts.tallies.length < 2
    if (list.hidden) return
    const focused = list.contains(document.activeElement) ? [...list.children].indexOf(/** @type {Element} */ (document.activeElement)) : -1
    list.replaceChildren(
      paneButton('pane-step pane-step-back', '‹', phrase('screen.before'), () => show(Math.max(0, facts.shown - 1))),
      ...facts.tallies.map(({ done, all, pinned }, i) => {
        const isFilled = (all > 0 && done === all) || (all === 0 && pinned > 0)
        const place = { number: i + 1, all: facts.tallies.length }
        const name = listed([
          all > 0 ? phrase('screen.pictureDone', { ...place, done, parts: all }) : phrase('screen.picture', place),
          facts.marked.includes(i) ? phrase('screen.lookAgain') : '',
        ])
        const cell = paneButton(`pane-cell ${isFilled ? 'filled' : done + pinned > 0 ? 'begun' : ''}`, String(i + 1), name, () =>
          i === facts.shown ? overview() : show(i),
        )
        cell.classList.toggle('again', facts.marked.includes(i))
        cell.dataset.all = String(place.all)
        if (i === facts.shown) cell.setAttribute('aria-current', 'page')
        return cell
      }),
      paneButton('pane-step', '›', phrase('screen.after'), () => show(Math.min(facts.tallies.length - 1, facts.shown + 1))),
    )
    if (focused >= 0) /** @type {HTMLElement | null} */ (list.children[focused])?.focus()
  })
}

/** @param {string} className @param {string} text @param {string} name @param {() => void} act */
function paneButton(className, text, name, act) {
  const button = document.createElement('button')
  Object.assign(button, { type: 'button', className, textContent: text })
  button.setAttribute('aria-label', name)
  button.addEventListener('click', act)
  return button
}

/**
 * On a small screen what it is about folds away after the first touch, and comes back with one tap.
 * @param {HTMLElement} work
 * @param {HTMLElement} button
 * @param {boolean} isFolded At first.
 */
export function foldIntro(work, button, isFolded) {
  /** @param {boolean} folded */
  const fold = folded => {
    work.classList.toggle('folded', folded)
    button.setAttribute('aria-expanded', String(!folded))
  }
  fold(isFolded)
  button.addEventListener('click', () => fold(!work.classList.contains('folded')))
  // After the touch has done what it is for: what moves under a finger would miss it.
  document.getElementById('board')?.addEventListener('click', () => fold(true))
}
