import { bad, good, type Problem, type Result } from '../../base/index.ts'
import type { AssignedFrame, Direction, LineForm, LinesWay, Message, Piece } from '../../frames/index.ts'
import { assignedFrames } from '../commands/assigned.ts'
import type { Book } from '../protocol.ts'
import { namedFor, wireNames, type WireNames } from './names.ts'
import { faultAt, isFault, type Ground, type LineFault, type LinePartKind, type LineReading } from './part.ts'
import { linePartKind } from './parts/table.ts'
import { understood } from './parts/valued.ts'
import { asBytes, asString, type Spelling } from './spelling.ts'

interface Step {
  kind: LinePartKind
  settings: never
  ground: Ground
}

export interface CompiledLine {
  form: LineForm
  steps: readonly Step[]
  /** Characters that always stand in it: the more, the sooner it is tried. */
  constants: number
  /** The characters that begin it. */
  begins: string
  /** Which of its parts may be any bytes, an end among them; −1: none. */
  rawAt: number
}

/** A way of lines ready for one build. */
export interface LineCodec {
  way: LinesWay
  direction: Direction
  names: WireNames
  /** Lines that the project assigns: they are tried before all forms. */
  assigned: readonly AssignedFrame[]
  /** In the order in which they are tried: the one with the most constant characters first, then as the layout lists them. */
  forms: readonly CompiledLine[]
}

export function compileLines(way: LinesWay, direction: Direction, book: Book): LineCodec {
  const names = wireNames(way.names, book)
  const forms = way.forms.filter((form) => form.directions.includes(direction)).map((form) => compileForm(way, form, names, book))
  const assigned = assignedFrames(book, direction)
  return { way, direction, names, assigned, forms: [...forms].sort((a, b) => b.constants - a.constants) }
}

function compileForm(way: LinesWay, form: LineForm, names: WireNames, book: Book): CompiledLine {
  const kinds = form.parts.flatMap((part) => {
    if (way.checks === 'off' && part.part === 'check') return []
    const kind = linePartKind(part.part)
    return kind ? [{ kind, part: part as never }] : []
  })
  const never = new Set([...way.start, ...way.end, ...way.ignored])
  const ends = (byte: number) => never.has(byte)
  const steps = kinds.map(({ kind, part }, k): Step => {
    const behind = kinds.slice(k + 1)
    const next = behind[0]
    const marker = next?.kind.constant?.(next.part) ?? ''
    const tail = behind.every((b) => b.kind.size) ? behind.reduce((sum, b) => sum + b.kind.size!(b.part), 0) : 0
    const until = marker
      ? (line: string, at: number) => {
          const found = line.indexOf(marker, at)
          return found < 0 ? line.length : found
        }
      : (line: string, at: number) => Math.max(at, line.length - tail)
    const stops = (byte: number) => ends(byte) || (marker !== '' && byte === marker.charCodeAt(0))
    const spelling = way.spelling as unknown as Spelling
    return {
      kind,
      settings: part,
      ground: { names, spelling, memory: book.memory, operation: form.operation, until, ends, stops },
    }
  })
  let begins = ''
  let at = 0
  for (; at < kinds.length && kinds[at]!.kind.constant; at++) begins += kinds[at]!.kind.constant!(kinds[at]!.part)
  return {
    form,
    steps,
    constants: kinds.reduce((sum, { kind, part }) => sum + (kind.constant?.(part).length ?? 0), 0),
    begins,
    rawAt: kinds.findIndex(({ kind }) => kind.part === 'raw bytes'),
  }
}

/** Whether a form is for the variable that a message is about, by its data type. */
function isFor({ form }: CompiledLine, names: WireNames, message: Message): boolean {
  if (!form.types.length || message.operation === 'event' || message.operation === 'message') return true
  const named = namedFor(names, message)
  return named !== null && form.types.includes(named.cell.holds.type)
}

/**
 * A message as a line, without its start and end, by the first form of its operation that can say it. Problems: `frame.no-form`
 * (operation, direction), `line.no-name` (address, bytes), `line.no-widget` (number), `line.value`, `line.size`,
 * `line.stop-inside` (character), `line.long` (bytes, most).
 */
