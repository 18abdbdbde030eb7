import { sentence, type Problem } from '../../base/index.ts'
import { payloadOf, type Anatomy, type BadCode, type Direction, type Layout, type Message } from '../../frames/index.ts'
import type { Book, Protocol } from '../../protocols/index.ts'
import { sayMessage, sentenceOf } from '../message.ts'

/** How far the bytes themselves prove a cause: `certain` only where chance would fit it less than once in ten thousand times. */
export type Sureness = 'certain' | 'likely' | 'possible'
export const surenesses: readonly Sureness[] = ['certain', 'likely', 'possible']
export const surenessWords: Readonly<Record<Sureness, string>> = {
  certain: 'certain',
  likely: 'likely',
  possible: 'possible',
}

/** A stretch of bytes, `from` to `to` (excluded). */
export interface Mark {
  from: number
  to: number
}

/** One likely reason why bytes are no frame, or a frame that nobody meant: the sentence and the bytes that show it. */
export interface Cause {
  code: string
  sure: Sureness
  says: string
  marks: readonly Mark[]
}

/** Bytes that are no frame of a direction, or one with an odd content. */
export interface Suspect {
  layout: Layout
  book: Book
  protocol: Protocol
  direction: Direction
  bytes: Uint8Array
  anatomy: Anatomy
  /** Why they are no frame; null: they are one. */
  code: BadCode | null
  message: Message | null
  /** The characters that the bytes were read from, where they are known. */
  text: string | null
  /** Whether a search that takes some milliseconds may be made. */
  isDeep: boolean
}

/** A cause looked for in one file; it gives nothing where it does not fit. */
export type CauseFinder = (suspect: Suspect) => Cause | null

/** The message of bytes that are one whole frame and nothing else; null where they are not. */
export function wholeFrame({ protocol }: Suspect, direction: Direction, bytes: Uint8Array): Message | null {
  const decoder = protocol.decoder(direction)
  const [outcome, ...more] = [...decoder.feed(bytes, 0, 0), ...decoder.expire(Number.MAX_SAFE_INTEGER)]
  const isWhole = outcome?.kind === 'frame' && outcome.from === 0 && outcome.to === bytes.length && more.length === 0
  return isWhole ? outcome.readings[0]! : null
}

/** Bits of a frame that check its others. */
export function checkBits({ pieces }: Anatomy): number {
  let bits = 0
  for (const { kind, plain } of pieces) if (kind === 'checksum') bits += Math.min(32, plain.length * 8)
  return bits
}

/** So many bits beyond all tries make a cause certain: chance would fit it once in 8 192 times or less. */
const certainBits = 13

/** How sure a mending is after which the check of a frame fits, of so many mendings that were tried. */
export function sureOf(bits: number, tries: number, isPlausible: boolean): Sureness {
  let spent = 0
  for (let n = 1; n < tries; n *= 2) spent++
  return bits - spent >= certainBits ? 'certain' : isPlausible || bits - spent >= 6 ? 'likely' : 'possible'
}

/** Whether a message speaks of something the project has, with a value that it may have. */
export function isPlausible({ book }: Suspect, message: Message): boolean {
  const { name, inRange } = sayMessage(book, message)
  const payload = message.operation === 'message' ? null : payloadOf(message)
  const cell = payload && book.variables.find((one) => one.cell.address === message.address)?.cell
  const isWhole = !payload || !cell || cell.holds.type === 'text' || payload.length >= cell.words * 2
  return inRange && isWhole && !/^0x|^widget \d|^number \d/.test(name)
}

export const wordsOf = ({ book, protocol }: Suspect, message: Message): string =>
  sentenceOf(sayMessage(book, message)) + (protocol.lastSequence ? `, sequence ${message.sequence}` : '')

/** The cause that bytes read well once they are mended. */
export function mended(
  suspect: Suspect,
  code: string,
  facts: Problem['facts'],
  marks: readonly Mark[],
  bytes: Uint8Array,
  { tries = 1, direction = suspect.direction } = {},
): Cause | null {
  const message = wholeFrame(suspect, direction, bytes)
  if (!message) return null
  const sure = sureOf(checkBits(suspect.protocol.dissect(direction, bytes)), tries, isPlausible(suspect, message))
  return causeOf(code, sure, { ...facts, reads: wordsOf(suspect, message) }, marks)
}

export const causeOf = (code: string, sure: Sureness, facts: Problem['facts'], marks: readonly Mark[]): Cause => ({
  code,
  sure,
  says: sentence(causeSentences[code] ?? code, facts),
  marks,
})

export const allOf = ({ bytes }: Suspect): Mark[] => [{ from: 0, to: bytes.length }]

/** The sentence of each cause; `{reads}` is the message in words that is meant then. */
export const causeSentences: Readonly<Record<string, string>> = {
  decimal: 'These numbers are decimal, not hex: {reads}.',
  'start-swapped': 'The start bytes are swapped: {start} expected, {found} found. Else: {reads}.',
  'start-other': 'Another start is set: {found} found, {start} expected. Else: {reads}.',
  'start-missing': 'The start is missing: with {start} before it, {reads}.',
  'start-expected': 'A frame begins with {start}.',
  'end-missing': 'The end is missing: with {end} behind it, {reads}.',
  'flags-missing': 'Between two flags this is a valid frame: {reads}.',
  'byte-order': 'The bytes of {what} look swapped. As received: {received}. Swapped: {reads}.',
  length: 'The length says {said}, {right} would be right{counts}. With it: {reads}.',
  'check-swapped': 'The byte order of the checksum looks swapped. Expected {right}. Contents: {reads}.',
  'check-kind': 'Another checksum fits: {other}. The layout has {own}. Contents: {reads}.',
  check: 'The checksum would be {right}. Contents as received: {reads}.',
  flipped: 'One bit is wrong: byte {byte}, bit {bit}. Corrected to {right}: {reads}.',
  'text-for-number': 'The text “{text}” stands where a number is meant: {reads}.',
  'quotes-missing': 'The quotes of the text are missing: {reads}.',
  'baud-twice': 'The sender is at half the baud rate that is set here: {reads}.',
  'baud-half': 'The sender is at twice the baud rate that is set here: {reads}.',
  parity: 'The eighth bit is an {parity} parity bit: seven data bits and parity. Without it: {reads}.',
  echo: 'An echo of what was sent in line {line}.',
  glued: 'Two frames without {between} between them: {first}; then {second}.',
  cut: 'A frame cut off: {has} of at least {least} bytes.',
  'cut-front': 'The end of a frame whose beginning is missing.',
  name: 'Did you mean {like}?',
  wanted: 'Expected “{text}”.',
  'other-way': 'In the other direction: {reads}.',
}
