import { bytesToWords, fromHex, wordsToPayload, mustHold, type Problem } from '../base/index.ts'
import type { Build, HostBuild } from '../compile/index.ts'
import type { Values } from '../describe/index.ts'
import type { Direction, Message } from '../frames/index.ts'
import { protocolFor, type Protocol } from '../protocols/index.ts'
import { Rig, type Entry } from '../rig/index.ts'
import { registerStepKind, stepKind, type CompiledStep, type CompiledStepOf, type StepKind } from '../scripts/index.ts'
import { bytesOfCell, decodeValue, encodeValue, formatValue, parseValue, type Cell, type Value } from '../variables/index.ts'
import type { CompiledExchange } from './compiled.ts'

/** What came of one step. `problem` says why it failed; bytes are whole frames, where there are any to compare. */
export interface StepResult {
  id: string
  status: 'passed' | 'failed' | 'not run'
  /** When it began, and when it was done or decided. */
  fromUs: number
  atUs: number
  problem: Problem | null
  expected: string
  came: string
  expectedBytes: Uint8Array | null
  cameBytes: Uint8Array | null
  direction: Direction
  /** The entry of the conversation that decided. */
  entry: number | null
}

export interface ExchangeResult {
  passed: boolean
  steps: StepResult[]
  /** A report or event that no step expected, at the end. */
  leftOver: Entry | null
  endUs: number
  rig: Rig
}

/** Panel and host have started and synchronised by then. */
export const settleUs = 1_500_000
/** While nothing can be touched, the glass is looked at so often, µs. */
const lookUs = 50_000
/** So much virtual time, and so many events, are one slice. */
const sliceUs = 2_000_000
const sliceEvents = 200
/** After a failure the run goes on for so long, to show what came too late. */
const afterUs = 1_000_000
/** Who looks, looks when all else of that instant is done. */
const watchSource = 9
/** An exchange is given up after so much virtual time. */
const mostUs = 3_600_000_000

type Of<K extends StepKind> = CompiledStepOf<K>['settings']
/** What takes time: between two yields so little of it that whoever asked stays at hand. */
type Slices<T> = Generator<void, T>

/** How far an exchange has come: steps that are done, of how many. */
export interface Progress {
  done: number
  of: number
  nowUs: number
}

type Outcome = Partial<Omit<StepResult, 'id' | 'status' | 'atUs'>> | null

/**
 * How a kind of step is run: with the rig and the waiting of the runner. Null: it holds; else what was expected and came. An
 * essential variable or widget that is missing has failed it before it is run.
 */
export type RunStep = (stage: Pick<Runner, 'rig' | 'await'>, settings: never) => Slices<Outcome>
const runs = new Map<string, RunStep>()

/** Adds a kind of step with how it is run; a test takes it out again with the function it gets back. */
export function registerStep(kind: string, record: Parameters<typeof registerStepKind>[1], run: RunStep): () => void {
  const gone = registerStepKind(kind, record)
  runs.set(kind, run)
  return () => {
    runs.delete(kind)
    gone()
  }
}

/** Runs one exchange on a rig of its own. The same build and exchange always give the same result. */
export class Runner {
  readonly rig: Rig
  private protocol: Protocol
  /** Entries up to this one have been dealt with by expectations. */
  private cursor = 0
  /** A report of several variables, and the addresses of those that steps have asked for. */
  private several: { entry: Entry; asked: Set<number> } | null = null
  private answerCursor: Record<Direction, number> = { 'to host': 0, 'to panel': 0 }
  private finger: { x: number; y: number } | null = null
  readonly results: StepResult[]
  private next = 0

  constructor(
    private build: Build,
    hostBuild: HostBuild,
    private exchange: CompiledExchange,
  ) {
    this.rig = new Rig(build, hostBuild, exchange.seed)
    this.protocol = mustHold(protocolFor(build.header.layout, build.book))
    this.rig.advance(settleUs)
    // What panel and host say to each other while starting is no step's business.
    this.cursor = this.rig.conversation.lastId
    this.answerCursor = { 'to host': this.cursor, 'to panel': this.cursor }
    this.results = exchange.steps.map(({ id }) => ({ ...empty, id, status: 'not run' }))
  }

