// A label's face: its words, or the picture or sound that stands in their place.

/** @param {{id: string, text: string, face?: Face | null}} label @returns {HTMLElement} */
export function faceOf({ id, text, face }) {
  if (face?.kind === 'picture') {
    const image = document.createElement('img')
    image.className = 'label-picture'
    image.src = `/media/${face.media}/480`
    image.alt = text
    image.width = face.width
    image.height = face.height
    image.draggable = false
    return image
  }
  if (face?.kind === 'sound') {
    const sound = document.createElement('span')
    sound.className = 'label-sound'
    sound.innerHTML = '<span class="icon icon-sound"></span>'
    sound.append(` Sound ${id.replace(/\D+/g, '')}`)
    sound.title = text
    return sound
  }
  const words = document.createElement('span')
  words.className = 'label-text'
  words.textContent = text
  return words
}

/** @type {HTMLAudioElement | null} */
let playing = null

/** Plays a label that is a sound, from its beginning; the one before falls silent. @param {{face?: Face | null} | undefined} label */
export function play(label) {
  playing?.pause()
  playing = label?.face?.kind === 'sound' ? new Audio(`/media/${label.face.media}/0`) : null
  // A browser may refuse to play before the first click; the label works all the same.
  playing?.play().catch(() => {})
}
