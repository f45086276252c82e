// What this device keeps from one visit to the next, as far as its browser lets anything be kept.

/** @param {string} name @returns {string | null} Null for nothing, and where nothing may be kept. */
export function recall(name) {
  try {
    return localStorage.getItem(name)
  } catch {
    return null
  }
}

/** @param {string} name @returns {any} What was kept as JSON; null for nothing, and for what is none. */
export function recallJson(name) {
  try {
    return JSON.parse(recall(name) ?? 'null')
  } catch {
    return null
  }
}

/** @param {string} name @param {string | null} value Null forgets it. @returns {boolean} False when the device keeps nothing more. */
export function remember(name, value) {
  try {
    if (value === null) localStorage.removeItem(name)
    else localStorage.setItem(name, value)
    return true
  } catch {
    return false
  }
}
