import { WantedChunks } from '@moth-lamp/core/artwork'
import type { ExchangeResult } from '@moth-lamp/core/exchanges'
import { bitsPerByte } from '@moth-lamp/core/frames'
import { sayMessage } from '@moth-lamp/core/explain'
import type { Entry, Rig } from '@moth-lamp/core/rig'
import { samplePage, sampleBench, Workbench } from '@moth-lamp/core/workbench'
import { ChunkMaker } from './chunk-maker.ts'
import { paintedRect, shrunk, wholeOf } from './painted.ts'
import type { ExchangeRun, RunGlass, Frame, FromWorker, PaintedRect, ToWorker, WireEntry } from './messages.ts'

// The worker holds one workbench. It runs the clock in real time (times speed) while told to, and tells the page what has
// changed at most once a refresh, when the page has taken what it was told before.

let bench: Workbench | null = null
let assets = new Map<string, Uint8Array>()
const chunks = new WantedChunks()
let letters = 0
/** The panel goes on with the letters it has; those that are wanted come when they are made. */
const maker = new ChunkMaker((came) => {
  for (const [key, made] of came) chunks.put(key, made)
  if (maker.isIdle) showChunks()
  else chunksShown ??= setTimeout(showChunks, chunksEveryMs)
})
/** Several that come one after another are compiled in together: so long the first of them waits, ms. */
const chunksEveryMs = 60
let chunksShown: ReturnType<typeof setTimeout> | undefined

function showChunks(): void {
  clearTimeout(chunksShown)
  chunksShown = undefined
  bench?.chunksCame()
  if (maker.isIdle) letters++
  tell()
}

let running = false
let speed = 1
let lastTickMs = 0
/** Page the desk draws; null: the live glass. */
let desk: string | null = null
let glassStale = true
let awaiting = false
/** Something was to be told while the last was not taken. */
let owed = false
/** The glass is shown first: what is to be found in the project comes with what is told next. */
let justOpened = false
let count = 0
/** Which conversation this is: entries of another begin at 1 again. */
let conversation = 1
const nothingTold = {
  values: '',
  own: '',
  host: '',
  outputs: '',
  findings: null as unknown,
  plan: null as unknown,
  wire: null as Frame['wire'],
}
let told = { ...nothingTold }
let window: { us: number; toPanel: number; toHost: number }[] = []

const post = (message: FromWorker, transfer: Transferable[] = []) => self.postMessage(message, { transfer })

function paint(bench: Workbench): PaintedRect[] {
  bench.lookAt(desk)
  const { panel } = bench.rig
  const glass = desk === null ? panel.glass : panel.desk
  const rects = glass.paint()
  if (!glassStale) return rects.map((rect) => paintedRect(glass.surface, rect))
  // Another page, or another panel: the canvas has nothing of it yet.
  glassStale = false
  return [paintedRect(glass.surface, wholeOf(glass.surface))]
}

/** Values are sent only when they are others than last time. */
function ifChanged<T>(key: 'values' | 'own' | 'host' | 'outputs', value: T): T | null {
  const text = JSON.stringify(value)
  if (told[key] === text) return null
  told[key] = text
  return value
}

function wireIfChanged({ build, runsLastGood }: Workbench): Frame['wire'] {
  const wire = { layout: build.header.layout, memory: build.book.memory, lastGood: runsLastGood }
  const before = told.wire
  if (before?.layout === wire.layout && before.memory === wire.memory && before.lastGood === wire.lastGood) return null
  told.wire = wire
  return wire
}

function busy(bench: Workbench): Frame['busy'] {
  const { nowUs, conversation } = bench.rig
  const { 'to panel': toPanel, 'to host': toHost } = conversation.bytesPassed
  window = [...window.filter((w) => w.us > nowUs - 1_000_000 && w.us <= nowUs), { us: nowUs, toPanel, toHost }]
  const first = window[0]!
  const spanUs = Math.max(1, nowUs - first.us)
  const link = bench.build.header.link
  const share = (bytes: number) => Math.min(1, (bytes * bitsPerByte(link) * 1_000_000) / link.baud / spanUs)
  return window.length < 2
    ? { 'to panel': 0, 'to host': 0 }
    : { 'to panel': share(toPanel - first.toPanel), 'to host': share(toHost - first.toHost) }
}

