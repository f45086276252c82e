// The wall: a tile for each student, drawn by the same scene as the student's screen, and kept as it is by the server's events.

import { numeral, phrase } from '../language.js'
import { followed } from '../feed.js'
import { post } from '../http.js'
import { createTile } from './tile.js'

/**
 * @typedef {object} TileSent
 * @property {number} id Of the attempt.
 * @property {string} name
 * @property {number} revision
 * @property {number} placed
 * @property {number} all
 * @property {string} movedAt
 * @property {string | null} handedAt
 * @property {string | null} hitch
 * @property {WorkView | null} work Null where it has not changed.
 */

/** @param {string} id */
const part = id => /** @type {HTMLElement} */ (document.getElementById(id))
const wall = part('wall')
const { feed = '', pause = '', tell = '', results } = wall.dataset

/** @type {Map<number, ReturnType<typeof createTile>>} */
const tiles = new Map()
/** What stays the same of a revision's panes. @type {Map<number, PaneFrame[]>} */
const frames = new Map()
let isPaused = false

const chosen = {
  order: () => /** @type {HTMLSelectElement} */ (part('order')).value,
  pane: () => /** @type {HTMLSelectElement | null} */ (document.getElementById('pane'))?.value ?? '0',
}

// Only what is in sight is drawn.
const sight = new IntersectionObserver(
  entries => {
    for (const { target, isIntersecting } of entries) tiles.get(Number(/** @type {HTMLElement} */ (target).dataset.id))?.see(isIntersecting)
  },
  { rootMargin: '200px' },
)

// On paper all are in sight.
addEventListener('beforeprint', () => {
  for (const tile of tiles.values()) tile.see(true)
})

followed(feed, takeAll, () => {
  part('trouble').textContent = phrase('wall.lineLost')
  part('trouble').hidden = false
})

/** @param {string} data What has changed, as JSON. */
function takeAll(data) {
  const sent = JSON.parse(data)
  part('trouble').hidden = true
  for (const [revision, panes] of Object.entries(sent.frames)) frames.set(Number(revision), /** @type {PaneFrame[]} */ (panes))
  for (const tile of /** @type {TileSent[]} */ (sent.tiles)) take(tile)
  for (const id of sent.left) {
    tiles.get(id)?.element.remove()
    tiles.delete(id)
  }
  isPaused = sent.isPaused
  drawFrame()
}

/** @param {TileSent} sent */
function take(sent) {
  const known = tiles.get(sent.id)
  if (known) return known.take(sent)
  const tile = createTile(sent, frames.get(sent.revision) ?? [], {
    results,
    pane: chosen.pane,
    note: () => openNote(sent.id, sent.name),
    async point(pane, at) {
      if (!(/** @type {HTMLInputElement} */ (part('pointing')).checked)) return false
      const answer = await post(`${tell}&attempt=${sent.id}&pane=${pane}&x=${at.x.toFixed(1)}&y=${at.y.toFixed(1)}`, {})
      if (!answer.ok) say(answer.sentence)
      return answer.ok
    },
  })
  tiles.set(sent.id, tile)
  sight.observe(tile.element)
}

/** @param {string} sentence */
function say(sentence) {
  part('trouble').textContent = sentence
  part('trouble').hidden = false
}

/** The counts, the order and the pause. */
function drawFrame() {
  const all = [...tiles.values()]
  const count = (/** @type {(tile: TileSent) => boolean} */ is) => all.filter(tile => is(tile.sent())).length
  part('sum').textContent = phrase('wall.sum', {
    working: numeral(count(tile => !tile.handedAt)),
    done: numeral(count(tile => tile.handedAt !== null)),
    stuck: numeral(count(tile => tile.hitch !== null)),
  })
  part('empty').hidden = all.length > 0
  part('pause').textContent = phrase(isPaused ? 'wall.goOn' : 'wall.pause')
  wall.classList.toggle('paused', isPaused)
  const collator = new Intl.Collator(document.documentElement.lang)
  const byName = (/** @type {TileSent} */ a, /** @type {TileSent} */ b) => collator.compare(a.name, b.name)
  /** @type {Record<string, (a: TileSent, b: TileSent) => number>} */
  const orders = {
    name: byName,
    progress: (a, b) => a.placed / a.all - b.placed / b.all || byName(a, b),
    stuck: (a, b) => Number(b.hitch !== null) - Number(a.hitch !== null) || a.movedAt.localeCompare(b.movedAt) || byName(a, b),
  }
  const sorted = [...all].sort((a, b) => orders[chosen.order()](a.sent(), b.sent())).map(tile => tile.element)
  // Tiles are moved only where their order has changed: what is looked at stays.
  const list = part('tiles')
  sorted.forEach((element, i) => {
    if (list.children[i] !== element) list.insertBefore(element, list.children[i] ?? null)
  })
}

part('order').addEventListener('change', drawFrame)
document.getElementById('pane')?.addEventListener('change', () => {
  for (const tile of tiles.values()) tile.rebuild()
})
for (const id of ['names', 'verdicts', 'texts'])
  part(id).addEventListener('change', event =>
    wall.classList.toggle(`without-${id}`, !(/** @type {HTMLInputElement} */ (event.target).checked)),
  )
part('pointing').addEventListener('change', event =>
  wall.classList.toggle('is-pointing', /** @type {HTMLInputElement} */ (event.target).checked),
)
part('pause').addEventListener('click', async () => {
  const answer = await post(`${pause}&on=${!isPaused}`, {})
  if (!answer.ok) say(answer.sentence)
})
part('note').addEventListener('click', () => openNote(null, ''))

/** @param {number | null} attempt Null for everybody. @param {string} name */
function openNote(attempt, name) {
  const dialog = /** @type {HTMLDialogElement} */ (part('note-dialog'))
  const text = /** @type {HTMLTextAreaElement} */ (part('note-text'))
  part('note-to').textContent = attempt === null ? phrase('wall.noteToAll') : phrase('wall.noteTo', { name })
  part('note-problem').hidden = true
  text.value = ''
  dialog.onclose = null
  dialog.onsubmit = async event => {
    const { value } = /** @type {HTMLButtonElement} */ (/** @type {SubmitEvent} */ (event).submitter)
    if (value !== 'send') return
    event.preventDefault()
    const query = new URLSearchParams({ text: text.value, ...(attempt === null ? {} : { attempt: String(attempt) }) })
    const answer = await post(`${tell}&${query}`, {})
    if (answer.ok) return dialog.close()
    part('note-problem').textContent = answer.sentence
    part('note-problem').hidden = false
  }
  dialog.showModal()
  text.focus()
}
