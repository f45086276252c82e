// What is said of the activity and of the pane that is shown: title, alt text, weight, explanation.

import { numberIn } from './kinds/fields.js'
import { trySetting } from './rows.js'
import { valueOf } from './typing.js'

/** @param {import('./desk.js').Desk} desk */
export function paneWordsPart(desk) {
  const { doc, pane, change } = desk
  return {
    show() {
      const state = desk.state()
      const picture = desk.shown().picture ?? null
      state.title = doc().title
      state.altText = pane().picture?.altText ?? ''
      state.altClass = state.altText ? '' : 'alt-missing'
      state.hasPicture = picture !== null
      state.isMatchingOnly = picture === null && pane().targets.length > 0
      state.isOwnPicture = pane().targets.some(target => target.kind === 'ownPicture')
      state.weight = String(pane().weight ?? 1)
      state.paneExplanation = pane().explanation ?? ''
    },
    page: {
      title: '',
      altText: '',
      altClass: '',
      hasPicture: false,
      isMatchingOnly: false,
      isOwnPicture: false,
      weight: '1',
      paneExplanation: '',
      /** Whether anything may be put on the picture. */
      get hasTools() {
        return this.hasPicture && !this.isOwnPicture
      },
      get hasNoPicture() {
        return !this.hasPicture && !this.isMatchingOnly
      },
      /** @param {Event} event */
      retitle(event) {
        if (valueOf(event).trim()) desk.changeDocument({ ...doc(), title: valueOf(event) }, 'title')
      },
      /** @param {Event} event */
      finishTitle(event) {
        ;/** @type {HTMLInputElement} */ (event.currentTarget).value = doc().title
      },
      /** @param {Event} event */
      describe(event) {
        const { picture } = pane()
        if (picture) change({ ...pane(), picture: { ...picture, altText: valueOf(event).trim() } })
      },
      /** @param {Event} event */
      setWeight(event) {
        const weight = numberIn(valueOf(event))
        trySetting(desk, /** @type {HTMLInputElement} */ (event.currentTarget), () => {
          if (weight !== null && weight > 0) change({ ...pane(), weight })
        })
      },
      /** @param {Event} event */
      explainPane(event) {
        change({ ...pane(), explanation: valueOf(event) }, 'explanation')
      },
    },
  }
}
