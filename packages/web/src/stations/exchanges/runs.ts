import { settleUs, type Progress } from '@moth-lamp/core/exchanges'
import type { ExchangeId } from '@moth-lamp/core/base'
import type { Exchange } from '@moth-lamp/core/scripts'
import { api } from '../../session/api.ts'
import type { Session } from '../../session/session.ts'
import { Store } from '../../session/store.ts'
import type { ExchangeRun } from '../../worker/messages.ts'

export { settleUs }

/** A run and the exchange it was a run of: after an edit it no longer counts. */
interface Ran {
  run: ExchangeRun
  of: Exchange
}

export interface RunsState {
  ran: Record<string, Ran>
  /** The running exchange. */
  busy: string | null
  progress: Progress | null
}

/** The runs of a project's exchanges in this window: they stay while other stations are looked at. */
export class Runs {
  readonly store = new Store<RunsState>({ ran: {}, busy: null, progress: null })
  private stopper = new AbortController()

  constructor(private session: Session) {}

  /** Runs some, one after another; whoever runs already is stopped. */
  async run(ids: readonly string[]): Promise<void> {
    this.stopper.abort()
    const stopper = new AbortController()
    this.stopper = stopper
    for (const id of ids) {
      if (stopper.signal.aborted) return
      this.store.set({ busy: id, progress: null })
      const ran = await this.one(id, stopper.signal)
      if (ran) this.store.set({ ran: { ...this.store.value.ran, [id]: ran } })
    }
    if (this.stopper === stopper) this.store.set({ busy: null })
  }

  stop(): void {
    this.stopper.abort()
    this.store.set({ busy: null })
  }

  private async one(id: string, signal: AbortSignal): Promise<Ran | null> {
    const { session } = this
    const of = session.project.exchanges[id as ExchangeId]
    const run = await session.worker.runExchange(id, (progress) => this.store.set({ progress }), signal)
    if (!run || !of) return null
    const failed = run.steps.findIndex((s) => s.status === 'failed')
    const failedStep = run.passed ? null : failed >= 0 ? `step ${failed + 1}` : 'at the end'
    void api
      .addResult(session.id, {
        exchange: id as ExchangeId,
        revision: session.document.value.revision,
        passed: run.passed,
        failedStep,
      })
      .catch(() => undefined)
    return { run, of }
  }
}

const all = new WeakMap<Session, Runs>()

/** The runs of a session. */
export function runsOf(session: Session): Runs {
  const found = all.get(session) ?? new Runs(session)
  all.set(session, found)
  return found
}

/** The run of an exchange as it is now; null where there is none, or where it was edited since. */
export const runNow = (state: RunsState, exchange: Exchange | undefined): ExchangeRun | null => {
  const found = exchange && state.ran[exchange.id]
  return found && found.of === exchange ? found.run : null
}
