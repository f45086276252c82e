// Words that were read on a picture are joined to names as they stand in books.

import assert from 'node:assert/strict'
import { test } from 'node:test'
import { keepLetters, linesOn } from '../../src/Fenster.Web/wwwroot/js/reading/letters.js'
import {
  cleaned,
  confirmed,
  merged,
  namesIn,
  ofOneSize,
  overlap,
  settled,
  turnedBack,
  withRoom,
} from '../../src/Fenster.Web/wwwroot/js/reading/names.js'

const word = (text, left, top, width, confidence = 95, tall = 20) => ({
  text,
  confidence,
  box: { left, top, right: left + width, bottom: top + tall },
})
const texts = words => namesIn(words).map(name => name.text)

test('words of one name stand together in a line, or over two', () => {
  assert.deepEqual(texts([word('Cell', 20, 20, 40), word('membrane', 68, 20, 100)]), ['Cell membrane'])
  assert.deepEqual(texts([word('reticulum', 26, 46, 90), word('Endoplasmic', 20, 20, 110)]), ['Endoplasmic reticulum'])
  assert.deepEqual(texts([word('Round', 20, 20, 50), word('bottom', 20, 44, 60), word('flask', 20, 68, 46)]), ['Round bottom flask'])
})

test('names that only lie near each other stay apart', () => {
  // A list, with air between its lines.
  assert.deepEqual(texts([word('Stem', 20, 20, 40), word('Root', 20, 60, 40), word('Leaf', 20, 100, 40)]), ['Stem', 'Root', 'Leaf'])
  // Two columns.
  assert.deepEqual(texts([word('Aorta', 20, 20, 50), word('Vein', 400, 20, 40)]), ['Aorta', 'Vein'])
  // A heading over a small name.
  assert.deepEqual(texts([word('Heart', 20, 20, 120, 95, 48), word('apex', 40, 74, 40)]), ['Heart', 'apex'])
})

test('a page of print is read as well as a picture', () => {
  const page = Array.from({ length: 2000 }, (_, i) => word('Word', 20 + (i % 20) * 90, 20 + Math.floor(i / 20) * 60, 40))
  assert.equal(namesIn(page).length, 2000)
  const column = Array.from({ length: 30 }, (_, i) => word('Word', 20, 20 + i * 24, 40))
  assert.ok(namesIn(column).every(name => name.text.split(' ').length <= 3))
})

test('strokes of the drawing are no names, and signs at the end of a leader line go', () => {
  for (const stroke of ['|', '—', '~~', '.']) assert.equal(cleaned(word(stroke, 0, 0, 5)), null)
  for (const stroke of ['l', 'I', 'o']) assert.deepEqual(texts([word(stroke, 0, 0, 5)]), [])
  assert.deepEqual(texts([word('A', 0, 0, 12)]), ['A'])
  assert.equal(cleaned(word('—Nucleus', 0, 0, 80))?.text, 'Nucleus')
  assert.equal(cleaned(word('Nucleus_|', 0, 0, 80))?.text, 'Nucleus')
  assert.equal(cleaned(word('H₂O', 0, 0, 30))?.text, 'H₂O')
  assert.equal(cleaned(word('(left)', 0, 0, 40))?.text, '(left)')
  assert.equal(cleaned(word('Nucleus', 0, 0, 80, 20)), null)
})

test('of several readings each word is there once, as it was read best', () => {
  const read = merged([
    [word('Nuc1eus', 20, 20, 80, 60), word('Leaf', 200, 20, 40)],
    [word('Nucleus', 21, 20, 79, 92), word('Light', 400, 20, 50, 90), word('Xq', 500, 20, 20, 60)],
  ])
  assert.deepEqual(read.map(({ text }) => text).sort(), ['Leaf', 'Light', 'Nucleus'])
})

test('a leader line and a frame go, letters stay', () => {
  // 60 pixels by 20: a line of 50, and a letter of 4 by 6.
  const grey = new Uint8Array(60 * 20).fill(255)
  for (let x = 5; x < 55; x++) grey[3 * 60 + x] = 0
  for (let y = 10; y < 16; y++) for (let x = 20; x < 24; x++) grey[y * 60 + x] = 0
  keepLetters(grey, 60, 20)
  assert.equal(grey.filter(value => value < 255).length, 24)
})

test('what was read badly is marked', () => {
  const [name] = namesIn([word('Cell', 20, 20, 40), word('menbrne', 68, 20, 100, 55)])
  assert.deepEqual([name.text, name.isDoubtful], ['Cell menbrne', true])
})

test('what was read on the turned picture lies where it stands on the picture', () => {
  // A word of 100 by 20 pixels at (300, 200) to (320, 300) of a picture of 800 by 600, read from below.
  const there = { left: 300, top: 200, right: 320, bottom: 300 }
  assert.deepEqual(turnedBack({ left: 300, top: 300, right: 400, bottom: 320 }, 90, 800, 600), there)
  assert.deepEqual(turnedBack({ left: 200, top: 480, right: 300, bottom: 500 }, -90, 800, 600), there)
})

