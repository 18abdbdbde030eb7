import {
  bad,
  checksumFunction,
  good,
  putNumber,
  takeNumber,
  type ChecksumFunction,
  type Order,
  type Result,
} from '../base/index.ts'
import { fixedSizeOf, isOperationPart, offsetOf, partsOf, sizeOfPart, startOf } from './check.ts'
import { checkLayout } from './check.ts'
import type { Form, Layout, Part } from './layout.ts'
import { eventKinds, reasons, type Direction, type EventKind, type Message, type Reason } from './messages.ts'

/** A part with its place: `at` counts from the start of the body, or, with `fromEnd`, back from its end. */
export interface PlacedPart {
  part: Part
  at: number
  size: number
  fromEnd: boolean
}

/** A form ready for use. The body is the frame without flags and escapes, start bytes included. */
export interface CompiledForm {
  form: Form
  placed: PlacedPart[]
  /** Bytes of the body without payload. */
  fixedSize: number
  payloadAt: number
  hasPayload: boolean
  checksum: { run: ChecksumFunction; from: number; at: number; size: number; order: 'low' | 'high' } | null
  /** Length field = body length + this; null where the form has none. */
  lengthShift: number | null
  fields: Fields
}

export interface DirectionCodec {
  direction: Direction
  byOperation: Map<Message['operation'], CompiledForm>
  /** By code, when more than one form travels this way; otherwise the one form. */
  byCode: (CompiledForm | undefined)[]
  only: CompiledForm | null
  operationAt: number
  operationMask: number
  /** Length-led: where the length stands and what the body length is from it. */
  length: { at: number; size: 1 | 2; order: 'low' | 'high' } | null
  /** Bytes that must be there before the length of the body is known. */
  headSize: number
  shortest: number
  longest: number
}

/** A layout compiled for both directions. */
export interface Codec {
  layout: Layout
  toPanel: DirectionCodec
  toHost: DirectionCodec
}

/** Problem: the first of `checkLayout`. */
export function compileLayout(layout: Layout): Result<Codec> {
  const problem = checkLayout(layout)[0]
  if (problem) return { ok: false, problem }
  return good({ layout, toPanel: compileDirection(layout, 'to panel'), toHost: compileDirection(layout, 'to host') })
}

export const codecOf = (codec: Codec, direction: Direction): DirectionCodec =>
  direction === 'to panel' ? codec.toPanel : codec.toHost

function compileDirection(layout: Layout, direction: Direction): DirectionCodec {
  const travelling = layout.forms.filter((f) => f.directions.includes(direction))
  const forms = travelling.map((form) => compileForm(layout, form, travelling.length === 1))
  const byCode: (CompiledForm | undefined)[] = []
  for (const form of forms) byCode[form.form.code] = form
  const first = forms[0]?.form
  const operationAt = first ? (offsetOf(layout, first, isOperationPart) ?? -1) : -1
  const packed = first ? partsOf(layout, first).some((p) => p.part === 'sequence and operation') : false
  const lengthPart =
    first && layout.framing.kind === 'length-led' ? partsOf(layout, first).find((p) => p.part === 'length') : undefined
  const length = lengthPart
    ? { at: offsetOf(layout, first!, (p) => p.part === 'length')!, size: lengthPart.size, order: lengthPart.order }
    : null
  const sizes = forms.map((f) => f.fixedSize)
  const fixed = layout.framing.kind === 'fixed' ? layout.framing.length : null
  return {
    direction,
    byOperation: new Map(forms.map((f) => [f.form.operation, f])),
    byCode,
    only: forms.length === 1 && operationAt < 0 ? forms[0]! : null,
    operationAt,
    operationMask: packed ? 15 : 255,
    length,
    headSize: Math.max(length ? length.at + length.size : 0, operationAt + 1, startOf(layout).length),
    shortest: fixed ?? Math.min(...sizes, Infinity),
    longest: fixed ?? Math.max(...forms.map((f) => f.fixedSize + (f.hasPayload ? layout.mostPayload : 0)), 0),
  }
}

