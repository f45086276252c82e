// Getting pictures, sounds, videos and captions onto the server: chosen, dropped, pasted or recorded.

import { phrase } from '../language.js'
import { post, upload } from '../http.js'

/** @param {DataTransfer | null} data @returns {File[]} The files of a drop or a paste. */
export const filesOf = data => [...(data?.files ?? [])]

/** A description from a file's name: lower-deck_02.png is “lower deck 02”. @param {string} name */
export const wordsOf = name =>
  name
    .replace(/\.[^.]+$/, '')
    .replace(/[_-]+/g, ' ')
    .trim() || phrase('bench.picture')

/**
 * @param {File[]} files
 * @param {number} mostBytes
 * @param {(share: number) => void} onProgress From 0 to 1.
 * @param {boolean} [isLabel] Whether it becomes a label: trimmed, and as high as all of them.
 * @returns {Promise<{media?: {hash: string, width: number, height: number}, sentence?: string}>}
 */
export async function uploadPicture(files, mostBytes, onProgress, isLabel = false) {
  const file = files.find(f => f.type.startsWith('image/')) ?? files[0]
  if (!file) return { sentence: phrase('bench.thereIsNoPictureInWhat') }
  const name = file.name || phrase('common.thePicture')
  if (file.size > mostBytes) {
    return {
      sentence: phrase('common.tooManyBytes', { name, size: Math.ceil(file.size / 1048576), most: mostBytes / 1048576 }),
    }
  }
  const answer = await upload(isLabel ? '/pictures?label=true' : `/pictures?name=${encodeURIComponent(name)}`, file, onProgress)
  if (answer.offline) return { sentence: phrase('bench.thePictureCouldNotBeSent') }
  return answer.ok ? { media: answer.body } : { sentence: `${name}: ${answer.sentence}` }
}

/**
 * Any file that can stand in place of words.
 * @param {File} file
 * @param {number} mostBytes
 * @param {(share: number) => void} onProgress From 0 to 1.
 * @returns {Promise<{face?: Face, sentence?: string}>}
 */
export async function uploadFace(file, mostBytes, onProgress) {
  if (file.type.startsWith('image/') || /\.(svg|png|jpe?g|gif|webp)$/i.test(file.name)) {
    const { media, sentence } = await uploadPicture([file], mostBytes, onProgress, true)
    return media ? { face: { kind: 'picture', media: media.hash, width: media.width, height: media.height } } : { sentence }
  }
  const size = isVideo(file) ? await sizeOf(file) : null
  const answer = await upload(size ? '/videos' : '/sounds', file, onProgress)
  if (!answer.ok) return { sentence: answer.offline ? answer.sentence : `${file.name}: ${answer.sentence}` }
  return { face: size ? { kind: 'video', media: answer.body.hash, ...size } : { kind: 'sound', media: answer.body.hash } }
}

/** @param {File} file @returns {Promise<{media?: string, sentence?: string}>} The captions of a video, as WebVTT. */
export async function uploadCaptions(file) {
  const answer = await post('/captions', file)
  return answer.ok ? { media: answer.body.hash } : { sentence: answer.offline ? answer.sentence : `${file.name}: ${answer.sentence}` }
}

/** @param {File} file */
const isVideo = file => file.type.startsWith('video/') || /\.mp4$/i.test(file.name)

/**
 * The width and height of a video; null of a file that holds but sound.
 * @param {File} file
 * @returns {Promise<{width: number, height: number} | null>}
 */
function sizeOf(file) {
  return new Promise(resolve => {
    const video = document.createElement('video')
    const url = URL.createObjectURL(file)
    const done = (/** @type {{width: number, height: number} | null} */ size) => {
      URL.revokeObjectURL(url)
      resolve(size)
    }
    video.preload = 'metadata'
    video.addEventListener(
      'loadedmetadata',
      () => done(video.videoWidth > 0 ? { width: video.videoWidth, height: video.videoHeight } : null),
      { once: true },
    )
    // What the browser can't read is sent as a video all the same: the server says what is wrong with it.
    video.addEventListener('error', () => done({ width: 1280, height: 720 }), { once: true })
    video.src = url
  })
}
