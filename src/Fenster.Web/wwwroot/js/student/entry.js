// A student's way in: shows what the device may see, which the page brought along or the server is asked for (asking.js).

import { ask as request, askFirst, device, visit } from './asking.js'
import { open } from './main.js'

const stage = /** @type {HTMLElement} */ (document.getElementById('stage'))
const url = stage.dataset.now ?? ''

/** @type {number | undefined} */
let asking

/** What is on the page, as the server made it. */
let shown = ''

/** Whether what is shown comes of something that was done here: then what is new is read out from its beginning. */
let isAnswer = false

/**
 * Asks, and shows what comes.
 * @param {string} query
 * @param {RequestInit} [options]
 * @param {{isTimed?: boolean, answer?: Promise<StudentAnswer>, along?: DocumentFragment}} [how] Whether nobody but the clock asks; what
 *   was asked already; what the page brought along, for which nobody has to be asked.
 */
async function ask(query, options = {}, { isTimed = false, answer, along } = {}) {
  clearTimeout(asking)
  isAnswer ||= !isTimed && !answer && !along
  stage.setAttribute('aria-busy', 'true')
  try {
    if (along) await show(along)
    else await take(await (answer ?? request(query, options)), isTimed)
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

/** @param {StudentAnswer} answer @param {boolean} isTimed */
async function take({ headers, html: body }, isTimed) {
  const secret = headers.get('Fenster-Device')
  const other = headers.get('Fenster-Code')
  if (secret && other) {
    device.set(secret, `fenster-device-${other}`)
    visit.set('here', `fenster-device-${other}`)
    return location.assign(`/do/${other}`)
  }
  if (secret) device.set(secret)
  if (headers.get('Fenster-Forget')) {
    device.set(null)
    forgetWork()
    const { forgetOffline } = await import('./offline.js')
    await forgetOffline(url.replace(/\/now$/, ''))
  }
  // Whoever came in sits here until the tab is closed.
  if (secret) visit.set('here')
  const html = await body
  // What is looked at stays as it is while nothing new comes.
  if (isTimed && html === shown) return askAgain()
  shown = html
  const piece = document.createElement('template')
  piece.innerHTML = html
  await show(piece.content)
}

/** What was shown is forgotten; what is not sent yet stays, bound to its own attempt. */
function forgetWork() {
  try {
    for (const name of Object.keys(localStorage)) if (/^attempt-[0-9a-f]+-(work|again)$/.test(name)) localStorage.removeItem(name)
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

/** @param {DocumentFragment} piece Made by the server. */
async function show(piece) {
  const work = /** @type {HTMLElement | null} */ (piece.querySelector('#work'))
  if (work) {
    // It is shown when all that it needs is there, so that nothing moves about.
    document.head.append(...piece.querySelectorAll('link[rel=stylesheet]'))
    await Promise.all([styled(), lettered])
    await open(work, { secret: device.get() ?? '', now: url, again: () => ask('?handedIn=true') }, () => place(piece, true))
    // What came of it is there before all else where it is handed in.
    focusOn(work.classList.contains('done') ? work.querySelector('#progress') : work.querySelector('h1'))
  } else {
    place(piece, false)
    const gallery = document.getElementById('gallery')
    document.body.classList.toggle('with-gallery', gallery !== null)
    if (gallery) {
      const [{ showGallery }] = await Promise.all([import('./gallery.js'), styled()])
      showGallery(gallery)
    }
    const first = /** @type {HTMLElement | null} */ (stage.querySelector('[autofocus]'))
    if (first) first.focus()
    else focusOn(stage.querySelector('h1'))
  }
}

/** @param {HTMLElement | null} beginning Of what is new. */
function focusOn(beginning) {
  if (!beginning || !isAnswer || stage.contains(document.activeElement)) return
  beginning.tabIndex = -1
  beginning.focus({ preventScroll: true })
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
      visit.set('here')
      if (act === 'other') device.set(null)
      ask(act === 'mine' ? '?mine=true' : act === 'gallery' ? '?gallery=true' : '')
    })
  for (const button of stage.querySelectorAll('[data-attempt]'))
    button.addEventListener('click', () => ask(`?attempt=${/** @type {HTMLElement} */ (button).dataset.attempt}`))
  for (const button of stage.querySelectorAll('[data-go]'))
    button.addEventListener('click', () => {
      const to = /** @type {HTMLElement} */ (button).dataset.go ?? ''
      ask(to ? '?handler=Go' : '', to ? { method: 'POST', body: new URLSearchParams({ to }) } : {})
    })
  askAgain()
}

/** The work that the page brought along, for whoever came in here; nothing for anybody else. */
function broughtAlong() {
  const along = /** @type {HTMLTemplateElement | null} */ (document.getElementById('along'))
  along?.remove()
  return along && visit.get() !== null && device.get()?.startsWith(along.dataset.device ?? ' ') ? along.content : undefined
}

const along = broughtAlong()
if (along) ask('', {}, { along })
else {
  const { query, answer } = askFirst()
  ask(query, {}, { answer })
}

// The page around it shows it only when it is here.
if (parent !== window) parent.postMessage('fenster-is-here', location.origin)
