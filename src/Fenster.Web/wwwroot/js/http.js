// Requests to the server, with answers that are never exceptions.

/**
 * @typedef {object} Answer
 * @property {boolean} ok
 * @property {boolean} offline Whether the server was not reached at all.
 * @property {number} status
 * @property {any} body
 * @property {string} sentence What went wrong, for a person.
 */

const token = () => document.querySelector('meta[name=form-token]')?.getAttribute('content') ?? ''

/** @param {string} url @param {unknown} body JSON, or a Blob that is sent as it is. @returns {Promise<Answer>} */
export function post(url, body) {
  const isBlob = body instanceof Blob
  return request(url, {
    method: 'POST',
    headers: { 'X-Form-Token': token(), 'Content-Type': isBlob ? 'application/octet-stream' : 'application/json' },
    body: isBlob ? body : JSON.stringify(body),
  })
}

/** @param {string} url @returns {Promise<Answer>} */
export const get = url => request(url, {})

/** @param {string} url @param {RequestInit} options @returns {Promise<Answer>} */
async function request(url, options) {
  try {
    const response = await fetch(url, { ...options, headers: { ...options.headers, Accept: 'application/json' }, credentials: 'same-origin' })
    const body = await response.json().catch(() => ({}))
    return { ok: response.ok, offline: false, status: response.status, body, sentence: response.ok ? '' : body.error ?? 'Something went wrong on the server. Try again.' }
  } catch {
    return { ok: false, offline: true, status: 0, body: {}, sentence: 'There is no connection to the server.' }
  }
}
