// The key by hand: a label of the bank is dragged to where it belongs, over the one that was there or, with Alt, beside it.

/**
 * @param {HTMLElement} bank
 * @param {object} on
 * @param {(event: PointerEvent) => string | null} on.targetAt The target under a pointer.
 * @param {(target: string | null) => void} on.hover
 * @param {(target: string, label: string, isFurther: boolean) => void} on.drop
 * @param {(label: string, event: PointerEvent) => void} on.bare The label was dropped onto the bare picture.
 */
export function listenForKeys(bank, on) {
  bank.addEventListener('pointerdown', start => {
    const source = /** @type {HTMLElement | null} */ (/** @type {Element} */ (start.target).closest('.label[data-label]'))
    if (!source || !start.isPrimary || start.button !== 0) return
    start.preventDefault()
    const box = source.getBoundingClientRect()
    const ghost = /** @type {HTMLElement} */ (source.cloneNode(true))
    ghost.classList.add('ghost')
    // It is no part of the list that the page draws.
    ghost.setAttribute('x-ignore', '')
    const end = new AbortController()
    const finish = () => {
      end.abort()
      ghost.remove()
      on.hover(null)
    }
    addEventListener(
      'pointermove',
      event => {
        if (!ghost.isConnected && Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) < 6) return
        if (!ghost.isConnected) document.body.append(ghost)
        ghost.style.transform = `translate(${event.clientX - box.width / 2}px, ${event.clientY - box.height / 2}px)`
        on.hover(on.targetAt(event))
      },
      { signal: end.signal },
    )
    addEventListener(
      'pointerup',
      event => {
        const wasDragged = ghost.isConnected
        finish()
        if (!wasDragged) return
        const target = on.targetAt(event)
        if (target) on.drop(target, source.dataset.label ?? '', event.altKey)
        else on.bare(source.dataset.label ?? '', event)
      },
      { signal: end.signal },
    )
    addEventListener('pointercancel', finish, { signal: end.signal })
    addEventListener(
      'keydown',
      event => {
        if (event.key === 'Escape') finish()
      },
      { signal: end.signal },
    )
  })
}
