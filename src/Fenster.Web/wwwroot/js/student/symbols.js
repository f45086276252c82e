// Signs that a keyboard hides, one tap away while something is typed: degrees, fractions, Greek, and the language's own letters.

import { phrase } from '../language.js'

const signs = ['°', '²', '³', '½', '¼', '±', '×', '÷', '√', '≤', '≥', '≠', 'µ', 'π', 'α', 'β', 'γ', 'δ', 'θ', 'λ', 'Δ', 'Ω']

/** Letters beside a to z that a language writes with, from memory; the signs alone for others. */
const letters = /** @type {Record<string, string>} */ ({
  da: 'æøå',
  de: 'äöüß',
  es: 'áéíóúñü¿¡',
  fr: 'àâçéèêëîïôùûœ',
  it: 'àèéìòù',
  nl: 'éëïóö',
  no: 'æøå',
  pl: 'ąćęłńóśźż',
  pt: 'ãáâàçéêíóôõú',
  sv: 'åäö',
  tr: 'çğıöşü',
})

/** @param {HTMLElement} work */
export function offerSymbols(work) {
  const bar = document.createElement('div')
  bar.className = 'symbols'
  bar.setAttribute('role', 'group')
  bar.setAttribute('aria-label', phrase('aids.symbols'))
  bar.dir = 'ltr'
  /** @type {HTMLInputElement | HTMLTextAreaElement | null} */
  let field = null
  const own = letters[(work.lang || document.documentElement.lang).slice(0, 2)] ?? ''
  for (const sign of [...own, ...signs]) {
    const button = document.createElement('button')
    Object.assign(button, { type: 'button', textContent: sign, tabIndex: -1 })
    // The field keeps the focus, and the keyboard of a phone stays open.
    button.addEventListener('pointerdown', event => event.preventDefault())
    button.addEventListener('click', () => {
      if (!field) return
      field.setRangeText(sign, field.selectionStart ?? field.value.length, field.selectionEnd ?? field.value.length, 'end')
      field.dispatchEvent(new Event('input', { bubbles: true }))
    })
    bar.append(button)
  }
  /** @param {EventTarget | null} target */
  const show = target => {
    field =
      target instanceof HTMLTextAreaElement || (target instanceof HTMLInputElement && target.type === 'text')
        ? /** @type {HTMLInputElement} */ (target)
        : null
    if (field?.readOnly) field = null
    // Beside the field, whatever it lies in.
    if (field) (field.closest('.singly, dialog') ?? work).append(bar)
    else bar.remove()
  }
  // While something is pressed it stays: what is pressed would move away under the finger.
  let isPressed = false
  /** @type {EventTarget | null} */
  let focused = null
  /** @param {EventTarget | null} target */
  const turnTo = target => {
    focused = target
    if (!isPressed) show(target)
  }
  for (const [name, isDown] of /** @type {const} */ ([
    ['pointerdown', true],
    ['pointerup', false],
    ['pointercancel', false],
  ]))
    addEventListener(
      name,
      () => {
        isPressed = isDown
        // After the click that belongs to it.
        if (!isDown) setTimeout(() => show(focused))
      },
      { capture: true },
    )
  work.addEventListener('focusin', event => turnTo(event.target))
  work.addEventListener('focusout', event => {
    if (!event.relatedTarget || !work.contains(/** @type {Node} */ (event.relatedTarget))) turnTo(null)
  })
  focused = document.activeElement
  show(document.activeElement)
}
