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

  window.fensterAsks = (query, secret, options) =>
    fetch(now + query, {
      ...options,
      headers: { 'Fenster-Device': secret ?? '', 'Fenster-Zone': Intl.DateTimeFormat().resolvedOptions().timeZone },
      credentials: 'same-origin',
    })

  // Whoever opens the page anew may be somebody else.
  const secret = kept(() => localStorage)
  const isNewHere = secret !== null && kept(() => sessionStorage) === null
  const query = isNewHere ? '?again=true' : ''
  window.fensterFirst = { query, answer: window.fensterAsks(query, secret) }
  // What fails is told by the script that waits for it.
  window.fensterFirst.answer.catch(() => {})
}
