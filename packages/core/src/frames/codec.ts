import {
  bad,
  checksumFits,
  checksumFunction,
  good,
  putNumber,
  takeNumber,
  type ChecksumName,
  type Order,
  type Problem,
  type Result,
} from '../base/index.ts'
import type { BadCode } from './bad.ts'
import { checkLayout } from './check.ts'
import { wayOf, type Form, type Layout, type Way } from './layout.ts'
import type { Direction, Message } from './messages.ts'
import type { Ground, Put, Read, Reading } from './part.ts'
import { partKind, sizeOfPart, type Part } from './parts/table.ts'
import {
  aroundOf,
  countOf,
  fixedSizeOf,
  isCheck,
  isCount,
  isOperationPart,
  isPayload,
  lengthShiftOf,
  offsetOf,
  partsOf,
  standingParts,
  startOf,
} from './place.ts'

/** A part with its place: `at` counts from the start of the body, or, with `fromEnd`, back from its end. */
export interface PlacedPart {
  part: Part
  at: number
  size: number
  fromEnd: boolean
}

interface Step<F> {
  at: number
  fromEnd: boolean
  run: F
}

/** Where a check stands and what it covers: both from the start of the body; `at` below 0 counts back from its end. */
interface Check {
  algorithm: ChecksumName
  from: number
  at: number
  size: number
  order: Order
  /** Whether the check over bytes[from … at) is what stands at `at`. */
  fits(bytes: Uint8Array, from: number, at: number): boolean
}

/** A form ready for use. The body is the frame without flags and escapes, start bytes included. */
export interface CompiledForm {
  form: Form
  placed: PlacedPart[]
  /** Bytes of the body without payload. */
  fixedSize: number
  payloadAt: number
  hasPayload: boolean
  check: Check | null
  /** Length field = body length + this; null where the form has none. */
  lengthShift: number | null
  puts: Step<Put>[]
  reads: Step<Read>[]
}

export interface DirectionCodec {
  direction: Direction
  way: Way
  byOperation: Map<Message['operation'], CompiledForm>
  /** By code, when more than one form travels this way; otherwise the one form. More than one: one frame, several readings. */
  byCode: (readonly CompiledForm[] | undefined)[]
  only: readonly CompiledForm[] | null
  operationAt: number
  operationMask: number
  /** Length-led: where the length stands and what the body length is from it. */
  length: { at: number; size: number; order: Order } | null
  /** Bytes that must be there before the length of the body is known. */
  headSize: number
  shortest: number
  longest: number
  /** The two bytes of a word change places between memory and wire. */
  swaps: boolean
  mostPayload: number
}

/** A layout compiled for both directions. */
export interface Codec {
  toPanel: DirectionCodec
  toHost: DirectionCodec
}

/** `memory`: the order of bytes in the payload of a message, which is that of memory. Problem: the first of `checkLayout`. */
export function compileLayout(layout: Layout, memory: Order = 'low'): Result<Codec> {
  const problem = checkLayout(layout)[0]
  if (problem) return { ok: false, problem }
  const compiled = (direction: Direction) => compileDirection(wayOf(layout, direction), direction, memory)
  return good({ toPanel: compiled('to panel'), toHost: compiled('to host') })
}

/** The most bytes that a frame of a direction has on the wire: between flags, each byte of the body may be escaped. */
export const longestOnWire = ({ way, longest }: DirectionCodec): number =>
  way.framing.kind === 'delimited' ? 2 + 2 * longest : longest

export const codecOf = (codec: Codec, direction: Direction): DirectionCodec =>
  direction === 'to panel' ? codec.toPanel : codec.toHost

function compileDirection(way: Way, direction: Direction, memory: Order): DirectionCodec {
  const travelling = way.forms.filter((f) => f.directions.includes(direction))
  const forms = travelling.map((form) => compileForm(way, form, travelling.length === 1))
  const byCode: CompiledForm[][] = []
  for (const form of forms) (byCode[form.form.code] ??= []).push(form)
  const first = forms[0]?.form
  const operationAt = first ? (offsetOf(way, first, isOperationPart) ?? -1) : -1
  const packed = first ? partsOf(way, first).some((p) => p.part === 'sequence and operation') : false
  const lengthPart = first && way.framing.kind === 'length-led' ? partsOf(way, first).find(isCount) : undefined
  const length = lengthPart
    ? { at: offsetOf(way, first!, isCount)!, size: countOf(lengthPart).size, order: countOf(lengthPart).order }
    : null
  const sizes = forms.map((f) => f.fixedSize)
  const fixed = way.framing.kind === 'fixed' ? way.framing.length : null
  return {
    direction,
    way,
    byOperation: new Map(forms.map((f) => [f.form.operation, f])),
    byCode,
    only: forms.length === 1 && operationAt < 0 ? forms : null,
    operationAt,
    operationMask: packed ? 15 : 255,
    length,
    headSize: Math.max(length ? length.at + length.size : 0, operationAt + 1, startOf(way).length),
    shortest: fixed ?? Math.min(...sizes, Infinity),
    longest: fixed ?? Math.max(...forms.map((f) => f.fixedSize + (f.hasPayload ? way.mostPayload : 0)), 0),
    swaps: way.payload !== 'as memory' && way.payload !== memory,
    mostPayload: way.mostPayload,
  }
}

