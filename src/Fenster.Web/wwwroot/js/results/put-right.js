// Putting a key right: what is changed by hand or in a field is asked about at once, and what would come of it is drawn. Nothing is
// changed before it is applied.

import { post } from '../http.js'
import { numeral, phrase } from '../language.js'
import { boundsOf } from '../scene/geometry.js'
import { areaOf, svg } from '../scene/shapes.js'

/**
 * @typedef {object} Outcome
 * @property {string | null} problem
 * @property {number} all
 * @property {number} changed
 * @property {number} meanBefore
 * @property {number} meanAfter
 * @property {number[]} before
 * @property {number[]} after
 * @property {number[] | null} passing
 * @property {number} nowPass
 * @property {number} nowFail
 * @property {{name: string, before: string, after: string, isUp: boolean}[]} moved
 * @property {boolean[]} earned
 */

const part = (/** @type {string} */ id) => /** @type {HTMLElement} */ (document.getElementById(id))
const field = (/** @type {string} */ id) => /** @type {HTMLInputElement | null} */ (document.getElementById(id))
const screen = part('put-right')
/**
 * @typedef {object} Bench
 * @property {number} pane
 * @property {number} target
 * @property {Picture | null} picture
 * @property {Region[]} regions
 * @property {Region | null} region
 * @property {number | null} slack
 * @property {Point[]} points
 */
const bench = /** @type {Bench} */ (JSON.parse(screen.dataset.bench ?? ''))
let region = bench.region
/** @type {boolean[]} */
let earned = []

/** What the fields said at first: only what was changed since is sent. @type {Map<string, string>} */
const first = new Map()
for (const id of ['slack', 'points', 'taken-out', 'wrong-cost', 'try-cost', 'pass-mark']) first.set(id, field(id)?.value ?? '')
const checkedAtFirst = checked('right').join()

/** @param {string} name */
function checked(name) {
  const boxes = /** @type {NodeListOf<HTMLInputElement>} */ (document.querySelectorAll(`#change input[name=${name}]:checked`))
  return [...boxes].map(box => box.value)
}

/** A number that was changed; undefined where it was not. @param {string} id */
function changed(id) {
  const value = field(id)?.value ?? ''
  return value === first.get(id) || value.trim() === '' ? undefined : Number(value)
}

/** What is wished for, as the server reads it. */
function wish() {
  const [accepts, spellings, right] = [checked('accepts'), checked('spellings'), checked('right')]
  const takenOut = field('taken-out')?.value ?? ''
  const target = {
    pane: bench.pane,
    target: bench.target,
    slack: changed('slack'),
    region: region === bench.region ? undefined : region,
    accepts: accepts.length > 0 ? accepts : undefined,
    spellings: spellings.length > 0 ? spellings : undefined,
    right: right.join() === checkedAtFirst ? undefined : right,
    points: changed('points'),
    takenOut: takenOut === '' || takenOut === first.get('taken-out') ? undefined : takenOut,
  }
  const tryCost = changed('try-cost')
  return {
    repair: {
      targets: [target],
      wrongCost: changed('wrong-cost'),
      tryCost: tryCost === undefined ? undefined : tryCost / 100,
      passMark: changed('pass-mark'),
    },
    manner: /** @type {HTMLInputElement | null} */ (document.querySelector('[name=manner]:checked'))?.value,
    isDraft: field('is-draft')?.checked ?? false,
  }
}

let isAsking = false
let isStale = false

/** Asks what would come of it; while an answer is under way, once more after it. */
async function ask() {
  const wanted = wish()
  field('wish')?.setAttribute('value', JSON.stringify(wanted))
  if (isAsking) {
    isStale = true
    return
  }
  isAsking = true
  const answer = await post(screen.dataset.ask ?? '', wanted)
  isAsking = false
  if (answer.ok) draw(/** @type {Outcome} */ (answer.body))
  else tell(answer.sentence)
  if (!isStale) return
  isStale = false
  await ask()
}

/** @param {string | null} sentence */
function tell(sentence) {
  part('trouble').textContent = sentence
  part('trouble').hidden = sentence === null
  const button = /** @type {HTMLButtonElement} */ (part('do-it'))
  if (sentence !== null) button.disabled = true
}

