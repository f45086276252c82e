// What the device keeps for a student: the work as it was told last, and what is to be looked at again.

/**
 * The work as the server told it last. A page that comes from the device may be older than that.
 * @param {string | undefined} key Under which the device keeps it; none for a trial.
 * @param {number} version Of the log that the page tells of.
 * @param {WorkView} work
 */
export function createKnown(key, version, work) {
  const name = `${key}-work`
  /** @param {string | null} json */
  const keep = json => {
    try {
      if (!key) return
      if (json === null) localStorage.removeItem(name)
      else localStorage.setItem(name, json)
    } catch {
      // A device that keeps nothing shows what the page brings.
    }
  }
  let kept = { version, work }
  try {
    const stored = JSON.parse((key && work.open && localStorage.getItem(name)) || 'null')
    if (stored?.version > version) kept = stored
  } catch {
    // As above.
  }
  if (!work.open) keep(null)
  return {
    ...kept,
    /** @param {WorkView} next @param {number} at */
    keep: (next, at) => keep(JSON.stringify({ version: at, work: next })),
  }
}

/** @param {string | undefined} key Under which the device keeps it; none for a trial. */
export function createAgain(key) {
  /** @type {number[]} */
  let marked = []
  try {
    marked = JSON.parse((key && localStorage.getItem(`${key}-again`)) || '[]')
  } catch {
    // A device that keeps nothing shows the marks while the page is open.
  }
  return {
    all: () => marked,
    /** @param {number} pane */
    toggle(pane) {
      marked = marked.includes(pane) ? marked.filter(other => other !== pane) : [...marked, pane]
      try {
        if (key) localStorage.setItem(`${key}-again`, JSON.stringify(marked))
      } catch {
        // As above.
      }
    },
  }
}
