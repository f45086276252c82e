// The picture on its mat: the image, an SVG layer in picture units over it, and a layer of HTML elements over that.

import { phrase } from '../language.js'
import { boundsOf, planeOf } from './geometry.js'
import { svg } from './shapes.js'

const widths = [480, 960, 1920, 4096]

/**
 * @typedef {object} Stage
 * @property {HTMLElement} mat
 * @property {HTMLElement} element
 * @property {SVGElement} drawing Its user unit is the picture unit.
 * @property {HTMLElement} overlay
 * @property {Bounds} plane What the file covers, in picture units: the picture, which is 1000 wide, and its margins.
 * @property {() => number} scale CSS pixels for each picture unit.
 * @property {(event: {clientX: number, clientY: number}) => Point} pointAt
 * @property {(zoom: number, at?: {clientX: number, clientY: number}) => void} zoomTo 1 fits the mat. What lies at a pointer stays there.
 * @property {() => number} zoom
 * @property {(listener: () => void) => void} onResize
 * @property {Letters} letters
 */

/** @typedef {{largest: number, smallest: number}} Letters How labels that lie there are written, in CSS pixels. */

/** @param {HTMLElement} mat @param {Picture} picture @param {Letters} [letters] @returns {Stage} */
export function createStage(mat, picture, letters = { largest: 17, smallest: 12 }) {
  const plane = planeOf(picture)
  const [width, height] = [plane.right - plane.left, plane.bottom - plane.top]
  const element = document.createElement('div')
  element.className = 'stage'
  const image = document.createElement('img')
  image.className = 'stage-picture'
  image.alt = picture.altText || phrase('screen.pictureAlt')
  image.width = picture.width
  image.height = picture.height
  image.draggable = false
  image.srcset = widths.map(width => `/media/${picture.media}/${width} ${width}w`).join(', ')
  image.sizes = '(orientation: portrait) 100vw, 75vw'
  image.src = `/media/${picture.media}/960`
  const drawing = svg('svg', { class: 'stage-drawing', viewBox: `${plane.left} ${plane.top} ${width} ${height}`, 'aria-hidden': 'true' })
  const overlay = document.createElement('div')
  overlay.className = 'stage-overlay'
  // What lies on the picture is placed from the picture's corner, not from its margin's.
  overlay.style.left = `calc(var(--unit) * ${-plane.left})`
  overlay.style.top = `calc(var(--unit) * ${-plane.top})`
  element.append(image, drawing, overlay)
  mat.replaceChildren(element)
  if (picture.credit) {
    const credit = document.createElement('p')
    credit.className = 'stage-credit'
    credit.textContent = picture.credit
    mat.append(credit)
  }

  let zoom = 1
  let scale = 1
  /** @type {(() => void)[]} */
  const listeners = []
  const fit = () => {
    const style = getComputedStyle(mat)
    const room = {
      width: mat.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight),
      height: mat.clientHeight - parseFloat(style.paddingTop) - parseFloat(style.paddingBottom),
    }
    if (room.width <= 0 || room.height <= 0) return
    scale = Math.max(0.05, Math.min(room.width / width, room.height / height)) * zoom
    element.style.width = `${width * scale}px`
    element.style.height = `${height * scale}px`
    element.style.setProperty('--unit', `${scale}px`)
    for (const listener of listeners) listener()
  }
  const observer = new ResizeObserver(() => {
    // Another stage has taken its place.
    if (element.parentElement === mat) fit()
    else observer.disconnect()
  })
  observer.observe(mat)
  fit()

  return {
    mat,
    letters,
    element,
    drawing,
    overlay,
    plane,
    scale: () => scale,
    zoom: () => zoom,
    zoomTo(next, at) {
      const box = mat.getBoundingClientRect()
      const spot = at ? { x: at.clientX - box.left, y: at.clientY - box.top } : { x: mat.clientWidth / 2, y: mat.clientHeight / 2 }
      const before = { x: (mat.scrollLeft + spot.x) / (width * scale), y: (mat.scrollTop + spot.y) / (height * scale) }
      zoom = Math.min(4, Math.max(1, next))
      fit()
      mat.scrollTo(before.x * width * scale - spot.x, before.y * height * scale - spot.y)
    },
    pointAt(event) {
      const box = element.getBoundingClientRect()
      return { x: (event.clientX - box.left) / scale + plane.left, y: (event.clientY - box.top) / scale + plane.top }
    },
    onResize(listener) {
      listeners.push(listener)
    },
  }
}

/** @param {HTMLElement} element @param {Region} region Lays an HTML element over a region. */
export function layOver(element, region) {
  const { left, top, right, bottom } = boundsOf(region)
  element.style.left = `calc(var(--unit) * ${left})`
  element.style.top = `calc(var(--unit) * ${top})`
  element.style.width = `calc(var(--unit) * ${right - left})`
  element.style.height = `calc(var(--unit) * ${bottom - top})`
}

