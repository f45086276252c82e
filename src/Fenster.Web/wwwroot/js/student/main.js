// The student's screen: the picture, the bank, and what the server says of them.

import { createBoard, isHeld } from '../scene/board.js'
import { cardOf, play } from '../scene/face.js'
import { createFingertips } from '../scene/fingertips.js'
import { distanceTo, planeOf } from '../scene/geometry.js'
import { createSpoken } from '../scene/spoken.js'
import { createSpots } from '../scene/spots.js'
import { createStage } from '../scene/stage.js'
import { setFormulas } from '../scene/words.js'
import { bringsDevice, get } from '../http.js'
import { phrase } from '../language.js'
import { whenChanged } from './afresh.js'
import { createBank, createFoundList, createPlacedList } from './bank.js'
import { createAgain, createKnown } from './kept.js'
import { keepArranged } from './layout.js'
import { createPanes, foldIntro } from './top.js'
import { startZoom } from './zoom.js'
import { startClock } from './clock.js'
import { partsFor } from './parts.js'
import { placeCrosshair, startPlacing } from './placing.js'
import { checkedLine, drawCheck, drawNotes, markList, remarksOf, scoreLine } from './result.js'
import { createSender } from './sender.js'
import {
  answersIn,
  applied,
  foundOf,
  freeCopy,
  holdablesOf,
  isAllRight,
  markersOf,
  merged,
  moveBack,
  moveTo,
  paneOf,
  pinnedOf,
  rightIn,
  tallyIn,
  tallyOf,
} from './work.js'

/** @typedef {import('./work.js').Thing} Thing */

/**
 * @typedef {object} Visit How a student is here; a trial has none.
 * @property {string} secret Of the device.
 * @property {string} now Where the device asks for what it may see.
 * @property {() => void} again Asks what is to be shown now that it is handed in.
 */

/** @param {HTMLElement} work @param {Visit} [visit] @param {() => void} [place] Puts it on the page, once it can be drawn. */
export async function open(work, visit, place) {
  const view = /** @type {StudentView} */ (JSON.parse(work.dataset.view ?? ''))
  bringsDevice(visit?.secret ?? '')
  const parts = await partsFor(view)
  // Most often the bank comes to lie so, and then nothing is styled a second time.
  work.classList.toggle('bank-below', matchMedia('(orientation: portrait)').matches)
  place?.()
  start(work, view, parts, visit)
}

