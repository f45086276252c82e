// Links are copied; a word of an assignment that is changed is stored at once, and the page shows what it came to.

import { phrase } from '../language.js'

document.addEventListener('click', async event => {
  const button = /** @type {HTMLElement} */ (event.target).closest('button')
  if (button?.dataset.copy !== undefined) await copy(button)
  if (button?.classList.contains('word-back')) set(button, button.dataset.path ?? '', '', button.dataset.was ?? '')
})

document.addEventListener('change', event => {
  const field = /** @type {HTMLInputElement | HTMLSelectElement} */ (event.target)
  if (field.closest('[data-terms]')) set(field, field.name, field.value, field.dataset.was ?? '')
})

/** @param {HTMLElement} button */
async function copy(button) {
  try {
    await navigator.clipboard.writeText(button.dataset.copy ?? '')
    button.textContent = phrase('share.copied')
  } catch {
    const link = button.closest('section')?.querySelector('.way-in-link a')
    if (link) getSelection()?.selectAllChildren(link)
    button.textContent = phrase('share.pressCtrlC')
  }
}

/** @param {HTMLElement} word @param {string} path @param {string} value @param {string} was What the page showed. */
async function set(word, path, value, was) {
  const assignment = /** @type {HTMLElement | null} */ (word.closest('[data-assignment]'))?.dataset.assignment ?? ''
  const token = document.querySelector('meta[name=form-token]')?.getAttribute('content') ?? ''
  const opened = [...document.querySelectorAll('details')].map(details => details.open)
  const response = await fetch('?handler=Set', {
    method: 'POST',
    body: new URLSearchParams({ assignment, path, value, was, __RequestVerificationToken: token }),
  }).catch(() => null)
  if (!response?.ok) return location.reload()
  const page = new DOMParser().parseFromString(await response.text(), 'text/html')
  const [here, there] = [document.querySelector('main'), page.querySelector('main')]
  if (!here || !there) return location.reload()
  here.replaceChildren(...there.childNodes)
  document.querySelectorAll('details').forEach((details, i) => (details.open = opened[i] ?? details.open))
  const name = path.replace(/^-/, '')
  const again = /** @type {HTMLElement | null} */ (document.querySelector(`#assignment-${assignment} [name="${name}"]`))
  again?.focus({ preventScroll: true })
}
