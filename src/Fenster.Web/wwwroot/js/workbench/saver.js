// Saves continuously. Each save carries the version it changes, and of the panes those that differ from it; what is not saved yet
// is kept on the device.

import { phrase } from '../language.js'
import { get, post } from '../http.js'

/**
 * @typedef {'saved' | 'saving' | 'offline' | 'conflict' | 'refused' | 'signedOut'} SaveState
 * @typedef {{version: number, document: ActivityDocument}} Kept
 */

/**
 * @param {object} options
 * @param {string} options.url
 * @param {string} options.deviceKey
 * @param {number} options.version
 * @param {ActivityDocument} options.document As it is saved in that version.
 * @param {(state: SaveState, sentence: string) => void} options.onState
 * @param {(answer: any) => void} options.onSaved
 */
export function createSaver({ url, deviceKey, version, document: opened, onState, onSaved }) {
  /** What is saved in the version; null where that is not known. @type {ActivityDocument | null} */
  let saved = opened
  /** @type {ActivityDocument | null} */
  let waiting = null
  /** @type {Promise<void> | null} */
  let running = null
  let timer = 0
  let stopped = false
  let isKept = true

  const run = async () => {
    while (waiting && !stopped) {
      const document = waiting
      onState('saving', '')
      const answer = await post(`${url}?handler=Save`, { version, document: changedIn(document, saved) })
      if (answer.ok) {
        version = answer.body.version
        saved = document
        sessionStorage.setItem(deviceKey, String(version))
        if (waiting === document) {
          waiting = null
          localStorage.removeItem(deviceKey)
          onState('saved', '')
        }
        onSaved(answer.body)
      } else if (answer.status === 409) {
        stopped = true
        version = answer.body.version
        saved = null
        onState('conflict', answer.sentence)
      } else if (answer.status === 401) {
        // The sign-in ran out; what is written waits on the device until the teacher is back.
        onState('signedOut', '')
        return
      } else if (answer.status === 422 || answer.status === 413) {
        onState('refused', answer.sentence)
        return
      } else {
        onState('offline', !isKept ? phrase('bench.noRoom') : answer.offline ? '' : answer.sentence)
        schedule(3000)
        return
      }
    }
  }

  const flush = () => {
    clearTimeout(timer)
    running ??= run().finally(() => {
      running = null
    })
    return running
  }

  /** @param {number} delay */
  const schedule = delay => {
    clearTimeout(timer)
    timer = setTimeout(flush, delay)
  }

  addEventListener('online', flush)

  return {
    /** @param {ActivityDocument} document */
    save(document) {
      waiting = document
      isKept = keep(deviceKey, { version, document })
      if (stopped) return
      onState('saving', '')
      schedule(350)
    },
    flush,
    /** Goes on from what another window stored: with ours over it, or by dropping ours. @param {boolean} withMine */
    resolve(withMine) {
      stopped = false
      if (!withMine) {
        waiting = null
        localStorage.removeItem(deviceKey)
      }
      return flush()
    },
    /** What another window stored. */
    async newest() {
      const answer = await get(`${url}?handler=Draft`)
      return answer.ok ? /** @type {Kept} */ (answer.body) : null
    },
    /** @param {number} next */
    setVersion(next) {
      version = next
      saved = null
    },
  }
}

/**
 * A document to send: the panes that are the very ones that are saved are named by their ids. A document is never changed in place.
 * @param {ActivityDocument} document
 * @param {ActivityDocument | null} saved
 */
function changedIn(document, saved) {
  const known = new Set(saved?.panes)
  return { ...document, panes: document.panes.map(pane => (known.has(pane) ? pane.id : pane)) }
}

/**
 * @param {string} deviceKey
 * @param {Kept} kept
 * @returns {boolean} False when the device has no room for it: then only the server can save.
 */
function keep(deviceKey, kept) {
  try {
    localStorage.setItem(deviceKey, JSON.stringify(kept))
    return true
  } catch {
    return false
  }
}

/**
 * Whether the page was sent before this window's last save arrived, as when it is loaded again right after a change.
 * @param {string} deviceKey
 * @param {number} version
 */
export function isOutrun(deviceKey, version) {
  const saved = Number(sessionStorage.getItem(deviceKey))
  sessionStorage.removeItem(deviceKey)
  return saved > version
}

/** @param {string} deviceKey @returns {Kept | null} What this device kept when it could not save. */
export function keptOnDevice(deviceKey) {
  const text = localStorage.getItem(deviceKey)
  return text ? JSON.parse(text) : null
}
