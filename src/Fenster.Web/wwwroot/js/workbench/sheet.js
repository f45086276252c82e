// A sheet of several drawings becomes several labels with pictures, each trimmed, after a look.

import { phrase } from '../language.js'
import { post } from '../http.js'
import { fileOf } from '../room/canvas-file.js'
import { createFound } from './found.js'
import { uploadFace } from './upload.js'

/** How large the sheet is looked at, in pixels of its longer side. */
const lookedAt = 1600
/** Around each drawing, as a share of the sheet's width: it is trimmed when it arrives. */
const rim = 0.004

/** @typedef {{id: string, picture: string, text: string, isTicked: boolean, file: File}} Part */

/**
 * @param {import('./desk.js').Desk} desk
 * @param {(labels: Omit<LabelPart, 'id'>[]) => void} waitForPlaces
 * @returns {import('./desk.js').Part}
 */
export function sheetPart(desk, waitForPlaces) {
  const parts = /** @type {ReturnType<typeof createFound<Part>>} */ (createFound(draw))
  const busy = (/** @type {string} */ sentence) => {
    desk.state().uploading = sentence
  }
  function draw() {
    const count = parts.ticked().length
    Object.assign(desk.state(), {
      sheet: parts.all().map(part => ({ ...part })),
      hasSheet: parts.all().length > 0,
      makeSheet: phrase('bench.makeSheet', { count }),
      noPartTicked: count === 0,
    })
  }

  /** @param {HTMLImageElement} image @param {{left: number, top: number, right: number, bottom: number}} box In the image's pixels. */
  async function cut(image, { left, top, right, bottom }) {
    const canvas = document.createElement('canvas')
    Object.assign(canvas, { width: Math.ceil(right - left), height: Math.ceil(bottom - top) })
    canvas.getContext('2d')?.drawImage(image, left, top, right - left, bottom - top, 0, 0, canvas.width, canvas.height)
    return fileOf(canvas)
  }

  /** @param {File} file */
  async function look(file) {
    desk.state().problem = ''
    busy(phrase('bench.lookingAtSheet'))
    const image = new Image()
    image.src = URL.createObjectURL(file)
    try {
      await image.decode()
      const canvas = document.createElement('canvas')
      const small = Math.min(1, lookedAt / Math.max(image.naturalWidth, image.naturalHeight))
      canvas.width = Math.max(1, Math.round(small * image.naturalWidth))
      canvas.height = Math.max(1, Math.round(small * image.naturalHeight))
      const context = /** @type {CanvasRenderingContext2D} */ (canvas.getContext('2d'))
      context.fillStyle = '#fff'
      context.fillRect(0, 0, canvas.width, canvas.height)
      context.drawImage(image, 0, 0, canvas.width, canvas.height)
      const answer = await post(`${desk.url}?handler=Sheet`, await fileOf(canvas))
      if (!answer.ok) throw new Error(answer.sentence)
      const scale = image.naturalWidth / answer.body.width
      const around = rim * image.naturalWidth
      const found = await Promise.all(
        (answer.body.parts.length < 2 ? [] : answer.body.parts).map(async (/** @type {any} */ box, /** @type {number} */ i) => {
          const blob = await cut(image, {
            left: Math.max(0, box.left * scale - around),
            top: Math.max(0, box.top * scale - around),
            right: Math.min(image.naturalWidth, box.right * scale + around),
            bottom: Math.min(image.naturalHeight, box.bottom * scale + around),
          })
          const text = phrase('bench.sheetPart', { number: i + 1 })
          return {
            id: `${i}`,
            picture: URL.createObjectURL(blob),
            text,
            isTicked: true,
            file: new File([blob], `${i + 1}.png`, { type: 'image/png' }),
          }
        }),
      )
      drop()
      parts.set(found)
      if (found.length === 0) desk.state().problem = phrase('bench.noSheet')
      else desk.announce(phrase('bench.partsFound', { count: found.length }))
    } catch (error) {
      desk.state().problem = error instanceof Error && error.name !== 'EncodingError' ? error.message : phrase('bench.noSheet')
    } finally {
      URL.revokeObjectURL(image.src)
      busy('')
    }
  }

  async function make() {
    const chosen = parts.ticked()
    const labels = []
    for (const [i, part] of chosen.entries()) {
      const { face, sentence } = await uploadFace(part.file, Number(desk.data.mostBytes), () =>
        busy(phrase('bench.fileArrives', { number: i + 1, all: chosen.length })),
      )
      if (!face) {
        busy('')
        desk.state().problem = sentence ?? ''
        return
      }
      // A name that was not written yet tells nothing.
      labels.push({ text: part.text, copies: 1, face, description: /** @type {const} */ ('teachers') })
    }
    busy('')
    drop()
    waitForPlaces(labels)
  }

  function drop() {
    parts.all().forEach(part => URL.revokeObjectURL(part.picture))
    parts.set([])
  }

  return {
    show() {},
    page: {
      sheet: [],
      hasSheet: false,
      makeSheet: '',
      noPartTicked: true,
      /** @param {Event} event */
      chooseSheet(event) {
        const field = /** @type {HTMLInputElement} */ (event.currentTarget)
        const [file] = field.files ?? []
        field.value = ''
        if (file) look(file)
      },
      makeLabelsOfSheet: make,
      dropSheet: drop,
      tickPart: parts.tick,
      namePart: parts.name,
    },
  }
}
