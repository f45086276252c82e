// The rules as sentences, in which every choice is a word that can be changed: for the activity, for one picture, and in the open row
// for its target.

import { get } from '../http.js'
import { withWord, withoutWord } from './document.js'
import { targetOf } from './pane.js'
import { setField, trySetting } from './rows.js'
import { steady } from './steady.js'

/**
 * @typedef {{text: string, choice: {path: string, value: string, options: {value: string, text: string}[], usual: string | null,
 *   isOwn: boolean} | null}} Word As the server words it.
 */

/** @param {import('./desk.js').Desk} desk @returns {import('./desk.js').Part} */
export function rulesPart(desk) {
  const { doc, changeDocument } = desk
  const steadyRules = steady(/** @type {'group'} */ ('group'))
  const steadyWords = steady(/** @type {'id'} */ ('id'))
  /** The groups that are read whole; the others in one line. @type {Set<string>} */
  const open = new Set()
  const paneIndex = () => (desk.state().isPaneRules && doc().panes.length > 1 ? desk.index() : null)

  const showRules = () => {
    const state = desk.state()
    const says = desk.says()
    state.hasManyPanes = doc().panes.length > 1
    const rules = (paneIndex() === null ? says.rules : says.paneRules?.[desk.index()]) ?? says.rules
    if (!rules) return
    state.rules = steadyRules(
      ['check', 'reveal', 'score'].map(group => ({
        group,
        title: titles[group],
        words: line(rules[group], group),
        isOpen: open.has(group),
        classes: open.has(group) ? 'rule rule-open' : 'rule',
      })),
    )
  }

  /** The open row, and what the server said when its words were asked for. */
  let asked = { row: '', says: desk.says() }
  const showRow = async () => {
    const row = desk.open()
    const now = {
      row: row && targetOf(desk.pane(), row) ? `pane=${desk.index()}&target=${encodeURIComponent(row)}` : '',
      says: desk.says(),
    }
    if (now.row === asked.row && now.says === asked.says) return
    if (now.row !== asked.row) showWords([])
    asked = now
    if (!now.row) return
    const answer = await get(`${desk.url}?handler=Words&${now.row}`)
    if (answer.ok && asked === now) showWords(line(answer.body, 'row'))
  }
  /** @param {ReturnType<typeof line>} words */
  // What is being typed in one of them stays.
  const showWords = words => Object.assign(desk.state(), { rowWords: steadyWords(words), hasRowWords: words.length > 0 })

  return {
    show() {
      showRules()
      showRow()
    },
    page: {
      rules: [],
      isPaneRules: false,
      hasManyPanes: false,
      rowWords: [],
      hasRowWords: false,
      /** @param {Event} event */
      toggleRule(event) {
        const group = /** @type {HTMLElement} */ (event.currentTarget).dataset.group ?? ''
        if (!open.delete(group)) open.add(group)
        showRules()
      },
      /** @param {Event} event */
      setRulesOf(event) {
        desk.state().isPaneRules = /** @type {HTMLSelectElement} */ (event.currentTarget).value === 'pane'
        showRules()
      },
      /** @param {Event} event */
      setWord(event) {
        const field = /** @type {HTMLInputElement} */ (event.currentTarget)
        trySetting(desk, field, () => set(field, field.value))
      },
      /** @param {Event} event */
      unsetWord(event) {
        const button = /** @type {HTMLElement} */ (event.currentTarget)
        if (rowAround(button)) return set(button, button.dataset.usual ?? '')
        const index = paneIndex()
        if (index !== null) changeDocument(withoutWord(doc(), index, button.dataset.path ?? ''))
      },
    },
  }

  /** @param {HTMLElement} word @param {string} value */
  function set(word, value) {
    const path = word.dataset.path ?? ''
    const row = rowAround(word)
    if (row) setField(desk, row, path, value === 'true' || (value === 'false' ? false : value), null)
    else changeDocument(withWord(doc(), paneIndex(), path, value))
  }
}

/** @param {HTMLElement} word @returns {string | undefined} The ledger's row whose word it is. */
const rowAround = word => /** @type {HTMLElement | null} */ (word.closest('[data-row]'))?.dataset.row

/** @param {Word[]} words @param {string} group */
const line = (words, group) =>
  words.map(({ text, choice }, i) => ({
    id: `${group}-${i}`,
    text,
    isText: !choice,
    isChoice: (choice?.options.length ?? 0) > 0,
    isNumber: choice?.options.length === 0,
    path: choice?.path ?? '',
    value: choice?.value ?? '',
    usual: choice?.usual ?? '',
    name: nameOf(choice?.path ?? ''),
    hint: choice?.value === '' ? text : '',
    classes: choice?.isOwn ? 'word word-own' : 'word',
    isOwn: choice?.isOwn ?? false,
    backName: `Set back: ${nameOf(choice?.path ?? '')}`,
    options: (choice?.options ?? []).map(option => ({ ...option, isChosen: option.value === choice?.value })),
  }))

/** @param {string} path */
const nameOf = path => names[path] ?? names[path.split('.')[0]] ?? ''

const titles = /** @type {Record<string, string>} */ ({ check: 'Check', reveal: 'Reveal', score: 'Score' })
const names = /** @type {Record<string, string>} */ ({
  'check.checks': 'How often work can be checked',
  'check.wrong': 'What happens to a wrong label',
  'check.right': 'What happens to a right label',
  'reveal.marks': 'When right and wrong show',
  'reveal.score': 'When the score shows',
  'reveal.key': 'When the right places show',
  'reveal.feedback': 'When feedback shows',
  'reveal.explanation': 'When explanations show',
  'score.manner': 'How points are given',
  'score.wrongCost': 'Points that a wrong one costs',
  'score.tryCost': 'Per cent that each further try costs',
  'score.maximumGrade': 'Best grade',
  'score.passMark': 'Pass mark',
  purpose: 'What it is for',
  points: 'Points',
  credit: 'Per cent that the label earns',
  spelling: 'Per cent that the answer earns',
  capacity: 'How many labels it takes',
  slack: 'How far off still counts',
  'band.slack': 'How far off still earns part',
  'band.credit': 'Per cent that is earned there',
  needed: 'How many to mark',
  'rules.ignoreCapitals': 'Capitals',
  'rules.ignoreAccents': 'Accents',
  'rules.ignorePunctuation': 'Hyphens and dots',
  'rules.forgiveSlips': 'Small slips',
  'answer.within': 'How far off still counts',
  'answer.withinShare': 'How far off still counts, in per cent',
  scored: 'What opening it earns',
  want: 'What it wants',
  descriptions: 'Who reads the descriptions',
  is: 'Exactly or not',
  number: 'How many',
  from: 'Least total',
  to: 'Greatest total',
})
