// One student's pictures with their marks, to be marked by a person: a click on a picture makes a comment on that spot.

import { followed } from '../feed.js'
import { get } from '../http.js'
import { createBoard } from '../scene/board.js'
import { createSpoken } from '../scene/spoken.js'
import { createSpots } from '../scene/spots.js'
import { createStage } from '../scene/stage.js'
import { showPiece } from '../student/piece.js'
import { createMatching } from '../student/matching.js'
import { holdablesOf, paneOf, pinnedOf } from '../student/work.js'

const panes = document.getElementById('panes')
const list = document.getElementById('spots')
/** The drawings of spots that were spoken of, by pane. @type {Map<number, () => void>} */
const drawings = new Map()

/** Draws each pane anew. @type {((pane: PaneView) => void)[]} */
const redraws = []

if (panes) {
  const view = /** @type {StudentView} */ (JSON.parse(panes.dataset.view ?? ''))
  view.panes.forEach((_, i) => panes.append(...drawn(paneOf(view, view.work, i), i)))
  for (const control of panes.querySelectorAll('button, input, textarea')) /** @type {HTMLElement} */ (control).tabIndex = -1
}

const slider = /** @type {HTMLInputElement | null} */ (document.getElementById('move'))
let asked = 0
slider?.addEventListener('input', step)

/** Shows the work as it was after the move that the slider stands at, or as it is now. */
async function step() {
  if (!panes || !slider) return
  const { moves = '', now = '' } = /** @type {HTMLElement} */ (document.getElementById('moves')).dataset
  const steps = /** @type {{number: number, words: string}[]} */ (JSON.parse(moves))
  const view = /** @type {StudentView} */ (JSON.parse(panes.dataset.view ?? ''))
  const number = Number(slider.value)
  const isNow = number === steps.length
  const output = /** @type {HTMLElement} */ (document.getElementById('move-said'))
  output.textContent = isNow ? now : number === 0 ? '0' : (steps[number - 1]?.words ?? '')
  const turn = ++asked
  const answer = isNow
    ? { ok: true, body: view.work }
    : await get(`?handler=After&moves=${number === 0 ? 0 : (steps[number - 1]?.number ?? 0)}`)
  // A later step may have been answered before.
  if (answer.ok && turn === asked) view.panes.forEach((_, i) => redraws[i]?.(paneOf(view, answer.body, i)))
}

if (panes?.dataset.live) follow(panes.dataset.live)

/** Takes over what the student does, while it is done. @param {string} url */
function follow(url) {
  let [isFirst, isBusy, isLate] = [true, false, false]
  followed(url, async () => {
    // The first tells of what the page shows already.
    if (isFirst) return void (isFirst = false)
    if (isBusy) return void (isLate = true)
    isBusy = true
    do {
      isLate = false
      await takeOver()
    } while (isLate)
    isBusy = false
  })

  async function takeOver() {
    const answer = await fetch(location.href, { credentials: 'same-origin' })
    if (!answer.ok) return
    const page = new DOMParser().parseFromString(await answer.text(), 'text/html')
    const fresh = /** @type {HTMLElement | null} */ (page.getElementById('panes'))
    // Handed in, it is marked: the page has other things then.
    if (!fresh?.dataset.live) return location.reload()
    if (!panes || !slider) return
    const wasNow = slider.value === slider.max
    panes.dataset.view = fresh.dataset.view
    for (const id of ['state', 'rows']) document.getElementById(id)?.replaceChildren(...(page.getElementById(id)?.childNodes ?? []))
    const moves = /** @type {HTMLElement} */ (page.getElementById('moves'))
    Object.assign(/** @type {HTMLElement} */ (document.getElementById('moves')).dataset, moves.dataset)
    slider.max = /** @type {HTMLInputElement} */ (page.getElementById('move')).max
    if (!wasNow) return
    slider.value = slider.max
    await step()
  }
}

