// One student's pictures with their marks.

import { createBoard } from '../scene/board.js'
import { createSpots } from '../scene/spots.js'
import { createStage } from '../scene/stage.js'
import { createMatching } from '../student/matching.js'
import { holdablesOf, paneOf, pinnedOf } from '../student/work.js'

const panes = document.getElementById('panes')
if (panes) {
  const view = /** @type {StudentView} */ (JSON.parse(panes.dataset.view ?? ''))
  view.panes.forEach((_, i) => panes.append(...drawn(paneOf(view, view.work, i))))
  for (const control of panes.querySelectorAll('button, input, textarea')) /** @type {HTMLElement} */ (control).tabIndex = -1
}

/** @param {PaneView} pane @returns {HTMLElement[]} */
function drawn(pane) {
  const parts = []
  if (pane.picture) {
    const mat = document.createElement('div')
    mat.className = 'mat'
    parts.push(mat)
    // The mat has its size once it is on the page.
    requestAnimationFrame(() => {
      if (!pane.picture) return
      const stage = createStage(mat, pane.picture)
      createBoard(stage, pane).draw(pane, { pinned: pinnedOf(pane), holdables: holdablesOf(pane) })
      createSpots(stage, { open() {}, hover() {}, type() {} }).draw(pane, false)
    })
  }
  if (pane.targets.some(target => target.kind === 'linking')) {
    const panel = document.createElement('div')
    panel.className = 'matchings'
    parts.push(panel)
    createMatching(panel, { pane: () => pane, make() {}, say() {} }).draw()
  }
  return parts
}