  /** Has something looked at when the panel's time comes to `atUs`; the run is the same as without. */
  whenAt(atUs: number, look: () => void): void {
    this.rig.clock.at(Math.max(atUs, this.rig.nowUs), watchSource, look)
  }

  /** Runs the next step; false when there is none, or the one before failed. */
  private *step(): Slices<boolean> {
    const step = this.exchange.steps[this.next]
    if (!step || this.results[this.next - 1]?.status === 'failed') return false
    const fromUs = this.rig.nowUs
    const outcome = this.rig.nowUs > mostUs ? fail('too-long', {}) : yield* this.run(step)
    this.results[this.next] = {
      ...empty,
      ...outcome,
      id: step.id,
      status: outcome?.problem ? 'failed' : 'passed',
      fromUs,
      atUs: this.rig.nowUs,
    }
    this.next++
    return true
  }

  /** Has time go by after its end until something may be touched, no longer than `mostMs`; says whether something may. */
  waitForTouch(mostMs: number): boolean {
    const { rig } = this
    const last = rig.nowUs + mostMs * 1000
    while (!rig.panel.canBeTouched && rig.nowUs < last) rig.advance(lookUs)
    return rig.panel.canBeTouched
  }

  /** The whole exchange; who asks may stop between any two slices. */
  *slices(): Generator<Progress, ExchangeResult> {
    for (let running = true; running;) {
      const step = this.step()
      for (let at = step.next(); ; at = step.next()) {
        if (at.done) {
          running = at.value
          break
        }
        yield { done: this.next, of: this.exchange.steps.length, nowUs: this.rig.nowUs }
      }
    }
    return this.result()
  }

  /** The whole exchange at once. */
  finish(): ExchangeResult {
    const slices = this.slices()
    for (let at = slices.next(); ; at = slices.next()) if (at.done) return at.value
  }

  private result(): ExchangeResult {
    const failed = this.results.some((r) => r.status === 'failed')
    const leftOver = failed || this.exchange.allowsOthers ? null : this.spoken()()
    const endUs = this.rig.nowUs
    if (failed) this.rig.advance(afterUs)
    // One that asks for nothing has not shown anything.
    return { passed: this.results.length > 0 && !failed && !leftOver, steps: this.results, leftOver, endUs, rig: this.rig }
  }

  /** What a step cannot do without has been named by nobody, or was deleted. */
  private lacks(step: CompiledStep): Outcome {
    const settings = step.settings as Values
    const field = stepKind(step.kind).settings.list.find(
      ({ key, essential, type }) => essential && settings[key] === null && (type.name === 'variable' || type.name === 'widget'),
    )
    return field ? fail(`no-${field.type.name}`, {}) : null
  }

  private *run(step: CompiledStep): Slices<Outcome> {
    const lacking = this.lacks(step)
    if (lacking) return lacking
    const registered = runs.get(step.kind)
    if (registered) return yield* registered(this, step.settings as never)
    switch (step.kind) {
      case 'touch':
        return yield* this.touch(step.settings)
      case 'host writes':
        return yield* this.withValue(step.settings, (cell, value) => at(() => this.rig.host.write(cell, value)))
      case 'host asks':
        return yield* at(() => this.rig.host.ask(step.settings.variable!))
      case 'host sends bytes':
        return this.sendBytes(step.settings.bytes)
      case 'wait':
        yield* this.pass(step.settings.ms * 1000)
        return null
      case 'power cycle':
        this.rig.powerCycle(step.settings.which)
        return null
      case 'trouble':
        return this.trouble(step.settings)
      case 'expect report':
        return yield* this.withValue(step.settings, (cell, value) => this.expectReport(step.settings, cell, value))
      case 'expect event':
        return yield* this.expectEvent(step.settings)
      case 'expect answer':
        return yield* this.expectAnswer(step.settings)
      case 'expect shown':
        return yield* this.expectShown(step.settings)
      case 'expect page':
        return yield* this.expectPage(step.settings)
      case 'expect memory':
        return yield* this.withValue(step.settings, (cell, value) => this.expectMemory(step.settings, cell, value))
      case 'expect nothing':
        return yield* this.expectNothing(step.settings.ms)
    }
  }

  // --- doing

