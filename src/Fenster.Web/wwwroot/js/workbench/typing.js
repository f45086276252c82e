// What a field reads, while someone may be typing in it: the page is drawn anew whenever an answer comes, and what is typed and not taken yet must outlast that.

/** @param {HTMLInputElement | HTMLTextAreaElement} field @param {{expression: string}} directive @param {AlpineTools} tools */
export function reads(field, { expression }, { evaluateLater, effect, cleanup }) {
  const evaluate = evaluateLater(expression)
  let now = ''
  let shown = ''
  const show = () => { field.value = shown = now }
  effect(() => evaluate(value => {
    now = String(value ?? '')
    const isBeingTyped = field === document.activeElement && field.value !== shown
    if (!isBeingTyped) show()
    else if (field.value === now) shown = now
  }))
  // By then a change was taken, or there was none.
  field.addEventListener('blur', show)
  cleanup(() => field.removeEventListener('blur', show))
}
