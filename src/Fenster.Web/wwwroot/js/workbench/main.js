// The workbench: one document, seen as picture and as ledger, and saved as it changes.

import { readsTheSame } from '../same.js'
import { play } from '../scene/face.js'
import { openBench, usualRegion, withUsualSizes } from './bench.js'
import { paneAt, withPane } from './document.js'
import { createHistory } from './history.js'
import { kinds } from './kinds/all.js'
import { numberIn } from './kinds/fields.js'
import { setLabel } from './kinds/zones.js'
import { listenForKeys } from './keying.js'
import { bankOf, countOf, rowsOf } from './ledger.js'
import { addLabels, labelOf, namedBy, placeLabel, remove, setKey, shapesOf, targetOf, withLabel, withoutPlace } from './pane.js'
import { panesPart } from './panes.js'
import { pictureKeys } from './picture-keys.js'
import { proofPart } from './proof.js'
import { inside, rounded } from './regions.js'
import { rulesPart } from './rules.js'
import { createSaver, isOutrun, keptOnDevice } from './saver.js'
import { freshScale, setScale } from './scale-row.js'
import { selectedPart } from './selected.js'
import { settingsPart } from './settings.js'
import { steady } from './steady.js'
import { swapPart } from './swap.js'
import { takingPart } from './taking.js'
import { reads, words } from './typing.js'

/** @param {Event} event */
const rowOf = event => /** @type {HTMLElement} */ (/** @type {HTMLElement} */ (event.currentTarget).closest('[data-row]')).dataset.row ?? ''
/** @param {Event} event */
const valueOf = event => /** @type {HTMLInputElement} */ (event.currentTarget).value

/** The most labels on one pane; the server says the same. */
const mostLabels = 2000

