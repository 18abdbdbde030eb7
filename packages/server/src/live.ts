import type { IncomingMessage, Server } from 'node:http'
import type { Duplex } from 'node:stream'
import { WebSocketServer, type WebSocket } from 'ws'
import type { Logger } from 'pino'
import { liveBeatMs, liveSchema, type LiveNote, type LiveRequest } from '@moth-lamp/contract'
import type { Commits } from './commits.ts'
import { isOwnOrigin } from './origin.ts'
import type { Store } from './store.ts'

/** Projects one window may watch, and sockets of all windows together. */
const mostWatched = 20
const mostSockets = 500

/**
 * One WebSocket a window, at `/api/live`: it watches projects and is told their newest revision, at once and with every
 * commit. Says every now and then that it is there, so that a window notices a line that is dead.
 */
export function serveLive(server: Server, store: Store, commits: Commits, log: Logger): () => void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: 4096, clientTracking: true })
  const refuse = (socket: Duplex, status: string) => socket.end(`HTTP/1.1 ${status}\r\nconnection: close\r\n\r\n`)
  server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
    socket.on('error', (error) => log.debug({ err: error }, 'a socket broke'))
    if (new URL(request.url ?? '', 'http://here').pathname !== '/api/live') return refuse(socket, '404 Not Found')
    if (!isOwnOrigin(request)) return refuse(socket, '403 Forbidden')
    if (sockets.clients.size >= mostSockets) return refuse(socket, '503 Service Unavailable')
    sockets.handleUpgrade(request, socket, head, (made) => serveWindow(made, store, commits, log))
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

function serveWindow(socket: WebSocket, store: Store, commits: Commits, log: Logger): void {
  const watched = new Map<string, (note: LiveNote) => void>()
  const leave = (project: string) => {
    const tell = watched.get(project)
    if (tell) commits.unwatch(project, tell)
    watched.delete(project)
  }
  socket.on('error', (error) => log.debug({ err: error }, 'a window’s socket broke'))
  socket.on('close', () => [...watched.keys()].forEach(leave))
  socket.on('message', (data) => {
    const request = understood(String(data as Buffer))
    if (!request) return socket.close(1008, 'not understood')
    if ('unwatch' in request) return leave(request.unwatch)
    if (watched.has(request.watch)) return
    if (watched.size >= mostWatched) return socket.close(1008, 'too many projects')
    const tell = (note: LiveNote) => socket.send(JSON.stringify(note))
    watched.set(request.watch, tell)
    // First heard of, then read: a commit between the two is told twice rather than not at all.
    commits.watch(request.watch, tell)
    store.newest(request.watch).then(
      (note) => note && tell(note),
      (error: unknown) => {
        log.warn({ err: error }, 'a watched project cannot be read')
        socket.close(1013, 'try again later')
      },
    )
  })
}

function understood(text: string): LiveRequest | null {
  try {
    const { value, error } = liveSchema.validate(JSON.parse(text), { convert: false })
    return error ? null : (value as LiveRequest)
  } catch {
    return null
  }
}
