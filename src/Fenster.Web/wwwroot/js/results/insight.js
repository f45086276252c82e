// What a class shows: layers over the picture that are shown one by one; pointing at something in the picture or the ledger answers in
// the other.

for (const pane of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('.insight-pane'))) {
  const drawing = pane.querySelector('.drawing')
  for (const box of /** @type {NodeListOf<HTMLInputElement>} */ (pane.querySelectorAll('.layers input'))) {
    const layer = drawing?.querySelector(`g[data-layer=${box.dataset.layer}]`)
    const show = () => layer?.toggleAttribute('hidden', !box.checked)
    box.addEventListener('change', show)
    show()
  }

  /** @param {string | undefined} number Of the target that is pointed at. */
  const point = number => {
    drawing?.classList.toggle('is-pointing', number !== undefined)
    for (const part of /** @type {NodeListOf<HTMLElement>} */ (pane.querySelectorAll('[data-target]')))
      part.classList.toggle('pointed', number !== undefined && (part.dataset.target === number || part.dataset.other === number))
  }
  /** @param {Event} event */
  const over = event => /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest('[data-target]'))?.dataset.target
  // Where nothing is pointed at, what the keyboard is at.
  const focused = () => {
    const row = /** @type {HTMLElement | null | undefined} */ (document.activeElement?.closest('[data-target]'))
    return row && pane.contains(row) ? row.dataset.target : undefined
  }
  pane.addEventListener('pointermove', event => point(over(event) ?? focused()))
  pane.addEventListener('pointerleave', () => point(focused()))
  pane.addEventListener('focusin', event => point(over(event)))
  drawing?.addEventListener('click', event => {
    const number = over(event)
    if (number === undefined) return
    document.getElementById(`target-${pane.dataset.pane}-${number}`)?.scrollIntoView({ block: 'nearest' })
  })
}

for (const link of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('[data-finding]')))
  link.addEventListener('click', () => {
    const row = document.getElementById(`target-${link.dataset.finding}`)
    row?.dispatchEvent(new PointerEvent('pointermove', { bubbles: true }))
  })
