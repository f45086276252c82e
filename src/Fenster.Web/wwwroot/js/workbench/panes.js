// The panes as a window lattice: a cell each, to go to, add, copy, move and delete.

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
          name: `Picture ${i + 1} of ${count}, ${pane.targets.length} rows`,
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
        announce('A new picture was added after this one.')
      },
      copyPane() {
        changeDocument(duplicatePane(doc(), at()))
        goTo(at() + 1)
        announce('The picture was copied with all its zones and labels.')
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
        announce('The picture was deleted with all that was on it. Ctrl+Z brings it back.')
      },
      /** @param {Event} event */
      setPaneOrder(event) {
        changeDocument({ ...doc(), paneOrder: /** @type {HTMLSelectElement} */ (event.currentTarget).value })
      },
    },
  }
}
