import assert from 'node:assert/strict'
import test from 'node:test'
import { readsTheSame } from '../../src/Fenster.Web/wwwroot/js/same.js'
import { steady } from '../../src/Fenster.Web/wwwroot/js/workbench/steady.js'

for (const [a, b, same] of [
  [1, 1, true],
  [1, '1', false],
  [null, undefined, false],
  [NaN, NaN, true],
  [[1, [2]], [1, [2]], true],
  [[1, 2], [2, 1], false],
  [[], {}, false],
  [{ x: 1, y: { z: [] } }, { y: { z: [] }, x: 1 }, true],
  [{ x: 1, y: undefined }, { x: 1 }, true],
  [{ x: null }, {}, false],
  [{ x: undefined, y: 1 }, { x: 1, y: undefined }, false],
])
  test(`${JSON.stringify(a)} and ${JSON.stringify(b)} read ${same ? 'the same' : 'different'}`, () => {
    assert.equal(readsTheSame(a, b), same)
    assert.equal(readsTheSame(b, a), same)
  })

test('a list keeps the things that read as before, and only those', () => {
  const keep = steady('id')
  const [first, second] = keep([
    { id: 'a', text: 'Bow' },
    { id: 'b', text: 'Stern' },
  ])
  const [again, changed, added] = keep([
    { text: 'Bow', id: 'a' },
    { id: 'b', text: 'Mast' },
    { id: 'c', text: 'Keel' },
  ])
  assert.equal(again, first)
  assert.notEqual(changed, second)
  assert.deepEqual(
    [changed, added].map(thing => thing.text),
    ['Mast', 'Keel'],
  )
})
