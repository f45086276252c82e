// What the student's screen works out for itself: where the bank lies, places large enough for a finger, and reckoning.

import assert from 'node:assert/strict'
import { test } from 'node:test'

// The modules under test touch the page only when they are called to draw.
globalThis.document = { createElement: () => ({ getContext: () => null }), fonts: { addEventListener() {} } }
const scripts = '../../src/Fenster.Web/wwwroot/js'
const { arrange } = await import(`${scripts}/student/layout.js`)
const { enlarged, spread } = await import(`${scripts}/scene/fingertips.js`)
const { pressed } = await import(`${scripts}/student/aids.js`)

const room = (width, height, ratio, labels) => ({ width, height, ratio, row: 52, labels, rem: 16 })
const many = (count, width = 110) => Array.from({ length: count }, () => width)

for (const [width, height] of [
  [360, 592],
  [360, 692],
  [768, 976],
  [1024, 720],
  [1280, 740],
  [740, 312],
])
  for (const count of [5, 12, 40])
    for (const ratio of [0.6, 1, 1.5, 3])
      test(`a picture of ${ratio} with ${count} labels has its room at ${width} × ${height}`, () => {
        const { isBelow, isLow, bankWidth, pictureHeight, rows, fits } = arrange(room(width, height, ratio, many(count)))
        if (isBelow) {
          assert.ok(pictureHeight + 46 + rows * 52 <= height + 1, 'all of it fits')
          const isAcross = pictureHeight >= (width - 12) / ratio - 1
          assert.ok(isAcross || height < width || pictureHeight >= height * 0.55, 'full width, or more than half of the height')
          assert.ok(rows >= 1)
          if (fits) assert.ok(rows * Math.floor((width - 20 + 8) / 118) >= count, 'rows hold all labels')
        } else {
          assert.ok(bankWidth <= width * 0.4 + 1)
          assert.equal(isLow, height < 340)
        }
        // Neither way gives the picture less than the other by more than a tenth.
        const beside = Math.min(width - bankWidth - 28 - (height < 340 ? 50 : 0), (height - 28 - (height < 340 ? 0 : 46)) * ratio)
        const below = Math.min(width - 12, (height - 46 - 12 - 20 - 52) * ratio)
        assert.ok((isBelow ? below : beside) >= Math.max(beside, below) / 1.13)
      })

test('boxes step aside until none lies on another, and stay inside', () => {
  const column = Array.from({ length: 6 }, (_, i) => ({ x: 28, y: 20 + i * 30, width: 44, height: 44 }))
  const apart = spread(column, { width: 340, height: 200 })
  for (const [i, a] of apart.entries()) {
    assert.ok(a.x >= 22 && a.x <= 318 && a.y >= 22 && a.y <= 178)
    for (const b of apart.slice(i + 1)) assert.ok(Math.abs(a.x - b.x) >= 43.9 || Math.abs(a.y - b.y) >= 43.9, `${JSON.stringify([a, b])}`)
  }
  const alone = [{ x: 100, y: 100, width: 44, height: 44 }]
  assert.deepEqual(spread(alone, { width: 340, height: 200 }), alone)
})

const reckon = keys => [...keys].reduce(pressed, { entry: '0', before: null, sign: '', isFresh: true }).entry
for (const [keys, result] of [
  ['12+30=', '42'],
  ['7×6=', '42'],
  ['1÷8=', '0.125'],
  ['2+3×4=', '20'],
  ['0.1+0.2=', '0.3'],
  ['9√', '3'],
  ['5−8=±', '3'],
  ['1÷0=', '—'],
  ['12⌫+1=', '2'],
  ['5+=', '10'],
  ['3C4', '4'],
])
  test(`${keys} is ${result}`, () => assert.equal(reckon(keys), result))

test('places that have no room for fingertips are enlarged as far as there is, or not at all', () => {
  const grid = (columns, rows, step) =>
    Array.from({ length: columns * rows }, (_, i) => ({
      x: ((i % columns) + 0.5) * step,
      y: (Math.floor(i / columns) + 0.5) * step,
      width: 10,
      height: 10,
    }))
  const room = { width: 360, height: 240 }
  for (const [boxes, least] of [
    [grid(5, 3, 60), 44],
    [grid(8, 5, 42), 36],
    [grid(10, 7, 34), 28],
  ]) {
    const large = enlarged(boxes, room)
    assert.ok(large?.every(box => box.width >= least && box.height >= least))
    for (const [i, a] of large.entries())
      for (const b of large.slice(i + 1))
        assert.ok(Math.abs(a.x - b.x) >= (a.width + b.width) / 2 || Math.abs(a.y - b.y) >= (a.height + b.height) / 2)
  }
  assert.equal(enlarged(grid(20, 14, 17), room), null)
})
