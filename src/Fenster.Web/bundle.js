// Puts the scripts of each page together, without comments, into few files: a class on a slow line would wait for each of them.
//
//   node bundle.js OUTPUT    writes what is published as wwwroot/js

import { readFileSync, readdirSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { build } from 'rolldown'

const root = path.dirname(fileURLToPath(import.meta.url))
const scripts = path.join(root, 'wwwroot/js')

/** The scripts that pages name. */
export function named() {
  const files = ['Pages', 'Hosting'].flatMap(folder =>
    readdirSync(path.join(root, folder), { recursive: true, withFileTypes: true })
      .filter(entry => /\.(cshtml|cs)$/.test(entry.name))
      .map(entry => readFileSync(path.join(entry.parentPath, entry.name), 'utf8')),
  )
  return [...new Set(files.flatMap(text => [...text.matchAll(/"js\/([\w/-]+\.js)"/g)].map(([, name]) => name)))]
}

/** @param {string} output A folder. @param {string[]} names @param {string} [postBanner] */
const together = (output, names, postBanner) =>
  build({
    cwd: scripts,
    input: Object.fromEntries(names.map(name => [name.replace(/\.js$/, ''), `./${name}`])),
    preserveEntrySignatures: 'allow-extension',
    logLevel: 'warn',
    transform: { target: 'es2022' },
    output: { dir: output, minify: true, chunkFileNames: 'parts/[name]-[hash].js', postBanner },
  })

/** @param {string} output A folder. */
export async function bundle(output) {
  const all = named()
  const isStudents = (/** @type {string} */ name) => name.startsWith('student/')
  // All that a student's page needs at once is one file, which whatever is loaded later takes its own from. Nearly all of it runs then: a
  // browser that knows this sign compiles it beside the page's own work, and not function by function.
  for (const name of all.filter(isStudents)) await together(output, [name], '//# allFunctionsCalledOnLoad')
  await together(
    output,
    all.filter(name => !isStudents(name)),
  )
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await bundle(path.resolve(process.argv[2]))
