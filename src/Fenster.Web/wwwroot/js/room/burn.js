// Burns what was prepared into one picture, which is all that students ever receive.

import { phrase } from '../language.js'
import { fileOf } from './canvas-file.js'
import { arrowHead, strokeOf } from './easel.js'
import { kept, plane, sourceHeight, turned } from './preparation.js'

/** @typedef {import('./preparation.js').Work} Work */

const longestSide = 4096

/** A drawing has no pixels of its own: what is kept of it is burnt this wide. */
const drawingWidth = 2400

/** What is painted onto a small picture stays sharp on a laptop's full screen. */
const paintedWidth = 1600

/**
 * @param {string} hash
 * @returns {Promise<{image: HTMLImageElement, isPhotograph: boolean, isDrawing: boolean}>} The source, as large as it is stored.
 */
async function load(hash) {
  const response = await fetch(`/media/${hash}/${longestSide}`)
  if (!response.ok) throw new Error(phrase('room.notFetched'))
  const blob = await response.blob()
  const image = new Image()
  image.src = URL.createObjectURL(blob)
  await image.decode()
  URL.revokeObjectURL(image.src)
  return { image, isPhotograph: blob.type === 'image/jpeg', isDrawing: blob.type === 'image/svg+xml' }
}

/** @param {Work} work @returns {Promise<Blob>} */
export async function burn(work) {
  const { preparation: p } = work
  const [{ image, isPhotograph, isDrawing }] = await Promise.all([
    load(p.source),
    document.fonts.load('600 20px "Atkinson Hyperlegible Next"'),
  ])
  const all = plane(work)
  const least = isDrawing ? drawingWidth : p.fixings.some(fixing => fixing.kind !== 'cover') ? paintedWidth : 0
  const box = kept(p)
  const scale = Math.min(
    Math.max(image.naturalWidth / 1000, least / (box.right - box.left)),
    longestSide / (all.right - all.left),
    longestSide / (all.bottom - all.top),
  )
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round((all.right - all.left) * scale))
  canvas.height = Math.max(1, Math.round((all.bottom - all.top) * scale))
  paint(/** @type {CanvasRenderingContext2D} */ (canvas.getContext('2d')), work, image, all, scale)
  return fileOf(canvas, isPhotograph ? 'image/jpeg' : 'image/png', 0.93)
}

/**
 * @param {CanvasRenderingContext2D} context
 * @param {Work} work
 * @param {HTMLImageElement} image
 * @param {import('./preparation.js').Box} all
 * @param {number} scale
 */
function paint(context, work, image, all, scale) {
  const { preparation: p } = work
  context.imageSmoothingQuality = 'high'
  context.fillStyle = p.paper
  context.fillRect(0, 0, context.canvas.width, context.canvas.height)
  context.scale(scale, scale)
  context.translate(-all.left, -all.top)

  const inPicture = (/** @type {() => void} */ draw) => {
    context.save()
    context.translate(500, sourceHeight(p) / 2)
    context.rotate((p.turn * Math.PI) / 180)
    context.translate(-500, -sourceHeight(p) / 2)
    draw()
    context.restore()
  }
  context.save()
  const box = kept(p)
  context.beginPath()
  context.rect(box.left, box.top, box.right - box.left, box.bottom - box.top)
  context.clip()
  inPicture(() => context.drawImage(image, 0, 0, 1000, sourceHeight(p)))
  context.restore()

  const stroke = strokeOf(work)
  context.lineWidth = stroke
  context.lineCap = 'round'
  context.textAlign = 'center'
  context.textBaseline = 'middle'
  for (const fixing of p.fixings) {
    context.fillStyle = context.strokeStyle = fixing.colour
    switch (fixing.kind) {
      case 'cover':
        inPicture(() => context.fillRect(fixing.x, fixing.y, fixing.width, fixing.height))
        break
      case 'box':
        inPicture(() => context.strokeRect(fixing.x, fixing.y, fixing.width, fixing.height))
        break
      case 'line': {
        const [from, to] = [turned(p, fixing.from), turned(p, fixing.to)]
        context.beginPath()
        context.moveTo(from.x, from.y)
        context.lineTo(to.x, to.y)
        context.stroke()
        if (!fixing.isArrow) break
        context.beginPath()
        for (const point of arrowHead(from, to, stroke)) context.lineTo(point.x, point.y)
        context.fill()
        break
      }
      case 'caption': {
        const at = turned(p, fixing.at)
        context.font = `600 ${fixing.size}px "Atkinson Hyperlegible Next", "Noto Sans Arabic", "Noto Sans Hebrew", sans-serif`
        context.fillText(fixing.text, at.x, at.y)
        break
      }
    }
  }
}

/**
 * The colour beside a box: the middle one, channel by channel, of a ring of pixels around it.
 * @param {import('./preparation.js').Preparation} p @param {{x: number, y: number, width: number,
 *   height: number}} area @returns {Promise<string>}
 */
export async function colourBeside(p, area) {
  const image = new Image()
  image.src = `/media/${p.source}/960`
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = 960
  canvas.height = Math.max(1, Math.round((960 * p.sourceHeight) / p.sourceWidth))
  const context = /** @type {CanvasRenderingContext2D} */ (canvas.getContext('2d', { willReadFrequently: true }))
  context.drawImage(image, 0, 0, canvas.width, canvas.height)
  const unit = 0.96
  const ring = 3
  const [left, top, right, bottom] = [
    area.x * unit - ring,
    area.y * unit - ring,
    (area.x + area.width) * unit + ring,
    (area.y + area.height) * unit + ring,
  ].map(Math.round)
  /** @type {number[][]} */
  const channels = [[], [], []]
  const take = (/** @type {number} */ x, /** @type {number} */ y) => {
    if (x < 0 || y < 0 || x >= canvas.width || y >= canvas.height) return
    const [r, g, b, a] = context.getImageData(x, y, 1, 1).data
    const over = (/** @type {number} */ c) => Math.round((c * a + 255 * (255 - a)) / 255)
    channels[0].push(over(r))
    channels[1].push(over(g))
    channels[2].push(over(b))
  }
  const step = Math.max(1, Math.round((right - left + bottom - top) / 200))
  for (let x = left; x <= right; x += step) {
    take(x, top)
    take(x, bottom)
  }
  for (let y = top; y <= bottom; y += step) {
    take(left, y)
    take(right, y)
  }
  const middleOf = (/** @type {number[]} */ values) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 255
  return `#${channels.map(values => middleOf(values).toString(16).padStart(2, '0')).join('')}`
}
