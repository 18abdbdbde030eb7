import { toHex, type Problem } from '../base/index.ts'
import { openFrame } from './anatomy.ts'
import type { BadCode } from './bad.ts'
import { rightChecks } from './codec.ts'
import type { DirectionCodec } from './compiled.ts'
import { parseBody } from './parse.ts'
import { makeDecoder } from './decoder.ts'
import type { Message } from './messages.ts'
import { putWire } from './number.ts'
import { countOf, isCount } from './place.ts'

/** The likely intention behind bytes that are no frame; `reads`: their meaning then. */
export interface Hint extends Problem {
  reads?: Message
}

/**
 * Codes: `hint.check` (right), `hint.check-swapped` (right), `hint.reads` (reads: as they stand, the check taken as right),
 * `hint.flipped` (byte, bit, right; reads: with that bit as it was), `hint.between-flags`, `hint.flag` (flag), `hint.end` (end), `hint.start-swapped` (start, found), `hint.start` (start), `hint.cut-off`.
 */
export function hintsFor(side: DirectionCodec, wire: Uint8Array, code: BadCode): Hint[] {
  if (code === 'check') return checkHints(side, wire)
  if (code === 'stray') return strayHints(side, wire)
  if (code === 'unfinished') return [{ code: 'hint.cut-off', facts: {} }]
  return []
}

/** The correct checksum; whether its bytes were swapped; and how the frame reads if the check is taken as right. */
function checkHints(side: DirectionCodec, wire: Uint8Array): Hint[] {
  const { body, form, places } = openFrame(side, wire)
  if (!form) return []
  const all = rightChecks(form, body)
  const right = all.find(({ at, bytes }) => bytes.some((byte, k) => body[at + k] !== byte))
  if (!right) return []
  const found = body.subarray(right.at, right.at + right.bytes.length)
  const swapped = right.bytes.length === 2 && right.bytes[0] === found[1] && right.bytes[1] === found[0]
  const mended = body.slice()
  for (const { at, bytes } of all) mended.set(bytes, at)
  const sent = side.framing.wrap(mended, side)
  const decoder = makeDecoder(side)
  const outcome = sent.ok ? [...decoder.feed(sent.value, 0, 0), ...decoder.expire(Infinity)][0] : undefined
  const hints: Hint[] = [{ code: swapped ? 'hint.check-swapped' : 'hint.check', facts: { right: toHex(right.bytes) } }]
  const flipped = swapped ? null : oneBit(side, body)
  // Told as it stands on the line, its flag and escapes among the bytes that are counted.
  const onLine = (at: number) => places[at] ?? at
  if (flipped) return [{ ...flipped.hint, facts: { ...flipped.hint.facts, byte: onLine(flipped.at) + 1 } }]
  if (outcome?.kind === 'frame') hints.push({ code: 'hint.reads', facts: {}, reads: outcome.readings[0]! })
  return hints
}

/** A longer frame is not searched for a flipped bit. */
const mostSearched = 300

/** The one bit with which, turned, a body is a good frame; null where there is none, or more than one. */
function oneBit(side: DirectionCodec, body: Uint8Array): { hint: Hint; at: number } | null {
  if (body.length > mostSearched) return null
  const tried = body.slice()
  let found: { hint: Hint; at: number } | null = null
  for (let at = 0; at < body.length; at++)
    for (let bit = 0; bit < 8; bit++) {
      tried[at]! ^= 1 << bit
      const read = parseBody(side, tried, 0, tried.length)
      if (typeof read !== 'string') {
        if (found) return null
        found = { hint: { code: 'hint.flipped', facts: { bit, right: toHex([tried[at]!]) }, reads: read[0]! }, at }
      }
      tried[at]! ^= 1 << bit
    }
  return found
}

const strayHints = (side: DirectionCodec, wire: Uint8Array): Hint[] =>
  side.framing.strays(wire, (bytes) => typeof openFrame(side, bytes).read !== 'string')

/** The sentence of each hint; `{reads}` is the message in words. */
export const hintSentences: Record<string, string> = {
  'hint.check': 'Expected {right}.',
  'hint.check-swapped': 'Byte order looks swapped. Expected {right}.',
  'hint.flipped': 'One bit is wrong: byte {byte}, bit {bit}. Corrected to {right}: {reads}.',
  'hint.reads': 'Contents as received: {reads}.',
  'hint.between-flags': 'Between two flags this is a valid frame.',
  'hint.flag': 'A frame begins with the flag {flag}.',
  'hint.end': 'With the end bytes {end} this is a valid frame.',
  'hint.end-missing': 'With the end bytes {end}: {reads}.',
  'hint.name': 'Did you mean {like}?',
  'hint.wanted': 'Expected “{text}”.',
  'hint.start-swapped': 'The start bytes are swapped: {start} expected, {found} found.',
  'hint.start': 'A frame begins with {start}.',
  'hint.cut-off': 'Incomplete frame (truncated copy?).',
  'hint.other-way': 'In the other direction: {reads}.',
}

/**
 * A typed frame with its length and checksum corrected, escaped and between flags where the framing has them;
 * null where no operation of the layout can be made out. The bytes of length and check must stand there, whatever they say.
 */
export function mendFrame(side: DirectionCodec, typed: Uint8Array): Uint8Array | null {
  const { body, form } = openFrame(side, typed)
  if (!form || body.length < form.fixedSize) return null
  const right = body.slice()
  for (const { part, at, fromEnd } of form.placed)
    if (isCount(part) && form.lengthShift !== null) {
      const counted = Math.floor((right.length + form.lengthShift) / form.lengthUnit)
      putWire(right, fromEnd ? right.length - at : at, countOf(part), counted)
    }
  for (const { at, bytes } of rightChecks(form, right)) right.set(bytes, at)
  const sent = side.framing.wrap(right, side)
  return sent.ok ? sent.value : null
}
