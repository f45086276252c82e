// The list of activities: a file that is dropped anywhere on it, or chosen, is taken in at once.

const form = /** @type {HTMLFormElement} */ (document.querySelector('.take-bundle'))
const field = /** @type {HTMLInputElement} */ (document.getElementById('bundle'))
const page = /** @type {HTMLElement} */ (document.querySelector('.activities'))

field.addEventListener('change', () => {
  if (field.files?.length) form.submit()
})
document.addEventListener('dragover', event => {
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  page.classList.add('dropping')
})
document.addEventListener('dragleave', event => {
  if (!event.relatedTarget) page.classList.remove('dropping')
})
document.addEventListener('drop', event => {
  page.classList.remove('dropping')
  if (!event.dataTransfer?.files.length) return
  event.preventDefault()
  field.files = event.dataTransfer.files
  form.submit()
})
