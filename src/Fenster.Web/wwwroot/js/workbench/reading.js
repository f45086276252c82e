// Printed names become labels: what was read is shown first, then covered, zoned and named in one step.

import { phrase } from '../language.js'
import { ofOneSize } from '../reading/names.js'
import { post } from '../http.js'
import { planeOf } from '../scene/geometry.js'
import { layOver } from '../scene/stage.js'
import { createFound } from './found.js'
import { freshId } from './pane.js'
import { rounded } from './regions.js'

/** More is a page of text, and no picture with names. */
const mostNames = 200
/** Around the printed words, in picture units: a cover reaches over their soft edges. */
const rim = 3

/** @typedef {{id: string, text: string, isTicked: boolean, isDoubtful: boolean, box: import('../reading/names.js').Box}} Read */

/**
 * @param {import('./desk.js').Desk} desk
 * @param {ReturnType<typeof import('./picture.js').picturePart>} picture
 * @returns {import('./desk.js').Part}
 */
export function readingPart(desk, picture) {
  const { pane, change, announce } = desk
  /** In picture units. @type {ReturnType<typeof createFound<Read>>} */
  const names = createFound(draw)
  /** The picture that they were read on. */
  const which = () => `${desk.index()} ${pane().picture?.media}`
  let readOn = ''

  const busy = (/** @type {string} */ sentence) => {
    desk.state().uploading = sentence
  }

  const chosenNames = () => names.ticked().filter(name => name.text.trim())

  function draw() {
    const count = chosenNames().length
    Object.assign(desk.state(), {
      read: names.all().map(name => ({ ...name, classes: name.isDoubtful ? 'read-doubtful' : '' })),
      hasRead: names.all().length > 0,
      makeNames: phrase('bench.makeNames', { count }),
      noneTicked: count === 0,
    })
    const overlay = picture.bench()?.stage.overlay
    overlay?.querySelectorAll('.read-box').forEach(box => box.remove())
    for (const { box, isTicked } of names.all()) {
      const frame = document.createElement('div')
      frame.className = `read-box ${isTicked ? 'read-ticked' : ''}`
      layOver(frame, regionOf(box, rim))
      overlay?.append(frame)
    }
  }

  async function read() {
    const stage = picture.bench()?.stage
    if (!stage) return
    const asked = which()
    desk.state().problem = ''
    busy(phrase('bench.readingNames'))
    try {
      const { namesOn } = await import('../reading/reader.js')
      const { left, top, right, bottom } = stage.plane
      const whole = new Image()
      whole.src = `/media/${pane().picture?.media}/1920`
      await whole.decode()
      const [width, height] = [right - left, bottom - top]
      const found = await namesOn({ image: whole, width, height }, desk.doc().language ?? 'en')
      // The teacher may have gone on to another picture meanwhile.
      if (asked !== which()) return
      if (found.length > mostNames) {
        desk.state().problem = phrase('bench.pageOfText', { count: found.length, most: mostNames })
        return
      }
      readOn = asked
      names.set(
        found.map((name, i) => ({
          id: `${i}`,
          text: name.text,
          isDoubtful: name.isDoubtful,
          isTicked: !name.isDoubtful,
          box: {
            left: left + name.box.left * width,
            top: top + name.box.top * width,
            right: left + name.box.right * width,
            bottom: top + name.box.bottom * width,
          },
        })),
      )
      const said = phrase('bench.namesRead', { count: found.length })
      if (found.length === 0) desk.state().problem = said
      announce(said)
      if (found.length > 0) requestAnimationFrame(() => document.getElementById('make-names')?.focus())
    } catch {
      desk.state().problem = phrase('bench.notRead')
    } finally {
      busy('')
    }
  }

  /** The picture with a patch over each of these names. @param {Read[]} covered @returns {Promise<Picture | null>} */
  async function withoutNames(covered) {
    const [{ burn, colourBeside }, { kept, prepared, unturned, workOf }] = await Promise.all([
      import('../room/burn.js'),
      import('../room/preparation.js'),
    ])
    const work = workOf(pane().picture)
    const { preparation: p } = work
    const { left, top, right } = kept(p)
    const unit = (right - left) / 1000
    const patches = []
    for (const { box } of covered) {
      const corners = [
        { x: left + (box.left - rim) * unit, y: top + (box.top - rim) * unit },
        { x: left + (box.right + rim) * unit, y: top + (box.bottom + rim) * unit },
      ].map(corner => unturned(p, corner))
      const [xs, ys] = [corners.map(corner => corner.x), corners.map(corner => corner.y)]
      const area = { x: Math.min(...xs), y: Math.min(...ys), width: Math.abs(xs[1] - xs[0]), height: Math.abs(ys[1] - ys[0]) }
      patches.push({ kind: /** @type {const} */ ('cover'), ...area, colour: await colourBeside(p, area) })
    }
    const covering = prepared(work, { fixings: [...p.fixings, ...patches] })
    const answer = await post('/pictures', await burn(covering))
    if (!answer.ok) {
      desk.state().problem = answer.sentence
      return null
    }
    const { hash, width, height } = answer.body
    return { .../** @type {Picture} */ (pane().picture), media: hash, width, height, preparation: covering.preparation }
  }

  async function make() {
    const chosen = chosenNames()
    const asked = which()
    busy(phrase('bench.coveringNames'))
    try {
      const covered = await withoutNames(chosen)
      if (!covered || asked !== which()) return
      const plane = planeOf(/** @type {Picture} */ (pane().picture))
      const sized = ofOneSize(
        chosen.map(({ box }) => box),
        plane,
        2 * rim,
      )
      const made = chosen.reduce((changed, { text }, i) => {
        const label = { id: freshId(changed, 'label'), text: text.trim(), copies: 1 }
        const zone = {
          kind: /** @type {const} */ ('dropZone'),
          id: freshId(changed, 'zone'),
          region: rounded(regionOf(sized[i], 2 * rim)),
          accepts: [{ label: label.id }],
        }
        return { ...changed, labels: [...changed.labels, label], targets: [...changed.targets, zone] }
      }, pane())
      desk.mark([])
      change({ ...made, picture: covered })
      announce(phrase('bench.namesMade', { count: chosen.length }))
    } catch (error) {
      desk.state().problem = error instanceof Error ? error.message : String(error)
    } finally {
      busy('')
    }
  }

  return {
    show() {
      if (names.all().length > 0 && readOn !== which()) names.set([])
    },
    page: {
      read: [],
      hasRead: false,
      makeNames: '',
      noneTicked: true,
      readNames: read,
      makeLabelsOfNames: make,
      dropNames: () => names.set([]),
      tickName: names.tick,
      /** @param {Event} event */
      mendName: event => names.name(event, { isDoubtful: false, isTicked: true }),
    },
  }
}

/** @param {import('../reading/names.js').Box} box @param {number} around @returns {Rectangle} */
const regionOf = ({ left, top, right, bottom }, around) => ({
  kind: 'rectangle',
  x: left - around,
  y: top - around,
  width: right - left + 2 * around,
  height: bottom - top + 2 * around,
})
