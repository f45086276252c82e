// What was drawn on a canvas, as a file.

import { phrase } from '../language.js'

/**
 * @param {HTMLCanvasElement} canvas
 * @param {string} [type]
 * @param {number} [quality] From 0 to 1, where the type has one.
 * @returns {Promise<Blob>} Rejected with a sentence where the browser has no memory for it.
 */
export const fileOf = (canvas, type = 'image/png', quality) =>
  new Promise((resolve, reject) => canvas.toBlob(blob => (blob ? resolve(blob) : reject(new Error(phrase('room.notMade')))), type, quality))