function tell(): void {
  maker.make(chunks.takeWanted())
  owed = awaiting
  if (!bench || awaiting) return
  const { rig, build } = bench
  const painted = paint(bench)
  const findings = justOpened ? null : bench.findings()
  const byAddress = new Map(build.symbols.variables.map((v) => [v.address, v.id]))
  const host = rig.host
    .values()
    .map(({ cell, name, value, owned }) => ({ id: byAddress.get(cell.address) ?? '', name, value, owned }))
  const frame: Frame = {
    type: 'frame',
    width: build.header.width,
    height: build.header.height,
    painted,
    nowUs: rig.nowUs,
    lastEntry: rig.conversation.lastId,
    lastBeside: rig.beside.lastId,
    light: rig.panel.light,
    conversation,
    page: build.symbols.pages.find((p) => p.number === rig.panel.pageNumber)?.id ?? null,
    busy: busy(bench),
    values: ifChanged('values', bench.values()),
    own: ifChanged('own', bench.ownValues()),
    host: ifChanged('host', host),
    outputs: ifChanged('outputs', rig.host.outputs()),
    findings: told.findings === findings ? null : findings,
    plan: told.plan === build.plan ? null : build.plan,
    wire: wireIfChanged(bench),
    letters,
    count,
    reset: bench.reset,
    startsAt: bench.startsAt,
    running,
    speed,
    silent: rig.host.silent,
  }
  if (findings) told.findings = findings
  owed = justOpened
  justOpened = false
  told.plan = build.plan
  awaiting = true
  post(
    frame,
    painted.map((p) => p.rgba.buffer),
  )
}

function tick(): void {
  const nowMs = performance.now()
  if (bench && running) bench.advance(Math.floor(Math.min(100, nowMs - lastTickMs) * 1000 * speed))
  lastTickMs = nowMs
  if (running) tell()
}

const wire = ({ book, ...e }: Entry): WireEntry => ({ ...e, said: e.message ? sayMessage(book, e.message) : null })

function thumbnail(bench: Workbench, page: string, width: number): PaintedRect | null {
  const surface = bench.paintPage(page)
  return surface && shrunk(surface, width)
}

function kindPicture({ project }: Workbench, kind: string, width: number): PaintedRect | null {
  const sample = sampleBench(project, kind, assets, chunks)
  return sample && thumbnail(sample, samplePage, Math.min(width, sample.project.panel.width))
}

function runOf(id: string, result: ExchangeResult): ExchangeRun {
  return {
    id,
    passed: result.passed,
    steps: result.steps,
    leftOver: result.leftOver && wire(result.leftOver),
    endUs: result.endUs,
    entries: result.rig.conversation.all().slice(-2000).map(wire),
    beside: result.rig.beside.since(0).slice(-2000),
  }
}

/** Runs an exchange once more, up to a moment: it goes the same way every time. */
function glassOfExchange(bench: Workbench, id: string, atUs: number): RunGlass | null {
  const runner = bench.exchange(id)
  if (!runner) return null
  let seen: RunGlass | null = null
  const look = () => {
    const { rig } = runner
    rig.paint()
    const { surface } = rig.panel.glass
    const page = rig.panel.build.symbols.pages.find((p) => p.number === rig.panel.pageNumber)
    const shows = Object.fromEntries((page?.widgets ?? []).map((w) => [w.id, rig.panel.shows(w.number) ?? '']))
    seen = { painted: paintedRect(surface, wholeOf(surface)), page: page?.id ?? null, shows }
  }
  runner.whenAt(atUs, look)
  for (const _ of runner.slices()) if (seen) return seen
  // It ended before: the glass as it was then.
  if (!seen) look()
  return seen
}

/** So long an exchange runs before the worker hears what else is asked of it, ms. */
const exchangeSliceMs = 20
const stopped = new Set<number>()

/** Runs an exchange in slices, telling how far it has come; one that is stopped has no result. */
function runExchange(bench: Workbench, id: string, ask: number): void {
  const answer = (value: ExchangeRun | null) => post({ type: 'answer', ask, value })
  const slices = bench.exchange(id)?.slices()
  const go = (): void => {
    if (!slices || stopped.delete(ask)) return answer(null)
    for (const untilMs = performance.now() + exchangeSliceMs; ;) {
      const at = slices.next()
      if (at.done) return answer(runOf(id, at.value))
      if (performance.now() < untilMs) continue
      post({ type: 'progress', ask, progress: at.value })
      return void setTimeout(go)
    }
  }
  go()
}

