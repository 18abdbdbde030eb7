import type { Order, Result } from '../base/index.ts'
import type { Anatomy, BadCode, Decoder, Direction, Hint, Message } from '../frames/index.ts'
import type { Cell } from '../variables/index.ts'
import type { BuildCommand } from './commands/command.ts'

/** Meaning of a name on the wire. */
export interface Entry {
  name: string
  number: number
  /** The page that a widget is on. */
  page?: string
  /** Its own name in lines, where it has one. */
  wire?: string
}

/** Facts of a build that a protocol needs for its messages: names, and the order of bytes in memory. */
export interface Book {
  /** `wire`: its own name in lines, where it has one; `page`: the first on which it is used. */
  variables: readonly { name: string; page?: string; wire?: string; cell: Cell }[]
  widgets: readonly Entry[]
  pages: readonly Entry[]
  /** Frames that the project assigns. */
  commands: readonly BuildCommand[]
  memory: Order
  /** Address of the first of the panel's own words. */
  ownFrom: number
}

/** The sequence number after another, from 0 to the last and round again; 0 where a layout has no place for one. */
export const nextSequence = ({ lastSequence }: Pick<Protocol, 'lastSequence'>, sequence: number): number =>
  lastSequence ? (sequence + 1) % (lastSequence + 1) : 0

/** A book without names, for where there is no build. */
export const emptyBook = (memory: Order = 'low'): Book => ({
  variables: [],
  widgets: [],
  pages: [],
  commands: [],
  memory,
  ownFrom: 0xff00,
})

/**
 * State that the two ears of a line share, since a frame may mean several things: an answer and a report may be the very same.
 * While a question for a place is open within its time-out it is the answer, else a report.
 */
export interface Dialogue {
  /** A message whose last bit was on the line at `endUs`. */
  said(direction: Direction, message: Message, endUs: number): void
  /** Which of its readings a frame is that ended at `endUs`. */
  heard(direction: Direction, readings: readonly Message[], endUs: number): Message
}

/** Common protocol of both sides of a line: the only door between messages and bytes. */
export interface Protocol {
  /** Sequence numbers run from 0 to this; 0 when the layout has no place for them. */
  lastSequence: number
  /** The most bytes of a payload, and of a frame on the wire in either direction, whatever is escaped in it. */
  limits: { payload: number; frame: number }
  /** The silence that a sender leaves behind each frame, µs; 0 where none is needed. */
  silenceUs: Readonly<Record<Direction, number>>
  /** Whether a frame of this operation can be said in this direction. */
  can(direction: Direction, operation: Message['operation']): boolean
  /** Problems as of `encodeFrame`. */
  encode(direction: Direction, message: Message): Result<Uint8Array>
  decoder(direction: Direction): Decoder
  dialogue(timeoutUs: number): Dialogue
  dissect(direction: Direction, wire: Uint8Array): Anatomy
  /** The likely intention behind bytes that are no frame. */
  hint(direction: Direction, wire: Uint8Array, code: BadCode): readonly Hint[]
  /** A typed frame with its length and checksum corrected; null where no operation can be made out. */
  mend(direction: Direction, typed: Uint8Array): Uint8Array | null
  /** Whether its frames are lines of characters. */
  isText: Readonly<Record<Direction, boolean>>
  /**
   * Typed text as bytes: hex, or, where frames are lines, characters, to which start and end are put. Problems as of `fromHex`.
   */
  typed(direction: Direction, text: string): Result<Uint8Array>
}
