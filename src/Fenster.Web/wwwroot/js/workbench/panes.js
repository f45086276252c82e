// The panes as a window lattice: a cell each, to go to, add, copy, move and delete.

import { phrase } from '../language.js'
import { addPane, duplicatePane, movePane, removePane } from './document.js'
import { steady } from './steady.js'

/** @param {import('./desk.js').Desk} desk @returns {import('./desk.js').Part} */
export function panesPart(desk) {
  const { doc, changeDocument, goTo, announce } = desk
  const at = desk.index
  const steadyPanes = steady(/** @type {'key'} */ ('key'))
  return {
    show() {
      const state = desk.state()
      const count = doc().panes.length
      state.panes = steadyPanes(
        doc().panes.map((pane, i) => ({
          key: pane.id,
          number: String(i + 1),
          index: String(i),
          name: phrase('bench.pictureRows', { number: i + 1, all: count, count: pane.targets.length }),
          picture: pane.picture ? `/media/${pane.picture.media}/480` : '',
          current: i === at() ? 'page' : null,
          classes: `cell ${i === at() ? 'cell-current' : ''}`,
          remarks: (desk.says().remarks ?? []).some((/** @type {any} */ remark) => remark.pane === i && remark.blocks) ? 'needs work' : '',
        })),
      )
      state.isFirst = at() === 0
      state.isLast = at() >= count - 1
      state.isOnlyPane = count < 2
      state.paneOrder = doc().paneOrder ?? 'asListed'
    },
    page: {
      panes: [],
      isFirst: true,
      isLast: true,
      isOnlyPane: true,
      paneOrder: 'asListed',
      /** @param {Event} event */
      goToPane(event) {
        goTo(Number(/** @type {HTMLElement} */ (event.currentTarget).dataset.index))
      },
      newPane() {
        changeDocument(addPane(doc(), at()))
        goTo(at() + 1)
        announce(phrase('bench.aNewPictureWasAddedAfter'))
      },
      copyPane() {
        changeDocument(duplicatePane(doc(), at()))
        goTo(at() + 1)
        announce(phrase('bench.thePictureWasCopiedWithAll'))
      },
      earlier() {
        changeDocument(movePane(doc(), at(), at() - 1))
        goTo(at() - 1)
      },
      later() {
        changeDocument(movePane(doc(), at(), at() + 1))
        goTo(at() + 1)
      },
      deletePane() {
        changeDocument(removePane(doc(), at()))
        goTo(Math.max(0, at() - 1))
        announce(phrase('bench.thePictureWasDeletedWithAll'))
      },
      /** @param {Event} event */
      setPaneOrder(event) {
        changeDocument({ ...doc(), paneOrder: /** @type {HTMLSelectElement} */ (event.currentTarget).value })
      },
    },
  }
}
