// A student's own picture: brought or given, with spots of their own on it.

import { button, element } from '../element.js'
import { numeral, phrase } from '../language.js'
import { createNumbers, nameOf, pictureOf, showPiece, tellingOf } from './piece.js'
import { createStage } from '../scene/stage.js'
import { limits, thresholds } from '../usual.js'
import { arrange, onPicture } from './arranging.js'
import { bring, progressSaid } from './bringing.js'
import { openLibrary } from './library.js'
import { doneAt } from './work.js'

/** @typedef {Extract<TargetView, {kind: 'making'}>} Making */

/**
 * @param {HTMLElement} panel
 * @param {object} actions
 * @param {() => PaneView} actions.pane
 * @param {(move: Move) => void} actions.make
 * @param {(sentence: string) => void} actions.say
 * @param {string | undefined} actions.own Where files are brought to; undefined where a teacher tries it.
 * @param {string | undefined} actions.library
 */
export function createMaking(panel, { pane, make, say, own: ownUrl, library }) {
  /** The spot that is being written. @type {string | null} */
  let chosen = null
  /** What is under way. @type {{end: AbortController, share: number, isWaiting: boolean, what: 'picture' | 'face'} | null} */
  let underWay = null
  let problem = ''
  let advice = ''
  /** @type {import('../scene/stage.js').Stage | null} */
  let stage = null
  /** @type {ReturnType<typeof createNumbers> | null} */
  let numbers = null
  let pictureShown = ''
  /** Whether a spot was let go just now: the click that follows means nothing. */
  let isAfterDrag = () => false
  /** What was typed and is not made a move yet. @type {OwnSpot | null} */
  let typed = null
  /** @type {number | undefined} */
  let typing

  const target = () => /** @type {Making | undefined} */ (pane().targets.find(known => known.kind === 'making'))
  const own = () => /** @type {OwnWork} */ (doneAt(pane(), target()?.id ?? '').own ?? { picture: null, spots: [] })
  /** The pane's picture, where spots lie on that. */
  const given = () => (target()?.whose === 'teacher' ? pane().picture : null)
  const spot = () => (typed?.id === chosen ? typed : own().spots.find(known => known.id === chosen))

  /** @param {string} selector */
  const focusOn = selector => {
    const found = /** @type {HTMLElement | null} */ (panel.querySelector(selector))
    found?.focus()
  }

  const frame = {
    /** What stays while something is typed or dragged. */
    picture: element('div', 'making-picture'),
    side: element('div', 'making-side'),
  }

  /** @param {OwnSpot} next */
  const put = next => {
    typed = null
    clearTimeout(typing)
    make({ kind: 'putSpot', target: target()?.id ?? '', spot: next })
  }
  /** What is typed is sent when it rests or the field is left. @param {OwnSpot} next */
  const type = next => {
    clearTimeout(typing)
    typed = next
    typing = setTimeout(() => put(next), 700)
  }
  const finishTyping = () => {
    if (typed) put(typed)
  }

  // Bringing a file.

  /** @param {File | undefined} file @param {'picture' | 'face'} what @param {boolean} [isSound] */
  async function take(file, what, isSound = false) {
    if (!file || underWay) return
    problem = advice = ''
    const end = new AbortController()
    underWay = { end, share: 0, isWaiting: false, what }
    draw()
    const outcome = await bring(file, {
      url: ownUrl,
      isSound,
      signal: end.signal,
      progress(share, isWaiting) {
        if (!underWay) return
        Object.assign(underWay, { share, isWaiting })
        showProgress()
      },
    })
    underWay = null
    if (!outcome.ok) {
      problem = outcome.sentence
      if (problem) say(problem)
      draw()
      return
    }
    used(outcome.taken, what, isSound)
  }

  /** @param {import('./bringing.js').Taken} taken @param {'picture' | 'face'} what @param {boolean} isSound @param {string} [altText] */
  function used({ media, width, height, isSharp }, what, isSound, altText = '') {
    if (what === 'picture') {
      advice = [
        width < thresholds.smallPicture ? phrase('making.small', { width, least: thresholds.smallPicture }) : '',
        isSharp ? '' : phrase('making.blurred'),
      ]
        .filter(Boolean)
        .join(' ')
      make({ kind: 'bringPicture', target: target()?.id ?? '', picture: { media, width, height, altText } })
      say(advice || phrase('making.brought'))
      return
    }
    const at = spot()
    if (!at) return draw()
    put({ ...at, face: isSound ? { kind: 'sound', media, from: 0, to: null } : { kind: 'picture', media, width, height } })
    say(phrase('making.broughtToSpot'))
  }

  function showProgress() {
    const bar = panel.querySelector('.making-progress progress')
    if (!underWay || !(bar instanceof HTMLProgressElement)) return
    bar.value = underWay.share
    const words = panel.querySelector('.making-progress span')
    if (words) words.textContent = progressSaid(underWay.share, underWay.isWaiting)
  }

  /**
   * @param {string} accept
   * @param {string} text
   * @param {'picture' | 'face'} what
   * @param {{capture?: boolean, isSound?: boolean, looks?: string}} [how]
   */
  function chooser(accept, text, what, { capture = false, isSound = false, looks = 'btn-outline-primary' } = {}) {
    const label = element('label', `btn ${looks} making-file`, text)
    const input = element('input', 'visually-hidden')
    Object.assign(input, { type: 'file', accept })
    if (capture) input.setAttribute('capture', 'environment')
    input.addEventListener('change', () => take(input.files?.[0], what, isSound))
    label.append(input)
    return label
  }

  const images = 'image/jpeg,image/png,image/webp,image/gif,image/svg+xml,image/heic,image/avif'

  /** How a picture is brought. @returns {HTMLElement} */
  function ways() {
    const box = element('div', 'making-ways')
    box.append(
      element('h2', '', phrase('making.bring')),
      chooser(images, phrase('making.choose'), 'picture', { looks: 'btn-primary' }),
      chooser('image/*', phrase('making.photograph'), 'picture', { capture: true }),
    )
    if (library)
      box.append(
        button('btn btn-outline-primary', phrase('making.fromLibrary'), () =>
          openLibrary(panel, library, (taken, altText) => used(taken, 'picture', false, altText)),
        ),
      )
    box.append(element('p', 'making-hint', phrase('making.pasteOrDrop')))
    return box
  }

  // The picture and its spots.

  function drawPicture() {
    const shown = pictureOf(own(), given())
    const name = shown ? `${shown.media} ${shown.width}` : ''
    if (name !== pictureShown) {
      pictureShown = name
      frame.picture.replaceChildren()
      stage = numbers = null
      if (shown) {
        const mat = element('div', 'mat')
        frame.picture.append(mat)
        frame.picture.style.aspectRatio = `${shown.width} / ${shown.height}`
        stage = createStage(mat, given() ?? shown)
        stage.element.addEventListener('click', event => {
          if (event.detail > 0 && !isAfterDrag() && !(/** @type {Element} */ (event.target).closest('.own-number')) && stage)
            add(stage.pointAt(event))
        })
        numbers = createNumbers(stage, id => {
          if (!isAfterDrag()) choose(id)
        })
        isAfterDrag = arrange(numbers.layer, stage, {
          find: id => (pane().open ? withTyped().find(known => known.id === id) : undefined),
          put,
          remove,
          draw,
          say,
        })
      }
    }
    frame.picture.hidden = shown === null
    numbers?.draw(withTyped(), chosen)
  }
  /** @returns {readonly OwnSpot[]} */
  const withTyped = () => own().spots.map(known => (known.id === typed?.id ? typed : known))

  /** @param {Point} at */
  function add(at) {
    if (!pane().open || !target() || !stage) return
    if (own().spots.length >= limits.mostOwnSpots) return say(phrase('making.enough', { most: limits.mostOwnSpots }))
    finishTyping()
    const answered = new Set(own().spots.map(known => known.question))
    const questions = target()?.questions ?? []
    const free = questions.findIndex((_, i) => !answered.has(i))
    const id = `s${Date.now().toString(36)}${Math.floor(Math.random() * 1296).toString(36)}`
    chosen = id
    put({
      id,
      at: onPicture(stage, at),
      question: free >= 0 ? free : null,
      title: '',
      text: '',
      face: null,
      link: '',
      source: '',
    })
    say(phrase('making.added', { number: own().spots.length }))
    focusOn('.making-editor input, .making-editor textarea')
  }

  /** @param {string | null} id */
  function choose(id) {
    finishTyping()
    chosen = chosen === id ? null : id
    draw()
    if (chosen) focusOn('.making-editor input, .making-editor textarea')
  }
  /** @param {string} id */
  function remove(id) {
    typed = null
    clearTimeout(typing)
    if (chosen === id) chosen = null
    make({ kind: 'takeSpot', target: target()?.id ?? '', spot: id })
    say(phrase('making.removed'))
    focusOn('.making-add')
  }

  // What stands beside it.

  /** @param {Making} at */
  function aims(at) {
    const list = element('ul', 'making-aims')
    const lacks = doneAt(pane(), at.id).own ? doneAt(pane(), at.id).lacks : at.lacks
    for (const lack of lacks) list.append(element('li', '', phrase(lack.name, lack.slots)))
    if (lacks.length === 0) list.append(element('li', 'making-ready', phrase('making.ready')))
    return list
  }

  /** @param {Making} at */
  function spotList(at) {
    const list = element('ol', 'making-spots')
    withTyped().forEach((known, i) => {
      const item = element('li', known.id === chosen ? 'chosen' : '')
      const open = button('btn making-spot', '', () => choose(known.id))
      open.setAttribute('aria-expanded', String(known.id === chosen))
      open.dir = 'auto'
      open.append(element('span', 'own-number-small', numeral(i + 1)), element('span', '', shortName(known)))
      item.append(open)
      if (known.id === chosen) item.append(editor(at, /** @type {OwnSpot} */ (spot()), i))
      list.append(item)
    })
    return list
  }

  /** @param {Making} at @param {OwnSpot} known @param {number} index */
  function editor(at, known, index) {
    const form = element('div', 'making-editor')
    form.setAttribute('role', 'group')
    form.setAttribute('aria-label', nameOf(known, index))
    const now = () => spot() ?? known
    /** @param {'title' | 'text' | 'link' | 'source'} name @param {'input' | 'textarea'} tag @param {number} most @param {string} [hint] */
    const field = (name, tag, most, hint) => {
      const label = element('label', 'making-field')
      const input = /** @type {HTMLInputElement} */ (element(tag, 'form-control'))
      Object.assign(input, {
        value: known[name],
        maxLength: most,
        dir: name === 'link' ? 'ltr' : 'auto',
        autocomplete: 'off',
        placeholder: hint ?? '',
      })
      input.dataset.field = name
      if (name === 'link') input.inputMode = 'url'
      input.addEventListener('input', () => type({ ...now(), [name]: name === 'link' ? addressIn(input.value) : input.value }))
      input.addEventListener('change', () => {
        // A link that is typed without its beginning gets one, and shows it.
        if (name === 'link') input.value = addressIn(input.value)
        if (typed) finishTyping()
      })
      label.append(element('span', '', phrase(fieldNames[name])), input)
      return label
    }
    if (at.questions.length > 0) {
      const label = element('label', 'making-field')
      const select = element('select', 'form-select')
      select.append(new Option(phrase('making.ofNoQuestion'), ''))
      at.questions.forEach((question, i) => select.append(new Option(question, String(i))))
      select.value = known.question === null || known.question === undefined ? '' : String(known.question)
      select.addEventListener('change', () => put({ ...now(), question: select.value === '' ? null : Number(select.value) }))
      label.append(element('span', '', phrase('making.answers')), select)
      form.append(label)
    }
    form.append(field('title', 'input', limits.longestSpotTitle), field('text', 'textarea', limits.longestSpotText))
    const faces = element('div', 'making-face')
    if (known.face) {
      faces.append(...tellingOf({ ...known, title: '', text: '', link: '', source: '', question: null }, []))
      faces.append(button('btn btn-outline-primary', phrase('making.takeAway'), () => put({ ...now(), face: null })))
    } else if (underWay?.what === 'face') faces.append(progress())
    else
      faces.append(
        chooser(images, phrase('making.addPicture'), 'face'),
        chooser('audio/*', phrase('making.addSound'), 'face', { isSound: true }),
      )
    form.append(
      faces,
      field('link', 'input', limits.longestLink, 'https://'),
      field('source', 'input', limits.longestSource, phrase('making.sourceLike')),
    )
    const acts = element('div', 'making-acts')
    acts.append(
      button('btn btn-primary', phrase('making.done'), () => {
        choose(null)
        focusOn(`.making-spots > li:nth-child(${index + 1}) .making-spot`)
      }),
      button('btn btn-outline-danger', phrase('making.delete'), () => remove(known.id)),
    )
    form.append(acts)
    return form
  }

  function progress() {
    const box = element('div', 'making-progress')
    const bar = element('progress', '')
    bar.max = 1
    bar.value = underWay?.share ?? 0
    bar.setAttribute('aria-label', phrase('making.howFar'))
    box.append(
      bar,
      element('span', '', progressSaid(underWay?.share ?? 0, underWay?.isWaiting ?? false)),
      button('btn btn-outline-primary', phrase('making.cancel'), () => underWay?.end.abort()),
    )
    return box
  }

  let sideShown = ''
  function drawSide() {
    const at = target()
    if (!at) return
    // While somebody types, the field stays the same: only what is lacking is drawn anew.
    const facts = JSON.stringify([
      own().picture,
      withTyped().map(known => (known.id === chosen ? [known.id, known.face, known.question] : known)),
      chosen,
      underWay?.what,
      problem,
      advice,
      at,
    ])
    if (facts === sideShown) {
      frame.side.querySelector('.making-aims')?.replaceWith(aims(at))
      const name = frame.side.querySelector('.making-spots > .chosen .making-spot > span:last-child')
      const now = spot()
      if (name && now) name.textContent = shortName(now)
      return
    }
    const [focused, caret] = focusIn(frame.side)
    sideShown = facts
    /** @type {HTMLElement[]} */
    const parts = []
    const brings = at.whose === 'student'
    if (problem) {
      const said = element('p', 'problem', problem)
      said.setAttribute('role', 'alert')
      parts.push(said)
    }
    if (underWay?.what === 'picture') parts.push(progress())
    else if (brings && !own().picture) parts.push(ways())
    if (advice) parts.push(element('p', 'advice', advice))
    parts.push(aims(at))
    const tools = element('div', 'making-tools')
    if (stage) {
      const addIt = button('btn btn-primary making-add', phrase('making.add'), () => {
        if (!stage) return
        const { left, right, top, bottom } = stage.plane
        add({ x: (left + right) / 2, y: (top + bottom) / 2 })
      })
      tools.append(addIt)
    }
    if (stage && own().spots.length > 0) tools.append(button('btn btn-outline-primary', phrase('making.look2'), () => look()))
    parts.push(tools)
    if (at.questions.length > 0) {
      const asked = element('ol', 'making-questions')
      at.questions.forEach((question, i) => {
        const item = element('li', withTyped().some(known => known.question === i) ? 'answered' : '', question)
        item.dir = 'auto'
        asked.append(item)
      })
      parts.push(asked)
    }
    parts.push(spotList(at))
    if (brings && own().picture && underWay?.what !== 'picture') {
      const row = element('div', 'making-again')
      const label = element('label', 'making-field')
      const input = element('input', 'form-control')
      Object.assign(input, { value: own().picture?.altText ?? '', maxLength: limits.longestSpotText, dir: 'auto', autocomplete: 'off' })
      input.dataset.field = 'alt'
      input.addEventListener('change', () => {
        const picture = own().picture
        if (picture) make({ kind: 'bringPicture', target: at.id, picture: { ...picture, altText: input.value } })
      })
      label.append(element('span', '', phrase('making.altText')), input)
      row.append(
        label,
        chooser(images, phrase('making.another'), 'picture'),
        button('btn btn-outline-danger', phrase('making.takeAway'), () => {
          advice = ''
          make({ kind: 'bringPicture', target: at.id, picture: null })
          say(phrase('making.pictureGone'))
        }),
      )
      parts.push(row)
    }
    if (at.criteria.length > 0) {
      const marked = element('details', 'making-criteria')
      const list = element('ul', '')
      for (const criterion of at.criteria)
        list.append(element('li', '', phrase('making.criterion', { text: criterion.text, count: criterion.points })))
      marked.append(element('summary', '', phrase('making.markedBy')), list)
      parts.push(marked)
    }
    frame.side.replaceChildren(...parts)
    if (focused) restore(frame.side, focused, caret)
  }

  /** As others will see it. */
  function look() {
    finishTyping()
    const dialog = element('dialog', 'making-look')
    dialog.setAttribute('aria-label', phrase('making.asOthers'))
    const piece = element('div', '')
    dialog.append(
      element('h2', '', phrase('making.asOthers')),
      piece,
      button('btn btn-primary', phrase('cards.close'), () => dialog.close()),
    )
    dialog.addEventListener('close', () => dialog.remove())
    panel.append(dialog)
    dialog.showModal()
    showPiece(piece, { own: own(), given: given(), questions: target()?.questions })
  }

  let isBuilt = false
  function draw() {
    const at = target()
    panel.hidden = !at
    if (!at) return
    if (!pane().open) {
      const done = element('div', '')
      panel.replaceChildren(done)
      panel.classList.add('as-result')
      isBuilt = false
      showPiece(done, { own: own(), given: given(), questions: at.questions })
      return
    }
    if (chosen && !spot()) chosen = null
    if (!isBuilt) {
      panel.replaceChildren(frame.picture, frame.side)
      isBuilt = true
    }
    drawPicture()
    drawSide()
    panel.classList.toggle('without-picture', stage === null)
  }

  // A picture may be pasted, or dropped.
  addEventListener('paste', event => {
    const file = [...(event.clipboardData?.files ?? [])].find(one => one.type.startsWith('image/'))
    if (!file || panel.hidden || !pane().open || target()?.whose !== 'student') return
    event.preventDefault()
    take(file, 'picture')
  })
  panel.addEventListener('dragover', event => event.preventDefault())
  panel.addEventListener('drop', event => {
    event.preventDefault()
    if (pane().open && target()?.whose === 'student') take(event.dataTransfer?.files[0], 'picture')
  })

  return {
    draw,
    /** What is typed or under way is finished or given up, before the work leaves the hand. */
    finish() {
      underWay?.end.abort()
      finishTyping()
    },
  }
}

const fieldNames = { title: 'making.title', text: 'making.text', link: 'making.link', source: 'making.source' }

/** @param {OwnSpot} spot */
const shortName = ({ title, text }) => title || text.slice(0, 60) || phrase('making.noWords')

/** @param {string} words @returns {string} A web address; what lacks its beginning gets one. */
function addressIn(words) {
  const link = words.trim()
  return link === '' || /^[a-z][a-z0-9+.-]*:/i.test(link) ? link : `https://${link}`
}

/** @param {HTMLElement} within @returns {[string | null, number | null]} Which field has the focus, and where its cursor stands. */
function focusIn(within) {
  const active = document.activeElement
  return active instanceof HTMLElement && within.contains(active) && active.dataset.field
    ? [active.dataset.field, active instanceof HTMLInputElement || active instanceof HTMLTextAreaElement ? active.selectionStart : null]
    : [null, null]
}

/** @param {HTMLElement} within @param {string} name @param {number | null} caret */
function restore(within, name, caret) {
  const field = /** @type {HTMLInputElement | null} */ (within.querySelector(`[data-field="${name}"]`))
  field?.focus()
  if (field && caret !== null) field.setSelectionRange(caret, caret)
}