export function encodeLine({ way, direction, names, forms, assigned }: LineCodec, message: Message): Result<string> {
  let problem: Problem | null = null
  if (message.operation === 'message' && assigned.some(({ number }) => number === message.address)) {
    const line = asString(Uint8Array.from(message.payload))
    return line.length > way.longest ? bad('line.long', { bytes: line.length, most: way.longest }) : good(line)
  }
  for (const compiled of forms) {
    if (compiled.form.operation !== message.operation || !isFor(compiled, names, message)) continue
    const made = encodeForm(compiled, message, way.longest)
    if (made.ok) return made
    problem ??= made.problem
  }
  return problem ? { ok: false, problem } : bad('frame.no-form', { operation: message.operation, direction })
}

function encodeForm({ steps }: CompiledLine, message: Message, longest: number): Result<string> {
  if ('also' in message && message.also?.length && !steps.some(({ kind }) => kind.separates))
    return bad('frame.one-place', { places: message.also.length + 1 })
  let line = ''
  for (const { kind, settings, ground } of steps) {
    const put = kind.put(settings, message, ground, line)
    if (!put.ok) return put
    line += put.value
  }
  return line.length > longest ? bad('line.long', { bytes: line.length, most: longest }) : good(line)
}

/** A line read as one of the forms: its message, or why it is none; and where each part of it stands. */
interface Attempt {
  compiled: CompiledLine
  message: Message | null
  fault: LineFault | null
  /** The place behind each part that was read. */
  places: readonly number[]
}

const freshReading = (): LineReading => ({
  sequence: 0,
  named: null,
  number: null,
  to: null,
  spelt: null,
  payload: null,
  also: [],
  what: null,
  reason: null,
})

function attempt(compiled: CompiledLine, line: string): Attempt {
  const into = freshReading()
  const places: number[] = []
  let at = 0
  for (const { kind, settings, ground } of compiled.steps) {
    const to = kind.read(settings, line, at, into, ground)
    if (isFault(to)) return { compiled, message: null, fault: to, places }
    places.push((at = to))
  }
  if (at < line.length) return { compiled, message: null, fault: faultAt('left-over', at, line.length), places }
  const message = messageOf(compiled, into, line)
  return isFault(message) ? { compiled, message: null, fault: message, places } : { compiled, message, fault: null, places }
}

function messageOf({ form, steps }: CompiledLine, into: LineReading, line: string): Message | LineFault {
  const { operation } = form
  const { named, sequence, spelt } = into
  if (named && form.types.length && !form.types.includes(named.cell.holds.type))
    return faultAt('type', 0, line.length, { name: named.wire })
  const said = { sequence, address: named ? named.cell.address : (into.number ?? 0) }
  switch (operation) {
    case 'ask':
      return { operation, ...said, words: named!.cell.words }
    case 'event':
      return { operation, ...said, what: into.what! }
    case 'done':
      return { operation, ...said, ...(into.to ? { to: into.to } : {}) }
    case 'refused':
      return { operation, ...said, reason: into.reason!, ...(into.to ? { to: into.to } : {}) }
    case 'message':
      return { operation, ...said, payload: into.payload ?? [] }
    default: {
      const read = spelt && named ? understood(operation, named, spelt, line, steps[0]!.ground) : { payload: into.payload ?? [] }
      if (isFault(read)) return read
      if (operation === 'set bits') return { operation, ...said, ...(read as { mask: number; bits: number }) }
      const { payload } = read as { payload: readonly number[] }
      return { operation, ...said, payload, ...(into.also.length ? { also: into.also } : {}) } as Message
    }
  }
}

/** All that a line may mean, or the fault of the form that goes furthest in it. */
export function readLine(codec: LineCodec, line: string): readonly Message[] | LineFault {
  const own = assignedIn(codec, line)
  if (own) return [{ operation: 'message', sequence: 0, address: own.number, payload: [...asBytes(line)] }]
  let first: Message | null = null
  let readings: Message[] | null = null
  let fault: LineFault | null = null
  for (const compiled of codec.forms) {
    const { begins } = compiled
    if (first && !isAnswer(first, compiled)) continue
    if (begins && !line.startsWith(begins)) {
      fault = further(fault, faultAt('word', 0, Math.min(line.length, begins.length), { text: begins }))
      continue
    }
    const tried = attempt(compiled, line)
    if (tried.message) {
      first ??= tried.message
      ;(readings ??= []).push(tried.message)
    } else fault = further(fault, tried.fault!)
  }
  return readings ?? fault ?? faultAt('word', 0, line.length)
}

