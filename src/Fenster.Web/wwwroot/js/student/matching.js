// Two columns of cards, and ribbons between what was matched.

import { cardOf, faceOf, play } from '../scene/face.js'
import { listed, numeral, phrase } from '../language.js'
import { badge, ribbonPath, svg } from '../scene/shapes.js'
import { whenChanged } from './afresh.js'
import { doneAt } from './work.js'

/**
 * @param {HTMLElement} panel
 * @param {{pane: () => PaneView, make: (move: Move) => void, say: (sentence: string) => void}} actions
 */
export function createMatching(panel, { pane, make, say }) {
  /** The card that waits for its partner. @type {{target: string, side: 'left' | 'right', id: string} | null} */
  let waiting = null
  let isKey = false

  /** @typedef {Extract<TargetView, {kind: 'linking'}>} Linking */
  const redraw = whenChanged((/** @type {{targets: Linking[], links: Link[][], waiting: any}} */ { targets }) => {
    const focused = panel.contains(document.activeElement) ? /** @type {HTMLElement} */ (document.activeElement).dataset : null
    panel.hidden = targets.length === 0
    panel.replaceChildren(...targets.map(matching))
    if (focused)
      /** @type {HTMLElement | null} */ (panel.querySelector(`[data-side="${focused.side}"][data-item="${focused.item}"]`))?.focus()
  })
  const draw = () => {
    const targets = pane().targets.filter(target => target.kind === 'linking')
    redraw({ targets, links: targets.map(target => linksOf(target)), waiting })
    requestAnimationFrame(ribbons)
  }

  /** @param {Linking} target */
  function matching(target) {
    const box = document.createElement('section')
    box.className = 'matching'
    box.dataset.target = target.id
    box.setAttribute('aria-label', target.prompt || phrase('matching.together'))
    if (target.prompt) box.append(Object.assign(document.createElement('p'), { className: 'matching-prompt', textContent: target.prompt }))
    const columns = document.createElement('div')
    columns.className = 'matching-columns'
    columns.append(svg('svg', { class: 'ribbons', 'aria-hidden': 'true' }), column(target, 'left'), column(target, 'right'))
    box.append(columns)
    return box
  }

  /** @param {Linking} target @param {'left' | 'right'} side */
  function column(target, side) {
    const list = document.createElement('ul')
    list.className = `matching-${side}`
    const links = linksOf(target)
    for (const item of target[side]) {
      const line = document.createElement('li')
      const card = document.createElement('button')
      card.type = 'button'
      card.className = `match-card ${links.some(link => link[side] === item.id) ? 'matched' : ''}`
      card.dataset.side = side
      card.dataset.item = item.id
      card.dir = 'auto'
      const partners = links
        .filter(link => link[side] === item.id)
        .map(link => textOf(target, side === 'left' ? 'right' : 'left', link[side === 'left' ? 'right' : 'left']))
      card.setAttribute(
        'aria-label',
        partners.length > 0 ? phrase('matching.matchedWith', { card: item.text, partners: listed(partners, 'list.and') }) : item.text,
      )
      card.setAttribute('aria-pressed', String(waiting?.target === target.id && waiting.side === side && waiting.id === item.id))
      card.append(faceOf(item))
      // By number as well, so that ribbons that cross can be followed without their colour.
      const numbers = document.createElement('span')
      numbers.className = 'link-numbers'
      numbers.setAttribute('aria-hidden', 'true')
      numbers.append(...links.filter(link => link[side] === item.id).map(link => linkNumber(target, link)))
      card.append(numbers)
      card.addEventListener('click', () => press(target, side, item.id))
      card.addEventListener('pointerdown', event => drag(target, side, item.id, event))
      line.append(card)
      if (item.face?.kind === 'picture') line.append(enlarging(item))
      list.append(line)
    }
    return list
  }

  /** @param {OptionView} item A picture. */
  function enlarging(item) {
    const button = document.createElement('button')
    button.type = 'button'
    button.className = 'btn tool enlarge'
    button.setAttribute('aria-label', phrase('matching.enlarge', { card: item.text }))
    button.innerHTML = '<span class="icon icon-larger"></span>'
    button.addEventListener('click', () => {
      const dialog = document.createElement('dialog')
      dialog.className = 'enlarged'
      dialog.setAttribute('aria-label', item.text)
      const close = Object.assign(document.createElement('button'), { type: 'button', className: 'btn btn-primary' })
      close.textContent = phrase('matching.close')
      dialog.append(cardOf(/** @type {Face} */ (item.face), item.text), close)
      // A tap anywhere leads back.
      dialog.addEventListener('click', () => dialog.close())
      dialog.addEventListener('close', () => dialog.remove())
      panel.append(dialog)
      dialog.showModal()
    })
    return button
  }

  /** @param {Linking} target @param {Link} link */
  function linkNumber(target, link) {
    const number = document.createElement('span')
    number.className = 'link-number'
    number.textContent = numeral(target.left.findIndex(item => item.id === link.left) + 1)
    return number
  }

  /** @param {Linking} target @returns {Link[]} */
  const linksOf = target =>
    (isKey ? pane().key?.others.find(other => other.target === target.id)?.links : null) ?? doneAt(pane(), target.id).links
  /** With the key, what was matched instead is drawn too. @param {Linking} target @returns {{link: Link, verdict?: Verdict | null}[]} */
  const drawnLinks = target => {
    const marks = pane().marks?.others.find(mark => mark.target === target.id)
    const own = doneAt(pane(), target.id).links.map((link, i) => ({ link, verdict: marks?.links[i] }))
    if (!isKey) return own
    const key = linksOf(target)
    const isRight = (/** @type {Link} */ link) => key.some(other => other.left === link.left && other.right === link.right)
    return [
      ...own.filter(({ link }) => !isRight(link)).map(({ link }) => ({ link, verdict: /** @type {Verdict} */ ('wrong') })),
      ...key.map(link => ({ link })),
    ]
  }
  /** @param {Linking} target @param {'left' | 'right'} side @param {string} id */
  const textOf = (target, side, id) => target[side].find(item => item.id === id)?.text ?? ''

  /** @param {Linking} target @param {'left' | 'right'} side @param {string} id */
  function press(target, side, id) {
    play(target[side].find(item => item.id === id))
    if (!pane().open) return
    if (waiting?.target === target.id && waiting.side !== side) {
      const link = side === 'right' ? { left: waiting.id, right: id } : { left: id, right: waiting.id }
      waiting = null
      toggle(target, link)
      return
    }
    const isSame = waiting?.target === target.id && waiting.side === side && waiting.id === id
    waiting = isSame ? null : { target: target.id, side, id }
    if (waiting) say(phrase('matching.chosen', { card: textOf(target, side, id) }))
    draw()
  }

  /** @param {Linking} target @param {Link} link */
  function toggle(target, link) {
    const links = doneAt(pane(), target.id).links
    const isThere = links.some(other => other.left === link.left && other.right === link.right)
    make({
      kind: 'drawLinks',
      target: target.id,
      links: isThere ? links.filter(other => other.left !== link.left || other.right !== link.right) : [...links, link],
    })
    say(
      phrase(isThere ? 'matching.parted' : 'matching.matched', {
        left: textOf(target, 'left', link.left),
        right: textOf(target, 'right', link.right),
      }),
    )
  }

  /** @param {Linking} target @param {'left' | 'right'} side @param {string} id @param {PointerEvent} start */
  function drag(target, side, id, start) {
    if (!pane().open || !start.isPrimary || start.button !== 0 || start.pointerType === 'touch') return
    const layer = /** @type {SVGElement} */ (
      /** @type {HTMLElement} */ (start.currentTarget).closest('.matching-columns')?.querySelector('.ribbons')
    )
    const line = svg('path', { class: 'ribbon ribbon-drawn' })
    const end = new AbortController()
    const frame = layer.getBoundingClientRect()
    const card = /** @type {HTMLElement} */ (start.currentTarget).getBoundingClientRect()
    const from = { x: (side === 'left' ? card.right : card.left) - frame.left, y: card.top + card.height / 2 - frame.top }
    addEventListener(
      'pointermove',
      event => {
        if (Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) < 8) return
        layer.append(line)
        line.setAttribute('d', ribbonPath(from, { x: event.clientX - frame.left, y: event.clientY - frame.top }))
      },
      { signal: end.signal },
    )
    addEventListener(
      'pointerup',
      event => {
        end.abort()
        const wasDrawn = line.isConnected
        line.remove()
        const other = /** @type {HTMLElement | null} */ (document.elementFromPoint(event.clientX, event.clientY)?.closest('.match-card'))
        if (!wasDrawn || !other || other.dataset.side === side || other.closest('.matching') !== layer.closest('.matching')) return
        // The click that follows on the same card must not choose it.
        waiting = null
        toggle(target, side === 'left' ? { left: id, right: other.dataset.item ?? '' } : { left: other.dataset.item ?? '', right: id })
      },
      { signal: end.signal },
    )
    addEventListener(
      'pointercancel',
      () => {
        end.abort()
        line.remove()
      },
      { signal: end.signal },
    )
  }

  function ribbons() {
    for (const box of /** @type {NodeListOf<HTMLElement>} */ (panel.querySelectorAll('.matching'))) {
      const target = pane().targets.find(t => t.id === box.dataset.target)
      if (target?.kind !== 'linking') continue
      const layer = /** @type {SVGElement} */ (box.querySelector('.ribbons'))
      const frame = layer.getBoundingClientRect()
      for (const old of box.querySelectorAll('.ribbon-badge')) old.remove()
      layer.replaceChildren(
        ...drawnLinks(target).map(({ link, verdict }) => {
          const [left, right] = [
            box.querySelector(`[data-side=left][data-item="${link.left}"]`),
            box.querySelector(`[data-side=right][data-item="${link.right}"]`),
          ].map(card => /** @type {HTMLElement} */ (card).getBoundingClientRect())
          // In a mirrored screen the left column stands on the right.
          const isMirrored = left.left > right.left
          const from = { x: (isMirrored ? left.left : left.right) - frame.left, y: left.top + left.height / 2 - frame.top }
          const to = { x: (isMirrored ? right.right : right.left) - frame.left, y: right.top + right.height / 2 - frame.top }
          if (verdict === 'right' || verdict === 'wrong') {
            const sign = badge(verdict)
            sign.classList.add('ribbon-badge')
            Object.assign(sign.style, { left: `${(from.x + to.x) / 2 - 10}px`, top: `${(from.y + to.y) / 2 - 10}px` })
            layer.parentElement?.append(sign)
          }
          return svg('path', { class: `ribbon ${verdict ? `ribbon-${verdict}` : isKey ? 'ribbon-key' : ''}`, d: ribbonPath(from, to) })
        }),
      )
    }
  }
  new ResizeObserver(() => ribbons()).observe(panel)

  return {
    draw(key = false) {
      isKey = key
      draw()
    },
  }
}
