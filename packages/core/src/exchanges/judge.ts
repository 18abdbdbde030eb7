import { bytesToWords, fromHex, sameBytes, wordsToPayload } from '../base/index.ts'
import type { LogIndex } from '../explain/index.ts'
import { placesOf, type Direction, type Message, type Operation } from '../frames/index.ts'
import { bookOf, type Project } from '../project/index.ts'
import { commandOf, encodeContent, parseValues, protocolFor, readContent, type Book, type Protocol } from '../protocols/index.ts'
import type { CompiledStep, CompiledStepOf, Exchange, StepKind } from '../scripts/index.ts'
import { bytesOfCell, decodeValue, encodeValue, parseValue, type Cell, type Value } from '../variables/index.ts'
import { compileExchange } from './compiled.ts'

/**
 * How a step is found in a log: as it should be, too late, with other bytes, or not at all. `by hand`: somebody does it, and no frame
 * shows it; `not on the wire`: the glass or the memory shows it, and no frame does.
 */
export type Verdict = 'found' | 'late' | 'different' | 'missing' | 'by hand' | 'not on the wire'

export interface JudgedStep {
  id: string
  verdict: Verdict
  /** The stretch of the log that decided, its line, and its time; null: none did. */
  row: number | null
  line: number | null
  timeMs: number | null
  /** How much later than it may be, ms. */
  lateMs: number | null
  expected: Uint8Array | null
  came: Uint8Array | null
  /** The first byte that differs, from 0; −1: none. */
  differsAt: number
  /** Its time was not judged: the log has none, or somebody did something in between. */
  isUntimed: boolean
}

export interface JudgedLog {
  steps: readonly JudgedStep[]
  passed: boolean
  /** Reports and events among the frames of the exchange that no step asks for; empty where others may come. */
  unexpected: readonly { row: number; line: number }[]
}

/** A frame that a step asks for. */
interface Sought {
  direction: Direction
  operations: readonly Operation[]
  fits(message: Message): boolean
  /** It is of the same thing, with another content. */
  isLike(message: Message): boolean
  /** The bytes that it would have. */
  bytes(sequence: number): Uint8Array | null
  /** Exactly these, whatever they mean. */
  exactly?: Uint8Array
  withinMs: number | null
}

/** `handMs`: somebody does it, for so long. */
type Look = Sought | 'by hand' | 'not on the wire' | { handMs: number } | { waitMs: number } | { quietMs: number }

interface Ground {
  book: Book
  protocol: Protocol
}

type Of<K extends StepKind> = CompiledStepOf<K>['settings']

const near = (a: Value | null, b: Value, tolerance: number): boolean =>
  typeof a === 'number' && typeof b === 'number' ? Math.abs(a - b) <= tolerance + 1e-9 : a === b

const valueIn = (cell: Cell, message: Message, { book }: Ground): Value | null => {
  if (message.operation !== 'report' && message.operation !== 'write') return null
  for (const { address, payload } of placesOf(message)) {
    const bytes = bytesOfCell(cell, address, payload)
    if (bytes?.length === cell.words * 2) return decodeValue(cell.holds, bytesToWords(bytes, book.memory), cell.order)
  }
  return null
}

/** A write or a report of a variable with its value. */
function valued(
  ground: Ground,
  operation: 'write' | 'report',
  { variable: cell, value }: { variable: Cell | null; value: string },
  withinMs: number | null,
  tolerance = 0,
): Look {
  const wanted = cell && parseValue(cell.holds, value)
  if (!cell || !wanted?.ok) return 'by hand'
  const words = encodeValue(cell.holds, wanted.value, cell.order)
  const direction = operation === 'write' ? 'to panel' : 'to host'
  const payload = words.ok ? wordsToPayload(words.value, ground.book.memory) : []
  return {
    direction,
    operations: [operation],
    fits: (message) => near(valueIn(cell, message, ground), wanted.value, tolerance),
    isLike: (message) => valueIn(cell, message, ground) !== null,
    bytes: (sequence) => encoded(ground, direction, { operation, sequence, address: cell.address, payload }),
    withinMs,
  }
}

const encoded = ({ protocol }: Ground, direction: Direction, message: Message): Uint8Array | null => {
  const made = protocol.encode(direction, message)
  return made.ok ? made.value : null
}

