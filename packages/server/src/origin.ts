import type { IncomingMessage } from 'node:http'

/** Whether a request comes from a page of this very server, by a loopback name: a page elsewhere cannot reach through a browser. */
export function isOwnOrigin({ headers }: Pick<IncomingMessage, 'headers'>): boolean {
  const host = headers.host ?? ''
  const site = headers['sec-fetch-site']
  return (
    /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/.test(host) &&
    (headers.origin === undefined || headers.origin === `http://${host}`) &&
    (site === undefined || site === 'same-origin' || site === 'none')
  )
}
