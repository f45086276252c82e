// Draws what is on the pane, each kind in its own way, and tells what lies under a point.

import { readsTheSame } from '../same.js'
import { phrase } from '../language.js'
import { boundsOf, centreOf, distanceTo } from '../scene/geometry.js'
import { areaOf, bracketsOf, leaderOf, svg } from '../scene/shapes.js'
import { textWidth } from '../scene/stage.js'
import { kinds } from './kinds/all.js'
import { labelOf, shapesOf, targetOf } from './pane.js'
import { wordsOf } from '../scene/scale.js'

/** @typedef {import('./regions.js').Corner} Corner */
/** @typedef {import('./pane.js').Shape} Shape */
/**
 * @typedef {{shape: Shape, words: string, classes: string, media: string, slack: number, fits: number,
 *   size: number}} Look All that a shape's drawing is made from: the size of its words, and the largest that fits.
 */

const corners = /** @type {Corner[]} */ (['nw', 'ne', 'sw', 'se'])
const gripSize = 5
const smallestWord = 14
const largestWord = 22
const unnamed = phrase('bench.noLabelYet')

/** @param {import('../scene/stage.js').Stage} stage */
export function createCanvas(stage) {
  const axes = svg('g', { class: 'axes' })
  const things = svg('g')
  stage.drawing.append(axes, things)
  // What a hand moves is a drawing of its own on top, so that the browser paints nothing else anew.
  const onTop = (/** @type {string} */ name) =>
    svg('svg', { class: `stage-drawing ${name}`, viewBox: stage.drawing.getAttribute('viewBox') ?? '', 'aria-hidden': 'true' })
  const [hand, marks] = [onTop('stage-hand'), onTop('stage-marks')]
  const held = svg('g')
  const grips = svg('g')
  const lines = svg('g', { class: 'guides' })
  const draft = svg('g')
  hand.append(held, grips)
  marks.append(lines, draft)
  stage.drawing.after(hand, marks)
  /**
   * What is drawn already, and from what, so that a drag draws anew only what it moves.
   * @type {Map<string, {look: Look, element: SVGElement}>}
   */
  let drawn = new Map()
  let before = /** @type {PanePart | null} */ (null)

  return {
    /**
     * @param {PanePart} pane
     * @param {string[]} selection Keys of shapes.
     * @param {string | null} pointed A row.
     * @param {boolean} [isMoving] Whether a hand is moving what is selected.
     */
    draw(pane, selection, pointed, isMoving = false) {
      const shapes = shapesOf(pane)
      const chosenKeys = new Set(selection)
      const isLike = before !== null && before.labels === pane.labels && before.scale === pane.scale
      const looks = shapes.map(shape => {
        const classes = `${chosenKeys.has(shape.key) ? 'selected' : ''} ${shape.row === pointed ? 'pointed' : ''}`
        const known = isLike && before && targetOf(before, shape.row) === targetOf(pane, shape.row) ? drawn.get(shape.key)?.look : undefined
        return known?.classes === classes ? known : lookOf(pane, shape, classes)
      })
      before = pane
      // One size for all, so that the picture reads like a printed diagram. What fits in no readable size is cut short.
      const sizes = looks.flatMap(({ fits }) => (fits >= smallestWord ? [fits] : []))
      const size = sizes.length > 0 ? Math.min(largestWord, ...sizes) : smallestWord
      drawn = new Map(
        looks.map(bare => {
          const look = bare.shape.isPoint || bare.size === size ? bare : { ...bare, size }
          const known = drawn.get(look.shape.key)
          if (known && isSame(known.look, look)) return [look.shape.key, known]
          const fresh = look.shape.isPoint ? spot(look) : area(look)
          return [look.shape.key, { look, element: known ? made(known.element, fresh) : fresh }]
        }),
      )
      const isHeld = (/** @type {Look} */ { shape }) => isMoving && chosenKeys.has(shape.key)
      lay(
        things,
        [...drawn.values()].flatMap(({ look, element }) => (isHeld(look) ? [] : [element])),
      )
      lay(
        held,
        [...drawn.values()].flatMap(({ look, element }) => (isHeld(look) ? [element] : [])),
      )
      axes.replaceChildren(
        ...pane.targets.flatMap(target => (target.kind === 'dropZone' && target.leader ? [leaderOf(target.region, target.leader)] : [])),
        ...(pane.scale ? [pane.scale.x, ...(pane.scale.y ? [pane.scale.y] : [])].flatMap(axisLine) : []),
      )
      const chosen = selection.length === 1 ? shapes.find(shape => shape.key === selection[0]) : undefined
      grips.replaceChildren(...(chosen && !chosen.isPoint ? gripsOf(chosen.region, gripSize / stage.scale()) : []))
    },
    /** @param {Point | null} by How far what is held is carried from where it was drawn; null puts it down. */
    carry(by) {
      hand.style.transform = by ? `translate(${by.x * stage.scale()}px, ${by.y * stage.scale()}px)` : ''
    },
    /** @param {Region | null} region Shows a region that is being drawn. */
    sketch(region) {
      if (!region) return draft.replaceChildren()
      const shown = areaOf(region)
      shown.setAttribute('class', 'zone-draft')
      draft.replaceChildren(shown)
    },
    /** @param {Point[]} path A free line that is being drawn. */
    sketchPath(path) {
      draft.replaceChildren(svg('polyline', { class: 'zone-draft', points: path.map(({ x, y }) => `${x},${y}`).join(' ') }))
    },
    /** @param {{x?: number, y?: number}[]} at Lines on which edges or middles are in line. */
    guides(at) {
      const { left, top, right, bottom } = stage.plane
      lines.replaceChildren(
        ...at.map(({ x, y }) => svg('path', { d: x !== undefined ? `M${x} ${top}V${bottom}` : `M${left} ${y}H${right}` })),
      )
    },
    /** @param {PanePart} pane @param {Point} point @param {boolean} [touch] @returns {Shape | undefined} The topmost thing there. */
    shapeAt(pane, point, touch = false) {
      const reach = (touch ? 14 : 4) / stage.scale()
      const shapes = shapesOf(pane)
      return (
        shapes.findLast(shape => distanceTo(shape.region, point) === 0) ??
        shapes.findLast(shape => shape.isPoint && distanceTo(shape.region, point) <= reach)
      )
    },
    /** @param {Region} region Of the only one selected. @param {Point} point @param {boolean} touch @returns {Grip | undefined} */
    gripAt(region, point, touch) {
      const reach = (touch ? 18 : 9) / stage.scale()
      const near = (/** @type {Point} */ at) => Math.abs(at.x - point.x) <= reach && Math.abs(at.y - point.y) <= reach
      if (region.kind === 'polygon') {
        if (!areApart(region)) return undefined
        const vertex = region.vertices.findIndex(near)
        if (vertex >= 0) return { kind: 'vertex', index: vertex }
        const middle = region.vertices.findIndex((_, i) => near(middleOf(region.vertices, i)))
        return middle >= 0 ? { kind: 'edge', index: middle } : undefined
      }
      if (region.kind === 'rectangle' && near(turnGrip(region, 26 / stage.scale()))) return { kind: 'turn' }
      const corner = corners.find(corner => near(cornerOf(region, corner)))
      return corner && { kind: 'corner', corner }
    },
  }

  /**
   * Whether corners lie so far from each other that a hand can take one; a small outline of many is taken as a whole until it is
   * seen larger.
   * @param {Polygon} region
   */
  function areApart({ vertices }) {
    const around = vertices.reduce((sum, { x, y }, i) => {
      const next = vertices[(i + 1) % vertices.length]
      return sum + Math.hypot(next.x - x, next.y - y)
    }, 0)
    return (around / vertices.length) * stage.scale() >= 4 * gripSize
  }

  /** @param {Region} region @param {number} grip */
  function gripsOf(region, grip) {
    const box = (/** @type {Point} */ at, /** @type {string} */ name) =>
      svg('rect', { class: `grip ${name}`, x: at.x - grip, y: at.y - grip, width: 2 * grip, height: 2 * grip })
    if (region.kind === 'polygon') {
      if (!areApart(region)) return []
      return region.vertices.flatMap((vertex, i) => {
        const middle = middleOf(region.vertices, i)
        return [box(vertex, 'grip-vertex'), svg('circle', { class: 'grip grip-edge', cx: middle.x, cy: middle.y, r: grip * 0.8 })]
      })
    }
    const turn = region.kind === 'rectangle' ? turnGrip(region, 26 / stage.scale()) : null
    return [
      ...corners.map(corner => box(cornerOf(region, corner), `grip-${corner}`)),
      ...(turn ? [svg('circle', { class: 'grip grip-turn', cx: turn.x, cy: turn.y, r: grip * 1.2 })] : []),
    ]
  }
}

