import type { Result } from '../base/index.ts'
import type { Anatomy, BadCode, Decoder, Direction, Hint, Layout, Message } from '../frames/index.ts'
import type { Book } from './protocol.ts'

/** Messages and bytes of one direction. */
export interface WayProtocol {
  /** Sequence numbers run from 0 to this; 0 where the way has no place for them. */
  lastSequence: number
  /** The most bytes of a payload and of a frame on the wire. */
  limits: { payload: number; frame: number }
  /** The silence that a sender leaves behind each frame, µs; 0 where none is needed. */
  silenceUs: number
  /** Problems as of `encodeFrame`, and of the way itself. */
  encode(message: Message): Result<Uint8Array>
  decoder(): Decoder
  dissect(wire: Uint8Array): Anatomy
  hint(wire: Uint8Array, code: BadCode): readonly Hint[]
  mend(typed: Uint8Array): Uint8Array | null
  /** Typed characters as a frame, its start and end put to them; none: its frames are bytes. */
  typed?(text: string): Uint8Array
}

/** Makes the protocol of the way that a layout has in a direction. `book`: the names of a build; a way of bytes asks for its memory only. */
export type MakeWay = (layout: Layout, direction: Direction, book: Book) => Result<WayProtocol>
