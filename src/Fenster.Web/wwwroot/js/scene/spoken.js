// Numbers on the spots of a picture that somebody has said something about.

import { numeral } from '../language.js'

/**
 * @param {import('./stage.js').Stage} stage
 * @returns {(spots: {at: Point, number: number}[]) => void} Draws them.
 */
export function createSpoken(stage) {
  const layer = document.createElement('div')
  layer.className = 'spoken'
  stage.overlay.append(layer)
  return spots =>
    layer.replaceChildren(
      ...spots.map(({ at, number }) => {
        const sign = Object.assign(document.createElement('span'), { className: 'spoken-number', textContent: numeral(number) })
        sign.style.left = `calc(var(--unit) * ${at.x})`
        sign.style.top = `calc(var(--unit) * ${at.y})`
        return sign
      }),
    )
}
