// Letters and drawing are told apart by their size: what is connected and larger than any letter is taken off a page before it is read.

/** Darker is ink. */
const ink = 165

/** Directions in which strokes are looked for, over a half turn: a thin one leaves the next direction before it is long. */
const directions = Array.from({ length: 48 }, (_, i) => ({ x: Math.cos((i * Math.PI) / 48), y: Math.sin((i * Math.PI) / 48) }))
/** Strokes are looked for at half the size, where each pixel is the darkest of four. */
const half = 2

/**
 * What is connected and larger than a letter, part by part.
 * @param {Uint8ClampedArray | Uint8Array} grey Pixels row by row from 0, black, to 255.
 * @param {number} width
 * @param {number} largest Side of what may be a letter, in pixels.
 * @param {(part: number[]) => void} take Gets the pixels of one.
 */
function eachLarge(grey, width, largest, take) {
  const height = grey.length / width
  const seen = new Uint8Array(grey.length)
  /** @type {number[]} */
  const pending = []
  /** @type {number[]} */
  let part = []
  for (let start = 0; start < grey.length; start++) {
    if (seen[start] || grey[start] >= ink) continue
    part = []
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
    if (right - left >= largest || bottom - top >= largest) take(part)
  }
}

/** A pixel and those around it: with the soft edge of its ink. @param {number} width */
const around = width => [-width - 1, -width, -width + 1, -1, 0, 1, width - 1, width, width + 1]

/**
 * Takes what is too large to be a letter off a page.
 * @param {Uint8ClampedArray | Uint8Array} grey Pixels row by row from 0, black, to 255; what is too large becomes white in it.
 * @param {number} width
 * @param {number} largest Side of what may be a letter, in pixels.
 */
export function keepLetters(grey, width, largest) {
  const edge = around(width)
  eachLarge(grey, width, largest, part => {
    for (const at of part) for (const step of edge) if (at + step >= 0) grey[at + step] = 255
  })
}

/**
 * The pixels of long thin straight strokes: leader lines and frames, also where they touch letters, which stay. Only what is connected
 * and larger than a letter is looked at.
 * @param {Uint8ClampedArray | Uint8Array} grey Pixels row by row from 0, black, to 255.
 * @param {number} width
 * @param {{largest: number, long: number, thin: number}} sizes Side of what may be a letter; how long a stroke is at least and how thick
 *   at most. In pixels.
 * @returns {Uint8Array} 1 where there is such a stroke, with its soft edge.
 */
export function linesOn(grey, width, { largest, long, thin }) {
  const height = grey.length / width
  const [wide, tall] = [Math.floor(width / half), Math.floor(height / half)]
  const small = new Uint8Array(wide * tall)
  for (let y = 0; y < tall; y++)
    for (let x = 0; x < wide; x++) {
      const at = half * (y * width + x)
      small[y * wide + x] = Math.min(grey[at], grey[at + 1], grey[at + width], grey[at + width + 1])
    }
  const [most, enough] = [Math.round(thin / half), Math.round(long / half)]
  /** How far ink goes on from a pixel. @param {number} x @param {number} y @param {number} dx @param {number} dy @param {number} end */
  const run = (x, y, dx, dy, end) => {
    for (let length = 0; length < end; length++) {
      const [u, v] = [Math.round(x + (length + 1) * dx), Math.round(y + (length + 1) * dy)]
      if (u < 0 || v < 0 || u >= wide || v >= tall || small[v * wide + u] >= ink) return length
    }
    return end
  }
  const found = new Uint8Array(grey.length)
  /** @param {number} x @param {number} y */
  const mark = (x, y) => {
    for (let v = half * y - 1; v <= half * y + half; v++)
      for (let u = half * x - 1; u <= half * x + half; u++) if (u >= 0 && v >= 0 && u < width && v < height) found[v * width + u] = 1
  }
  const strokes = new Uint8Array(small.length).fill(255)
  eachLarge(small, wide, largest / half, part => {
    for (const at of part) {
      const x = at % wide
      const y = (at - x) / wide
      const isLine = directions.some(way => {
        // Across first: that is over soon where the ink is thick.
        const over = 1 + run(x, y, -way.y, way.x, most)
        if (over > most || over + run(x, y, way.y, -way.x, most) > most) return false
        const ahead = 1 + run(x, y, way.x, way.y, enough)
        return ahead >= enough || ahead + run(x, y, -way.x, -way.y, enough) >= enough
      })
      if (isLine) strokes[at] = 0
    }
  })
  // Thin all along: a gap between light letters is so only as far as the letters go.
  eachLarge(strokes, wide, enough * 0.65, part => {
    for (const at of part) mark(at % wide, Math.floor(at / wide))
  })
  return found
}
