// The rules as sentences, in which every choice is a word that can be changed, for the activity or for one picture.

import { withWord, withoutWord } from './document.js'

/** @param {import('./main.js').Desk} desk @returns {import('./main.js').Part} */
export function rulesPart(desk) {
  const { doc, changeDocument } = desk
  const paneIndex = () => (desk.state().isPaneRules && doc().panes.length > 1 ? desk.index() : null)

  /** @param {any[]} words @param {string} group */
  const line = (words, group) => words.map((word, i) => {
    const choice = word.choice
    return {
      id: `${group}-${i}`, text: word.text, isText: !choice, isChoice: (choice?.options.length ?? 0) > 0, isNumber: choice?.options.length === 0,
      path: choice?.path ?? '', value: choice?.value ?? '', name: names[choice?.path] ?? '', hint: choice?.value === '' ? word.text : '',
      classes: choice?.isOwn && paneIndex() !== null ? 'word word-own' : 'word', isOwn: (choice?.isOwn ?? false) && paneIndex() !== null,
      options: (choice?.options ?? []).map((/** @type {any} */ option) => ({ ...option, isChosen: option.value === choice.value })),
    }
  })

  const show = () => {
    const state = desk.state()
    const says = desk.says()
    state.hasManyPanes = doc().panes.length > 1
    const rules = (paneIndex() === null ? says.rules : says.paneRules?.[desk.index()]) ?? says.rules
    if (!rules) return
    state.rules = ['check', 'reveal', 'score'].map(group => ({ group, title: titles[group], words: line(rules[group], group) }))
  }

  return {
    show,
    page: {
      rules: [], isPaneRules: false, hasManyPanes: false,
      /** @param {Event} event */
      setRulesOf(event) {
        desk.state().isPaneRules = /** @type {HTMLSelectElement} */ (event.currentTarget).value === 'pane'
        show()
      },
      /** @param {Event} event */
      setWord(event) {
        const field = /** @type {HTMLInputElement} */ (event.currentTarget)
        changeDocument(withWord(doc(), paneIndex(), field.dataset.path ?? '', field.value))
      },
      /** @param {Event} event */
      unsetWord(event) {
        const index = paneIndex()
        if (index !== null) changeDocument(withoutWord(doc(), index, /** @type {HTMLElement} */ (event.currentTarget).dataset.path ?? ''))
      },
    },
  }
}

const titles = /** @type {Record<string, string>} */ ({ check: 'Check', reveal: 'Reveal', score: 'Score' })
const names = /** @type {Record<string, string>} */ ({
  'check.checks': 'How often work can be checked', 'check.wrong': 'What happens to a wrong label', 'check.right': 'What happens to a right label',
  'reveal.marks': 'When right and wrong show', 'reveal.score': 'When the score shows', 'reveal.key': 'When the right places show', 'reveal.feedback': 'When feedback shows', 'reveal.explanation': 'When explanations show',
  'score.manner': 'How points are given', 'score.wrongCost': 'Points that a wrong one costs', 'score.tryCost': 'Per cent that each further try costs', 'score.maximumGrade': 'Best grade', 'score.passMark': 'Pass mark', purpose: 'What it is for',
})