/** @param {Outcome} outcome */
function draw(outcome) {
  tell(outcome.problem)
  if (outcome.problem !== null) return
  const count = { count: outcome.changed, all: numeral(outcome.all) }
  part('sentence').textContent = phrase(outcome.changed === 0 ? 'putRight.says.nobody' : 'putRight.says.changes', count)
  part('mean-before').textContent = numeral(outcome.meanBefore, 2)
  part('mean-after').textContent = numeral(outcome.meanAfter, 2)
  part('passing').hidden = outcome.passing === null
  if (outcome.passing)
    part('passes').textContent = phrase('putRight.says.passing', {
      before: numeral(outcome.passing[0] ?? 0),
      after: numeral(outcome.passing[1] ?? 0),
    })
  part('moved').replaceChildren(
    ...outcome.moved.map(({ name, before, after, isUp }) => {
      const row = document.createElement('tr')
      const head = Object.assign(document.createElement('th'), { scope: 'row', textContent: name, dir: 'auto' })
      row.append(
        head,
        Object.assign(document.createElement('td'), { className: 'num', textContent: before }),
        Object.assign(document.createElement('td'), { className: `num ${isUp ? 'up' : 'down'}`, textContent: after }),
      )
      return row
    }),
  )
  drawHistogram(outcome)
  earned = outcome.earned
  drawPoints()
  const button = /** @type {HTMLButtonElement} */ (part('do-it'))
  button.disabled = isUnchanged()
}

/** Whether nothing was wished for. */
function isUnchanged() {
  const { repair, isDraft } = wish()
  const { targets, ...rules } = repair
  const said = targets.flatMap(target => Object.entries(target)).filter(([name]) => name !== 'pane' && name !== 'target')
  return !isDraft && said.concat(Object.entries(rules)).every(([, value]) => value === undefined)
}

/** Bars of before, and the outline of after over them. @param {Outcome} outcome */
function drawHistogram({ before, after }) {
  const most = Math.max(1, ...before, ...after)
  const width = 400 / before.length
  const height = (/** @type {number} */ count) => (100 * count) / most
  const outline = after.map((count, i) => `${i === 0 ? 'M0' : 'L' + i * width} ${110 - height(count)}h${width}`).join('')
  part('histogram').replaceChildren(
    ...before.map((count, i) =>
      svg('rect', { class: 'before', x: i * width + 1, y: 110 - height(count), width: width - 2, height: height(count) }),
    ),
    svg('path', { class: 'after', d: outline }),
    svg('path', { d: 'M0 110h400', stroke: 'currentcolor' }),
  )
}

const drawing = document.getElementById('drawing')
/** @type {SVGSVGElement | null} */
let sheet = null
const shapes = svg('g')
const points = svg('g')
const handles = svg('g')
if (drawing && bench.picture) {
  const { width, height, media, altText } = bench.picture
  const tall = (1000 * height) / width
  sheet = /** @type {SVGSVGElement} */ (svg('svg', { viewBox: `0 0 1000 ${tall}`, role: 'img', 'aria-label': altText }))
  sheet.append(
    svg('image', { href: `/media/${media}/960`, width: 1000, height: tall, preserveAspectRatio: 'none' }),
    shapes,
    points,
    handles,
  )
  drawing.append(sheet)
  drawShapes()
}

/** The region with its slack around it, and where a hand takes hold. */
function drawShapes() {
  if (!region) {
    shapes.replaceChildren(...bench.regions.map(looked))
    return
  }
  const slack = Number(field('slack')?.value ?? 0)
  const ring = areaOf(region)
  for (const [name, value] of Object.entries({ fill: 'none', stroke: '#e8a317', 'stroke-opacity': 0.45, 'stroke-linejoin': 'round' }))
    ring.setAttribute(name, String(value))
  ring.setAttribute('stroke-width', String(slack * 2))
  const shape = looked(region)
  shape.classList.add('handle')
  grip(shape, moved)
  shapes.replaceChildren(ring, shape)
  // The slack's own grip lies above the region, on the edge of the ring.
  const { left, right, top } = boundsOf(region)
  const ear = svg('rect', { class: 'handle', x: (left + right) / 2 - 8, y: top - slack - 8, width: 16, height: 16, id: 'slack-grip' })
  ear.addEventListener('pointerdown', down => {
    const [from, input] = [slack, field('slack')]
    follow(down, (_, dy) => {
      if (input) input.value = String(Math.max(0, Math.round((from - dy) * 10) / 10))
    })
  })
  handles.replaceChildren(
    ear,

    ...corners(region).map(([at, change]) => grip(svg('circle', { class: 'handle', cx: at.x, cy: at.y, r: 11 }), change)),
  )
}

