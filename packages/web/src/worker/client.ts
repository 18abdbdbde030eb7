import type { Progress } from '@moth-lamp/core/exchanges'
import type { TextExtent } from '@moth-lamp/core/host'
import type { Project } from '@moth-lamp/core/project'
import type { ExchangeRun, PanelUpdate, FromWorker, PaintedRect, ToWorker, PressFrames, RunGlass, Heard } from './messages.ts'
import type { Value } from '@moth-lamp/core/variables'

/** How it goes with the worker: at its work; silent for a while; started anew; given up after it broke again and again. */
export type WorkerState = { is: 'well' } | { is: 'silent' | 'given up'; why: string }

export interface ClientEvents {
  update(update: PanelUpdate): void
  state(state: WorkerState): void
  /** The worker broke or was stuck and has been started anew. */
  restarted(why: string): void
}

/** How long the worker may leave a question unanswered before one is told, and before it is started anew, ms. */
const silentMs = 3_000
const stuckMs = 20_000
const heartbeatMs = 5_000
/** A worker whose project is left has so long to say that it is through with it; one that does not is stuck. ms. */
const closingMs = 1_000
/** So many restarts within so long, and it is given up: what it is given breaks it. ms. */
const mostRestarts = 3
const restartsWithinMs = 90_000

interface Asked {
  resolve: (value: unknown) => void
  silent: ReturnType<typeof setTimeout> | undefined
  timer: ReturnType<typeof setTimeout> | undefined
  progress?: (progress: Progress) => void
}

/** A worker as the page speaks to it. */
export type WorkerEnd = Pick<Worker, 'onmessage' | 'onerror' | 'postMessage' | 'terminate'>

/** Workers, of which one that is well and has no project is kept: to start one anew takes longer than to open one. */
export class WorkerPool {
  private spare: WorkerEnd | null = null

  constructor(private make: () => WorkerEnd) {}

  take(): WorkerEnd {
    const worker = this.spare ?? this.make()
    this.spare = null
    return worker
  }

  /** Whether it is kept for the next project. */
  keep(worker: WorkerEnd): boolean {
    this.spare ??= worker
    return this.spare === worker
  }

  forget(worker: WorkerEnd): void {
    if (this.spare === worker) this.spare = null
  }
}

/** The other parts a client stands on. */
export interface ClientParts {
  workers: WorkerPool
  /** Calls back when the screen is drawn next. */
  nextFrame(call: () => void): void
}

