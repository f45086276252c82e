// Recording a sound: a level meter while it runs, a stop by itself at the longest length, and what was recorded as a file.

import { phrase } from '../language.js'

/** The longest recording in seconds; it is said beside the button. */
const longestRecording = 120

/**
 * @param {(level: number, seconds: number) => void} onLevel From 0 to 1, many times a second.
 * @param {(file: File) => void} onDone
 * @returns {Promise<{stop: () => void, cancel: () => void}>}
 */
export async function record(onLevel, onDone) {
  const stream = await navigator.mediaDevices.getUserMedia({ audio: true })
  const type = ['audio/webm;codecs=opus', 'audio/mp4'].find(kind => MediaRecorder.isTypeSupported(kind)) ?? ''
  const recorder = new MediaRecorder(stream, type ? { mimeType: type } : {})
  const context = new AudioContext()
  const analyser = context.createAnalyser()
  analyser.fftSize = 1024
  context.createMediaStreamSource(stream).connect(analyser)
  const samples = new Float32Array(analyser.fftSize)
  const started = performance.now()
  /** @type {Blob[]} */
  const parts = []
  let isWanted = true
  let frame = 0
  const meter = () => {
    analyser.getFloatTimeDomainData(samples)
    const loudness = Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length)
    const seconds = (performance.now() - started) / 1000
    // Decibels below full scale, from -60 to 0.
    onLevel(Math.min(1, Math.max(0, 1 + Math.log10(Math.max(1e-3, loudness)) / 3)), seconds)
    if (seconds >= longestRecording) stop()
    else frame = requestAnimationFrame(meter)
  }
  const stop = () => {
    if (recorder.state !== 'inactive') recorder.stop()
  }
  recorder.addEventListener('dataavailable', event => parts.push(event.data))
  recorder.addEventListener('stop', () => {
    cancelAnimationFrame(frame)
    for (const track of stream.getTracks()) track.stop()
    context.close()
    const kind = recorder.mimeType.split(';')[0]
    if (isWanted) onDone(new File(parts, `Recording.${kind.includes('mp4') ? 'm4a' : 'webm'}`, { type: kind }))
  })
  recorder.start()
  meter()
  return {
    stop,
    cancel() {
      isWanted = false
      stop()
    },
  }
}

/** @param {unknown} error @returns {string} Why nothing was recorded. */
export function whyNot(error) {
  const name = error instanceof Error ? error.name : ''
  if (name === 'NotAllowedError') return phrase('bench.theBrowserDoesNotLetFenster')
  if (name === 'NotFoundError') return phrase('bench.thereIsNoMicrophonePlugOne')
  return phrase('bench.theMicrophoneCouldNotBeUsed')
}
