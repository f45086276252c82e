// The teacher's view of what students made, piece by piece.

import { showPiece } from '../student/piece.js'

for (const box of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('[data-piece]')))
  showPiece(box, JSON.parse(box.dataset.piece ?? ''))
