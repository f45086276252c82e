// Brings a student's file to the server, in pieces: a line that breaks goes on where it was.

import { phrase } from '../language.js'
import { get, post, upload } from '../http.js'

const pieceSize = 512 * 1024
/** Larger photographs are made smaller on the device first: nobody sees the difference, and a slow line does. */
const shrinkAbove = 3 * 1024 * 1024
const longestSide = 3000

/**
 * @typedef {{media: string, width: number, height: number, isSharp: boolean}} Taken
 * @typedef {{ok: true, taken: Taken} | {ok: false, sentence: string}} Outcome The sentence is empty where it was cancelled.
 */

/**
 * @param {File} file
 * @param {{url: string | undefined, isSound: boolean, progress: (share: number, isWaiting: boolean) => void, signal: AbortSignal}} how
 *   Without an address a teacher tries it: the file is the teacher's then.
 * @returns {Promise<Outcome>}
 */
export async function bring(file, { url, isSound, progress, signal }) {
  const sent = isSound ? file : await smaller(file)
  if (signal.aborted) return { ok: false, sentence: '' }
  if (!url) return tried(sent, isSound, progress)
  const key = [...crypto.getRandomValues(new Uint8Array(12))].map(byte => byte.toString(16).padStart(2, '0')).join('')
  const at = `${url}&upload=${key}`
  let have = 0
  let delay = 0
  for (;;) {
    if (signal.aborted) {
      await post(`${at}&cancel=true`, {})
      return { ok: false, sentence: '' }
    }
    progress(have / sent.size, delay > 0)
    const answer = await post(
      `${at}&from=${have}&size=${sent.size}&kind=${isSound ? 'sound' : 'picture'}`,
      sent.slice(have, have + pieceSize, 'application/octet-stream'),
    )
    if (answer.ok && answer.body.media) return { ok: true, taken: answer.body }
    if (answer.ok) {
      have = answer.body.have
      delay = 0
      continue
    }
    if (!answer.offline && answer.status !== 423 && answer.status < 500) return { ok: false, sentence: answer.sentence }
    // The line broke: how much had arrived is asked once it is back.
    delay = Math.min(10_000, delay * 2 || 1000)
    progress(have / sent.size, true)
    await new Promise(resolve => {
      const timer = setTimeout(resolve, delay)
      for (const [on, event] of /** @type {const} */ ([
        [signal, 'abort'],
        [window, 'online'],
      ]))
        on.addEventListener(
          event,
          () => {
            clearTimeout(timer)
            resolve(undefined)
          },
          { once: true },
        )
    })
    const known = signal.aborted ? null : await get(at)
    if (known?.ok) have = known.body.have
  }
}

/** @param {Blob} sent @param {boolean} isSound @param {(share: number, isWaiting: boolean) => void} progress @returns {Promise<Outcome>} */
async function tried(sent, isSound, progress) {
  const answer = await upload(isSound ? '/sounds' : '/pictures', sent, share => progress(share, false))
  return answer.ok
    ? { ok: true, taken: { media: answer.body.hash, width: answer.body.width ?? 0, height: answer.body.height ?? 0, isSharp: true } }
    : { ok: false, sentence: answer.sentence }
}

/** @param {File} file @returns {Promise<Blob>} The file itself where a browser can't read it, or where it is small enough. */
async function smaller(file) {
  if (file.size <= shrinkAbove || !/^image\/(jpeg|png|webp|heic|heif|avif)$/.test(file.type)) return file
  try {
    const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' })
    const scale = Math.min(1, longestSide / Math.max(bitmap.width, bitmap.height))
    const canvas = new OffscreenCanvas(Math.round(bitmap.width * scale), Math.round(bitmap.height * scale))
    const context = /** @type {OffscreenCanvasRenderingContext2D} */ (canvas.getContext('2d'))
    context.imageSmoothingQuality = 'high'
    context.drawImage(bitmap, 0, 0, canvas.width, canvas.height)
    bitmap.close()
    const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 })
    return blob.size < file.size ? blob : file
  } catch {
    // What can't be read here may be read by the server, which says what it is otherwise.
    return file
  }
}

/** How far something is, in words. @param {number} share @param {boolean} isWaiting */
export const progressSaid = (share, isWaiting) =>
  isWaiting
    ? phrase('making.waitsForLine', { percent: Math.round(100 * share) })
    : phrase('making.underWay', { percent: Math.round(100 * share) })
