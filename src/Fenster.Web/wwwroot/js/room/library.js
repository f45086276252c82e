// Drawings that ship with Fenster, looked for by words.

import { phrase } from '../language.js'
import { get, post } from '../http.js'
import { pictureButton } from './shelf.js'

/**
 * @param {object} room
 * @param {HTMLInputElement} room.words
 * @param {HTMLElement} room.list
 * @param {HTMLElement} room.found
 * @param {string} room.url Of the page.
 * @param {string} room.drawings Address of the folder that holds them.
 * @param {(picture: any) => void} room.choose
 * @param {(sentence: string) => void} room.complain
 */
export function createLibrary({ words, list, found, url, drawings, choose, complain }) {
  let asked = 0
  const look = async () => {
    const turn = ++asked
    const answer = await get(`${url}?handler=Search&words=${encodeURIComponent(words.value)}`)
    if (turn !== asked) return
    if (!answer.ok) {
      found.textContent = answer.sentence
      return
    }
    found.textContent =
      answer.body.length === 0 ? phrase('room.nothingFitsTheseWordsTryAnother') : phrase('room.drawings', { count: answer.body.length })
    list.replaceChildren(
      ...answer.body.map((/** @type {any} */ picture) => {
        const item = document.createElement('li')
        item.append(
          pictureButton(`${drawings}${picture.id}`, picture.title, async () => {
            const taken = await post(`${url}?handler=Take&picture=${encodeURIComponent(picture.id)}`, {})
            if (taken.ok) choose(taken.body)
            else complain(taken.sentence)
          }),
        )
        return item
      }),
    )
  }
  words.addEventListener('input', look)
  look()
}