function commanded(ground: Ground, number: number | null, values: string, direction: Direction, withinMs: number | null): Look {
  const command = number === null ? undefined : commandOf(ground.book, number)
  const wanted = command && parseValues(command, values)
  if (!command || !wanted?.ok) return 'by hand'
  const content = encodeContent(command, wanted.value)
  const isOwn = (message: Message) => message.operation === 'message' && message.address === command.number
  return {
    direction,
    operations: ['message'],
    fits: (message) => {
      const read = message.operation === 'message' && isOwn(message) ? readContent(command, message.payload) : null
      return read !== null && wanted.value.every((value, k) => value === null || near(read[k] ?? null, value, 0))
    },
    isLike: isOwn,
    bytes: (sequence) =>
      content.ok
        ? encoded(ground, direction, { operation: 'message', sequence, address: command.number, payload: content.value })
        : null,
    withinMs,
  }
}

/** The frame that each kind of step asks a log for. */
const looks: { [K in StepKind]: (settings: Of<K>, ground: Ground) => Look } = {
  touch: ({ gesture, times, holdMs }) => ({ handMs: gesture === 'press' || gesture === 'release' ? 0 : times * (holdMs + 80) }),
  'power cycle': () => 'by hand',
  trouble: () => 'by hand',
  wait: ({ ms }) => ({ waitMs: ms }),
  'host writes': (s, ground) => valued(ground, 'write', s, null),
  'host asks': ({ variable: cell }, ground) =>
    cell
      ? {
          direction: 'to panel',
          operations: ['ask'],
          fits: (message) => message.address === cell.address,
          isLike: () => false,
          bytes: (sequence) =>
            encoded(ground, 'to panel', { operation: 'ask', sequence, address: cell.address, words: cell.words }),
          withinMs: null,
        }
      : 'by hand',
  'host sends bytes': ({ bytes }) => {
    const read = fromHex(bytes)
    if (!read.ok) return 'by hand'
    return {
      direction: 'to panel',
      operations: [],
      fits: () => false,
      isLike: () => false,
      bytes: () => read.value,
      exactly: read.value,
      withinMs: null,
    }
  },
  'host sends command': (s, ground) => commanded(ground, s.command, s.values, 'to panel', null),
  'expect report': (s, ground) => valued(ground, 'report', s, s.withinMs, s.tolerance),
  'expect event': ({ widget, what, withinMs }, ground) =>
    widget === null
      ? 'by hand'
      : {
          direction: 'to host',
          operations: ['event'],
          fits: (message) => message.operation === 'event' && message.address === widget && message.what === what,
          isLike: (message) => message.operation === 'event' && message.address === widget,
          bytes: (sequence) => encoded(ground, 'to host', { operation: 'event', sequence, address: widget, what }),
          withinMs,
        },
  'expect command': (s, ground) => commanded(ground, s.command, s.values, s.from === 'host' ? 'to panel' : 'to host', s.withinMs),
  'expect answer': ({ from, answer, reason, withinMs }) => ({
    direction: from === 'host' ? 'to panel' : 'to host',
    operations: ['done', 'refused', 'value'],
    fits: (message) =>
      message.operation === answer && (message.operation !== 'refused' || reason === 'any' || message.reason === reason),
    isLike: () => true,
    bytes: () => null,
    withinMs,
  }),
  'expect shown': () => 'not on the wire',
  'expect page': () => 'not on the wire',
  'expect memory': () => 'not on the wire',
  'expect nothing': ({ ms }) => ({ quietMs: ms }),
}

/** So many places of a log are tried for the beginning of an exchange. */
const mostBeginnings = 12
/** A step is looked for in so many rows behind the one before: what comes later is of another conversation. */
const mostRows = 100_000
/** A frame that is damaged in so many bytes at most may be the one that was meant. */
const mostDamaged = 2

/**
 * Looks for the steps of an exchange in a log of a real module, from the place where most of them are found. Null: the layout cannot be
 * used. A step's time is judged from the frame before it, where the log has times and nobody did anything by hand in between.
 */
