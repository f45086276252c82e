// A sound and a little movement for what is found right, and something worth cheering when all of it is. The sounds are made here.

import { phrase } from '../language.js'
import { recall, remember } from './device.js'

const kept = 'fenster-quiet'
/** Two notes up for one thing; a chord, one note after the other, for all. In hertz: C5, G5; C5, E5, G5, C6. */
const one = [523.25, 783.99]
const all = [523.25, 659.25, 783.99, 1046.5]

/** @type {AudioContext | null} */
let audio = null

/** @param {number[]} notes */
function sound(notes) {
  audio ??= new AudioContext()
  notes.forEach((hertz, i) => {
    const at = /** @type {AudioContext} */ (audio).currentTime + i * 0.09
    const [tone, loud] = [
      new OscillatorNode(/** @type {AudioContext} */ (audio), { type: 'triangle', frequency: hertz }),
      audio?.createGain(),
    ]
    if (!loud || !audio) return
    loud.gain.setValueAtTime(0, at)
    loud.gain.linearRampToValueAtTime(0.12, at + 0.015)
    loud.gain.exponentialRampToValueAtTime(0.0005, at + 0.4)
    tone.connect(loud).connect(audio.destination)
    tone.start(at)
    tone.stop(at + 0.45)
  })
}

/**
 * @param {HTMLElement} tools Where the student turns it off.
 * @param {HTMLElement} over What the cheer lies over.
 */
export function createCheer(tools, over) {
  let isQuiet = recall(kept) === 'true'
  const button = document.createElement('button')
  button.type = 'button'
  button.className = 'btn tool'
  button.id = 'sound'
  button.innerHTML = '<span class="icon icon-sound"></span>'
  button.setAttribute('aria-label', phrase('screen.sound'))
  const draw = () => button.setAttribute('aria-pressed', String(!isQuiet))
  button.addEventListener('click', () => {
    isQuiet = !isQuiet
    remember(kept, String(isQuiet))
    draw()
  })
  draw()
  tools.insertBefore(button, document.getElementById('check'))

  return {
    /** @param {{right: number, isAll: boolean}} found How much is newly found right. */
    found({ right, isAll }) {
      if (right === 0 || isQuiet) return
      sound(isAll ? all : one)
      if (matchMedia('(prefers-reduced-motion: reduce)').matches) return
      for (const label of document.querySelectorAll('.verdict-right')) label.classList.add('pleased')
      if (isAll) over.append(windows())
    },
  }
}

/** A lattice of panes that light up one after the other. */
function windows() {
  const lattice = document.createElement('div')
  lattice.className = 'cheer'
  const words = document.createElement('strong')
  words.textContent = phrase('screen.allRight')
  for (let i = 0; i < 24; i++) {
    const pane = document.createElement('span')
    pane.style.animationDelay = `${(((i * 7) % 24) * 45) | 0}ms`
    lattice.append(pane)
  }
  lattice.append(words)
  lattice.addEventListener('animationend', event => {
    if (event.target === lattice) lattice.remove()
  })
  return lattice
}
