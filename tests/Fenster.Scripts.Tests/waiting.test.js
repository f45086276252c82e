// What waits on a student's device: it goes in requests of a size, typing costs what stands there, and tabs don't forget each other's.

import assert from 'node:assert/strict'
import { test } from 'node:test'

const scripts = '../../src/Fenster.Web/wwwroot/js'
const { batchOf, merged, MOST_BYTES, withMove } = await import(`${scripts}/student/waiting.js`)

let keys = 0
const typed = (text, target = 'box', pane = 'p1') => ({ key: `d.${++keys}`, pane, move: { kind: 'typeText', target, text } })
const checked = (pane = 'p1') => ({ key: `d.${++keys}`, pane, move: { kind: 'pressCheck' } })
const all = (moves, flying = new Set()) => moves.reduce((list, move) => withMove(list, move, flying), [])

test('an essay written without a connection waits as it stands, and not as it was typed', () => {
  const essay = Array.from({ length: 500 }, (_, i) => typed('س'.repeat(i * 6)))
  const waiting = all(essay)
  assert.deepEqual(waiting, [essay[499]])
  assert.ok(JSON.stringify(waiting).length < 4000)
})

test('what was typed before a check, at another place, or is on its way stays', () => {
  const [a, b, c, d, e] = [typed('a'), checked(), typed('ab'), typed('x', 'other'), typed('abc')]
  assert.deepEqual(all([a, b, c, d, e]), [a, b, d, e])
  assert.deepEqual(all([a, c], new Set([a.key])), [a, c])
  const elsewhere = typed('a', 'box', 'p2')
  assert.deepEqual(all([a, checked('p2'), elsewhere, c]).map(({ key }) => key).includes(a.key), false)
})

test('a request has at least one move and no more bytes than it may', () => {
  const long = Array.from({ length: 200 }, (_, i) => typed('ä'.repeat(9000), `box-${i}`))
  let waiting = long
  let requests = 0
  while (waiting.length > 0) {
    const batch = batchOf(waiting)
    assert.ok(batch.length > 0)
    assert.ok(new TextEncoder().encode(JSON.stringify({ moves: batch })).length <= MOST_BYTES + 100)
    waiting = waiting.slice(batch.length)
    requests += 1
  }
  assert.ok(requests >= 18)
  assert.equal(batchOf(long, 1).length, 1)
  assert.equal(batchOf(Array.from({ length: 300 }, () => checked())).length, 200)
})

test('two tabs keep what the other one has not sent', () => {
  const [a, b, c] = [typed('a', '1'), typed('b', '2'), typed('c', '3')]
  // The first tab has a, then the second b, then the first sends a and gets c.
  let stored = merged([], [a], new Set())
  stored = merged(stored, [a, b], new Set())
  stored = merged(stored, [c], new Set([a.key]))
  assert.deepEqual(stored, [b, c])
})
