// What the teacher tells while students work: a short note, or a spot that glows. It is asked for every few seconds.

import { get } from '../http.js'
import { phrase } from '../language.js'
import { glow } from '../scene/glow.js'
import { recall, remember } from './device.js'

const every = 5000

/**
 * @typedef {{id: number, text: string, pane: string | null, at: Point | null}} Line
 *
 * @param {HTMLElement} box
 * @param {object} on
 * @param {string} on.url
 * @param {string} on.key Under which the device remembers what was read.
 * @param {(pane: string) => void} on.show Shows a pane.
 * @param {() => {pane: string, stage: import('../scene/stage.js').Stage | null}} on.shown
 * @param {(sentence: string) => void} on.say
 * @returns {() => void} Ends it.
 */
export function startNews(box, { url, key, show, shown, say }) {
  let known = Number(recall(`${key}-news`) ?? 0) || 0
  const timer = setInterval(ask, every)
  async function ask() {
    if (document.hidden) return
    const answer = await get(`${url}&after=${known}`)
    if (!answer.ok) return
    for (const line of /** @type {Line[]} */ (answer.body.news)) tell(line)
  }
  ask()

  /** @param {Line} line */
  function tell({ id, text, pane, at }) {
    known = Math.max(known, id)
    remember(`${key}-news`, String(known))
    const words = text || phrase('screen.lookHere')
    const line = document.createElement('p')
    line.dir = 'auto'
    line.textContent = words
    const close = Object.assign(document.createElement('button'), { type: 'button', className: 'btn btn-outline-primary' })
    close.textContent = phrase('screen.read')
    close.addEventListener('click', () => {
      box.hidden = true
    })
    box.replaceChildren(line, close)
    box.hidden = false
    say(`${phrase('screen.fromTeacher')}: ${words}`)
    if (!pane || !at) return
    if (shown().pane === pane) return pointAt(at)
    const lead = Object.assign(document.createElement('button'), { type: 'button', className: 'btn btn-primary' })
    lead.textContent = phrase('screen.showMe')
    lead.addEventListener('click', () => {
      show(pane)
      pointAt(at)
      box.hidden = true
    })
    close.before(lead)
  }

  /** @param {Point} at */
  function pointAt(at) {
    const { stage } = shown()
    if (!stage) return
    stage.zoomTo(1)
    glow(stage, at)
  }

  return () => clearInterval(timer)
}
