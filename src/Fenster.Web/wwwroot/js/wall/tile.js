// One student's tile: the name, how far they are, and their pictures as they stand.

import { numeral, phrase } from '../language.js'
import { createBoard } from '../scene/board.js'
import { glow } from '../scene/glow.js'
import { createSpots } from '../scene/spots.js'
import { createStage } from '../scene/stage.js'
import { createMatching } from '../student/matching.js'
import { holdablesOf, paneOf, pinnedOf } from '../student/work.js'

/** @typedef {import('./main.js').TileSent} TileSent */

/**
 * @param {TileSent} first
 * @param {PaneFrame[]} frames
 * @param {object} acts
 * @param {string | undefined} acts.results Where a student's work is opened; undefined for who may not.
 * @param {() => string} acts.pane The number of the pane that is shown, from 0, or "all".
 * @param {() => void} acts.note
 * @param {(pane: number, at: Point) => Promise<boolean>} acts.point Whether the spot was told.
 */
export function createTile(first, frames, { results, pane: chosen, note, point }) {
  let sent = first
  let isSeen = false
  let isDrawn = false
  /** Draws a pane of the tile anew, by its number. @type {Map<number, (pane: PaneView) => void>} */
  let drawn = new Map()
  const element = document.createElement('li')
  element.className = 'tile'
  element.dataset.id = String(first.id)
  const name = document.createElement(results ? 'a' : 'span')
  name.className = 'tile-name'
  name.dir = 'auto'
  if (results) /** @type {HTMLAnchorElement} */ (name).href = results + first.id
  const state = Object.assign(document.createElement('span'), { className: 'tile-state' })
  const write = Object.assign(document.createElement('button'), { type: 'button', className: 'btn tool tile-note', textContent: '✎' })
  write.addEventListener('click', note)
  const head = document.createElement('div')
  head.className = 'tile-head'
  head.append(name, state, write)
  const bar = document.createElement('progress')
  bar.className = 'tile-bar'
  const hitch = Object.assign(document.createElement('p'), { className: 'tile-hitch', dir: 'auto' })
  const pictures = Object.assign(document.createElement('div'), { className: 'tile-pictures' })
  element.append(head, bar, hitch, pictures)

  const panesShown = () => (chosen() === 'all' ? frames.map((_, i) => i) : [Math.min(frames.length - 1, Number(chosen()))])

  function build() {
    pictures.replaceChildren()
    drawn = new Map()
    for (const number of panesShown()) {
      const frame = frames[number]
      if (!frame) continue
      if (frame.picture && !frame.targets.some(target => target.kind === 'making')) {
        const mat = document.createElement('div')
        mat.className = 'mat'
        mat.style.aspectRatio = `${frame.picture.width} / ${frame.picture.height}`
        pictures.append(mat)
        const stage = createStage(mat, frame.picture)
        const board = createBoard(stage, /** @type {PaneView} */ ({ ...frame, ...sent.work?.panes[number] }))
        const spots = createSpots(stage, { open() {}, hover() {}, type() {} })
        stage.element.addEventListener('click', async event => {
          const at = stage.pointAt(event)
          if (await point(number, at)) glow(stage, at)
        })
        drawn.set(number, pane => {
          board.draw(pane, { pinned: pinnedOf(pane), holdables: holdablesOf(pane) })
          spots.draw(pane, false)
          quieten(mat)
        })
      }
      const made = frame.targets.find(target => target.kind === 'making')
      if (made) {
        // What students show of themselves is opened singly, by the name.
        const said = document.createElement('p')
        said.className = 'tile-own'
        pictures.append(said)
        drawn.set(number, pane => {
          const own = pane.done.find(done => done.target === made.id)?.own
          said.textContent = own ? phrase('wall.ownPicture', { count: own.spots.length }) : phrase('wall.noOwnPicture')
        })
      } else if (frame.targets.some(target => target.kind === 'linking')) {
        const panel = document.createElement('div')
        panel.className = 'matchings'
        pictures.append(panel)
        let shown = /** @type {PaneView | null} */ (null)
        const matching = createMatching(panel, { pane: () => /** @type {PaneView} */ (shown), make() {}, say() {} })
        const picture = drawn.get(number)
        drawn.set(number, pane => {
          picture?.(pane)
          shown = pane
          matching.draw()
          quieten(panel)
        })
      }
    }
  }

  /** Nothing on a tile is for the keyboard but its name and its note. @param {HTMLElement} within */
  const quieten = within => {
    within.inert = !within.classList.contains('mat')
    for (const control of within.querySelectorAll('button, input, textarea')) /** @type {HTMLElement} */ (control).tabIndex = -1
  }

  function draw() {
    name.textContent = sent.name
    state.textContent = sent.handedAt
      ? phrase('wall.handedIn')
      : phrase('wall.done', { done: numeral(sent.placed), all: numeral(sent.all) })
    write.setAttribute('aria-label', phrase('wall.noteTo', { name: sent.name }))
    bar.max = Math.max(1, sent.all)
    bar.value = Math.min(sent.placed, sent.all)
    bar.setAttribute('aria-label', state.textContent)
    hitch.textContent = sent.hitch ?? ''
    hitch.hidden = sent.hitch === null
    element.classList.toggle('stuck', sent.hitch !== null)
    element.classList.toggle('handed', sent.handedAt !== null)
    if (!isSeen) {
      isDrawn = false
      return
    }
    if (drawn.size === 0) build()
    for (const [number, redraw] of drawn) {
      if (sent.work) redraw(withoutMissed(paneOf({ panes: frames }, sent.work, number), sent.handedAt !== null))
    }
    isDrawn = true
  }
  draw()

  return {
    element,
    sent: () => sent,
    /** @param {TileSent} next */
    take(next) {
      sent = { ...next, work: next.work ?? sent.work }
      draw()
    },
    /** @param {boolean} isInSight */
    see(isInSight) {
      isSeen = isInSight
      if (isSeen && !isDrawn) draw()
    },
    rebuild() {
      drawn = new Map()
      isDrawn = false
      if (isSeen) draw()
    },
  }
}

/** What is still open counts as missed only when it is handed in. @param {PaneView} pane @param {boolean} isHanded @returns {PaneView} */
const withoutMissed = (pane, isHanded) =>
  isHanded || !pane.marks
    ? pane
    : {
        ...pane,
        marks: {
          ...pane.marks,
          zones: pane.marks.zones.filter(({ state }) => state !== 'missed'),
          others: pane.marks.others.filter(({ state }) => state !== 'missed'),
        },
      }
