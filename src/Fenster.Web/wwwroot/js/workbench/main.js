// The workbench: one document, seen as picture and as ledger, and saved as it changes.

import { post } from '../http.js'
import { play } from '../scene/face.js'
import { createStage, textWidth } from '../scene/stage.js'
import { createCanvas } from './canvas.js'
import * as edit from './document.js'
import { idle } from './gestures/idle.js'
import { createHistory } from './history.js'
import { bankOf, countOf, rowsOf } from './ledger.js'
import { createSaver, keptOnDevice } from './saver.js'
import { filesOf, uploadPicture } from './upload.js'

/**
 * @typedef {object} Bench What gestures work on.
 * @property {import('../scene/stage.js').Stage} stage
 * @property {ReturnType<typeof createCanvas>} canvas
 * @property {() => ActivityDocument} document
 * @property {() => PanePart} pane
 * @property {() => string | null} selected
 * @property {() => 'rectangle' | 'circle'} shape
 * @property {(row: string | null) => void} select
 * @property {(row: string | null) => void} pointAt
 * @property {(doc: ActivityDocument | null) => void} preview Shows a document that is not a step yet; null goes back.
 * @property {() => void} commitPreview
 * @property {(point: Point) => Region} usualRegion
 * @property {(region: Region) => string} makeZone
 * @property {(row: string) => void} focusRow
 */

/** The picture's width in CSS pixels on a common laptop, for the usual size of a zone. */
const usualPictureWidth = 860

/** @param {Event} event */
const rowOf = event => /** @type {HTMLElement} */ (/** @type {HTMLElement} */ (event.currentTarget).closest('[data-row]')).dataset.row ?? ''
/** @param {Event} event */
const valueOf = event => /** @type {HTMLInputElement} */ (event.currentTarget).value

