// What all parts of the workbench work on: the document and its history, the pane that is shown, what is selected, pointed at and open.

import { readsTheSame } from '../same.js'
import { withUsualSizes } from './bench.js'
import { paneAt, withPane } from './document.js'
import { createHistory } from './history.js'
import { shapesOf } from './pane.js'

/** @typedef {ReturnType<typeof createDesk>} Desk */
/**
 * @typedef {object} Part One thought of the workbench.
 * @property {() => void} show Brings what the page shows of it up to date.
 * @property {() => void} [hear] The same where only what the server says of the draft is new.
 * @property {() => void} [listen] Once, when the page stands.
 * @property {object} page What it adds to the page: what is shown, and what buttons and fields do.
 */

/** @param {HTMLElement} root */
export function createDesk(root) {
  const data = root.dataset
  const history = createHistory(JSON.parse(data.document ?? ''))
  let says = JSON.parse(data.says ?? '{}')
  let index = Math.max(0, Number(new URLSearchParams(location.hash.slice(1)).get('pane') ?? 1) - 1 || 0)
  /** A pane that is shown and is no step yet. @type {PanePart | null} */
  let preview = null
  /** Keys of shapes on the picture, or of a row that has none. @type {string[]} */
  let selection = []
  /** @type {string | null} */
  let pointed = null
  /** The row whose details are open. @type {string | null} */
  let open = null
  /** @type {any} */
  let state
  /** @type {Part[]} */
  let parts = []
  /** @type {(doc: ActivityDocument) => void} */
  let save = () => {}

  const doc = () => history.present()
  const pane = () => paneAt(doc(), index)
  const selectedRows = () => [
    ...new Set([
      ...shapesOf(pane())
        .filter(shape => selection.includes(shape.key))
        .map(shape => shape.row),
      ...selection,
    ]),
  ]

  const show = () => {
    index = Math.min(index, Math.max(0, doc().panes.length - 1))
    parts.forEach(part => part.show())
  }

  /** @param {ActivityDocument} changed @param {string | null} [step] Changes in a row with the same name are one step. */
  const changeDocument = (changed, step = null) => {
    if (changed === doc()) return
    history.push(changed, step)
    show()
    save(doc())
  }

  return {
    root,
    data,
    url: `/activities/${data.activity}`,
    doc,
    pane,
    /** The pane as it is drawn. */
    shown: () => preview ?? pane(),
    index: () => index,
    state: () => state,
    says: () => says,
    selection: () => selection,
    selectedRows,
    pointed: () => pointed,
    open: () => open,
    canUndo: history.canUndo,
    canRedo: history.canRedo,
    show,
    changeDocument,

    /** @param {any} page The page as it reacts. @param {Part[]} all @param {(doc: ActivityDocument) => void} keep Saves a document. */
    begin(page, all, keep) {
      state = page
      parts = all
      save = keep
      parts.forEach(part => part.listen?.())
      show()
    },
    /** A change that changes nothing is no step. @param {PanePart} changed @param {string | null} [step] */
    change(changed, step = null) {
      const sized = withUsualSizes(pane(), changed)
      if (!readsTheSame(sized, pane())) changeDocument(withPane(doc(), index, sized), step && `${index} ${step}`)
    },
    /** Takes over a whole document; who does it sees to its being saved. @param {ActivityDocument} other */
    replace(other) {
      history.push(other)
      selection = []
      show()
    },
    /** @param {'undo' | 'redo'} way */
    step(way) {
      history[way]()
      preview = null
      const keys = shapesOf(pane()).map(shape => shape.key)
      selection = selection.filter(key => keys.includes(key))
      show()
      save(doc())
    },
    /** What the server says of the draft as it is saved; of a pane without rules in it, all is as it was said. @param {any} now */
    hear(now) {
      const isSame = (/** @type {{pane: number}} */ remark) => now.paneRules[remark.pane] === null
      says = {
        ...now,
        paneRules: now.paneRules.map((/** @type {any} */ rules, /** @type {number} */ i) => rules ?? says.paneRules[i]),
        remarks: [...now.remarks, ...says.remarks.filter(isSame)].sort((a, b) => a.pane - b.pane),
      }
      parts.forEach(part => (part.hear ?? part.show)())
    },

    /** Shows a pane that is not a step yet; null goes back to the one that is. @param {PanePart | null} changed */
    look(changed) {
      preview = changed
      show()
    },
    /** The same without anything but the picture drawn anew. @param {PanePart | null} changed */
    glance(changed) {
      preview = changed
    },
    isLooking: () => preview !== null,
    /** @param {number} to */
    goTo(to) {
      index = to
      preview = null
      selection = []
      open = null
      location.hash = `pane=${to + 1}`
      show()
    },
    /**
     * Before the change that makes it: what is made is selected, and its row may open.
     * @param {string[]} keys
     * @param {string | null} [row]
     */
    mark(keys, row = null) {
      selection = keys
      if (row) open = row
    },
    /** @param {string[]} keys @param {boolean} [fromLedger] Then the row is under the pointer, and must stay there. */
    select(keys, fromLedger = false) {
      if (keys.length === selection.length && keys.every(key => selection.includes(key))) return
      selection = keys
      show()
      if (keys.length > 0 && !fromLedger) root.querySelector(`[data-row="${selectedRows()[0]}"]`)?.scrollIntoView({ block: 'nearest' })
    },
    /** @param {string | null} row */
    toggle(row) {
      open = open === row ? null : row
      show()
    },
    /** @param {string | null} row @returns {boolean} Whether another one is pointed at now. */
    point(row) {
      if (pointed === row) return false
      pointed = row
      return true
    },
    /** @param {string} row */
    focusRow(row) {
      requestAnimationFrame(() => {
        const input = /** @type {HTMLInputElement | null} */ (
          root.querySelector(`[data-row="${row}"] .row-text`) ?? root.querySelector(`[data-row="${row}"] input`)
        )
        input?.focus()
        input?.select()
      })
    },
    /** @param {string} sentence */
    announce(sentence) {
      ;/** @type {HTMLElement} */ (document.getElementById('announcer')).textContent = sentence
    },
  }
}
