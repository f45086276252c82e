// Shapes of the picture as regions: found by the server around a point, with more or less of them as long as the page is open.

import { phrase } from '../language.js'
import { post } from '../http.js'
import { fileOf } from '../room/canvas-file.js'
import { usual } from '../usual.js'
import { shapesOf, withShape } from './pane.js'
import { inside } from './regions.js'
import { valueOf } from './typing.js'

/** How large a drawing is drawn for the server, in pixels of its longer side. */
const drawnSide = 1600
/** From here on a teacher sees that the outline is off, in picture units. */
const visible = 3

/**
 * @typedef {{region: Region | null, off: number}} Traced
 * @param {import('./desk.js').Desk} desk
 * @param {ReturnType<typeof import('./picture.js').picturePart>} picture
 * @param {() => Promise<void>} flush The server looks at the picture that is saved.
 */
export function tracingPart(desk, picture, flush) {
  const { pane, change, announce } = desk
  /** What a shape was found from, by its pane and key. @type {Map<string, {at: Point, reach: number, off: number}>} */
  const known = new Map()
  /** One after the other, in the order of the clicks. @type {Promise<unknown>} */
  let last = Promise.resolve()
  let timer = 0
  const nameOf = (/** @type {string} */ key) => `${pane().id} ${key}`

  /**
   * Asks when what was asked before is answered, and hands the answer over unless the teacher is on another picture by then.
   * @param {Point} at @param {number} reach @param {(found: Traced) => void} take
   */
  const askNext = (at, reach, take) => {
    const asked = pane().id
    last = last
      .then(() => (asked === pane().id ? ask(at, reach) : null))
      .then(found => {
        if (found && asked === pane().id) take(found)
      })
      .catch(error => {
        desk.state().problem = error instanceof Error ? error.message : String(error)
      })
  }

  /** @param {Point} at @param {number} reach @returns {Promise<Traced | null>} Null when it could not be asked; that is said. */
  async function ask(at, reach) {
    const wish = { pane: desk.index(), at, reach }
    await flush()
    let answer = await post(`${desk.url}?handler=Shape`, wish)
    if (answer.ok && answer.body.needsDrawing) {
      const drawn = await drawing()
      const sent = drawn && (await post(`${desk.url}?handler=Drawn&pane=${desk.index()}`, drawn))
      if (sent?.ok) answer = await post(`${desk.url}?handler=Shape`, wish)
    }
    if (answer.ok && !answer.body.needsDrawing) return answer.body
    desk.state().problem = answer.sentence || phrase('bench.noShape')
    return null
  }

  /** The picture as the browser draws it. @returns {Promise<Blob | null>} */
  async function drawing() {
    const image = /** @type {HTMLImageElement | null | undefined} */ (picture.bench()?.stage.element.querySelector('.stage-picture'))
    if (!image) return null
    await image.decode()
    const canvas = document.createElement('canvas')
    const { plane } = /** @type {import('../scene/stage.js').Stage} */ (picture.bench()?.stage)
    const [width, height] = [plane.right - plane.left, plane.bottom - plane.top]
    const scale = drawnSide / Math.max(width, height)
    Object.assign(canvas, { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) })
    canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height)
    return fileOf(canvas)
  }

  return {
    /**
     * The shape around a point, handed over when it is found; where there is none, that is said.
     * @param {Point} at
     * @param {(region: Region) => void} take Makes something of it; what that selects can be made more or less then.
     */
    trace(at, take) {
      const reach = usual.shapeReach
      askNext(at, reach, ({ region, off }) => {
        if (region) {
          take(inside(region, pane()))
          known.set(nameOf(desk.selection()[0]), { at, reach, off })
          desk.show()
        } else {
          desk.state().problem = phrase('bench.noShape')
          announce(phrase('bench.noShape'))
        }
      })
    },
    show() {
      const shape = shapesOf(pane()).find(shape => shape.key === desk.selection()[0])
      const from = desk.selection().length === 1 && shape?.region.kind === 'polygon' ? known.get(nameOf(shape.key)) : undefined
      Object.assign(desk.state(), {
        canReach: from !== undefined,
        reach: from?.reach ?? usual.shapeReach,
        off: from && from.off > visible ? phrase('bench.outlineOff', { off: Math.round(from.off) }) : '',
      })
    },
    page: {
      canReach: false,
      reach: usual.shapeReach,
      off: '',
      /** @param {Event} event */
      setReach(event) {
        const key = desk.selection()[0]
        const from = known.get(nameOf(key))
        const reach = Number(valueOf(event))
        if (!from) return
        clearTimeout(timer)
        timer = setTimeout(
          () =>
            askNext(from.at, reach, ({ region, off }) => {
              if (!region || !shapesOf(pane()).some(shape => shape.key === key)) return
              known.set(nameOf(key), { ...from, reach, off })
              change(withShape(pane(), key, inside(region, pane())), `reach ${key}`)
            }),
          60,
        )
      },
    },
  }
}
