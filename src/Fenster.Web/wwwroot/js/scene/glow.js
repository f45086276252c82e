// A spot that somebody points at glows for a while.

/** As long as the movement in scene.css; where nothing moves, the ring stands for the same time. */
const lasts = 8400

/** @param {import('./stage.js').Stage} stage @param {Point} at */
export function glow(stage, at) {
  const spot = document.createElement('span')
  spot.className = 'glow'
  spot.style.left = `calc(var(--unit) * ${at.x})`
  spot.style.top = `calc(var(--unit) * ${at.y})`
  stage.overlay.append(spot)
  setTimeout(() => spot.remove(), lasts)
}