  private *withValue(
    s: { variable: Cell | null; value: string },
    go: (cell: Cell, value: Value) => Slices<Outcome>,
  ): Slices<Outcome> {
    const cell = s.variable!
    const parsed = parseValue(cell.holds, s.value)
    return parsed.ok ? yield* go(cell, parsed.value) : fail('value', { value: s.value, why: parsed.problem.code })
  }

  private sendBytes(text: string): Outcome {
    const bytes = fromHex(text)
    if (!bytes.ok) return { problem: bytes.problem }
    this.rig.sendRaw('to panel', bytes.value)
    return null
  }

  private trouble(s: Of<'trouble'>): Outcome {
    const { rig } = this
    switch (s.what) {
      case 'lose frames to the host':
        rig.line.trouble.lose['to host'] = s.count
        break
      case 'lose frames to the panel':
        rig.line.trouble.lose['to panel'] = s.count
        break
      default:
        rig.host.silent = s.what === 'host falls silent'
    }
    return null
  }

  private *touch(s: Of<'touch'>): Slices<Outcome> {
    const { rig } = this
    const number = s.widget!
    const gesture = s.gesture
    if (gesture === 'release') return this.release()
    for (let k = 0; k < s.times; k++) {
      const point = rig.panel.pointOn(number)
      if ('why' in point) return fail(`touch.${point.why}`, { by: point.by })
      rig.panel.touchDown(point.x, point.y)
      this.finger = point
      if (gesture === 'press') break
      if (gesture === 'drag') yield* this.drag(s.dx, s.dy, s.holdMs)
      else yield* this.pass(s.holdMs * 1000)
      this.release()
      if (s.times > 1) yield* this.pass(80_000)
    }
    return null
  }

  private *drag(dx: number, dy: number, ms: number): Slices<void> {
    const from = this.finger!
    for (let k = 1; k <= 10; k++) {
      yield* this.pass(ms * 100)
      this.finger = { x: from.x + Math.round((dx * k) / 10), y: from.y + Math.round((dy * k) / 10) }
      this.rig.panel.touchMove(this.finger.x, this.finger.y)
    }
  }

  private release(): Outcome {
    if (!this.finger) return fail('touch.no-finger', {})
    this.rig.panel.touchUp(this.finger.x, this.finger.y)
    this.finger = null
    return null
  }

  // --- expecting

  /** Lets so much time pass. */
  private *pass(us: number): Slices<void> {
    for (let left = us; left > 0; left -= sliceUs) {
      this.rig.advance(Math.min(left, sliceUs))
      yield
    }
  }

  /** Lets time pass, event by event, until `look` finds something or the time is up. */
  *await<T>(withinMs: number, look: () => T | null): Slices<T | null> {
    const untilUs = this.rig.nowUs + withinMs * 1000
    for (let events = 1; ; events++) {
      if (events % sliceEvents === 0) yield
      const found = look()
      if (found !== null) return found
      const next = this.rig.clock.nextUs()
      if (next === null || next > untilUs) {
        yield* this.pass(untilUs - this.rig.nowUs)
        return look()
      }
      this.rig.advance(next - this.rig.nowUs)
    }
  }

  /** A report or event that a step has to deal with: not a repeat of what had arrived, and not of start-up. */
  private isSpoken({ direction, kind, verdict, message }: Entry): boolean {
    if (direction !== 'to host' || kind !== 'frame' || verdict === 'repeated') return false
    const own = this.build.header.memory.ownFrom
    return message!.operation === 'event' || (message!.operation === 'report' && message!.address < own)
  }

  /** Each call gives the next entry after `id` of which something holds, and looks at none twice: null while there is none. */
  private after(id: number, holds: (entry: Entry) => boolean): () => Entry | null {
    let from = id
    return () => {
      for (const entry of this.rig.conversation.since(from)) {
        from = entry.id
        if (holds(entry)) return entry
      }
      return null
    }
  }

  /** What has arrived and is not dealt with, one after another. */
  private spoken = (): (() => Entry | null) => this.after(this.cursor, (entry) => this.isSpoken(entry))

  private *nextSpoken(withinMs: number, isIt: (entry: Entry) => boolean): Slices<{ entry: Entry; fits: boolean } | null> {
    const next = this.spoken()
    return yield* this.await(withinMs, () => {
      for (let entry = next(); entry; entry = next()) {
        const fits = isIt(entry)
        if (!fits && this.exchange.allowsOthers) continue
        if (fits) this.cursor = entry.id
        return { entry, fits }
      }
      return null
    })
  }

