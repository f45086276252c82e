// All pictures with what is still open, each thing one tap away; and what a student wants to look at again.

import { phrase } from '../language.js'
import { openThings, tallyOf } from './work.js'

/** So many open things of a picture are named; the picture itself leads to the others. */
const most = 12

/**
 * @param {HTMLElement} list
 * @param {PaneView[]} panes
 * @param {object} actions
 * @param {Set<number>} actions.again Which are to be looked at again.
 * @param {(pane: number) => void} actions.toggleAgain
 * @param {(pane: number, thing?: import('./work.js').Thing) => void} actions.go
 */
export function drawOverview(list, panes, { again, toggleAgain, go }) {
  list.replaceChildren(
    ...panes.map((pane, i) => {
      const { done, all } = tallyOf(pane)
      const place = { number: i + 1, all: panes.length }
      const item = document.createElement('li')
      const line = document.createElement('div')
      line.className = 'review-pane'
      const name = all > 0 ? phrase('screen.pictureDone', { ...place, done, parts: all }) : phrase('screen.picture', place)
      if (panes.length > 1) {
        line.append(button('btn btn-plain review-go', name, () => go(i)))
        const mark = button('btn btn-plain', phrase('screen.lookAgain'), () => {
          toggleAgain(i)
          mark.setAttribute('aria-pressed', String(again.has(i)))
        })
        mark.setAttribute('aria-pressed', String(again.has(i)))
        line.append(mark)
      }
      item.append(line)
      const open = openThings(pane)
      if (open.length > 0 && pane.open) {
        const things = document.createElement('ul')
        things.className = 'review-open'
        things.append(
          ...open.slice(0, most).map(thing => {
            const entry = document.createElement('li')
            entry.append(button('btn btn-sm btn-outline-primary', thing.name, () => go(i, thing)))
            return entry
          }),
        )
        item.append(things)
      }
      return item
    }),
  )
}

/** @param {string} className @param {string} text @param {() => void} act */
function button(className, text, act) {
  const made = document.createElement('button')
  Object.assign(made, { type: 'button', className, textContent: text })
  made.dir = 'auto'
  made.addEventListener('click', act)
  return made
}
