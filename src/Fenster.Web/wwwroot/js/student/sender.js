// Brings moves to the server: at once when it can be reached, later when not, each exactly once.

import { post } from '../http.js'
import { phrase } from '../language.js'
import { recall, recallJson, remember } from './device.js'
import { batchOf, merged, MOST_BYTES, withMove } from './waiting.js'

/**
 * @typedef {import('../http.js').Answer} HttpAnswer
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
  /** @type {Promise<void> | null} */
  let sending = null
  /** Keys of the moves that are on their way. @type {Set<string>} */
  let flying = new Set()
  let unsent = moves.length
  let most = MOST_BYTES
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
    const done = new Set((deviceKey ? sent : refused).map(({ key }) => key))
    moves = moves.filter(({ key }) => !done.has(key))
    unsent = deviceKey ? moves.length : unsent - Math.min(unsent, sent.length)
    store.done(done)
    keep()
  }

  /** What goes into one request. Without a place to keep moves, it is all of them each time. */
  const next = () => (deviceKey ? batchOf(moves, most) : [...moves])

  /** Whether the page may show something else than what is stored. */
  let isLost = false
  const device = deviceId()

  const later = () => {
    delay = Math.min(15000, delay * 2 || 1000)
    setTimeout(() => flush(), delay)
  }

  /** One request at a time: who comes meanwhile waits for it. @param {() => Promise<void>} request */
  const alone = request => {
    sending = request().finally(() => {
      sending = null
      flying = new Set()
    })
    return sending
  }

  /** @param {boolean} [isAsking] Whether the work is asked for, though nothing waits. @returns {Promise<void>} */
  const flush = async (isAsking = false) => {
    if (sending) return
    if (unsent === 0 && !isAsking) return wish ? fulfil() : undefined
    let goesOn = false
    await alone(async () => {
      goesOn = await sendOne()
    })
    if (goesOn) await flush(isLost && unsent === 0)
  }

  /** Sends what goes into one request. @returns {Promise<boolean>} Whether more is to be sent or asked for. */
  const sendOne = async () => {
    onLink('saving')
    const batch = next()
    flying = new Set(batch.map(({ key }) => key))
    const before = unsent
    const answer = await post(movesUrl, { moves: batch, knows: deviceKey && !isLost ? version : null })
    // While everybody's work stands still, or the server can't store it, the device keeps it.
    if (mayBetter(answer)) {
      onLink('offline')
      if (answer.sentence && !answer.offline) onRefused(answer.sentence)
      later()
      return false
    }
    if (isTooLarge(answer, batch)) return true
    delay = 0
    if (answer.ok) {
      const { work, refused, isLate, version: now, answers: stored } = /** @type {Answer} */ (answer.body)
      forget(deviceKey ? batch : batch.slice(-before), refused)
      if (isLate) {
        onLate()
        return false
      }
      version = now
      const isTold = work.panes.some(pane => pane !== null)
      // What is told while more waits is not shown: the next answer has to tell it again.
      isLost = unsent > 0 ? isLost || isTold : !isTold && stored !== answers()
      // What the page shows is not what is stored: all of it is asked for.
      if (isLost && unsent === 0) return true
      if (unsent === 0) {
        onLink('saved')
        onWork(work, now)
      }
      if (refused.length > 0) onRefused(refused[refused.length - 1].sentence)
    } else if (answer.status === 422 || answer.status === 413) {
      // Nothing of it can be read, so that it would never be taken.
      forget(batch, [])
      if (unsent === 0) onLink('saved')
      onRefused(answer.sentence)
    } else {
      onLink('offline')
      onRefused(answer.sentence)
      return false
    }
    return true
  }

  /**
   * Something between here and the server may take less than it does: smaller requests then.
   * @param {HttpAnswer} answer
   * @param {MoveSent[]} batch
   */
  const isTooLarge = ({ status }, batch) => {
    const isSo = status === 413 && batch.length > 1
    if (isSo) most = Math.max(1, Math.floor(most / 2))
    return isSo
  }

  /** @param {string} url @param {MoveSent[]} batch @returns {Promise<HttpAnswer>} */
  const bring = async (url, batch) => {
    /** @type {HttpAnswer | undefined} */
    let answer
    await alone(async () => {
      flying = new Set(batch.map(({ key }) => key))
      answer = await post(url, { moves: batch })
    })
    return /** @type {HttpAnswer} */ (answer)
  }

  /** Hands in what was to be handed in while there was no connection. */
  const fulfil = () =>
    alone(async () => {
      const answer = await post(handInUrl, { moves: [] })
      if (mayBetter(answer)) return later()
      wish = false
      keep()
      if (answer.ok) onHandedIn(answer.body)
      else onRefused(answer.sentence)
    })

  /** Wishes that the work is handed in as soon as there is a connection. */
  const wishFor = () => {
    wish = true
    keep()
    onLink('offline')
    onRefused(phrase('screen.handInOffline'))
    setTimeout(() => flush(), 1000)
    return null
  }

  addEventListener('online', () => {
    delay = 0
    flush()
  })
  if (unsent > 0 || wish) queueMicrotask(flush)

  return {
    send(pane, move) {
      const before = moves
      moves = withMove(before, { key: `${device}.${randomKey()}`, pane, move, seen: version }, flying)
      store.done(before.filter(other => !moves.includes(other)).map(({ key }) => key))
      unsent = deviceKey ? moves.length : unsent + 1
      keep()
      flush()
    },
    async handIn() {
      for (;;) {
        while (sending) await sending
        const batch = next()
        // What is more than one request goes before; the last goes with the wish, so that it is one way to the server.
        const isLast = batch.length === moves.length
        const answer = await bring(isLast ? handInUrl : movesUrl, batch)
        if (answer.offline) {
          if (!deviceKey) throw new Error(answer.sentence)
          return wishFor()
        }
        if (isTooLarge(answer, batch)) continue
        if (!answer.ok) throw new Error(answer.sentence)
        forget(batch, answer.body.refused)
        if (isLast) return answer.body
      }
    },
    waiting: () => (deviceKey ? [...moves] : moves.slice(moves.length - unsent)),
  }
}

