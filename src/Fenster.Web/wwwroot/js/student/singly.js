// One place after the other, enlarged, with what can go there. For small screens, tired eyes, switches and screen readers: the moves are
// the same, and one tap leads back to the whole picture.

import { button as plainButton, element } from '../element.js'
import { boundsOf, centreOf, distanceTo, planeOf } from '../scene/geometry.js'
import { faceOf, play } from '../scene/face.js'
import { areaOf, badge, bracketsOf, leaderOf, svg } from '../scene/shapes.js'
import { whereOn } from '../scene/where.js'
import { listed, named, phrase } from '../language.js'
import { limits } from '../usual.js'
import { whenChanged } from './afresh.js'
import { doneAt, freeCopy, markersOf, moveBack, moveTo, pinnedOf, regionName, tallyIn, thingsOf, whereIs } from './work.js'
import { scaleFor, valueFields } from './read-out.js'

/**
 * @typedef {import('./work.js').Thing} Thing
 * @typedef {object} Singly
 * @property {(at?: Thing) => void} open
 * @property {() => void} draw
 *
 * @typedef {object} Actions
 * @property {() => PaneView} pane
 * @property {(move: Move) => void} make
 * @property {(target: string, text: string, isFinished: boolean) => void} type
 * @property {ReturnType<typeof import('./cards.js').createCards> | undefined} cards
 * @property {(sentence: string) => void} say
 * @property {() => void} leave Back to the whole picture.
 */

/** So many steps of a third each lead to a spot. */
const steps = 3