/** @param {Region} at */
function looked(at) {
  const shape = areaOf(at)
  for (const [name, value] of Object.entries({ fill: '#0f5b57', 'fill-opacity': 0.3, stroke: '#20242c', 'stroke-width': 2 }))
    shape.setAttribute(name, String(value))
  return shape
}

function drawPoints() {
  points.replaceChildren(
    ...bench.points.map(({ x, y }, i) =>
      svg('circle', {
        cx: x,
        cy: y,
        r: 6,
        fill: earned[i] ? '#0072b2' : '#b84300',
        stroke: '#fffefb',
        'stroke-width': 1.5,
        'pointer-events': 'none',
      }),
    ),
  )
}

/** @param {Region} from @param {number} dx @param {number} dy @returns {Region} */
function moved(from, dx, dy) {
  const by = (/** @type {Point} */ point) => ({ x: point.x + dx, y: point.y + dy })
  switch (from.kind) {
    case 'circle':
    case 'ellipse':
      return { ...from, centre: by(from.centre) }
    case 'rectangle':
      return { ...from, x: from.x + dx, y: from.y + dy }
    case 'polygon':
      return { ...from, vertices: from.vertices.map(by) }
  }
}

/** @typedef {(from: Region, dx: number, dy: number) => Region} Change */

/** Where a region is made larger or smaller, and how. @param {Region} from @returns {[Point, Change][]} */
function corners(from) {
  const least = 4
  switch (from.kind) {
    case 'circle':
      return [
        [
          { x: from.centre.x + from.radius, y: from.centre.y },
          (at, dx) => (at.kind === 'circle' ? { ...at, radius: Math.max(least, at.radius + dx) } : at),
        ],
      ]
    case 'ellipse':
      return [
        [
          { x: from.centre.x + from.radiusX, y: from.centre.y },
          (at, dx) => (at.kind === 'ellipse' ? { ...at, radiusX: Math.max(least, at.radiusX + dx) } : at),
        ],
        [
          { x: from.centre.x, y: from.centre.y + from.radiusY },
          (at, _, dy) => (at.kind === 'ellipse' ? { ...at, radiusY: Math.max(least, at.radiusY + dy) } : at),
        ],
      ]
    case 'rectangle':
      return from.rotation
        ? []
        : [
            [
              { x: from.x + from.width, y: from.y + from.height },
              (at, dx, dy) =>
                at.kind === 'rectangle' ? { ...at, width: Math.max(least, at.width + dx), height: Math.max(least, at.height + dy) } : at,
            ],
          ]
    case 'polygon':
      return from.vertices.map((vertex, i) => [
        vertex,
        (at, dx, dy) =>
          at.kind === 'polygon'
            ? { ...at, vertices: at.vertices.map((other, j) => (j === i ? { x: other.x + dx, y: other.y + dy } : other)) }
            : at,
      ])
  }
}

/**
 * Lets a hand change the region by dragging something.
 * @param {SVGElement} handle @param {(from: Region, dx: number, dy: number) => Region} change
 */
function grip(handle, change) {
  handle.addEventListener('pointerdown', down => {
    if (!region) return
    const from = region
    follow(down, (dx, dy) => {
      region = change(from, dx, dy)
    })
  })
  return handle
}

/**
 * Draws and asks while a hand drags.
 * @param {PointerEvent} down @param {(dx: number, dy: number) => void} change In pu since the hand took hold.
 */
function follow(down, change) {
  if (!sheet) return
  down.preventDefault()
  const scale = 1000 / sheet.getBoundingClientRect().width
  const round = (/** @type {number} */ number) => Math.round(number * 10) / 10
  sheet.setPointerCapture(down.pointerId)
  /** @param {PointerEvent} move */
  const moves = move => {
    change(round((move.clientX - down.clientX) * scale), round((move.clientY - down.clientY) * scale))
    drawShapes()
    void ask()
  }
  sheet.addEventListener('pointermove', moves)
  sheet.addEventListener('lostpointercapture', () => sheet?.removeEventListener('pointermove', moves), { once: true })
}

part('change').addEventListener('submit', event => event.preventDefault())
part('change').addEventListener('input', () => {
  drawShapes()
  void ask()
})
for (const manner of document.querySelectorAll('[name=manner]')) manner.addEventListener('change', () => void ask())
void ask()
