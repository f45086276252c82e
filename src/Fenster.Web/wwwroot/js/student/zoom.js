// Nearer and farther: by buttons, wheel, two fingers and a double tap. All of the picture is always one tap away.

/**
 * @param {HTMLElement} bar
 * @param {HTMLElement} mat
 * @param {{stage: () => import('../scene/stage.js').Stage | null, isBusy: () => boolean}} on Busy is a hand that holds something.
 */
export function startZoom(bar, mat, { stage, isBusy }) {
  for (const button of bar.querySelectorAll('button'))
    button.addEventListener('click', () => {
      const on = stage()
      on?.zoomTo(button.value === '0' ? 1 : on.zoom() * Number(button.value))
    })

  mat.addEventListener(
    'wheel',
    event => {
      const on = stage()
      if (!on || event.shiftKey) return
      event.preventDefault()
      on.zoomTo(on.zoom() * Math.exp(-event.deltaY * (event.ctrlKey ? 0.01 : 0.002)), event)
    },
    { passive: false },
  )

  /** Fingers on the mat, by pointer. @type {Map<number, PointerEvent>} */
  const fingers = new Map()
  /** @type {{distance: number, zoom: number} | null} */
  let pinch = null
  let tapped = { at: 0, x: 0, y: 0 }
  const apart = () => {
    const [a, b] = [...fingers.values()]
    return {
      distance: Math.hypot(a.clientX - b.clientX, a.clientY - b.clientY),
      x: (a.clientX + b.clientX) / 2,
      y: (a.clientY + b.clientY) / 2,
    }
  }
  mat.addEventListener('pointerdown', event => {
    if (event.pointerType !== 'touch') return
    fingers.set(event.pointerId, event)
    const on = stage()
    if (fingers.size === 2 && on) pinch = { distance: apart().distance, zoom: on.zoom() }
  })
  addEventListener('pointermove', event => {
    if (!fingers.has(event.pointerId)) return
    fingers.set(event.pointerId, event)
    if (!pinch || fingers.size !== 2) return
    const { distance, x, y } = apart()
    stage()?.zoomTo((pinch.zoom * distance) / pinch.distance, { clientX: x, clientY: y })
  })
  for (const end of ['pointerup', 'pointercancel'])
    addEventListener(end, event => {
      fingers.delete(/** @type {PointerEvent} */ (event).pointerId)
      if (fingers.size < 2) pinch = null
    })

  mat.addEventListener('pointerup', event => {
    const isBare = /** @type {Element} */ (event.target).closest('button, input, textarea, .label') === null
    if (!isBare || isBusy() || !event.isPrimary) return
    const isSecond = event.timeStamp - tapped.at < 320 && Math.hypot(event.clientX - tapped.x, event.clientY - tapped.y) < 24
    tapped = isSecond ? { at: 0, x: 0, y: 0 } : { at: event.timeStamp, x: event.clientX, y: event.clientY }
    const on = stage()
    if (isSecond && on) on.zoomTo(on.zoom() > 1 ? 1 : 2.2, event)
  })
}