/** `isOnly`: no other form travels that way, so that nobody has looked at the operation yet. */
function compileForm(way: Way, form: Form, isOnly: boolean): CompiledForm {
  const parts = partsOf(way, form)
  const fixedSize = fixedSizeOf(way, form)
  const split = parts.findIndex(isPayload)
  const placed: PlacedPart[] = []
  let at = startOf(way).length
  parts.forEach((part, i) => {
    const size = sizeOfPart(part)
    const fromEnd = split >= 0 && i > split
    placed.push({ part, size, fromEnd, at: fromEnd ? fixedSize - at : at })
    at += size
  })
  const payloadAt = split >= 0 ? placed[split]!.at : fixedSize
  const lengthShift = lengthShiftOf(way, form)
  const ground: Ground = { code: form.code, lengthShift: lengthShift ?? 0, hasPayload: split >= 0 }
  const steps = <F>(of: (part: Part) => F | undefined): Step<F>[] =>
    placed.flatMap(({ part, at: place, fromEnd }) => {
      const run = of(part)
      return run ? [{ at: place, fromEnd, run }] : []
    })
  return {
    form,
    placed,
    fixedSize,
    payloadAt,
    hasPayload: split >= 0,
    check: compileCheck(way, form, placed),
    lengthShift,
    puts: steps((part) => partKind(part.part)!.put?.(part as never, ground)),
    // Where several forms travel this way, the operation has been looked at to find this one.
    reads: steps((part) =>
      part.part === 'operation' && !isOnly ? undefined : partKind(part.part)!.read?.(part as never, ground),
    ),
  }
}

function compileCheck(way: Way, form: Form, placed: PlacedPart[]): Check | null {
  const found = placed.find(({ part }) => isCheck(part))
  if (!found) return null
  const { check, from } = partKind(found.part.part)!.covers!
  const { algorithm, order } = check(found.part)
  const here = standingParts(way, form, 0).find(({ part }) => part === found.part)!
  return {
    algorithm,
    from: from(found.part, aroundOf(way, form, here, 0)),
    at: found.fromEnd ? -found.at : found.at,
    size: found.size,
    order,
    fits: checksumFits(algorithm, order),
  }
}

/** The bytes of a check that would be right for a body, and where they stand in it. Null: the form has none. */
export function rightCheck(compiled: CompiledForm, body: Uint8Array): { at: number; bytes: Uint8Array } | null {
  if (!compiled.check) return null
  const { algorithm, from, at, size, order } = compiled.check
  const place = at < 0 ? body.length + at : at
  if (place < from || place + size > body.length) return null
  const bytes = new Uint8Array(size)
  putNumber(bytes, 0, size, order, checksumFunction(algorithm)(body, from, place))
  return { at: place, bytes }
}

/** The forms that the body at `from` may be, by its operation. */
export const formsAt = (codec: DirectionCodec, bytes: Uint8Array, from: number): readonly CompiledForm[] | undefined =>
  codec.only ?? codec.byCode[bytes[from + codec.operationAt]! & codec.operationMask]

/** The body length that a length field says, or −1 where the operation is unknown. */
export function saidLength(codec: DirectionCodec, bytes: Uint8Array, from: number): number {
  const field = codec.length!
  const form = formsAt(codec, bytes, from)?.[0]
  if (!form) return -1
  return takeNumber(bytes, from + field.at, field.size, field.order) - form.lengthShift!
}

/**
 * A message as the bytes on the wire. Problems: `frame.no-form` (operation, direction), `frame.long` (bytes, most),
 * `frame.address` (address, most), `frame.fixed` (bytes, wants), `frame.whole-words` (bytes: a part counts words, the payload has an odd byte).
 */
