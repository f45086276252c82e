// Makes an activity open again without a connection, once it has been opened: what was loaded is kept, and given out where the server
// can't be reached. Moves never pass through here; the page keeps them itself.

const shelf = 'fenster-pages'
const worker = /** @type {any} */ (self)

worker.addEventListener('install', () => worker.skipWaiting())
worker.addEventListener('activate', (/** @type {any} */ event) => event.waitUntil(worker.clients.claim()))

worker.addEventListener('fetch', (/** @type {any} */ event) => {
  const { request } = event
  const url = new URL(request.url)
  if (request.method !== 'GET' || url.origin !== location.origin) return
  // Their addresses change when they do.
  if (/^\/(assets|media)\//.test(url.pathname)) event.respondWith(firstKept(request))
  else if (/^\/do\/[^/]+(\/now)?$/.test(url.pathname)) event.respondWith(firstAsked(request))
})

worker.addEventListener('message', (/** @type {any} */ event) => {
  const { keep = [], forget } = event.data ?? {}
  event.waitUntil(forget ? forgetPages(forget) : keepAll(keep))
})

/** @param {Request} request A part of a file, as players ask for, is not kept. */
async function firstKept(request) {
  const cache = await caches.open(shelf)
  const known = request.headers.has('range') ? undefined : await cache.match(request.url)
  if (known) return known
  const answer = await fetch(request)
  if (answer.status === 200) cache.put(request.url, answer.clone())
  return answer
}

/** @param {Request} request */
async function firstAsked(request) {
  const cache = await caches.open(shelf)
  try {
    const answer = await fetch(request)
    // A page that is gone to may bring work along, which grows old: the page without it is kept by itself (offline.js).
    if (answer.ok && request.mode !== 'navigate') cache.put(request.url, answer.clone())
    return answer
  } catch (error) {
    const known = await cache.match(request.url, { ignoreSearch: request.mode === 'navigate' })
    if (known) return known
    throw error
  }
}

/** Keeps what a page may still need; of scripts of an older version nothing is kept. @param {string[]} urls */
async function keepAll(urls) {
  const cache = await caches.open(shelf)
  const build = urls.map(url => /\/assets\/[^/]+\//.exec(url)?.[0]).find(Boolean)
  for (const { url } of await cache.keys()) {
    const path = new URL(url).pathname
    if (build && path.startsWith('/assets/') && !path.startsWith(build)) await cache.delete(url)
  }
  for (const url of urls) if (!(await cache.match(url))) await cache.add(url).catch(() => {})
}

/** A device that is to forget keeps no page of the activity. @param {string} path Its address. */
async function forgetPages(path) {
  const cache = await caches.open(shelf)
  for (const { url } of await cache.keys()) if (new URL(url).pathname.startsWith(path)) await cache.delete(url)
}
