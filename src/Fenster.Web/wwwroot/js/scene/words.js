// Words with formulas in them: what stands between two $ signs is set as mathematics.

/** @param {HTMLElement} element @param {string} text */
export function setWords(element, text) {
  const parts = text.split(/\$([^$]+)\$/)
  if (parts.length < 3) {
    element.textContent = text
    return
  }
  // Until the formulas are set, and where they can't be, the words stand as they were written.
  element.textContent = text
  element.dataset.formula = 'waiting'
  formulas().then(katex => {
    element.replaceChildren(...parts.map((part, i) => (i % 2 === 0 ? document.createTextNode(part) : formula(katex, part))))
    element.dataset.formula = 'set'
    element.dispatchEvent(new Event('formula', { bubbles: true }))
  })
}

/** @type {Promise<any> | null} */
let loading = null
// Only who meets a formula fetches what sets it.
const formulas = () => (loading ??= import(new URL('../../lib/katex/katex.mjs', import.meta.url).href).then(module => module.default))

/** @param {any} katex @param {string} tex */
function formula(katex, tex) {
  const span = document.createElement('span')
  span.className = 'formula'
  span.dir = 'ltr'
  katex.render(tex, span, { output: 'mathml', throwOnError: false })
  return span
}
