// What the device keeps for a student: the work as it was told last, and what is to be looked at again.

import { recallJson, remember } from './device.js'

/**
 * The work as the server told it last. A page that comes from the device may be older than that.
 * @param {string | undefined} key Under which the device keeps it; none for a trial.
 * @param {number} version Of the log that the page tells of.
 * @param {WorkView} work
 */
export function createKnown(key, version, work) {
  const name = `${key}-work`
  if (key && !work.open) remember(name, null)
  /** @type {{version: number, work: WorkView} | null} */
  const stored = key ? recallJson(name) : null
  const kept = stored && stored.version > version ? stored : { version, work }
  return {
    ...kept,
    /** @param {WorkView} next @param {number} at */
    keep(next, at) {
      if (key) remember(name, JSON.stringify({ version: at, work: next }))
    },
  }
}

/** @param {string | undefined} key Under which the device keeps it; none for a trial. */
export function createAgain(key) {
  const name = `${key}-again`
  /** @type {number[]} */
  let marked = (key && recallJson(name)) || []
  return {
    all: () => marked,
    /** @param {number} pane */
    toggle(pane) {
      marked = marked.includes(pane) ? marked.filter(other => other !== pane) : [...marked, pane]
      if (key) remember(name, JSON.stringify(marked))
    },
  }
}
