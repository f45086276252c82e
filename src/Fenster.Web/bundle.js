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

/** @param {string} output @param {string[]} entries @param {object} [options] */
const write = (output, entries, options) =>
  build({
    absWorkingDir: scripts,
    entryPoints: entries,
    outdir: output,
    outbase: scripts,
    minify: true,
    format: 'esm',
    target: 'es2022',
    logLevel: 'warning',
    ...options,
  })

/**
 * Modules that are loaded later keep their names: they are asked for by them when they are to be kept for a time without a connection.
 * @param {string} output
 * @param {string[]} entries
 */
async function together(output, entries) {
  const options = { bundle: true, splitting: true, chunkNames: 'parts/[name]-[hash]' }
  const { metafile } = await write(output, entries, { ...options, metafile: true, write: false })
  const later = Object.values(metafile.inputs).flatMap(({ imports }) =>
    imports.filter(({ kind, external }) => kind === 'dynamic-import' && !external).map(({ path }) => path),
  )
  await write(output, [...new Set([...entries, ...later])], options)
}

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
  await write(output, all.filter(isPlain), { format: undefined })
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await bundle(path.resolve(process.argv[2]))
