// Live events of the server, which holds back more of them until those that it sent were read.

import { post } from './http.js'

/**
 * @param {string} url Of the events.
 * @param {(data: string) => void} take
 */
export function followed(url, take) {
  const got = new URL(url, location.href)
  got.searchParams.set('handler', 'Got')
  const source = new EventSource(`${url}&says=true`)
  source.addEventListener('message', ({ data, lastEventId }) => {
    take(data)
    post(`${got.href}&read=${encodeURIComponent(lastEventId)}`, {})
  })
  return source
}
