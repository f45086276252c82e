// Live events of the server, which holds back more of them until those that it sent were read.

import { post } from './http.js'

/**
 * @param {string} url Of the events.
 * @param {(data: string) => void} take
 * @param {() => void} [lost] The line broke; the browser opens it again by itself.
 */
export function followed(url, take, lost = () => {}) {
  const got = new URL(url, location.href)
  got.searchParams.set('handler', 'got')
  /** @param {boolean} says Whether it is said what was read. */
  const open = says => {
    const source = new EventSource(says ? `${url}&says=true` : url)
    source.addEventListener('error', lost)
    source.addEventListener('message', async ({ data, lastEventId }) => {
      take(data)
      if (!says) return
      const { status } = await post(`${got.href}&read=${encodeURIComponent(lastEventId)}`, {})
      // Another server than the one that sends was told, which knows nothing of it.
      if (status !== 404 || source.readyState !== EventSource.OPEN) return
      source.close()
      open(false)
    })
  }
  open(true)
}
