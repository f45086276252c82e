// Instructions with emphasis, colour, size, alignment, lists and formulas. Formats are classes, so that no style stands in the text.

import { phrase } from '../language.js'

/** @type {Promise<any> | null} */
let loading = null

// An older script of its kind: it makes itself known to the window.
const editor = () =>
  (loading ??= new Promise((resolve, reject) => {
    const script = document.createElement('script')
    script.src = new URL('../../lib/quill/quill.js', import.meta.url).href
    script.addEventListener('load', () => resolve(/** @type {any} */ (window).Quill))
    script.addEventListener('error', reject)
    document.head.append(script)
  }))

const colours = [phrase('bench.honey'), phrase('bench.sky'), phrase('bench.leaf'), phrase('bench.rose'), phrase('bench.lilac')]
const formats = ['bold', 'italic', 'underline', 'list', 'align', 'size', 'paper', 'direction']

/**
 * @param {HTMLElement} box Holds what is written; its toolbar stands before it.
 * @param {string} html
 * @param {(html: string) => void} onChange
 */
export async function createWriting(box, html, onChange) {
  const Quill = await editor()
  const { ClassAttributor, Scope } = Quill.import('parchment')
  Quill.register(
    {
      'formats/align': Quill.import('attributors/class/align'),
      'formats/size': Quill.import('attributors/class/size'),
      'formats/direction': Quill.import('attributors/class/direction'),
      'formats/paper': new ClassAttributor('paper', 'paper', { scope: Scope.INLINE, whitelist: colours }),
    },
    true,
  )
  const quill = new Quill(box, {
    formats,
    modules: { toolbar: '#writing-tools', history: { delay: 600 } },
    placeholder: phrase('page.labelsBelong'),
  })
  quill.root.setAttribute('aria-label', phrase('bench.whatToDo'))
  quill.root.setAttribute('role', 'textbox')
  quill.root.setAttribute('aria-multiline', 'true')
  quill.root.dir = 'auto'
  // Where nothing is chosen the editor leaves its menus blank.
  const tools = /** @type {HTMLElement} */ (document.getElementById('writing-tools'))
  const fillMenus = () => {
    for (const menu of tools.querySelectorAll('select'))
      if (menu.selectedIndex < 0) menu.selectedIndex = [...menu.options].findIndex(option => option.defaultSelected)
  }
  quill.on('editor-change', fillMenus)
  fillMenus()
  let now = ''
  /** @param {string} next */
  const show = next => {
    if (next === now || quill.hasFocus()) return
    now = next
    quill.setContents(quill.clipboard.convert({ html: asBlocks(next) }), 'silent')
  }
  show(html)
  quill.on('text-change', (/** @type {any} */ _, /** @type {any} */ __, /** @type {string} */ source) => {
    if (source !== 'user') return
    now = quill.getText().trim() === '' ? '' : quill.getSemanticHTML().replaceAll('&nbsp;', ' ')
    onChange(now)
  })
  return { show }
}

/** Plain words stand in a block of their own. @param {string} html */
const asBlocks = html => (html.trimStart().startsWith('<') || html === '' ? html : `<p>${html}</p>`)
