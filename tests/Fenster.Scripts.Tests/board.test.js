// The board's revealed spots over what was placed by hand, and the score of a game.

import assert from 'node:assert/strict'
import { test } from 'node:test'
import { fresh, read, standing, takenBack, withoutTeam, withStep } from '../../src/Fenster.Web/wwwroot/js/board/score.js'

const work = { open: true, placed: [], pins: [], held: [], done: [], found: [], marks: null, key: null }
const label = (id, copies = 1) => ({
  id,
  text: id.toUpperCase(),
  number: null,
  copies,
  face: null,
  tip: null,
  colour: 'paper',
  start: null,
})
const zone = id => ({ id, region: { kind: 'rectangle', x: 0, y: 0, width: 9, height: 9 }, capacity: 1, prompt: '', leader: null })
const spot = (name, more) => ({ id: name, name, asks: '', at: null, isSeen: true, placed: [], pins: [], links: [], found: [], ...more })
const pane = (labels, spots) => ({
  frame: {
    id: 'p1',
    picture: null,
    zones: spots.filter(({ name }) => name.startsWith('z')).map(({ name }) => zone(name)),
    labels,
    targets: [],
  },
  work,
  spots,
  described: [{ label: 'c', text: 'A fog horn' }],
})
const placed = (label, zone, copy = 0) => ({ label, copy, zone })

// Scripts for a browser need a document when they are loaded.
globalThis.document = { getElementById: () => null, documentElement: { lang: 'en' }, querySelector: () => null }
const { paneShown } = await import('../../src/Fenster.Web/wwwroot/js/board/revealed.js')

test('what is revealed takes the place of what was put there by hand, and is held', () => {
  const board = pane([label('a'), label('b')], [spot('z1', { placed: [placed('a', 'z1')] }), spot('z2', { placed: [placed('b', 'z2')] })])
  const byHand = { ...work, placed: [placed('b', 'z1'), placed('a', 'z2')] }
  const shown = paneShown(board, byHand, new Set([0]))
  assert.deepEqual(shown.placed, [placed('a', 'z1')])
  assert.deepEqual(shown.held, [{ label: 'a', copy: 0 }])
  // Nothing is lost by hand where nothing is revealed.
  assert.deepEqual(paneShown(board, byHand, new Set()).placed, byHand.placed)
})

test('a label with copies is revealed at several spots, and one by hand takes another copy', () => {
  const spots = [spot('z1', { placed: [placed('a', 'z1')] }), spot('z2', { placed: [placed('a', 'z2')] }), spot('z3')]
  const board = pane([label('a', 3)], spots)
  const shown = paneShown(board, { ...work, placed: [placed('a', 'z3')] }, new Set([0, 1]))
  assert.deepEqual(shown.placed.map(({ zone, copy }) => [zone, copy]).sort(), [
    ['z1', 0],
    ['z2', 1],
    ['z3', 2],
  ])
})

test('matched things are revealed one by one, over what was matched by hand', () => {
  const link = (left, right) => ({ left, right })
  const board = pane([], [spot('t1', { item: 'm1', links: [link('m1', 'r1')] }), spot('t1', { item: 'm2', links: [link('m2', 'r2')] })])
  const done = [{ target: 't1', points: [], text: '', picks: [], opened: false, inside: '', links: [link('m1', 'r2'), link('m2', 'r1')] }]
  const shown = paneShown(board, { ...work, done }, new Set([0]))
  assert.deepEqual(shown.done[0].links, [link('m2', 'r1'), link('m1', 'r1')])
  assert.deepEqual(paneShown(board, work, new Set([0, 1])).done[0].links, [link('m1', 'r1'), link('m2', 'r2')])
})

test('a description that is kept back is told with its label', () => {
  const board = pane(
    [{ ...label('c'), text: '', number: 1, face: { kind: 'sound', media: '' } }],
    [spot('z1', { placed: [placed('c', 'z1')] })],
  )
  assert.equal(paneShown(board, work, new Set([0])).labels[0].text, 'A fog horn')
})

test('a game adds up, takes back, and keeps its teams apart', () => {
  let game = { ...fresh(), teams: ['Port', 'Starboard', 'Helm'] }
  for (const step of [
    { kind: 'open', spot: '0/1' },
    { kind: 'points', team: 0, points: 0.1 },
    { kind: 'points', team: 0, points: 0.2 },
    { kind: 'points', team: 2, points: -100 },
  ])
    game = withStep(game, step)
  assert.deepEqual(standing(game).scores, [0.3, 0, -100])
  assert.ok(standing(game).opened.has('0/1'))
  assert.deepEqual(standing(takenBack(game)).scores, [0.3, 0, 0])
  assert.deepEqual(standing(withoutTeam(game, 1)).scores, [0.3, -100])
  assert.deepEqual(standing(withoutTeam(game, 0)).scores, [0, -100])
  assert.equal(standing(takenBack(takenBack(takenBack(takenBack(game))))).opened.size, 0)
})

test('what a browser kept is read again, and what is none is a fresh game', () => {
  const game = withStep(fresh(), { kind: 'open', spot: '0/3' })
  assert.deepEqual(read(JSON.stringify(game)), game)
  for (const text of [
    null,
    '',
    '{',
    '{"teams":[]}',
    '[]',
    '{"teams":[1,2,3,4,5,6,7,8],"steps":[{"kind":"points","team":"x"},{"kind":"?"}]}',
  ]) {
    const kept = read(text)
    assert.ok(kept.teams.length >= 1 && kept.teams.length <= 6)
    assert.deepEqual(kept.steps, [])
  }
})
