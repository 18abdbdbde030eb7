import { takeNumber } from '../base/index.ts'
import type { BadCode } from './bad.ts'
import type { CompiledForm, DirectionCodec } from './compiled.ts'
import type { Message } from './messages.ts'
import type { Reading } from './part.ts'

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

/** The fewest bytes of the body at `from`, as far as the bytes before `at` tell: no end of it can stand before that. */
export function leastBody(codec: DirectionCodec, bytes: Uint8Array, from: number, at: number): number {
  if (at - from <= codec.operationAt) return codec.shortest
  const forms = formsAt(codec, bytes, from)
  if (!forms) return 0
  let least = Infinity
  for (const { fixedSize, saysSize } of forms) {
    const isSaid = saysSize && from + saysSize.at + saysSize.size <= at
    const said = isSaid
      ? takeNumber(bytes, from + saysSize.at, saysSize.size, saysSize.order) * saysSize.scale + saysSize.shift
      : 0
    least = Math.min(least, said >= fixedSize && said <= codec.longest ? said : fixedSize)
  }
  return least
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
  const operation = compiled.operation
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

function takePayload(bytes: Uint8Array, from: number, size: number, swaps: boolean): number[] {
  // Most have one word: a list that is pushed to takes room for many more.
  if (size === 2) return swaps ? [bytes[from + 1]!, bytes[from]!] : [bytes[from]!, bytes[from + 1]!]
  const out = new Array<number>(size)
  for (let i = 0; i < size; i++) out[i] = bytes[from + (swaps && (i ^ 1) < size ? i ^ 1 : i)]!
  return out
}