export function judgeLog(project: Project, exchange: Exchange, log: LogIndex): JudgedLog | null {
  const book = bookOf(project)
  const protocol = protocolFor(project.layout, book)
  if (!protocol.ok) return null
  const ground = { book, protocol: protocol.value }
  const compiled = compileExchange(project, exchange)
  const asked = compiled.steps.map((step) => ({ step, look: lookOf(step, ground) }))
  const first = asked.find(({ look }) => typeof look === 'object' && 'direction' in look)?.look as Sought | undefined
  const beginnings = first ? beginningsOf(log, first) : []
  let best: { result: JudgedLog; score: number } | null = null
  for (const from of beginnings.length ? beginnings : [0]) {
    const result = new Judge(log, exchange.allowsOthers, from).judge(asked)
    const score =
      result.steps.filter(({ verdict }) => verdict === 'found').length * 4 +
      result.steps.filter(({ verdict }) => verdict === 'late').length * 2 +
      (result.passed ? 1 : 0)
    if (!best || score > best.score) best = { result, score }
    if (result.passed) break
  }
  return best!.result
}

function lookOf(step: CompiledStep, ground: Ground): Look {
  const look = looks[step.kind] as ((settings: unknown, ground: Ground) => Look) | undefined
  // A kind that was registered besides is somebody's own: no frame is known of it.
  return look ? look(step.settings, ground) : 'not on the wire'
}

/** Rows that are as the first step asks for. */
function beginningsOf(log: LogIndex, sought: Sought): number[] {
  const found: number[] = []
  for (let k = 0; k < log.count && found.length < mostBeginnings; k++) if (fits(log, k, sought)) found.push(k)
  return found
}

function fits(log: LogIndex, row: number, { direction, operations, fits: is, exactly }: Sought): boolean {
  const facts = log.factsAt(row)
  if (exactly) return sameBytes(log.bytesAt(row), exactly)
  if (facts.direction !== direction || !facts.operation || !operations.includes(facts.operation)) return false
  const message = log.messageAt(row)
  return message !== null && is(message)
}

class Judge {
  private steps: JudgedStep[] = []
  private matched = new Set<number>()
  /** The frame before, from which time is counted: null while nobody knows when it was. */
  private sinceMs: number | null = null
  private waitedMs = 0
  /** Frames of a touch come while it lasts, and behind it. */
  private handMs = 0
  private row: number

  constructor(
    private log: LogIndex,
    private allowsOthers: boolean,
    from: number,
  ) {
    this.row = from
  }

  judge(asked: readonly { step: CompiledStep; look: Look }[]): JudgedLog {
    for (const { step, look } of asked) this.steps.push({ ...this.stepOf(look), id: step.id })
    const seen = this.steps.filter(({ verdict }) => verdict === 'found')
    const unexpected = this.allowsOthers ? [] : this.othersBetween()
    const isGood = this.steps.every(
      ({ verdict }) => verdict === 'found' || verdict === 'by hand' || verdict === 'not on the wire',
    )
    return { steps: this.steps, passed: seen.length > 0 && isGood && !unexpected.length, unexpected }
  }

  private stepOf(look: Look): Omit<JudgedStep, 'id'> {
    const nothing = {
      row: null,
      line: null,
      timeMs: null,
      lateMs: null,
      expected: null,
      came: null,
      differsAt: -1,
      isUntimed: false,
    }
    if (look === 'not on the wire') return { ...nothing, verdict: look }
    if (look === 'by hand' || 'handMs' in look) {
      // Nobody knows when it was done.
      this.sinceMs = null
      this.handMs = look === 'by hand' ? 0 : look.handMs
      return { ...nothing, verdict: 'by hand' }
    }
    if ('waitMs' in look) {
      this.waitedMs += look.waitMs
      return { ...nothing, verdict: 'by hand' }
    }
    return 'quietMs' in look ? { ...nothing, ...this.quiet(look.quietMs) } : { ...nothing, ...this.seek(look) }
  }

  /** No report and no event for a time. */
  private quiet(ms: number): Partial<JudgedStep> & Pick<JudgedStep, 'verdict'> {
    const since = this.sinceMs
    this.waitedMs += ms
    if (since === null) return { verdict: 'not on the wire', isUntimed: true }
    for (let k = this.row; k < this.log.count; k++) {
      const { timeMs, isSpoken } = this.log.factsAt(k)
      if (timeMs !== null && timeMs > since + this.waitedMs) break
      if (isSpoken) return { ...this.at(k), verdict: 'different', came: this.log.bytesAt(k), differsAt: 0 }
    }
    return { verdict: 'found' }
  }

  private at(row: number) {
    const { line, timeMs } = this.log.factsAt(row)
    return { row, line, timeMs }
  }

