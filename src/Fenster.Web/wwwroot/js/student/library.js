// Drawings that a student may take as a picture.

import { button, element } from '../element.js'
import { get, post } from '../http.js'
import { phrase } from '../language.js'

/**
 * @param {HTMLElement} panel
 * @param {string} library Where drawings are looked for and taken.
 * @param {(taken: import('./bringing.js').Taken, altText: string) => void} use
 */
export function openLibrary(panel, library, use) {
  const dialog = element('dialog', 'making-library')
  dialog.setAttribute('aria-label', phrase('making.library'))
  const search = element('input', 'form-control')
  search.type = 'search'
  search.setAttribute('aria-label', phrase('making.look'))
  search.placeholder = phrase('making.look')
  const list = element('ul', 'library-found')
  const says = element('p', 'making-hint')
  says.setAttribute('role', 'status')
  const close = button('btn btn-outline-primary', phrase('cards.close'), () => dialog.close())
  dialog.append(search, says, list, close)
  panel.append(dialog)
  dialog.addEventListener('close', () => dialog.remove())
  /** @param {{id: string, title: string, altText: string, url: string}} drawing */
  const choice = ({ id, title, altText, url }) => {
    const item = element('li', '')
    const choose = button('btn library-choice', '', async () => {
      const taken = await post(`${library}&id=${encodeURIComponent(id)}`, {})
      if (!taken.ok) return void (says.textContent = taken.sentence)
      dialog.close()
      use(taken.body, altText)
    })
    const image = element('img', '')
    Object.assign(image, { src: url, alt: '', loading: 'lazy' })
    choose.append(image, element('span', '', title))
    item.append(choose)
    return item
  }
  let asked = 0
  const look = async () => {
    const mine = ++asked
    const answer = await get(`${library}&words=${encodeURIComponent(search.value)}`)
    if (mine !== asked) return
    says.textContent = answer.ok ? phrase('making.found', { count: answer.body.found.length }) : answer.sentence
    list.replaceChildren(...(answer.body.found ?? []).map(choice))
  }
  let wait = 0
  search.addEventListener('input', () => {
    clearTimeout(wait)
    wait = setTimeout(look, 250)
  })
  dialog.showModal()
  look()
}
