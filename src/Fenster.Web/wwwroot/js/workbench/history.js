// Undo and redo without limit in the sitting: documents are never changed in place, so each step is the document itself.

/** @param {ActivityDocument} first */
export function createHistory(first) {
  /** @type {ActivityDocument[]} */
  const past = []
  /** @type {ActivityDocument[]} */
  let future = []
  let present = first
  /** @type {string | null} */
  let lastStep = null

  return {
    present: () => present,
    canUndo: () => past.length > 0,
    canRedo: () => future.length > 0,
    /**
     * @param {ActivityDocument} doc
     * @param {string | null} [step] Changes in a row with the same name are one step, such as the letters of a word.
     */
    push(doc, step = null) {
      if (doc === present) return
      if (step === null || step !== lastStep) past.push(present)
      lastStep = step
      present = doc
      future = []
    },
    undo() {
      const doc = past.pop()
      if (!doc) return
      future.push(present)
      present = doc
      lastStep = null
    },
    redo() {
      const doc = future.pop()
      if (!doc) return
      past.push(present)
      present = doc
      lastStep = null
    },
  }
}
