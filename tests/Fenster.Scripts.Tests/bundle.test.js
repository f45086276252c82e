// What is published: the scripts of each page, put together.

import assert from 'node:assert/strict'
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { after, before, test } from 'node:test'
import { bundle, named } from '../../src/Fenster.Web/bundle.js'

const output = mkdtempSync(path.join(tmpdir(), 'fenster-bundle-'))
before(() => bundle(output))
after(() => rmSync(output, { recursive: true }))

test('every script that a page names is there', () => {
  const names = named()
  assert.ok(names.includes('workbench/main.js') && names.includes('student/entry.js') && names.includes('zone.js'))
  assert.deepEqual(
    names.filter(name => !existsSync(path.join(output, name))),
    [],
  )
})

test('whatever a script imports is there, beside what it has of libraries', () => {
  const scripts = readdirSync(output, { recursive: true }).filter(name => name.endsWith('.js'))
  const missing = scripts.flatMap(script =>
    [...readFileSync(path.join(output, script), 'utf8').matchAll(/(?:from|import|import\()["`](\.[^"`]+\.js)["`]/g)]
      .map(([, name]) => path.join(path.dirname(script), name))
      .filter(name => !existsSync(path.join(output, name))),
  )
  assert.deepEqual(missing, [])
})
