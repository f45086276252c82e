// What lies on the picture beside zones and labels: boxes to type into, spots that open a card, regions to sort into, and the key.

import { listed, named, phrase } from '../language.js'
import { limits } from '../usual.js'
import { boundsOf } from './geometry.js'
import { areaOf, badge, bracketsOf, svg } from './shapes.js'
import { stateWords } from './board.js'
import { layOver } from './stage.js'

/**
 * @typedef {object} SpotActions
 * @property {(target: TargetView, opener: HTMLElement) => void} open
 * @property {(target: TargetView, opener: HTMLElement | null) => void} hover Null when the pointer leaves.
 * @property {(target: string, text: string, isFinished: boolean) => void} type
 * @property {(target: TargetView) => string} [tally] What lies in a region to sort into, in words.
 */

const kinds = {
  choosing: { sign: '?', sentence: 'screen.question' },
  answering: { sign: '?', sentence: 'screen.question' },
  locked: { sign: '', sentence: 'screen.lock' },
  telling: { sign: 'i', sentence: 'screen.info' },
}

/** @param {import('./stage.js').Stage} stage @param {SpotActions} actions */
export function createSpots(stage, actions) {
  /** @type {Map<string, HTMLElement>} */
  const elements = new Map()
  const regions = svg('g', { class: 'sort-regions' })
  const keys = svg('g', { class: 'key-regions' })
  const keyWords = document.createElement('div')
  keyWords.className = 'key-words'
  const tallies = document.createElement('div')
  tallies.className = 'tallies'
  stage.drawing.prepend(regions)
  stage.drawing.append(keys)
  stage.overlay.append(tallies, keyWords)

  return {
    /** @param {PaneView} pane @param {boolean} key */
    draw(pane, key) {
      tallies.replaceChildren(
        ...pane.targets.flatMap(target =>
          target.kind === 'sorting' && target.tally && !key ? [tallyAt(target, actions.tally?.(target) ?? '')] : [],
        ),
      )
      regions.replaceChildren(
        ...pane.targets.flatMap(target => (target.kind === 'sorting' ? [sortRegion(target, stateAt(pane, target.id))] : [])),
      )
      const shown = pane.targets.filter(target => 'at' in target || target.kind === 'typing' || target.kind === 'noting')
      for (const [id, element] of elements) {
        if (shown.some(target => target.id === id)) continue
        element.remove()
        elements.delete(id)
      }
      shown.forEach((target, i) => {
        const element = elements.get(target.id) ?? make(target, actions)
        if (!elements.has(target.id)) {
          elements.set(target.id, element)
          stage.overlay.append(element)
        }
        update(element, target, pane, i + 1)
      })
      keys.replaceChildren(...(key ? keyRegions(pane) : []))
      keyWords.replaceChildren(...(key ? keyTexts(pane) : []))
    },
  }
}

/** @param {PaneView} pane @param {string} target */
const stateAt = (pane, target) => pane.marks?.others.find(mark => mark.target === target)?.state

/** @param {Extract<TargetView, {kind: 'sorting'}>} target @param {TargetState | undefined} state */
function sortRegion(target, state) {
  const group = svg('g', { class: `sort-region ${state ? `state-${state}` : ''}`, 'data-target': target.id })
  group.append(areaOf(target.region), bracketsOf(target.region, 'zone-lead'), bracketsOf(target.region, 'zone-corners'))
  return group
}

/** @param {Extract<TargetView, {kind: 'sorting'}>} target @param {string} words */
function tallyAt(target, words) {
  const { left, right, top } = boundsOf(target.region)
  const element = Object.assign(document.createElement('span'), { className: 'tally', textContent: words })
  element.style.left = `calc(var(--unit) * ${(left + right) / 2})`
  element.style.top = `calc(var(--unit) * ${top})`
  return element
}

/** @param {TargetView} target @param {SpotActions} actions @returns {HTMLElement} */
function make(target, actions) {
  if (target.kind === 'typing' || target.kind === 'noting') {
    const box = document.createElement('div')
    box.className = `answer-box ${target.kind === 'noting' ? 'note-box' : ''}`
    box.dataset.target = target.id
    const field = /** @type {HTMLInputElement | HTMLTextAreaElement} */ (
      document.createElement(target.kind === 'noting' ? 'textarea' : 'input')
    )
    field.className = 'answer-field'
    field.dir = 'auto'
    field.autocomplete = 'off'
    field.spellcheck = false
    field.maxLength = target.kind === 'noting' ? limits.longestText : limits.longestAnswer
    if (target.kind === 'typing' && target.isNumber) field.inputMode = 'decimal'
    field.setAttribute('autocapitalize', 'off')
    field.addEventListener('input', () => actions.type(target.id, field.value, false))
    field.addEventListener('change', () => actions.type(target.id, field.value, true))
    box.append(field)
    layOver(box, target.region)
    if (target.kind === 'typing') {
      // It grows with what is typed, about its middle.
      const { left, right } = boundsOf(target.region)
      Object.assign(box.style, {
        minWidth: box.style.width,
        width: 'max-content',
        left: `calc(var(--unit) * ${(left + right) / 2})`,
        translate: '-50%',
      })
    }
    return box
  }
  const spot = document.createElement('button')
  spot.type = 'button'
  spot.dataset.target = target.id
  const { at } = /** @type {SpotView} */ (target)
  spot.style.left = `calc(var(--unit) * ${at.x})`
  spot.style.top = `calc(var(--unit) * ${at.y})`
  spot.addEventListener('click', () => actions.open(target, spot))
  if (target.kind === 'telling' && target.shows === 'onHover') {
    spot.addEventListener('pointerenter', event => {
      if (event.pointerType === 'mouse') actions.hover(target, spot)
    })
    spot.addEventListener('pointerleave', () => actions.hover(target, null))
  }
  return spot
}

