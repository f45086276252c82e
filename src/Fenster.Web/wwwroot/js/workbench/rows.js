// The rows of the ledger: what is typed into them, and the fields of the one that is open.

import { phrase } from '../language.js'
import { play } from '../scene/face.js'
import { limits } from '../usual.js'
import { kinds } from './kinds/all.js'
import { setLabel } from './kinds/zones.js'
import { bankOf, countOf, rowsOf } from './ledger.js'
import { addLabels, labelOf, namedBy, remove, shapesOf, targetOf, withLabel } from './pane.js'
import { setScale } from './scale-row.js'
import { steady } from './steady.js'
import { rowOf, valueOf } from './typing.js'

/**
 * @param {import('./desk.js').Desk} desk
 * @param {ReturnType<typeof import('./picture.js').picturePart>} picture
 * @param {(labels: Omit<LabelPart, 'id'>[]) => void} waitForPlaces
 */
export function rowsPart(desk, picture, waitForPlaces) {
  const { pane, change, announce, select, selectedRows, focusRow } = desk
  const steadyRows = steady(/** @type {'key'} */ ('key'))
  const steadyBank = steady(/** @type {'id'} */ ('id'))
  /** The row of which all fields are shown. @type {string | null} */
  let further = null

  const show = () => {
    const state = desk.state()
    const remarks = (desk.says().remarks ?? []).filter((/** @type {any} */ remark) => remark.pane === desk.index())
    state.rows = steadyRows(
      rowsOf(pane(), remarks, { selected: selectedRows(), pointed: desk.pointed(), open: desk.open(), further: further === desk.open() }),
    )
    state.hasNoRows = state.rows.length === 0 && state.hasPicture
    state.bank = steadyBank(bankOf(pane()))
    state.count = countOf(pane())
  }

  /** @param {string} row @returns {LabelPart | undefined} */
  const labelOfRow = row => {
    const target = targetOf(pane(), row)
    return labelOf(pane(), target ? (namedBy(target)[0] ?? '') : row)
  }

  return {
    show,
    page: {
      rows: [],
      bank: [],
      count: '',
      hasNoRows: false,
      /** @param {Event} event */
      playRow(event) {
        play(labelOfRow(rowOf(event)))
      },
      addDistractor() {
        const {
          pane: changed,
          labels: [label],
        } = addLabels(pane(), [{ text: '' }])
        desk.mark([label])
        change(changed)
        focusRow(label)
      },
      /** @param {Event} event */
      point(event) {
        picture.point(rowOf(event))
      },
      unpoint() {
        picture.point(null)
      },
      /** @param {Event} event */
      select(event) {
        if (!selectedRows().includes(rowOf(event)))
          select([shapesOf(pane()).find(shape => shape.row === rowOf(event))?.key ?? rowOf(event)], true)
      },
      /** @param {Event} event */
      toggle(event) {
        desk.toggle(rowOf(event))
      },
      /** @param {Event} event */
      toggleFurther(event) {
        further = further === rowOf(event) ? null : rowOf(event)
        show()
      },
      /** @param {Event} event */
      rename(event) {
        const row = rowOf(event)
        const target = targetOf(pane(), row)
        if (event.type === 'input') desk.state().isTyping = true
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
        if (target && kinds[target.kind].isList) desk.state().rename(event)
      },
      /** @param {Event} event */
      next(event) {
        desk.state().finishRename(event)
        const isTarget = targetOf(pane(), rowOf(event)) !== undefined
        select([])
        if (!isTarget && valueOf(event).trim()) desk.state().addDistractor()
        else picture.focus()
        announce(phrase('bench.clickTheNextSpotOrPress'))
      },
      /** Many lines become many labels; what is too long is cut, and said. @param {ClipboardEvent} event */
      pasteInto(event) {
        const lines = (event.clipboardData?.getData('text/plain') ?? '')
          .split(/\r?\n/)
          .map(line => line.trim())
          .filter(Boolean)
        const most = Number(desk.data.longestLabel)
        const longest = Math.max(0, ...lines.map(line => line.length))
        if (longest > most) desk.state().problem = phrase('bench.longLabel', { most, longest })
        if (lines.length < 2) return
        event.preventDefault()
        if (pane().labels.length + lines.length > limits.mostLabels) {
          desk.state().problem = phrase('bench.longList', { lines: lines.length, most: limits.mostLabels })
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
        const row = rowOf(event)
        const text = desk.state().rows.find((/** @type {any} */ r) => r.key === row)?.text
        if (selectedRows().includes(row)) desk.mark([])
        change(remove(pane(), row))
        announce(phrase('bench.rowDeleted', { row: text || phrase('bench.theRow') }))
      },
      /** @param {KeyboardEvent} event */
      toPicture(event) {
        event.stopPropagation()
        picture.focus()
      },
      /** @param {Event} event */
      typeField(event) {
        const { name } = /** @type {HTMLElement} */ (event.currentTarget).dataset
        setField(desk, rowOf(event), name ?? '', valueOf(event), `${rowOf(event)} ${name}`)
      },
      /** Enter in a field of the details: on to the picture. @param {Event} event */
      leaveField(event) {
        desk.state().changeField(event)
        select([])
        picture.focus()
      },
      /** @param {Event} event */
      changeField(event) {
        const field = /** @type {HTMLInputElement} */ (event.currentTarget)
        trySetting(desk, field, () =>
          setField(desk, rowOf(event), field.dataset.name ?? '', field.type === 'checkbox' ? field.checked : field.value, null),
        )
      },
    },
  }
}

/**
 * Says so when what was typed can't stand in a field, and shows what stands.
 * @param {import('./desk.js').Desk} desk @param {HTMLInputElement} field @param {() => void} set
 */
export function trySetting(desk, field, set) {
  const [before, was] = [desk.doc(), field.dataset.value]
  set()
  if (desk.doc() !== before || was === undefined || field.value === was) return
  desk.state().problem = phrase('bench.doesNotFit', { value: field.value })
  field.value = was
}

/**
 * One field of a row's details.
 * @param {import('./desk.js').Desk} desk @param {string} row @param {string} name @param {any} value @param {string | null} step
 */
export function setField({ pane, change }, row, name, value, step) {
  if (row === 'scale') return change(setScale(pane(), name, value), step)
  const target = targetOf(pane(), row)
  if (target) return change(kinds[target.kind].set(pane(), target, name, value), step)
  change(setLabel(pane(), row, name.slice(6), value), step)
}
