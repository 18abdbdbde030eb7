import type { Direction } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import type { FromLog, LogReading, ToLog } from './messages.ts'

/** The part of a worker that a reader needs. */
export interface LogWorker {
  postMessage(message: ToLog): void
  onmessage: ((event: MessageEvent<FromLog>) => unknown) | null
  onerror: ((event: ErrorEvent) => unknown) | null
  terminate(): void
}

const startWorker = (): LogWorker => new Worker(new URL('./log.worker.ts', import.meta.url), { type: 'module' })

/** A text to be read, and how. */
interface Wanted {
  project: Project
  text: string
  as: Direction | undefined
}

/** A reading that takes no longer is waited for, though it is no longer wanted: a worker that is begun anew takes as long, ms. */
const shortMs = 400

/**
 * Has logs explained by a worker. Only what was asked for last is answered: what comes meanwhile waits for a short reading, and
 * has a long one ended.
 */
export class LogReader {
  private worker: LogWorker | null = null
  /** Since when it reads; null: it does not. */
  private sinceMs: number | null = null
  private waiting: ToLog | null = null
  private asked = 0

  constructor(
    /** A reading has come; null: the layout cannot be used. */
    private came: (reading: LogReading | null) => void,
    private failed: (why: string) => void,
    private start: () => LogWorker = startWorker,
  ) {}

  read({ project, text, as }: Wanted, most: number): void {
    const message: ToLog = { type: 'explain', ask: ++this.asked, project, text, as, most }
    if (this.sinceMs !== null && performance.now() - this.sinceMs < shortMs) {
      this.waiting = message
      return
    }
    if (this.sinceMs !== null) this.end()
    this.send(message)
  }

  /** More of what was read last. */
  more(most: number): void {
    if (this.worker && this.sinceMs === null) this.send({ type: 'more', ask: ++this.asked, most })
  }

  end(): void {
    this.worker?.terminate()
    this.worker = null
    this.sinceMs = null
    this.waiting = null
  }

  private send(message: ToLog): void {
    this.worker ??= this.begun()
    this.sinceMs = performance.now()
    this.worker.postMessage(message)
  }

  private begun(): LogWorker {
    const worker = this.start()
    worker.onmessage = ({ data }) => {
      if (worker !== this.worker) return
      this.sinceMs = null
      const { waiting } = this
      this.waiting = null
      if (waiting) this.send(waiting)
      else if (data.ask === this.asked) this.came(data.reading)
    }
    worker.onerror = (event) => {
      if (worker !== this.worker) return
      this.end()
      this.failed(event.message || 'the reader stopped')
    }
    return worker
  }
}
