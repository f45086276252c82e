// Pages of a PDF, read and drawn in the browser: what is not chosen is neither sent nor kept.

import { phrase } from '../language.js'

const renderedWidth = 2000

/** After so many milliseconds a file or a page is given up, so that one that swells without end keeps nobody waiting. */
const patience = 20_000

/**
 * @param {string} library Address of the folder with the reader.
 * @param {File} file
 * @param {{dialog: HTMLDialogElement, list: HTMLElement, take: HTMLButtonElement, cancel: HTMLElement}} parts
 * @returns {Promise<{files: File[], failures: string[]}>} The chosen pages as pictures, none when the teacher wants none;
 *   and a sentence for each that can't be one.
 */
export async function pagesOf(library, file, { dialog, list, take, cancel }) {
  const pdf = await import(`${library}pdf.min.mjs`)
  pdf.GlobalWorkerOptions.workerSrc = `${library}pdf.worker.min.mjs`
  const task = pdf.getDocument({
    data: new Uint8Array(await file.arrayBuffer()),
    isEvalSupported: false,
    useWasm: false,
    useSystemFonts: true,
    cMapUrl: `${library}data/`,
    cMapPacked: true,
    standardFontDataUrl: `${library}data/`,
    wasmUrl: `${library}data/`,
  })
  let book
  const late = setTimeout(() => task.destroy(), patience)
  try {
    book = await task.promise
  } catch (error) {
    const isLocked = /** @type {any} */ (error)?.name === 'PasswordException'
    throw new Error(isLocked ? phrase('room.locked', { name: file.name }) : phrase('room.noPdf', { name: file.name }))
  } finally {
    clearTimeout(late)
  }

  /** @type {Set<number>} */
  const chosen = new Set()
  const tell = () => {
    take.disabled = chosen.size === 0
    take.textContent = chosen.size === 0 ? phrase('room.takeThem') : phrase('room.takePages', { count: chosen.size })
  }
  // Thumbnails are drawn as they come into view, so that two hundred pages stay usable.
  const watcher = new IntersectionObserver(
    entries => {
      for (const entry of entries) {
        if (!entry.isIntersecting) continue
        watcher.unobserve(entry.target)
        draw(book, Number(/** @type {HTMLElement} */ (entry.target).dataset.page), 180).then(
          canvas => entry.target.querySelector('.page-sheet')?.replaceChildren(canvas),
          () => entry.target.querySelector('.page-sheet')?.replaceChildren(phrase('room.thisPageIsDamaged')),
        )
      }
    },
    { root: list, rootMargin: '300px' },
  )
  list.replaceChildren(
    ...Array.from({ length: book.numPages }, (_, i) => {
      const item = document.createElement('li')
      item.dataset.page = String(i + 1)
      const button = document.createElement('button')
      button.type = 'button'
      button.className = 'page'
      button.setAttribute('aria-pressed', 'false')
      const sheet = document.createElement('span')
      sheet.className = 'page-sheet'
      button.append(sheet, phrase('frame.page', { number: i + 1 }))
      button.addEventListener('click', () => {
        if (!chosen.delete(i + 1)) chosen.add(i + 1)
        button.setAttribute('aria-pressed', String(chosen.has(i + 1)))
        tell()
      })
      item.append(button)
      watcher.observe(item)
      return item
    }),
  )
  tell()
  dialog.showModal()
  const isTaken = await new Promise(resolve => {
    take.onclick = () => resolve(true)
    cancel.onclick = () => resolve(false)
    dialog.oncancel = () => resolve(false)
  })
  dialog.close()
  watcher.disconnect()
  list.replaceChildren()
  const [files, failures] = [/** @type {File[]} */ ([]), /** @type {string[]} */ ([])]
  if (isTaken) {
    for (const page of [...chosen].sort((a, b) => a - b)) {
      try {
        const canvas = await draw(book, page, renderedWidth)
        const blob = await new Promise(resolve => canvas.toBlob(resolve, 'image/png'))
        files.push(new File([/** @type {Blob} */ (blob)], `${file.name.replace(/\.pdf$/i, '')}, page ${page}.png`, { type: 'image/png' }))
      } catch {
        failures.push(phrase('room.damagedPage', { number: page, name: file.name }))
      }
    }
  }
  await task.destroy()
  return { files, failures }
}

/** @param {any} book @param {number} number @param {number} width CSS pixels. @returns {Promise<HTMLCanvasElement>} */
async function draw(book, number, width) {
  const page = await book.getPage(number)
  const base = page.getViewport({ scale: 1 })
  const viewport = page.getViewport({ scale: Math.min(width / base.width, 4096 / base.height) })
  const canvas = document.createElement('canvas')
  canvas.width = Math.ceil(viewport.width)
  canvas.height = Math.ceil(viewport.height)
  const task = page.render({ canvas, canvasContext: canvas.getContext('2d'), viewport, background: '#ffffff' })
  const late = setTimeout(() => task.cancel(), patience)
  try {
    await task.promise
  } finally {
    clearTimeout(late)
    page.cleanup()
  }
  return canvas
}
