import { withItemIds, type Item } from '../describe/index.ts'
import type { ChecksumName, Order } from '../base/index.ts'
import type { Direction, EventKind, Operation, Reason } from './messages.ts'

/**
 * How a frame is found in the stream of bytes.
 * - `delimited`: flag, body, flag; inside, flag and escape are sent as the escape and the byte XOR `xor`.
 * - `length-led`: start bytes, then a length part says where the frame ends.
 * - `fixed`: start bytes, and every frame has `length` bytes in all.
 */
export type Framing =
  | { kind: 'delimited'; flag: number; escape: number; xor: number }
  | { kind: 'length-led'; start: readonly number[] }
  | { kind: 'fixed'; start: readonly number[]; length: number }

/** What a length counts; start bytes and flags are part of the whole frame. */
export type Counts = 'payload' | 'after the length' | 'after the length, without the check' | 'whole frame'
/** Where a checksum begins; it always ends right before itself. */
export type Covers = 'everything before' | 'after the start' | 'after the length' | 'payload'

/** One field of a frame. Sizes are bytes. */
export type Part = Item & PartFields

export type PartFields =
  | { part: 'constant'; bytes: readonly number[] }
  | { part: 'length'; size: 1 | 2; order: Order; counts: Counts; adds: number }
  | { part: 'operation' }
  /** One byte: the sequence modulo 16 in the high four bits, the operation's code in the low four. */
  | { part: 'sequence and operation' }
  | { part: 'sequence' }
  | { part: 'address'; size: 1 | 2; order: Order }
  /** Words asked for; with a payload in the frame, the words of that payload. */
  | { part: 'words'; size: 1 | 2; order: Order }
  | { part: 'payload' }
  | { part: 'mask'; order: Order }
  | { part: 'bits'; order: Order }
  | { part: 'what'; codes: Record<EventKind, number> }
  | { part: 'reason'; codes: Record<Reason, number> }
  | { part: 'checksum'; algorithm: ChecksumName; order: Order; covers: Covers }

export type PartKind = Part['part']

/** One operation as the layout says it: its code, where it travels, and the parts between head and end. */
export interface Form extends Item {
  operation: Operation
  directions: readonly Direction[]
  code: number
  parts: readonly Part[]
}

/** The recipe of all frames of a link. A frame is head, the parts of its form, end. */
export interface Layout {
  name: string
  framing: Framing
  /** Byte order of words in a payload, and word order of two-word values. */
  payloadOrder: Order
  wordOrder: Order
  /** Payload bytes at most. */
  mostPayload: number
  /** Silence inside a frame after which it counts as broken off. */
  gapUs: number
  head: readonly Part[]
  forms: readonly Form[]
  end: readonly Part[]
}

/** A layout whose forms and parts have their ids, as every stored one. */
export const identified = (layout: Layout): Layout => ({
  ...layout,
  head: withItemIds('part', layout.head),
  forms: withItemIds(
    'form',
    layout.forms.map((form) => ({ ...form, parts: withItemIds('part', form.parts) })),
  ),
  end: withItemIds('part', layout.end),
})

export const framingKinds: readonly Framing['kind'][] = ['delimited', 'length-led', 'fixed']
export const countsKinds: readonly Counts[] = [
  'payload',
  'after the length',
  'after the length, without the check',
  'whole frame',
]
export const coversKinds: readonly Covers[] = ['everything before', 'after the start', 'after the length', 'payload']
export const partKinds: readonly PartKind[] = [
  'constant',
  'length',
  'operation',
  'sequence and operation',
  'sequence',
  'address',
  'words',
  'payload',
  'mask',
  'bits',
  'what',
  'reason',
  'checksum',
]

export const plainEventCodes: Record<EventKind, number> = { pressed: 1, lifted: 2, held: 3, 'slid off': 4 }
export const plainReasonCodes: Record<Reason, number> = {
  operation: 1,
  address: 2,
  'not writable': 3,
  length: 4,
  value: 5,
  busy: 6,
}

/** A part as it is before anyone has said more. */
export function freshPart(kind: PartKind): Part {
  switch (kind) {
    case 'constant':
      return { part: kind, bytes: [0] }
    case 'length':
      return { part: kind, size: 1, order: 'high', counts: 'after the length', adds: 0 }
    case 'address':
      return { part: kind, size: 2, order: 'high' }
    case 'words':
      return { part: kind, size: 1, order: 'high' }
    case 'mask':
    case 'bits':
      return { part: kind, order: 'high' }
    case 'what':
      return { part: kind, codes: plainEventCodes }
    case 'reason':
      return { part: kind, codes: plainReasonCodes }
    case 'checksum':
      return { part: kind, algorithm: 'crc-16-ccitt', order: 'high', covers: 'everything before' }
    default:
      return { part: kind }
  }
}

/** What each operation must carry between head and end, in the given byte order. */
export function plainParts(operation: Operation, order: Order): Part[] {
  switch (operation) {
    case 'set bits':
      return [
        { part: 'mask', order },
        { part: 'bits', order },
      ]
    case 'ask':
      return [{ part: 'words', size: 1, order }]
    case 'event':
      return [{ part: 'what', codes: plainEventCodes }]
    case 'done':
      return []
    case 'refused':
      return [{ part: 'reason', codes: plainReasonCodes }]
    default:
      return [{ part: 'payload' }]
  }
}
