// The proof as a list, with what it concerns and what one click mends.

import { listed, phrase } from '../language.js'
import { kinds } from './kinds/all.js'
import { remarkLine } from './ledger.js'
import { mended } from './mending.js'
import { labelOf, rowOfLabel, targetOf } from './pane.js'
import { steady } from './steady.js'

/** @param {import('./desk.js').Desk} desk @returns {import('./desk.js').Part} */
export function proofPart(desk) {
  const { pane, doc, change, announce } = desk
  const steadyRemarks = steady(/** @type {'id'} */ ('id'))
  /** @param {import('./ledger.js').Remark} remark @returns {string} What the row that it concerns reads. */
  const nameOfRow = ({ pane: index, about }) => {
    const on = doc().panes[index]
    if (!on || !about) return ''
    const target = targetOf(on, about)
    return (target ? kinds[target.kind].main(target, on).text : labelOf(on, about)?.text) ?? ''
  }
  /** Goes to the pane that a remark is about. @param {Event} event @returns {DOMStringMap} What the remark's button says of it. */
  const follow = event => {
    const { dataset } = /** @type {HTMLElement} */ (event.currentTarget)
    if (Number(dataset.pane) !== desk.index()) desk.goTo(Number(dataset.pane))
    return dataset
  }

  return {
    show() {
      const state = desk.state()
      /** @type {import('./ledger.js').Remark[]} */
      const remarks = desk.says().remarks ?? []
      const grave = remarks.filter(remark => remark.weight !== 'advice').length
      state.remarks = steadyRemarks(
        remarks.map(remark => ({
          ...remarkLine(remark),
          where: listed([doc().panes.length > 1 ? phrase('bench.pictureNumber', { number: remark.pane + 1 }) : '', nameOfRow(remark)]),
        })),
      )
      state.proof = grave === 0 ? phrase('bench.proofClear') : phrase('bench.proofOpen', { number: grave })
      state.proofClass = remarks.some(remark => remark.blocks) ? 'light-blocks' : grave > 0 ? 'light-warns' : 'light-clear'
      state.guess = desk.says().guess ?? ''
    },
    page: {
      remarks: [],
      proof: '',
      proofClass: '',
      guess: '',
      isProofOpen: false,
      toggleProof() {
        desk.state().isProofOpen = !desk.state().isProofOpen
      },
      /** @param {Event} event */
      mend(event) {
        const { mend = '', about = '' } = follow(event)
        if (mend === 'writeAltText') {
          // It stands where the tools of what is selected would.
          desk.select([])
          requestAnimationFrame(() => document.getElementById('alt-text')?.focus())
          return
        }
        if (mend === 'addDistractor') return desk.state().addDistractor()
        change(mended(pane(), mend, about))
        announce(phrase('bench.mendedCtrlZGoesBack'))
      },
      /** @param {Event} event */
      showRemark(event) {
        const { about = '' } = follow(event)
        const row = targetOf(pane(), about) ? about : rowOfLabel(pane(), about)
        desk.select([row])
        desk.focusRow(row)
      },
    },
  }
}
