// Many things at once: in line, evenly spread, of one size; and the guides that help a hand.

import { boundsOf } from '../scene/geometry.js'
import { changeShapes, shapesOf } from './pane.js'
import { moved, sized } from './regions.js'

/** @param {Region[]} regions @returns {Bounds} */
export function boundsOfAll(regions) {
  const all = regions.map(boundsOf)
  return {
    left: Math.min(...all.map(b => b.left)),
    top: Math.min(...all.map(b => b.top)),
    right: Math.max(...all.map(b => b.right)),
    bottom: Math.max(...all.map(b => b.bottom)),
  }
}

/**
 * Where a drag comes to lie when edges or middles snap into line with others.
 * @param {Bounds} box Of what is dragged, where it was. @param {Bounds[]} others @param {Point} by @param {number} reach In picture units.
 * @returns {{x: number, y: number, guides: {x?: number, y?: number}[]}}
 */
export function guided(box, others, by, reach) {
  /** @param {number[]} mine @param {number[]} theirs */
  const snap = (mine, theirs) => {
    let best = { off: reach, at: /** @type {number | null} */ (null) }
    for (const line of theirs)
      for (const edge of mine) if (Math.abs(line - edge) < Math.abs(best.off)) best = { off: line - edge, at: line }
    return best
  }
  const three = (/** @type {number} */ a, /** @type {number} */ b) => [a, (a + b) / 2, b]
  const x = snap(
    three(box.left + by.x, box.right + by.x),
    others.flatMap(b => three(b.left, b.right)),
  )
  const y = snap(
    three(box.top + by.y, box.bottom + by.y),
    others.flatMap(b => three(b.top, b.bottom)),
  )
  return {
    x: by.x + (x.at === null ? 0 : x.off),
    y: by.y + (y.at === null ? 0 : y.off),
    guides: [...(x.at === null ? [] : [{ x: x.at }]), ...(y.at === null ? [] : [{ y: y.at }])],
  }
}

/** @typedef {'size' | 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom' | 'across' | 'down'} Arrangement */

/** @param {PanePart} pane @param {string[]} keys @param {Arrangement} how @returns {PanePart} */
export function arranged(pane, keys, how) {
  const shapes = shapesOf(pane).filter(shape => keys.includes(shape.key))
  if (shapes.length < 2) return pane
  const all = boundsOfAll(shapes.map(shape => shape.region))
  if (how === 'size') {
    const sizes = shapes.filter(shape => !shape.isPoint).map(shape => boundsOf(shape.region))
    const [width, height] = [Math.max(...sizes.map(b => b.right - b.left)), Math.max(...sizes.map(b => b.bottom - b.top))]
    return changeShapes(
      pane,
      shapes.filter(shape => !shape.isPoint).map(shape => shape.key),
      region => sized(region, width, height),
    )
  }
  if (how === 'across' || how === 'down') return spread(pane, shapes, how)
  return changeShapes(pane, keys, region => {
    const b = boundsOf(region)
    switch (how) {
      case 'left':
        return moved(region, all.left - b.left, 0)
      case 'centre':
        return moved(region, (all.left + all.right - b.left - b.right) / 2, 0)
      case 'right':
        return moved(region, all.right - b.right, 0)
      case 'bottom':
        return moved(region, 0, all.bottom - b.bottom)
      case 'top':
        return moved(region, 0, all.top - b.top)
      default:
        return moved(region, 0, (all.top + all.bottom - b.top - b.bottom) / 2)
    }
  })
}

/**
 * The same room between each and the next.
 * @param {PanePart} pane
 * @param {import('./pane.js').Shape[]} shapes
 * @param {'across' | 'down'} how
 */
function spread(pane, shapes, how) {
  const [low, high] = how === 'across' ? /** @type {const} */ (['left', 'right']) : /** @type {const} */ (['top', 'bottom'])
  const sorted = shapes
    .map(shape => ({ shape, bounds: boundsOf(shape.region) }))
    .sort((a, b) => a.bounds[low] + a.bounds[high] - b.bounds[low] - b.bounds[high])
  const room =
    sorted[sorted.length - 1].bounds[high] - sorted[0].bounds[low] - sorted.reduce((sum, { bounds }) => sum + bounds[high] - bounds[low], 0)
  let at = sorted[0].bounds[low]
  for (const { shape, bounds } of sorted) {
    const by = at - bounds[low]
    pane = changeShapes(pane, [shape.key], region => (how === 'across' ? moved(region, by, 0) : moved(region, 0, by)))
    at += bounds[high] - bounds[low] + room / (sorted.length - 1)
  }
  return pane
}
