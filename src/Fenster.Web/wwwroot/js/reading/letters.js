// Letters and drawing are told apart by their size: what is connected and larger than any letter is taken off a page before it is read.

/** Darker is ink. */
const ink = 165

/**
 * @param {Uint8ClampedArray | Uint8Array} grey Pixels row by row from 0, black, to 255; what is too large becomes white in it.
 * @param {number} width
 * @param {number} largest Side of what may be a letter, in pixels.
 */
export function keepLetters(grey, width, largest) {
  const height = grey.length / width
  const seen = new Uint8Array(grey.length)
  const pending = []
  const part = []
  for (let start = 0; start < grey.length; start++) {
    if (seen[start] || grey[start] >= ink) continue
    part.length = 0
    pending.push(start)
    seen[start] = 1
    let [left, right, top, bottom] = [width, 0, height, 0]
    while (pending.length > 0) {
      const at = /** @type {number} */ (pending.pop())
      part.push(at)
      const x = at % width
      const y = (at - x) / width
      if (x < left) left = x
      if (x > right) right = x
      if (y < top) top = y
      if (y > bottom) bottom = y
      for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
        for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
          const next = v * width + u
          if (seen[next] || grey[next] >= ink) continue
          seen[next] = 1
          pending.push(next)
        }
    }
    if (right - left < largest && bottom - top < largest) continue
    // With the soft edge of its ink.
    for (const at of part)
      for (const step of [-width - 1, -width, -width + 1, -1, 0, 1, width - 1, width, width + 1]) if (at + step >= 0) grey[at + step] = 255
  }
}
