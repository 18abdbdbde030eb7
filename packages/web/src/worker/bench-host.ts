import { WantedChunks } from '@moth-lamp/core/artwork'
import type { ExchangeResult } from '@moth-lamp/core/exchanges'
import { bytesUs } from '@moth-lamp/core/frames'
import { sayMessage } from '@moth-lamp/core/explain'
import { asksBook, emptyBook, sameWire } from '@moth-lamp/core/protocols'
import type { Entry, Rig } from '@moth-lamp/core/rig'
import { samplePage, sampleBench, Workbench, type LiveValue } from '@moth-lamp/core/workbench'
import { ChunkMaker } from './chunk-maker.ts'
import { glassOfExchange } from './exchange-glass.ts'
import { SentByName } from './sent-by-name.ts'
import { paintedRect, shrunk, wholeOf } from './painted.ts'
import type { ExchangeRun, HostValue, PanelUpdate, FromWorker, PaintedRect, ToWorker, WireEntry } from './messages.ts'

/** Several chunks that come one after another are compiled in together: so long the first of them waits, ms. */
const chunksEveryMs = 60
/** How often the page is told what time it is for the panel where nothing else is new, ms. */
const timeEveryMs = 100
/** So long an exchange runs before the worker hears what else is asked of it, ms. */
const exchangeSliceMs = 20
/** So long a step of the clock runs before the worker hears what else is asked of it, ms; and what passes of it at once, µs. */
const stepSliceMs = 20
const stepPartUs = 1_000
/** A pointer may come and go at once, where a finger never does: it stays on the glass for a little more than counts. */
const shortestTouchUs = 45_000

type Opening = Extract<ToWorker, { type: 'open' }>
type Sent = { own: string; outputs: string; rest: string } & {
  findings: unknown
  plan: unknown
  wire: PanelUpdate['wire']
}

/**
 * One project that is open: its workbench and all that is known of it here. It runs the clock in real time (times speed) while
 * told to, and tells the page what has changed at most once a refresh, when the page has taken what it was told before.
 */
export class BenchHost {
  private bench: Workbench
  private assets: Map<string, Uint8Array>
  private chunks = new WantedChunks()
  private letters = 0
  /** The panel goes on with the letters it has; those that are wanted come when they are made. */
  private maker = new ChunkMaker((came) => {
    for (const [key, made] of came) this.chunks.put(key, made)
    if (this.maker.isIdle) this.showChunks()
    else this.chunksShown ??= setTimeout(() => this.showChunks(), chunksEveryMs)
  })
  private chunksShown: ReturnType<typeof setTimeout> | undefined
  private ticking: ReturnType<typeof setInterval>
  private ended = false
  private running = false
  private speed = 1
  private lastTickMs = 0
  /** Page the desk draws; null: the live glass. */
  private desk: string | null = null
  private glassStale = true
  private awaiting = false
  /** Something was to be told while the last was not taken. */
  private pendingUpdate = false
  private sentAtMs = 0
  /** The glass is shown first: what is to be found in the project comes with what is told next. */
  private justOpened = true
  private count: number
  /** Which conversation this is: entries of another begin at 1 again. */
  private conversation: number
  private sent: Sent = { own: '', outputs: '', rest: '', findings: null, plan: null, wire: null }
  private window: { us: number; toPanel: number; toHost: number }[] = []
  private stopped = new Set<number>()
  /** A step of the clock that is under way. */
  private step: { doneUs: number; ofUs: number } | null = null
  private stepTimer: ReturnType<typeof setTimeout> | undefined
  private downUs = 0
  private liftsAtUs = 0

  constructor(
    { project, count, assets, conversation }: Opening,
    private post: (message: FromWorker, transfer?: Transferable[]) => void,
  ) {
    this.assets = assets
    this.count = count
    for (const [sha, bytes] of assets) this.maker.asset(sha, bytes)
    this.bench = new Workbench(project, assets, undefined, this.chunks)
    this.conversation = conversation
    this.ticking = setInterval(() => this.tick(), 16)
    this.tell()
  }

  /** Nothing of it goes on. */
  end(): void {
    this.ended = true
    clearInterval(this.ticking)
    clearTimeout(this.chunksShown)
    clearTimeout(this.stepTimer)
    this.maker.close()
  }

  private showChunks(): void {
    clearTimeout(this.chunksShown)
    this.chunksShown = undefined
    this.bench.chunksCame()
    if (this.maker.isIdle) this.letters++
    this.tell()
  }

