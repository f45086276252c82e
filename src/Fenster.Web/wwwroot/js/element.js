// Elements, made in one line.

/**
 * @template {keyof HTMLElementTagNameMap} T
 * @param {T} tag
 * @param {string} className
 * @param {string} [text]
 * @returns {HTMLElementTagNameMap[T]}
 */
export function element(tag, className, text) {
  const made = document.createElement(tag)
  made.className = className
  if (text !== undefined) made.textContent = text
  return made
}

/** @param {string} className @param {string} text @param {() => void} act */
export function button(className, text, act) {
  const made = element('button', className, text)
  made.type = 'button'
  made.dir = 'auto'
  made.addEventListener('click', act)
  return made
}