const plane = { left: 0, top: 0, right: 1000, bottom: 750 }
const size = ({ left, top, right, bottom }) => [right - left, bottom - top]

test('zones for names are all as large as the longest, stay on the picture and keep their middles', () => {
  const boxes = [word('Aorta', 10, 100, 60), word('Pulmonary artery', 300, 200, 180), word('Retina', 930, 400, 66)].map(({ box }) => box)
  const sized = ofOneSize(boxes, plane, 6)
  for (const box of sized) {
    assert.deepEqual(size(box), [180, 20])
    assert.ok(box.left >= 6 && box.right <= 994)
  }
  assert.equal(sized[1].left, 300)
})

test('names that stand close in a column keep their own heights, and lie on no other', () => {
  const boxes = [word('Left', 20, 100, 60, 95, 44), word('Right ventricle', 20, 150, 150), word('Top', 20, 175, 50)].map(({ box }) => box)
  const sized = ofOneSize(boxes, plane, 6)
  assert.deepEqual(sized.map(size), [
    [150, 44],
    [150, 20],
    [150, 20],
  ])
  assert.ok(sized.every((one, i) => sized.slice(i + 1).every(other => overlap(one, other) === 0)))
})

test('a name that stands upright takes the size of those that do', () => {
  const upright = { left: 500, top: 100, right: 520, bottom: 220 }
  const boxes = [word('Across', 20, 20, 90).box, upright, { left: 700, top: 100, right: 720, bottom: 180 }]
  assert.deepEqual(ofOneSize(boxes, plane, 6).map(size), [
    [90, 20],
    [20, 120],
    [20, 120],
  ])
})

test('a line that touches a letter is found without the letter', () => {
  const [width, height] = [200, 60]
  const grey = new Uint8Array(width * height).fill(255)
  const ink = (left, top, right, bottom) => {
    for (let y = top; y < bottom; y++) for (let x = left; x < right; x++) grey[y * width + x] = 0
  }
  // A letter of two stems and a bar, and a slanting line that begins in it.
  ink(20, 10, 25, 50)
  ink(40, 10, 45, 50)
  ink(20, 28, 45, 32)
  for (let x = 44; x < 190; x++) for (let y = 0; y < 3; y++) grey[(20 + y + Math.round((x - 44) / 6)) * width + x] = 0
  const lines = linesOn(grey, width, { largest: 60, long: 60, thin: 6 })
  const isLine = (x, y) => lines[y * width + x] === 1
  for (let x = 60; x < 180; x += 7) assert.ok(isLine(x, 21 + Math.round((x - 44) / 6)), `the line at ${x}`)
  for (const [x, y] of [
    [22, 12],
    [22, 40],
    [42, 12],
    [42, 45],
  ])
    assert.ok(!isLine(x, y), `the letter at ${x}, ${y}`)
  // The gap between two light letters on a dark ground is none either.
  const dark = new Uint8Array(width * height).fill(255)
  for (let y = 2; y < 58; y++) dark.fill(0, y * width + 10, y * width + 190)
  for (let y = 20; y < 40; y++) for (const x of [60, 72]) dark.fill(255, y * width + x, y * width + x + 8)
  const gaps = linesOn(dark, width, { largest: 60, long: 40, thin: 6 })
  for (let y = 15; y < 45; y++) assert.ok(!gaps[y * width + 70], `the gap at ${y}`)
  // A letter alone is none, however it is drawn.
  const alone = new Uint8Array(width * height).fill(255)
  for (let y = 10; y < 50; y++) alone.fill(0, y * width + 20, y * width + 24)
  assert.ok(linesOn(alone, width, { largest: 60, long: 30, thin: 6 }).every(pixel => pixel === 0))
})

test('of what a line touches, the reading without lines holds; of all else, that of the picture as it is', () => {
  const asItIs = [word('Corne', 20, 20, 60), word('Retina', 20, 80, 66)]
  const free = [word('Cornea', 20, 20, 72, 90), word('Retlna', 20, 80, 66, 99), word('x', 300, 20, 8, 20)]
  const words = settled(asItIs, free, box => box.top === 20)
  assert.deepEqual(words.map(({ text }) => text).sort(), ['Cornea', 'Retina'])
})

test('a name that a line touches is sure only if it is read twice in the same way', () => {
  const [name] = namesIn([word('Corne', 20, 20, 60)])
  assert.equal(confirmed(name, [word('Corne', 20, 20, 60)]).isDoubtful, false)
  const longer = confirmed(name, [word('Cornea', 20, 20, 72)])
  assert.deepEqual([longer.text, longer.isDoubtful], ['Cornea', true])
  assert.deepEqual([confirmed(name, []).text, confirmed(name, []).isDoubtful], ['Corne', true])
  assert.deepEqual(withRoom(name.box, 90, 700), { left: 0, top: 13, right: 90, bottom: 47 })
})
