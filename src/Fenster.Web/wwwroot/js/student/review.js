// All pictures with what is still open, each thing one tap away: to find the way, and as the last look before handing in.

import { button } from '../element.js'
import { listed, numeral, phrase } from '../language.js'
import { openThings, tallyOf } from './work.js'

/** So many open things of a picture are named; the picture itself leads to the others. */
const most = 12

/**
 * @typedef {object} Review
 * @property {boolean} isLast Whether it is the last look before handing in.
 * @property {PaneView[]} panes
 * @property {Sent.Leaving} leaving
 * @property {{all: () => number[], toggle: (pane: number) => void}} again Which are to be looked at again.
 * @property {() => void} redraw What else shows that.
 * @property {(pane: number, thing?: import('./work.js').Thing) => void} go
 * @property {() => Promise<void>} handIn Throws a sentence.
 */

/** @param {HTMLDialogElement} dialog @param {Review} review */
export function openReview(dialog, { isLast, panes, leaving, again, redraw, go, handIn }) {
  /** @template {HTMLElement} T @param {string} id @returns {T} */
  const part = id => /** @type {T} */ (dialog.querySelector(`#${id}`))
  const [text, problem, list] = [part('review-text'), part('review-problem'), part('review-panes')]
  const open = panes.flatMap(pane => openThings(pane))
  const must = open.filter(thing => thing.isCompulsory).length
  const isOpen = hasCompulsory(panes) ? must > 0 : open.length > 0
  part('review-title').textContent = phrase(isLast ? 'page.handInNow' : 'page.pictures')
  text.textContent = isLast ? [sentences(panes), ...(must > 0 ? [phrase('screen.compulsoryOpen', { count: must })] : [])].join(' ') : ''
  problem.hidden = true
  const fill = () => {
    list.replaceChildren(
      ...panes.map((pane, i) =>
        lineOf(pane, i, panes.length, {
          isMarked: again.all().includes(i),
          mark() {
            again.toggle(i)
            redraw()
            fill()
          },
          go(thing) {
            dialog.close()
            go(i, thing)
          },
        }),
      ),
    )
  }
  fill()

  part('review-back').onclick = () => dialog.close()
  const button = /** @type {HTMLButtonElement | null} */ (dialog.querySelector('#review-go'))
  if (button) {
    button.hidden = !isLast
    let isSure = leaving !== 'askedTwice' || !isOpen
    button.onclick = async () => {
      if (!isSure) {
        isSure = true
        problem.textContent = [phrase('screen.reallyOpen'), phrase('screen.noChange')].join(' ')
        problem.hidden = false
        return
      }
      button.disabled = true
      try {
        await handIn()
        dialog.close()
      } catch (error) {
        problem.textContent = error instanceof Error ? error.message : String(error)
        problem.hidden = false
      }
      button.disabled = false
    }
  }
  if (!dialog.open) dialog.showModal()
}

/**
 * @param {PaneView} pane
 * @param {number} index
 * @param {number} count Of panes.
 * @param {{isMarked: boolean, mark: () => void, go: (thing?: import('./work.js').Thing) => void}} acts
 */
function lineOf(pane, index, count, { isMarked, mark, go }) {
  const { done, all } = tallyOf(pane)
  const place = { number: index + 1, all: count }
  const item = document.createElement('li')
  if (count > 1) {
    const line = document.createElement('div')
    line.className = 'review-pane'
    const name = all > 0 ? phrase('screen.pictureDone', { ...place, done, parts: all }) : phrase('screen.picture', place)
    const marked = button('btn btn-plain', phrase('screen.lookAgain'), mark)
    marked.setAttribute('aria-pressed', String(isMarked))
    line.append(
      button('btn btn-plain review-go', name, () => go()),
      marked,
    )
    item.append(line)
  }
  // What has to be done comes first.
  const open = pane.open ? openThings(pane).sort((a, b) => Number(b.isCompulsory ?? false) - Number(a.isCompulsory ?? false)) : []
  if (open.length > 0) {
    const things = document.createElement('ul')
    things.className = 'review-open'
    things.append(
      ...open.slice(0, most).map(thing => {
        const entry = document.createElement('li')
        entry.append(button('btn btn-sm btn-outline-primary', thing.name, () => go(thing)))
        if (thing.isCompulsory) entry.append(' ', Object.assign(document.createElement('em'), { textContent: phrase('screen.compulsory') }))
        return entry
      }),
    )
    item.append(things)
  }
  return item
}

/** Whether the teacher named what has to be done; else it is all of it. @param {PaneView[]} panes */
const hasCompulsory = panes => panes.some(pane => [...pane.zones, ...pane.targets].some(place => place.compulsory))

/** @param {PaneView[]} panes @returns {string} */
function sentences(panes) {
  const left = panes.map((pane, i) => ({ number: i + 1, left: tallyOf(pane).all - tallyOf(pane).done })).filter(({ left }) => left > 0)
  const onlyZones = panes.every(pane => pane.targets.length === 0)
  const count = left.reduce((sum, pane) => sum + pane.left, 0)
  // Where labels belong to no place that is shown, those in the bank may be left there; that all is answered can't be said.
  const labels = panes.flatMap(openThings).filter(thing => thing.kind === 'label').length
  const pictures = listed(left.map(pane => numeral(pane.number)))
  return [
    count === 0
      ? labels > 0
        ? phrase('screen.labelsLeft', { count: labels })
        : phrase(onlyZones ? 'screen.everyZone' : 'screen.everything')
      : phrase(onlyZones ? 'screen.zonesEmpty' : 'screen.thingsOpen', { count }),
    ...(panes.length > 1 && count > 0 ? [phrase('screen.onPictures', { count: left.length, pictures })] : []),
    phrase('screen.noChange'),
  ].join(' ')
}