function hear(message: ToWorker): void {
  if (message.type === 'open') {
    assets = message.assets
    for (const [sha, bytes] of assets) maker.asset(sha, bytes)
    bench = new Workbench(message.project, assets, undefined, chunks)
    conversation = message.conversation
    count = 0
    awaiting = false
    told = { ...nothingTold }
    post({ type: 'opened', width: bench.build.header.width, height: bench.build.header.height })
    glassStale = true
    justOpened = true
    return tell()
  }
  if (!bench) return
  switch (message.type) {
    case 'change':
      if (!bench.applyPatches(message.patches)) return post({ type: 'lost step', count: message.count })
      count = message.count
      return tell()
    case 'take':
      bench.take(message.project)
      count = message.count
      return tell()
    case 'asset':
      assets.set(message.sha, message.bytes)
      maker.asset(message.sha, message.bytes)
      chunks.assetCame()
      bench.chunksCame()
      return tell()
    case 'preview':
      bench.preview(message.request)
      return tell()
    case 'cancel preview':
      bench.cancelPreview()
      return tell()
    case 'pretend':
      bench.pretend(message.values, message.stale)
      return tell()
    case 'show look':
      bench.showLook(message.look)
      return tell()
    case 'look at':
      desk = message.page
      glassStale = true
      return tell()
    case 'taken':
      awaiting = false
      if (owed) tell()
      return
    case 'are you there':
      return post({ type: 'answer', ask: message.ask, value: true })
    case 'conversation':
      return post({
        type: 'answer',
        ask: message.ask,
        value: {
          entries: bench.rig.conversation.since(message.since).slice(-400).map(wire),
          beside: bench.rig.beside.since(message.beside).slice(-400),
        },
      })
    case 'thumbnail':
      return post({ type: 'answer', ask: message.ask, value: thumbnail(bench, message.page, message.width) })
    case 'kind picture':
      post({ type: 'answer', ask: message.ask, value: kindPicture(bench, message.kind, message.width) })
      return tell()
    case 'width for':
      return post({ type: 'answer', ask: message.ask, value: bench.widthFor(message.widget, message.text) })
    case 'preview write':
      return post({ type: 'answer', ask: message.ask, value: bench.previewWrite(message.id, message.value) })
    case 'frames of': {
      const sent = (moment: 'pressed' | 'lifted') => bench!.framesOf(message.widget, moment).map(({ bytes }) => bytes)
      return post({ type: 'answer', ask: message.ask, value: { pressed: sent('pressed'), lifted: sent('lifted') } })
    }
    case 'run exchange':
      return runExchange(bench, message.id, message.ask)
    case 'glass of exchange':
      return post({ type: 'answer', ask: message.ask, value: glassOfExchange(bench, message.id, message.atUs) })
    case 'stop exchange':
      return void stopped.add(message.ask)
    default:
      operate(bench, message)
      return tell()
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
      | 'host silent'
      | 'clock'
      | 'step'
      | 'power'
      | 'restart'
      | 'reset variable'
  }
>

/** A pointer may come and go at once, where a finger never does: it stays on the glass for a little more than counts. */
const shortestTouchUs = 45_000
let downUs = 0
let liftsAtUs = 0

/** How long a finger whose pointer is gone still stays on the glass; 0 where there is none, and after a power cycle of the clock. */
const stillDownUs = ({ nowUs }: Rig): number =>
  liftsAtUs > nowUs && liftsAtUs - nowUs <= shortestTouchUs ? liftsAtUs - nowUs : 0

function touch(rig: Rig, phase: 'down' | 'move' | 'up', x: number, y: number): void {
  const { panel } = rig
  if (phase === 'move') return panel.touchMove(x, y)
  if (phase === 'down') {
    downUs = rig.nowUs
    return panel.touchDown(x, y)
  }
  const leftUs = downUs + shortestTouchUs - rig.nowUs
  if (leftUs <= 0) return panel.touchUp(x, y)
  liftsAtUs = rig.nowUs + leftUs
  rig.clock.after(leftUs, 0, () => panel.touchUp(x, y))
}

function operate(bench: Workbench, message: Operating): void {
  const { rig } = bench
  switch (message.type) {
    case 'touch':
      return touch(rig, message.phase, message.x, message.y)
    case 'send bytes':
      return bench.sendRaw(message.direction, message.bytes)
    case 'host writes':
      return bench.hostWrites(message.id, message.value)
    case 'host asks':
      return bench.hostAsks(message.id)
    case 'host silent':
      rig.host.silent = message.silent
      return
    case 'clock':
      // A finger that is off the glass already has pressed, also where the clock is held in the same moment.
      if (running && !message.run) bench.advance(stillDownUs(rig))
      running = message.run
      speed = message.speed
      lastTickMs = performance.now()
      return
    case 'reset variable':
      return bench.resetVariable(message.id)
    case 'step':
      return bench.advance(message.us)
    case 'power':
      rig.powerCycle(message.which)
      glassStale = true
      return
    case 'restart':
      bench.restart()
      conversation++
      window = []
      glassStale = true
  }
}

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  try {
    hear(data)
  } catch (error) {
    post({ type: 'fault', message: error instanceof Error ? `${error.message}\n${error.stack ?? ''}` : String(error) })
  }
}
setInterval(tick, 16)
