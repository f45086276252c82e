// A label's face: its words, or the picture or sound that stands in their place.

import { numbered, phrase } from '../language.js'
import { setWords } from './words.js'

/** @param {{id: string, text: string, face?: Face | null}} label @returns {HTMLElement} */
export function faceOf({ id, text, face }) {
  if (face?.kind === 'picture') return pictureOf(face, text)
  if (face?.kind === 'sound' || face?.kind === 'video') {
    const sound = document.createElement('span')
    sound.className = 'label-sound'
    sound.innerHTML = '<span class="icon icon-sound"></span>'
    sound.append(` ${numbered(phrase(`screen.${face.kind}Face`), Number(id.replace(/\D+/g, '')))}`)
    sound.title = text
    sound.dataset.plays = addressOf(face)
    return sound
  }
  const words = document.createElement('span')
  words.className = 'label-text'
  setWords(words, text)
  return words
}

/** @param {Extract<Face, {kind: 'picture'}>} face @param {string} text */
function pictureOf(face, text) {
  const image = document.createElement('img')
  image.className = 'label-picture'
  image.src = `/media/${face.media}/480`
  image.alt = text
  image.width = face.width
  image.height = face.height
  image.draggable = false
  return image
}

/**
 * A picture, a sound or a video with its controls, for a card.
 * @param {Face} face
 * @param {string} text What it shows or says.
 * @returns {HTMLElement}
 */
export function cardOf(face, text) {
  if (face.kind === 'picture') {
    const image = pictureOf(face, text)
    image.className = 'card-picture'
    image.setAttribute('src', `/media/${face.media}/1920`)
    return image
  }
  const player = /** @type {HTMLMediaElement} */ (document.createElement(face.kind === 'video' ? 'video' : 'audio'))
  player.className = `card-${face.kind}`
  player.controls = true
  player.preload = 'metadata'
  player.src = addressOf(face)
  player.setAttribute('aria-label', text || phrase(`screen.${face.kind}Face`))
  if (player instanceof HTMLVideoElement) player.playsInline = true
  if (face.kind === 'video' && face.captions) {
    const track = document.createElement('track')
    Object.assign(track, {
      kind: 'captions',
      src: `/media/${face.captions}/0`,
      label: phrase('screen.captions'),
      default: true,
      srclang: document.documentElement.lang || 'en',
    })
    player.append(track)
  }
  return player
}

/** @param {Played} face @returns {string} With the part to be played, as the Media Fragments recommendation of the W3C writes it. */
function addressOf({ media, from, to }) {
  const part = from || to ? `#t=${from ?? 0}${to ? `,${to}` : ''}` : ''
  return `/media/${media}/0${part}`
}

/** @type {HTMLAudioElement | null} */
let playing = null

/**
 * Plays a label that is a sound, from its beginning, and shows on it how far it is; the one before falls silent.
 * @param {{face?: Face | null} | undefined} label
 */
export function play(label) {
  playing?.pause()
  showHowFar(playing, 0)
  const face = label?.face
  playing = face?.kind === 'sound' ? new Audio(addressOf(face)) : null
  if (playing && face?.kind === 'sound') {
    const sound = playing
    const [from, to] = [face.from ?? 0, face.to]
    sound.addEventListener('timeupdate', () => showHowFar(sound, (sound.currentTime - from) / ((to ?? sound.duration) - from)))
    for (const end of ['ended', 'pause']) sound.addEventListener(end, () => showHowFar(sound, 0))
  }
  // A browser may refuse to play before the first click; the label works all the same.
  playing?.play().catch(() => {})
}

/** The label may have been drawn anew meanwhile. @param {HTMLAudioElement | null} sound @param {number} share Of the sound, from 0 to 1. */
function showHowFar(sound, share) {
  if (!sound) return
  const address = new URL(sound.src)
  for (const face of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('.label-sound[data-plays]')))
    if (face.dataset.plays === address.pathname + address.hash) face.style.setProperty('--played', `${100 * Math.min(1, share)}%`)
}