  /** The report that was found last, where it holds one more variable that no step has asked for yet. */
  private alsoIn(cell: Cell, holds: (entry: Entry) => boolean, isIt: (entry: Entry) => boolean) {
    const { several } = this
    if (several?.entry.id !== this.cursor || several.asked.has(cell.index) || !holds(several.entry)) return null
    return { entry: several.entry, fits: isIt(several.entry) }
  }

  private asked(cell: Cell, entry: Entry): void {
    if (this.several?.entry !== entry) this.several = { entry, asked: new Set() }
    this.several.asked.add(cell.index)
  }

  private *expectReport(s: Of<'expect report'>, cell: Cell, value: Value): Slices<Outcome> {
    const words = encodeValue(cell.holds, value, cell.order)
    const payload = words.ok ? wordsToPayload(words.value, this.build.book.memory) : []
    // It may be one of several that travel in one frame.
    const bytesIn = ({ message }: Entry) =>
      message!.operation === 'report' ? bytesOfCell(cell, message!.address, message!.payload) : null
    const isReport = (entry: Entry) => bytesIn(entry) !== null
    const valueIn = (entry: Entry) => this.valueOf(cell, bytesIn(entry) ?? [])
    const attempt = s.attempt
    const isIt = (e: Entry) => isReport(e) && close(valueIn(e), value, s.tolerance) && (attempt === 0 || e.attempt === attempt)
    const found = this.alsoIn(cell, isReport, isIt) ?? (yield* this.nextSpoken(s.withinMs, isIt))
    if (found?.fits) this.asked(cell, found.entry)
    const expected = formatValue(cell.holds, value) + (attempt ? `, try ${attempt}` : '')
    const frame = (sequence: number) => this.frame('to host', { operation: 'report', sequence, address: cell.address, payload })
    if (!found) return { ...fail('nothing-came', { ms: s.withinMs }), expected, expectedBytes: frame(1) }
    const { entry, fits } = found
    const sameValue = isReport(entry) && close(valueIn(entry), value, s.tolerance)
    const came = isReport(entry) ? formatValue(cell.holds, valueIn(entry) ?? '') + (attempt ? `, try ${entry.attempt}` : '') : ''
    const seen = { expected, came, expectedBytes: frame(entry.message!.sequence), cameBytes: entry.bytes, entry: entry.id }
    return fits ? seen : { ...fail(isReport(entry) ? (sameValue ? 'other-try' : 'other-value') : 'something-else', {}), ...seen }
  }

  private *expectEvent(s: Of<'expect event'>): Slices<Outcome> {
    const widget = s.widget!
    const isIt = ({ message }: Entry) => message!.operation === 'event' && message!.address === widget && message!.what === s.what
    const found = yield* this.nextSpoken(s.withinMs, isIt)
    const frame = (sequence: number) => this.frame('to host', { operation: 'event', sequence, address: widget, what: s.what })
    const expected = s.what
    if (!found) return { ...fail('nothing-came', { ms: s.withinMs }), expected, expectedBytes: frame(1) }
    const seen = {
      expected,
      expectedBytes: frame(found.entry.message!.sequence),
      cameBytes: found.entry.bytes,
      entry: found.entry.id,
    }
    return found.fits ? seen : { ...fail('something-else', {}), ...seen }
  }

  private *expectAnswer(s: Of<'expect answer'>): Slices<Outcome> {
    const direction: Direction = s.from === 'host' ? 'to panel' : 'to host'
    const isAnswer = (e: Entry) =>
      e.direction === direction && e.kind === 'frame' && ['done', 'refused', 'value'].includes(e.message!.operation)
    const found = yield* this.await(s.withinMs, this.after(this.answerCursor[direction], isAnswer))
    const expected = s.answer + (s.answer === 'refused' && s.reason !== 'any' ? `: ${s.reason}` : '')
    if (!found) return { ...fail('no-answer', { ms: s.withinMs }), expected, direction }
    this.answerCursor[direction] = found.id
    const message = found.message!
    const came = message.operation + (message.operation === 'refused' ? `: ${message.reason}` : '')
    const fits =
      message.operation === s.answer && (message.operation !== 'refused' || s.reason === 'any' || message.reason === s.reason)
    const seen = { expected, came, cameBytes: found.bytes, entry: found.id, direction }
    return fits ? seen : { ...fail('other-answer', {}), ...seen }
  }