const browserParts: ClientParts = {
  workers: new WorkerPool(() => new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' })),
  nextFrame: (call) => void requestAnimationFrame(call),
}

/** The page's end of the worker: questions with answers, a restart when it breaks, told. */
export class BenchClient {
  private worker: WorkerEnd
  private asks = new Map<number, Asked>()
  private nextAsk = 1
  private closed = false
  private heartbeat: ReturnType<typeof setInterval>
  private restarts: number[] = []
  /** The newest conversation heard of. */
  private latestConversation = 0
  private state_: WorkerState = { is: 'well' }
  /** Messages for a restarted worker. */
  private state = { running: false, speed: 1, page: null as string | null, silent: false }

  constructor(
    private project: () => Project,
    private assets: Map<string, Uint8Array>,
    private count: () => number,
    private events: ClientEvents,
    private parts: ClientParts = browserParts,
  ) {
    this.worker = this.start()
    const listen = () => void (this.state_.is === 'given up' || this.ask((ask) => ({ type: 'are you there', ask })))
    this.heartbeat = setInterval(listen, heartbeatMs)
    listen()
  }

  private start(): WorkerEnd {
    const worker = this.parts.workers.take()
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => this.hear(data)
    worker.onerror = (event) => this.restart(event.message || 'the worker could not be started')
    this.latestConversation += 1
    const { assets, latestConversation: conversation } = this
    const open: ToWorker = { type: 'open', project: this.project(), count: this.count(), assets, conversation }
    worker.postMessage(open)
    return worker
  }

  private restart(why: string): void {
    if (this.closed) return
    console.error(`the panel's worker was restarted: ${why}`)
    this.worker.terminate()
    for (const { resolve, silent, timer } of this.asks.values()) {
      clearTimeout(silent)
      clearTimeout(timer)
      resolve(null)
    }
    this.asks.clear()
    const nowMs = performance.now()
    this.restarts = [...this.restarts.filter((at) => at > nowMs - restartsWithinMs), nowMs]
    if (this.restarts.length >= mostRestarts) return this.setState({ is: 'given up', why })
    this.begin()
    this.events.restarted(why)
  }

  /** Starts it once more, after it was given up or while it is silent. */
  startAgain(): void {
    this.worker.terminate()
    this.restarts = []
    this.begin()
  }

  private begin(): void {
    this.setState({ is: 'well' })
    this.worker = this.start()
    this.send({ type: 'clock', run: this.state.running, speed: this.state.speed })
    this.send({ type: 'look at', page: this.state.page })
    void this.ask((ask) => ({ type: 'are you there', ask }))
  }

  private setState(state: WorkerState): void {
    if (state.is === this.state_.is) return
    this.state_ = state
    this.events.state(state)
  }

  private hear(message: FromWorker): void {
    switch (message.type) {
      case 'update':
        this.latestConversation = Math.max(this.latestConversation, message.conversation)
        this.events.update(message)
        this.parts.nextFrame(() => this.send({ type: 'taken' }))
        return
      case 'answer': {
        const ask = this.asks.get(message.ask)
        this.asks.delete(message.ask)
        clearTimeout(ask?.silent)
        clearTimeout(ask?.timer)
        this.setState({ is: 'well' })
        ask?.resolve(message.value)
        return
      }
      case 'progress': {
        const ask = this.asks.get(message.ask)
        if (!ask) return
        this.arm(ask)
        return ask.progress?.(message.progress)
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
    if (this.closed) return
    // The change that broke it may be undone by this one.
    if (message.type === 'change' && this.state_.is === 'given up') this.startAgain()
    else this.worker.postMessage(message)
  }

  /** The worker has so long from now on. */
  private arm(asked: Asked): void {
    clearTimeout(asked.silent)
    clearTimeout(asked.timer)
    const why = 'no response'
    asked.silent = setTimeout(() => this.setState({ is: 'silent', why }), silentMs)
    asked.timer = setTimeout(() => this.restart(why), stuckMs)
  }

  private ask<T>(make: (ask: number) => ToWorker, progress?: Asked['progress']): Promise<T | null> {
    const ask = this.nextAsk++
    return new Promise((resolve) => {
      const asked: Asked = {
        resolve: resolve as (value: unknown) => void,
        silent: undefined,
        timer: undefined,
        ...(progress ? { progress } : {}),
      }
      this.arm(asked)
      this.asks.set(ask, asked)
      this.send(make(ask))
    })
  }

  conversation = (since: number, events: number) => this.ask<Heard>((ask) => ({ type: 'conversation', since, events, ask }))
  thumbnail = (page: string, width: number) => this.ask<PaintedRect>((ask) => ({ type: 'thumbnail', page, width, ask }))
  kindPicture = (kind: string, width: number) => this.ask<PaintedRect>((ask) => ({ type: 'kind picture', kind, width, ask }))
  widthFor = (widget: string, text: string) => this.ask<number>((ask) => ({ type: 'width for', widget, text, ask }))
  previewWrite = (id: string, value: Value, extent?: TextExtent) =>
    this.ask<Uint8Array>((ask) => ({ type: 'preview write', id, value, extent, ask }))
  previewCommand = (id: string, values: readonly (Value | null)[]) =>
    this.ask<Uint8Array>((ask) => ({ type: 'preview command', id, values, ask }))
  /** A font file for the panel, and for the one that is started after it. */
  asset(sha: string, bytes: Uint8Array): void {
    this.assets.set(sha, bytes)
    this.send({ type: 'asset', sha, bytes })
  }

  framesOf = (widget: string) => this.ask<PressFrames>((ask) => ({ type: 'frames of', widget, ask }))
  /** Runs an exchange; the signal stops it, and then there is no result. */
  runExchange(id: string, progress: (progress: Progress) => void, signal: AbortSignal): Promise<ExchangeRun | null> {
    return this.ask<ExchangeRun>((ask) => {
      signal.addEventListener('abort', () => this.send({ type: 'stop exchange', ask }), { once: true })
      return { type: 'run exchange', id, ask }
    }, progress)
  }

  glassOfExchange = (id: string | null, atUs: number | null) =>
    this.ask<RunGlass>((ask) => ({ type: 'glass of exchange', id, atUs, ask }))

  close(): void {
    this.closed = true
    clearInterval(this.heartbeat)
    for (const { silent, timer } of this.asks.values()) {
      clearTimeout(silent)
      clearTimeout(timer)
    }
    this.leave()
  }

  /** A worker that says it is through with its project stays for the next one; one that is stuck or broken goes with its own. */
  private leave(): void {
    const { worker } = this
    const { workers } = this.parts
    const end = () => worker.terminate()
    const stuck = setTimeout(end, closingMs)
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      if (data.type !== 'closed') return
      clearTimeout(stuck)
      if (!workers.keep(worker)) end()
    }
    worker.onerror = () => {
      workers.forget(worker)
      end()
    }
    worker.postMessage({ type: 'close' } satisfies ToWorker)
  }
}
