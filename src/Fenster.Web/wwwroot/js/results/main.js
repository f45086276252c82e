// One student's picture with its marks.

import { createBoard } from '../scene/board.js'
import { createStage } from '../scene/stage.js'

const mat = document.getElementById('mat')
if (mat) {
  const view = /** @type {StudentView} */ (JSON.parse(mat.dataset.view ?? ''))
  const pane = { ...view.panes[0], ...view.work.panes[0] }
  createBoard(createStage(mat, pane.picture), pane).draw(pane)
  for (const button of mat.querySelectorAll('button')) button.tabIndex = -1
}
