// The moves that wait on a device to be sent: plain lists, and what is done with them.

/** The most bytes of one request: far below what the server takes, and little enough for a slow line. */
export const MOST_BYTES = 200_000
const MOST_MOVES = 200

/**
 * The moves with one more. What was typed at a place since its pane was last checked is typed over by what is typed there now: of words
 * that nobody has been sent, the last are enough.
 * @param {MoveSent[]} moves
 * @param {MoveSent} made
 * @param {ReadonlySet<string>} flying Keys of those that are on their way, and have to stay as they are.
 * @returns {MoveSent[]}
 */
export function withMove(moves, made, flying) {
  const { pane, move } = made
  if (move.kind !== 'typeText') return [...moves, made]
  const checked = moves.findLastIndex(other => other.pane === pane && other.move.kind === 'pressCheck')
  const isOver = (/** @type {MoveSent} */ other, /** @type {number} */ i) =>
    i > checked && other.pane === pane && other.move.kind === 'typeText' && other.move.target === move.target && !flying.has(other.key)
  return [...moves.filter((other, i) => !isOver(other, i)), made]
}

/**
 * The first of the moves that go into one request: at least one.
 * @param {MoveSent[]} moves
 * @param {number} [most] Bytes.
 */
export function batchOf(moves, most = MOST_BYTES) {
  let [bytes, count] = [0, 0]
  for (const move of moves.slice(0, MOST_MOVES)) {
    bytes += new TextEncoder().encode(JSON.stringify(move)).length + 1
    if (count > 0 && bytes > most) break
    count += 1
  }
  return moves.slice(0, count)
}

/**
 * What is stored for all tabs of a device, after one of them has got more and is rid of others: what another tab put there stays.
 * @param {MoveSent[]} stored
 * @param {MoveSent[]} own All that wait in this tab.
 * @param {ReadonlySet<string>} gone Keys of those that this tab has done with.
 */
export function merged(stored, own, gone) {
  const known = new Set(own.map(({ key }) => key))
  return [...stored.filter(({ key }) => !gone.has(key) && !known.has(key)), ...own]
}
