// Keeps on the device what opens the activity again without a connection: by a service worker, where the browser allows one.

/** What is loaded only when it is needed, and may be needed when there is no connection. */
const later = ['review', 'singly', 'symbols', 'aids', 'cheer', 'cards', 'matching', '../scene/loupe']

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
    const loaded = performance.getEntriesByType('resource').map(entry => entry.name)
    active?.postMessage({
      keep: [
        ...loaded.filter(name => /\/(assets|media)\//.test(name)),
        ...later.map(name => new URL(`./${name}.js`, import.meta.url).href),
        ...media,
        location.href.replace(/[?#].*$/, ''),
      ],
    })
    // What it may see is asked for once more, now that the answers are kept: the work, and who goes on with it.
    for (const query of ['', '?again=true']) await fetch(now + query, { headers: { 'Fenster-Device': secret } })
  } catch {
    // A browser that allows none works as long as there is a connection.
  }
}

/** @param {string} path The activity's address. */
export async function forgetOffline(path) {
  const { active } = (canOpenOffline && (await navigator.serviceWorker.getRegistration('/do/'))) || { active: null }
  active?.postMessage({ forget: path })
}
