// What keys do on the picture.

import { phrase } from '../language.js'
import { changeShapes, duplicate, removeShape, shapesOf } from './pane.js'
import { grown, moved } from './regions.js'

/**
 * @param {object} on
 * @param {() => PanePart} on.pane
 * @param {() => string[]} on.selection
 * @param {(keys: string[]) => void} on.select
 * @param {(pane: PanePart, step?: string | null) => void} on.change
 * @param {(row: string) => void} on.focusRow
 * @param {() => void} on.makeByKey
 * @param {() => void} on.fit
 * @param {(sentence: string) => void} on.say
 * @returns {(event: KeyboardEvent) => boolean} Whether the key meant something on the picture.
 */
export const pictureKeys = on => event => {
  const keys = on.selection()
  const shapes = shapesOf(on.pane())
  if (event.ctrlKey || event.metaKey) {
    const key = event.key.toLowerCase()
    if (key === 'a') on.select(shapes.map(shape => shape.key))
    else if (key === 'd' && keys.length > 0) {
      const { pane, made } = duplicate(on.pane(), rowsOf(shapes, keys))
      on.change(pane)
      on.select(made)
      on.say(phrase('bench.copies', { count: made.length }))
    } else return false
    return true
  }
  if (event.altKey) return false
  const chosen = shapes.filter(shape => keys.includes(shape.key))
  if (event.key === 'Enter') {
    if (chosen.length === 1) on.focusRow(chosen[0].row)
    else on.makeByKey()
    return true
  }
  if (event.key === 'Escape') {
    on.select([])
    return true
  }
  if (event.key === '0') {
    on.fit()
    return true
  }
  if (chosen.length === 0) return false
  const step = event.shiftKey ? 10 : 1
  const by = /** @type {Record<string, [number, number]>} */ ({
    ArrowLeft: [-step, 0],
    ArrowRight: [step, 0],
    ArrowUp: [0, -step],
    ArrowDown: [0, step],
  })[event.key]
  if (by)
    on.change(
      changeShapes(on.pane(), keys, region => moved(region, ...by)),
      `move ${keys}`,
    )
  else if (event.key === '[' || event.key === ']')
    on.change(
      changeShapes(
        on.pane(),
        chosen.filter(shape => !shape.isPoint).map(shape => shape.key),
        region => grown(region, event.key === ']' ? 2 : -2),
      ),
      `size ${keys}`,
    )
  else if (event.key === 'Delete' || event.key === 'Backspace') {
    // The last part first, so that the numbers of those before it stay.
    on.change(keys.toSorted((a, b) => Number(b.split('#')[1] ?? 0) - Number(a.split('#')[1] ?? 0)).reduce(removeShape, on.pane()))
    on.select([])
    on.say(phrase('bench.deletedThings', { count: keys.length }))
  } else return false
  return true
}

/** @param {import('./pane.js').Shape[]} shapes @param {string[]} keys */
const rowsOf = (shapes, keys) => [...new Set(shapes.filter(shape => keys.includes(shape.key)).map(shape => shape.row))]
