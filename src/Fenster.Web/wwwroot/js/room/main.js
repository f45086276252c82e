// The picture room: get a picture, make it ready, hang it in the activity.

import { phrase } from '../language.js'
import { post } from '../http.js'
import { listenForBoards } from './board.js'
import { burn, colourBeside } from './burn.js'
import { createEasel } from './easel.js'
import { createFixings } from './fixings.js'
import {
  cropped,
  freshWork,
  isUntouched,
  kept,
  nameOf,
  pixelsAcross,
  prepared,
  qualityOf,
  quarterTurned,
  unturned,
  whole,
  workOf,
} from './preparation.js'
import { createLibrary } from './library.js'
import { createShelf } from './shelf.js'
import { wordsOf } from '../workbench/upload.js'

/** @typedef {import('./preparation.js').Work} Work */

const room = document.getElementById('room')
if (room) start(room)

/** @typedef {'left' | 'top' | 'right' | 'bottom'} Side */

/**
 * @param {import('./preparation.js').Preparation} p
 * @returns {Record<Side, number>} What is cut off on each side, in percent of all of it.
 */
function cutOf(p) {
  const [box, all] = [kept(p), whole(p)]
  const [width, height] = [(all.right - all.left) / 100, (all.bottom - all.top) / 100]
  return {
    left: (box.left - all.left) / width,
    top: (box.top - all.top) / height,
    right: (all.right - box.right) / width,
    bottom: (all.bottom - box.bottom) / height,
  }
}

