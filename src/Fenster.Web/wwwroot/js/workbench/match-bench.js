// The bench of what is matched, where a picture would be: two columns of cards as students get them, ribbons between them, typed and
// linked right there.

import { phrase } from '../language.js'
import { faceOf, play } from '../scene/face.js'
import { ribbonPath, svg } from '../scene/shapes.js'
import { limits } from '../usual.js'
import { toggledLink, withFaces, withNewPair, withOneMore, withRows, withText, withoutItem } from './kinds/matching.js'
import { withTarget } from './pane.js'

/**
 * @typedef {PartOf<'matching'>} Matching
 * @typedef {'left' | 'right'} Side
 * @typedef {{target: string, side: Side, id: string}} Spot Of a card.
 * @typedef {{line: HTMLElement, input: HTMLTextAreaElement, face: HTMLElement, link: HTMLButtonElement}} Card
 */

/** @type {Side[]} */
const sides = ['left', 'right']

/** @param {Side} side @returns {Side} */
const across = side => (side === 'left' ? 'right' : 'left')

/**
 * @param {import('./desk.js').Desk} desk
 * @param {(files: File[]) => Promise<{face: Face, name: string}[]>} takeFaces Stores files, and says of each that can't be taken why.
 * @returns {import('./desk.js').Part}
 */