/** @param {PaneView} pane @param {number} index @returns {HTMLElement[]} */
function drawn(pane, index) {
  const parts = []
  const made = pane.targets.find(target => target.kind === 'making')
  if (made?.kind === 'making') {
    const box = document.createElement('div')
    parts.push(box)
    redraws[index] = now => {
      const own = /** @type {OwnWork | null} */ (now.done.find(done => done.target === made.id)?.own ?? null)
      const stage = showPiece(box, {
        own: own ?? { picture: null, spots: [] },
        given: made.whose === 'teacher' ? pane.picture : null,
        questions: made.questions,
      })
      if (stage) hear(stage, now, index)
    }
    // It is measured once it is on the page.
    requestAnimationFrame(() => redraws[index](pane))
  } else if (pane.picture) {
    const mat = document.createElement('div')
    mat.className = 'mat'
    parts.push(mat)
    // The mat has its size once it is on the page.
    requestAnimationFrame(() => {
      if (!pane.picture) return
      const stage = createStage(mat, pane.picture)
      const board = createBoard(stage, pane)
      const spots = createSpots(stage, { open() {}, hover() {}, type() {} })
      redraws[index] = now => {
        board.draw(now, { pinned: pinnedOf(now), holdables: holdablesOf(now) })
        spots.draw(now, false)
      }
      redraws[index](pane)
      hear(stage, pane, index)
    })
  }
  if (pane.targets.some(target => target.kind === 'linking')) {
    const panel = document.createElement('div')
    panel.className = 'matchings'
    parts.push(panel)
    let shown = pane
    const matching = createMatching(panel, { pane: () => shown, make() {}, say() {} })
    const others = redraws[index]
    redraws[index] = now => {
      others?.(now)
      shown = now
      matching.draw()
    }
    redraws[index](pane)
  }
  return parts
}

/**
 * What was said of spots stands on them, and a click says more.
 * @param {import('../scene/stage.js').Stage} stage
 * @param {PaneView} pane
 * @param {number} index
 */
function hear(stage, pane, index) {
  const spoken = createSpoken(stage)
  const said = (pane.feedback?.remarks ?? []).flatMap(({ at }) => (at ? [at] : []))
  drawings.set(index, () => spoken([...said, ...begun(index)].map((at, i) => ({ at, number: i + 1 }))))
  drawings.get(index)?.()
  if (list)
    stage.element.addEventListener('click', event => {
      if (!(/** @type {Element} */ (event.target).closest('button'))) speakOf(index, stage.pointAt(event))
    })
}

/** Comments that are being written. @param {number} pane @returns {Point[]} */
const begun = pane =>
  [.../** @type {NodeListOf<HTMLElement>} */ (list?.querySelectorAll(`[data-pane="${pane}"]`) ?? [])].map(({ dataset }) => ({
    x: Number(dataset.x),
    y: Number(dataset.y),
  }))

/** @param {number} pane @param {Point} at */
function speakOf(pane, at) {
  const [x, y] = [at.x, at.y].map(number => Math.round(number * 10) / 10)
  const item = document.createElement('li')
  Object.assign(item.dataset, { pane, x, y })
  const field = document.createElement('textarea')
  Object.assign(field, {
    className: 'form-control form-control-sm',
    rows: 2,
    name: `Comments[${pane}@${x},${y}]`,
    dir: 'auto',
    maxLength: 4000,
  })
  field.setAttribute('aria-label', list?.dataset.label ?? '')
  field.placeholder = list?.dataset.label ?? ''
  // One that nothing is written in goes again.
  field.addEventListener('blur', () => {
    if (field.value.trim()) return
    item.remove()
    drawings.get(pane)?.()
  })
  item.append(field)
  list?.append(item)
  drawings.get(pane)?.()
  field.focus()
}

// From student to student with one key, where nothing is being written.
addEventListener('keydown', event => {
  if (event.altKey || event.ctrlKey || event.metaKey || /** @type {Element} */ (event.target).matches('input, textarea, select')) return
  const link = { j: 'next', k: 'prev' }[event.key]
  if (link) /** @type {HTMLAnchorElement | null} */ (document.querySelector(`a[rel=${link}]`))?.click()
})
// And within a field by the keys that send a form.
document.getElementById('marking')?.addEventListener('keydown', event => {
  const form = /** @type {HTMLFormElement} */ (event.currentTarget)
  if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
    event.preventDefault()
    form.requestSubmit(/** @type {HTMLButtonElement | null} */ (form.querySelector('.mark-acts button')))
  }
})
