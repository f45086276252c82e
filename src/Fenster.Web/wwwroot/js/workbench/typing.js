// What stands in the page while an answer comes: a label’s words, and a field in which someone may be typing, where what is typed and
// not taken yet must outlast the answer.

import { setWords } from '../scene/words.js'

/** @param {Event} event @returns {string} The ledger's row that it happened in. */
export const rowOf = event =>
  /** @type {HTMLElement} */ (/** @type {HTMLElement} */ (event.currentTarget).closest('[data-row]')).dataset.row ?? ''

/** @param {Event} event */
export const valueOf = event => /** @type {HTMLInputElement} */ (event.currentTarget).value

/**
 * Words as students see them, with their formulas set.
 * @param {HTMLElement} element
 * @param {{expression: string}} directive
 * @param {AlpineTools} tools
 */
export function words(element, { expression }, { evaluateLater, effect }) {
  const evaluate = evaluateLater(expression)
  effect(() => evaluate(value => setWords(element, String(value ?? ''))))
}

/** @param {HTMLInputElement | HTMLTextAreaElement} field @param {{expression: string}} directive @param {AlpineTools} tools */
export function reads(field, { expression }, { evaluateLater, effect, cleanup }) {
  const evaluate = evaluateLater(expression)
  let now = ''
  let shown = ''
  const show = () => {
    field.value = shown = now
  }
  effect(() =>
    evaluate(value => {
      now = String(value ?? '')
      const isBeingTyped = field === document.activeElement && field.value !== shown
      if (!isBeingTyped) show()
      else if (field.value === now) shown = now
    }),
  )
  // By then a change was taken, or there was none.
  field.addEventListener('blur', show)
  cleanup(() => field.removeEventListener('blur', show))
}
