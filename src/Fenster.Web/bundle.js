// Puts the scripts of each page together, without comments, into few files: a class on a slow line would wait for each of them.
//
//   node bundle.js OUTPUT    writes what is published as wwwroot/js

import { readFileSync, readdirSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'

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

/** Scripts that import nothing are no modules; they stay as they are. @param {string} name */
const isPlain = name => !/^(import|export) /m.test(readFileSync(path.join(scripts, name), 'utf8'))

/** @param {string} output @param {string[]} entries @param {object} options */
const write = (output, entries, options) =>
  build({
    absWorkingDir: scripts,
    entryPoints: entries,
    outdir: output,
    outbase: scripts,
    minify: true,
    target: 'es2022',
    logLevel: 'warning',
    ...options,
  })

/** @param {string} output @param {string[]} entries */
const together = (output, entries) =>
  write(output, entries, { format: 'esm', bundle: true, splitting: true, chunkNames: 'parts/[name]-[hash]' })

/** @param {string} output A folder. */
export async function bundle(output) {
  const all = named()
  const modules = all.filter(name => !isPlain(name))
  // The student's screens share nothing with the teacher's, so that these can't cut what those load into more pieces.
  await together(
    output,
    modules.filter(name => name.startsWith('student/')),
  )
  await together(
    output,
    modules.filter(name => !name.startsWith('student/')),
  )
  await write(output, all.filter(isPlain), {})
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await bundle(path.resolve(process.argv[2]))
