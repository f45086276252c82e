// The time that is left, shown calmly: always where there is a limit, else when the end is near. What is there when it is over is handed
// in by the server; the screen only asks for it.

import { phrase } from '../language.js'

const minute = 60_000
/** Shown from then on where no limit runs. */
const near = 15 * minute

/**
 * @param {HTMLElement} shown
 * @param {object} options
 * @param {number} options.left In milliseconds.
 * @param {boolean} options.hasLimit
 * @param {() => Promise<number | null>} options.ask What the server says is left; null when it stands still or is not known.
 * @param {(sentence: string) => void} options.say
 * @param {() => void} options.onEnd
 * @returns {() => void} Stops it.
 */
export function startClock(shown, { left, hasLimit, ask, say, onEnd }) {
  let end = performance.now() + left
  let told = Infinity
  let isAsking = false
  const whole = left
  const tick = async () => {
    const rest = end - performance.now()
    const minutes = Math.max(0, Math.ceil(rest / minute))
    shown.hidden = !hasLimit && rest > near
    const seconds = Math.max(0, Math.ceil(rest / 1000))
    const words = rest > minute ? phrase('clock.minutes', { count: minutes }) : phrase('clock.seconds', { count: seconds })
    if (shown.textContent !== words) shown.textContent = words
    // Said once each: at half of it, at five minutes, at one.
    for (const mark of [whole / 2, 5 * minute, minute])
      if (rest <= mark && told > mark && mark < whole && mark >= minute) {
        told = mark
        say(phrase('clock.minutes', { count: Math.round(mark / minute) }))
      }
    if (rest > 0 || isAsking) return
    // It may have become longer meanwhile.
    isAsking = true
    const now = await ask()
    isAsking = false
    if (now !== null && now > 0) [end, told] = [performance.now() + now, Infinity]
    else if (now !== null) {
      clearInterval(timer)
      onEnd()
    } else end = performance.now() + 5000
  }
  const timer = setInterval(tick, 500)
  tick()
  return () => clearInterval(timer)
}
