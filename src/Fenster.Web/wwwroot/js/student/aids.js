// What a student may use beside the picture, where the teacher allows it: a calculator, a ruler, a magnifier.

import { phrase } from '../language.js'
import { createLoupe } from '../scene/loupe.js'

/**
 * @param {HTMLElement} tools
 * @param {readonly string[]} aids
 * @param {{stage: () => import('../scene/stage.js').Stage | null, over: HTMLElement}} on
 */
export function createAids(tools, aids, { stage, over }) {
  /** @type {Record<string, (isOn: boolean) => void>} */
  const made = {}
  for (const aid of aids) {
    const button = document.createElement('button')
    button.type = 'button'
    button.className = 'btn tool'
    button.innerHTML = `<span class="icon icon-${aid}"></span>`
    button.setAttribute('aria-label', phrase(`aids.${aid}`))
    button.setAttribute('aria-pressed', 'false')
    button.addEventListener('click', () => {
      const isOn = button.getAttribute('aria-pressed') !== 'true'
      button.setAttribute('aria-pressed', String(isOn))
      made[aid] ??= aid === 'calculator' ? calculator(over) : aid === 'ruler' ? ruler(stage) : magnifier(stage)
      made[aid](isOn)
    })
    tools.insertBefore(button, document.getElementById('check'))
  }
}

/** @param {() => import('../scene/stage.js').Stage | null} stage */
function magnifier(stage) {
  let end = new AbortController()
  return (/** @type {boolean} */ isOn) => {
    end.abort()
    const on = stage()
    if (!isOn || !on) return
    end = new AbortController()
    const loupe = createLoupe(on)
    end.signal.addEventListener('abort', () => loupe.hide())
    on.mat.addEventListener('pointermove', event => loupe.show(event), { signal: end.signal })
    on.mat.addEventListener('pointerleave', () => loupe.hide(), { signal: end.signal })
  }
}

/**
 * A ruler of ten parts on the picture: dragged, turned by its end, and moved and turned by keys.
 * @param {() => import('../scene/stage.js').Stage | null} stage
 */
function ruler(stage) {
  const strip = document.createElement('div')
  strip.className = 'ruler'
  strip.tabIndex = 0
  strip.setAttribute('role', 'group')
  strip.setAttribute('aria-label', phrase('aids.rulerKeys'))
  for (let i = 0; i <= 10; i++) strip.append(Object.assign(document.createElement('span'), { textContent: String(i) }))
  const handle = document.createElement('i')
  handle.className = 'ruler-turn'
  strip.append(handle)
  let [x, y, angle] = [12, 45, 0]
  const lay = () => Object.assign(strip.style, { left: `${x}%`, top: `${y}%`, rotate: `${angle}deg` })
  strip.addEventListener('pointerdown', start => {
    start.stopPropagation()
    const on = stage()
    if (!on) return
    const isTurn = start.target === handle
    const frame = on.element.getBoundingClientRect()
    const from = { x, y }
    strip.setPointerCapture(start.pointerId)
    const end = new AbortController()
    strip.addEventListener(
      'pointermove',
      event => {
        if (isTurn) {
          const [left, top] = [frame.left + (frame.width * x) / 100, frame.top + (frame.height * y) / 100]
          angle = Math.round((Math.atan2(event.clientY - top, event.clientX - left) * 180) / Math.PI)
        } else {
          x = Math.min(95, Math.max(-5, from.x + (100 * (event.clientX - start.clientX)) / frame.width))
          y = Math.min(95, Math.max(0, from.y + (100 * (event.clientY - start.clientY)) / frame.height))
        }
        lay()
      },
      { signal: end.signal },
    )
    for (const done of ['pointerup', 'pointercancel']) strip.addEventListener(done, () => end.abort(), { signal: end.signal })
  })
  strip.addEventListener('keydown', event => {
    const step = event.shiftKey ? 0.2 : 2
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key]
    if (by) [x, y] = [x + by[0], y + by[1]]
    else if (event.key === '+') angle += event.shiftKey ? 1 : 5
    else if (event.key === '-') angle -= event.shiftKey ? 1 : 5
    else return
    event.preventDefault()
    event.stopPropagation()
    lay()
  })
  return (/** @type {boolean} */ isOn) => {
    strip.remove()
    if (!isOn) return
    stage()?.element.append(strip)
    lay()
  }
}

const keys = ['7', '8', '9', '÷', '4', '5', '6', '×', '1', '2', '3', '−', '0', '.', '=', '+', 'C', '√', '±', '⌫']

/** Four kinds of reckoning and a root, one step after the other. @param {HTMLElement} over */
function calculator(over) {
  const box = document.createElement('section')
  box.className = 'calculator'
  box.setAttribute('aria-label', phrase('aids.calculator'))
  box.dir = 'ltr'
  const shows = document.createElement('output')
  /** @type {{entry: string, before: number | null, sign: string, isFresh: boolean}} */
  let state = { entry: '0', before: null, sign: '', isFresh: true }
  const draw = () => {
    shows.textContent = state.entry
  }
  box.append(shows)
  for (const key of keys) {
    const button = document.createElement('button')
    Object.assign(button, { type: 'button', className: 'btn btn-outline-primary', textContent: key })
    button.addEventListener('click', () => {
      state = pressed(state, key)
      draw()
    })
    box.append(button)
  }
  box.addEventListener('keydown', event => {
    const key = { '/': '÷', '*': '×', '-': '−', Enter: '=', ',': '.', Backspace: '⌫', Escape: 'C' }[event.key] ?? event.key
    if (!keys.includes(key)) return
    event.preventDefault()
    state = pressed(state, key)
    draw()
  })
  draw()
  return (/** @type {boolean} */ isOn) => {
    if (isOn) over.append(box)
    else box.remove()
  }
}

/**
 * @param {{entry: string, before: number | null, sign: string, isFresh: boolean}} state
 * @param {string} key
 */
export function pressed({ entry, before, sign, isFresh }, key) {
  const value = Number(entry)
  const shown = (/** @type {number} */ number) => (Number.isFinite(number) ? String(Number(number.toPrecision(12))) : '—')
  if (/^\d$/.test(key)) return { entry: isFresh || entry === '0' ? key : (entry + key).slice(0, 15), before, sign, isFresh: false }
  switch (key) {
    case '.':
      return { entry: isFresh ? '0.' : entry.includes('.') ? entry : `${entry}.`, before, sign, isFresh: false }
    case 'C':
      return { entry: '0', before: null, sign: '', isFresh: true }
    case '⌫':
      return { entry: isFresh || entry.length < 2 ? '0' : entry.slice(0, -1), before, sign, isFresh: false }
    case '±':
      return { entry: shown(-value), before, sign, isFresh: false }
    case '√':
      return { entry: shown(Math.sqrt(value)), before, sign, isFresh: true }
  }
  const result = before === null || (isFresh && key !== '=') ? (before ?? value) : reckoned(before, sign, value)
  return key === '='
    ? { entry: shown(result), before: null, sign: '', isFresh: true }
    : { entry: shown(result), before: result, sign: key, isFresh: true }
}

/** @param {number} a @param {string} sign @param {number} b */
const reckoned = (a, sign, b) => (sign === '+' ? a + b : sign === '−' ? a - b : sign === '×' ? a * b : sign === '÷' ? a / b : b)
