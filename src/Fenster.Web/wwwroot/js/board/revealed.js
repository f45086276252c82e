// What a class sees of a pane: what was placed by hand, and over it what was revealed.

import { listed, named, phrase } from '../language.js'
import { paneOf } from '../student/work.js'

/** @typedef {Sent.BoardPane} BoardPane @typedef {Sent.BoardSpot} BoardSpot */

/** @typedef {{label: string, copy: number}} Copied */

/**
 * Labels by hand keep out of the way of what is revealed: they take another copy, or go back to the bank.
 * @template {Copied} T
 * @param {T[]} byHand
 * @param {Copied[]} taken
 * @param {Map<string, number | null>} copies How many there are of each label; null for any number.
 * @returns {T[]}
 */
function besides(byHand, taken, copies) {
  const used = new Set(taken.map(({ label, copy }) => `${label}/${copy}`))
  return byHand.flatMap(one => {
    let copy = one.copy
    const most = copies.get(one.label) ?? Infinity
    if (used.has(`${one.label}/${copy}`)) for (copy = 0; copy < most && used.has(`${one.label}/${copy}`); copy++);
    if (copy >= most) return []
    used.add(`${one.label}/${copy}`)
    return [{ ...one, copy }]
  })
}

/**
 * @param {BoardPane} pane
 * @param {PaneWork} work By hand.
 * @param {ReadonlySet<number>} revealed Spots by their place in the list.
 * @returns {PaneView}
 */
export function paneShown(pane, work, revealed) {
  const spots = pane.spots.filter((_, i) => revealed.has(i))
  const copies = new Map(pane.frame.labels.map(label => [label.id, label.copies]))
  /** @type {Copied[]} */
  const taken = []
  /** A label with copies may be revealed at several spots. @template {Copied} T @param {T[]} all @returns {T[]} */
  const revealing = all =>
    all.map(one => {
      let copy = one.copy
      while (taken.some(other => other.label === one.label && other.copy === copy)) copy++
      taken.push({ label: one.label, copy })
      return { ...one, copy }
    })
  const placed = revealing(spots.flatMap(spot => spot.placed))
  // A label that is wanted by several overlapping regions lies there once.
  const pins = revealing(
    spots.flatMap(spot => spot.pins).filter((pin, i, all) => all.findIndex(p => p.label === pin.label && p.copy === pin.copy) === i),
  )
  const zones = new Set(spots.flatMap(spot => (spot.name ? [spot.name] : [])))
  const links = spots.flatMap(spot => (spot.item ? [{ target: spot.name, item: spot.item, links: spot.links }] : []))
  const done = work.done
    .filter(own => !spots.some(spot => spot.done?.target === own.target))
    .map(own => {
      const known = links.filter(({ target }) => target === own.target)
      return { ...own, links: own.links.filter(link => !known.some(({ item }) => item === link.left)) }
    })
  for (const { target, links: right } of links) {
    const own = done.find(one => one.target === target)
    if (own) own.links = [...own.links, ...right]
    else done.push({ target: target ?? '', points: [], text: '', picks: [], opened: false, inside: '', links: right, own: null, lacks: [] })
  }
  const told = new Set([...placed, ...pins].map(({ label }) => label))
  const shown = {
    ...work,
    placed: [
      ...placed,
      ...besides(
        work.placed.filter(own => !zones.has(own.zone)),
        taken,
        copies,
      ),
    ],
    pins: [...pins, ...besides(work.pins, taken, copies)],
    held: taken,
    done: [...done, ...spots.flatMap(spot => (spot.done ? [spot.done] : []))],
    found: spots.flatMap(spot => spot.found),
    key: {
      zones: [],
      // Its pin says what lies there.
      hidden: spots.flatMap(spot => (spot.hidden ? [{ ...spot.hidden, labels: [] }] : [])),
      // The words of a matched thing stand at its ribbon.
      others: spots.flatMap(spot => (spot.key && !spot.item ? [spot.key] : [])),
      described: pane.described.filter(({ label }) => told.has(label)),
    },
  }
  return paneOf({ panes: [pane.frame] }, { panes: [shown] }, 0)
}

/** What is right at a spot, in words; empty where a person decides. @param {PaneView} shown @param {BoardSpot} spot @returns {string} */
export function answerAt(shown, spot) {
  const text = (/** @type {string} */ id) => shown.labels.find(label => label.id === id)?.text ?? ''
  const target = shown.targets.find(known => known.id === spot.name)
  if (spot.placed.length > 0) return listed(spot.placed.map(({ label }) => text(label)))
  if (spot.hidden) return listed(spot.hidden.labels.map(text))
  if (target?.kind === 'linking')
    return listed(spot.links.map(link => target.right.find(item => item.id === link.right)?.text ?? '')) || phrase('board.noPartner')
  const { key } = spot
  if (!key) return spot.name?.startsWith('z') ? phrase('board.staysEmpty') : ''
  if (target?.kind === 'choosing') return listed(key.picks.map(pick => target.options.find(option => option.id === pick)?.text ?? ''))
  if (target?.kind === 'sorting') return named(key.amount ? phrase(key.amount.name, key.amount.slots) : '', listed(key.labels.map(text)))
  if (target?.kind === 'telling') return target.text
  return [key.text, target?.kind === 'locked' ? (spot.done?.inside ?? '') : ''].filter(Boolean).join(' – ')
}

/** What is asked at a spot, in words. @param {PaneView} shown @param {BoardSpot} spot @returns {string} */
export function askedAt(shown, spot) {
  const target = shown.targets.find(known => known.id === spot.name)
  // What is asked of all of them stands over them.
  if (target?.kind === 'linking') return target.left.find(item => item.id === spot.item)?.text ?? ''
  if (spot.hidden) return phrase('board.whereIs', { label: spot.asks })
  if (spot.asks) return spot.asks
  if (target?.kind === 'locked') return phrase('cards.whichCode')
  if (target?.kind === 'telling') return ''
  return phrase(target ? 'board.whatIsRight' : 'board.whatBelongs')
}