function workbench() {
  const root = /** @type {HTMLElement} */ (document.getElementById('workbench'))
  const data = root.dataset
  const url = `/activities/${data.activity}`
  const deviceKey = `draft-${data.activity}`
  const history = createHistory(JSON.parse(data.document ?? ''))
  let says = JSON.parse(data.says ?? '{}')
  let index = Math.max(0, Number(new URLSearchParams(location.hash.slice(1)).get('pane') ?? 1) - 1 || 0)
  /** @type {PanePart | null} */
  let preview = null
  /** @type {ReturnType<typeof openBench> | null} */
  let bench = null
  let shownPicture = ''
  /** @type {any} */
  let state
  /** @type {ReturnType<typeof createSaver>} */
  let saver
  /** Keys of shapes on the picture, or of a row that has none. @type {string[]} */
  let selection = []
  /** @type {string | null} */
  let pointed = null
  /** The row whose details are open. @type {string | null} */
  let open = null
  /** The label without a place that the next click on the picture puts there. @type {string | null} */
  let next = null
  /** The first of the two clicks that calibrate a scale. @type {Point | null} */
  let calibrating = null

  const steadyRows = steady(/** @type {'key'} */ ('key'))
  const steadyBank = steady(/** @type {'id'} */ ('id'))

  const doc = () => history.present()
  const pane = () => paneAt(doc(), index)
  const shown = () => preview ?? pane()
  /** @param {string} sentence */
  const announce = sentence => {
    ;/** @type {HTMLElement} */ (document.getElementById('announcer')).textContent = sentence
  }
  const selectedRows = () => [
    ...new Set([
      ...shapesOf(pane())
        .filter(shape => selection.includes(shape.key))
        .map(shape => shape.row),
      ...selection,
    ]),
  ]

  /** @param {ActivityDocument} changed @param {string | null} [step] */
  const changeDocument = (changed, step = null) => {
    if (changed === doc()) return
    history.push(changed, step)
    show()
    saver.save(doc())
  }
  /** A change that changes nothing is no step. @param {PanePart} changed @param {string | null} [step] */
  const change = (changed, step = null) => {
    changed = withUsualSizes(pane(), changed)
    if (!readsTheSame(changed, pane())) changeDocument(withPane(doc(), index, changed), step && `${index} ${step}`)
  }

  const show = () => {
    index = Math.min(index, Math.max(0, doc().panes.length - 1))
    const { picture } = shown()
    state.title = doc().title
    state.altText = pane().picture?.altText ?? ''
    state.hasPicture = picture !== null && picture !== undefined
    state.isMatchingOnly = !state.hasPicture && pane().targets.length > 0
    state.cannotUndo = !history.canUndo()
    state.cannotRedo = !history.canRedo()
    state.bankOrder = pane().bankOrder ?? 'shuffled'
    state.labelSize = pane().labelSize ?? 'medium'
    state.weight = String(pane().weight ?? 1)
    state.paneExplanation = pane().explanation ?? ''
    parts.forEach(part => part.show())
    showRows()
    if (picture && shownPicture !== `${index} ${picture.media}`) {
      shownPicture = `${index} ${picture.media}`
      // The mat has no size before it is shown.
      requestAnimationFrame(openPicture)
    }
    if (!picture) {
      shownPicture = ''
      bench?.close()
      bench = null
    }
    bench?.draw(shown(), pointed)
    showSays()
  }

  const showRows = () => {
    const remarks = (says.remarks ?? []).filter((/** @type {any} */ remark) => remark.pane === index)
    state.rows = steadyRows(rowsOf(pane(), remarks, { selected: selectedRows(), pointed, open }))
    state.hasNoRows = state.rows.length === 0 && state.hasPicture
    state.bank = steadyBank(bankOf(pane()))
    if (next && !withoutPlace(pane()).some(label => label.id === next)) next = null
    state.waiting = next ? nameOfNext() : ''
    state.count = countOf(pane())
  }

  /** The line over the picture: what a click makes. */
  const showSays = () => {
    const tool = state.tool
    state.saysScale = tool === 'scalePoint' && !pane().scale
    state.saysClick = !next && !state.saysScale
    state.scaleStep = calibrating
      ? 'Now click a second position whose value you know.'
      : 'Click a position on the scale whose value you know.'
    state.asksRegion = (kinds[/** @type {TargetPart['kind']} */ (tool)]?.asks ?? 'point') === 'region' && tool !== 'hotspots'
    const isFurther = tool === 'hotspots' && targetOf(pane(), selectedRows()[0] ?? '')?.kind === 'hotspots'
    state.clickHint = isFurther
      ? 'one more place for the row that is selected; Enter in the row, and the next is a new one.'
      : state.asksRegion || tool === 'hotspots'
        ? 'a drag draws it, Shift-drag outlines it.'
        : ''
  }

  /** @param {string[]} keys @param {boolean} [fromLedger] Then the row is under the pointer, and must stay there. */
  const select = (keys, fromLedger = false) => {
    if (keys.length === selection.length && keys.every(key => selection.includes(key))) return
    selection = keys
    show()
    if (keys.length > 0 && !fromLedger) root.querySelector(`[data-row="${selectedRows()[0]}"]`)?.scrollIntoView({ block: 'nearest' })
  }

  /** @param {string} row */
  const focusRow = row =>
    requestAnimationFrame(() => {
      const input = /** @type {HTMLInputElement | null} */ (
        root.querySelector(`[data-row="${row}"] .row-text`) ?? root.querySelector(`[data-row="${row}"] input`)
      )
      input?.focus()
      input?.select()
    })

  const openPicture = () => {
    const { picture } = shown()
    if (!picture) return
    bench?.close()
    bench = openBench(/** @type {HTMLElement} */ (document.getElementById('mat')), picture, {
      pane,
      shown,
      select,
      focusRow,
      make,
      key,
      selection: () => selection,
      tool: () => (next ? 'dropZone' : state.tool),
      shape: () => state.shape,
      say: announce,
      readout(words) {
        state.readout = words
      },
      pointAt(row) {
        if (pointed === row) return
        pointed = row
        showRows()
        bench?.draw(shown(), pointed)
      },
      preview(changed) {
        preview = changed
        bench?.draw(shown(), pointed)
      },
      commitPreview() {
        const changed = preview
        preview = null
        if (changed) change(changed)
        bench?.draw(shown(), pointed)
      },
    })
    bench.draw(shown(), pointed)
    bench.stage.element.querySelector('.stage-picture')?.addEventListener('error', () => {
      state.problem = 'The picture can’t be found on the server. All that lies on it is kept: choose the picture again under “Change”.'
    })
  }

  /**
   * Makes what the line over the picture says.
   * @param {Point} at
   * @param {Region | null} region
   * @param {boolean} [isByKey] Then the keyboard stays on the picture.
   */
  function make(at, region, isByKey = false) {
    if (next) return placeNext(region ?? usualRegion(pane(), 'dropZone', at, state.shape, next))
    if (state.saysScale) return calibrate(at)
    const kind = kinds[/** @type {TargetPart['kind']} */ (state.tool)]
    const from =
      kind.asks === 'region'
        ? rounded(inside(region ?? usualRegion(pane(), state.tool, at, state.shape, null), pane()))
        : { x: Math.round(at.x * 100) / 100, y: Math.round(at.y * 100) / 100 }
    add(kind.make(pane(), from, selectedRows()[0] ?? null), isByKey)
  }
  /** @param {{pane: PanePart, id: string}} made @param {boolean} [isByKey] */
  function add({ pane: changed, id }, isByKey = false) {
    const target = targetOf(changed, id)
    const isSimple =
      target?.kind === 'dropZone' || target?.kind === 'hiddenZone' || target?.kind === 'hotspots' || target?.kind === 'openNote'
    if (!isSimple) open = id
    // Of several spots the one that was just made.
    selection = [shapesOf(changed).findLast(shape => shape.row === id && shape.kind !== 'start')?.key ?? id]
    change(changed)
    if (!isByKey) focusRow(id)
  }

  /** @param {Point} at */
  function calibrate(at) {
    const point = { x: Math.round(at.x * 100) / 100, y: Math.round(at.y * 100) / 100 }
    if (!calibrating) {
      calibrating = point
      showSays()
      announce('The first position is set. Now the second.')
      return
    }
    const from = calibrating
    if (Math.hypot(from.x - point.x, from.y - point.y) < 5) return
    calibrating = null
    open = 'scale'
    change({ ...pane(), scale: freshScale(from, point) })
    requestAnimationFrame(() => {
      const first = /** @type {HTMLInputElement | null} */ (root.querySelector('[data-row="scale"] .field input'))
      first?.focus()
      first?.select()
    })
    announce('The scale is set. Type what both positions read.')
  }

  /** Gives the label that waits for a place this one; the next that waits is named then. @param {Region} region */
  function placeNext(region) {
    const order = pane().labels.map(label => label.id)
    const { pane: placed, target } = placeLabel(pane(), next ?? '', region, state.tool === 'hiddenZone' ? 'hiddenZone' : 'dropZone')
    const waiting = withoutPlace(placed).filter(label => label.text.trim() !== '')
    next = (waiting.find(label => order.indexOf(label.id) > order.indexOf(next ?? '')) ?? null)?.id ?? null
    selection = [target]
    change(placed)
    announce(next ? `Placed. A click now puts ${nameOfNext()}.` : 'Placed. Every label that was waiting has its place.')
  }
  const nameOfNext = () => labelOf(pane(), next ?? '')?.text ?? ''

  /** Makes the next thing in the middle, below those already there, and leaves the keyboard on the picture to move it. */
  function makeByKey() {
    if (!bench) return
    const count = shapesOf(pane()).length
    const { top, bottom } = bench.stage.plane
    const at = { x: 500, y: top + (bottom - top) * (0.2 + ((count * 0.13) % 0.7)) }
    if (state.saysScale) {
      calibrating = { x: 100, y: at.y }
      calibrate({ x: 900, y: at.y })
      return
    }
    const wasWaiting = next !== null
    make(at, null, true)
    bench.stage.element.focus()
    if (wasWaiting) return
    announce(
      state.tool === 'dropZone'
        ? 'A drop zone was made. Move it with the arrow keys, then press Enter to type its label.'
        : 'It was made. Move it with the arrow keys, then press Enter to go to its row.',
    )
  }
  const key = pictureKeys({
    pane,
    change,
    focusRow,
    makeByKey,
    select,
    say: announce,
    selection: () => selection,
    fit: () => bench?.stage.zoomTo(1),
  })

  /** @param {string} row */
  const removeRow = row => {
    const text = state.rows.find((/** @type {any} */ r) => r.key === row)?.text
    if (selectedRows().includes(row)) selection = []
    change(remove(pane(), row))
    announce(`${text || 'The row'} was deleted. Ctrl+Z brings it back.`)
  }

  /** Adds labels and lets the clicks that follow give them their places. @param {Omit<LabelPart, 'id'>[]} more */
  const waitForPlaces = more => {
    const { pane: changed, labels } = addLabels(pane(), more)
    next = labels[0]
    change(changed)
    announce(`${labels.length} labels were added. Click where ${nameOfNext()} belongs.`)
  }

  const listenForUndo = () =>
    document.addEventListener('keydown', event => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return
      // A field of formatted words has its own steps.
      if (/** @type {Element} */ (event.target).closest('.ql-editor')) return
      const pressed = event.key.toLowerCase()
      const isUndo = pressed === 'z' && !event.shiftKey
      const isRedo = (pressed === 'z' && event.shiftKey) || pressed === 'y'
      if (!isUndo && !isRedo) return
      event.preventDefault()
      if (isUndo) state.undo()
      else state.redo()
    })

  const listenForBank = () =>
    listenForKeys(/** @type {HTMLElement} */ (document.getElementById('bench-bank')), {
      targetAt: event => (bench && isOver(event) ? (bench.canvas.shapeAt(pane(), bench.stage.pointAt(event))?.row ?? null) : null),
      hover(target) {
        pointed = target
        bench?.draw(pane(), pointed)
      },
      drop(target, label, isFurther) {
        change(setKey(pane(), target, label, isFurther))
        if (isFurther) open = target
        show()
        announce(`${labelOf(pane(), label)?.text} belongs there now.`)
      },
      bare(label, event) {
        if (!bench || !isOver(event)) return
        // On the bare picture it lies as students will find it.
        const at = bench.stage.pointAt(event)
        change(withLabel(pane(), label, { start: { x: Math.round(at.x), y: Math.round(at.y) } }))
        announce(`${labelOf(pane(), label)?.text} lies there when students begin.`)
      },
    })
  /** @param {PointerEvent} event */
  const isOver = event => {
    const box = bench?.stage.mat.getBoundingClientRect()
    return (
      box !== undefined &&
      event.clientX >= box.left &&
      event.clientX <= box.right &&
      event.clientY >= box.top &&
      event.clientY <= box.bottom
    )
  }

  /** @param {import('./saver.js').SaveState} save @param {string} sentence */
  const showSave = (save, sentence) => {
    state.saveState = {
      saved: 'Saved',
      saving: 'Saving',
      offline: 'Offline, kept on this device',
      conflict: 'Not saved',
      refused: 'Not saved',
      signedOut: 'Kept on this device',
    }[save]
    state.saveClass = save === 'saved' || save === 'saving' ? '' : 'save-offline'
    state.isSignedOut = save === 'signedOut'
    if (save === 'conflict') state.conflict = sentence
    else if (save !== 'saving' && save !== 'signedOut' && sentence) state.problem = sentence
  }

  /** What the other parts of the workbench work on. */
  const desk = {
    data,
    root,
    url,
    pane,
    doc,
    change,
    changeDocument,
    announce,
    waitForPlaces,
    select,
    selectedRows,
    focusRow,
    state: () => state,
    says: () => says,
    index: () => index,
    open: () => open,
    selection: () => selection,
    plane: () => bench?.stage.plane ?? null,
    /** Shows a pane that is not a step yet; null goes back to the one that is. @param {PanePart | null} changed */
    look(changed) {
      preview = changed
      show()
    },
    isLooking: () => preview !== null,
    /** @param {number} to */
    goTo(to) {
      index = to
      preview = null
      selection = []
      open = null
      next = null
      shownPicture = ''
      location.hash = `pane=${to + 1}`
      show()
    },
    setField,
    trySetting,
  }
  const swap = swapPart(desk)
  const parts = [
    panesPart(desk),
    proofPart(desk),
    rulesPart(desk),
    selectedPart(desk),
    settingsPart(desk),
    swap,
    takingPart(desk, swap.offer),
  ]

  /** Says so when what was typed can't stand in a field, and shows what stands. @param {HTMLInputElement} field @param {() => void} set */
  function trySetting(field, set) {
    const [before, was] = [doc(), field.dataset.value]
    set()
    if (doc() !== before || was === undefined || field.value === was) return
    state.problem = `“${field.value}” does not fit there, so it stays as it was.`
    field.value = was
  }

  /** One field of a row's details. @param {string} row @param {string} name @param {any} value @param {string | null} step */
  function setField(row, name, value, step) {
    if (row === 'scale') return change(setScale(pane(), name, value), step)
    const target = targetOf(pane(), row)
    if (target) return change(kinds[target.kind].set(pane(), target, name, value), step)
    change(setLabel(pane(), row, name.slice(6), value), step)
  }

  return Object.assign(
    {
      title: '',
      altText: '',
      rows: [],
      bank: [],
      count: '',
      saveState: 'Saved',
      saveClass: '',
      conflict: '',
      problem: '',
      waiting: '',
      readout: '',
      isSignedOut: false,
      hasPicture: false,
      isMatchingOnly: false,
      hasNoRows: false,
      cannotUndo: true,
      cannotRedo: true,
      weight: '1',
      paneExplanation: '',
      tool: 'dropZone',
      tools: Object.entries(kinds)
        .filter(([, { asks }]) => asks !== null)
        .map(([kind, { word }]) => ({ kind, word })),
      shape: 'rectangle',
      bankOrder: 'shuffled',
      labelSize: 'medium',
      saysClick: true,
      saysScale: false,
      scaleStep: '',
      asksRegion: true,
      clickHint: '',
      get hasNoPicture() {
        return !this.hasPicture && !this.isMatchingOnly
      },

      init() {
        state = this
        if (isOutrun(deviceKey, Number(data.version))) return location.reload()
        saver = createSaver({
          url,
          deviceKey,
          version: Number(data.version),
          onState: showSave,
          onSaved(answer) {
            says = answer.says
            parts.forEach(part => part.show())
            showRows()
          },
        })
        const kept = keptOnDevice(deviceKey)
        if (kept && !readsTheSame(kept.document, doc())) {
          history.push(kept.document)
          saver.setVersion(kept.version)
          saver.save(kept.document)
        }
        parts.forEach(part => part.listen?.())
        listenForUndo()
        listenForBank()
        show()
      },

      /** @param {Event} event */
      retitle(event) {
        if (valueOf(event).trim()) changeDocument({ ...doc(), title: valueOf(event) }, 'title')
      },
      /** @param {Event} event */
      finishTitle(event) {
        ;/** @type {HTMLInputElement} */ (event.currentTarget).value = doc().title
      },
      /** @param {Event} event */
      describe(event) {
        const { picture } = pane()
        if (picture) change({ ...pane(), picture: { ...picture, altText: valueOf(event).trim() } })
      },
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
      /** The picture room works on the pane that is shown. @param {Event} event */
      async leaveForRoom(event) {
        event.preventDefault()
        await saver.flush()
        location.href = `${url}/picture?pane=${index}`
      },
      async takeTheirs() {
        const newest = await saver.newest()
        if (!newest) return
        saver.setVersion(newest.version)
        state.conflict = ''
        await saver.resolve(false)
        history.push(newest.document)
        selection = []
        show()
        showSave('saved', '')
      },
      keepMine() {
        state.conflict = ''
        saver.resolve(true)
      },
      dismiss() {
        state.problem = ''
      },
      signedIn() {
        saver.flush()
      },
      makeByKey,
      /** @param {Event} event */
      setTool(event) {
        state.tool = valueOf(event)
        calibrating = null
        show()
      },
      /** @param {Event} event */
      setShape(event) {
        state.shape = valueOf(event)
      },
      addMatching() {
        add(kinds.matching.make(pane(), null, null))
      },
      /** @param {Event} event */
      setBankOrder(event) {
        change({ ...pane(), bankOrder: valueOf(event) })
      },
      /** @param {Event} event */
      setLabelSize(event) {
        change({ ...pane(), labelSize: valueOf(event) })
      },
      /** @param {Event} event */
      setWeight(event) {
        const weight = numberIn(valueOf(event))
        trySetting(/** @type {HTMLInputElement} */ (event.currentTarget), () => {
          if (weight !== null && weight > 0) change({ ...pane(), weight })
        })
      },
      /** @param {Event} event */
      explainPane(event) {
        change({ ...pane(), explanation: valueOf(event) }, 'explanation')
      },
      /** @param {Event} event */
      zoom(event) {
        const by = Number(/** @type {HTMLButtonElement} */ (event.currentTarget).value)
        bench?.stage.zoomTo(by === 0 ? 1 : bench.stage.zoom() * by)
      },
      /** @param {Event} event */
      playRow(event) {
        play(labelOfRow(rowOf(event)))
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
        const {
          pane: changed,
          labels: [label],
        } = addLabels(pane(), [{ text: '' }])
        selection = [label]
        change(changed)
        focusRow(label)
      },
      /** @param {Event} event */
      point(event) {
        pointed = rowOf(event)
        showRows()
        bench?.draw(pane(), pointed)
      },
      unpoint() {
        pointed = null
        showRows()
        bench?.draw(pane(), pointed)
      },
      /** @param {Event} event */
      select(event) {
        if (!selectedRows().includes(rowOf(event)))
          select([shapesOf(pane()).find(shape => shape.row === rowOf(event))?.key ?? rowOf(event)], true)
      },
      /** @param {Event} event */
      toggle(event) {
        open = open === rowOf(event) ? null : rowOf(event)
        show()
      },
      /** @param {Event} event */
      rename(event) {
        const row = rowOf(event)
        const target = targetOf(pane(), row)
        // Several answers in one line are taken apart once they are all typed.
        if (target && kinds[target.kind].isList && event.type === 'input') return
        change(
          target ? kinds[target.kind].rename(pane(), target, valueOf(event)) : withLabel(pane(), row, { text: valueOf(event) }),
          `rename ${row}`,
        )
      },
      /** @param {Event} event */
      finishRename(event) {
        const target = targetOf(pane(), rowOf(event))
        if (target && kinds[target.kind].isList) state.rename(event)
      },
      /** @param {Event} event */
      next(event) {
        state.finishRename(event)
        const isTarget = targetOf(pane(), rowOf(event)) !== undefined
        select([])
        if (!isTarget && valueOf(event).trim()) state.addDistractor()
        else bench?.stage.element.focus({ preventScroll: true })
        announce('Click the next spot, or press Enter on the picture.')
      },
      /** Many lines become many labels; what is too long is cut, and said. @param {ClipboardEvent} event */
      pasteInto(event) {
        const lines = (event.clipboardData?.getData('text/plain') ?? '')
          .split(/\r?\n/)
          .map(line => line.trim())
          .filter(Boolean)
        const most = Number(data.longestLabel)
        const longest = Math.max(0, ...lines.map(line => line.length))
        if (longest > most)
          state.problem = `A label holds up to ${most} characters; what you pasted has ${longest}, and the rest was left out.`
        if (lines.length < 2) return
        event.preventDefault()
        if (pane().labels.length + lines.length > mostLabels) {
          state.problem = `That list has ${lines.length} lines; a picture holds up to ${mostLabels} labels. Nothing was added.`
          return
        }
        const row = rowOf(event)
        const cut = lines.map(line => line.slice(0, most))
        const target = targetOf(pane(), row)
        const [first, ...rest] =
          target && (target.kind === 'dropZone' || target.kind === 'hiddenZone') && !labelOfRow(row)?.text.trim() ? cut : [null, ...cut]
        if (first && target) change(kinds[target.kind].rename(pane(), target, first))
        if (!target && !labelOfRow(row)?.text.trim()) change(remove(pane(), row))
        waitForPlaces(rest.map(text => ({ text: /** @type {string} */ (text) })))
      },
      /** @param {Event} event */
      remove(event) {
        removeRow(rowOf(event))
      },
      /** @param {KeyboardEvent} event */
      toPicture(event) {
        event.stopPropagation()
        bench?.stage.element.focus({ preventScroll: true })
      },
      /** @param {Event} event */
      typeField(event) {
        const { name } = /** @type {HTMLElement} */ (event.currentTarget).dataset
        setField(rowOf(event), name ?? '', valueOf(event), `${rowOf(event)} ${name}`)
      },
      /** Enter in a field of the details: on to the picture. @param {Event} event */
      leaveField(event) {
        state.changeField(event)
        select([])
        bench?.stage.element.focus({ preventScroll: true })
      },
      /** @param {Event} event */
      changeField(event) {
        const field = /** @type {HTMLInputElement} */ (event.currentTarget)
        trySetting(field, () =>
          setField(rowOf(event), field.dataset.name ?? '', field.type === 'checkbox' ? field.checked : field.value, null),
        )
      },
    },
    ...parts.map(part => part.page),
  )

  /** @param {string} row @returns {LabelPart | undefined} */
  function labelOfRow(row) {
    const target = targetOf(pane(), row)
    return labelOf(pane(), target ? (namedBy(target)[0] ?? '') : row)
  }

  /** @param {string} sentence */
  function afterJump(sentence) {
    preview = null
    const keys = shapesOf(pane()).map(shape => shape.key)
    selection = selection.filter(key => keys.includes(key))
    show()
    saver.save(doc())
    announce(sentence)
  }
}

/**
 * @typedef {{data: DOMStringMap, root: HTMLElement, url: string, pane: () => PanePart, doc: () => ActivityDocument,
 *   change: (pane: PanePart, step?: string | null) => void, changeDocument: (doc: ActivityDocument, step?: string | null) => void,
 *   announce: (sentence: string) => void, waitForPlaces: (labels: Omit<LabelPart, 'id'>[]) => void, look: (pane: PanePart |
 *   null) => void, isLooking: () => boolean, state: () => any, says: () => any, index: () => number, open: () => string | null,
 *   goTo: (index: number) => void, selection: () => string[], selectedRows: () => string[], select: (keys: string[]) => void,
 *   focusRow: (row: string) => void, plane: () => Bounds | null, setField: (row: string, name: string, value: any, step: string |
 *   null) => void, trySetting: (field: HTMLInputElement, set: () => void) => void}} Desk
 */
/** @typedef {{show: () => void, listen?: () => void, page: object}} Part */

document.addEventListener('alpine:init', () => {
  Alpine.directive('reads', reads)
  Alpine.directive('words', words)
  Alpine.data('workbench', workbench)
})
