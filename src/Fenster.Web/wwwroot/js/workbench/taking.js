// Taking files in: the pane's picture, labels of pictures and sounds, and what stands on cards.

import { phrase } from '../language.js'
import { play } from '../scene/face.js'
import { addPane } from './document.js'
import { withFace } from './kinds/fields.js'
import { record, whyNot } from './recorder.js'
import { setField } from './rows.js'
import { filesOf, uploadCaptions, uploadFace, uploadPicture, wordsOf } from './upload.js'

/** Described by a file's name, which may be the answer, and which nobody has read yet. */
const unread = { description: /** @type {const} */ ('teachers') }

/** @param {Event} event @returns {File[]} What was chosen; the same can be chosen again. */
function chosen(event) {
  const input = /** @type {HTMLInputElement} */ (event.currentTarget)
  const files = [...(input.files ?? [])]
  input.value = ''
  return files
}

/**
 * @param {import('./desk.js').Desk} desk
 * @param {(picture: Picture) => void} offer Gives the pane a picture.
 * @param {(labels: Omit<LabelPart, 'id'>[]) => void} waitForPlaces Takes labels whose places are clicked next.
 */
export function takingPart(desk, offer, waitForPlaces) {
  const { pane, doc, changeDocument, announce } = desk
  const mostBytes = Number(desk.data.mostBytes)
  const problem = (/** @type {string} */ sentence) => {
    desk.state().problem = sentence
  }
  const busy = (/** @type {string} */ sentence) => {
    desk.state().uploading = sentence
  }
  /** @param {string} words @returns {(share: number) => void} */
  const arriving = words => {
    busy(`${words}…`)
    return share =>
      busy(
        share < 1
          ? phrase('common.percentDone', { what: words, share: Math.round(share * 100) })
          : phrase('common.madeReady', { what: words }),
      )
  }
  /** @type {{stop: () => void, cancel: () => void} | null} */
  let recording = null

  /** The first becomes this pane's picture; each further one gets a pane of its own. @param {File[]} files */
  const takePictures = async files => {
    problem('')
    const sentences = []
    let at = desk.index()
    for (const [i, file] of files.entries()) {
      const { media, sentence } = await uploadPicture(
        [file],
        mostBytes,
        arriving(
          files.length === 1 ? phrase('bench.thePictureArrives') : phrase('bench.pictureArrives', { number: i + 1, all: files.length }),
        ),
      )
      if (!media) {
        sentences.push(sentence ?? '')
        continue
      }
      const picture = { media: media.hash, width: media.width, height: media.height, altText: '' }
      if (at === desk.index() && (i === 0 || !pane().picture)) offer(picture)
      else changeDocument(addPane(doc(), at++, { picture }))
      if (media.width < 640) sentences.push(phrase('bench.blurred', { width: media.width }))
    }
    busy('')
    if (files.length === 0) sentences.push(phrase('bench.thereIsNoPictureInWhat'))
    problem(sentences.join(' '))
    if (at > desk.index()) announce(phrase('bench.furtherPictures', { count: at - desk.index() }))
  }

  /**
   * Of many files at once one that fails does not stop the others.
   * @param {File[]} files @param {boolean} takesVideos @returns {Promise<{face: Face, name: string}[]>}
   */
  const takeFaces = async (files, takesVideos) => {
    problem('')
    const [faces, failures] = [/** @type {{face: Face, name: string}[]} */ ([]), /** @type {string[]} */ ([])]
    for (const [i, file] of files.entries()) {
      const { face, sentence } = await uploadFace(
        file,
        mostBytes,
        arriving(phrase('bench.fileArrives', { number: i + 1, all: files.length })),
      )
      if (face && (takesVideos || face.kind !== 'video')) faces.push({ face, name: wordsOf(file.name) })
      else failures.push(sentence ?? phrase('bench.isVideo', { name: file.name }))
    }
    busy('')
    problem(failures.join(' '))
    return faces
  }

  /** Many files at once become many labels. @param {File[]} files */
  const takeLabels = async files => {
    const faces = await takeFaces(files, false)
    if (faces.length > 0) waitForPlaces(faces.map(({ face, name }) => ({ text: name, copies: 1, face, ...unread })))
  }

  /** @param {string} row @param {string} name @param {File} file */
  const takeFace = async (row, name, file) => {
    problem('')
    const arrives = arriving(phrase('bench.nameArrives', { name: file.name }))
    const isCaptions = name.endsWith('captions')
    const { face, media, sentence } = /** @type {any} */ (
      isCaptions ? await uploadCaptions(file) : await uploadFace(file, mostBytes, arrives)
    )
    busy('')
    if (!face && !media) return problem(sentence)
    const value = isCaptions ? { media } : { ...face, name: wordsOf(file.name) }
    if (row === 'message')
      changeDocument({
        ...doc(),
        message: withFace(doc().message, name.slice('message'.length), value),
      })
    else setField(desk, row, name, value, null)
  }

  return {
    /** @param {File[]} files */
    takeFaces: files => takeFaces(files, true),
    show() {},
    listen() {
      const area = /** @type {HTMLElement} */ (desk.root.querySelector('.bench-picture'))
      document.addEventListener('dragover', event => {
        event.preventDefault()
        // What is dropped on cards to be matched is theirs.
        area.classList.toggle('dropping', !(/** @type {Element} */ (event.target).closest('.match-column')))
      })
      document.addEventListener('dragleave', event => {
        if (!event.relatedTarget) area.classList.remove('dropping')
      })
      document.addEventListener('drop', event => {
        event.preventDefault()
        area.classList.remove('dropping')
        // What is dropped onto the ledger becomes labels.
        if (/** @type {Element} */ (event.target).closest('.ledger')) takeLabels(filesOf(event.dataTransfer))
        else takePictures(filesOf(event.dataTransfer))
      })
      document.addEventListener('paste', event => {
        const files = filesOf(event.clipboardData)
        if (files.length === 0) return
        event.preventDefault()
        takePictures(files)
      })
    },
    page: {
      uploading: '',
      recordingOf: '',
      level: 0,
      recorded: '',
      /** @param {Event} event */
      choosePicture(event) {
        const files = chosen(event)
        if (files.length > 0) takePictures(files)
      },
      /** @param {Event} event */
      async chooseLabels(event) {
        await takeLabels(chosen(event))
      },
      /** @param {Event} event */
      async chooseFace(event) {
        const input = /** @type {HTMLInputElement} */ (event.currentTarget)
        const { name = '' } = input.dataset
        const row = /** @type {HTMLElement | null} */ (input.closest('[data-row]'))?.dataset.row ?? 'message'
        const [file] = chosen(event)
        if (file) await takeFace(row, name, file)
      },
      /** @param {Event} event */
      hear(event) {
        const button = /** @type {HTMLElement} */ (event.currentTarget)
        const [, , media] = (button.dataset.media ?? '').split('/')
        play({ face: { kind: 'sound', media } })
      },
      /** @param {Event} event */
      async startRecording(event) {
        const button = /** @type {HTMLElement} */ (event.currentTarget)
        const row = /** @type {HTMLElement | null} */ (button.closest('[data-row]'))?.dataset.row ?? 'message'
        const name = button.dataset.name ?? ''
        const state = desk.state()
        recording?.cancel()
        try {
          recording = await record(
            (level, seconds) => {
              state.recordingOf = `${row}/${name}`
              state.level = Math.round(level * 100)
              state.recorded = `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`
            },
            file => {
              state.recordingOf = ''
              takeFace(row, name, file)
            },
          )
        } catch (error) {
          problem(whyNot(error))
        }
      },
      stopRecording() {
        recording?.stop()
        recording = null
      },
    },
  }
}
