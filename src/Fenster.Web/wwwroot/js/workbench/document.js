// Edits of the whole activity: its panes and its rules. Each takes a document and returns a new one.

import { readsTheSame } from '../same.js'
import { emptyPane } from './pane.js'

/** @param {ActivityDocument} doc @param {number} index @returns {PanePart} */
export const paneAt = (doc, index) => doc.panes[index] ?? emptyPane('pane-1')

/** @param {ActivityDocument} doc @param {number} index @param {PanePart} pane @returns {ActivityDocument} */
export const withPane = (doc, index, pane) => ({
  ...doc,
  panes: doc.panes.length === 0 ? [pane] : doc.panes.map((other, i) => (i === index ? pane : other)),
})

/** @param {ActivityDocument} doc */
const freshPaneId = doc => `pane-${Math.max(0, ...doc.panes.map(pane => Number(/-(\d+)$/.exec(pane.id)?.[1] ?? 0))) + 1}`

/** @param {ActivityDocument} doc @param {number} after @param {Partial<PanePart>} [more] @returns {ActivityDocument} */
export const addPane = (doc, after, more = {}) => ({
  ...doc,
  panes: doc.panes.toSpliced(after + 1, 0, { ...emptyPane(freshPaneId(doc)), ...more }),
})

/** @param {ActivityDocument} doc @param {number} index @returns {ActivityDocument} With all that is on it. */
export const duplicatePane = (doc, index) => addPane(doc, index, { ...structuredClone(doc.panes[index]), id: freshPaneId(doc) })

/** @param {ActivityDocument} doc @param {number} index @returns {ActivityDocument} */
export const removePane = (doc, index) => ({
  ...doc,
  panes: doc.panes.length > 1 ? doc.panes.toSpliced(index, 1) : [emptyPane(freshPaneId(doc))],
})

/** @param {ActivityDocument} doc @param {number} index @param {number} to @returns {ActivityDocument} */
export function movePane(doc, index, to) {
  const panes = doc.panes.toSpliced(index, 1)
  return { ...doc, panes: panes.toSpliced(to, 0, doc.panes[index]) }
}

const groups = /** @type {const} */ (['check', 'reveal', 'score'])

/** The value of a word in the rules' sentences, as the document has it. @param {string} path @param {string} text */
function valueIn(path, text) {
  if (path === 'check.checks') return text === '' ? null : Number(text)
  if (!path.startsWith('score.') || path === 'score.manner') return text
  const number = text.trim() === '' ? null : Number(text.replace(',', '.'))
  if (path === 'score.maximumGrade' || path === 'score.passMark') return number
  return path === 'score.tryCost' ? Math.min(1, Math.max(0, (number ?? 0) / 100)) : Math.max(0, number ?? 0)
}

/**
 * One word of the rules changed, for the activity or for one pane. A pane that did not differ there goes with its activity.
 * @param {ActivityDocument} doc @param {number | null} index Of the pane; null for the activity. @param {string} path @param {string} text
 * @returns {ActivityDocument}
 */
export function withWord(doc, index, path, text) {
  if (path === 'purpose') return { ...doc, purpose: text }
  const value = valueIn(path, text)
  if (typeof value === 'number' && !Number.isFinite(value)) return doc
  const [group, field] = /** @type {['check' | 'reveal' | 'score', string]} */ (path.split('.'))
  /** @param {RulesPart | null | undefined} rules @returns {RulesPart} */
  const changed = rules => ({ ...rules, [group]: { ...rules?.[group], [field]: value } })
  if (index !== null) {
    const pane = doc.panes[index]
    return withPane(doc, index, { ...pane, rules: changed(pane.rules ?? doc.rules) })
  }
  const before = doc.rules?.[group]?.[field]
  const panes = doc.panes.map(pane =>
    pane.rules && readsTheSame(pane.rules[group]?.[field], before) ? { ...pane, rules: changed(pane.rules) } : pane,
  )
  return { ...doc, rules: changed(doc.rules), panes }
}

/**
 * A pane's word set back to that of its activity.
 * @param {ActivityDocument} doc
 * @param {number} index
 * @param {string} path
 * @returns {ActivityDocument}
 */
export function withoutWord(doc, index, path) {
  const pane = doc.panes[index]
  if (!pane.rules) return doc
  const [group, field] = /** @type {['check' | 'reveal' | 'score', string]} */ (path.split('.'))
  const rules = { ...pane.rules, [group]: { ...pane.rules[group], [field]: doc.rules?.[group]?.[field] } }
  const isSame = groups.every(name => readsTheSame(rules[name], doc.rules?.[name]))
  return withPane(doc, index, { ...pane, rules: isSame ? null : rules })
}