/** @typedef {{kind: 'corner', corner: Corner} | {kind: 'vertex', index: number} | {kind: 'edge', index: number} | {kind: 'turn'}} Grip */

/** @param {Point[]} vertices @param {number} i @returns {Point} The middle of the edge that begins at a vertex. */
export function middleOf(vertices, i) {
  const [a, b] = [vertices[i], vertices[(i + 1) % vertices.length]]
  return { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }
}

/** @param {Rectangle} region @param {number} above @returns {Point} */
function turnGrip(region, above) {
  const turn = ((region.rotation ?? 0) * Math.PI) / 180
  const far = region.height / 2 + above
  return { x: region.x + region.width / 2 + far * Math.sin(turn), y: region.y + region.height / 2 - far * Math.cos(turn) }
}

/** @param {PanePart} pane @param {Shape} shape @param {string} classes @returns {Look} */
function lookOf(pane, shape, classes) {
  const target = targetOf(pane, shape.row)
  const face = shape.isPoint ? undefined : faceOf(pane, target)
  const words = wordOf(pane, shape)
  return {
    shape,
    words,
    classes,
    media: face?.kind === 'picture' ? face.media : '',
    slack: slackOf(target),
    fits: shape.isPoint ? 0 : sizeIn(shape.region, words || unnamed),
    size: 0,
  }
}