/** `isOnly`: no other form travels that way, so that nobody has looked at the operation yet. */
function compileForm(layout: Layout, form: Form, isOnly: boolean): CompiledForm {
  const parts = partsOf(layout, form)
  const fixedSize = fixedSizeOf(layout, form)
  const split = parts.findIndex((p) => p.part === 'payload')
  const placed: PlacedPart[] = []
  let at = startOf(layout).length
  parts.forEach((part, i) => {
    const size = sizeOfPart(part)
    const fromEnd = split >= 0 && i > split
    placed.push({ part, size, fromEnd, at: fromEnd ? fixedSize - at : at })
    at += size
  })
  const payloadAt = split >= 0 ? placed[split]!.at : fixedSize
  return {
    form,
    placed,
    fixedSize,
    payloadAt,
    hasPayload: split >= 0,
    checksum: compileChecksum(layout, placed, payloadAt),
    lengthShift: lengthShift(placed, fixedSize),
    fields: fieldsOf(placed, isOnly),
  }
}

function compileChecksum(layout: Layout, placed: PlacedPart[], payloadAt: number): CompiledForm['checksum'] {
  const found = placed.find((p) => p.part.part === 'checksum')
  if (!found || found.part.part !== 'checksum') return null
  const { algorithm, order, covers } = found.part
  const length = placed.find((p) => p.part.part === 'length')
  const from =
    covers === 'everything before'
      ? 0
      : covers === 'payload'
        ? payloadAt
        : covers === 'after the length' && length
          ? length.at + length.size
          : startOf(layout).length
  return { run: checksumFunction(algorithm), from, at: found.fromEnd ? -found.at : found.at, size: found.size, order }
}

/** The length field less the body length: constant for each form, whatever the payload. */
function lengthShift(placed: PlacedPart[], fixedSize: number): number | null {
  const found = placed.find((p) => p.part.part === 'length')
  if (!found || found.part.part !== 'length') return null
  const { counts, adds } = found.part
  const check = placed.find((p) => p.part.part === 'checksum')?.size ?? 0
  const notCounted = {
    payload: fixedSize,
    'after the length': found.at + found.size,
    'after the length, without the check': found.at + found.size + check,
    'whole frame': 0,
  }[counts]
  return adds - notCounted
}

/** The body length that a length field says, or −1 where the operation is unknown. */
export function saidLength(codec: DirectionCodec, bytes: Uint8Array, from: number): number {
  const field = codec.length!
  const form = codec.only ?? codec.byCode[bytes[from + codec.operationAt]! & codec.operationMask]
  if (!form) return -1
  return takeNumber(bytes, from + field.at, field.size, field.order) - form.lengthShift!
}

/**
 * A message as the bytes on the wire. Problems: `frame.no-form` (operation, direction), `frame.long` (bytes, most),
 * `frame.address` (address, most), `frame.fixed` (bytes, wants), `frame.whole-words` (bytes: a part counts words, the payload has an odd byte).
 */
export function encodeFrame(codec: Codec, direction: Direction, message: Message): Result<Uint8Array> {
  const { layout } = codec
  const compiled = codecOf(codec, direction).byOperation.get(message.operation)
  if (!compiled) return bad('frame.no-form', { operation: message.operation, direction })
  const payload = 'payload' in message ? message.payload : null
  const payloadSize = payload ? payload.length : 0
  if (payloadSize > layout.mostPayload) return bad('frame.long', { bytes: payloadSize, most: layout.mostPayload })
  const body = new Uint8Array(compiled.fixedSize + payloadSize)
  if (layout.framing.kind === 'fixed' && body.length !== layout.framing.length)
    return bad('frame.fixed', { bytes: body.length, wants: layout.framing.length })
  body.set(startOf(layout))
  for (const { part, at, size, fromEnd } of compiled.placed) {
    const place = fromEnd ? body.length - at : at
    const problem = putPart(body, place, size, part, message, compiled)
    if (problem) return problem
  }
  if (compiled.checksum) {
    const { run, from, at, size, order } = compiled.checksum
    const place = at < 0 ? body.length + at : at
    putNumber(body, place, size, order, run(body, from, place))
  }
  return good(layout.framing.kind === 'delimited' ? wrap(body, layout.framing) : body)
}

