// What is drawn again only when it would look otherwise: whoever is just pressing a button must find it there when they let go.

/**
 * @template T
 * @param {(facts: T) => void} draw Draws from the facts alone.
 * @returns {(facts: T) => void}
 */
export function whenChanged(draw) {
  let before = ''
  return facts => {
    const now = JSON.stringify(facts)
    if (now === before) return
    before = now
    draw(facts)
  }
}
