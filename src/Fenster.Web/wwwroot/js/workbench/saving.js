// Saving as the page shows it: how far it is, and what to do where it can't go on.

import { phrase } from '../language.js'
import { readsTheSame } from '../same.js'
import { createSaver, isOutrun, keptOnDevice } from './saver.js'

const words = {
  saved: phrase('bench.saved'),
  saving: phrase('bench.saving'),
  offline: phrase('bench.offlineKeptOnThisDevice'),
  conflict: phrase('bench.notSaved'),
  refused: phrase('bench.notSaved'),
  signedOut: phrase('bench.keptOnThisDevice'),
}

/** @param {import('./desk.js').Desk} desk */
export function savingPart(desk) {
  const deviceKey = `draft-${desk.data.activity}`
  const version = Number(desk.data.version)

  /** @param {import('./saver.js').SaveState} save @param {string} sentence */
  const showSave = (save, sentence) => {
    const state = desk.state()
    state.saveState = words[save]
    state.saveClass = save === 'saved' || save === 'saving' ? '' : 'save-offline'
    state.isSignedOut = save === 'signedOut'
    if (save === 'conflict') state.conflict = sentence
    else if (save !== 'saving' && save !== 'signedOut' && sentence) state.problem = sentence
  }
  const saver = createSaver({
    url: desk.url,
    deviceKey,
    version,
    document: desk.doc(),
    onState: showSave,
    onSaved: answer => desk.hear(answer.says),
  })

  return {
    save: saver.save,
    /** Saves what waits to be saved now. */
    flush: saver.flush,
    /** Whether this page shows an older draft than the device has sent, as after going back in the browser. */
    isOutrun: () => isOutrun(deviceKey, version),
    show() {},
    /** Takes up what was kept on the device while there was no connection. */
    listen() {
      const kept = keptOnDevice(deviceKey)
      if (!kept || readsTheSame(kept.document, desk.doc())) return
      desk.replace(kept.document)
      saver.setVersion(kept.version)
      saver.save(kept.document)
    },
    page: {
      saveState: phrase('bench.saved'),
      saveClass: '',
      conflict: '',
      problem: '',
      isSignedOut: false,
      /** @param {Event} event */
      async leave(event) {
        event.preventDefault()
        const { href } = /** @type {HTMLAnchorElement} */ (event.currentTarget)
        await saver.flush()
        location.href = href
      },
      /** The picture room works on the pane that is shown. @param {Event} event */
      async leaveForRoom(event) {
        event.preventDefault()
        await saver.flush()
        location.href = `${desk.url}/picture?pane=${desk.index()}`
      },
      async takeTheirs() {
        const newest = await saver.newest()
        if (!newest) return
        saver.setVersion(newest.version)
        desk.state().conflict = ''
        await saver.resolve(false)
        desk.replace(newest.document)
        showSave('saved', '')
      },
      keepMine() {
        desk.state().conflict = ''
        saver.resolve(true)
      },
      dismiss() {
        desk.state().problem = ''
      },
      signedIn() {
        saver.flush()
      },
    },
  }
}
