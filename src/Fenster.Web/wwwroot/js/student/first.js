// Asks for what the device may see while styles and the page's other script are still on their way: the page names it before them.

{
  const { now = '', key = '' } = /** @type {HTMLScriptElement} */ (document.currentScript).dataset

  /** What the device keeps under the activity's name; nothing where its browser keeps nothing. @param {() => Storage} storage */
  const kept = storage => {
    try {
      return storage().getItem(key)
    } catch {
      return null
    }
  }

  /** What fails is told by whoever waits for it. @param {Promise<unknown>} promise */
  const told = promise => promise.catch(() => {})

  window.fensterAsks = async (query, secret, options) => {
    const response = await fetch(now + query, {
      ...options,
      headers: { 'Fenster-Device': secret ?? '', 'Fenster-Zone': Intl.DateTimeFormat().resolvedOptions().timeZone },
      credentials: 'same-origin',
    })
    // It is read at once, and what the head says to keep is kept even if the body never comes.
    const html = response.text()
    told(html)
    return { headers: response.headers, html }
  }

  // Whoever opens the page anew may be somebody else.
  const secret = kept(() => localStorage)
  const isNewHere = secret !== null && kept(() => sessionStorage) === null
  const query = isNewHere ? '?again=true' : ''
  window.fensterFirst = { query, answer: window.fensterAsks(query, secret) }
  told(window.fensterFirst.answer)
}
