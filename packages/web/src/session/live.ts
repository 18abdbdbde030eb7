import { liveSilenceMs, type LiveNote, type LiveRequest } from '@moth-lamp/contract'

const retryMs = [250, 500, 1000, 2000, 4000]

/** One WebSocket for the whole window: told of the revisions of watched projects; made anew whenever it is lost. */
class Live {
  private socket: WebSocket | null = null
  private watched = new Map<string, (note: LiveNote) => void>()
  private failures = 0
  private retry = 0
  private silence = 0

  /** On a network again: a line that waits to be made is made at once. */
  private online = (): void => {
    if (!this.socket && this.watched.size) this.connect()
  }

  /** Hears of a project from now on, beginning with its newest revision; the result ends it. */
  watch(project: string, hear: (note: LiveNote) => void): () => void {
    this.watched.set(project, hear)
    window.addEventListener('online', this.online)
    if (!this.socket) this.connect()
    else this.say({ watch: project })
    return () => {
      if (this.watched.get(project) !== hear) return
      this.watched.delete(project)
      this.say({ unwatch: project })
      if (!this.watched.size) this.disconnect()
    }
  }

  private connect(): void {
    clearTimeout(this.retry)
    const socket = new WebSocket(`ws://${location.host}/api/live`)
    this.socket = socket
    socket.onopen = () => {
      this.failures = 0
      this.listenFor(socket)
      // After a gap, however long, each is told its newest revision again.
      for (const project of this.watched.keys()) this.say({ watch: project })
    }
    socket.onmessage = ({ data }: MessageEvent<string>) => {
      this.listenFor(socket)
      const note = JSON.parse(data) as Partial<LiveNote>
      if (note.project !== undefined) this.watched.get(note.project)?.(note as LiveNote)
    }
    socket.onclose = () => this.lost(socket)
  }

  /** A line on which nothing comes for too long is dead, whatever it says. */
  private listenFor(socket: WebSocket): void {
    clearTimeout(this.silence)
    this.silence = window.setTimeout(() => socket.close(), liveSilenceMs)
  }

  private lost(socket: WebSocket): void {
    if (this.socket !== socket) return
    clearTimeout(this.silence)
    this.socket = null
    if (this.watched.size)
      this.retry = window.setTimeout(() => this.connect(), retryMs[Math.min(this.failures++, retryMs.length - 1)])
  }

  private disconnect(): void {
    clearTimeout(this.retry)
    clearTimeout(this.silence)
    window.removeEventListener('online', this.online)
    const { socket } = this
    this.socket = null
    socket?.close()
  }

  private say(request: LiveRequest): void {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(request))
  }
}

export const live = new Live()
