// What a student's device brings to the server: everything once and in its order, whatever the line takes, from however many tabs.

import assert from 'node:assert/strict'
import { test } from 'node:test'

/** A device's storage, shared by all its tabs. */
const kept = new Map()
globalThis.localStorage = {
  getItem: name => kept.get(name) ?? null,
  setItem: (name, value) => kept.set(name, value),
  removeItem: name => kept.delete(name),
}
const told = JSON.stringify({
  language: 'en',
  culture: 'en',
  direction: 'ltr',
  sentences: { 'screen.noConnection': 'No connection.', 'screen.handInOffline': 'Later.', 'screen.keepsNothing': 'Kept nowhere.' },
})
globalThis.document = { querySelector: () => null, getElementById: () => ({ content: { textContent: told } }) }
globalThis.addEventListener = () => {}

/** The server as far as the device knows it: a log of moves by their keys. */
function startServer({ most = Infinity } = {}) {
  const server = { log: [], keys: new Set(), isThere: true, isHandedIn: false, largest: 0, requests: 0, most }
  globalThis.fetch = async (url, { body } = {}) => {
    await null
    if (!server.isThere) throw new TypeError('no connection')
    server.requests += 1
    const text = await body.text()
    const bytes = new TextEncoder().encode(text).length
    if (bytes > server.most) return { status: 413, json: async () => ({ error: 'Too much.' }) }
    server.largest = Math.max(server.largest, bytes)
    for (const move of JSON.parse(text).moves)
      if (!server.keys.has(move.key)) {
        server.keys.add(move.key)
        server.log.push(move)
      }
    if (url === 'hand-in') server.isHandedIn = true
    return {
      status: 200,
      json: async () => ({ work: { panes: [null] }, refused: [], isLate: false, version: server.log.length, answers: 0 }),
    }
  }
  return server
}

const { createSender } = await import('../../src/Fenster.Web/wwwroot/js/student/sender.js')

const open = (deviceKey, said = []) =>
  createSender({
    movesUrl: 'place',
    handInUrl: 'hand-in',
    deviceKey,
    version: 0,
    answers: () => 0,
    onWork() {},
    onHandedIn() {},
    onLink() {},
    onLate() {},
    onRefused: sentence => said.push(sentence),
  })

/** Until nothing more is on its way. */
const rest = () => new Promise(resolve => setTimeout(resolve, 30))
const text = (target, text) => ({ kind: 'typeText', target, text })

test('an essay that was written without a connection is brought in pieces and handed in', async () => {
  kept.clear()
  const server = startServer({ most: 1024 * 1024 })
  server.isThere = false
  const sender = open('attempt-a')
  for (let i = 0; i < 150; i++) sender.send('p1', text(`note-${i}`, 'ة'.repeat(9000)))
  await rest()
  server.isThere = true
  const answer = await sender.handIn()
  assert.ok(answer && server.isHandedIn)
  assert.deepEqual(
    server.log.map(({ move }) => move.target),
    Array.from({ length: 150 }, (_, i) => `note-${i}`),
  )
  assert.ok(server.largest <= 201_000)
  assert.equal(kept.get('attempt-a'), undefined)
})

test('where something on the way takes less, requests become smaller, and nothing is lost or doubled', async () => {
  for (const most of [60_000, 20_000, 5_000]) {
    kept.clear()
    const server = startServer({ most })
    server.isThere = false
    const sender = open(`attempt-${most}`)
    for (let i = 0; i < 40; i++) sender.send('p1', text(`note-${i}`, 'x'.repeat(4000)))
    await rest()
    server.isThere = true
    await sender.handIn()
    assert.equal(server.log.length, 40)
    assert.ok(server.isHandedIn)
  }
})

test('what no line ever takes is said, and takes nothing else with it', async () => {
  kept.clear()
  const server = startServer({ most: 2000 })
  const said = []
  const sender = open('attempt-c', said)
  sender.send('p1', text('long', 'x'.repeat(5000)))
  sender.send('p1', text('short', 'x'))
  await rest()
  await rest()
  assert.deepEqual(
    server.log.map(({ move }) => move.target),
    ['short'],
  )
  assert.ok(said.includes('Too much.'))
})

test('two tabs of one student keep what the other has not sent', async () => {
  kept.clear()
  const server = startServer()
  server.isThere = false
  const [one, two] = [open('attempt-d'), open('attempt-d')]
  for (let i = 0; i < 20; i++) (i % 2 ? one : two).send('p1', text(`n${i}`, `${i}`))
  await rest()
  // Both are closed, and the page is opened again later.
  const waiting = JSON.parse(kept.get('attempt-d'))
  assert.deepEqual(new Set(waiting.map(({ move }) => move.target)), new Set(Array.from({ length: 20 }, (_, i) => `n${i}`)))
  server.isThere = true
  const three = open('attempt-d')
  assert.equal(three.waiting().length, 20)
  await three.handIn()
  assert.equal(server.log.length, 20)
})

test('what was typed over waits no more, also on the device', async () => {
  kept.clear()
  const server = startServer()
  server.isThere = false
  const sender = open('attempt-e')
  for (let i = 1; i <= 500; i++) sender.send('p1', text('note', 'س'.repeat(i * 6)))
  await rest()
  assert.ok(JSON.parse(kept.get('attempt-e')).length <= 2)
  server.isThere = true
  await sender.handIn()
  assert.equal(server.log.at(-1).move.text.length, 3000)
  assert.ok(server.log.length <= 2)
})

test('what an earlier version kept under a number is brought under the name of today', async () => {
  kept.clear()
  const server = startServer()
  kept.set('attempt-18', JSON.stringify([{ key: 'd.1', pane: 'p1', move: text('note', 'old'), seen: 0 }]))
  const sender = open('attempt-00000000000000120000019a00000000')
  assert.equal(sender.waiting().length, 1)
  await rest()
  assert.equal(server.log.length, 1)
  assert.equal(kept.get('attempt-18'), undefined)
})
process.on('unhandledRejection', error => assert.fail(error))
