// A label's face: its words, or the picture that stands in their place.

/** @param {{text: string, face?: Face | null}} label @returns {HTMLElement} */
export function faceOf({ text, face }) {
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
  const words = document.createElement('span')
  words.className = 'label-text'
  words.textContent = text
  return words
}