/** @param {HTMLElement} panel @param {Actions} actions @returns {Singly} */
export function createSingly(panel, { pane, make, type, cards, say, leave }) {
  let shown = ''
  /** What of the picture a spot is looked for in; null for all of it. @type {Bounds | null} */
  let box = null
  /** How often it was opened. */
  let times = 0
  const keyOf = (/** @type {Thing} */ thing) => `${thing.kind}/${thing.id}/${thing.item ?? ''}`
  const things = () => {
    const all = thingsOf(pane())
    /** @type {Thing} */
    const search = { id: 'search', kind: 'concealed', name: phrase('singly.search'), isDone: false }
    return pane().targets.some(target => target.kind === 'concealed') ? [...all, search] : all
  }

  /**
   * @param {string} className
   * @param {string} text
   * @param {() => void} act
   * @param {string} [name] What it is, where the text changes: it keeps the focus.
   */
  const button = (className, text, act, name = text) => {
    const made = plainButton(className, text, act)
    made.dataset.name = name
    return made
  }

  // Nothing is drawn anew that stays the same: a screen reader that stands in it would lose its place.
  const redraw = whenChanged((/** @type {{pane: PaneView, shown: string, box: Bounds | null, times: number}} */ _) => {
    const all = things()
    const index = Math.max(
      0,
      all.findIndex(thing => keyOf(thing) === shown),
    )
    const thing = all[index]
    const focused = panel.contains(document.activeElement) ? /** @type {HTMLElement} */ (document.activeElement) : null
    // Whoever types goes on typing.
    if (focused?.matches('input, textarea') && panel.dataset.shown === (thing && keyOf(thing))) return
    const name = focused?.dataset.name ?? null
    const whole = button('btn btn-plain', phrase('singly.whole'), close)
    const heading = element(
      'h2',
      'singly-name',
      thing ? named(phrase('singly.at', { number: index + 1, all: all.length }), thing.name) : phrase('screen.everything'),
    )
    heading.tabIndex = -1
    heading.dir = 'auto'
    heading.dataset.name = 'heading'
    const top = element('div', 'singly-top')
    top.append(heading, whole)
    const body = element('div', 'singly-body')
    if (thing?.isCompulsory) body.append(element('p', 'singly-must', phrase('screen.compulsory')))
    if (thing) body.append(...bodyOf(thing))
    const foot = element('div', 'singly-foot')
    const go = (/** @type {number} */ by) => {
      box = null
      shown = keyOf(all[(index + by + all.length) % all.length])
      draw()
      focusName()
    }
    if (all.length > 1)
      foot.append(
        button('btn btn-outline-primary', phrase('singly.back'), () => go(-1)),
        button('btn btn-primary', phrase(thing.isDone ? 'singly.next' : 'singly.skip'), () => go(1), 'next'),
      )
    panel.dataset.shown = thing ? keyOf(thing) : ''
    panel.replaceChildren(top, body, foot)
    if (name === null) return
    const buttons = /** @type {HTMLElement[]} */ ([...panel.querySelectorAll('button, h2')])
    const same = buttons.find(other => other.dataset.name === name) ?? heading
    same.focus()
  })
  const draw = () => {
    if (!panel.hidden) redraw({ pane: pane(), shown, box, times })
  }

  const focusName = () => {
    const name = /** @type {HTMLElement | null} */ (panel.querySelector('.singly-name'))
    name?.focus()
  }

  function close() {
    panel.hidden = true
    leave()
  }
  panel.addEventListener('keydown', event => {
    if (event.key === 'Escape') close()
  })

  /** @param {Thing} thing @returns {HTMLElement[]} */
  function bodyOf(thing) {
    if (thing.kind === 'zone') return zone(thing.id)
    if (thing.kind === 'label') return labelled(thing.id)
    if (thing.kind === 'link') return linked(thing)
    if (thing.kind === 'concealed') return [picker(phrase('singly.searchHere'), at => make({ kind: 'lookAt', at }))]
    if (thing.kind === 'marking' || thing.kind === 'showing') return marked(thing.id)
    const target = pane().targets.find(target => target.id === thing.id)
    if (!target) return []
    if (target.kind === 'typing') return [crop(boundsOf(target.region), target.region), typed(target)]
    if (target.kind === 'noting')
      return [
        crop(boundsOf(target.region), target.region),
        typed(target),
        ...(target.pins > 0 ? [element('p', 'singly-says', phrase('screen.ownPin')), ...marked(target.id)] : []),
      ]
    if (target.kind === 'sorting') return [crop(boundsOf(target.region), target.region)]
    // What is shown here is opened, as by its spot.
    if (target.kind === 'telling' && pane().open && !thing.isDone) queueMicrotask(() => make({ kind: 'openSpot', target: target.id }))
    const at = /** @type {SpotView} */ (target).at
    return [crop({ left: at.x - 20, right: at.x + 20, top: at.y - 20, bottom: at.y + 20 }), ...(cards?.bodyOf(target) ?? [])]
  }

  /** @param {string} id @returns {HTMLElement[]} */
  function zone(id) {
    const state = pane()
    const { region, leader } = /** @type {ZoneView} */ (state.zones.find(zone => zone.id === id))
    const here = state.placed.filter(placed => placed.zone === id)
    const list = element('ul', 'singly-choices')
    for (const label of state.labels) {
      const mine = here.find(placed => placed.label === label.id)
      const copy = mine?.copy ?? freeCopy(state, label)
      if (copy === null) continue
      const isHeld = mine && state.held.some(held => held.label === label.id && held.copy === copy)
      const choice = choiceOf(label, mine !== undefined, () => {
        play(label)
        if (isHeld) return say(phrase('screen.heldFast', { label: label.text }))
        if (mine) make({ kind: 'takeBack', label: label.id, copy })
        else make({ kind: 'putDown', label: label.id, copy, zone: id })
        say(phrase(mine ? 'screen.backInBank' : 'screen.putDown', { label: label.text }))
      })
      const verdict = mine && state.marks?.placed[state.placed.indexOf(mine)]
      if (verdict && verdict !== 'unscored') choice.append(badge(verdict))
      const item = document.createElement('li')
      item.append(choice)
      list.append(item)
    }
    const view = crop(leader ? withPoint(boundsOf(region), leader) : boundsOf(region), region)
    if (leader) view.firstElementChild?.append(leaderOf(region, leader))
    return [view, list]
  }

  /** @param {LabelView | OptionView} label @param {boolean} isChosen @param {() => void} act */
  function choiceOf(label, isChosen, act) {
    const choice = button('label', '', act, label.id)
    choice.append(faceOf(label))
    if (label.face?.kind === 'picture') choice.classList.add('with-picture')
    choice.setAttribute('aria-pressed', String(isChosen))
    choice.classList.toggle('in-hand', isChosen)
    choice.disabled = !pane().open
    return choice
  }

  /** A label that belongs to no place that is shown: into a region, or onto any spot. @param {string} id @returns {HTMLElement[]} */
  function labelled(id) {
    const state = pane()
    const label = /** @type {LabelView} */ (state.labels.find(label => label.id === id))
    const regions = state.targets.flatMap(target => (target.kind === 'sorting' ? [target] : []))
    const pins = state.pins.filter(pin => pin.label === id)
    const face = element('p', 'singly-face')
    face.append(faceOf(label))
    const there = element('ul', 'singly-choices')
    for (const pin of pins) {
      const region = regions.findIndex(({ region }) => distanceTo(region, pin.at) === 0)
      const words = region >= 0 ? regionName(state, regions[region]) : whereIs(state, pin.at)
      const item = document.createElement('li')
      item.append(
        button(
          'btn btn-outline-primary',
          phrase('singly.takeBack', { label: words }),
          () => make(moveBack(state, pin)),
          `back ${pin.copy}`,
        ),
      )
      there.append(item)
    }
    const copy = freeCopy(state, label) ?? (label.copies === 1 ? 0 : null)
    if (copy === null || !state.open) return [face, there]
    const put = (/** @type {Point} */ at, /** @type {string} */ words) => {
      make(moveTo(state, { label: id, copy }, at))
      say(listed([phrase('screen.putDown', { label: label.text }), words]))
    }
    const scale = scaleFor(state, id)
    const values = scale ? [valueFields(scale, at => put(at, whereIs(state, at))).form] : []
    if (regions.length === 0) return [face, there, ...values, picker(phrase('singly.putHere'), at => put(at, whereIs(state, at)))]
    const choices = element('ul', 'singly-choices')
    regions.forEach((target, i) => {
      const item = document.createElement('li')
      item.append(
        button(
          'btn btn-outline-primary',
          listed([regionName(state, target), tallyIn(state, target)].filter(Boolean)),
          () => {
            put(freeSpot(target.region, state), regionName(state, target))
            if (target.tally) say(tallyIn(pane(), target))
          },
          `region ${i}`,
        ),
      )
      choices.append(item)
    })
    return [face, there, crop(planeOf(/** @type {Picture} */ (state.picture)), ...regions.map(({ region }) => region)), choices]
  }

  /** @param {string} id @returns {HTMLElement[]} */
  function marked(id) {
    const state = pane()
    const marker = /** @type {LabelView} */ (markersOf(state).find(marker => marker.id === id))
    const { points } = doneAt(state, id)
    const left = Math.max(0, (marker.copies ?? 1) - points.length)
    const there = element('ul', 'singly-choices')
    points.forEach((point, copy) => {
      const item = document.createElement('li')
      const words = listed([phrase('screen.markNumber', { label: marker.text, number: copy + 1 }), whereIs(state, point)])
      item.append(
        button(
          'btn btn-outline-primary',
          phrase('singly.takeBack', { label: words }),
          () => make(moveBack(state, { label: id, copy })),
          `back ${copy}`,
        ),
      )
      there.append(item)
    })
    const says = element('p', 'singly-says', phrase('screen.marksLeft', { count: left }))
    if (left === 0 || !state.open) return [says, there]
    const put = (/** @type {Point} */ at) => {
      make(moveTo(state, { label: id, copy: points.length }, at))
      say(listed([phrase('screen.putDown', { label: marker.text }), whereIs(state, at)]))
    }
    const scale = scaleFor(state, id)
    return [says, there, ...(scale ? [valueFields(scale, put).form] : []), picker(phrase('singly.putHere'), put)]
  }

  /** @param {Thing} thing @returns {HTMLElement[]} */
  function linked({ id, item }) {
    const target = /** @type {Extract<TargetView, {kind: 'linking'}>} */ (pane().targets.find(target => target.id === id))
    const { links } = doneAt(pane(), id)
    const left = /** @type {OptionView} */ (target.left.find(other => other.id === item))
    const face = element('p', 'singly-face')
    if (left.face?.kind === 'sound' || left.face?.kind === 'video')
      face.append(button('btn btn-outline-primary', phrase('singly.hear'), () => play(left), 'hear'))
    else face.append(faceOf(left))
    const list = element('ul', 'singly-choices')
    for (const right of target.right) {
      const isThere = links.some(link => link.left === item && link.right === right.id)
      const line = document.createElement('li')
      line.append(
        choiceOf(right, isThere, () => {
          play(right)
          make({
            kind: 'drawLinks',
            target: id,
            links: isThere
              ? links.filter(link => link.left !== item || link.right !== right.id)
              : [...links, { left: left.id, right: right.id }],
          })
          say(phrase(isThere ? 'matching.parted' : 'matching.matched', { left: left.text, right: right.text }))
        }),
      )
      list.append(line)
    }
    return [face, list]
  }

  /** @param {Extract<TargetView, {kind: 'typing' | 'noting'}>} target */
  function typed(target) {
    const line = element('label', 'singly-typed')
    line.append(element('span', '', target.prompt || phrase('screen.writeHere')))
    const field = element(target.kind === 'noting' ? 'textarea' : 'input', 'form-control')
    field.value = doneAt(pane(), target.id).text
    field.dir = 'auto'
    field.readOnly = !pane().open
    field.maxLength = target.kind === 'noting' ? limits.longestText : limits.longestAnswer
    field.setAttribute('autocapitalize', 'off')
    field.autocomplete = 'off'
    if (target.kind === 'typing' && target.isNumber) field.inputMode = 'decimal'
    field.addEventListener('input', () => type(target.id, field.value, false))
    field.addEventListener('change', () => type(target.id, field.value, true))
    line.append(field)
    return line
  }

  /**
   * Leads to a spot by thirds, each enlarged: nothing has to be aimed at.
   * @param {string} words Of the button that means the middle of what is shown.
   * @param {(at: Point) => void} choose
   */
  function picker(words, choose) {
    const state = pane()
    const plane = planeOf(/** @type {Picture} */ (state.picture))
    const { left, top, right, bottom } = box ?? plane
    const frame = element('div', 'singly-picker')
    frame.append(crop({ left, top, right, bottom }))
    const depth = Math.round(Math.log((plane.right - plane.left) / (right - left)) / Math.log(3))
    if (depth < steps)
      for (let row = 0; row < 3; row++)
        for (let column = 0; column < 3; column++) {
          const [width, height] = [(right - left) / 3, (bottom - top) / 3]
          const part = { left: left + width * column, top: top + height * row }
          const inside = { ...part, right: part.left + width, bottom: part.top + height }
          const middle = { x: part.left + width / 2, y: part.top + height / 2 }
          const cell = button(
            'singly-cell',
            '',
            () => {
              box = inside
              draw()
            },
            `cell ${row} ${column}`,
          )
          cell.setAttribute('aria-label', listed([phrase('singly.nearer'), whereOn({ left, top, right, bottom }, middle)]))
          cell.title = `${Math.round(middle.x)}, ${Math.round(middle.y)}`
          Object.assign(cell.style, { left: `${(100 * column) / 3}%`, top: `${(100 * row) / 3}%` })
          frame.append(cell)
        }
    const acts = element('div', 'singly-acts')
    if (box)
      acts.append(
        button('btn btn-outline-primary', phrase('singly.farther'), () => {
          const out = { width: (right - left) * 3, height: (bottom - top) * 3 }
          const corner = {
            left: Math.min(plane.right - out.width, Math.max(plane.left, (left + right - out.width) / 2)),
            top: Math.min(plane.bottom - out.height, Math.max(plane.top, (top + bottom - out.height) / 2)),
          }
          box = depth <= 1 ? null : { ...corner, right: corner.left + out.width, bottom: corner.top + out.height }
          draw()
        }),
      )
    acts.append(
      button('btn btn-primary', words, () => {
        choose({ x: (left + right) / 2, y: (top + bottom) / 2 })
        box = null
        draw()
      }),
    )
    const both = element('div', 'singly-pick')
    both.append(frame, acts)
    return both
  }

  /** A part of the picture, enlarged. @param {Bounds} bounds What has to be seen. @param {...Region} regions That are outlined. */
  function crop(bounds, ...regions) {
    const { picture } = pane()
    const frame = element('div', 'singly-view')
    if (!picture) return frame
    const plane = planeOf(picture)
    const isWhole = regions.length !== 1
    const [across, down] = [bounds.right - bounds.left, bounds.bottom - bounds.top]
    const width = Math.min(plane.right - plane.left, isWhole ? across : Math.max(240, across + 120))
    const height = Math.min(plane.bottom - plane.top, isWhole ? down : Math.max(width * 0.6, down + 120))
    const left = Math.min(plane.right - width, Math.max(plane.left, (bounds.left + bounds.right - width) / 2))
    const top = Math.min(plane.bottom - height, Math.max(plane.top, (bounds.top + bounds.bottom - height) / 2))
    const drawing = svg('svg', {
      viewBox: `${left} ${top} ${width} ${height}`,
      role: 'img',
      'aria-label': picture.altText || phrase('screen.pictureAlt'),
    })
    drawing.append(
      svg('image', {
        href: `/media/${picture.media}/1920`,
        x: plane.left,
        y: plane.top,
        width: plane.right - plane.left,
        height: plane.bottom - plane.top,
      }),
      ...regions.map(region => {
        const group = svg('g', { class: 'zone hovered' })
        group.append(areaOf(region), bracketsOf(region, 'zone-lead'), bracketsOf(region, 'zone-corners'))
        return group
      }),
      ...pinnedOf(pane()).map(({ at }) => svg('circle', { class: 'singly-pin', cx: at.x, cy: at.y, r: width / 60 })),
    )
    frame.append(drawing)
    frame.style.aspectRatio = `${width} / ${height}`
    return frame
  }

  return {
    draw,
    open(at) {
      const all = things()
      const first = at ?? all.find(thing => !thing.isDone) ?? all[0]
      shown = first ? keyOf(first) : ''
      box = null
      times++
      panel.hidden = false
      draw()
      focusName()
    },
  }
}

/** A spot of a region where nothing lies yet. @param {Region} region @param {PaneView} pane @returns {Point} */
function freeSpot(region, pane) {
  const { left, top, right, bottom } = boundsOf(region)
  const near = Math.min(right - left, bottom - top) / 6
  /** @type {Point[]} */
  const spots = []
  for (let row = 1; row < 6; row++)
    for (let column = 1; column < 4; column++) {
      const spot = { x: left + ((right - left) * column) / 4, y: top + ((bottom - top) * row) / 6 }
      if (distanceTo(region, spot) === 0) spots.push(spot)
    }
  return spots.find(spot => pane.pins.every(pin => Math.hypot(pin.at.x - spot.x, pin.at.y - spot.y) > near)) ?? spots[0] ?? centreOf(region)
}

/** @param {Bounds} bounds @param {Point} point @returns {Bounds} */
const withPoint = ({ left, top, right, bottom }, { x, y }) => ({
  left: Math.min(left, x),
  top: Math.min(top, y),
  right: Math.max(right, x),
  bottom: Math.max(bottom, y),
})
