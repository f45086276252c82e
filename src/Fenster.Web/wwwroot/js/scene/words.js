// Words with formulas in them: what stands between two $ signs is set as mathematics.

const formulaIn = /\$([^$]+)\$/

/** @param {HTMLElement} element @param {string} text */
export function setWords(element, text) {
  const parts = text.split(formulaIn)
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

/** Sets the formulas in what stands on the page already. @param {HTMLElement} element */
export function setFormulas(element) {
  const walker = document.createTreeWalker(element, NodeFilter.SHOW_TEXT)
  const texts = []
  while (walker.nextNode()) texts.push(/** @type {Text} */ (walker.currentNode))
  for (const text of texts.filter(({ data }) => formulaIn.test(data))) {
    const span = document.createElement('span')
    text.replaceWith(span)
    setWords(span, text.data)
  }
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