function workbench() {
  const root = /** @type {HTMLElement} */ (document.getElementById('workbench'))
  const data = root.dataset
  const url = `/activities/${data.activity}`
  const deviceKey = `draft-${data.activity}`
  const history = createHistory(JSON.parse(data.document ?? ''))
  /** @type {ActivityDocument | null} */
  let preview = null
  /** @type {Bench | null} */
  let bench = null
  let shownPicture = ''
  /** @type {any} */
  let state
  /** @type {ReturnType<typeof createSaver>} */
  let saver
  /** @type {string | null} */
  let selected = null
  /** @type {string | null} */
  let pointed = null
  /** The label without a place that the next click on the picture puts there. @type {string | null} */
  let next = null
  /** @type {import('./ledger.js').FindingOf[]} */
  let findings = JSON.parse(data.findings ?? '[]')

  const current = () => preview ?? history.present()
  const pane = () => edit.paneOf(current())

  /** @param {string} sentence */
  const announce = sentence => { /** @type {HTMLElement} */ (document.getElementById('announcer')).textContent = sentence }

  /** @param {ActivityDocument} doc @param {string | null} [step] */
  const change = (doc, step = null) => {
    history.push(doc, step)
    show()
    saver.save(history.present())
  }

  const show = () => {
    const doc = current()
    state.title = doc.title
    state.altText = pane().picture?.altText ?? ''
    state.instructions = doc.instructions
    state.hasPicture = pane().picture !== null
    state.cannotUndo = !history.canUndo()
    state.cannotRedo = !history.canRedo()
    showRows()
    if (pane().picture && shownPicture !== pane().picture?.media) {
      shownPicture = pane().picture?.media ?? ''
      // The mat has no size before it is shown.
      requestAnimationFrame(openPicture)
    }
    bench?.canvas.draw(pane(), selected, pointed)
  }

  const showRows = () => {
    state.rows = rowsOf(pane(), findings, { selected, pointed })
    state.hasNoRows = state.rows.length === 0 && state.hasPicture
    state.bank = bankOf(pane())
    if (next && !edit.withoutPlace(pane()).some(label => label.id === next)) next = null
    state.waiting = next ? nameOfNext() : ''
    state.count = countOf(pane())
  }

  /** @param {string | null} row */
  const select = row => {
    if (selected === row) return
    selected = row
    show()
    root.querySelector(`[data-row="${row}"]`)?.scrollIntoView({ block: 'nearest' })
  }

  /** @param {string} row */
  const focusRow = row => requestAnimationFrame(() => {
    const input = /** @type {HTMLInputElement | null} */ (root.querySelector(`[data-row="${row}"] .row-text`))
    input?.focus()
    input?.select()
  })

  const openPicture = () => {
    const mat = /** @type {HTMLElement} */ (document.getElementById('mat'))
    const picture = pane().picture
    if (!picture) return
    const stage = createStage(mat, picture)
    const canvas = createCanvas(stage)
    bench = {
      stage, canvas, pane, select, focusRow,
      document: () => history.present(),
      selected: () => selected,
      shape: () => /** @type {HTMLSelectElement} */ (document.getElementById('shape')).value === 'circle' ? 'circle' : 'rectangle',
      pointAt(row) {
        if (pointed === row) return
        pointed = row
        show()
      },
      preview(doc) {
        preview = doc
        canvas.draw(pane(), selected, pointed)
      },
      commitPreview() {
        const doc = preview
        preview = null
        if (doc) change(doc)
      },
      usualRegion,
      makeZone(region) {
        if (next) return placeNext(region)
        const { doc, zone } = edit.addZone(history.present(), region)
        selected = zone
        change(doc)
        focusRow(zone)
        return zone
      },
    }
    stage.onResize(() => canvas.draw(pane(), selected, pointed))
    canvas.draw(pane(), selected, pointed)
    listenTo(bench)
  }

  /** Gives the label that waits for a place this one; the next that waits is named then. @param {Region} region */
  const placeNext = region => {
    const { doc, zone } = edit.placeLabel(history.present(), next ?? '', region)
    const waiting = edit.withoutPlace(edit.paneOf(doc)).filter(label => label.text.trim() !== '')
    const places = pane().labels.map(label => label.id)
    next = (waiting.find(label => places.indexOf(label.id) > places.indexOf(next ?? '')) ?? null)?.id ?? null
    selected = zone
    change(doc)
    announce(next ? `Placed. A click now puts ${nameOfNext()}.` : 'Placed. Every label that was waiting has its place.')
    return zone
  }
  const nameOfNext = () => pane().labels.find(label => label.id === next)?.text ?? ''

  /** @param {Point} point @returns {Region} As large as the widest label of the pane. */
  const usualRegion = point => {
    const unit = 1000 / usualPictureWidth
    const face = pane().labels.find(label => label.id === next)?.face
    if (face?.kind === 'picture') {
      const height = 80 * unit
      const width = Math.min(280, (height * face.width) / face.height)
      return { kind: 'rectangle', x: point.x - width / 2, y: point.y - height / 2, width, height }
    }
    const widest = Math.max(70, ...pane().labels.map(label => textWidth(label.text, 17)))
    const width = Math.min(240, (widest + 34) * unit)
    const height = 38 * unit
    return bench?.shape() === 'circle'
      ? { kind: 'circle', centre: point, radius: 45 }
      : { kind: 'rectangle', x: point.x - width / 2, y: point.y - height / 2, width, height }
  }

  /** @param {Bench} on */
  const listenTo = on => {
    const { element } = on.stage
    element.tabIndex = 0
    element.setAttribute('role', 'application')
    element.setAttribute('aria-label', 'Picture. Enter makes a drop zone, or names the selected one. Arrow keys move it, brackets resize it, Delete removes it.')
    /** @type {any} */
    let gesture = idle(on)
    /** @param {any} next */
    const go = next => {
      if (!next) return
      gesture = next
      gesture.enter()
    }
    element.addEventListener('pointerdown', event => {
      if (!event.isPrimary || event.button !== 0) return
      event.preventDefault()
      element.focus({ preventScroll: true })
      element.setPointerCapture(event.pointerId)
      go(gesture.down(on.stage.pointAt(event), event))
    })
    element.addEventListener('pointermove', event => { if (event.isPrimary) go(gesture.move(on.stage.pointAt(event), event)) })
    element.addEventListener('pointerup', event => { if (event.isPrimary) go(gesture.up()) })
    element.addEventListener('pointercancel', () => go(gesture.cancel()))
    element.addEventListener('pointerleave', () => on.pointAt(null))
    element.addEventListener('keydown', event => {
      if (event.key === 'Escape') go(gesture.cancel())
      if (pictureKey(event)) event.preventDefault()
    })
  }

  /** @param {KeyboardEvent} event @returns {boolean} Whether the key meant something on the picture. */
  const pictureKey = event => {
    if (event.ctrlKey || event.metaKey) return false
    const zone = pane().targets.find(t => t.id === selected)
    if (event.key === 'Enter') {
      if (zone) focusRow(zone.id)
      else makeZoneByKey()
      return true
    }
    if (event.key === 'Escape') {
      select(null)
      return true
    }
    if (!zone) return false
    const step = event.shiftKey ? 10 : 1
    const by = /** @type {Record<string, [number, number]>} */ ({ ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] })[event.key]
    if (by) change(edit.setRegion(history.present(), zone.id, edit.moved(zone.region, ...by)), `move ${zone.id}`)
    else if (event.key === '[' || event.key === ']') change(edit.setRegion(history.present(), zone.id, edit.grown(zone.region, event.key === ']' ? 2 : -2)), `size ${zone.id}`)
    else if (event.key === 'Delete' || event.key === 'Backspace') removeRow(zone.id)
    else return false
    return true
  }

  /** Makes a zone in the middle, below those already there, and leaves the keyboard on the picture to move it. */
  const makeZoneByKey = () => {
    if (!bench) return
    const count = pane().targets.length
    const { top, bottom } = bench.stage.plane
    const region = usualRegion({ x: 500, y: top + (bottom - top) * (0.2 + ((count * 0.13) % 0.7)) })
    if (next) {
      placeNext(region)
      return
    }
    const { doc, zone } = edit.addZone(history.present(), region)
    selected = zone
    change(doc)
    bench.stage.element.focus()
    announce('A drop zone was made. Move it with the arrow keys, then press Enter to type its label.')
  }

  /** @param {string} row */
  const removeRow = row => {
    const text = state.rows.find((/** @type {any} */ r) => r.key === row)?.text
    if (selected === row) selected = null
    change(edit.remove(history.present(), row))
    announce(`${text || 'The row'} was deleted. Ctrl+Z brings it back.`)
  }

  /** @param {File[]} files */
  const takePicture = async files => {
    state.problem = ''
    state.uploading = 'Getting the picture ready…'
    const { media, sentence } = await uploadPicture(files, Number(data.mostBytes))
    state.uploading = ''
    if (media) {
      change(edit.setPicture(history.present(), media))
      if (media.width < 640) state.problem = `This picture is only ${media.width} pixels wide. On a full screen it will look blurred; a width of 640 or more is better.`
    } else {
      state.problem = sentence ?? ''
    }
  }

  /**
   * Many files at once become many labels; one that fails does not stop the others.
   * @param {File[]} files
   * @param {string} what
   * @param {(file: File) => Promise<{face?: Face, sentence?: string}>} send
   */
  const takeLabels = async (files, what, send) => {
    state.problem = ''
    const [parts, failures] = [/** @type {Omit<LabelPart, 'id'>[]} */ ([]), /** @type {string[]} */ ([])]
    for (const [i, file] of files.entries()) {
      state.uploading = `Getting ${what} ${i + 1} of ${files.length} ready…`
      const { face, sentence } = await send(file)
      if (face) parts.push({ text: wordsOf(file.name), copies: 1, face })
      else failures.push(sentence ?? '')
    }
    state.uploading = ''
    state.problem = failures.join(' ')
    if (parts.length > 0) waitForPlaces(parts)
  }

  /** @param {File[]} files */
  const takePictureLabels = files => takeLabels(files, 'picture', async file => {
    const { media, sentence } = await uploadPicture([file], Number(data.mostBytes), true)
    return media ? { face: { kind: 'picture', media: media.hash, width: media.width, height: media.height } } : { sentence }
  })

  /** @param {File[]} files */
  const takeSoundLabels = files => takeLabels(files, 'sound', async file => {
    const answer = await post('/sounds', file)
    return answer.ok ? { face: { kind: 'sound', media: answer.body.hash } } : { sentence: answer.offline ? answer.sentence : `${file.name}: ${answer.sentence}` }
  })

  /** Adds labels and lets the clicks that follow give them their places. @param {Omit<LabelPart, 'id'>[]} parts */
  const waitForPlaces = parts => {
    const { doc, labels } = edit.addLabels(history.present(), parts)
    next = labels[0]
    change(doc)
    announce(`${labels.length} labels were added. Click where ${nameOfNext()} belongs.`)
  }

  /** A description from a file's name: lower-deck_02.png is “lower deck 02”. @param {string} name */
  const wordsOf = name => name.replace(/\.[^.]+$/, '').replace(/[_-]+/g, ' ').trim() || 'Picture'

  const listenForPictures = () => {
    const area = /** @type {HTMLElement} */ (root.querySelector('.bench-picture'))
    document.addEventListener('dragover', event => {
      event.preventDefault()
      area.classList.add('dropping')
    })
    document.addEventListener('dragleave', event => { if (!event.relatedTarget) area.classList.remove('dropping') })
    document.addEventListener('drop', event => {
      event.preventDefault()
      area.classList.remove('dropping')
      takePicture(filesOf(event.dataTransfer))
    })
    document.addEventListener('paste', event => {
      const files = filesOf(event.clipboardData)
      if (files.length > 0) {
        event.preventDefault()
        takePicture(files)
      }
    })
  }

  const listenForUndo = () => document.addEventListener('keydown', event => {
    if (!(event.ctrlKey || event.metaKey) || event.altKey) return
    const key = event.key.toLowerCase()
    const isUndo = key === 'z' && !event.shiftKey
    const isRedo = (key === 'z' && event.shiftKey) || key === 'y'
    if (!isUndo && !isRedo) return
    event.preventDefault()
    if (isUndo) state.undo()
    else state.redo()
  })

  /** @param {import('./saver.js').SaveState} save @param {string} sentence */
  const showSave = (save, sentence) => {
    state.saveState = { saved: 'Saved', saving: 'Saving', offline: 'Offline, kept on this device', conflict: 'Not saved', refused: 'Not saved' }[save]
    state.saveClass = save === 'saved' || save === 'saving' ? '' : 'save-offline'
    if (save === 'conflict') state.conflict = sentence
    else if (save !== 'saving' && sentence) state.problem = sentence
  }

  return {
    title: '', altText: '', instructions: '', rows: [], bank: [], count: '',
    saveState: 'Saved', saveClass: '', conflict: '', problem: '', uploading: '', waiting: '',
    hasPicture: false, hasNoRows: false, cannotUndo: true, cannotRedo: true,
    rules: { check: data.rulesCheck, reveal: data.rulesReveal, score: data.rulesScore },
    get hasNoPicture() { return !this.hasPicture },

    init() {
      state = this
      saver = createSaver({
        url, deviceKey, version: Number(data.version), onState: showSave,
        onSaved(answer) {
          state.rules = answer.rules
          findings = answer.findings
          showRows()
        },
      })
      const kept = keptOnDevice(deviceKey)
      if (kept && JSON.stringify(kept.document) !== JSON.stringify(history.present())) {
        history.push(kept.document)
        saver.setVersion(kept.version)
        saver.save(kept.document)
      }
      listenForPictures()
      listenForUndo()
      show()
    },

    /** @param {Event} event */
    retitle(event) { if (valueOf(event).trim()) change({ ...history.present(), title: valueOf(event) }, 'title') },
    /** @param {Event} event */
    finishTitle(event) { /** @type {HTMLInputElement} */ (event.currentTarget).value = history.present().title },
    /** @param {Event} event */
    describe(event) { change(edit.setAltText(history.present(), valueOf(event).trim())) },
    /** @param {Event} event */
    instruct(event) { change({ ...history.present(), instructions: valueOf(event).trim() }) },
    undo() {
      history.undo()
      afterJump('Undone.')
    },
    redo() {
      history.redo()
      afterJump('Done again.')
    },
    /** @param {Event} event */
    async leave(event) {
      event.preventDefault()
      const { href } = /** @type {HTMLAnchorElement} */ (event.currentTarget)
      await saver.flush()
      location.href = href
    },
    async takeTheirs() {
      const newest = await saver.newest()
      if (!newest) return
      saver.setVersion(newest.version)
      state.conflict = ''
      await saver.resolve(false)
      history.push(newest.document)
      selected = null
      show()
      showSave('saved', '')
    },
    keepMine() {
      state.conflict = ''
      saver.resolve(true)
    },
    dismiss() { state.problem = '' },
    /** @param {Event} event */
    choosePicture(event) {
      const input = /** @type {HTMLInputElement} */ (event.currentTarget)
      const files = [...(input.files ?? [])]
      input.value = ''
      if (files.length > 0) takePicture(files)
    },
    makeZoneByKey,
    /** @param {Event} event */
    async choosePictureLabels(event) {
      const input = /** @type {HTMLInputElement} */ (event.currentTarget)
      const files = [...(input.files ?? [])]
      input.value = ''
      await takePictureLabels(files)
    },
    /** @param {Event} event */
    async chooseSoundLabels(event) {
      const input = /** @type {HTMLInputElement} */ (event.currentTarget)
      const files = [...(input.files ?? [])]
      input.value = ''
      await takeSoundLabels(files)
    },
    /** @param {Event} event */
    playRow(event) {
      const row = rowOf(event)
      const label = pane().targets.find(t => t.id === row)?.accepts[0]?.label ?? row
      play(pane().labels.find(known => known.id === label))
    },
    /** @param {Event} event */
    givePlace(event) {
      next = rowOf(event)
      show()
      bench?.stage.element.focus({ preventScroll: true })
      announce(`Click where ${nameOfNext()} belongs, or press Enter on the picture.`)
    },
    stopPlacing() {
      next = null
      show()
    },
    addDistractor() {
      const { doc, label } = edit.addDistractor(history.present())
      selected = label
      change(doc)
      focusRow(label)
    },
    /** @param {Event} event */
    point(event) { bench?.pointAt(rowOf(event)) },
    unpoint() { bench?.pointAt(null) },
    /** @param {Event} event */
    select(event) { select(rowOf(event)) },
    /** @param {Event} event */
    rename(event) { change(edit.rename(history.present(), rowOf(event), valueOf(event)), `rename ${rowOf(event)}`) },
    /** @param {Event} event */
    next(event) {
      const isZone = pane().targets.some(t => t.id === rowOf(event))
      select(null)
      if (!isZone && valueOf(event).trim()) state.addDistractor()
      else bench?.stage.element.focus({ preventScroll: true })
      announce('Click the next spot, or press Enter on the picture.')
    },
    /** @param {ClipboardEvent} event */
    warnOfLength(event) {
      const text = event.clipboardData?.getData('text') ?? ''
      const most = Number(data.longestLabel)
      if (text.length > most) state.problem = `A label holds up to ${most} characters; what you pasted has ${text.length}, and the rest was left out.`
    },
    /** @param {Event} event */
    merge(event) {
      const row = rowOf(event)
      const label = pane().targets.find(t => t.id === row)?.accepts[0]?.label ?? row
      change(edit.mergeAlike(history.present(), label))
    },
    /** @param {Event} event */
    remove(event) { removeRow(rowOf(event)) },
    /** @param {KeyboardEvent} event */
    toPicture(event) {
      event.stopPropagation()
      bench?.stage.element.focus({ preventScroll: true })
    },
  }

  /** @param {string} sentence */
  function afterJump(sentence) {
    preview = null
    if (!state.rows.some((/** @type {any} */ row) => row.key === selected)) selected = null
    show()
    saver.save(history.present())
    announce(sentence)
  }
}

document.addEventListener('alpine:init', () => Alpine.data('workbench', workbench))
