// What a device may see is asked for with the secret that it was given. The secret is kept where the browser lets it be kept, and else for
// as long as the page is open.

const { now = '', key = '' } = /** @type {HTMLElement} */ (document.querySelector('[data-now]')).dataset

/** Keeps something under the activity's name; what the browser doesn't keep is remembered. @param {() => Storage} storage */
const shelf = storage => {
  /** @type {Map<string, string>} */
  const remembered = new Map()
  return {
    get(name = key) {
      try {
        return storage().getItem(name) ?? remembered.get(name) ?? null
      } catch {
        return remembered.get(name) ?? null
      }
    },
    /** @param {string | null} value */
    set(value, name = key) {
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

/** The secret of the device. */
export const device = shelf(() => localStorage)

/** Whether whoever sits here came in since the tab was opened. */
export const visit = shelf(() => sessionStorage)

/** @param {string} query @param {RequestInit} [options] @returns {Promise<StudentAnswer>} */
export async function ask(query, options) {
  const response = await fetch(now + query, {
    ...options,
    headers: { 'Fenster-Device': device.get() ?? '', 'Fenster-Zone': Intl.DateTimeFormat().resolvedOptions().timeZone },
    credentials: 'same-origin',
  })
  // It is read at once, and what the head says to keep is kept even if the body never comes.
  return { headers: response.headers, html: told(response.text()) }
}

/** What the page shows first; whichever script comes first asks for it. */
export function askFirst() {
  if (!window.fensterFirst) {
    // Whoever opens the page anew may be somebody else.
    const query = device.get() !== null && visit.get() === null ? '?again=true' : ''
    window.fensterFirst = { query, answer: told(ask(query)) }
  }
  return window.fensterFirst
}

/** What fails is told by whoever waits for it. @template Thing @param {Promise<Thing>} promise */
function told(promise) {
  promise.catch(() => {})
  return promise
}
