// A student's way in: the page is a shell, and what a device may see is asked for with the secret that it was given: the first time by
// first.js. The secret is kept where the browser lets it be kept, and else for as long as the page is open.

import { open } from './main.js'

const stage = /** @type {HTMLElement} */ (document.getElementById('stage'))
const key = stage.dataset.key ?? ''
const url = stage.dataset.now ?? ''

/** Keeps things where the browser lets it; what it refuses is remembered for as long as the page is open. @param {() => Storage} storage */
const shelf = storage => {
  /** @type {Map<string, string>} */
  const remembered = new Map()
  return {
    /** @param {string} name */
    get(name) {
      try {
        return storage().getItem(name) ?? remembered.get(name) ?? null
      } catch {
        return remembered.get(name) ?? null
      }
    },
    /** @param {string} name @param {string | null} value */
    set(name, value) {
      if (value === null) remembered.delete(name)
      else remembered.set(name, value)
      try {
        if (value === null) storage().removeItem(name)
        else storage().setItem(name, value)
      } catch {
        // It is remembered all the same.
      }
    },
  }
}
const device = shelf(() => localStorage)
const visit = shelf(() => sessionStorage)

/** @type {number | undefined} */
let asking

/** What is on the page, as the server made it. */
let shown = ''

/**
 * @param {string} query
 * @param {RequestInit} [options]
 * @param {{isTimed?: boolean, answer?: Promise<StudentAnswer>}} [how] Whether nobody but the clock asks; what was asked already.
 */
async function ask(query, options = {}, { isTimed = false, answer } = {}) {
  clearTimeout(asking)
  stage.setAttribute('aria-busy', 'true')
  try {
    const { headers, html: body } = await (answer ?? window.fensterAsks(query, device.get(key), options))
    const secret = headers.get('Fenster-Device')
    const other = headers.get('Fenster-Code')
    if (secret && other) {
      device.set(`fenster-device-${other}`, secret)
      visit.set(`fenster-device-${other}`, 'here')
      return location.assign(`/do/${other}`)
    }
    if (secret) device.set(key, secret)
    if (headers.get('Fenster-Forget')) {
      device.set(key, null)
      forgetWork()
      const { forgetOffline } = await import('./offline.js')
      await forgetOffline(url.replace(/\/now$/, ''))
    }
    // Whoever came in sits here until the tab is closed.
    if (secret) visit.set(key, 'here')
    const html = await body
    // What is looked at stays as it is while nothing new comes.
    if (isTimed && html === shown) askAgain()
    else await show(html)
  } catch {
    const problem = document.createElement('p')
    problem.className = 'problem'
    problem.setAttribute('role', 'alert')
    problem.textContent = stage.dataset.offline ?? ''
    const again = document.createElement('button')
    again.type = 'button'
    again.className = 'btn btn-primary'
    again.textContent = stage.dataset.again ?? ''
    again.addEventListener('click', () => ask(query, options))
    stage.replaceChildren(problem, again)
  }
  stage.removeAttribute('aria-busy')
}

/** What was shown is forgotten; what is not sent yet stays, bound to its own attempt. */
function forgetWork() {
  try {
    for (const name of Object.keys(localStorage)) if (/^attempt-\d+-(work|again)$/.test(name)) localStorage.removeItem(name)
  } catch {
    // A device that keeps nothing has nothing to forget.
  }
}

/** What is laid out is measured, so that the styles have to be there first; one that can't be had holds nothing up. */
const styled = () =>
  Promise.all(
    [.../** @type {NodeListOf<HTMLLinkElement>} */ (document.querySelectorAll('link[rel=stylesheet]'))]
      .filter(link => !link.sheet)
      .map(link => new Promise(resolve => ['load', 'error'].forEach(end => link.addEventListener(end, resolve, { once: true })))),
  )

/** So have the letters: words that change their type move what is beside them. One that is long on its way holds nothing up. */
const lettered = Promise.race([
  document.fonts.load(`1rem ${getComputedStyle(document.body).fontFamily}`, document.title),
  new Promise(resolve => setTimeout(resolve, 1000)),
]).catch(() => {})

/** Where something may come by itself, it is looked for. */
function askAgain() {
  const waits = /** @type {HTMLElement | null} */ (stage.querySelector('[data-waits]'))
  if (waits) asking = window.setTimeout(() => ask('', {}, { isTimed: true }), Number(waits.dataset.waits) * 1000)
}

/** @param {string} html Made by the server. */
async function show(html) {
  shown = html
  const piece = document.createElement('template')
  piece.innerHTML = html
  const work = /** @type {HTMLElement | null} */ (piece.content.querySelector('#work'))
  if (work) {
    // It is shown when all that it needs is there, so that nothing moves about.
    document.head.append(...piece.content.querySelectorAll('link[rel=stylesheet]'))
    await Promise.all([styled(), lettered])
    await open(work, { secret: device.get(key) ?? '', now: url, again: () => ask('?handedIn=true') }, () => place(piece.content, true))
  } else {
    place(piece.content, false)
    const gallery = document.getElementById('gallery')
    document.body.classList.toggle('with-gallery', gallery !== null)
    if (gallery) {
      const [{ showGallery }] = await Promise.all([import('./gallery.js'), styled()])
      showGallery(gallery)
    }
    const first = /** @type {HTMLElement | null} */ (stage.querySelector('[autofocus]'))
    first?.focus()
  }
}

/** @param {DocumentFragment} piece @param {boolean} isWork */
function place(piece, isWork) {
  stage.replaceChildren(piece)
  document.body.classList.toggle('welcome', !isWork)
  document.body.classList.toggle('student-page', isWork)
  for (const form of stage.querySelectorAll('form[data-handler]'))
    form.addEventListener('submit', event => {
      event.preventDefault()
      const fields = new URLSearchParams(/** @type {any} */ (new FormData(/** @type {HTMLFormElement} */ (form))))
      ask(`?handler=${/** @type {HTMLElement} */ (form).dataset.handler}`, { method: 'POST', body: fields })
    })
  for (const button of stage.querySelectorAll('[data-act]'))
    button.addEventListener('click', () => {
      const { act } = /** @type {HTMLElement} */ (button).dataset
      visit.set(key, 'here')
      if (act === 'other') device.set(key, null)
      ask(act === 'mine' ? '?mine=true' : act === 'gallery' ? '?gallery=true' : '')
    })
  for (const button of stage.querySelectorAll('[data-go]'))
    button.addEventListener('click', () => {
      const to = /** @type {HTMLElement} */ (button).dataset.go ?? ''
      ask(to ? '?handler=Go' : '', to ? { method: 'POST', body: new URLSearchParams({ to }) } : {})
    })
  askAgain()
}

ask(window.fensterFirst.query, {}, { answer: window.fensterFirst.answer })

// The page around it shows it only when it is here.
if (parent !== window) parent.postMessage('fenster-is-here', location.origin)