/** Whether the same may be taken later. @param {HttpAnswer} answer */
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
 * Where a device keeps what is not sent yet, for all tabs in which its student works.
 * @param {string | undefined} key None for a trial, which keeps nothing.
 */
function createStore(key) {
  /** Keys of moves that this tab has done with. @type {Set<string>} */
  const gone = new Set()
  /** @returns {MoveSent[]} */
  const stored = () => (key && recallJson(key)) || []
  return {
    /** @returns {{moves: MoveSent[], wish: boolean}} */
    read() {
      if (key) takeOver(key)
      return { moves: stored(), wish: key !== undefined && recall(`${key}-wish`) === 'true' }
    },
    /** @param {Iterable<string>} keys */
    done(keys) {
      for (const each of keys) gone.add(each)
    },
    /** @param {{moves: MoveSent[], wish: boolean}} kept @returns {boolean} False when the device is full, or keeps nothing. */
    write({ moves, wish }) {
      if (!key) return true
      const all = merged(stored(), moves, gone)
      return remember(key, all.length > 0 ? JSON.stringify(all) : null) && remember(`${key}-wish`, wish ? 'true' : null)
    },
  }
}

/** Takes over what an earlier version kept under the attempt's number, with which its name of today begins. @param {string} key */
function takeOver(key) {
  const number = /^attempt-(0{8}[0-9a-f]{8})/.exec(key)?.[1]
  if (!number) return
  for (const what of ['', '-wish']) {
    const before = `attempt-${parseInt(number, 16)}${what}`
    const kept = recall(before)
    if (kept !== null && recall(key + what) === null) remember(key + what, kept)
    remember(before, null)
  }
}
