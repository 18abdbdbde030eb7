import type { ExchangeId } from '@moth-lamp/core/base'
import { judgeLog } from '@moth-lamp/core/exchanges'
import { bookOf } from '@moth-lamp/core/project'
import { LogIndex, mostLogCharacters } from '@moth-lamp/core/explain'
import type { FromLog, LogView, ToLog } from './messages.ts'

/** Reading goes on for so long before the desk listens again, ms. */
const stepMs = 12
/** How far it is, is told so often, ms. */
const tellMs = 160

/** The rows that pass a filter, as far as they are looked through. */
interface Passing {
  key: string
  pass: ((row: number) => boolean) | null
  rows: number[]
  looked: number
}

/**
 * Explains what it is told, in steps, and gives as much of it as is looked at: another look is answered while a long log is still
 * being read. `later` runs what is next once the desk has listened.
 */
export class LogDesk {
  private ask = 0
  private log: LogIndex | null = null
  private steps: Iterator<number> | null = null
  private share = 0
  private view: LogView = { from: 0, count: 0, filter: { direction: null, isWrong: false, text: '' } }
  private passing: Passing = { key: '', pass: null, rows: [], looked: 0 }
  private toldMs = 0
  private isAwake = false
  private judging: Extract<ToLog, { type: 'judge' }> | null = null
  /** The rows that were given last. */
  private seen = ''

  constructor(
    private post: (message: FromLog) => void,
    private later: (run: () => void) => void = (run) => void setTimeout(run, 0),
  ) {}

  hear(message: ToLog): void {
    if (message.type === 'next wrong') return this.nextWrong(message.from)
    if (message.type === 'stop') return this.stop()
    if (message.type === 'judge') return this.judge(message)
    this.view = message.view
    if (message.type === 'look') return this.look()
    const { ask, text } = message
    this.ask = ask
    this.log = null
    this.steps = null
    if (typeof text === 'string') return this.begin(message, text)
    void text.text().then(
      (read) => ask === this.ask && this.begin(message, read),
      (error: unknown) => this.post({ type: 'unread', ask, why: error instanceof Error ? error.message : String(error) }),
    )
  }

  private begin({ ask, project, as }: Extract<ToLog, { type: 'read' }>, text: string): void {
    if (text.length > mostLogCharacters) return this.post({ type: 'too long', ask, characters: text.length })
    this.log = LogIndex.of(project.layout, bookOf(project), as)
    this.passing = { key: '', pass: null, rows: [], looked: 0 }
    this.share = 0
    if (!this.log) return this.post({ type: 'reading', ask, reading: null })
    this.steps = this.log.read(text)
    this.toldMs = -Infinity
    this.work()
  }

  /** Reads on, or looks through what was read, for one step; another follows while there is more to do. */
  private work = (): void => {
    this.isAwake = false
    const began = performance.now()
    while (this.hasMore() && performance.now() - began < stepMs) this.step()
    const isDone = !this.hasMore()
    if (isDone || performance.now() - this.toldMs > tellMs) this.tell()
    if (this.judging && this.steps === null) this.judge(this.judging)
    if (!isDone) this.wake()
  }

  private wake(): void {
    if (this.isAwake) return
    this.isAwake = true
    this.later(this.work)
  }

  private hasMore(): boolean {
    const { passing, log } = this
    return this.steps !== null || (log !== null && passing.pass !== null && passing.looked < log.count)
  }

  private step(): void {
    const next = this.steps?.next()
    if (next?.done) {
      this.steps = null
      this.share = 1
    } else if (next) this.share = next.value
    const { passing, log } = this
    if (!log || !passing.pass) return
    const end = Math.min(log.count, passing.looked + 5_000)
    for (; passing.looked < end; passing.looked++) if (passing.pass(passing.looked)) passing.rows.push(passing.looked)
  }

  /** Looks for an exchange in what is read; while it is being read, afterwards. */
  private judge(wanted: Extract<ToLog, { type: 'judge' }>): void {
    this.judging = wanted
    if (!this.log || this.steps) return
    this.judging = null
    const { project, exchange } = wanted
    const of = project.exchanges[exchange as ExchangeId]
    this.post({ type: 'judged', ask: this.ask, exchange, judged: of ? judgeLog(project, of, this.log) : null })
  }

  private stop(): void {
    this.steps = null
    this.tell()
    if (this.judging) this.judge(this.judging)
  }

  private look(): void {
    const { log } = this
    if (!log) return
    const { filter } = this.view
    const key = JSON.stringify(filter)
    if (key !== this.passing.key) {
      const isAll = !filter.direction && !filter.isWrong && !filter.text.trim()
      this.passing = { key, pass: isAll ? null : log.passing(filter), rows: [], looked: 0 }
    }
    if (this.hasMore()) this.wake()
    this.tell()
  }

  private rowAt = (k: number): number => (this.passing.pass ? (this.passing.rows[k] ?? Infinity) : k)

  private tell(): void {
    const { log, view, ask } = this
    if (!log) return
    this.toldMs = performance.now()
    const { lines, good, bad, passedOver, wrong } = log
    const passing = this.passing.pass ? this.passing.rows.length : log.count
    const from = Math.max(0, Math.min(view.from, passing - 1))
    const seen = `${ask} ${this.passing.key} ${from} ${view.count} ${Math.min(passing, from + view.count)}`
    const parts = seen === this.seen ? null : log.rows(from, view.count, this.rowAt)
    this.seen = seen
    this.post({
      type: 'reading',
      ask,
      reading: { share: this.share, isDone: this.steps === null, lines, good, bad, passedOver, wrong, passing, from, parts },
    })
  }

  private nextWrong(from: number): void {
    const { log, ask } = this
    if (!log) return
    const count = this.passing.pass ? this.passing.rows.length : log.count
    for (let k = 0; k < count; k++) {
      const at = (from + k) % count
      if (log.isWrong(this.rowAt(at))) return this.post({ type: 'next wrong', ask, at })
    }
    this.post({ type: 'next wrong', ask, at: null })
  }
}