  private paint(): PaintedRect[] {
    const { bench, desk } = this
    bench.lookAt(desk)
    const { panel } = bench.rig
    const glass = desk === null ? panel.glass : panel.desk
    const rects = glass.paint()
    if (!this.glassStale) return rects.map((rect) => paintedRect(glass.surface, rect))
    // Another page, or another panel: the canvas has nothing of it yet.
    this.glassStale = false
    return [paintedRect(glass.surface, wholeOf(glass.surface))]
  }

  /** Values of the panel that are others than when they were told last. */
  private newValues(): PanelUpdate['values'] {
    const { all, values } = this.bench.newValues()
    const news = this.sentValues.news(Object.entries(values), all)
    return news && { all: news.all, of: Object.fromEntries(news.of) }
  }

  private newHostValues(): PanelUpdate['host'] {
    const { all, values } = this.bench.newHostValues()
    const news = this.sentHost.news(
      values.map((value) => [value.name, value]),
      all,
    )
    return news && { all: news.all, of: news.of.map(([, value]) => value) }
  }

  private sentValues = new SentByName<LiveValue>()
  private sentHost = new SentByName<HostValue>()

  /** These are sent only when they are others than last time. */
  private ifChanged<T>(key: 'own' | 'outputs', value: T): T | null {
    const text = JSON.stringify(value)
    if (this.sent[key] === text) return null
    this.sent[key] = text
    return value
  }

  private wireIfChanged(): PanelUpdate['wire'] {
    const { build, runsLastGood } = this.bench
    const wire = { layout: build.header.layout, book: build.book, lastGood: runsLastGood }
    const before = this.sent.wire
    const isSame = before?.layout === wire.layout && before.lastGood === wire.lastGood
    if (isSame && sameWire(before, wire)) return null
    this.sent.wire = wire
    // Frames of bytes have no names: the page reads them without.
    return asksBook(wire) ? wire : { ...wire, book: emptyBook(wire.book.memory) }
  }

  private busy(): PanelUpdate['busy'] {
    const { nowUs, conversation } = this.bench.rig
    const { 'to panel': toPanel, 'to host': toHost } = conversation.bytesPassed
    this.window = [...this.window.filter((w) => w.us > nowUs - 1_000_000 && w.us <= nowUs), { us: nowUs, toPanel, toHost }]
    const first = this.window[0]!
    const spanUs = Math.max(1, nowUs - first.us)
    const link = this.bench.build.header.link
    const share = (bytes: number) => Math.min(1, bytesUs(link, bytes) / spanUs)
    return this.window.length < 2
      ? { 'to panel': 0, 'to host': 0 }
      : { 'to panel': share(toPanel - first.toPanel), 'to host': share(toHost - first.toHost) }
  }

  /** `onlyTime`: nothing was asked for since the last time: where there is no news either, the time is told a few times a second. */
  private tell(onlyTime = false): void {
    this.maker.make(this.chunks.takeWanted())
    this.pendingUpdate = this.awaiting
    if (this.awaiting) return
    const { bench, sent } = this
    const { rig, build } = bench
    const painted = this.paint()
    const findings = this.justOpened ? null : bench.findings()
    const update: PanelUpdate = {
      type: 'update',
      width: build.header.width,
      height: build.header.height,
      painted,
      nowUs: rig.nowUs,
      lastEntry: rig.conversation.lastId,
      lastEvent: rig.events.lastId,
      light: rig.panel.light,
      conversation: this.conversation,
      page: build.symbols.pages.find((p) => p.number === rig.panel.pageNumber)?.id ?? null,
      busy: this.busy(),
      values: this.newValues(),
      own: this.ifChanged('own', bench.ownValues()),
      host: this.newHostValues(),
      outputs: this.ifChanged('outputs', rig.host.outputs()),
      findings: sent.findings === findings ? null : findings,
      plan: sent.plan === build.plan ? null : build.plan,
      wire: this.wireIfChanged(),
      letters: this.letters,
      making: !this.maker.isIdle || this.chunksShown !== undefined,
      count: this.count,
      reset: bench.reset,
      startsAt: bench.startsAt,
      silent: rig.host.silent,
      stepping: this.step && { ...this.step },
    }
    const nowMs = performance.now()
    if (!this.hasNews(update) && onlyTime && nowMs - this.sentAtMs < timeEveryMs) return
    this.sentAtMs = nowMs
    if (findings) sent.findings = findings
    this.pendingUpdate = this.justOpened
    this.justOpened = false
    sent.plan = build.plan
    this.awaiting = true
    this.post(
      update,
      painted.map((p) => p.rgba.buffer),
    )
  }

