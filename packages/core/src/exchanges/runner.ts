import { bytesToWords, fromHex, wordsToPayload, mustHold, type Problem } from '../base/index.ts'
import type { Build, HostBuild } from '../compile/index.ts'
import type { Direction, Message } from '../frames/index.ts'
import { protocolFor, type Protocol } from '../protocols/index.ts'
import { Rig, type Entry } from '../rig/index.ts'
import type { CompiledStep, CompiledStepOf, StepKind } from '../scripts/index.ts'
import { decodeValue, encodeValue, formatValue, parseValue, type Cell, type Value } from '../variables/index.ts'
import type { CompiledExchange } from './compiled.ts'

/** What came of one step. `problem` says why it failed; bytes are whole frames, where there are any to compare. */
export interface StepResult {
  id: string
  status: 'passed' | 'failed' | 'not run'
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
const settleUs = 1_500_000
/** An exchange is given up after so much virtual time. */
const mostUs = 3_600_000_000

type Of<K extends StepKind> = CompiledStepOf<K>['settings']
type Outcome = Partial<Omit<StepResult, 'id' | 'status' | 'atUs'>> | null

/** Runs one exchange on a rig of its own. The same build and exchange always give the same result. */
export class Runner {
  readonly rig: Rig
  private protocol: Protocol
  /** Entries up to this one have been dealt with by expectations. */
  private cursor = 0
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

  /** Runs the next step; false when there is none, or the one before failed. */
  step(): boolean {
    const step = this.exchange.steps[this.next]
    if (!step || this.results[this.next - 1]?.status === 'failed') return false
    const outcome = this.rig.nowUs > mostUs ? fail('too-long', {}) : this.run(step)
    this.results[this.next] = {
      ...empty,
      ...outcome,
      id: step.id,
      status: outcome?.problem ? 'failed' : 'passed',
      atUs: this.rig.nowUs,
    }
    this.next++
    return true
  }

  finish(): ExchangeResult {
    while (this.step());
    const failed = this.results.some((r) => r.status === 'failed')
    const leftOver = failed || this.exchange.allowsOthers ? null : this.spoken()()
    return { passed: !failed && !leftOver, steps: this.results, leftOver, endUs: this.rig.nowUs, rig: this.rig }
  }

  private run(step: CompiledStep): Outcome {
    switch (step.kind) {
      case 'touch':
        return this.touch(step.settings)
      case 'host writes':
        return this.withValue(step.settings, (cell, value) => (this.rig.host.write(cell, value), null))
      case 'host asks':
        return this.withCell(step.settings, (cell) => (this.rig.host.ask(cell), null))
      case 'host sends bytes':
        return this.sendBytes(step.settings.bytes)
      case 'wait':
        this.rig.advance(step.settings.ms * 1000)
        return null
      case 'power cycle':
        this.rig.powerCycle(step.settings.which)
        return null
      case 'trouble':
        return this.trouble(step.settings)
      case 'expect report':
        return this.withValue(step.settings, (cell, value) => this.expectReport(step.settings, cell, value))
      case 'expect event':
        return this.expectEvent(step.settings)
      case 'expect answer':
        return this.expectAnswer(step.settings)
      case 'expect shown':
        return this.expectShown(step.settings)
      case 'expect page':
        return this.expectPage(step.settings)
      case 'expect memory':
        return this.withValue(step.settings, (cell, value) => this.expectMemory(step.settings, cell, value))
      case 'expect nothing':
        return this.expectNothing(step.settings.ms)
    }
  }

  // --- doing

  private withCell(s: { variable: Cell | null }, go: (cell: Cell) => Outcome): Outcome {
    const cell = s.variable
    return cell ? go(cell) : fail('no-variable', {})
  }

