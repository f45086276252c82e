// Brings moves to the server: at once when it can be reached, later when not, each exactly once.

import { post } from '../http.js'
import { phrase } from '../language.js'
import { recall, recallJson, remember } from './device.js'

/**
 * @typedef {'saved' | 'saving' | 'offline'} Link
 * @typedef {{work: WorkAnswer, refused: {key: string, sentence: string}[], isLate: boolean, version: number, answers: number}} Answer
 *   What the server says to moves; where nothing is told of a pane, it is as the device shows it.
 * @typedef {object} Sender
 * @property {(pane: string, move: Move) => void} send
 * @property {() => Promise<Answer | null>} handIn Brings what is waiting, then hands in. Null where there is no connection: the wish is
 *   kept on the device, and sent when there is one.
 * @property {() => MoveSent[]} waiting
 */

/**
 * @param {object} options
 * @param {string} options.movesUrl
 * @param {string} options.handInUrl
 * @param {string | undefined} options.deviceKey Where the device keeps unsent moves. Without it nothing is stored anywhere: every
 *   request carries all moves.
 * @param {number} options.version Of the log that the page shows.
 * @param {() => number} options.answers How many answers the page shows.
 * @param {(work: WorkAnswer, version: number) => void} options.onWork
 * @param {(answer: Answer) => void} options.onHandedIn What was wished without a connection is done.
 * @param {(link: Link) => void} options.onLink
 * @param {() => void} options.onLate What was sent came after the end.
 * @param {(sentence: string) => void} options.onRefused
 * @returns {Sender}
 */
export function createSender({ movesUrl, handInUrl, deviceKey, version, answers, onWork, onHandedIn, onLink, onLate, onRefused }) {
  const store = createStore(deviceKey)
  let { moves, wish } = store.read()
  let sending = false
  let unsent = moves.length
  let delay = 0
  let hasTold = false

  const keep = () => {
    if (store.write({ moves, wish }) || hasTold || moves.length === 0) return
    // Without a place to keep them, moves live as long as the page: that has to be known.
    hasTold = true
    onRefused(phrase('screen.keepsNothing'))
  }

  /**
   * What the server has seen is sent no more, whether it was stored or refused.
   * @param {MoveSent[]} sent
   * @param {Answer['refused']} refused
   */
  const forget = (sent, refused) => {
    if (deviceKey) moves = moves.slice(sent.length)
    else moves = moves.filter(move => !refused.some(({ key }) => key === move.key))
    unsent -= Math.min(unsent, sent.length)
    keep()
  }

  /** Whether the page may show something else than what is stored. */
  let isLost = false
  const device = deviceId()

  /** @param {boolean} [isAsking] Whether the work is asked for, though nothing waits. @returns {Promise<void>} */
  const flush = async (isAsking = false) => {
    if (sending) return
    if (unsent === 0 && !isAsking) return wish ? fulfil() : undefined
    sending = true
    onLink('saving')
    const batch = deviceKey ? moves.slice(0, 200) : [...moves]
    const before = unsent
    const answer = await post(movesUrl, { moves: batch, knows: deviceKey && !isLost ? version : null })
    sending = false
    // While everybody's work stands still, or the server can't store it, the device keeps it.
    if (mayBetter(answer)) {
      onLink('offline')
      if (answer.sentence && !answer.offline) onRefused(answer.sentence)
      delay = Math.min(15000, delay * 2 || 1000)
      setTimeout(() => flush(), delay)
      return
    }
    delay = 0
    if (answer.ok) {
      const { work, refused, isLate, version: now, answers: stored } = /** @type {Answer} */ (answer.body)
      forget(deviceKey ? batch : batch.slice(-before), refused)
      if (isLate) return onLate()
      version = now
      const isTold = work.panes.some(pane => pane !== null)
      // What is told while more waits is not shown: the next answer has to tell it again.
      isLost = unsent > 0 ? isLost || isTold : !isTold && stored !== answers()
      // What the page shows is not what is stored: all of it is asked for.
      if (isLost && unsent === 0) return flush(true)
      if (unsent === 0) {
        onLink('saved')
        onWork(work, now)
      }
      if (refused.length > 0) onRefused(refused[refused.length - 1].sentence)
    } else if (answer.status === 422) {
      // Nothing of it can be read, so that it would never be taken.
      forget(batch, [])
      if (unsent === 0) onLink('saved')
      onRefused(answer.sentence)
    } else {
      onLink('offline')
      onRefused(answer.sentence)
      return
    }
    flush()
  }
  /** Hands in what was to be handed in while there was no connection. */
  const fulfil = async () => {
    sending = true
    const answer = await post(handInUrl, { moves: [] })
    sending = false
    if (mayBetter(answer)) {
      delay = Math.min(15000, delay * 2 || 1000)
      setTimeout(() => flush(), delay)
      return
    }
    wish = false
    keep()
    if (answer.ok) onHandedIn(answer.body)
    else onRefused(answer.sentence)
  }

  addEventListener('online', () => {
    delay = 0
    flush()
  })
  if (unsent > 0 || wish) queueMicrotask(flush)

  return {
    send(pane, move) {
      moves.push({ key: `${device}.${randomKey()}`, pane, move, seen: version })
      unsent += 1
      keep()
      flush()
    },
    async handIn() {
      const batch = [...moves]
      const answer = await post(handInUrl, { moves: batch })
      if (answer.offline && !deviceKey) throw new Error(answer.sentence)
      if (answer.offline) {
        wish = true
        keep()
        onLink('offline')
        onRefused(phrase('screen.handInOffline'))
        setTimeout(() => flush(), 1000)
        return null
      }
      if (!answer.ok) throw new Error(answer.sentence)
      forget(batch, answer.body.refused)
      return answer.body
    },
    waiting: () => (deviceKey ? [...moves] : moves.slice(moves.length - unsent)),
  }
}

/** Whether the same may be taken later. @param {import('../http.js').Answer} answer */
const mayBetter = ({ offline, status }) => offline || status === 423 || status >= 500

/** @param {number} [bytes] */
const randomKey = (bytes = 16) =>
  Array.from(crypto.getRandomValues(new Uint8Array(bytes)), byte => byte.toString(16).padStart(2, '0')).join('')

/** The first part of the keys of moves, so that what another device changed meanwhile is told from what this one did. */
function deviceId() {
  const name = 'fenster-this-device'
  const id = recall(name) ?? randomKey(6)
  remember(name, id)
  return id
}

/**
 * Where a device keeps what is not sent yet.
 * @param {string | undefined} key None for a trial, which keeps nothing.
 */
function createStore(key) {
  return {
    /** @returns {{moves: MoveSent[], wish: boolean}} */
    read: () => ({ moves: (key && recallJson(key)) || [], wish: key !== undefined && recall(`${key}-wish`) === 'true' }),
    /** @param {{moves: MoveSent[], wish: boolean}} kept @returns {boolean} False when the device is full, or keeps nothing. */
    write: ({ moves, wish }) =>
      !key || (remember(key, moves.length > 0 ? JSON.stringify(moves) : null) && remember(`${key}-wish`, wish ? 'true' : null)),
  }
}