export function matchBenchPart(desk, takeFaces) {
  const { pane, change, announce } = desk
  /** Cards stay the elements that they are, so that whoever types in one keeps the cursor. @type {Map<string, Card>} */
  const cards = new Map()
  /** The card whose partner is to be chosen. @type {Spot | null} */
  let waiting = null
  const box = () => /** @type {HTMLElement} */ (document.getElementById('match-bench'))
  const matchings = () => /** @type {Matching[]} */ (pane().targets.filter(target => target.kind === 'matching'))
  /** @param {string} id @returns {Matching} */
  const found = id => /** @type {Matching} */ (matchings().find(target => target.id === id))
  /** @param {Matching} target @param {string | null} [step] */
  const put = (target, step = null) => change(withTarget(pane(), target), step)
  /** @param {Spot} spot */
  const keyOf = ({ target, side, id }) => `${target}/${side}/${id}`
  /** At once: what is typed on must not end in the card before. @param {Spot} spot */
  const focus = spot => cards.get(keyOf(spot))?.input.focus()

  /** @param {Matching} target @param {Side} side @param {string} id */
  const nameOf = (target, side, id) => target[side].find(item => item.id === id)?.text || phrase('bench.cardWithoutWords')

  /** @param {Spot} spot */
  function link(spot) {
    const target = found(spot.target)
    if (!waiting || waiting.target !== spot.target || waiting.side === spot.side) {
      const isSame = waiting !== null && keyOf(waiting) === keyOf(spot)
      waiting = isSame ? null : spot
      if (waiting) announce(phrase('matching.chosen', { card: nameOf(target, spot.side, spot.id) }))
      show()
      return
    }
    join(spot.side === 'right' ? waiting.id : spot.id, spot.side === 'right' ? spot.id : waiting.id, target)
  }

  /** @param {string} left @param {string} right @param {Matching} target */
  function join(left, right, target) {
    waiting = null
    const isThere = target.pairs.some(pair => pair.left === left && pair.right === right)
    put(toggledLink(target, left, right))
    const names = { left: nameOf(target, 'left', left), right: nameOf(target, 'right', right) }
    announce(phrase(isThere ? 'matching.parted' : 'matching.matched', names))
    show()
  }

  /** Enter goes on as one would type: to the partner, then to the next pair, and at the end to a new one. @param {Spot} spot */
  function goOn({ target: name, side, id }) {
    const target = found(name)
    const partner = target.pairs.find(pair => pair[side] === id)?.[across(side)]
    if (side === 'left' && partner) return focus({ target: name, side: 'right', id: partner })
    const at = target.pairs.findIndex(pair => pair[side] === id)
    const next = target.pairs[at + 1]
    if (next) return focus({ target: name, side: 'left', id: next.left })
    const more = withNewPair(target)
    put(more.target)
    focus({ target: name, side: 'left', id: more.left })
  }

  /** @param {Spot} spot @param {ClipboardEvent} event */
  function paste(spot, event) {
    const lines = (event.clipboardData?.getData('text/plain') ?? '').replace(/\r?\n$/, '').split(/\r?\n/)
    const rows = lines.map(line => line.split('\t').map(cell => cell.trim()))
    if (rows.length === 1 && rows[0].length === 1) return
    event.preventDefault()
    const most = limits.mostMatched - found(spot.target).pairs.length
    if (rows.length > most) {
      desk.state().problem = phrase('bench.manyPairs', { lines: rows.length, most: limits.mostMatched })
      return
    }
    put(withRows(found(spot.target), spot.side, spot.id, rows))
    announce(phrase('bench.pairsPasted', { count: rows.length }))
  }

  /** @param {Spot} spot From which card on they are taken up; of an empty id from the first that is empty. @param {File[]} files */
  async function fill(spot, files) {
    const faces = await takeFaces(files)
    if (faces.length > 0) put(withFaces(found(spot.target), spot.side, spot.id, faces))
  }

  /** @param {Spot} spot @returns {Card} */
  function makeCard(spot) {
    const line = document.createElement('li')
    line.className = 'match-edit'
    Object.assign(line.dataset, { side: spot.side, item: spot.id })
    const face = document.createElement('span')
    face.className = 'match-face'
    // It grows with its words, and holds one line of them.
    const input = document.createElement('textarea')
    Object.assign(input, { className: 'match-text', dir: 'auto', rows: 1, maxLength: limits.longestAnswer, autocomplete: 'off' })
    input.addEventListener('input', () =>
      put(withText(found(spot.target), spot.side, spot.id, input.value.replaceAll('\n', ' ')), `text ${keyOf(spot)}`),
    )
    input.addEventListener('keydown', event => {
      if (event.key !== 'Enter') return
      event.preventDefault()
      goOn(spot)
    })
    input.addEventListener('paste', event => paste(spot, event))
    const remove = document.createElement('button')
    Object.assign(remove, { type: 'button', className: 'btn btn-plain match-delete', title: phrase('common.delete') })
    remove.innerHTML = '<span class="icon icon-delete"></span>'
    remove.addEventListener('click', () => put(withoutItem(found(spot.target), spot.side, spot.id)))
    const handle = document.createElement('button')
    Object.assign(handle, { type: 'button', className: 'match-link' })
    handle.addEventListener('click', () => link(spot))
    handle.addEventListener('pointerdown', event => draw(spot, event))
    line.append(...(spot.side === 'left' ? [remove, face, input, handle] : [handle, face, input, remove]))
    return { line, input, face, link: handle }
  }

  /** A ribbon drawn from a card's handle to one on the other side. @param {Spot} spot @param {PointerEvent} start */
  function draw(spot, start) {
    const layer = /** @type {SVGElement} */ (box().querySelector(`[data-target="${spot.target}"] .ribbons`))
    const ribbon = svg('path', { class: 'ribbon ribbon-drawn' })
    const end = new AbortController()
    const frame = layer.getBoundingClientRect()
    const handle = /** @type {HTMLElement} */ (start.currentTarget).getBoundingClientRect()
    const from = { x: handle.left + handle.width / 2 - frame.left, y: handle.top + handle.height / 2 - frame.top }
    const listen = (/** @type {string} */ type, /** @type {(event: PointerEvent) => void} */ act) =>
      addEventListener(type, /** @type {EventListener} */ (act), { signal: end.signal })
    listen('pointermove', event => {
      if (Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) < 8) return
      layer.append(ribbon)
      ribbon.setAttribute('d', ribbonPath(from, { x: event.clientX - frame.left, y: event.clientY - frame.top }))
    })
    listen('pointerup', event => {
      end.abort()
      const wasDrawn = ribbon.isConnected
      ribbon.remove()
      const other = /** @type {HTMLElement | null} */ (document.elementFromPoint(event.clientX, event.clientY)?.closest('.match-edit'))
      const of = /** @type {HTMLElement | null | undefined} */ (other?.closest('[data-target]'))?.dataset.target
      if (!wasDrawn || !other || other.dataset.side === spot.side || of !== spot.target) return
      const [left, right] = spot.side === 'left' ? [spot.id, other.dataset.item ?? ''] : [other.dataset.item ?? '', spot.id]
      join(left, right, found(spot.target))
    })
    listen('pointercancel', () => {
      end.abort()
      ribbon.remove()
    })
  }

  /** @param {Matching} target @returns {HTMLElement} */
  function makeBench(target) {
    const section = document.createElement('section')
    section.className = 'matching'
    section.dataset.target = target.id
    const columns = document.createElement('div')
    columns.className = 'matching-columns'
    columns.append(
      svg('svg', { class: 'ribbons', 'aria-hidden': 'true' }),
      ...sides.map(side => {
        const column = document.createElement('div')
        column.className = 'match-column'
        column.dataset.side = side
        const list = document.createElement('ul')
        list.className = `matching-${side}`
        list.setAttribute('aria-label', phrase(side === 'left' ? 'bench.onTheLeft' : 'bench.onTheRight'))
        column.append(list, foot(target.id, side))
        return column
      }),
    )
    const pair = document.createElement('button')
    Object.assign(pair, { type: 'button', className: 'btn btn-outline-primary match-pair', textContent: phrase('bench.addAPair') })
    pair.addEventListener('click', () => {
      const more = withNewPair(found(target.id))
      put(more.target)
      focus({ target: target.id, side: 'left', id: more.left })
    })
    section.append(columns, pair)
    return section
  }

  /** What is added to one side. @param {string} target @param {Side} side */
  function foot(target, side) {
    const line = document.createElement('p')
    line.className = 'match-foot'
    const files = document.createElement('label')
    files.className = 'btn btn-plain btn-sm'
    const chosen = document.createElement('input')
    Object.assign(chosen, {
      type: 'file',
      multiple: true,
      className: 'visually-hidden',
      accept: 'image/*,.svg,audio/*,video/mp4,video/webm',
    })
    chosen.addEventListener('change', async () => {
      const all = [...(chosen.files ?? [])]
      chosen.value = ''
      await fill({ target, side, id: '' }, all)
    })
    files.innerHTML = '<span class="icon icon-add"></span> '
    files.append(phrase('bench.picturesOrSounds'), chosen)
    const more = document.createElement('button')
    Object.assign(more, { type: 'button', className: 'btn btn-plain btn-sm' })
    more.innerHTML = '<span class="icon icon-add"></span> '
    more.append(phrase('bench.oneWithoutPartner'))
    more.addEventListener('click', () => {
      const { target: changed, id } = withOneMore(found(target), side)
      put(changed)
      focus({ target, side, id })
    })
    line.append(files, more)
    return line
  }

  function show() {
    const targets = matchings()
    const state = desk.state()
    state.isMatched = targets.length > 0
    state.matchClass = pane().picture ? 'match-below' : ''
    const bench = box()
    if (waiting && !targets.some(target => target.id === waiting?.target && target[waiting.side].some(item => item.id === waiting?.id)))
      waiting = null
    for (const old of /** @type {NodeListOf<HTMLElement>} */ (bench.querySelectorAll('.matching')))
      if (!targets.some(target => target.id === old.dataset.target)) old.remove()
    for (const target of targets) {
      const section = bench.querySelector(`[data-target="${target.id}"]`) ?? bench.appendChild(makeBench(target))
      for (const side of sides) showColumn(target, side, /** @type {HTMLElement} */ (section.querySelector(`ul.matching-${side}`)))
    }
    for (const [key, card] of cards) if (!card.line.isConnected) cards.delete(key)
    requestAnimationFrame(ribbons)
  }

  /** @param {Matching} target @param {Side} side @param {HTMLElement} list */
  function showColumn(target, side, list) {
    const lines = inOrder(target, side).map(item => {
      const spot = { target: target.id, side, id: item.id }
      const card = cards.get(keyOf(spot)) ?? makeCard(spot)
      cards.set(keyOf(spot), card)
      const isLinked = target.pairs.some(pair => pair[side] === item.id)
      const name = nameOf(target, side, item.id)
      if (card.input.value !== item.text) card.input.value = item.text
      card.input.placeholder = phrase(item.face ? 'bench.whatItShowsOrSays' : isLinked ? 'bench.textHint' : 'bench.withoutPartner')
      card.input.setAttribute('aria-label', phrase(side === 'left' ? 'bench.cardOnTheLeft' : 'bench.cardOnTheRight', { card: name }))
      card.link.setAttribute('aria-label', phrase('bench.linkCard', { card: name }))
      card.link.setAttribute('aria-pressed', String(waiting !== null && keyOf(waiting) === keyOf(spot)))
      card.line.querySelector('.match-delete')?.setAttribute('aria-label', phrase('bench.deleteNamed', { row: name }))
      card.line.classList.toggle('matched', isLinked)
      showFace(card.face, item)
      return card.line
    })
    if (lines.length !== list.childElementCount || lines.some((line, i) => list.children[i] !== line)) list.replaceChildren(...lines)
  }

  /** @param {HTMLElement} place @param {import('./kinds/matching.js').Item} item */
  function showFace(place, { face, text }) {
    const now = face ? `${face.kind} ${face.media}` : ''
    if (place.dataset.face === now) return
    place.dataset.face = now
    if (!face) place.replaceChildren()
    else if (face.kind === 'picture') place.replaceChildren(faceOf({ id: '', text, face }))
    else {
      const button = document.createElement('button')
      Object.assign(button, { type: 'button', className: 'btn btn-plain btn-sm', title: phrase('bench.play') })
      button.setAttribute('aria-label', phrase('bench.play'))
      button.innerHTML = '<span class="icon icon-sound"></span>'
      button.addEventListener('click', () => play({ face: { ...face, kind: 'sound' } }))
      place.replaceChildren(button)
    }
  }

  function ribbons() {
    for (const target of matchings()) {
      const layer = /** @type {SVGElement | null} */ (box().querySelector(`[data-target="${target.id}"] .ribbons`))
      if (!layer) continue
      const frame = layer.getBoundingClientRect()
      const middle = (/** @type {Side} */ side, /** @type {string} */ id) => {
        const at = cards.get(keyOf({ target: target.id, side, id }))?.link.getBoundingClientRect()
        return at ? { x: at.left + at.width / 2 - frame.left, y: at.top + at.height / 2 - frame.top } : null
      }
      layer.replaceChildren(
        ...target.pairs.flatMap(pair => {
          const [from, to] = [middle('left', pair.left), middle('right', pair.right)]
          return from && to ? [svg('path', { class: 'ribbon', d: ribbonPath(from, to) })] : []
        }),
      )
    }
  }

  return {
    show,
    listen() {
      new ResizeObserver(() => ribbons()).observe(box())
      // Files are taken up by the card that they are dropped on, and by those below it.
      const columnAt = (/** @type {Event | null} */ event) =>
        /** @type {HTMLElement | null} */ (/** @type {Element | undefined} */ (event?.target)?.closest('.match-column') ?? null)
      /** @param {HTMLElement | null} column Over which files are held. */
      const point = column => {
        for (const other of box().querySelectorAll('.match-column')) other.classList.toggle('match-drop', other === column)
      }
      document.addEventListener('dragover', event => point(columnAt(event)))
      document.addEventListener('dragleave', event => {
        if (!event.relatedTarget) point(null)
      })
      box().addEventListener('drop', event => {
        point(null)
        const column = columnAt(event)
        const files = [...(event.dataTransfer?.files ?? [])]
        const target = /** @type {HTMLElement | null | undefined} */ (column?.closest('[data-target]'))?.dataset.target
        if (!column || !target || files.length === 0) return
        event.preventDefault()
        event.stopPropagation()
        document.querySelector('.bench-picture')?.classList.remove('dropping')
        const id = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest('.match-edit'))?.dataset.item ?? ''
        fill({ target, side: /** @type {Side} */ (column.dataset.side), id }, files)
      })
    },
    page: { isMatched: false, matchClass: '' },
  }
}

/** Partners stand side by side as far as they can; what has none stands at the end. @param {Matching} target @param {Side} side */
function inOrder(target, side) {
  const place = (/** @type {string} */ id) => {
    const at = target.pairs.findIndex(pair => pair[side] === id)
    return at < 0 ? target.pairs.length : at
  }
  return target[side].toSorted((a, b) => place(a.id) - place(b.id))
}