/** @param {HTMLElement} element @param {TargetView} target @param {PaneView} pane @param {number} number */
function update(element, target, pane, number) {
  const done = pane.done.find(done => done.target === target.id)
  const state = stateAt(pane, target.id)
  if (target.kind === 'typing' || target.kind === 'noting') {
    const field = /** @type {HTMLInputElement} */ (element.firstElementChild)
    if (field !== document.activeElement || !pane.open) field.value = done?.text ?? ''
    field.readOnly = !pane.open
    const what = target.kind === 'noting' ? 'screen.note' : target.isNumber ? 'screen.number' : 'screen.answer'
    field.setAttribute('aria-label', listed([target.prompt || phrase(what, { number }), stateWords(state)]))
    field.placeholder = target.kind === 'noting' ? target.prompt || phrase('screen.writeHere') : listed(target.units)
    element.className = `answer-box ${target.kind === 'noting' ? 'note-box' : ''} ${state ? `state-${state}` : ''}`
    // The field stays where it is: taken out and put back it would lose the cursor of whoever types.
    for (const old of [...element.children].slice(1)) old.remove()
    element.append(...badgeOf(state))
    return
  }
  const { sign, sentence } = kinds[/** @type {keyof typeof kinds} */ (target.kind)]
  const isDone = (done?.opened || (done?.picks.length ?? 0) > 0 || (done?.text ?? '') !== '') ?? false
  element.className = `spot spot-${target.kind} ${isDone ? 'done' : ''} ${state ? `state-${state}` : ''}`
  const says =
    target.kind === 'locked'
      ? phrase(done?.opened ? 'screen.open' : 'screen.locked')
      : target.kind === 'telling'
        ? ''
        : phrase(isDone ? 'screen.answered' : 'screen.notAnswered')
  element.setAttribute('aria-label', listed([phrase(sentence, { number }), target.prompt, says, stateWords(state)]))
  const face = document.createElement('span')
  face.className = 'spot-face'
  if (target.kind === 'locked')
    face.innerHTML =
      '<svg viewBox="0 0 20 20" aria-hidden="true"><path d="M10 2.5a4.6 4.6 0 0 1 2 8.7l1.4 6.3H6.6L8 11.2a4.6 4.6 0 0 1 2-8.7z"/></svg>'
  else face.textContent = sign
  element.replaceChildren(face, ...badgeOf(state))
}

/** @param {TargetState | undefined} state @returns {SVGElement[]} */
function badgeOf(state) {
  const kind =
    state &&
    /** @type {Record<string, keyof typeof import('./shapes.js').badges>} */ ({
      earned: 'right',
      partEarned: 'part',
      missed: 'missed',
      wrong: 'wrong',
    })[state]
  return kind ? [badge(kind)] : []
}

/** @param {PaneView} pane @returns {SVGElement[]} */
const keyRegions = pane =>
  [...(pane.key?.hidden ?? []).map(({ region }) => region), ...(pane.key?.others ?? []).flatMap(other => other.spots)].map(region => {
    const group = svg('g', { class: 'key-region' })
    group.append(areaOf(region))
    return group
  })

/** @param {PaneView} pane @returns {HTMLElement[]} The names of hidden zones, what belongs into regions, and what was to be typed. */
function keyTexts(pane) {
  const texts = new Map(pane.labels.map(label => [label.id, label.text]))
  const words = (/** @type {string[]} */ labels) => listed(labels.map(label => texts.get(label) ?? ''))
  return [
    ...(pane.key?.hidden ?? []).filter(({ labels }) => labels.length > 0).map(({ region, labels }) => word(region, words(labels))),
    ...(pane.key?.others ?? []).flatMap(({ target: id, text, labels, amount }) => {
      const target = pane.targets.find(t => t.id === id)
      if (target?.kind === 'sorting') return [word(target.region, named(amount ? phrase(amount.name, amount.slots) : '', words(labels)))]
      return target?.kind === 'typing' && text ? [word(target.region, text)] : []
    }),
  ]
}

/** @param {Region} region @param {string} text */
function word(region, text) {
  const { left, right, top, bottom } = boundsOf(region)
  const element = document.createElement('span')
  element.className = 'key-word'
  element.dir = 'auto'
  element.textContent = text
  element.style.left = `calc(var(--unit) * ${(left + right) / 2})`
  element.style.top = `calc(var(--unit) * ${(top + bottom) / 2})`
  return element
}
