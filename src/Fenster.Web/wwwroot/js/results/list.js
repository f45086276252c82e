// From line to line of a list of results with one key, and into the work with another.

const links = /** @type {HTMLAnchorElement[]} */ ([...document.querySelectorAll('[data-walk]')])

addEventListener('keydown', event => {
  if (event.altKey || event.ctrlKey || event.metaKey || /** @type {Element} */ (event.target).matches('textarea,select,[type=text]')) return
  const step = { j: 1, k: -1 }[event.key]
  if (!step || links.length === 0) return
  const row = document.activeElement?.closest('tr')
  const now = links.findIndex(link => link.closest('tr') === row)
  links[now < 0 ? (step > 0 ? 0 : links.length - 1) : Math.min(links.length - 1, Math.max(0, now + step))]?.focus()
})