  private withValue(s: { variable: Cell | null; value: string }, go: (cell: Cell, value: Value) => Outcome): Outcome {
    return this.withCell(s, (cell) => {
      const parsed = parseValue(cell.holds, s.value)
      if (parsed.ok) return go(cell, parsed.value)
      return fail('value', { value: s.value, why: parsed.problem.code })
    })
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

  private touch(s: Of<'touch'>): Outcome {
    const { rig } = this
    const number = s.widget
    if (number === null) return fail('no-widget', {})
    const gesture = s.gesture
    if (gesture === 'release') return this.release()
    for (let k = 0; k < s.times; k++) {
      const point = rig.panel.pointOn(number)
      if ('why' in point) return fail(`touch.${point.why}`, { by: point.by })
      rig.panel.touchDown(point.x, point.y)
      this.finger = point
      if (gesture === 'press') break
      if (gesture === 'drag') this.drag(s.dx, s.dy, s.holdMs)
      else rig.advance(s.holdMs * 1000)
      this.release()
      if (s.times > 1) rig.advance(80_000)
    }
    return null
  }

  private drag(dx: number, dy: number, ms: number): void {
    const from = this.finger!
    for (let k = 1; k <= 10; k++) {
      this.rig.advance(ms * 100)
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

  /** Lets time pass, event by event, until `look` finds something or the time is up. */
  private await<T>(withinMs: number, look: () => T | null): T | null {
    const untilUs = this.rig.nowUs + withinMs * 1000
    for (;;) {
      const found = look()
      if (found !== null) return found
      const next = this.rig.clock.nextUs()
      if (next === null || next > untilUs) {
        this.rig.advance(untilUs - this.rig.nowUs)
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

  private nextSpoken(withinMs: number, isIt: (entry: Entry) => boolean): { entry: Entry; fits: boolean } | null {
    const next = this.spoken()
    return this.await(withinMs, () => {
      for (let entry = next(); entry; entry = next()) {
        const fits = isIt(entry)
        if (!fits && this.exchange.allowsOthers) continue
        if (fits) this.cursor = entry.id
        return { entry, fits }
      }
      return null
    })
  }

  private expectReport(s: Of<'expect report'>, cell: Cell, value: Value): Outcome {
    const words = encodeValue(cell.holds, value, cell.order)
    const payload = words.ok ? wordsToPayload(words.value, this.build.book.memory) : []
    const isReport = ({ message }: Entry) => message!.operation === 'report' && message!.address === cell.address
    const valueIn = (entry: Entry) => this.valueOf(cell, (entry.message as { payload: readonly number[] }).payload)
    const attempt = s.attempt
    const isIt = (e: Entry) => isReport(e) && close(valueIn(e), value, s.tolerance) && (attempt === 0 || e.attempt === attempt)
    const found = this.nextSpoken(s.withinMs, isIt)
    const expected = formatValue(cell.holds, value) + (attempt ? `, try ${attempt}` : '')
    const frame = (sequence: number) => this.frame('to host', { operation: 'report', sequence, address: cell.address, payload })
    if (!found) return { ...fail('nothing-came', { ms: s.withinMs }), expected, expectedBytes: frame(1) }
    const { entry, fits } = found
    const sameValue = isReport(entry) && close(valueIn(entry), value, s.tolerance)
    const came = isReport(entry) ? formatValue(cell.holds, valueIn(entry) ?? '') + (attempt ? `, try ${entry.attempt}` : '') : ''
    const seen = { expected, came, expectedBytes: frame(entry.message!.sequence), cameBytes: entry.bytes, entry: entry.id }
    return fits ? seen : { ...fail(isReport(entry) ? (sameValue ? 'other-try' : 'other-value') : 'something-else', {}), ...seen }
  }

  private expectEvent(s: Of<'expect event'>): Outcome {
    const widget = s.widget
    if (widget === null) return fail('no-widget', {})
    const isIt = ({ message }: Entry) => message!.operation === 'event' && message!.address === widget && message!.what === s.what
    const found = this.nextSpoken(s.withinMs, isIt)
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

  private expectAnswer(s: Of<'expect answer'>): Outcome {
    const direction: Direction = s.from === 'host' ? 'to panel' : 'to host'
    const isAnswer = (e: Entry) =>
      e.direction === direction && e.kind === 'frame' && ['done', 'refused', 'value'].includes(e.message!.operation)
    const found = this.await(s.withinMs, this.after(this.answerCursor[direction], isAnswer))
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

  private expectShown(s: Of<'expect shown'>): Outcome {
    const widget = s.widget
    if (widget === null) return fail('no-widget', {})
    const expected = s.text
    const { panel } = this.rig
    const seen = () => {
      const on = panel.build.symbols.pages.find((p) => p.widgets.some((w) => w.number === widget))?.number
      return on === panel.pageNumber ? this.rig.panel.shows(widget) : null
    }
    const found = this.await(s.withinMs, () => (seen() === expected ? true : null))
    if (found) return { expected, came: expected }
    const came = seen()
    return { ...fail(came === null ? 'touch.not on this page' : 'other-shown', {}), expected, came: came ?? '' }
  }

  private expectPage(s: Of<'expect page'>): Outcome {
    const page = s.page
    const nameOf = (number: number | null) => this.build.symbols.pages.find((p) => p.number === number)?.name ?? ''
    const found = this.await(s.withinMs, () => (this.rig.panel.pageNumber === page ? true : null))
    const seen = { expected: nameOf(page), came: nameOf(this.rig.panel.pageNumber) }
    return found ? seen : { ...fail('other-page', {}), ...seen }
  }

  private expectMemory(s: Of<'expect memory'>, cell: Cell, value: Value): Outcome {
    const tolerance = s.tolerance
    const read = () => this.rig.panel.memory.read(cell).value
    const found = this.await(s.withinMs, () => (close(read(), value, tolerance) ? true : null))
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

  private expectNothing(ms: number): Outcome {
    const found = this.await(ms, this.spoken())
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

const empty: Omit<StepResult, 'id'> = {
  status: 'not run',
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
