// What only some activities need is loaded only for those.

/**
 * @typedef {object} Parts
 * @property {typeof import('./cards.js').createCards} [createCards] Where a spot opens a card.
 * @property {typeof import('./matching.js').createMatching} [createMatching] Where something is matched.
 * @property {typeof import('./making.js').createMaking} [createMaking] Where a picture of one's own is made.
 */

const ofCards = new Set(['choosing', 'answering', 'locked', 'telling', 'concealed'])

/** @param {StudentView} view @returns {Promise<Parts>} */
export async function partsFor(view) {
  const kinds = new Set(view.panes.flatMap(pane => pane.targets.map(target => target.kind)))
  const [cards, matching, making] = await Promise.all([
    [...kinds].some(kind => ofCards.has(kind)) ? import('./cards.js') : {},
    kinds.has('linking') ? import('./matching.js') : {},
    kinds.has('making') ? import('./making.js') : {},
  ])
  return { ...cards, ...matching, ...making }
}