  private seek(sought: Sought): Partial<JudgedStep> & Pick<JudgedStep, 'verdict'> {
    const { log } = this
    const untilMs =
      this.sinceMs === null || sought.withinMs === null ? null : this.sinceMs + this.waitedMs + this.handMs + sought.withinMs
    let like: number | null = null
    let damaged: { row: number; bytes: Uint8Array } | null = null
    let late: number | null = null
    for (let k = this.row; k < Math.min(log.count, this.row + mostRows); k++) {
      const { timeMs, direction, isBad } = log.factsAt(k)
      const isLate = untilMs !== null && timeMs !== null && timeMs > untilMs
      if (fits(log, k, sought)) {
        // One that was damaged, and came again, has come. Of another value before it nobody was told that it may come.
        if (!isLate && (this.allowsOthers || like === null)) return this.found(k, sought)
        late ??= isLate ? k : null
        break
      }
      if (isLate) continue
      if (direction !== sought.direction) continue
      if (isBad) damaged ??= this.meantBy(k, sought)
      else if (like === null && this.isLike(k, sought)) like = k
    }
    if (late !== null && like === null && !damaged) return this.wasLate(late, untilMs!)
    if (damaged && (like === null || damaged.row < like)) return this.differs(damaged.row, damaged.bytes)
    if (like !== null) return this.differs(like, this.wanted(sought, like))
    return { verdict: 'missing', expected: sought.bytes(1), isUntimed: untilMs === null }
  }

  private isLike(row: number, { operations, isLike }: Sought): boolean {
    const { operation } = this.log.factsAt(row)
    const message = operation && operations.includes(operation) ? this.log.messageAt(row) : null
    return message !== null && isLike(message)
  }

  /** The frame that damaged bytes were meant to be, where it is the one that is sought. */
  private meantBy(row: number, sought: Sought): { row: number; bytes: Uint8Array } | null {
    const bytes = this.log.bytesAt(row)
    let best: { wrong: number; bytes: Uint8Array } | null = null
    for (let sequence = 0; sequence < 256; sequence++) {
      const wanted = sought.bytes(sequence)
      if (wanted?.length !== bytes.length) break
      const wrong = wanted.reduce((n, byte, k) => n + (byte === bytes[k] ? 0 : 1), 0)
      if (wrong <= mostDamaged && wrong < (best?.wrong ?? Infinity)) best = { wrong, bytes: wanted }
    }
    return best && { row, bytes: best.bytes }
  }

  private wanted(sought: Sought, row: number): Uint8Array | null {
    return sought.bytes(this.log.messageAt(row)?.sequence ?? 1)
  }

  private take(row: number): void {
    this.matched.add(row)
    this.row = row + 1
    this.sinceMs = this.log.factsAt(row).timeMs
    this.waitedMs = 0
  }

  private found(row: number, { withinMs }: Sought): Partial<JudgedStep> & Pick<JudgedStep, 'verdict'> {
    if (withinMs === null) this.handMs = 0
    const isUntimed = withinMs !== null && (this.sinceMs === null || this.log.factsAt(row).timeMs === null)
    this.take(row)
    return { ...this.at(row), verdict: 'found', came: this.log.bytesAt(row), isUntimed }
  }

  private wasLate(row: number, untilMs: number): Partial<JudgedStep> & Pick<JudgedStep, 'verdict'> {
    const at = this.at(row)
    this.take(row)
    return { ...at, verdict: 'late', came: this.log.bytesAt(row), lateMs: Math.round((at.timeMs! - untilMs) * 10) / 10 }
  }

  private differs(row: number, expected: Uint8Array | null): Partial<JudgedStep> & Pick<JudgedStep, 'verdict'> {
    const came = this.log.bytesAt(row)
    const at = this.at(row)
    this.take(row)
    const most = Math.min(came.length, expected?.length ?? 0)
    let differsAt = 0
    while (differsAt < most && came[differsAt] === expected![differsAt]) differsAt++
    return { ...at, verdict: 'different', expected, came, differsAt }
  }

  /** Reports and events between the first and the last frame of the exchange that no step asks for; a repeat of one counts as that one. */
  private othersBetween(): { row: number; line: number }[] {
    const rows = [...this.matched]
    const out: { row: number; line: number }[] = []
    if (!rows.length) return out
    const known = new Set(rows.map((row) => this.log.factsAt(row).key))
    for (let k = Math.min(...rows); k <= Math.max(...rows) && out.length < 20; k++) {
      const { isSpoken, line, key } = this.log.factsAt(k)
      if (isSpoken && !this.matched.has(k) && !known.has(key)) out.push({ row: k, line })
    }
    return out
  }
}
