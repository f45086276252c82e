// Reads what is printed on a picture, in the browser: nothing leaves it. The reader and its data are loaded only here.

import { keepLetters, linesOn } from './letters.js'
import { apart, confirmed, merged, namesIn, settled, turnedBack, withRoom } from './names.js'

/** What is read is drawn this large, in pixels of its longer side, so that small print has enough of them. */
const size = 2000
/** The share of it at which it is read a second time. */
const smaller = 0.7
/** The share of the longer side that a letter has at most. */
const largestLetter = 0.07

/** Shares of the longer side: how long a line of the drawing is at least that is taken off, and how thick at most. */
const [longLine, thinLine] = [0.04, 0.004]

/** A line that begins so near to a word, in shares of its height, may have taken a letter of it. */
const besideLetter = 0.3

/** Languages that there is data for, by their BCP 47 tags. */
const data = /** @type {Record<string, string>} */ ({ en: 'eng', de: 'deu', fr: 'fra', es: 'spa' })

const library = new URL('../../lib/tesseract/', import.meta.url).href

/** Sparse text in no order; and the network alone, without the older way of reading. */
const [sparse, networkOnly] = ['11', 1]

/** @type {Map<string, Promise<any>>} */
const readers = new Map()

/** @param {string} language A BCP 47 tag. @returns {Promise<any>} */
function readerOf(language) {
  const name = data[language.split('-')[0]] ?? data.en
  const known = readers.get(name)
  if (known) return known
  const made = make(name)
  readers.set(name, made)
  // A reader that could not be loaded is loaded anew the next time.
  made.catch(() => readers.delete(name))
  return made
}

/** @param {string} name */
async function make(name) {
  const { default: tesseract } = await import(`${library}tesseract.esm.min.js`)
  const reader = await tesseract.createWorker(name, networkOnly, {
    workerPath: `${library}worker.min.js`,
    corePath: `${library}tesseract-core-simd-lstm.wasm.js`,
    langPath: library.replace(/\/$/, ''),
    workerBlobURL: false,
    // The browser keeps what it loaded.
    cacheMethod: 'none',
  })
  // Said once, so that it does not guess, and complain, each time.
  await reader.setParameters({ tessedit_pageseg_mode: sparse, user_defined_dpi: '300' })
  return reader
}

/**
 * @param {CanvasImageSource} picture
 * @param {number} width
 * @param {number} height
 * @param {0 | 90 | -90} turn
 */
function drawn(picture, width, height, turn) {
  const canvas = document.createElement('canvas')
  canvas.width = turn === 0 ? width : height
  canvas.height = turn === 0 ? height : width
  const context = /** @type {CanvasRenderingContext2D} */ (canvas.getContext('2d', { willReadFrequently: true }))
  context.imageSmoothingQuality = 'high'
  context.fillStyle = '#fff'
  context.fillRect(0, 0, canvas.width, canvas.height)
  context.translate(canvas.width / 2, canvas.height / 2)
  context.rotate((turn * Math.PI) / 180)
  context.drawImage(picture, -width / 2, -height / 2, width, height)
  return canvas
}

/** How light each pixel is, from 0 to 255. @param {ImageData} picture */
function greyOf({ data: pixels }) {
  const grey = new Uint8ClampedArray(pixels.length / 4)
  for (let i = 0; i < grey.length; i++) grey[i] = 0.3 * pixels[4 * i] + 0.59 * pixels[4 * i + 1] + 0.11 * pixels[4 * i + 2]
  return grey
}

/**
 * Takes the lines off that lead to names, so that none is taken for a letter, and no letter for a part of a line.
 * @param {HTMLCanvasElement} canvas
 * @returns {Uint8Array} 1 where a line was.
 */
function withoutLines(canvas) {
  const { width, height } = canvas
  const context = /** @type {CanvasRenderingContext2D} */ (canvas.getContext('2d'))
  const picture = context.getImageData(0, 0, width, height)
  const side = Math.max(width, height)
  const lines = linesOn(greyOf(picture), width, { largest: largestLetter * side, long: longLine * side, thin: thinLine * side })
  for (let i = 0; i < lines.length; i++) if (lines[i]) picture.data.fill(255, 4 * i, 4 * i + 3)
  context.putImageData(picture, 0, 0)
  return lines
}

/**
 * Light on dark becomes dark on light: what stands on a dark ground is inverted, and the rest stays. What is larger than letters goes.
 * @param {HTMLCanvasElement} canvas
 */
