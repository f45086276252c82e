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

/** The student's screen: all that it needs at once is one file, which whatever is loaded later takes its own from. */
const screen = 'student/main.js'

/** @param {string} output A folder. @param {string[]} names @param {string[]} [apart] What they import from a file of its own. */
const together = (output, names, apart) =>
  build({
    cwd: scripts,
    input: Object.fromEntries(names.map(name => [name.replace(/\.js$/, ''), `./${name}`])),
    external: apart,
    makeAbsoluteExternalsRelative: false,
    preserveEntrySignatures: 'allow-extension',
    logLevel: 'warn',
    transform: { target: 'es2022' },
    output: {
      dir: output,
      minify: true,
      chunkFileNames: 'parts/[name]-[hash].js',
      ...(names[0] === screen ? { postBanner: '//# allFunctionsCalledOnLoad' } : {}),
    },
  })

/** @param {string} output A folder. */
export async function bundle(output) {
  const others = named().filter(name => name !== screen)
  const isStudents = (/** @type {string} */ name) => name.startsWith('student/')
  await together(output, [screen])
  await together(output, others.filter(isStudents), ['./main.js'])
  // The student's pages share nothing with the teacher's, so that these can't cut what those load into more pieces.
  await together(
    output,
    others.filter(name => !isStudents(name)),
  )
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await bundle(path.resolve(process.argv[2]))
