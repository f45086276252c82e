// The rules as sentences, in which every choice is a word that can be changed: for the activity, for one picture, and in the open row
// for its target.

import { phrase } from '../language.js'
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
    backName: phrase('bench.setBackNamed', { name: nameOf(choice?.path ?? '') }),
    options: (choice?.options ?? []).map(option => ({ ...option, isChosen: option.value === choice?.value })),
  }))

/** @param {string} path */
const nameOf = path => names[path] ?? names[path.split('.')[0]] ?? ''

const titles = /** @type {Record<string, string>} */ ({
  check: phrase('share.check'),
  reveal: phrase('share.reveal'),
  score: phrase('common.score'),
})
const names = /** @type {Record<string, string>} */ ({
  'check.checks': phrase('bench.howOftenWorkCanBeChecked'),
  'check.wrong': phrase('bench.whatHappensToAWrongLabel'),
  'check.right': phrase('bench.whatHappensToARightLabel'),
  'reveal.marks': phrase('bench.whenRightAndWrongShow'),
  'reveal.score': phrase('bench.whenTheScoreShows'),
  'reveal.key': phrase('bench.whenTheRightPlacesShow'),
  'reveal.feedback': phrase('bench.whenFeedbackShows'),
  'reveal.explanation': phrase('bench.whenExplanationsShow'),
  'score.manner': phrase('bench.howPointsAreGiven'),
  'score.wrongCost': phrase('bench.pointsThatAWrongOneCosts'),
  'score.tryCost': phrase('bench.perCentThatEachFurtherTry'),
  'score.maximumGrade': phrase('bench.bestGrade'),
  'score.passMark': phrase('bench.passMark'),
  purpose: phrase('bench.whatItIsFor'),
  points: phrase('bench.points'),
  whose: phrase('bench.ownFrom'),
  fewest: phrase('bench.ownFewest'),
  needsSources: phrase('bench.ownSources'),
  credit: phrase('bench.perCentThatTheLabelEarns'),
  spelling: phrase('bench.perCentThatTheAnswerEarns'),
  capacity: phrase('bench.howManyLabelsItTakes'),
  slack: phrase('bench.howFarOffStillCounts'),
  'band.slack': phrase('bench.howFarOffStillEarnsPart'),
  'band.credit': phrase('bench.perCentThatIsEarnedThere'),
  needed: phrase('bench.howManyToMark'),
  'rules.ignoreCapitals': phrase('bench.capitals'),
  'rules.ignoreAccents': phrase('bench.accents'),
  'rules.ignorePunctuation': phrase('bench.hyphensAndDots'),
  'rules.forgiveSlips': phrase('bench.smallSlips'),
  compulsory: phrase('bench.mayBeLeftOpen'),
  takenOut: phrase('bench.whoHasItsPoints'),
  showsValue: phrase('bench.valuesReadOut'),
  showsTally: phrase('bench.whatLiesThereCounted'),
  pins: phrase('bench.pinsOfTheirOwn'),
  'answer.within': phrase('bench.howFarOffStillCounts'),
  'answer.withinShare': phrase('bench.howFarOffStillCountsIn'),
  scored: phrase('bench.whatOpeningItEarns'),
  want: phrase('bench.whatItWants'),
  descriptions: phrase('bench.whoReadsTheDescriptions'),
  is: phrase('bench.exactlyOrNot'),
  number: phrase('bench.howMany'),
  from: phrase('bench.leastTotal'),
  to: phrase('bench.greatestTotal'),
})
