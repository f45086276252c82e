// A spot's question, large enough for the last row: what is asked, what there is to choose from, and the answer once it is revealed.

import { cardOf } from '../scene/face.js'
import { setWords } from '../scene/words.js'
import { badge } from '../scene/shapes.js'
import { answerAt, askedAt } from './revealed.js'

/** @param {string} tag @param {string} className @param {string} text */
export function words(tag, className, text) {
  const element = document.createElement(tag)
  element.className = className
  element.dir = 'auto'
  setWords(element, text)
  return element
}

/** Whether a spot opens a card: its question doesn't stand on the picture. @param {PaneView} shown @param {Sent.BoardSpot} spot */
export function opensCard(shown, spot) {
  const target = shown.targets.find(known => known.id === spot.name)
  return target !== undefined && ['choosing', 'answering', 'telling', 'locked'].includes(target.kind)
}

/**
 * @param {PaneView} shown
 * @param {Sent.BoardSpot} spot
 * @param {{isRevealed: boolean, picks?: string[], pick?: (options: string[]) => void}} how
 * @returns {HTMLElement[]}
 */
export function questionAt(shown, spot, { isRevealed, picks = [], pick }) {
  const target = shown.targets.find(known => known.id === spot.name)
  if (!target) return []
  /** @type {HTMLElement[]} */
  const parts = []
  if (target.kind === 'telling') {
    if (target.prompt) parts.push(words('h2', 'question-asks', target.prompt))
    if (target.face) parts.push(cardOf(target.face, target.text))
    if (target.text) parts.push(words('p', 'question-text', target.text))
  } else parts.push(words('h2', 'question-asks', askedAt(shown, spot)))
  if (target.kind === 'choosing') {
    const list = document.createElement('ul')
    list.className = 'question-options'
    for (const option of target.options) {
      const item = document.createElement('li')
      const button = document.createElement('button')
      button.type = 'button'
      const isRight = isRevealed && (spot.key?.picks.includes(option.id) ?? false)
      button.className = `question-option ${isRight ? 'of-key' : ''}`
      button.setAttribute('aria-pressed', String(picks.includes(option.id)))
      button.append(words('span', '', option.text), ...(isRight ? [badge('right')] : []))
      button.disabled = isRevealed || !pick
      button.addEventListener('click', () => {
        const without = picks.filter(other => other !== option.id)
        pick?.(target.multiple ? (without.length < picks.length ? without : [...picks, option.id]) : [option.id])
      })
      item.append(button)
      list.append(item)
    }
    parts.push(list)
  } else if (isRevealed && target.kind !== 'telling') {
    const answer = answerAt(shown, spot)
    if (answer) parts.push(words('p', 'question-answer', answer))
  }
  if (isRevealed && spot.explanation) parts.push(words('p', 'question-why', spot.explanation))
  return parts
}
