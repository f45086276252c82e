// Where everybody's pins or marks of one target lie, drawn together: filled where they earn something.

import { svg } from '../scene/shapes.js'
import { createStage } from '../scene/stage.js'

const mat = /** @type {HTMLElement} */ (document.getElementById('points'))
const { picture, points } = /** @type {{picture: Picture, points: {at: Point, credit: number}[]}} */ (JSON.parse(mat.dataset.points ?? ''))
const stage = createStage(mat, picture)
for (const { at, credit } of points)
  stage.drawing.append(
    svg('circle', { class: `everybodys ${credit === 1 ? 'earned' : credit > 0 ? 'in-part' : 'not-earned'}`, cx: at.x, cy: at.y, r: 8 }),
  )
