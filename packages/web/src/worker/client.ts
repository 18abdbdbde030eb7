import type { Project } from '@moth-lamp/core/project'
import type { ExchangeRun, Frame, FromWorker, PaintedRect, ToWorker, WireEntry } from './messages.ts'
import type { Value } from '@moth-lamp/core/variables'

export interface ClientEvents {
  frame(frame: Frame): void
  /** The worker broke or was stuck and has been started anew. */
  restarted(why: string): void
}

/** How long the worker may leave a question unanswered before it counts as stuck, ms. */
const stuckMs = 20_000
const heartbeatMs = 10_000

/** The page's end of the worker: questions with answers, a restart when it breaks, told. */
export class BenchClient {
  private worker: Worker
  private asks = new Map<number, { resolve: (value: unknown) => void; timer: number }>()
  private nextAsk = 1
  private closed = false
  private heartbeat: number
  /** What to tell a worker that has been started anew. */
  private state = { running: false, speed: 1, page: null as string | null, silent: false }

  constructor(
    private project: () => Project,
    private assets: Map<string, Uint8Array>,
    private count: () => number,
    private events: ClientEvents,
  ) {
    this.worker = this.start()
    this.heartbeat = window.setInterval(() => void this.ask((ask) => ({ type: 'are you there', ask })), heartbeatMs)
  }

  private start(): Worker {
    const worker = new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => this.hear(data)
    worker.onerror = (event) => this.restart(event.message || 'the worker could not be started')
    worker.postMessage({ type: 'open', project: this.project(), assets: this.assets } satisfies ToWorker)
    return worker
  }

  private restart(why: string): void {
    if (this.closed) return
    console.error(`the panel's worker was started anew: ${why}`)
    this.worker.terminate()
    for (const { resolve, timer } of this.asks.values()) {
      clearTimeout(timer)
      resolve(null)
    }
    this.asks.clear()
    this.worker = this.start()
    this.send({ type: 'clock', run: this.state.running, speed: this.state.speed })
    this.send({ type: 'look at', page: this.state.page })
    this.events.restarted(why)
  }

  private hear(message: FromWorker): void {
    switch (message.type) {
      case 'frame':
        this.events.frame(message)
        requestAnimationFrame(() => this.send({ type: 'taken' }))
        return
      case 'answer': {
        const ask = this.asks.get(message.ask)
        this.asks.delete(message.ask)
        clearTimeout(ask?.timer)
        ask?.resolve(message.value)
        return
      }
      case 'lost step':
        return this.send({ type: 'take', project: this.project(), count: this.count() })
      case 'fault':
        return this.restart(message.message)
    }
  }

  send(message: ToWorker): void {
    if (message.type === 'clock') this.state = { ...this.state, running: message.run, speed: message.speed }
    if (message.type === 'look at') this.state = { ...this.state, page: message.page }
    if (!this.closed) this.worker.postMessage(message)
  }

  private ask<T>(make: (ask: number) => ToWorker): Promise<T | null> {
    const ask = this.nextAsk++
    return new Promise((resolve) => {
      const timer = window.setTimeout(() => this.restart('a question was not answered'), stuckMs)
      this.asks.set(ask, { resolve: resolve as (value: unknown) => void, timer })
      this.send(make(ask))
    })
  }

  conversation = (since: number) => this.ask<WireEntry[]>((ask) => ({ type: 'conversation', since, ask }))
  thumbnail = (page: string, width: number) => this.ask<PaintedRect>((ask) => ({ type: 'thumbnail', page, width, ask }))
  previewWrite = (id: string, value: Value) => this.ask<Uint8Array>((ask) => ({ type: 'preview write', id, value, ask }))
  runExchange = (id: string) => this.ask<ExchangeRun>((ask) => ({ type: 'run exchange', id, ask }))

  close(): void {
    this.closed = true
    clearInterval(this.heartbeat)
    for (const { timer } of this.asks.values()) clearTimeout(timer)
    this.worker.terminate()
  }
}