function putPart(
  body: Uint8Array,
  at: number,
  size: number,
  part: Part,
  message: Message,
  compiled: CompiledForm,
): { ok: false; problem: { code: string; facts: Record<string, number> } } | null {
  switch (part.part) {
    case 'constant':
      body.set(part.bytes, at)
      break
    case 'length':
      putNumber(body, at, size, part.order, body.length + compiled.lengthShift!)
      break
    case 'operation':
      body[at] = compiled.form.code
      break
    case 'sequence and operation':
      body[at] = ((message.sequence & 15) << 4) | compiled.form.code
      break
    case 'sequence':
      body[at] = message.sequence & 255
      break
    case 'address': {
      const most = size === 1 ? 255 : 65535
      if (message.address > most)
        return { ok: false, problem: { code: 'frame.address', facts: { address: message.address, most } } }
      putNumber(body, at, size, part.order, message.address)
      break
    }
    case 'words': {
      if ('payload' in message && message.payload.length % 2)
        return { ok: false, problem: { code: 'frame.whole-words', facts: { bytes: message.payload.length } } }
      putNumber(
        body,
        at,
        size,
        part.order,
        'words' in message ? message.words : 'payload' in message ? message.payload.length / 2 : 0,
      )
      break
    }
    case 'payload':
      if ('payload' in message) body.set(message.payload, at)
      break
    case 'mask':
      if ('mask' in message) putNumber(body, at, 2, part.order, message.mask)
      break
    case 'bits':
      if ('bits' in message) putNumber(body, at, 2, part.order, message.bits)
      break
    case 'what':
      if ('what' in message) body[at] = part.codes[message.what]
      break
    case 'reason':
      if ('reason' in message) body[at] = part.codes[message.reason]
      break
    case 'checksum':
      break
  }
  return null
}

