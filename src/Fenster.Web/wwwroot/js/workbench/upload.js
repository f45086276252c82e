// Getting a picture onto the server: chosen, dropped or pasted.

import { post } from '../http.js'

/** @param {DataTransfer | null} data @returns {File[]} The files of a drop or a paste. */
export const filesOf = data => [...(data?.files ?? [])]

/**
 * @param {File[]} files
 * @param {number} mostBytes
 * @param {boolean} [isLabel] Whether it becomes a label: trimmed, and as high as all of them.
 * @returns {Promise<{media?: {hash: string, width: number, height: number}, sentence?: string}>}
 */
export async function uploadPicture(files, mostBytes, isLabel = false) {
  const file = files.find(f => f.type.startsWith('image/')) ?? files[0]
  if (!file) return { sentence: 'There is no picture in what was pasted or dropped. Copy a picture or choose a file.' }
  const name = file.name || 'The picture'
  if (file.size > mostBytes) {
    return { sentence: `${name} has ${Math.ceil(file.size / 1048576)} MB; a picture may have up to ${mostBytes / 1048576} MB. Save it smaller and try again.` }
  }
  const answer = await post(isLabel ? '/pictures?label=true' : `/pictures?name=${encodeURIComponent(name)}`, file)
  if (answer.offline) return { sentence: 'The picture could not be sent: there is no connection to the server. Try again when you are online.' }
  return answer.ok ? { media: answer.body } : { sentence: `${name}: ${answer.sentence}` }
}
