import type { BadCode } from './bad.ts'
import { placeIn, type CompiledForm, type DirectionCodec } from './compiled.ts'
import type { Message } from './messages.ts'
import { takeWire } from './number.ts'
import type { Reading } from './part.ts'

/** The forms that the body at `from` may be, by its operation. */
export const formsAt = (codec: DirectionCodec, bytes: Uint8Array, from: number): readonly CompiledForm[] | undefined =>
  codec.only ??
  codec.byCode[
    codec.operationMask ? bytes[from + codec.operationAt]! & codec.operationMask : codec.readCode(bytes, from + codec.operationAt)
  ]

/** The body length that a length field says, or −1 where the operation is unknown. */
export function saidLength(codec: DirectionCodec, bytes: Uint8Array, from: number): number {
  const field = codec.length!
  const form = formsAt(codec, bytes, from)?.[0]
  if (!form) return -1
  return takeWire(bytes, from + field.at, field.number) * form.lengthUnit - form.lengthShift!
}

/** The body length of a form of its own fixed length, or −1 where the operation is unknown. */
export function ownLength(codec: DirectionCodec, bytes: Uint8Array, from: number): number {
  const form = formsAt(codec, bytes, from)?.[0]
  return form ? (form.ownSize ?? codec.framing.bodySize!) : -1
}

/** The fewest bytes of the body at `from`, as far as the bytes before `at` tell: no end of it can stand before that. */
export function leastBody(codec: DirectionCodec, bytes: Uint8Array, from: number, at: number): number {
  if (at - from < codec.operationAt + codec.operationSize) return codec.shortest
  const forms = formsAt(codec, bytes, from)
  if (!forms) return 0
  let least = Infinity
  for (const { fixedSize, saysSize } of forms) {
    const isSaid = saysSize && from + saysSize.at + saysSize.number.size <= at
    const said = isSaid ? takeWire(bytes, from + saysSize.at, saysSize.number) * saysSize.scale + saysSize.shift : 0
    least = Math.min(least, said >= fixedSize && said <= codec.longest ? said : fixedSize)
  }
  return least
}

/** The messages that the body `bytes[from … to)` may be, or why it is none. */
export function parseBody(codec: DirectionCodec, bytes: Uint8Array, from: number, to: number): readonly Message[] | BadCode {
  const size = to - from
  if (size < codec.operationAt + codec.operationSize || size < codec.shortest) return 'short'
  const forms = formsAt(codec, bytes, from)
  if (!forms) return 'operation'
  const first = parseForm(codec, forms[0]!, bytes, from, to)
  if (forms.length === 1) return typeof first === 'string' ? first : [first]
  let readings: Message[] | null = typeof first === 'string' ? null : [first]
  let fault = typeof first === 'string' ? first : null
  for (let k = 1; k < forms.length; k++) {
    const next = parseForm(codec, forms[k]!, bytes, from, to)
    if (typeof next !== 'string') (readings ??= []).push(next)
    // The fault of the form that fits best is told: a check that is wrong says more than a length.
    else if (fault === null || next === 'check' || fault === 'operation') fault = next
  }
  // A write of nothing, which is refused anyway, gives way to what says something.
  return readings ? (readings.length > 1 ? withoutEmpty(readings) : readings) : fault!
}

/** The address of an answer that does not say whose value it is: a dialogue knows. */
export const notSaid = -1

const reading: Reading = { sequence: 0, address: 0, mask: 0, bits: 0, words: 0, what: null, reason: null }

const withoutEmpty = (readings: readonly Message[]): readonly Message[] => {
  const full = readings.filter((message) => !('payload' in message) || message.operation === 'message' || message.payload?.length)
  return full.length ? full : readings
}

/** Whether a message of a form says nothing without a payload. */
export const needsPayload = ({ hasPayload, operation }: Pick<CompiledForm, 'hasPayload' | 'operation'>): boolean =>
  hasPayload && (operation === 'write' || operation === 'value' || operation === 'report')

/** The message that a body is as one form, or why it is none. */
export function parseForm(
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
  const { checks, reads } = compiled
  for (let i = 0; i < checks.length; i++) {
    const check = checks[i]!
    const first = from + placeIn(check.from, payloadSize)
    const behind = from + placeIn(check.to, payloadSize)
    if (!check.fits(bytes, first, behind, from + placeIn(check.at, payloadSize))) return 'check'
  }
  reading.sequence = 0
  const { assigned } = compiled
  reading.address = compiled.operation === 'value' ? notSaid : (assigned?.address ?? 0)
  for (let i = 0; i < reads.length; i++) {
    const { at, fromEnd, run } = reads[i]!
    const fault = run(bytes, fromEnd ? to - at : from + at, size, payloadSize, reading)
    if (fault) return fault
  }
  const { sequence, address } = reading
  if (assigned) {
    if (assigned.address >= 0 && address !== assigned.address) return 'operation'
    const content = bytes.slice(from + compiled.payloadAt, from + compiled.payloadAt + payloadSize)
    return assigned.fits(content)
      ? { operation: 'message', sequence, address: assigned.address < 0 ? address : assigned.number, payload: [...content] }
      : 'constant'
  }
  if (compiled.types.length) {
    const type = codec.typeAt(address)
    if (type !== null && !compiled.types.includes(type)) return 'operation'
  }
  const operation = compiled.operation
  if (compiled.packing) {
    const content = compiled.packing.unpack(bytes.subarray(from + compiled.payloadAt, from + compiled.payloadAt + payloadSize))
    if (typeof content === 'string') return content
    return { operation, sequence, address, ...content } as Message
  }
  switch (operation) {
    case 'set bits':
      return { operation, sequence, address, mask: reading.mask, bits: reading.bits }
    case 'ask':
      return { operation, sequence, address, words: reading.words }
    case 'event':
      return { operation, sequence, address, what: reading.what! }
    case 'done':
      if (!compiled.hasPayload) return { operation, sequence, address }
      return { operation, sequence, address, payload: takePayload(bytes, from + compiled.payloadAt, payloadSize, codec.swaps) }
    case 'refused':
      return { operation, sequence, address, reason: reading.reason! }
    default:
      return { operation, sequence, address, payload: takePayload(bytes, from + compiled.payloadAt, payloadSize, codec.swaps) }
  }
}

function takePayload(bytes: Uint8Array, from: number, size: number, swaps: boolean): number[] {
  // Most have one word: a list that is pushed to takes room for many more.
  if (size === 2) return swaps ? [bytes[from + 1]!, bytes[from]!] : [bytes[from]!, bytes[from + 1]!]
  const out = new Array<number>(size)
  for (let i = 0; i < size; i++) out[i] = bytes[from + (swaps && (i ^ 1) < size ? i ^ 1 : i)]!
  return out
}
