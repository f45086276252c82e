// What belongs to the activity as a whole: what to do, a message, names, subjects, language, and what is said to a score.

import { phrase } from '../language.js'
import { faceFields, numberIn, withFace } from './kinds/fields.js'
import { fieldOf } from './ledger.js'
import { createWriting } from './writing.js'
import { trySetting } from './rows.js'

const aidNames = /** @type {const} */ (['calculator', 'ruler', 'magnifier'])

/** How students' screens show it, as the fields say it. @param {ActivityDocument | null} doc */
function looksOf(doc) {
  const { beginsSingly = false, cheers = false, aids = [], leaving = 'askedOnce' } = doc?.screen ?? {}
  const [calculator, ruler, magnifier] = aidNames.map(aid => aids.includes(aid))
  return { begins: beginsSingly ? 'singly' : 'whole', cheers, leaving, calculator, ruler, magnifier }
}

/** @param {import('./desk.js').Desk} desk @returns {import('./desk.js').Part} */
export function settingsPart(desk) {
  const { doc, changeDocument } = desk
  /** @type {Awaited<ReturnType<typeof createWriting>> | null} */
  let writing = null

  return {
    show() {
      const state = desk.state()
      const {
        privateName = '',
        description = '',
        keywords = [],
        language = 'en',
        direction = 'leftToRight',
        message = null,
        messageText = '',
        scoreBands = [],
      } = doc()
      Object.assign(state, {
        isStarter: doc().isStarter ?? false,
        looks: looksOf(doc()),
        privateName,
        description,
        language,
        direction,
        messageText,
        keywords: keywords.join(', '),
        hasMessage: message !== null,
        messageClass: message !== null ? 'has-message' : '',
        messageFields: faceFields('message', phrase('bench.pictureSoundOrVideoMessage'), message).map(field => fieldOf('message', field)),
        bands: scoreBands.map((band, i) => ({ id: i, index: String(i), from: String(Math.round(band.from * 1000) / 10), text: band.text })),
      })
      writing?.show(doc().instructions)
    },
    listen() {
      // The picture and its ledger come first.
      requestIdleCallback(
        async () => {
          writing = await createWriting(/** @type {HTMLElement} */ (document.getElementById('instructions')), doc().instructions, html =>
            changeDocument({ ...doc(), instructions: html }, 'instructions'),
          )
        },
        { timeout: 2000 },
      )
    },
    page: {
      isStarter: false,
      looks: looksOf(null),
      privateName: '',
      description: '',
      keywords: '',
      language: 'en',
      direction: 'leftToRight',
      messageText: '',
      hasMessage: false,
      messageClass: '',
      messageFields: [],
      bands: [],
      /** @param {Event} event */
      setAbout(event) {
        const { name, value } = /** @type {HTMLInputElement} */ (event.currentTarget)
        const changed =
          name === 'keywords'
            ? value
                .split(/[,;]/)
                .map(word => word.trim())
                .filter(Boolean)
                .slice(0, 30)
            : value
        changeDocument({ ...doc(), [name]: changed }, name)
      },
      /** @param {Event} event */
      setScreen(event) {
        const { name, value, checked } = /** @type {HTMLInputElement} */ (event.currentTarget)
        const screen = doc().screen ?? {}
        const allowed = aidNames.filter(aid => (aid === name ? checked : screen.aids?.includes(aid)))
        changeDocument({
          ...doc(),
          screen: {
            ...screen,
            aids: allowed,
            ...(name === 'beginsSingly' ? { beginsSingly: value === 'singly' } : {}),
            ...(name === 'leaving' ? { leaving: /** @type {Sent.Leaving} */ (value) } : {}),
            ...(name === 'cheers' ? { cheers: checked } : {}),
          },
        })
      },
      /** @param {Event} event */
      setStarter(event) {
        changeDocument({ ...doc(), isStarter: /** @type {HTMLInputElement} */ (event.currentTarget).checked })
      },
      /** @param {Event} event */
      setMessage(event) {
        const field = /** @type {HTMLInputElement} */ (event.currentTarget)
        changeDocument({ ...doc(), message: withFace(doc().message, (field.dataset.name ?? '').slice(7), field.value) })
      },
      addBand() {
        changeDocument({ ...doc(), scoreBands: [...(doc().scoreBands ?? []), { from: freeShare(doc().scoreBands ?? []), text: '' }] })
      },
      /** @param {Event} event */
      setBand(event) {
        const field = /** @type {HTMLInputElement} */ (event.currentTarget)
        const index = Number(field.dataset.index)
        const set = (/** @type {Partial<{from: number, text: string}>} */ part) =>
          changeDocument(
            { ...doc(), scoreBands: (doc().scoreBands ?? []).map((band, i) => (i === index ? { ...band, ...part } : band)) },
            `band ${index} ${field.name}`,
          )
        if (field.name === 'text') return set({ text: field.value })
        trySetting(desk, field, () => {
          const share = (numberIn(field.value) ?? -1) / 100
          const isTaken = (doc().scoreBands ?? []).some((band, i) => i !== index && band.from === share)
          if (share >= 0 && share <= 1 && !isTaken) set({ from: share })
        })
      },
      /** @param {Event} event */
      removeBand(event) {
        const index = Number(/** @type {HTMLElement} */ (event.currentTarget).dataset.index)
        changeDocument({ ...doc(), scoreBands: (doc().scoreBands ?? []).filter((_, i) => i !== index) })
      },
    },
  }
}

/** @param {{from: number}[]} bands @returns {number} A share at which no band begins yet. */
const freeShare = bands =>
  [0, 0.5, 0.8, ...Array.from({ length: 100 }, (_, i) => i / 100)].find(share => bands.every(band => band.from !== share)) ?? 0
