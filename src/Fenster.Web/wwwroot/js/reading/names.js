// Words that were read on a picture, joined to the names that they are part of. Boxes are in pixels of what was read.

/**
 * @typedef {{left: number, top: number, right: number, bottom: number}} Box
 * @typedef {{text: string, confidence: number, box: Box}} Word Confidence from 0 to 100.
 * @typedef {Word & {isDoubtful: boolean}} Name
 */

/** Below it a word is not shown: most of what is read so badly is a line or a leaf. */
const least = 35
/** Below it a name is marked as badly read. */
const sure = 75

/** @param {Box} a @param {Box} b @returns {number} The share of the smaller one that lies in the other. */
export function overlap(a, b) {
  const across = Math.min(a.right, b.right) - Math.max(a.left, b.left)
  const down = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top)
  return across <= 0 || down <= 0 ? 0 : (across * down) / Math.min(area(a), area(b))
}

/** @param {Box} box */
const area = box => Math.max(Number.EPSILON, (box.right - box.left) * (box.bottom - box.top))
/** @param {Box} box */
const middle = box => (box.left + box.right) / 2

/**
 * The size of the print and where its line stands, told by which letters go up and down. Shares of the size by common practice.
 * @param {Word} word
 * @returns {{em: number, baseline: number}} In pixels.
 */
function printOf({ text, box }) {
  const isTall = /[\p{Lu}\p{N}bdfhijklt()]/u.test(text)
  const isDeep = /[gjpqy(),;]/.test(text)
  const em = (box.bottom - box.top) / (0.52 + (isTall ? 0.21 : 0) + (isDeep ? 0.21 : 0))
  return { em, baseline: box.bottom - (isDeep ? 0.21 * em : 0) }
}

/** @param {number} a @param {number} b */
const ratio = (a, b) => Math.max(a, b) / Math.min(a, b)

/** @param {Box} a @param {Box} b @returns {Box} */
const around = (a, b) => ({
  left: Math.min(a.left, b.left),
  top: Math.min(a.top, b.top),
  right: Math.max(a.right, b.right),
  bottom: Math.max(a.bottom, b.bottom),
})

const signsOf = (/** @type {string} */ text) => [...text].filter(sign => /[\p{L}\p{N}]/u.test(sign)).length

/**
 * A word without the strokes of lines and frames that were taken for signs.
 * @param {Word} word
 * @returns {Word | null} Null where nothing is left that can be part of a name.
 */
