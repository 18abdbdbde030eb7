import type { CrcModel, ChecksumName, Order, Problem, Result } from '../base/index.ts'
import { oneOf, record, type Described, type Fields, type FollowContext, type RawOf } from '../describe/index.ts'
import type { BadCode } from './bad.ts'
import type { WireNumber } from './number.ts'
import type { EventKind, Message, Operation, PlacedBytes, Reason } from './messages.ts'

/** Content of a frame while its fields are read one after another. */
export interface Reading {
  sequence: number
  address: number
  mask: number
  bits: number
  words: number
  what: EventKind | null
  reason: Reason | null
}

/** Context of a field in its frame. */
export interface Ground {
  /** The code of the operation. */
  code: number
  /** A length field is the length of the body plus this, over `lengthUnit` bytes. */
  lengthShift: number
  lengthUnit: number
  hasPayload: boolean
  /** Bytes on the wire of one byte of the payload: more than one where it stands in digits. */
  bytesPerByte: number
}

/** Content of a message that stands on the wire where its payload does; an address only where it stands there too. */
export interface Carried {
  address?: number
  payload: readonly number[]
  also?: readonly PlacedBytes[]
}

/** Data that stand on the wire otherwise than in memory. */
export interface Packing {
  /** Bytes on the wire of one byte of memory. */
  bytesPerByte: number
  /** Problems: the kind's own. */
  pack(content: PlacedBytes & Carried): Result<readonly number[]>
  unpack(wire: Uint8Array): Carried | BadCode
  /** What of so many bytes on the wire is what, as kinds of parts; missing: all is data. */
  pieces?(size: number): readonly { kind: string; from: number; to: number }[]
  /** Arbitrary content with so many bytes on the wire, of numbers from 0 to `most`; null where it has none of that size. */
  some(size: number, any: (most: number) => number): Carried | null
}

/** Writes a part of a message into a body at its place; a problem where it cannot be said. */
export type Put = (body: Uint8Array, at: number, message: Message) => Problem | null
/** Reads a part at its place in a body of `size` bytes; why the frame is bad, or null. */
export type Read = (bytes: Uint8Array, at: number, size: number, payloadSize: number, into: Reading) => BadCode | null

/** Bytes of a body from its start: `from` to `to` (excluded), start bytes counted. */
export interface Span {
  from: number
  to: number
}

/** The places around a part in a body. */
export interface Around {
  /** The first byte after the start bytes. */
  start: number
  here: Span
  end: number
  payload: Span
  /** The part that counts bytes, and the one that checks them; null where the frame has none. */
  count: Span | null
  check: Span | null
}

type Settings = Fields<FollowContext>

/** A kind of part, in one file: codec, anatomy, checks, editor and explanations are derived from it. */
export interface PartKindOf<F extends Settings> {
  part: string
  /** Over the part wherever it stands: `address`. */
  label: string
  settings: Described<FollowContext, F>
  /** Bytes on the wire before escaping; a payload counts 0. */
  size(part: RawOf<F>): number
  put?(part: RawOf<F>, ground: Ground): Put
  read?(part: RawOf<F>, ground: Ground): Read
  /** The settings that mean nothing as it is set now, by key. */
  idle?(part: RawOf<F>): readonly string[]
  /** How it is made, in a few words: `2 bytes, little-endian`. */
  made(part: RawOf<F>): string
  /** Its text in a decoded frame; '' where its bytes say it. */
  says?(message: Message): string
  /** May stand in a frame more than once. */
  many?: true
  /** Its meaning: a frame may have each meaning once only. Without this, itself. */
  tells?: 'operation' | 'sequence' | 'payload'
  /** The parts that it stands for besides itself: a frame that has it needs none of them, and may have none. */
  stands?: readonly string[]
  /** It tells the operation: the largest code, how one is read, and the bits of one byte that are the code (0: more than one byte). */
  codes?(part: RawOf<F>): { most: number; mask: number; read(bytes: Uint8Array, at: number): number }
  /** The operations that nobody could act on without it. */
  neededBy?: readonly Operation[]
  /** The operations it has a use in; without this, all. */
  onlyIn?: readonly Operation[]
  /** It stands for the payload, and is as long as that is. */
  spans?: 'payload'
  /** It stands there otherwise than in memory. `memory`: the order of bytes there; `swaps`: whether those of a word change places. */
  packs?(part: RawOf<F>, memory: Order, swaps: boolean): Packing
  /** It counts bytes of its frame. */
  counts?: {
    number(part: RawOf<F>): WireNumber & { adds: number; unit: number }
    /** The bytes counted, before what it adds. */
    reach(part: RawOf<F>, around: Around): Span
    /** How many bytes of a body without payload are not counted. */
    leaves(part: RawOf<F>, around: Around): number
  }
  /** It checks bytes of its frame. The codec makes it when all else of the frame stands. */
  covers?: {
    check(part: RawOf<F>): { algorithm: ChecksumName | CrcModel; number: WireNumber }
    /** The bytes covered: up to right before itself where `to` is missing. */
    from(part: RawOf<F>, around: Around): number
    to?(part: RawOf<F>, around: Around): number
    /** The part that must stand before it, since it covers from there: payload or count. */
    begins(part: RawOf<F>): 'payload' | 'length' | null
  }
  /** It counts the words of the payload, in so many bytes. */
  countsWords?(part: RawOf<F>): WireNumber
  /** It numbers the frames: from 0 to this. */
  sequences?(part: RawOf<F>): number
  /** Why it cannot be used as it is set, or null. */
  wrong?(part: RawOf<F>): Problem | null
}

/** A kind in the table, where each has its own settings. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what stands in the settings is the kind's own business
export type PartKindRecord = PartKindOf<any>

export const partOf = <const F extends Settings>(kind: PartKindOf<F>): PartKindOf<F> => kind

/** Common members of one-byte fields without settings. */
export const oneByte = { settings: record({}), size: () => 1, made: () => '1 byte' }

const group = 'Part'
export const orderField = {
  label: 'Byte order',
  type: oneOf({ low: 'little-endian', high: 'big-endian' }),
  default: 'high' as Order,
  group,
}