export function encodeFrame(codec: Codec, direction: Direction, message: Message): Result<Uint8Array> {
  const side = codecOf(codec, direction)
  const { way } = side
  const compiled = side.byOperation.get(message.operation)
  if (!compiled) return bad('frame.no-form', { operation: message.operation, direction })
  const payload = 'payload' in message ? message.payload : null
  const payloadSize = payload ? payload.length : 0
  if (payloadSize > way.mostPayload) return bad('frame.long', { bytes: payloadSize, most: way.mostPayload })
  const body = new Uint8Array(compiled.fixedSize + payloadSize)
  if (way.framing.kind === 'fixed' && body.length !== way.framing.length)
    return bad('frame.fixed', { bytes: body.length, wants: way.framing.length })
  body.set(startOf(way))
  if (payload) putPayload(body, compiled.payloadAt, payload, side.swaps)
  for (const { at, fromEnd, run } of compiled.puts) {
    const problem: Problem | null = run(body, fromEnd ? body.length - at : at, message)
    if (problem) return { ok: false, problem }
  }
  const check = rightCheck(compiled, body)
  if (check) body.set(check.bytes, check.at)
  return good(way.framing.kind === 'delimited' ? stuffed(body, way.framing) : body)
}

/** A last byte without its other half stays where it is. */
function putPayload(body: Uint8Array, at: number, payload: readonly number[], swaps: boolean): void {
  for (let i = 0; i < payload.length; i++) body[at + i] = payload[swaps && (i ^ 1) < payload.length ? i ^ 1 : i]!
}

function takePayload(bytes: Uint8Array, from: number, size: number, swaps: boolean): number[] {
  // Most have one word: a list that is pushed to takes room for many more.
  if (size === 2) return swaps ? [bytes[from + 1]!, bytes[from]!] : [bytes[from]!, bytes[from + 1]!]
  const out = new Array<number>(size)
  for (let i = 0; i < size; i++) out[i] = bytes[from + (swaps && (i ^ 1) < size ? i ^ 1 : i)]!
  return out
}

/** A body between flags, with flag and escape escaped. */
export function stuffed(body: Uint8Array, { flag, escape, xor }: { flag: number; escape: number; xor: number }): Uint8Array {
  let extra = 0
  for (let i = 0; i < body.length; i++) if (body[i] === flag || body[i] === escape) extra++
  const out = new Uint8Array(body.length + extra + 2)
  let at = 0
  out[at++] = flag
  for (let i = 0; i < body.length; i++) {
    const byte = body[i]!
    if (byte === flag || byte === escape) {
      out[at++] = escape
      out[at++] = byte ^ xor
    } else out[at++] = byte
  }
  out[at] = flag
  return out
}

/** The messages that the body `bytes[from … to)` may be, or why it is none. */
export function parseBody(codec: DirectionCodec, bytes: Uint8Array, from: number, to: number): readonly Message[] | BadCode {
  const size = to - from
  if (size <= codec.operationAt || size < codec.shortest) return 'short'
  const forms = formsAt(codec, bytes, from)
  if (!forms) return 'operation'
  const first = parseForm(codec, forms[0]!, bytes, from, to)
  if (typeof first === 'string') return first
  if (forms.length === 1) return [first]
  // The forms of one code are the same part for part: what one of them is, the others are.
  return forms.map((form, k) => (k ? (parseForm(codec, form, bytes, from, to) as Message) : first))
}

const reading: Reading = { sequence: 0, address: 0, mask: 0, bits: 0, words: 0, what: null, reason: null }

function parseForm(
  codec: DirectionCodec,
  compiled: CompiledForm,
  bytes: Uint8Array,
  from: number,
  to: number,
): Message | BadCode {
  const size = to - from
  const payloadSize = size - compiled.fixedSize
  if (payloadSize < 0) return 'short'
  if (payloadSize > 0 && !compiled.hasPayload) return 'length'
  if (payloadSize > codec.mostPayload) return 'long'
  const { check, reads } = compiled
  if (check && !check.fits(bytes, from + check.from, check.at < 0 ? to + check.at : from + check.at)) return 'check'
  reading.sequence = 0
  reading.address = 0
  for (let i = 0; i < reads.length; i++) {
    const { at, fromEnd, run } = reads[i]!
    const fault = run(bytes, fromEnd ? to - at : from + at, size, payloadSize, reading)
    if (fault) return fault
  }
  const { sequence, address } = reading
  const operation = compiled.form.operation
  switch (operation) {
    case 'set bits':
      return { operation, sequence, address, mask: reading.mask, bits: reading.bits }
    case 'ask':
      return { operation, sequence, address, words: reading.words }
    case 'event':
      return { operation, sequence, address, what: reading.what! }
    case 'done':
      return { operation, sequence, address }
    case 'refused':
      return { operation, sequence, address, reason: reading.reason! }
    default:
      return { operation, sequence, address, payload: takePayload(bytes, from + compiled.payloadAt, payloadSize, codec.swaps) }
  }
}