export function cleaned(word) {
  const text = word.text
    .replace(/^[^\p{L}\p{N}(]+/u, '')
    .replace(/[^\p{L}\p{N})%°.,;:!?'’-]+$/u, '')
    .replace(/^\(([^)]*)$/, '$1')
    .replace(/^([^(]*)\)$/, '$1')
  const signs = signsOf(text)
  if (signs === 0 || word.confidence < least || signs < [...text].length / 2) return null
  // A single sign that was not read well is mostly a stroke of the drawing.
  return signs > 1 || word.confidence >= sure ? { ...word, text } : null
}

/** A name alone: a single sign is one only where it is no stroke. @param {Word} name */
const isName = ({ text, confidence }) => signsOf(text) > 1 || (confidence >= 90 && !/[lIi|oO]/.test(text))

/**
 * The words of several readings of one picture, each once: where two lie over each other, the one that was read better.
 * @param {Word[][]} readings The first is of the picture as it is; what only another one found must be read well.
 * @returns {Word[]}
 */
export function merged(readings) {
  const words = readings.flatMap((reading, i) =>
    reading
      .map(cleaned)
      .filter(word => word !== null)
      .filter(word => i === 0 || (word.confidence >= sure && [...word.text].length >= 3)),
  )
  return apart(words.sort((a, b) => b.confidence - a.confidence))
}

/** @template {{box: Box}} T @param {T[]} found The better first. @returns {T[]} Those that lie over no better one. */
export function apart(found) {
  /** @type {T[]} */
  const kept = []
  for (const one of found) if (kept.every(other => overlap(one.box, other.box) < 0.3)) kept.push(one)
  return kept
}

/**
 * The words of a picture as it is, and those that are read where its lines were taken off: of what a line touches, the latter.
 * @param {Word[]} asItIs
 * @param {Word[]} free Without lines.
 * @param {(box: Box) => boolean} touchesLine
 * @returns {Word[]}
 */
export function settled(asItIs, free, touchesLine) {
  const isOver = (/** @type {Word} */ a, /** @type {Word} */ b) => overlap(a.box, b.box) >= 0.3
  // What only this reading found must be read well.
  const isLikely = (/** @type {Word} */ word) =>
    asItIs.some(other => isOver(word, other)) || (word.confidence >= sure && [...word.text].length >= 3)
  const readAgain = free.filter(word => cleaned(word) !== null && touchesLine(word.box) && isLikely(word))
  return [...asItIs.filter(word => readAgain.every(other => !isOver(word, other))), ...readAgain]
}

/**
 * The box of a name with a letter's room around it, on a page.
 * @param {Box} box
 * @param {number} width
 * @param {number} tall
 * @returns {Box}
 */
export const withRoom = ({ left, top, right, bottom }, width, tall) => {
  const room = Math.min(bottom - top, 60)
  return {
    left: Math.max(0, Math.floor(left - room)),
    top: Math.max(0, Math.floor(top - room / 3)),
    right: Math.min(width, Math.ceil(right + room)),
    bottom: Math.min(tall, Math.ceil(bottom + room / 3)),
  }
}

/**
 * A name that a line touches, after it was read once more with room around it: what is read twice in the same way holds; else the longer
 * reading that was read well, for the teacher to look at.
 * @param {Name} name
 * @param {Word[]} words Of the second reading.
 * @returns {Name}
 */
export function confirmed(name, words) {
  const [again] = namesIn(merged([words])).sort((a, b) => b.text.length - a.text.length)
  if (!again || again.text === name.text) return again ? name : { ...name, isDoubtful: true }
  const isBetter = again.confidence >= sure && again.text.length > name.text.length
  return { ...(isBetter ? { ...again, box: around(name.box, again.box) } : name), isDoubtful: true }
}

/** Whether a word goes on in the same line. @param {Word} line @param {Word} next */
function goesOn(line, next) {
  if (next.box.top > line.box.bottom || next.box.bottom < line.box.top) return false
  const [a, b] = [printOf(line), printOf(next)]
  const em = Math.max(a.em, b.em)
  const gap = Math.max(next.box.left - line.box.right, line.box.left - next.box.right)
  return ratio(a.em, b.em) < 1.6 && Math.abs(a.baseline - b.baseline) < 0.35 * em && gap < em
}

/** Whether a line is the next one of the same name. @param {Word} last The name's last line. @param {Box} all @param {Word} next */
function isBelow(last, all, next) {
  if (next.box.bottom < last.box.top || next.box.top - last.box.bottom > 2 * (last.box.bottom - last.box.top)) return false
  const [a, b] = [printOf(last), printOf(next)]
  const em = (a.em + b.em) / 2
  const pitch = b.baseline - a.baseline
  const [narrow, wide] = [all.right - all.left, next.box.right - next.box.left].sort((x, y) => x - y)
  const together = Math.min(all.right, next.box.right) - Math.max(all.left, next.box.left)
  const isAligned =
    Math.abs(middle(all) - middle(next.box)) < wide * 0.2 ||
    Math.abs(all.left - next.box.left) < em * 0.4 ||
    Math.abs(all.right - next.box.right) < em * 0.4
  return ratio(a.em, b.em) < 1.35 && pitch > 0.85 * em && pitch < 1.45 * em && together > narrow * 0.5 && isAligned
}

/** @template T @param {T[]} items @param {(a: T, b: T) => T | null} join @returns {T[]} Until nothing more can be joined. */
function joined(items, join) {
  const left = items.slice()
  for (let i = 0; i < left.length; i++) {
    for (let j = 0; j < left.length; j++) {
      const both = i === j ? null : join(left[i], left[j])
      if (!both) continue
      left[i] = both
      left.splice(j, 1)
      if (j < i) i--
      // What is larger now may reach what it did not reach before.
      j = -1
    }
  }
  return left
}

/** @param {Word} a @param {Word} b @param {boolean} isBefore */
const both = (a, b, isBefore) => ({
  text: isBefore ? `${a.text} ${b.text}` : `${b.text} ${a.text}`,
  confidence: Math.min(a.confidence, b.confidence),
  box: around(a.box, b.box),
})

/**
 * @param {Word[]} words Cleaned, each once.
 * @returns {Name[]} From top to bottom, and in a line from left to right.
 */
export function namesIn(words) {
  const lines = joined(
    words.slice().sort((a, b) => a.box.left - b.box.left),
    (a, b) => (goesOn(a, b) ? both(a, b, a.box.left <= b.box.left) : null),
  ).map(line => ({ ...line, last: line, lines: 1 }))
  const names = joined(
    lines.sort((a, b) => a.box.top - b.box.top),
    (a, b) =>
      a.lines + b.lines <= 3 && isBelow(a.last, a.box, b) ? { ...both(a, b, true), last: b.last, lines: a.lines + b.lines } : null,
  )
  const isSameRow = (/** @type {Word} */ a, /** @type {Word} */ b) => Math.abs(a.box.top - b.box.top) < printOf(a).em / 2
  return names
    .filter(isName)
    .sort((a, b) => (isSameRow(a, b) ? a.box.left - b.box.left : a.box.top - b.box.top))
    .map(({ text, confidence, box }) => ({ text: text.replace(/[,;:-]+$/, ''), confidence, box, isDoubtful: confidence < sure }))
}

/**
 * A box of a picture that was turned to be read, on the picture as it is.
 * @param {Box} box
 * @param {90 | -90} turn Degrees clockwise by which the picture was turned.
 * @param {number} width Of the picture as it is.
 * @param {number} tall Of the picture as it is.
 * @returns {Box}
 */
export const turnedBack = ({ left, top, right, bottom }, turn, width, tall) =>
  turn === 90
    ? { left: top, top: tall - right, right: bottom, bottom: tall - left }
    : { left: width - bottom, top: left, right: width - top, bottom: right }

/**
 * Boxes about the same middles, all as large as the largest of them, since a zone as long as its name gives it away; those that stand
 * upright among themselves. They stay on the picture. Where they would lie on each other, each is as high as its own name.
 * @param {Box[]} boxes
 * @param {Box} plane
 * @param {number} margin That they keep to its edges.
 * @returns {Box[]}
 */
export function ofOneSize(boxes, plane, margin) {
  const sized = allAsWide(boxes, plane, margin, true)
  return sized.some((one, i) => sized.slice(i + 1).some(other => overlap(one, other) > 0)) ? allAsWide(boxes, plane, margin, false) : sized
}

/**
 * @param {Box[]} boxes
 * @param {Box} plane
 * @param {number} margin
 * @param {boolean} isAsHigh Whether they are all as high, too.
 */
function allAsWide(boxes, plane, margin, isAsHigh) {
  const isUpright = (/** @type {Box} */ box) => box.bottom - box.top > 1.5 * (box.right - box.left)
  return boxes.map(box => {
    const same = boxes.filter(other => isUpright(other) === isUpright(box))
    const widths = same.map(({ left, right }) => right - left)
    const heights = same.map(({ top, bottom }) => bottom - top)
    const wide = isUpright(box) && !isAsHigh ? box.right - box.left : Math.max(...widths)
    const tall = isUpright(box) || isAsHigh ? Math.max(...heights) : box.bottom - box.top
    const within = (/** @type {number} */ from, /** @type {number} */ size, /** @type {number} */ least, /** @type {number} */ most) =>
      Math.max(least, Math.min(from, most - size))
    const left = within((box.left + box.right - wide) / 2, wide, plane.left + margin, plane.right - margin)
    const top = within((box.top + box.bottom - tall) / 2, tall, plane.top + margin, plane.bottom - margin)
    return { left, top, right: left + wide, bottom: top + tall }
  })
}