  /** Whether an update has more to say than the one before, which it is from now on, besides what time it is. */
  private hasNews({
    painted,
    values,
    own,
    host,
    outputs,
    findings,
    plan,
    wire,
    nowUs: _now,
    busy: _busy,
    ...rest
  }: PanelUpdate): boolean {
    const text = JSON.stringify(rest)
    const others = text !== this.sent.rest
    this.sent.rest = text
    return others || painted.length > 0 || [values, own, host, outputs, findings, plan, wire].some((part) => part !== null)
  }

  private tick(): void {
    const nowMs = performance.now()
    if (this.running) this.bench.advance(Math.floor(Math.min(100, nowMs - this.lastTickMs) * 1000 * this.speed))
    this.lastTickMs = nowMs
    if (this.running) this.tell(true)
  }

  private kindPicture(kind: string, width: number): PaintedRect | null {
    const sample = sampleBench(this.bench.project, kind, this.assets, this.chunks)
    return sample && thumbnail(sample, samplePage, Math.min(width, sample.project.panel.width))
  }

  /** Runs an exchange in slices, telling how far it has come; one that is stopped has no result. */
  private runExchange(id: string, ask: number): void {
    const answer = (value: ExchangeRun | null) => this.post({ type: 'answer', ask, value })
    const slices = this.bench.exchange(id)?.slices()
    if (!slices) return answer(null)
    this.inSlices(
      slices,
      (result) => answer(runOf(id, result)),
      (progress) => {
        if (this.stopped.delete(ask)) return (answer(null), false)
        if (progress) this.post({ type: 'progress', ask, progress })
        return true
      },
    )
  }

  /** Does work for a slice of the worker's time, hears what else is asked, and goes on while `between` says so. */
  private inSlices<P, R>(
    work: Generator<P, R>,
    done: (result: R) => void,
    between: (at: P | null) => boolean = () => true,
  ): void {
    const go = (last: P | null): void => {
      if (this.ended || !between(last)) return
      for (const untilMs = performance.now() + exchangeSliceMs; ;) {
        const at = work.next()
        if (at.done) return done(at.value)
        if (performance.now() >= untilMs) return void setTimeout(() => go(at.value))
      }
    }
    go(null)
  }

  hear(message: Exclude<ToWorker, { type: 'open' | 'close' }>): void {
    const { bench } = this
    const answer = (ask: number, value: unknown) => this.post({ type: 'answer', ask, value })
    switch (message.type) {
      case 'change':
        if (!bench.applyPatches(message.patches)) return this.post({ type: 'lost step', count: message.count })
        this.count = message.count
        return this.tell()
      case 'take':
        bench.take(message.project)
        this.count = message.count
        return this.tell()
      case 'asset':
        this.assets.set(message.sha, message.bytes)
        this.maker.asset(message.sha, message.bytes)
        this.chunks.assetCame()
        bench.chunksCame()
        return this.tell()
      case 'preview':
        bench.preview(message.request)
        return this.tell()
      case 'cancel preview':
        bench.cancelPreview()
        return this.tell()
      case 'pretend':
        bench.pretend(message.values, message.stale)
        return this.tell()
      case 'show look':
        bench.showLook(message.look)
        return this.tell()
      case 'look at':
        this.desk = message.page
        this.glassStale = true
        return this.tell()
      case 'taken':
        this.awaiting = false
        if (this.pendingUpdate) this.tell()
        return
      case 'are you there':
        return answer(message.ask, true)
      case 'conversation':
        return answer(message.ask, {
          entries: bench.rig.conversation.since(message.since).slice(-400).map(wire),
          events: bench.rig.events.since(message.events).slice(-400),
        })
      case 'thumbnail':
        return answer(message.ask, thumbnail(bench, message.page, message.width))
      case 'kind picture':
        answer(message.ask, this.kindPicture(message.kind, message.width))
        return this.tell()
      case 'width for':
        return answer(message.ask, bench.widthFor(message.widget, message.text))
      case 'preview write':
        return answer(message.ask, bench.previewWrite(message.id, message.value, message.extent))
      case 'preview command':
        return answer(message.ask, bench.previewCommand(message.id, message.values))
      case 'frames of': {
        const sent = (moment: 'pressed' | 'lifted') => bench.framesOf(message.widget, moment).map(({ bytes }) => bytes)
        return answer(message.ask, { pressed: sent('pressed'), lifted: sent('lifted') })
      }
      case 'run exchange':
        return this.runExchange(message.id, message.ask)
      case 'glass of exchange':
        return this.inSlices(glassOfExchange(bench, message.id, message.atUs), (seen) => answer(message.ask, seen))
      case 'stop exchange':
        return void this.stopped.add(message.ask)
      default:
        this.operate(message)
        return this.tell()
    }
  }

