// The browser's geometry against what the rules worked out (geometry.json, made by the tests of Fenster.Core).

import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import test from 'node:test'
import { boundsOf, distanceTo } from '../../src/Fenster.Web/wwwroot/js/scene/geometry.js'
import { crossesItself } from '../../src/Fenster.Web/wwwroot/js/workbench/regions.js'
import { pointOnScale, valueOnScale } from '../../src/Fenster.Web/wwwroot/js/scene/scale.js'

const fixtures = JSON.parse(readFileSync(new URL('geometry.json', import.meta.url), 'utf8'))

const near = (actual, expected, what) =>
  assert.ok(Math.abs(actual - expected) <= 1e-9 * Math.max(1, Math.abs(expected)), `${what}: ${actual}, not ${expected}`)

test('bounds are those of the rules; a turned box is told by its bounds before it was turned', () => {
  for (const { region, bounds } of fixtures.regions) {
    if (region.rotation) continue
    const ours = boundsOf(region)
    for (const side of ['left', 'top', 'right', 'bottom']) near(ours[side], bounds[side], `${side} of ${JSON.stringify(region)}`)
  }
})

test('distances are those of the rules; of an ellipse only inside and outside', () => {
  for (const { region, points } of fixtures.regions)
    for (const { point, distance } of points) {
      const ours = distanceTo(region, point)
      const what = `from ${JSON.stringify(point)} to ${JSON.stringify(region)}`
      if (region.kind === 'ellipse') assert.equal(ours === 0, distance === 0, what)
      else near(ours, distance, what)
    }
})

test('an outline crosses itself where the rules say so', () => {
  for (const { vertices, crosses } of fixtures.outlines) assert.equal(crossesItself(vertices), crosses, JSON.stringify(vertices))
})

test('a spot reads the same on a scale, and a value lies at the same spot', () => {
  for (const { scale, point, value, back } of fixtures.scales) {
    const read = valueOnScale(scale, point)
    near(read.x, value.x, `x of ${JSON.stringify(scale)}`)
    near(read.y, value.y, `y of ${JSON.stringify(scale)}`)
    const at = pointOnScale(scale, value.x, value.y)
    near(at.x, back.x, `back at ${JSON.stringify(scale)}`)
    near(at.y, back.y, `back at ${JSON.stringify(scale)}`)
  }
})