/** @param {HTMLElement} work @param {StudentView} view @param {import('./parts.js').Parts} parts @param {Visit} [visit] */
function start(work, view, { createCards, createMatching, createMaking }, visit) {
  /** @param {string} id */
  const part = id => /** @type {HTMLElement} */ (document.getElementById(id))
  const known = createKnown(work.dataset.key, Number(work.dataset.version ?? 0), view.work)
  let current = known.work
  let shown = Math.min(view.panes.length - 1, Math.max(0, Number(new URLSearchParams(location.hash.slice(1)).get('pane') ?? 1) - 1 || 0))
  /** @type {{label: string, copy: number} | null} */
  let inHand = null
  /** @type {import('./sender.js').Link} */
  let link = 'saved'
  let returned = 0
  let isKey = false
  let touched = current.panes.some(pane => pane.placed.length + pane.pins.length + pane.done.length > 0)
  /** What is to be looked at again: a note of the student's own, on this device. */
  const again = createAgain(work.dataset.key)
  /** Timers by the target that is being typed into. @type {Map<string, number>} */
  const typing = new Map()
  const pane = () => paneOf(view, current, shown)
  /** Only where the teacher wants it. @type {ReturnType<typeof import('./cheer.js').createCheer> | null} */
  let cheer = null
  /** Only where a scale may be read out. @type {ReturnType<typeof import('./read-out.js').createReadOut> | null} */
  let readOut = null
  /** @param {string} sentence */
  const say = sentence => {
    part('say').textContent = sentence
  }
  /** @type {Scene | null} */
  let scene = null
  /** @type {ReturnType<typeof startPlacing> | null} */
  let hand = null
  let endNews = () => {}
  /** Ends what listens for the pane that is shown. */
  let left = new AbortController()

  /**
   * @typedef {{stage: import('../scene/stage.js').Stage, board: import('../scene/board.js').Board,
   *   spots: ReturnType<typeof createSpots>, crosshair: HTMLElement, fingertips: ReturnType<typeof createFingertips>,
   *   spoken: ReturnType<typeof createSpoken>}} Scene
   */

  const cards = createCards?.(/** @type {HTMLDialogElement} */ (part('card')), part('tip'), { pane, make: move => make(move), type: typed })
  const drawBank = createBank(part('bank-left'))
  const drawFound = createFoundList(part('found-list'), id => lead({ id }))
  const drawNumbered = createPlacedList(() => document.getElementById('placed-list'))
  const arrangeNow = keepArranged(work, { board: part('board'), bank: part('bank') }, () => {
    const { picture } = pane()
    if (!picture || work.classList.contains('has-making')) return null
    const { left, right, top, bottom } = planeOf(picture)
    return { ratio: (right - left) / (bottom - top), isResult: !current.open }
  })
  const matching = createMatching?.(part('matching'), { pane, make: move => make(move), say })

  const making = createMaking?.(part('making'), {
    pane,
    make: move => make(move),
    say,
    own: work.dataset.own,
    library: work.dataset.library,
  })

  /** Builds the picture of the pane that is shown. */
  const openPane = () => {
    const frame = pane()
    left.abort()
    left = new AbortController()
    const isMaking = frame.targets.some(target => target.kind === 'making')
    part('mat-frame').hidden = !frame.picture || isMaking
    work.classList.toggle(
      'has-matching',
      frame.targets.some(target => target.kind === 'linking'),
    )
    work.classList.toggle('has-making', isMaking)
    part('tools').hidden = isMaking
    work.classList.toggle('has-picture', frame.picture !== null && !isMaking)
    inHand = null
    // The picture is fitted into the room that the bank leaves: it is laid out last, and once.
    if (current.open) drawOwnBank(frame)
    arrangeNow()
    if (!frame.picture || isMaking) scene = null
    else {
      const stage = createStage(part('mat'), frame.picture)
      const board = createBoard(stage, frame, numbered => drawNumbered({ numbered }))
      const fingertips = createFingertips(stage)
      const spots = createSpots(stage, {
        open: (target, spot) => cards?.open(target, spot),
        hover: (target, opener) => cards?.hover(target, opener),
        type: typed,
        tally: target => tallyIn(pane(), target),
      })
      const crosshair = makeCrosshair(stage, frame)
      scene = { stage, board, spots, crosshair, fingertips, spoken: createSpoken(stage) }
      if (current.open) placing(scene)
    }
    drawParts()
  }

  const draw = () => {
    drawParts()
    arrangeNow()
  }

  const drawParts = () => {
    if (!current.open) drawResult()
    else drawWork()
    drawPanes()
    singly?.draw()
  }

  /** @param {PaneView} state */
  const drawOwnBank = state => {
    drawBank(state, inHand)
    const found = foundOf(state)
    drawFound({ found })
    part('bank').hidden = holdablesOf(state).length + found.length === 0
    part('bank-left').hidden = holdablesOf(state).length === 0
    work.classList.toggle('no-bank', holdablesOf(state).length + found.length === 0)
  }

  const drawWork = () => {
    const state = pane()
    drawScene(state, false)
    drawCheck(part('check'), state)
    drawNotes(part('notes'), state, current)
    drawOwnBank(state)
    const { done, all, pinned } = tallyOf(state)
    const words = link === 'saved' && !touched ? '' : phrase(`screen.${link}`)
    const onlyZones = state.targets.every(target => target.kind === 'telling' || target.kind === 'concealed' || target.kind === 'sorting')
    const tally = [
      ...(all > 0 ? [phrase(onlyZones ? 'screen.placed' : 'screen.done', { done, all })] : []),
      ...(state.takesPins && (pinned > 0 || all === 0) ? [phrase('screen.pinned', { count: pinned })] : []),
    ]
    const line = [...tally, checkedLine(state, returned)].filter(Boolean).join(' ')
    drawProgress({ line, words, isQuiet: link === 'saved' })
    work.classList.toggle('holding', inHand !== null)
  }

  /** @param {PaneView} state @param {boolean} key */
  const drawScene = (state, key) => {
    matching?.draw(key)
    making?.draw()
    if (!scene) return
    const pinned = pinnedOf(state)
    // Copies that begin on the picture lie there until they are moved.
    const begun = key
      ? []
      : state.labels.flatMap(label =>
          label.start && freeCopy(state, label) === 0 ? [{ label: label.id, copy: 0, at: label.start, isMark: false, isStart: true }] : [],
        )
    scene.board.draw(state, { inHand, key, pinned: [...begun, ...pinned], holdables: holdablesOf(state) })
    scene.spots.draw(state, key)
    scene.crosshair.hidden =
      !current.open || (!state.takesPins && markersOf(state).length === 0 && !state.targets.some(target => target.kind === 'concealed'))
  }

  const drawProgress = whenChanged((/** @type {{line: string, words: string, isQuiet: boolean}} */ { line, words, isQuiet }) => {
    const said = document.createElement('span')
    said.className = isQuiet ? 'quiet' : ''
    said.textContent = words
    part('progress').replaceChildren(line, ...(line && words ? [' '] : []), said)
  })

  const drawCells = createPanes(part('panes'), { show: index => show(index), overview: () => overview(false) })
  const drawPanes = () => drawCells({ tallies: view.panes.map((_, i) => tallyOf(paneOf(view, current, i))), shown, marked: again.all() })

  /** @param {number} index Of the pane. */
  const show = index => {
    if (index === shown) return
    cards?.close()
    making?.finish()
    shown = index
    history.replaceState(null, '', `#pane=${index + 1}`)
    openPane()
    arrangeNow()
    say(phrase('screen.atPicture', { number: index + 1, all: view.panes.length }))
  }

  startZoom(part('zoom'), part('mat'), { stage: () => scene?.stage ?? null, isBusy: () => inHand !== null })
  showMessage()
  foldIntro(work, part('about'), touched || !current.open)

  const sender = createSender({
    movesUrl: work.dataset.moves ?? '',
    handInUrl: work.dataset.handIn ?? '',
    deviceKey: work.dataset.key,
    version: known.version,
    answers: () => current.panes.reduce((sum, pane) => sum + answersIn(pane), 0),
    onWork(answer, version) {
      const next = merged(current, answer)
      known.keep(next, version)
      const [before, after] = [current.panes[shown], next.panes[shown]]
      const right = rightIn(after) - rightIn(before)
      returned = Math.max(0, before.placed.length + before.pins.length - after.placed.length - after.pins.length)
      current = next
      draw()
      cards?.refresh()
      if (right > 0) cheer?.found({ right, isAll: isAllRight(pane()) })
      for (const target of after.found.filter(
        target => target.kind !== 'concealed' && !before.found.some(found => found.id === target.id),
      )) {
        say(target.prompt ? phrase('screen.foundNamed', { name: target.prompt }) : phrase('screen.found'))
        if (target.kind === 'telling')
          cards?.open(target, /** @type {HTMLElement | null} */ (document.querySelector(`.spot[data-target="${target.id}"]`)) ?? undefined)
      }
    },
    onHandedIn: handed => handedIn(handed.work),
    onLate() {
      stopClock()
      visit?.again()
    },
    onLink(next) {
      link = next
      work.dataset.link = next
      draw()
    },
    onRefused(sentence) {
      say(sentence)
      part('trouble').textContent = sentence
      part('trouble').hidden = false
    },
  })
  if (current.open) {
    for (const { pane, move } of sender.waiting()) {
      const index = view.panes.findIndex(frame => frame.id === pane)
      if (index >= 0) current = applied(view, current, index, move)
      touched = true
    }
  }

  const stopClock =
    work.dataset.left && current.open && document.getElementById('clock')
      ? startClock(part('clock'), {
          left: Number(work.dataset.left),
          hasLimit: work.dataset.limit === 'true',
          say,
          async ask() {
            const answer = await get(work.dataset.time ?? '')
            return answer.ok ? (answer.body.isOpen ? answer.body.left : 0) : null
          },
          onEnd: () => atTheEnd(),
        })
      : () => {}

  /** What was not sent yet goes with the wish to hand in; the server says what counts. */
  async function atTheEnd() {
    making?.finish()
    try {
      await sender.handIn()
    } catch (error) {
      say(error instanceof Error ? error.message : String(error))
    }
    visit?.again()
  }

  /** @param {Move} move */
  function make(move) {
    current = applied(view, current, shown, move)
    touched = true
    sender.send(pane().id, move)
    draw()
  }

  /**
   * What is typed is kept as it grows, and sent when the field is left or rests.
   * @param {string} target
   * @param {string} text
   * @param {boolean} isFinished
   */
  function typed(target, text, isFinished) {
    clearTimeout(typing.get(target))
    const send = () => {
      const known = current.panes[shown].done.find(done => done.target === target)?.text ?? ''
      if (text !== known) make({ kind: 'typeText', target, text })
    }
    // Where marks show, half a word must not be checked.
    if (isFinished) send()
    else if (!pane().marks) typing.set(target, setTimeout(send, 600))
  }

  /** @param {Scene} on */
  function placing({ stage, board, crosshair, fingertips }) {
    hand = startPlacing(
      {
        stage,
        pane,
        crosshair,
        say,
        bank: part('bank'),
        fingertips,
        hover(place) {
          const zone = place && 'zone' in place ? place.zone : null
          board.hover(zone)
          fingertips.hover(zone)
          if (place && 'at' in place) readOut?.read(place.at)
        },
        show(label) {
          if (label) drawUp(false)
          if (label) play(pane().labels.find(known => known.id === label.label))
          inHand = label
          draw()
          readOut?.hold(label)
          // On a small screen, or for a finger, nobody has to aim at what is smaller than a fingertip.
          const isCoarse = innerWidth < 600 || innerHeight < 480 || matchMedia('(pointer: coarse)').matches
          fingertips.draw(label && isCoarse && !markersOf(pane()).some(marker => marker.id === label.label) ? pane() : null)
        },
        mayTake(label) {
          if (!isHeld(pane(), label)) return pane().open
          say(phrase('screen.heldFast', { label: textOf(label.label) }))
          return false
        },
        press(at) {
          if (!pane().open) return null
          if (pane().targets.some(target => target.kind === 'concealed')) make({ kind: 'lookAt', at })
          // With a single thing to mark and nothing else in the bank, a click marks; where there is one mark, it takes the new place.
          const free = holdablesOf(pane()).filter(held => freeCopy(pane(), held) !== null || (held.isMarker && held.copies === 1))
          return free.length === 1 && free[0].isMarker ? { label: free[0].id, copy: freeCopy(pane(), free[0]) ?? 0 } : null
        },
        put(label, place) {
          if (!pane().open) {
            say(phrase('refused.settled'))
            return
          }
          if ('at' in place) {
            make(moveTo(pane(), label, place.at))
            say([phrase('screen.putDown', { label: textOf(label.label) }), ...tellAt(label.label, place.at)].join(' '))
            return
          }
          const there = pane().placed.filter(placed => placed.zone === place.zone)
          if (
            there.some(placed => isHeld(pane(), placed)) &&
            there.length >= (pane().zones.find(z => z.id === place.zone)?.capacity ?? 1)
          ) {
            say(phrase('screen.heldThere'))
            return
          }
          make({ kind: 'putDown', ...label, zone: place.zone })
          const number = pane().zones.findIndex(z => z.id === place.zone) + 1
          const isThere = (/** @type {Placement} */ known) =>
            pane().placed.some(placed => placed.label === known.label && placed.copy === known.copy)
          // What had to make room is back in the bank.
          say(
            [
              phrase('screen.putInto', { label: textOf(label.label), number }),
              ...there.filter(known => !isThere(known)).map(known => phrase('screen.backInBank', { label: textOf(known.label) })),
            ].join(' '),
          )
        },
        takeBack(label) {
          make(moveBack(pane(), label))
          say(phrase('screen.backInBank', { label: textOf(label.label) }))
        },
      },
      left.signal,
    )
  }
  /** What may be told of a spot where something was put. @param {string} held @param {Point} at @returns {string[]} */
  function tellAt(held, at) {
    const value = readOut?.say(held, at)
    const region = pane().targets.find(target => target.kind === 'sorting' && target.tally && distanceTo(target.region, at) === 0)
    return [...(value ? [value] : []), ...(region ? [tallyIn(pane(), region)] : [])]
  }
  const sheet = document.getElementById('all-labels')
  /** @param {boolean} isOpen */
  const drawUp = isOpen => {
    part('bank').classList.toggle('open', isOpen)
    sheet?.setAttribute('aria-expanded', String(isOpen))
    arrangeNow()
  }
  sheet?.addEventListener('click', () => drawUp(!part('bank').classList.contains('open')))

  /** Shows one place after the other; loaded when it is first asked for. @type {import('./singly.js').Singly | null} */
  let singly = null
  /** @param {Thing} [at] */
  const workSingly = async at => {
    // What is made lies in one list already.
    if (pane().targets.some(target => target.kind === 'making'))
      return /** @type {HTMLElement | null} */ (part('making').querySelector('button, input'))?.focus()
    if (!singly) {
      const { createSingly } = await import('./singly.js')
      singly = createSingly(part('one'), { pane, make, type: typed, cards, say, leave: () => singleButton?.focus() })
    }
    singly.open(at)
  }
  const singleButton = document.getElementById('singly')
  singleButton?.addEventListener('click', () => workSingly())

  document.getElementById('check')?.addEventListener('click', () => {
    part('trouble').hidden = true
    make({ kind: 'pressCheck' })
  })
  openPane()
  const { aids = [], cheers = false, beginsSingly = false } = view.screen
  if (current.open) {
    if (aids.length > 0)
      import('./aids.js').then(({ createAids }) => createAids(part('tools'), aids, { stage: () => scene?.stage ?? null, over: work }))
    if (cheers)
      import('./cheer.js').then(({ createCheer }) => {
        cheer = createCheer(part('tools'), part('board'))
      })
    if (view.panes.some(frame => frame.targets.some(target => target.kind === 'showing' && target.showsValue)))
      import('./read-out.js').then(({ createReadOut }) => {
        readOut = createReadOut(part('tools'), {
          pane,
          put(held, at, typed) {
            hand?.letGo()
            make(moveTo(pane(), held, at))
            say([phrase('screen.putDown', { label: textOf(held.label) }), typed].join(' '))
          },
        })
      })
    if (beginsSingly) workSingly()
    work.addEventListener('focusin', offerSigns)
  }
  /** Signs are offered once something is typed. @param {FocusEvent} event */
  async function offerSigns(event) {
    if (!(/** @type {Element} */ (event.target).matches('input[type=text], input:not([type]), textarea'))) return
    work.removeEventListener('focusin', offerSigns)
    const { offerSymbols } = await import('./symbols.js')
    offerSymbols(work)
  }

  /** When all that is needed now is there, what may be needed without a connection is kept too. @param {Visit} from */
  async function keepAfterLoading(from) {
    const { canOpenOffline, keepForOffline } = await import('./offline.js')
    if (!canOpenOffline) part('intro').append(Object.assign(document.createElement('p'), { textContent: phrase('screen.needsConnection') }))
    await keepForOffline(mediaOf(view), from)
  }

  /** @param {string} label */
  function textOf(label) {
    return holdablesOf(pane()).find(l => l.id === label)?.text ?? ''
  }

  /** The overview, or the last look before handing in. @param {boolean} isLast */
  async function overview(isLast) {
    const { openReview } = await import('./review.js')
    openReview(/** @type {HTMLDialogElement} */ (part('review')), {
      isLast,
      panes: view.panes.map((_, i) => paneOf(view, current, i)),
      leaving: view.screen.leaving ?? 'askedOnce',
      again,
      redraw: drawPanes,
      go(index, thing) {
        show(index)
        if (thing) lead(thing)
      },
      handIn,
    })
  }
  document.getElementById('hand-in')?.addEventListener('click', () => overview(true))

  /** Leads to a thing. @param {{id: string} & Partial<Thing>} thing */
  function lead(thing) {
    const element = /** @type {HTMLElement | null} */ (
      document.querySelector(
        `[data-zone="${thing.id}"].zone-button, .spot[data-target="${thing.id}"], [data-target="${thing.id}"] .answer-field`,
      )
    )
    if (element) element.focus()
    else workSingly(/** @type {Thing} */ (thing))
  }

  /** Throws a sentence for the student where it could not be. */
  async function handIn() {
    making?.finish()
    const answer = await sender.handIn()
    if (answer) handedIn(answer.work)
  }

  /** @param {WorkAnswer} handed */
  function handedIn(handed) {
    stopClock()
    endNews()
    if (visit) return visit.again()
    current = merged(current, handed)
    for (const id of ['hand-in', 'check', 'singly', 'all-labels']) document.getElementById(id)?.remove()
    openPane()
    arrangeNow()
    work.dispatchEvent(new CustomEvent('outcome', { detail: current.score }))
  }

  function drawResult() {
    const state = pane()
    work.classList.add('done')
    drawNotes(part('notes'), state, current)
    part('progress').replaceChildren(scoreLine(current) ?? phrase('result.handedIn'))
    const list = markList(state)
    const panel = part('bank')
    panel.setAttribute('aria-label', phrase('result.result'))
    panel.className = 'bank'
    const parts = []
    if (state.key) {
      const toggle = document.createElement('button')
      toggle.type = 'button'
      toggle.className = 'btn btn-outline-primary'
      toggle.textContent = phrase(isKey ? 'result.showMine' : 'result.showKey')
      toggle.addEventListener('click', () => {
        isKey = !isKey
        draw()
        panel.querySelector('button')?.focus()
      })
      parts.push(toggle)
    }
    const box = document.createElement('div')
    box.className = 'result'
    box.append(...parts, ...(list ? [list] : []))
    panel.replaceChildren(box)
    panel.hidden = box.childElementCount === 0
    work.classList.toggle('no-bank', panel.hidden)
    drawScene(state, isKey && state.key !== null)
    scene?.spoken(remarksOf(state).flatMap(({ at, number }) => (at ? [{ at, number }] : [])))
    for (const button of scene?.stage.overlay.querySelectorAll('.zone-button, .pin .label') ?? [])
      /** @type {HTMLButtonElement} */ (button).tabIndex = -1
  }

  function showMessage() {
    if (!view.message) return
    const box = part('message')
    box.append(cardOf(view.message, view.messageText))
    box.hidden = false
  }

  // What the trial needs to play an attempt through this screen.
  work.addEventListener('play', event => {
    const { pane: name, move } = /** @type {CustomEvent} */ (event).detail
    const index = view.panes.findIndex(frame => frame.id === name)
    if (index !== shown) show(index)
    make(move)
  })
  work.addEventListener('finish', () => handIn())
  // The first label can be moved before anything is kept.
  if (visit) requestIdleCallback(() => keepAfterLoading(visit), { timeout: 5000 })
  setFormulas(/** @type {HTMLElement} */ (work.querySelector('.work-instructions')))
  work.dataset.ready = 'true'
  performance.mark('ready')
  if (visit && work.dataset.news && current.open)
    import('./news.js').then(({ startNews }) => {
      endNews = startNews(part('told'), {
        url: work.dataset.news ?? '',
        key: work.dataset.key ?? '',
        show: id => show(view.panes.findIndex(frame => frame.id === id)),
        shown: () => ({ pane: pane().id, stage: scene?.stage ?? null }),
        say,
      })
    })
}

/** The pictures and sounds of an activity, each in the size that is loaded last. @param {StudentView} view */
function mediaOf(view) {
  const hashes = new Set(JSON.stringify(view).match(/(?<="media":")[0-9a-f]{64}(?=")/g))
  return [...hashes].map(hash => `/media/${hash}/960`)
}

/** @param {import('../scene/stage.js').Stage} stage @param {PaneView} frame */
function makeCrosshair(stage, frame) {
  const crosshair = document.createElement('button')
  crosshair.type = 'button'
  crosshair.className = 'crosshair'
  crosshair.setAttribute('aria-label', phrase('screen.cross'))
  const { left, top, right, bottom } = stage.plane
  placeCrosshair(crosshair, { x: Math.round((left + right) / 2), y: Math.round((top + bottom) / 2) })
  crosshair.hidden = !frame.open
  stage.overlay.append(crosshair)
  return crosshair
}
