// Undo and redo, by button and by key.

import { phrase } from '../language.js'

/** @param {import('./desk.js').Desk} desk */
export function stepsPart(desk) {
  const page = {
    cannotUndo: true,
    cannotRedo: true,
    undo() {
      desk.step('undo')
      desk.announce('Undone.')
    },
    redo() {
      desk.step('redo')
      desk.announce(phrase('bench.doneAgain'))
    },
  }
  return {
    show() {
      desk.state().cannotUndo = !desk.canUndo()
      desk.state().cannotRedo = !desk.canRedo()
    },
    listen() {
      document.addEventListener('keydown', event => {
        if (!(event.ctrlKey || event.metaKey) || event.altKey) return
        // A field of formatted words has its own steps.
        if (/** @type {Element} */ (event.target).closest('.ql-editor')) return
        const pressed = event.key.toLowerCase()
        const isUndo = pressed === 'z' && !event.shiftKey
        const isRedo = (pressed === 'z' && event.shiftKey) || pressed === 'y'
        if (!isUndo && !isRedo) return
        event.preventDefault()
        if (isUndo) page.undo()
        else page.redo()
      })
    },
    page,
  }
}
