// The browser's sentences against those of the server (language.json, made by the tests of Fenster.Words).

import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import test from 'node:test'

const fixtures = JSON.parse(readFileSync(new URL('language.json', import.meta.url), 'utf8'))

for (const { language, page, said, listed, withAnd } of fixtures)
  test(`in ${language} the browser says what the server says`, async () => {
    globalThis.document = { getElementById: () => ({ content: { textContent: page } }) }
    const words = await import(`../../src/Fenster.Web/wwwroot/js/language.js?${language}`)
    for (const { name, slots, text } of said) assert.equal(words.phrase(name, slots), text)
    assert.equal(words.listed(['a', 'ب', 'c']), listed)
    assert.equal(words.listed(['a', 'ب', 'c'], 'list.and'), withAnd)
    assert.throws(() => words.phrase('screen.nothing'), /no sentence/)
  })