/** The line that the project assigns which a line is. */
const assignedIn = ({ assigned }: LineCodec, line: string): AssignedFrame | undefined =>
  assigned.length ? assigned.find(({ fits }) => fits(asBytes(line))) : undefined

/** Every form as which a line can be read, with its message. */
export const allReadings = ({ forms }: LineCodec, line: string): { form: LineForm; message: Message }[] =>
  forms.flatMap((compiled) => {
    const { message } = attempt(compiled, line)
    return message ? [{ form: compiled.form, message }] : []
  })

/** The fault further in the line; of two at one place that which says more than that no word fits. */
const further = (one: LineFault | null, other: LineFault): LineFault =>
  !one || other.from > one.from || (other.from === one.from && one.code === 'word') ? other : one

/** An answer and a report of the same place may be the same line: a dialogue knows which is meant. */
const isAnswer = ({ operation }: Message, { form }: CompiledLine): boolean =>
  (operation === 'value' && form.operation === 'report') || (operation === 'report' && form.operation === 'value')

/** The pieces of a line, by the form that goes furthest, and its fault. */
export function dissectLine(
  codec: LineCodec,
  line: string,
): { pieces: Piece[]; readings: readonly Message[]; fault: LineFault | null } {
  const own = assignedIn(codec, line)
  const read = readLine(codec, line)
  if (own && !isFault(read)) {
    const bytes = asBytes(line)
    const pieces = own.pieces(bytes).map((one) => ({ ...one, plain: bytes.slice(one.from, one.to) }))
    return { pieces: pieces.filter(({ from, to }) => to > from), readings: read, fault: null }
  }
  const tried = codec.forms.map((compiled) => attempt(compiled, line))
  const best =
    tried.find(({ message }) => message) ??
    tried.reduce<Attempt | null>((one, other) => (one && further(one.fault, other.fault!) === one.fault ? one : other), null)
  const pieces: Piece[] = []
  const add = (kind: string, label: string, from: number, to: number, says: string) => {
    if (to > from) pieces.push({ kind, label, from, to, plain: bytesOf(line, from, to), says })
  }
  let at = 0
  best?.places.forEach((to, k) => {
    const { kind } = best.compiled.steps[k]!
    const isChecked = kind.part === 'check'
    add(kind.tint, kind.label, at, to, isChecked ? 'checksum ok' : '')
    at = to
  })
  const behind = best?.compiled.steps[best.places.length]?.kind
  if (at < line.length) {
    const isWrongCheck = best?.fault?.code === 'check'
    add(
      isWrongCheck ? 'checksum' : 'unknown',
      isWrongCheck ? behind!.label : 'unknown',
      at,
      line.length,
      isWrongCheck ? 'checksum wrong' : '',
    )
  }
  return { pieces, readings: isFault(read) ? [] : read, fault: isFault(read) ? read : null }
}

const bytesOf = (line: string, from: number, to: number): Uint8Array => {
  const out = new Uint8Array(to - from)
  for (let i = from; i < to; i++) out[i - from] = line.charCodeAt(i)
  return out
}

/** The bytes of a line without those that are passed over. */
export function withoutIgnored(
  { ignored }: LinesWay,
  bytes: Uint8Array,
  from: number,
  to: number,
): { line: string; places: number[] | null } {
  if (!ignored.length) return { line: asString(bytes.subarray(from, to)), places: null }
  const places: number[] = []
  let line = ''
  for (let i = from; i < to; i++)
    if (!ignored.includes(bytes[i]!)) {
      line += String.fromCharCode(bytes[i]!)
      places.push(i - from)
    }
  return { line, places }
}

/** Whether end bytes at `at` end the line whose characters begin at `from`: not inside raw bytes of known length. */
export function isLineEnd({ forms }: LineCodec, bytes: Uint8Array, from: number, at: number): boolean {
  for (const { steps, rawAt } of forms) {
    if (rawAt < 0) continue
    const line = asString(bytes.subarray(from, at))
    const into = freshReading()
    let place: number | LineFault = 0
    for (let k = 0; k < rawAt && typeof place === 'number'; k++)
      place = steps[k]!.kind.read(steps[k]!.settings, line, place, into, steps[k]!.ground)
    const { kind, settings } = steps[rawAt]!
    if (typeof place === 'number' && place + kind.size!(settings) > line.length) return false
  }
  return true
}
