// Spots of a student's own picture are dragged, or moved and taken away by keys.

import { phrase } from '../language.js'

/** @typedef {import('../scene/stage.js').Stage} Stage */

/** The nearest place on a picture, to a hundredth of a unit. @param {Stage} stage @param {Point} point @returns {Point} */
export function onPicture({ plane: { left, top, right, bottom } }, point) {
  const rounded = (/** @type {number} */ value, /** @type {number} */ least, /** @type {number} */ most) =>
    Math.min(Math.floor(most * 100) / 100, Math.max(Math.ceil(least * 100) / 100, Math.round(value * 100) / 100))
  return { x: rounded(point.x, left, right), y: rounded(point.y, top, bottom) }
}

/**
 * @param {HTMLElement} layer Of the numbers.
 * @param {Stage} stage
 * @param {object} actions
 * @param {(id: string | undefined) => OwnSpot | undefined} actions.find As it is now; undefined where it can't be changed.
 * @param {(spot: OwnSpot) => void} actions.put
 * @param {(id: string) => void} actions.remove
 * @param {() => void} actions.draw
 * @param {(sentence: string) => void} actions.say
 * @returns {() => boolean} Whether one was let go just now: the click that follows means nothing.
 */
export function arrange(layer, stage, { find, put, remove, draw, say }) {
  let draggedAt = -Infinity
  const numberAt = (/** @type {Event} */ event) =>
    /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest('.own-number'))
  layer.addEventListener('pointerdown', start => {
    const number = numberAt(start)
    const id = number?.dataset.spot
    if (!find(id) || start.button !== 0) return
    start.preventDefault()
    // What is being typed is sent by this.
    number?.focus()
    const end = new AbortController()
    let hasMoved = false
    addEventListener(
      'pointermove',
      event => {
        if (event.pointerId !== start.pointerId) return
        if (!hasMoved && Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) < 6) return
        hasMoved = true
        const at = onPicture(stage, stage.pointAt(event))
        const element = /** @type {HTMLElement | null} */ (layer.querySelector(`[data-spot="${CSS.escape(id ?? '')}"]`))
        if (element) Object.assign(element.style, { left: `calc(var(--unit) * ${at.x})`, top: `calc(var(--unit) * ${at.y})` })
      },
      { signal: end.signal },
    )
    for (const name of /** @type {const} */ (['pointerup', 'pointercancel']))
      addEventListener(
        name,
        event => {
          if (event.pointerId !== start.pointerId) return
          end.abort()
          if (!hasMoved) return
          draggedAt = performance.now()
          const spot = find(id)
          if (name === 'pointerup' && spot) put({ ...spot, at: onPicture(stage, stage.pointAt(event)) })
          else draw()
        },
        { signal: end.signal },
      )
  })
  layer.addEventListener('keydown', event => {
    const spot = find(numberAt(event)?.dataset.spot)
    if (!spot) return
    if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault()
      remove(spot.id)
    }
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
    if (!step) return
    event.preventDefault()
    const by = event.shiftKey ? 1 : 10
    const at = onPicture(stage, { x: spot.at.x + step[0] * by, y: spot.at.y + step[1] * by })
    put({ ...spot, at })
    const { top, bottom } = stage.plane
    say(phrase('screen.crossAt', { left: Math.round(at.x / 10), top: Math.round((100 * at.y) / (bottom - top)) }))
  })
  return () => performance.now() - draggedAt < 100
}