  /** Lets what is left of a step pass, for a slice of the worker's time; the rest follows when it has heard what else is asked. */
  private stepOn(): void {
    if (this.ended || !this.step) return
    const { bench, step } = this
    for (const untilMs = performance.now() + stepSliceMs; step.doneUs < step.ofUs && performance.now() < untilMs;) {
      const us = Math.min(stepPartUs, step.ofUs - step.doneUs)
      bench.advance(us)
      step.doneUs += us
    }
    if (step.doneUs >= step.ofUs) this.step = null
    else
      this.stepTimer = setTimeout(() => {
        this.stepOn()
        this.tell()
      })
  }

  /** How long a finger whose pointer is gone still stays on the glass; 0 where there is none, and after a power cycle of the clock. */
  private stillDownUs({ nowUs }: Rig): number {
    const { liftsAtUs } = this
    return liftsAtUs > nowUs && liftsAtUs - nowUs <= shortestTouchUs ? liftsAtUs - nowUs : 0
  }

  private touch(rig: Rig, phase: 'down' | 'move' | 'up', x: number, y: number): void {
    const { panel } = rig
    if (phase === 'move') return panel.touchMove(x, y)
    if (phase === 'down') {
      this.downUs = rig.nowUs
      return panel.touchDown(x, y)
    }
    const leftUs = this.downUs + shortestTouchUs - rig.nowUs
    if (leftUs <= 0) return panel.touchUp(x, y)
    this.liftsAtUs = rig.nowUs + leftUs
    rig.clock.after(leftUs, 0, () => panel.touchUp(x, y))
  }

  private operate(message: Operating): void {
    const { bench } = this
    const { rig } = bench
    switch (message.type) {
      case 'touch':
        return this.touch(rig, message.phase, message.x, message.y)
      case 'send bytes':
        return bench.sendRaw(message.direction, message.bytes)
      case 'host writes':
        return bench.hostWrites(message.id, message.value, message.extent)
      case 'host commands':
        return bench.hostCommands(message.id, message.values)
      case 'host asks':
        return bench.hostAsks(message.id)
      case 'host silent':
        rig.host.silent = message.silent
        return
      case 'clock':
        // A finger that is off the glass already has pressed, also where the clock is held in the same moment.
        if (this.running && !message.run) bench.advance(this.stillDownUs(rig))
        this.running = message.run
        this.speed = message.speed
        this.lastTickMs = performance.now()
        return
      case 'reset variable':
        return bench.resetVariable(message.id)
      case 'step':
        this.step = { doneUs: this.step?.doneUs ?? 0, ofUs: (this.step?.ofUs ?? 0) + message.us }
        clearTimeout(this.stepTimer)
        return this.stepOn()
      case 'stop step':
        this.step = null
        clearTimeout(this.stepTimer)
        return
      case 'power':
        rig.powerCycle(message.which)
        this.glassStale = true
        return
      case 'restart':
        this.step = null
        bench.restart()
        this.conversation++
        this.window = []
        this.glassStale = true
    }
  }
}

type Operating = Extract<
  ToWorker,
  {
    type:
      | 'touch'
      | 'send bytes'
      | 'host writes'
      | 'host asks'
      | 'host commands'
      | 'host silent'
      | 'clock'
      | 'step'
      | 'stop step'
      | 'power'
      | 'restart'
      | 'reset variable'
  }
>

const wire = ({ book, ...e }: Entry): WireEntry => ({ ...e, said: e.message ? sayMessage(book, e.message) : null })

function thumbnail(bench: Workbench, page: string, width: number): PaintedRect | null {
  const surface = bench.paintPage(page)
  return surface && shrunk(surface, width)
}

function runOf(id: string, result: ExchangeResult): ExchangeRun {
  return {
    id,
    passed: result.passed,
    steps: result.steps,
    leftOver: result.leftOver && wire(result.leftOver),
    endUs: result.endUs,
    entries: result.rig.conversation.all().slice(-2000).map(wire),
    events: result.rig.events.since(0).slice(-2000),
  }
}