/** @param {Look} a @param {Look} b */
const isSame = (a, b) =>
  a.words === b.words &&
  a.classes === b.classes &&
  a.media === b.media &&
  a.slack === b.slack &&
  a.size === b.size &&
  a.shape.kind === b.shape.kind &&
  readsTheSame(a.shape.region, b.shape.region)

/**
 * Makes an element like another one in its place: a new one would have the browser restyle all beside it.
 * @param {SVGElement} element
 * @param {SVGElement} like
 */
function made(element, like) {
  for (const { name, value } of like.attributes) element.setAttribute(name, value)
  element.replaceChildren(...like.childNodes)
  return element
}

/**
 * Makes these the children, and touches only those that change: moving all others would cost a frame's time.
 * @param {Element} parent
 * @param {Element[]} children
 */
function lay(parent, children) {
  const kept = new Set(children)
  children.forEach((child, i) => {
    const there = parent.children[i]
    if (there === child) return
    if (there && !kept.has(there)) there.replaceWith(child)
    else parent.insertBefore(child, there ?? null)
  })
  while (parent.childElementCount > children.length) parent.lastElementChild?.remove()
}

/** @param {PanePart} pane @param {TargetPart | undefined} target */
const faceOf = (pane, target) =>
  target && (target.kind === 'dropZone' || target.kind === 'hiddenZone') ? labelOf(pane, target.accepts[0]?.label ?? '')?.face : undefined

/** @param {TargetPart | undefined} target @returns {number} */
const slackOf = target =>
  target?.kind === 'hiddenZone'
    ? (target.tolerance?.slack ?? 0)
    : target?.kind === 'hotspots'
      ? (target.spots[0]?.tolerance?.slack ?? 0)
      : 0

/** @param {PanePart} pane @param {Shape} shape @returns {string} What stands on it. */
function wordOf(pane, shape) {
  if (shape.kind === 'leaderEnd') return ''
  if (shape.kind === 'start') return labelOf(pane, shape.key.slice(6))?.text ?? ''
  if (shape.kind === 'scaleEnd') {
    const [, index, end] = shape.key.split(':')
    const axis = index === '0' ? pane.scale?.x : pane.scale?.y
    return axis ? wordsOf(axis, end === 'from' ? axis.fromValue : axis.toValue) : ''
  }
  const target = targetOf(pane, shape.row)
  if (!target) return ''
  if (target.kind === 'dropZone' || target.kind === 'hiddenZone')
    return target.accepts
      .map(accepted => labelOf(pane, accepted.label)?.text)
      .filter(Boolean)
      .join(' / ')
  if (target.kind === 'hotspots') return String(Number(shape.key.split('#')[1] ?? 0) + 1)
  return kinds[target.kind].main(target, pane).text
}

/** @param {Look} look */
function area({ shape, words, classes, media, slack, size }) {
  const { region } = shape
  const group = svg('g', { class: `zone zone-box kind-${shape.kind} ${classes}`, 'data-zone': shape.row, 'data-shape': shape.key })
  if (slack > 0) group.append(grownOutline(region, slack))
  group.append(areaOf(region))
  if (shape.kind === 'dropZone') group.append(bracketsOf(region, 'zone-lead'), bracketsOf(region, 'zone-corners'))
  group.append(media ? pictureIn(region, media) : wordIn(region, words, size))
  return group
}

/** @param {Region} region @param {number} slack The region's slack as a thin second line. */
function grownOutline(region, slack) {
  if (region.kind === 'rectangle') return svg('rect', { ...frameOf(region, slack), rx: slack, class: 'zone-slack' })
  const outline = areaOf(
    region.kind === 'circle'
      ? { ...region, radius: region.radius + slack }
      : region.kind === 'ellipse'
        ? { ...region, radiusX: region.radiusX + slack, radiusY: region.radiusY + slack }
        : region,
  )
  outline.setAttribute('class', region.kind === 'polygon' ? 'zone-slack zone-slack-wide' : 'zone-slack')
  // Of an outline the slack is a band along its line.
  if (region.kind === 'polygon') outline.setAttribute('stroke-width', String(2 * slack))
  return outline
}

