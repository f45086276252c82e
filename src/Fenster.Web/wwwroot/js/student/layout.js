// Where the bank lies: beside the picture or below it, whichever leaves the picture larger. docs/student-layout.md says it in words.

/** The bar of tools, and the room that the mat keeps around the picture. */
const bar = 46
const around = { beside: 28, below: 12 }
/** Between labels, and around all of them. */
const [gap, edge] = [8, 20]

/**
 * @typedef {object} Room
 * @property {number} width Of the board, in CSS pixels.
 * @property {number} height
 * @property {number} ratio Width of the picture over its height.
 * @property {number} row Height of a row of labels.
 * @property {number[]} labels Their widths.
 * @property {number} rem
 *
 * @typedef {object} Arrangement
 * @property {boolean} isBelow
 * @property {boolean} isLow Whether the board is so low that the tools stand beside the picture.
 * @property {number} bankWidth Where it lies beside.
 * @property {number} pictureHeight Where the bank lies below.
 * @property {number} rows Of labels, where the bank lies below.
 * @property {boolean} fits Whether these rows hold all of them.
 */

/** @param {Room} room @returns {Arrangement} */
export function arrange({ width, height, ratio, row, labels, rem }) {
  const isLow = height < 340
  const bankWidth = Math.round(Math.min(width * 0.4, Math.max(12.5 * rem, Math.min(width * 0.25, 22 * rem))))
  const across = width - bankWidth - around.beside - (isLow ? 50 : 0)
  const beside = Math.min(across, (height - around.beside - (isLow ? 0 : bar)) * ratio)
  const free = height - bar - around.below - edge
  const below = Math.min(width - around.below, (free - row) * ratio)
  // Beside shows more labels at once, and the ways are shorter.
  const isBelow = below > beside * (width > height ? 1.12 : 1)
  const needed = rowsOf(labels, width - 20)
  const possible = Math.max(1, Math.floor((free - below / ratio) / row))
  const rows = Math.min(needed, possible)
  const pictureHeight = Math.floor(Math.min(below / ratio + around.below, free - rows * row + around.below))
  return { isBelow, isLow: isLow && !isBelow, bankWidth, pictureHeight, rows, fits: needed <= possible }
}

/** How many rows labels fill one after the other. @param {number[]} labels Their widths. @param {number} width Of a row. */
function rowsOf(labels, width) {
  let [rows, used] = [1, 0]
  for (const label of labels) {
    if (used > 0 && used + label > width) [rows, used] = [rows + 1, 0]
    used += label + gap
  }
  return rows
}

/**
 * Keeps a screen arranged as its room and its labels are.
 * @param {HTMLElement} work
 * @param {{board: HTMLElement, bank: HTMLElement}} parts
 * @param {() => {ratio: number, isResult: boolean} | null} shown Null where there is no picture.
 */
export function keepArranged(work, { board, bank }, shown) {
  const arrangeNow = () => {
    const facts = shown()
    const rem = parseFloat(getComputedStyle(document.documentElement).fontSize)
    const list = /** @type {HTMLElement | null} */ (bank.querySelector('.bank-labels'))
    const labels = /** @type {HTMLElement[]} */ ([...(list?.querySelectorAll('.label') ?? [])])
    const row = Math.max(44, ...labels.map(label => Math.min(label.offsetHeight, 110))) + gap
    const room = {
      width: board.clientWidth,
      height: board.clientHeight,
      ratio: facts?.ratio ?? 1.4,
      // Of a result there is a list, which is worth a third of an upright screen.
      row: facts?.isResult ? board.clientHeight * 0.4 : row,
      labels: labels.map(label => Math.min(naturalWidth(label), board.clientWidth * 0.78)),
      rem,
    }
    if (room.width === 0) return
    const { isBelow, isLow, bankWidth, pictureHeight, rows, fits } = arrange(room)
    work.classList.toggle('bank-below', isBelow)
    work.classList.toggle('tools-beside', isLow)
    bank.classList.toggle('fits', fits)
    // Registered in student.css as of these elements alone: what lies in them is not styled anew.
    board.style.setProperty('--bank-width', `${bankWidth}px`)
    board.style.setProperty('--picture-height', `${pictureHeight}px`)
    list?.style.setProperty('--bank-rows', String(rows))
    more()
  }

  /** Says on which side labels are out of sight. */
  const more = () => {
    const list = bank.querySelector('.bank-labels')
    const [at, all, seen] = !list
      ? [0, 0, 0]
      : list.scrollWidth > list.clientWidth + 1
        ? [Math.abs(list.scrollLeft), list.scrollWidth, list.clientWidth]
        : [list.scrollTop, list.scrollHeight, list.clientHeight]
    bank.classList.toggle('more-before', at > 1)
    bank.classList.toggle('more-after', at + seen < all - 1)
    const button = document.getElementById('all-labels')
    if (button) button.hidden = !bank.classList.contains('open') && all <= seen + 1
  }
  bank.addEventListener('scroll', more, { capture: true, passive: true })
  new ResizeObserver(arrangeNow).observe(board)
  return arrangeNow
}

/** Of a label in one line, however it is laid at this moment. @param {HTMLElement} label */
function naturalWidth(label) {
  const { paddingLeft, paddingRight } = getComputedStyle(label)
  const inside = [...label.children].reduce((sum, child) => sum + child.scrollWidth + 4, 0)
  return inside + parseFloat(paddingLeft) + parseFloat(paddingRight)
}
