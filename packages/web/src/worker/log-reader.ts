import type { JudgedLog } from '@moth-lamp/core/exchanges'
import type { Direction } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import type { FromLog, LogReading, LogView, ToLog } from './messages.ts'

/** The part of a worker that a reader needs. */
export interface LogWorker {
  postMessage(message: ToLog): void
  onmessage: ((event: MessageEvent<FromLog>) => unknown) | null
  onerror: ((event: ErrorEvent) => unknown) | null
  terminate(): void
}

const startWorker = (): LogWorker => new Worker(new URL('./log.worker.ts', import.meta.url), { type: 'module' })

/** A text or a file to be read, and how. */
export interface Wanted {
  project: Project
  text: string | Blob
  as: Direction | null
}

/** The ear of whoever has a log read. */
export interface LogListener {
  /** How far the newest text is read; null: the layout cannot be used. */
  came(reading: LogReading | null): void
  /** The place of the next that is wrong; null: there is none. */
  nextWrong(at: number | null): void
  judged(exchange: string, judged: JudgedLog | null): void
  failed(why: string): void
}

/** A shorter text is read so soon that the worker which reads it is kept for the next, characters. */
const shortText = 20_000

/** Has logs explained by a worker. Only what was asked for last is answered; a long log is ended at once for another. */
export class LogReader {
  private worker: LogWorker | null = null
  private asked = 0
  private isLong = false

  constructor(
    private listener: LogListener,
    private start: () => LogWorker = startWorker,
  ) {}

  read({ project, text, as }: Wanted, view: LogView): void {
    if (this.isLong) this.end()
    this.isLong = (typeof text === 'string' ? text.length : text.size) > shortText
    this.send({ type: 'read', ask: ++this.asked, project, text, as, view })
  }

  /** Another part of what was read last, or with another filter. */
  look(view: LogView): void {
    if (this.worker) this.send({ type: 'look', view })
  }

  nextWrong(from: number): void {
    if (this.worker) this.send({ type: 'next wrong', from })
  }

  /** Looks for an exchange in what is read. */
  judge(project: Project, exchange: string): void {
    if (this.worker) this.send({ type: 'judge', project, exchange })
  }

  /** Leaves the rest of a long log unread. */
  stop(): void {
    if (this.worker) this.send({ type: 'stop' })
  }

  end(): void {
    this.worker?.terminate()
    this.worker = null
    this.isLong = false
  }

  private send(message: ToLog): void {
    this.worker ??= this.begun()
    this.worker.postMessage(message)
  }

  private begun(): LogWorker {
    const worker = this.start()
    worker.onmessage = ({ data }) => {
      if (worker !== this.worker || data.ask !== this.asked) return
      if (data.type === 'next wrong') this.listener.nextWrong(data.at)
      else if (data.type === 'reading') this.listener.came(data.reading)
      else if (data.type === 'judged') this.listener.judged(data.exchange, data.judged)
      else if (data.type === 'unread') this.listener.failed(data.why)
      else this.listener.failed(`the log has ${Math.ceil(data.characters / 1e6)} million characters; at most 64 are read`)
    }
    worker.onerror = (event) => {
      if (worker !== this.worker) return
      this.end()
      this.listener.failed(event.message || 'the reader stopped')
    }
    return worker
  }
}