function evened(canvas) {
  const { width, height } = canvas
  const blurred = document.createElement('canvas')
  Object.assign(blurred, { width, height })
  const context = /** @type {CanvasRenderingContext2D} */ (blurred.getContext('2d', { willReadFrequently: true }))
  context.filter = 'grayscale(1) blur(12px)'
  context.drawImage(canvas, 0, 0)
  const ground = context.getImageData(0, 0, width, height).data
  const picture = /** @type {CanvasRenderingContext2D} */ (canvas.getContext('2d')).getImageData(0, 0, width, height)
  const { data: pixels } = picture
  const grey = new Uint8ClampedArray(width * height)
  for (let i = 0; i < grey.length; i++) {
    const [r, g, b] = [pixels[4 * i], pixels[4 * i + 1], pixels[4 * i + 2]]
    const light = 0.3 * r + 0.59 * g + 0.11 * b
    grey[i] = ground[4 * i] < 128 ? 255 - light : light
  }
  keepLetters(grey, width, largestLetter * Math.max(width, height))
  for (let i = 0; i < grey.length; i++) pixels[4 * i] = pixels[4 * i + 1] = pixels[4 * i + 2] = grey[i]
  context.filter = 'none'
  context.putImageData(picture, 0, 0)
  return blurred
}

/**
 * @param {any} reader
 * @param {HTMLCanvasElement} canvas
 * @param {import('./names.js').Box} [part] That alone is read; all of it where it is not given.
 * @returns {Promise<import('./names.js').Word[]>}
 */
async function wordsOn(reader, canvas, part) {
  const rectangle = part && { left: part.left, top: part.top, width: part.right - part.left, height: part.bottom - part.top }
  const { data } = await reader.recognize(canvas, { rectangle }, { blocks: true, text: false })
  return (data.blocks ?? []).flatMap((/** @type {any} */ block) =>
    block.paragraphs.flatMap((/** @type {any} */ paragraph) =>
      paragraph.lines.flatMap((/** @type {any} */ line) =>
        line.words.map((/** @type {any} */ { text, confidence, bbox }) => ({
          text,
          confidence,
          box: { left: bbox.x0, top: bbox.y0, right: bbox.x1, bottom: bbox.y1 },
        })),
      ),
    ),
  )
}

/**
 * The names that are printed on a picture: upright, light on dark, and turned by a quarter.
 * @param {{image: CanvasImageSource, width: number, height: number}} picture
 * @param {string} language A BCP 47 tag; where there is no data for it, it is read as English.
 * @returns {Promise<import('./names.js').Name[]>} Boxes as shares of the picture's width, both ways.
 */
export async function namesOn({ image, width, height }, language) {
  const reader = await readerOf(language)
  const scale = size / Math.max(width, height)
  const [across, tall] = [Math.round(width * scale), Math.round(height * scale)]
  const page = drawn(image, across, tall, 0)
  const asItIs = await wordsOn(reader, page)
  const lines = withoutLines(page)
  /** Whether a line begins in a box or close beside it. @param {import('./names.js').Box} box */
  const touchesLine = ({ left, top, right, bottom }) => {
    const beside = Math.round((bottom - top) * besideLetter)
    for (let y = Math.max(0, top); y < Math.min(tall, bottom); y++)
      for (let x = Math.max(0, left - beside); x < Math.min(across, right + beside); x++) if (lines[y * across + x]) return true
    return false
  }
  const level = settled(asItIs, lines.includes(1) ? await wordsOn(reader, page) : [], touchesLine)
  // At another size the reader stumbles over other words.
  const small = drawn(page, Math.round(across * smaller), Math.round(tall * smaller), 0)
  const light = (await wordsOn(reader, evened(small))).map(word => ({ ...word, box: scaled(word.box, 1 / smaller) }))
  const names = []
  for (const name of namesIn(merged([level, light])))
    names.push(touchesLine(name.box) ? confirmed(name, await wordsOn(reader, page, withRoom(name.box, across, tall))) : name)
  for (const turn of /** @type {const} */ ([90, -90])) {
    const words = await wordsOn(reader, drawn(page, across, tall, turn))
    for (const name of namesIn(merged([[], words]))) names.push({ ...name, box: turnedBack(name.box, turn, across, tall) })
  }
  return apart(names).map(name => ({ ...name, box: scaled(name.box, 1 / across) }))
}

/** @param {import('./names.js').Box} box @param {number} by @returns {import('./names.js').Box} */
const scaled = ({ left, top, right, bottom }, by) => ({ left: left * by, top: top * by, right: right * by, bottom: bottom * by })