/** @param {HTMLElement} room */
function start(room) {
  /** @template {HTMLElement} T @param {string} id @returns {T} */
  const part = id => /** @type {T} */ (document.getElementById(id))
  const data = room.dataset
  /** @type {(id: string) => HTMLInputElement} */
  const input = part
  const hung = JSON.parse(data.picture ?? 'null')
  let version = Number(data.version)
  /** @type {Work[]} */
  let past = []
  /** @type {Work[]} */
  let future = []
  /** @type {Work | null} */
  let work = hung ? workOf(hung) : null
  /** @type {number | null} */
  let selected = null
  /** The board on the easel, and what it was drawn to. @type {{hash: string, wish: object} | null} */
  let board = null
  const say = (/** @type {string} */ sentence) => {
    part('say').textContent = sentence
  }
  const complain = (/** @type {string} */ sentence) => {
    part('problem').textContent = sentence
    part('problem').hidden = sentence === ''
  }

  const easel = createEasel(part('mat'), {
    work: () => /** @type {Work} */ (work),
    tool: () => input('tool').value,
    selected: () => selected,
    select(index) {
      selected = index
      draw()
    },
    drag: (from, to) => make(from, to),
    changed: next => change(next),
  })
  const fixings = createFixings({
    list: part('fixings'),
    none: part('no-fixings'),
    work: () => /** @type {Work} */ (work),
    selected: () => selected,
    select(index) {
      selected = index
      draw()
    },
    changed: next => change(next),
  })

  const draw = () => {
    for (const id of ['mat', 'says', 'preparing']) part(id).hidden = !work
    part('get').hidden = work !== null
    const steps = { undo: past, redo: future }
    for (const [id, stack] of Object.entries(steps)) {
      const button = /** @type {HTMLButtonElement} */ (part(id))
      button.disabled = stack.length === 0
    }
    ;/** @type {HTMLButtonElement} */ (part('use')).disabled = !work
    if (!work) return
    const { preparation: p, margins } = work
    easel.draw(work)
    part('quality').textContent = qualityOf(pixelsAcross(p))
    part('quality').classList.toggle('quality-poor', pixelsAcross(p) < 640)
    const fine = Math.round((p.turn - Math.round(p.turn / 90) * 90) * 10) / 10
    setValue(input('fine'), String(fine))
    part('fine-says').textContent = `${fine}°`
    part('whole').hidden = p.crop === null
    setValue(input('paper'), p.paper)
    for (const side of cuts) setValue(side, String(Math.round(cutOf(p)[/** @type {Side} */ (side.dataset.cut)])))
    for (const side of sides) setValue(side, String(Math.round(margins[/** @type {'left'} */ (side.dataset.side)] / 10)))
    setValue(input('alt-text'), work.altText)
    setValue(input('credit'), work.credit)
    fixings.draw()
  }
  /** @param {HTMLInputElement} field @param {string} value */
  const setValue = (field, value) => {
    if (field !== document.activeElement || field.type === 'range') field.value = value
  }
  const sides = /** @type {HTMLInputElement[]} */ ([...room.querySelectorAll('[data-side]')])
  const cuts = /** @type {HTMLInputElement[]} */ ([...room.querySelectorAll('[data-cut]')])

  /** @param {Work} next @param {boolean} [asOne] Whether the step before it is forgotten, as while a slider moves. */
  function change(next, asOne = false) {
    if (next === work) return draw()
    if (work && !asOne) past.push(work)
    future = []
    work = next
    if (selected !== null && selected >= next.preparation.fixings.length) selected = null
    draw()
  }
  /** @param {Work[]} from @param {Work[]} to */
  const step = (from, to) => {
    const next = from.pop()
    if (!next || !work) return
    to.push(work)
    work = next
    selected = null
    draw()
  }
  part('undo').addEventListener('click', () => step(past, future))
  part('redo').addEventListener('click', () => step(future, past))

  /** Makes what the tool makes, from a drag on the turned picture. @param {Point} from @param {Point} to */
  async function make(from, to) {
    if (!work) return
    const p = work.preparation
    const tool = input('tool').value
    const box = { left: Math.min(from.x, to.x), top: Math.min(from.y, to.y), right: Math.max(from.x, to.x), bottom: Math.max(from.y, to.y) }
    const isClick = box.right - box.left < 4 && box.bottom - box.top < 4
    if (tool === 'caption') {
      add({
        kind: 'caption',
        at: unturned(p, from),
        text: phrase('room.caption'),
        size: (kept(p).right - kept(p).left) / 28,
        colour: '#20242c',
      })
      part('fixings').querySelector('li:last-child .caption-text')?.dispatchEvent(new Event('wanted'))
      return
    }
    if (isClick) return
    if (tool === 'crop') {
      change(cropped(work, box))
      say(phrase('room.theRestIsCutOffKeep'))
      return
    }
    if (tool === 'line' || tool === 'arrow') {
      add({ kind: 'line', from: unturned(p, from), to: unturned(p, to), isArrow: tool === 'arrow', colour: '#20242c' })
      return
    }
    // On a turned picture a patch lies along the picture: the smallest one that covers the drag.
    const corners = [
      { x: box.left, y: box.top },
      { x: box.right, y: box.top },
      { x: box.right, y: box.bottom },
      { x: box.left, y: box.bottom },
    ].map(corner => unturned(p, corner))
    const [xs, ys] = [corners.map(c => c.x), corners.map(c => c.y)]
    const area = {
      x: Math.min(...xs),
      y: Math.min(...ys),
      width: Math.max(...xs) - Math.min(...xs),
      height: Math.max(...ys) - Math.min(...ys),
    }
    if (tool === 'box') add({ kind: 'box', ...area, colour: '#20242c' })
    else add({ kind: 'cover', ...area, colour: await colourBeside(p, area) })
  }

  /** @param {import('./preparation.js').Fixing} fixing */
  function add(fixing) {
    if (!work) return
    selected = work.preparation.fixings.length
    change(prepared(work, { fixings: [...work.preparation.fixings, fixing] }))
    say(`${nameOf(fixing)} added.`)
  }

  part('by-key').addEventListener('click', async () => {
    if (!work) return
    // A cut is typed.
    if (input('tool').value === 'crop') return cuts[0].focus()
    const box = kept(work.preparation)
    const [w, h] = [box.right - box.left, box.bottom - box.top]
    await make({ x: box.left + w * 0.42, y: box.top + h * 0.45 }, { x: box.left + w * 0.58, y: box.top + h * 0.55 })
    const line = part('fixings').lastElementChild
    const name = /** @type {HTMLElement | null} */ (line?.querySelector('.fixing-name') ?? null)
    name?.focus()
  })

  part('whole').addEventListener('click', () => {
    if (work) change(prepared(work, { crop: null }))
  })
  part('turn-left').addEventListener('click', () => {
    if (work) change(quarterTurned(work, -1))
  })
  part('turn-right').addEventListener('click', () => {
    if (work) change(quarterTurned(work, 1))
  })
  let isSliding = false
  input('fine').addEventListener('input', () => {
    if (!work) return
    const turn = Math.round(work.preparation.turn / 90) * 90 + Number(input('fine').value)
    change(prepared(work, { turn }), isSliding)
    isSliding = true
  })
  input('fine').addEventListener('change', () => {
    isSliding = false
  })
  for (const side of sides) {
    side.addEventListener('change', () => {
      const share = Math.min(100, Math.max(0, Number(side.value) || 0))
      side.value = String(share)
      if (work) change({ ...work, margins: { ...work.margins, [side.dataset.side ?? '']: share * 10 } })
    })
  }
  for (const side of cuts) {
    side.addEventListener('change', () => {
      if (!work) return
      const { preparation: p } = work
      const all = whole(p)
      const share = Math.min(95, Math.max(0, Number(side.value) || 0)) / 100
      const at = {
        left: all.left + share * (all.right - all.left),
        top: all.top + share * (all.bottom - all.top),
        right: all.right - share * (all.right - all.left),
        bottom: all.bottom - share * (all.bottom - all.top),
      }
      const name = /** @type {Side} */ (side.dataset.cut)
      const box = { ...kept(p), [name]: at[name] }
      change(box.right > box.left && box.bottom > box.top ? cropped(work, box) : work)
    })
  }
  for (const button of /** @type {NodeListOf<HTMLButtonElement>} */ (room.querySelectorAll('[data-zoom]'))) {
    button.addEventListener('click', () => easel.zoomTo(Number(button.dataset.zoom) * easel.zoom()))
  }
  input('tool').addEventListener('change', () => {
    selected = null
    draw()
  })
  input('paper').addEventListener('change', () => {
    if (work) change(prepared(work, { paper: input('paper').value }))
  })
  input('alt-text').addEventListener('change', () => {
    if (work) change({ ...work, altText: input('alt-text').value.trim() })
  })
  input('credit').addEventListener('change', () => {
    if (work) change({ ...work, credit: input('credit').value.trim() })
  })

  const shelf = createShelf({
    list: part('shelf'),
    empty: part('shelf-empty'),
    arrivals: part('arrivals'),
    pictures: JSON.parse(data.shelf ?? '[]'),
    mostBytes: Number(data.mostBytes),
    pdf: data.pdf ?? '',
    forgetUrl: `/activities/${data.activity}/picture?handler=Forget`,
    pages: { dialog: part('pages'), list: part('page-list'), take: part('pages-take'), cancel: part('pages-cancel') },
    choose: putOnEasel,
  })
  /** @param {any} picture One that came from the server and is on the shelf now. */
  const takeNew = picture => {
    shelf.put(picture)
    putOnEasel(picture)
  }
  listenForBoards(
    /** @type {HTMLFormElement} */ (document.getElementById('board')),
    `/activities/${data.activity}/picture`,
    takeNew,
    complain,
  )
  createLibrary({
    words: input('words'),
    list: part('library'),
    found: part('found'),
    url: `/activities/${data.activity}/picture`,
    drawings: data.library ?? '',
    complain,
    choose: takeNew,
  })
  /** @param {import('./shelf.js').ShelfPicture & {altText?: string, credit?: string}} picture */
  function putOnEasel(picture) {
    selected = null
    board = picture.board ? { hash: picture.hash, wish: picture.board } : null
    change({ ...freshWork(picture), altText: picture.altText ?? '', credit: picture.credit ?? '' })
    say(phrase('room.onEasel', { name: picture.name }))
  }
  /** What arrived together, for a pane or a label each. @type {import('./shelf.js').ShelfPicture[]} */
  let together = []
  for (const button of /** @type {NodeListOf<HTMLButtonElement>} */ (room.querySelectorAll('[data-each]'))) {
    button.addEventListener('click', async () => {
      button.disabled = true
      const answer = await post(`/activities/${data.activity}/picture?handler=${button.dataset.each}`, {
        version,
        pane: Number(data.pane),
        pictures: together.map(picture => picture.hash),
        names: together.map(picture => wordsOf(picture.name)),
      })
      button.disabled = false
      if (!answer.ok) return complain(answer.sentence)
      past = []
      location.href = `/activities/${data.activity}#pane=${Number(data.pane) + 1}`
    })
  }
  /** @param {File[]} files */
  const take = async files => {
    const arrived = await shelf.take(files)
    if (arrived.length > 0) putOnEasel(arrived[0])
    part('each').hidden = arrived.length < 2
    part('each-says').textContent = phrase('room.arrived', { count: arrived.length })
    together = arrived
  }
  for (const chooser of /** @type {NodeListOf<HTMLInputElement>} */ (room.querySelectorAll('.choose'))) {
    chooser.addEventListener('change', () => {
      const files = [...(chooser.files ?? [])]
      chooser.value = ''
      take(files)
    })
  }
  document.addEventListener('paste', event => {
    const files = [...(event.clipboardData?.files ?? [])]
    if (files.length === 0) return
    event.preventDefault()
    take(files)
  })
  document.addEventListener('dragover', event => {
    event.preventDefault()
    room.classList.add('dropping')
  })
  document.addEventListener('dragleave', event => {
    if (!event.relatedTarget) room.classList.remove('dropping')
  })
  document.addEventListener('drop', event => {
    event.preventDefault()
    room.classList.remove('dropping')
    take([...(event.dataTransfer?.files ?? [])])
  })
  document.addEventListener('keydown', event => {
    if (
      !(event.ctrlKey || event.metaKey) ||
      /** @type {Element} */ (event.target).matches('input[type=text], input:not([type]), .form-control')
    )
      return
    const key = event.key.toLowerCase()
    if (key === 'z') step(event.shiftKey ? future : past, event.shiftKey ? past : future)
    else if (key === 'y') step(future, past)
    else return
    event.preventDefault()
  })
  // What is not hung yet would be lost with the page.
  addEventListener('beforeunload', event => {
    if (past.length > 0) event.preventDefault()
  })

  part('use').addEventListener('click', async () => {
    if (!work) return
    const button = /** @type {HTMLButtonElement} */ (part('use'))
    button.disabled = true
    button.textContent = phrase('room.gettingItReady')
    complain('')
    try {
      await hang(work)
      past = []
      location.href = `/activities/${data.activity}#pane=${Number(data.pane) + 1}`
    } catch (error) {
      complain(error instanceof Error ? error.message : String(error))
      button.disabled = false
      button.textContent = phrase('room.useThisPicture')
    }
  })

  /** @param {Work} work */
  async function hang(work) {
    const { preparation, margins, altText, credit } = work
    const hasMargins = Object.values(margins).some(side => side > 0)
    let media = preparation.source
    if (!isUntouched(preparation) || hasMargins) {
      const answer = await post('/pictures', await burn(work))
      if (!answer.ok) throw new Error(answer.sentence)
      media = answer.body.hash
    }
    const picture = { media, width: 1, height: 1, altText, credit, margins, preparation: media === preparation.source ? null : preparation }
    const answer = await post(`/activities/${data.activity}/picture?handler=Hang`, {
      version,
      picture,
      pane: Number(data.pane),
      board: board && media === board.hash ? board.wish : null,
    })
    if (!answer.ok) throw new Error(answer.sentence)
    version = answer.body.version
  }
  draw()
}
