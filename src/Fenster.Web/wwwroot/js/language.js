// The sentences of the page's language, from the same file that the server says its own from: whole, with named slots, and with a form
// for each plural category of the slot `count`. What people wrote is isolated where it could run in another direction.

/**
 * @typedef {string | Record<string, string>} Sentence
 * @typedef {{language: string, culture: string, direction: string, sentences: Record<string, Sentence>}} Told
 */

/** @type {{template: HTMLTemplateElement, told: Told, plurals: Intl.PluralRules, numbers: Intl.NumberFormat} | undefined} */
let page
const known = () => {
  const template = /** @type {HTMLTemplateElement} */ (document.getElementById('language'))
  // A page that shows another piece of itself may bring other sentences.
  if (page && (!template || page.template === template)) return page
  const told = /** @type {Told} */ (JSON.parse(template.content.textContent ?? ''))
  return (page = {
    template,
    told,
    plurals: new Intl.PluralRules(told.culture),
    numbers: new Intl.NumberFormat(told.culture, { maximumFractionDigits: 4, useGrouping: false, numberingSystem: 'latn' }),
  })
}

/** @param {number} number @param {number} [decimals] Exactly so many. @returns {string} As the language writes it. */
export const numeral = (number, decimals) =>
  decimals === undefined
    ? known().numbers.format(number)
    : number.toLocaleString(known().told.culture, {
        minimumFractionDigits: decimals,
        maximumFractionDigits: decimals,
        useGrouping: false,
        numberingSystem: 'latn',
      })

const ofRightToLeft = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc\u{10800}-\u{10fff}\u{1e800}-\u{1efff}]/u

/** @param {string} text Of somebody. @returns {string} So that it leaves the sentence around it in its order. */
export const isolated = text => (known().told.direction === 'rtl' || ofRightToLeft.test(text) ? `\u2068${text}\u2069` : text)

/** @param {string} name @param {unknown} count @returns {string[]} Its own words, and between them the names of its slots. */
function split(name, count) {
  const { told, plurals } = known()
  const sentence = told.sentences[name]
  if (sentence === undefined) throw new Error(`There is no sentence '${name}'.`)
  const text = typeof sentence === 'string' ? sentence : (sentence[plurals.select(Number(count))] ?? sentence.other)
  return text.split(/\{(\w+)\}/)
}

/**
 * A sentence in its pieces, in the order of the language.
 * @template T
 * @param {string} name Of its section and its own, such as `screen.saved`.
 * @param {Record<string, T>} slots What fills them.
 * @returns {(string | T)[]}
 */
export const parts = (name, slots) => split(name, slots.count).map((part, i) => (i % 2 === 0 ? part : slots[part]))

/** @param {string} name @param {Record<string, string | number>} [slots] @returns {string} */
export const phrase = (name, slots = {}) =>
  split(name, slots.count)
    .map((part, i) => (i % 2 === 0 ? part : filling(slots[part])))
    .join('')

/** @param {string | number} value A number is written as the language does. */
const filling = value => (typeof value === 'number' ? numeral(value) : isolated(value))

/** @param {string[]} texts Of which empty ones are left out. @param {string} [joint] How the last two are joined. @returns {string} */
export function listed(texts, joint = 'list.comma') {
  const all = texts.filter(Boolean).map(isolated)
  const last = all.pop() ?? ''
  if (all.length === 0) return last
  const first = all.reduce((first, next) => parts('list.comma', { first, next }).join(''))
  return parts(joint, { first, next: last, last }).join('')
}

/** @param {string} name @param {string} text @returns {string} A text with what it belongs to; one alone where the other is empty. */
export const named = (name, text) => (name && text ? phrase('list.named', { name, text }) : name || text)

/** @param {string} name @param {number} number */
export const numbered = (name, number) => parts('list.numbered', { name, number: numeral(number) }).join('')