/** @param {Rectangle} region @param {number} by @returns {Record<string, string | number>} */
function frameOf({ x, y, width, height, rotation }, by) {
  /** @type {Record<string, string>} */
  const turn = rotation ? { transform: `rotate(${rotation} ${x + width / 2} ${y + height / 2})` } : {}
  return { x: x - by, y: y - by, width: width + 2 * by, height: height + 2 * by, ...turn }
}

/** @param {Look} look */
function spot({ shape, words, classes }) {
  const { x, y } = centreOf(shape.region)
  const group = svg('g', {
    class: `zone-spot kind-${shape.kind} ${classes}`,
    'data-zone': shape.row,
    'data-shape': shape.key,
    transform: `translate(${x} ${y})`,
  })
  const kind = shape.kind in kinds ? kinds[/** @type {TargetPart['kind']} */ (shape.kind)] : null
  if (shape.kind === 'lock')
    group.append(
      svg('rect', { x: -15, y: -15, width: 30, height: 30, rx: 5, class: 'spot-back' }),
      svg('path', { d: 'M0-9a5 5 0 0 1 2.2 9.5L4 9H-4l1.800-8.500A5 5 0 0 1 0-9z', class: 'spot-keyhole' }),
    )
  else if (shape.kind === 'scaleEnd')
    group.append(svg('rect', { x: -9, y: -9, width: 18, height: 18, class: 'spot-back', transform: 'rotate(45)' }))
  else if (shape.kind === 'leaderEnd') group.append(svg('circle', { r: 8, class: 'spot-back' }))
  else if (shape.kind === 'start') group.append(startStrip(words))
  else group.append(svg('circle', { r: 15, class: 'spot-back' }), ...(kind?.isRinged ? [svg('circle', { r: 10, class: 'spot-ring' })] : []))
  if (kind?.sign) {
    const sign = svg('text', { class: 'spot-sign', 'font-size': 18 })
    sign.textContent = kind.sign
    group.append(sign)
  }
  if (words && shape.kind !== 'start') {
    const word = svg('text', { class: 'spot-word', y: 32, 'font-size': 16 })
    word.textContent = words.length > 20 ? `${words.slice(0, 19)}…` : words
    group.append(word)
  }
  return group
}

/** @param {string} words */
function startStrip(words) {
  const width = textWidth(words, 16) + 24
  const group = svg('g')
  const word = svg('text', { class: 'zone-word', 'font-size': 16 })
  word.textContent = words
  group.append(svg('path', { class: 'start-strip', d: `M${-width / 2} -15H${width / 2 - 8}L${width / 2} -7V15H${-width / 2}z` }), word)
  return group
}

/** @param {Axis} axis */
const axisLine = axis => [
  svg('path', { class: 'axis-lead', d: `M${axis.from.x} ${axis.from.y}L${axis.to.x} ${axis.to.y}` }),
  svg('path', { class: 'axis-line', d: `M${axis.from.x} ${axis.from.y}L${axis.to.x} ${axis.to.y}` }),
]

/** @param {Region} region @param {Corner} corner @returns {Point} */
function cornerOf(region, corner) {
  const { left, top, right, bottom } = boundsOf(region)
  return { x: corner.endsWith('w') ? left : right, y: corner.startsWith('n') ? top : bottom }
}

/** @param {Region} region @param {string} words @returns {number} The largest size, in picture units, in which the words stay inside. */
function sizeIn(region, words) {
  const { left, right, top, bottom } = boundsOf(region)
  return Math.min((bottom - top) * 0.6, (20 * (right - left - 14)) / Math.max(1, textWidth(words, 20)))
}

/** @param {Region} region @param {string} media */
function pictureIn(region, media) {
  const { left, top, right, bottom } = boundsOf(region)
  return svg('image', {
    href: `/media/${media}/480`,
    x: left + 3,
    y: top + 3,
    width: Math.max(1, right - left - 6),
    height: Math.max(1, bottom - top - 6),
    class: 'zone-picture',
  })
}

/** @param {Region} region @param {string} text @param {number} size */
function wordIn(region, text, size) {
  const { left, right } = boundsOf(region)
  const { x, y } = centreOf(region)
  const words = text || unnamed
  const room = Math.max(4, Math.floor((words.length * (right - left)) / (textWidth(words, size) + 14)))
  const element = svg('text', { x, y, class: text ? 'zone-word' : 'zone-word zone-unnamed', 'font-size': size })
  element.textContent = words.length > room ? `${words.slice(0, room - 1)}…` : words
  return element
}