function wrap(body: Uint8Array, { flag, escape, xor }: { flag: number; escape: number; xor: number }): Uint8Array {
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

/** Why a frame is bad. `stray` and `idle` are bytes between frames. */
export type BadCode =
  | 'stray'
  | 'idle'
  | 'check'
  | 'operation'
  | 'length'
  | 'words'
  | 'constant'
  | 'escape'
  | 'aborted'
  | 'long'
  | 'short'
  | 'unfinished'
  | 'what'
  | 'reason'

/** The message in the body `bytes[from … to)`, or why it is none. The payload is a copy. */
export function parseBody(layout: Layout, codec: DirectionCodec, bytes: Uint8Array, from: number, to: number): Message | BadCode {
  const size = to - from
  if (size <= codec.operationAt || size < codec.shortest) return 'short'
  const compiled = codec.only ?? codec.byCode[bytes[from + codec.operationAt]! & codec.operationMask]
  if (!compiled) return 'operation'
  const payloadSize = size - compiled.fixedSize
  if (payloadSize < 0) return 'short'
  if (payloadSize > 0 && !compiled.hasPayload) return 'length'
  if (payloadSize > layout.mostPayload) return 'long'
  const { checksum } = compiled
  if (checksum) {
    const at = checksum.at < 0 ? to + checksum.at : from + checksum.at
    if (takeNumber(bytes, at, checksum.size, checksum.order) !== checksum.run(bytes, from + checksum.from, at)) return 'check'
  }
  return readParts(compiled, bytes, from, to, payloadSize)
}

/** Where a form's fields stand, worked out once; −1 where it has none. Places from the end count back from it. */
interface Fields {
  sequenceAt: number
  sequenceShift: number
  addressAt: number
  addressSize: number
  addressOrder: Order
  /** What must be looked at part by part: constants, lengths, counts, codes, masks. */
  others: PlacedPart[]
}

function fieldsOf(placed: readonly PlacedPart[], isOnly: boolean): Fields {
  const fields: Fields = { sequenceAt: -1, sequenceShift: 0, addressAt: -1, addressSize: 2, addressOrder: 'low', others: [] }
  for (const item of placed) {
    const { part, at, fromEnd } = item
    if ((part.part === 'sequence' || part.part === 'sequence and operation') && !fromEnd) {
      fields.sequenceAt = at
      fields.sequenceShift = part.part === 'sequence' ? 0 : 4
    } else if (part.part === 'address' && !fromEnd) {
      fields.addressAt = at
      fields.addressSize = part.size
      fields.addressOrder = part.order
    } else if (part.part !== 'payload' && part.part !== 'checksum' && (part.part !== 'operation' || isOnly))
      fields.others.push(item)
  }
  return fields
}

/** Short payloads are copied byte by byte: quicker than a slice. */
function copyOf(bytes: Uint8Array, from: number, size: number): Uint8Array {
  if (size > 32) return bytes.slice(from, from + size)
  const out = new Uint8Array(size)
  for (let i = 0; i < size; i++) out[i] = bytes[from + i]!
  return out
}

function readParts(compiled: CompiledForm, bytes: Uint8Array, from: number, to: number, payloadSize: number): Message | BadCode {
  const { sequenceAt, sequenceShift, addressAt, addressSize, addressOrder, others } = compiled.fields
  const sequence = sequenceAt < 0 ? 0 : bytes[from + sequenceAt]! >> sequenceShift
  const place = from + addressAt
  let address =
    addressAt < 0
      ? 0
      : addressSize === 1
        ? bytes[place]!
        : addressOrder === 'low'
          ? bytes[place]! | (bytes[place + 1]! << 8)
          : (bytes[place]! << 8) | bytes[place + 1]!
  let last = sequence
  let mask = 0
  let bits = 0
  let words = 0
  let what: EventKind | undefined
  let reason: Reason | undefined
  for (let i = 0; i < others.length; i++) {
    const { part, at: offset, size, fromEnd } = others[i]!
    const at = fromEnd ? to - offset : from + offset
    switch (part.part) {
      case 'sequence and operation':
        last = bytes[at]! >> 4
        break
      case 'sequence':
        last = bytes[at]!
        break
      case 'address':
        address = takeNumber(bytes, at, size, part.order)
        break
      case 'constant':
        for (let k = 0; k < size; k++) if (bytes[at + k] !== part.bytes[k]) return 'constant'
        break
      case 'length':
        if (takeNumber(bytes, at, size, part.order) !== to - from + compiled.lengthShift!) return 'length'
        break
      case 'words':
        words = takeNumber(bytes, at, size, part.order)
        if (compiled.hasPayload && words * 2 !== payloadSize) return 'words'
        break
      case 'mask':
        mask = takeNumber(bytes, at, 2, part.order)
        break
      case 'bits':
        bits = takeNumber(bytes, at, 2, part.order)
        break
      case 'what':
        what = eventKinds.find((kind) => part.codes[kind] === bytes[at])
        if (!what) return 'what'
        break
      case 'reason':
        reason = reasons.find((kind) => part.codes[kind] === bytes[at])
        if (!reason) return 'reason'
        break
      case 'operation':
        if (bytes[at] !== compiled.form.code) return 'operation'
    }
  }
  const operation = compiled.form.operation
  switch (operation) {
    case 'set bits':
      return { operation, sequence: last, address, mask, bits }
    case 'ask':
      return { operation, sequence: last, address, words }
    case 'event':
      return { operation, sequence: last, address, what: what! }
    case 'done':
      return { operation, sequence: last, address }
    case 'refused':
      return { operation, sequence: last, address, reason: reason! }
    default:
      return {
        operation,
        sequence,
        address,
        payload: copyOf(bytes, from + compiled.payloadAt, payloadSize),
      }
  }
}
