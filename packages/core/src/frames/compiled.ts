import type { ChecksumName, CrcModel, Problem, Result } from '../base/index.ts'
import type { BadCode } from './bad.ts'
import type { Direction, Message, Operation } from './messages.ts'
import type { Packing, Put, Read } from './part.ts'
import type { WireNumber } from './number.ts'
import type { Part } from './parts/table.ts'

/**
 * Outcome of some bytes. `from` and `to` count bytes since the decoder was made; frames and bad ranges tile the input
 * without gap or overlap, and a frame encoded again gives the bytes at its place, less a flag that it shares with the one
 * before it. A frame may have several readings: which is meant, a dialogue knows.
 */
export type Outcome =
  | { kind: 'frame'; readings: readonly Message[]; from: number; to: number }
  | { kind: 'bad'; code: BadCode; from: number; to: number }

/** Bytes as they arrive → frames. Made for one direction of one link. The chunking makes no difference. */
export interface Decoder {
  /** When the silence after the last byte breaks a frame off; null when nothing is pending. */
  deadlineUs: number | null
  /** Bytes of a burst that were on the line from `firstUs` (the first bit of the first) to `lastUs` (the last of the last). */
  feed(bytes: Uint8Array, firstUs: number, lastUs: number): Outcome[]
  /** Gives up what is pending if its deadline has come; call at or after `deadlineUs`. */
  expire(atUs: number): Outcome[]
}

/** A part with its place: `at` counts from the start of the body, or, with `fromEnd`, back from its end. */
export interface PlacedPart {
  part: Part
  at: number
  size: number
  fromEnd: boolean
}

export interface Step<F> {
  at: number
  fromEnd: boolean
  run: F
}

/** A place in a body: from its start, or, where it stands behind the payload, so much further as that is long. */
export interface Place {
  base: number
  moves: boolean
}
export const placeIn = ({ base, moves }: Place, payloadSize: number): number => (moves ? base + payloadSize : base)

/** Where a check stands and which bytes it covers. */
export interface Check {
  algorithm: ChecksumName | CrcModel
  number: WireNumber
  at: Place
  from: Place
  to: Place
  /** Whether the check over bytes[from … to) is what stands at `at`. */
  fits(bytes: Uint8Array, from: number, to: number, at: number): boolean
}

/** A form ready for use. The body is the frame as its framing hands it out, start bytes included. */
export interface CompiledForm {
  operation: Operation
  code: number
  placed: PlacedPart[]
  /** Bytes of the body without payload. */
  fixedSize: number
  payloadAt: number
  hasPayload: boolean
  /** How its payload stands on the wire; null: as in memory, or with the bytes of a word turned. */
  packing: Packing | null
  /** In the order in which they are made: one that covers another comes behind it. */
  checks: readonly Check[]
  /** The data types that it is for; none: all. */
  types: readonly string[]
  /** Length field = (body length + this) / `lengthUnit`; null where the form has none. */
  lengthShift: number | null
  lengthUnit: number
  /** Bytes of the body, where the form has its own fixed number; null: those of the framing. */
  ownSize: number | null
  /** A field before the payload from which the size of the body is known: its number × scale + shift. */
  saysSize: { at: number; number: WireNumber; scale: number; shift: number } | null
  puts: Step<Put>[]
  reads: Step<Read>[]
  /** The frame that it is, where the project assigns it. */
  assigned: AssignedFrame | null
}

/** One frame of the wire without what its framing puts around and into it. */
export interface Unwrapped {
  body: Uint8Array
  /** For each byte of the body, where it begins on the wire. */
  places: ArrayLike<number>
  /** The wire from `from` to `end` (excluded) is the body; what stands before and behind marks its ends. */
  from: number
  end: number
  fault: BadCode | null
}

/** A framing with its settings, ready for use. */
export interface FramingAt {
  /** Bytes that every body begins with. */
  start: readonly number[]
  /** Bytes on the wire before and behind every body, and what they are called. */
  before: readonly number[]
  after: readonly number[]
  edge: string
  /** Bytes of every body, where all have the same number. */
  bodySize: number | null
  /** The most bytes on the wire of a body of so many. */
  onWire(body: number): number
  /** A body as it stands on the wire. Problem: `frame.end-inside` (end) where it would end early. */
  wrap(body: Uint8Array, side: DirectionCodec): Result<Uint8Array>
  unwrap(wire: Uint8Array): Unwrapped
  decoder(side: DirectionCodec): Decoder
  /** The likely reason why bytes are no part of a frame; `reads` tells whether some bytes are a good one. */
  strays(wire: Uint8Array, reads: (wire: Uint8Array) => boolean): Problem[]
}

/**
 * A frame that a project assigns besides the forms of a layout. It is the message of its number, and its content is the payload of
 * that message.
 */
export interface AssignedFrame {
  number: number
  /** Its address, where header or trailer have one; −1: any. */
  address: number
  /** Its operation code, with header and trailer of the way around it; null: its content is the whole body. */
  code: number | null
  /** Bytes of its content that always stand there. */
  constants: number
  /** The bytes that its content begins with; null for one that may be any. */
  begins: readonly (number | null)[]
  /** Bytes of its content. */
  least: number
  most: number
  /** Whether some bytes are its content. */
  fits(content: Uint8Array): boolean
  pieces(content: Uint8Array): readonly { kind: string; label: string; from: number; to: number; says: string }[]
}

export interface DirectionCodec {
  direction: Direction
  framing: FramingAt
  /** The forms of each operation, in the order in which one is looked for that can say a message. */
  byOperation: ReadonlyMap<Message['operation'], readonly CompiledForm[]>
  /** By code, when the operation is told by one; more than one: what of them fits a frame, it may be. */
  byCode: (readonly CompiledForm[] | undefined)[]
  /** Of the frames that the project assigns, by their numbers; a problem where nothing would tell one from others. */
  assigned: ReadonlyMap<number, CompiledForm | Problem>
  /** All forms, where nothing tells the operation before the parts are read. */
  only: readonly CompiledForm[] | null
  operationAt: number
  operationSize: number
  readCode(bytes: Uint8Array, at: number): number
  /** Bits of one byte that are the code, where it is read so; 0: `readCode` knows. */
  operationMask: number
  /** Length-led: where the length stands and what the body length is from it. */
  length: { at: number; number: WireNumber } | null
  /** Bytes that must be there before the length of the body is known. */
  headSize: number
  shortest: number
  longest: number
  /** The two bytes of a word change places between memory and wire. */
  swaps: boolean
  mostPayload: number
  /** The data type of the variable at an address; null where none begins there, or nobody knows. */
  typeAt(address: number): string | null
  /** Silence inside a frame after which it counts as broken off; where a silence ends each frame, that one. */
  gapUs: number
}

/** A layout compiled for both directions. */
export interface Codec {
  toPanel: DirectionCodec
  toHost: DirectionCodec
}