  private *expectShown(s: Of<'expect shown'>): Slices<Outcome> {
    const widget = s.widget!
    const expected = s.text
    // A blank before a degree sign is no difference.
    const plain = (text: string | null) => text?.replaceAll(/\s+(?=°)/g, '')
    const { panel } = this.rig
    const seen = () => {
      const on = panel.build.symbols.pages.find((p) => p.widgets.some((w) => w.number === widget))?.number
      return on === panel.pageNumber ? this.rig.panel.shows(widget) : null
    }
    const found = yield* this.await(s.withinMs, () => (plain(seen()) === plain(expected) ? true : null))
    if (found) return { expected, came: expected }
    const came = seen()
    return { ...fail(came === null ? 'touch.not on this page' : 'other-shown', {}), expected, came: came ?? '' }
  }

  private *expectPage(s: Of<'expect page'>): Slices<Outcome> {
    const page = s.page
    const nameOf = (number: number | null) => this.build.symbols.pages.find((p) => p.number === number)?.name ?? ''
    const found = yield* this.await(s.withinMs, () => (this.rig.panel.pageNumber === page ? true : null))
    const seen = { expected: nameOf(page), came: nameOf(this.rig.panel.pageNumber) }
    return found ? seen : { ...fail('other-page', {}), ...seen }
  }

  private *expectMemory(s: Of<'expect memory'>, cell: Cell, value: Value): Slices<Outcome> {
    const tolerance = s.tolerance
    const read = () => this.rig.panel.memory.read(cell).value
    const found = yield* this.await(s.withinMs, () => (close(read(), value, tolerance) ? true : null))
    const expected = formatValue(cell.holds, value) + (tolerance ? ` ± ${tolerance}` : '')
    const came = formatValue(cell.holds, read())
    if (found) return { expected, came }
    const last = [...this.rig.conversation.all()]
      .reverse()
      .find((e) => e.direction === 'to panel' && e.message?.operation === 'write' && e.message.address === cell.address)
    const words = encodeValue(cell.holds, value, cell.order)
    const bytes =
      last && words.ok
        ? this.frame('to panel', {
            operation: 'write',
            sequence: last.message!.sequence,
            address: cell.address,
            payload: wordsToPayload(words.value, this.build.book.memory),
          })
        : null
    return {
      ...fail('other-memory', { lastWriteUs: last?.toUs ?? null }),
      expected,
      came,
      expectedBytes: bytes,
      cameBytes: last?.bytes ?? null,
      entry: last?.id ?? null,
      direction: 'to panel',
    }
  }

  private *expectNothing(ms: number): Slices<Outcome> {
    const found = yield* this.await(ms, this.spoken())
    return found ? { ...fail('something-came', {}), cameBytes: found.bytes, entry: found.id } : null
  }

  private valueOf(cell: Cell, payload: readonly number[]): Value | null {
    return payload.length === cell.words * 2
      ? decodeValue(cell.holds, bytesToWords(payload, this.build.book.memory), cell.order)
      : null
  }

  private frame(direction: Direction, message: Message): Uint8Array | null {
    const bytes = this.protocol.encode(direction, message)
    return bytes.ok ? bytes.value : null
  }
}

/** What is done at once, as one slice. */
function* at(run: () => void): Slices<Outcome> {
  run()
  yield
  return null
}

const empty: Omit<StepResult, 'id'> = {
  status: 'not run',
  fromUs: 0,
  atUs: 0,
  problem: null,
  expected: '',
  came: '',
  expectedBytes: null,
  cameBytes: null,
  direction: 'to host',
  entry: null,
}

const fail = (code: string, facts: Problem['facts']): { problem: Problem } => ({ problem: { code: `exchange.${code}`, facts } })

const close = (a: Value | null, b: Value, tolerance: number): boolean =>
  typeof a === 'number' && typeof b === 'number' ? Math.abs(a - b) <= tolerance + 1e-9 : a === b

export const runExchange = (build: Build, hostBuild: HostBuild, exchange: CompiledExchange): ExchangeResult =>
  new Runner(build, hostBuild, exchange).finish()
