import type { IncomingMessage, Server } from 'node:http'
import type { Duplex } from 'node:stream'
import { WebSocketServer, type WebSocket } from 'ws'
import type { Logger } from 'pino'
import { liveBeatMs, liveSchema, type LiveNote, type LiveRequest } from '@moth-lamp/contract'
import type { Commits } from './commits.ts'
import { Newest } from './newest.ts'
import { isOwnOrigin } from './origin.ts'
import type { Store } from './store.ts'

/** Projects one window may watch, and sockets of all windows together. */
const mostWatched = 20
const mostSockets = 500
/** Messages a window may send at once, and how many more each second. */
const mostAtOnce = 200
const mostASecond = 20

/**
 * One WebSocket a window, at `/api/live`: it watches projects and is told their newest revision, at once and with every
 * commit. Says every now and then that it is there, so that a window notices a line that is dead. No upgrade and no message,
 * however wrong, throws out of here: what does would end the process.
 */
export function serveLive(server: Server, store: Store, commits: Commits, log: Logger): () => void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: 4096, clientTracking: true })
  const newest = new Newest((ids) => store.newest(ids))
  server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
    socket.on('error', (error) => log.debug({ err: error }, 'a socket broke'))
    try {
      const refusal = refusalOf(request, sockets.clients.size)
      if (refusal) socket.end(`HTTP/1.1 ${refusal}\r\nconnection: close\r\n\r\n`)
      else sockets.handleUpgrade(request, socket, head, (made) => serveWindow(made, newest, commits, log))
    } catch (error) {
      log.error({ err: error }, 'an upgrade failed')
      socket.destroy()
    }
  })
  const beat = setInterval(() => {
    for (const client of sockets.clients) client.send('{}')
  }, liveBeatMs)
  return () => {
    clearInterval(beat)
    for (const client of sockets.clients) client.terminate()
    sockets.close()
  }
}

/** Why an upgrade is refused, as a status line; null where it is not. The origin comes first: nothing of a foreign page is read. */
function refusalOf(request: IncomingMessage, open: number): string | null {
  if (!isOwnOrigin(request)) return '403 Forbidden'
  if ((request.url ?? '').split('?')[0] !== '/api/live') return '404 Not Found'
  return open >= mostSockets ? '503 Service Unavailable' : null
}

function serveWindow(socket: WebSocket, newest: Newest, commits: Commits, log: Logger): void {
  const watched = new Map<string, (note: LiveNote) => void>()
  const mayHear = rateLimit(mostAtOnce, mostASecond)
  const leave = (project: string) => {
    const tell = watched.get(project)
    if (tell) commits.unwatch(project, tell)
    watched.delete(project)
  }
  const watch = (project: string) => {
    if (watched.has(project)) return
    if (watched.size >= mostWatched) return socket.close(1008, 'too many projects')
    const tell = (note: LiveNote) => socket.send(JSON.stringify(note))
    watched.set(project, tell)
    // First heard of, then read: a commit between the two is told twice rather than not at all.
    commits.watch(project, tell)
    newest.of(project).then(
      (note) => note && watched.get(project) === tell && tell(note),
      (error: unknown) => {
        log.warn({ err: error }, 'a watched project cannot be read')
        socket.close(1013, 'try again later')
      },
    )
  }
  const hear = (data: unknown) => {
    if (socket.readyState !== socket.OPEN) return
    if (!mayHear()) return socket.close(1008, 'too many messages')
    const request = understood(String(data))
    if (!request) return socket.close(1008, 'not understood')
    if ('unwatch' in request) leave(request.unwatch)
    else watch(request.watch)
  }
  socket.on('error', (error) => log.debug({ err: error }, 'the socket of a window broke'))
  socket.on('close', () => [...watched.keys()].forEach(leave))
  socket.on('message', (data) => {
    try {
      hear(data)
    } catch (error) {
      log.error({ err: error }, 'a message of a window failed')
      socket.close(1011, 'failed')
    }
  })
}

/** Whether one more may be heard: so many at once, and so many more with each second. */
function rateLimit(atOnce: number, aSecond: number): () => boolean {
  let left = atOnce
  let sinceMs = performance.now()
  return () => {
    const nowMs = performance.now()
    left = Math.min(atOnce, left + ((nowMs - sinceMs) / 1000) * aSecond)
    sinceMs = nowMs
    return left-- >= 1
  }
}

function understood(text: string): LiveRequest | null {
  try {
    const { value, error } = liveSchema.validate(JSON.parse(text), { convert: false })
    return error ? null : (value as LiveRequest)
  } catch {
    return null
  }
}
