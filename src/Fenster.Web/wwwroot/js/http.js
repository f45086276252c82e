// Requests to the server, with answers that are never exceptions.

import { phrase } from './language.js'

/**
 * @typedef {object} Answer
 * @property {boolean} ok
 * @property {boolean} offline Whether the server was not reached at all.
 * @property {number} status
 * @property {any} body
 * @property {string} sentence What went wrong, for a person.
 */

const token = () => document.querySelector('meta[name=form-token]')?.getAttribute('content') ?? ''

/** What a student's device brings with each request, by which it is known. */
let secret = ''
/** @param {string} device */
export const bringsDevice = device => {
  secret = device
}

/** @param {string} url @param {unknown} body JSON, or a Blob that is sent as it is. @returns {Promise<Answer>} */
export async function post(url, body) {
  const isBlob = body instanceof Blob
  const sent = isBlob ? body : new Blob([JSON.stringify(body)], { type: 'application/json' })
  // The server would close the connection on it, which looks as if there were none.
  if (!isBlob && sent.size > MOST_BYTES) return answerOf(413, { error: phrase('screen.tooLarge') })
  return request(url, {
    method: 'POST',
    headers: { 'X-Form-Token': token(), 'Content-Type': isBlob ? 'application/octet-stream' : 'application/json' },
    body: sent,
  })
}

/** What an activity's document may hold. */
const MOST_BYTES = 8 * 1024 * 1024

/**
 * Sends a file, and tells how far it is.
 * @param {string} url
 * @param {Blob} file
 * @param {(share: number) => void} onProgress From 0 to 1: all is sent, and the server works on it.
 * @returns {Promise<Answer>}
 */
export const upload = (url, file, onProgress) =>
  new Promise(resolve => {
    const request = new XMLHttpRequest()
    request.open('POST', url)
    request.setRequestHeader('X-Form-Token', token())
    request.setRequestHeader('Content-Type', 'application/octet-stream')
    request.setRequestHeader('Accept', 'application/json')
    request.responseType = 'json'
    request.upload.addEventListener('progress', event => onProgress(event.lengthComputable ? event.loaded / event.total : 0))
    request.addEventListener('load', () => resolve(answerOf(request.status, request.response ?? {})))
    request.addEventListener('error', () => resolve(unreached()))
    request.send(file)
  })

/** @param {string} url @returns {Promise<Answer>} */
export const get = url => request(url, {})

/** @param {string} url @param {RequestInit} options @returns {Promise<Answer>} */
async function request(url, options) {
  try {
    const response = await fetch(url, {
      ...options,
      headers: { ...options.headers, Accept: 'application/json', ...(secret && { 'Fenster-Device': secret }) },
      credentials: 'same-origin',
    })
    return answerOf(response.status, await response.json().catch(() => ({})))
  } catch {
    return unreached()
  }
}

/** @returns {Answer} */
const unreached = () => ({ ok: false, offline: true, status: 0, body: {}, sentence: phrase('screen.noConnection') })

/** @param {number} status @param {any} body @returns {Answer} */
function answerOf(status, body) {
  const ok = status >= 200 && status < 300
  return { ok, offline: false, status, body, sentence: ok ? '' : (body.error ?? phrase('screen.wentWrong')) }
}
