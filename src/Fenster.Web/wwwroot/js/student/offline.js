// Keeps on the device what opens the activity again without a connection: by a service worker, where the browser allows one.

/** Where worker.js looks. */
const shelf = 'fenster-pages'

/** Whether this browser can do it here: only in a secure context. */
export const canOpenOffline = isSecureContext && 'serviceWorker' in navigator

/**
 * @param {string[]} media Pictures and sounds of the activity.
 * @param {{now: string, secret: string}} from Where the device asks for what it may see.
 */
export async function keepForOffline(media, { now, secret }) {
  if (!canOpenOffline) return
  try {
    await navigator.serviceWorker.register('/do/worker.js', { scope: '/do/' })
    const { active } = await navigator.serviceWorker.ready
    // What is loaded only when it is needed may be needed when there is no connection.
    const scripts = /** @type {string[]} */ (await (await fetch('/do/scripts')).json())
    const loaded = performance.getEntriesByType('resource').map(entry => entry.name)
    active?.postMessage({
      keep: [
        ...loaded.filter(name => /\/(assets|media)\//.test(name)),
        ...scripts.map(path => new URL(path, location.origin).href),
        ...media,
      ],
    })
    // The page as it is for nobody, and what this device may see: the work, and who goes on with it.
    const cache = await caches.open(shelf)
    /** @param {string} url @param {RequestInit} options */
    const keep = async (url, options) => {
      const answer = await fetch(url, options)
      if (answer.ok) await cache.put(url, answer)
    }
    await keep(location.pathname, { credentials: 'omit' })
    for (const query of ['', '?again=true']) await keep(now + query, { headers: { 'Fenster-Device': secret } })
  } catch {
    // What can't be kept works as long as there is a connection.
  }
}

/** @param {string} path The activity's address. */
export async function forgetOffline(path) {
  const { active } = (canOpenOffline && (await navigator.serviceWorker.getRegistration('/do/'))) || { active: null }
  active?.postMessage({ forget: path })
}
