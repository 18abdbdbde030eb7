import type { Result } from '../base/index.ts'
import type { Anatomy, Codec, Decoder, Direction, Layout, Message } from '../frames/index.ts'

/** What both sides of a line share: how a message becomes bytes, and bytes a message. */
export interface Protocol {
  layout: Layout
  codec: Codec
  encode(direction: Direction, message: Message): Result<Uint8Array>
  decoder(direction: Direction): Decoder
  dissect(direction: Direction, wire: Uint8Array): Anatomy
  /** Sequence numbers run from 0 to this; 0 when the layout has no place for them. */
  lastSequence: number
  /** Whether a frame of this operation can be said in this direction. */
  can(direction: Direction, operation: Message['operation']): boolean
}
