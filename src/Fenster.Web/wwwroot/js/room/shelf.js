// Files on their way in, and the teacher's shelf.

import { phrase } from '../language.js'
import { post, upload } from '../http.js'
import { pagesOf } from './pdf.js'

/** @typedef {{hash: string, name: string, width: number, height: number, usedIn?: string[], board?: object}} ShelfPicture */

/**
 * @param {object} room
 * @param {HTMLElement} room.list
 * @param {HTMLElement} room.empty
 * @param {HTMLElement} room.arrivals
 * @param {ShelfPicture[]} room.pictures
 * @param {number} room.mostBytes
 * @param {string} room.pdf
 * @param {string} room.forgetUrl
 * @param {Parameters<typeof pagesOf>[2]} room.pages
 * @param {(picture: ShelfPicture) => void} room.choose
 */
export function createShelf({ list, empty, arrivals, pictures, mostBytes, pdf, forgetUrl, pages, choose }) {
  const draw = () => {
    empty.hidden = pictures.length > 0
    list.replaceChildren(
      ...pictures.map(picture => {
        const item = document.createElement('li')
        const button = pictureButton(`/media/${picture.hash}/480`, picture.name, () => choose(picture))
        const forget = document.createElement('button')
        forget.type = 'button'
        forget.className = 'btn btn-plain shelf-forget'
        forget.setAttribute('aria-label', phrase('room.offShelf', { name: picture.name }))
        forget.title = phrase('room.takeItOffTheShelf')
        forget.innerHTML = '<span class="icon icon-delete"></span>'
        forget.addEventListener('click', async () => {
          const answer = await post(`${forgetUrl}&hash=${picture.hash}`, {})
          if (!answer.ok) return
          pictures = pictures.filter(other => other !== picture)
          draw()
        })
        item.append(button, forget)
        if (picture.usedIn?.length) {
          const places = document.createElement('p')
          places.className = 'shelf-used'
          places.textContent =
            picture.usedIn.length > 1
              ? phrase('room.usedInMore', { activity: picture.usedIn[0], more: picture.usedIn.length - 1 })
              : phrase('room.usedIn', { activity: picture.usedIn[0] })
          places.title = picture.usedIn.join(', ')
          item.append(places)
        }
        return item
      }),
    )
  }
  draw()

  /** @param {string} name A line for one file; it goes when the file has arrived and stays, with a sentence, when it has not. */
  const arrival = name => {
    const line = document.createElement('li')
    const label = document.createElement('label')
    const words = document.createElement('span')
    const progress = document.createElement('progress')
    words.textContent = name
    label.append(words, progress)
    line.append(label)
    arrivals.append(line)
    return {
      /** @param {number} share From 0 to 1. */
      sent(share) {
        if (share < 1) progress.value = share
        else {
          progress.removeAttribute('value')
          words.textContent = phrase('common.madeReady', { what: name })
        }
      },
      done() {
        line.remove()
      },
      /** @param {string} sentence */
      failed(sentence) {
        line.className = 'arrival-failed'
        line.textContent = sentence
        const close = document.createElement('button')
        close.type = 'button'
        close.className = 'btn btn-plain btn-sm'
        close.textContent = phrase('common.close')
        close.addEventListener('click', () => line.remove())
        line.append(' ', close)
      },
    }
  }

  /** @param {File} file */
  const send = async file => {
    const name = file.name || phrase('room.clipping')
    const line = arrival(name)
    if (file.size > mostBytes) {
      line.failed(phrase('common.tooManyBytes', { name, size: Math.ceil(file.size / 1048576), most: mostBytes / 1048576 }))
      return null
    }
    const answer = await upload(`/pictures?name=${encodeURIComponent(name)}`, file, line.sent)
    if (!answer.ok) {
      line.failed(answer.offline ? phrase('room.notSent', { name }) : `${name}: ${answer.sentence}`)
      return null
    }
    line.done()
    const picture = { ...answer.body, name }
    put(picture)
    return picture
  }

  /** @param {ShelfPicture} picture */
  const put = picture => {
    pictures = [picture, ...pictures.filter(other => other.hash !== picture.hash)]
    draw()
  }

  /** Each file by itself: one that fails does not stop the others. @param {File[]} files @returns {Promise<ShelfPicture[]>} */
  const take = async files => {
    const arrived = []
    for (const file of files) {
      if (file.type === 'application/pdf' || /\.pdf$/i.test(file.name)) {
        const line = arrival(file.name)
        try {
          const { files: sheets, failures } = await pagesOf(pdf, file, pages)
          line.done()
          for (const failure of failures) arrival(file.name).failed(failure)
          for (const sheet of sheets) arrived.push(await send(sheet))
        } catch (error) {
          line.failed(error instanceof Error ? error.message : String(error))
        }
      } else {
        arrived.push(await send(file))
      }
    }
    return /** @type {ShelfPicture[]} */ (arrived.filter(Boolean))
  }
  return { take, put }
}

/**
 * @param {string} address Of the picture.
 * @param {string} name
 * @param {() => void} choose
 * @returns {HTMLButtonElement} A small picture over its name, to be put on the easel.
 */
export function pictureButton(address, name, choose) {
  const button = document.createElement('button')
  button.type = 'button'
  button.className = 'shelf-picture'
  button.title = phrase('room.toEasel', { name })
  const image = document.createElement('img')
  image.src = address
  image.alt = ''
  image.loading = 'lazy'
  const words = document.createElement('span')
  words.textContent = name
  button.append(image, words)
  button.addEventListener('click', choose)
  return button
}
