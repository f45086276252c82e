// Copies the link to the clipboard.

import { phrase } from '../language.js'

for (const button of document.querySelectorAll('[data-copy]')) {
  button.addEventListener('click', async () => {
    const link = /** @type {HTMLElement} */ (button).dataset.copy ?? ''
    try {
      await navigator.clipboard.writeText(link)
      button.textContent = phrase('share.copied')
    } catch {
      getSelection()?.selectAllChildren(/** @type {Element} */ (document.getElementById('join-link')))
      button.textContent = phrase('share.pressCtrlC')
    }
  })
}
