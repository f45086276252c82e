// The workbench: one document, seen as picture and as ledger, and saved as it changes. Each thought is a part of its own.

import { bankPart } from './bank.js'
import { createDesk } from './desk.js'
import { makingPart } from './making.js'
import { paneWordsPart } from './pane-words.js'
import { matchBenchPart } from './match-bench.js'
import { panesPart } from './panes.js'
import { picturePart } from './picture.js'
import { proofPart } from './proof.js'
import { readingPart } from './reading.js'
import { rowsPart } from './rows.js'
import { rulesPart } from './rules.js'
import { savingPart } from './saving.js'
import { selectedPart } from './selected.js'
import { settingsPart } from './settings.js'
import { sheetPart } from './sheet.js'
import { stepsPart } from './steps.js'
import { swapPart } from './swap.js'
import { takingPart } from './taking.js'
import { tracingPart } from './tracing.js'
import { reads, words } from './typing.js'

function workbench() {
  const desk = createDesk(/** @type {HTMLElement} */ (document.getElementById('workbench')))
  const saving = savingPart(desk)
  const picture = picturePart(desk, () => ({ ...making, showRows: rows.show }))
  const tracing = tracingPart(desk, picture, saving.flush)
  const making = makingPart(desk, picture, tracing)
  const rows = rowsPart(desk, picture, making.waitForPlaces)
  const swap = swapPart(desk)
  const taking = takingPart(desk, swap.offer, making.waitForPlaces)
  const parts = [
    paneWordsPart(desk),
    stepsPart(desk),
    panesPart(desk),
    proofPart(desk),
    rulesPart(desk),
    selectedPart(desk, picture),
    settingsPart(desk),
    swap,
    taking,
    matchBenchPart(desk, taking.takeFaces),
    bankPart(desk, picture),
    rows,
    making,
    tracing,
    picture,
    readingPart(desk, picture),
    sheetPart(desk, making.waitForPlaces),
    saving,
  ]
  // Getters stay getters.
  const page = Object.defineProperties({}, Object.assign({}, ...parts.map(part => Object.getOwnPropertyDescriptors(part.page))))
  return Object.assign(page, {
    init() {
      if (saving.isOutrun()) return location.reload()
      desk.begin(this, parts, saving.save)
    },
  })
}

document.addEventListener('alpine:init', () => {
  Alpine.directive('reads', reads)
  Alpine.directive('words', words)
  Alpine.data('workbench', workbench)
})
