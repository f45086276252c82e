// A plain board, asked for in a sentence.

import { post } from '../http.js'

/** @param {{value: string}} field @param {string | RegExp} between */
const listIn = ({ value }, between) =>
  value
    .split(between)
    .map(part => part.trim())
    .filter(Boolean)

/** @param {HTMLFormElement} form @param {string} url @param {(picture: any) => void} choose @param {(sentence: string) => void} complain */
export function listenForBoards(form, url, choose, complain) {
  /** @param {string} id */
  const field = id => /** @type {HTMLInputElement} */ (form.querySelector(`#board-${id}`))
  const fit = () => {
    for (const label of /** @type {NodeListOf<HTMLElement>} */ (form.querySelectorAll('[data-for]')))
      label.hidden = !label.dataset.for?.split(' ').includes(field('kind').value)
  }
  field('kind').addEventListener('change', () => {
    if (field('kind').value === 'timeline' && field('from').value === '0')
      for (const [id, value] of Object.entries({ from: '1900', to: '2000', step: '10' })) field(id).value = value
    fit()
  })
  fit()
  form.addEventListener('submit', async event => {
    event.preventDefault()
    const kind = field('kind').value
    const wish = {
      kind,
      from: Number(field('from').value),
      to: Number(field('to').value),
      step: Number(field(kind === 'squared' ? 'squares' : 'step').value),
      names: kind === 'game' ? listIn(field('topics'), '\n') : listIn(field('names'), ','),
      values: listIn(field('values'), /[;\s]+/)
        .map(value => Number(value.replace(',', '.')))
        .filter(value => !Number.isNaN(value)),
      colour: field('colour').value,
    }
    const answer = await post(`${url}?handler=Board`, wish)
    complain(answer.ok ? '' : answer.sentence)
    // What was wished goes along: a board brings its scale or its regions.
    if (answer.ok) choose({ ...answer.body, board: wish })
  })
}