const measuring = /** @type {CanvasRenderingContext2D} */ (document.createElement('canvas').getContext('2d'))

/** Widths that were measured, by size and text. @type {Map<string, number>} */
const measured = new Map()
document.fonts.addEventListener('loadingdone', () => measured.clear())

/** @param {string} text @param {number} size @returns {number} Width in CSS pixels of a label's text at a font size. */
export function textWidth(text, size) {
  const known = measured.get(`${size} ${text}`)
  if (known !== undefined) return known
  measuring.font = `600 ${size}px "Atkinson Hyperlegible Next", "Noto Sans Arabic", "Noto Sans Hebrew", sans-serif`
  const { width } = measuring.measureText(text)
  if (measured.size > 5000) measured.clear()
  measured.set(`${size} ${text}`, width)
  return width
}

/**
 * Sizes a placed label: as large as its zone allows and never too small to read. One that can't be read inside its
 * zone grows beyond it, about the zone's middle, and stays on the picture.
 * @param {HTMLElement} label
 * @param {Bounds} box In picture units.
 * @param {Stage} stage
 * @returns {boolean} Whether it lies inside its zone, all of it to be read.
 */
export function fitLabel(label, box, stage) {
  const scale = stage.scale()
  const { largest, smallest } = stage.letters
  const picture = label.querySelector('.label-picture')
  if (picture) {
    // As large as its zone, whatever its shape.
    for (const [side, value] of Object.entries({ left: box.left, top: box.top, width: box.right - box.left, height: box.bottom - box.top }))
      label.style.setProperty(side, `${value * scale}px`)
    return true
  }
  const room = { width: (box.right - box.left) * scale, height: (box.bottom - box.top) * scale }
  const natural = textWidth(label.querySelector('.label-text')?.textContent ?? label.textContent ?? '', largest)
  const beside = 18 + (label.querySelector('.badge-mark') ? 22 : 0)
  const oneLine = Math.min(largest, room.height * 0.66, (largest * (room.width - beside)) / natural)
  const twoLines = Math.min(largest, room.height * 0.36, (largest * (room.width - beside) * 1.7) / natural)
  label.classList.remove('as-number')
  const size = Math.max(smallest, oneLine, twoLines)
  const lines = twoLines > Math.max(oneLine, smallest) ? 2 : 1
  const needed = (natural * size) / largest + beside
  const width = lines === 2 ? room.width : Math.max(room.width, Math.min(needed, Math.max(largest * 8.2, room.width)))
  const height = Math.max(room.height, size * 1.35 * lines + 2)
  const middle = { x: ((box.left + box.right) / 2) * scale, y: ((box.top + box.bottom) / 2) * scale }
  label.style.fontSize = `${size}px`
  label.classList.toggle('two-lines', lines === 2)
  label.style.width = `${width}px`
  label.style.height = `${height}px`
  const { left, top, right, bottom } = stage.plane
  label.style.left = `${Math.min(Math.max(left * scale, middle.x - width / 2), Math.max(left, right - width / scale) * scale)}px`
  label.style.top = `${Math.min(Math.max(top * scale, middle.y - height / 2), Math.max(top, bottom - height / scale) * scale)}px`
  return width <= room.width + 1 && (lines === 2 || needed <= width + 1)
}

/**
 * Lays a label down as its place's number: its words don't fit there.
 * @param {HTMLElement} label
 * @param {Bounds} box In picture units.
 * @param {Stage} stage
 */
export function fitNumber(label, box, stage) {
  const scale = stage.scale()
  const { largest } = stage.letters
  const [width, height] = [
    Math.max(largest * 1.8, Math.min(largest * 2.6, (box.right - box.left) * scale)),
    Math.max(largest * 1.3, (box.bottom - box.top) * scale),
  ]
  label.classList.add('as-number')
  label.classList.remove('two-lines')
  Object.assign(label.style, {
    fontSize: `${largest - 3}px`,
    width: `${width}px`,
    height: `${height}px`,
    left: `${((box.left + box.right) / 2) * scale - width / 2}px`,
    top: `${((box.top + box.bottom) / 2) * scale - height / 2}px`,
  })
}

/**
 * The boxes of a zone's labels when it holds several: a column of equal parts.
 * @param {Region} region
 * @param {number} count
 * @returns {Bounds[]}
 */
export function partsOf(region, count) {
  const { left, top, right, bottom } = boundsOf(region)
  const part = (bottom - top) / Math.max(1, count)
  return Array.from({ length: count }, (_, i) => ({ left, right, top: top + part * i, bottom: top + part * (i + 1) }))
}
