import { toHex } from '../base/index.ts'
import type { BadCode } from './bad.ts'
import type { CompiledForm, DirectionCodec, Unwrapped } from './compiled.ts'
import { formsAt, parseBody, parseForm } from './parse.ts'
import { isPayload } from './place.ts'
import { partKind } from './parts/table.ts'
import type { Message } from './messages.ts'

/** One stretch of a frame on the wire: `from` to `to` (exclusive) count bytes of the frame, escapes included. */
export interface Piece {
  /** The kind of its part, or `flag`, `start`, `end`, `unknown`. */
  kind: string
  label: string
  from: number
  to: number
  /** The bytes before escaping. */
  plain: Uint8Array
  /** The sense of the part in this frame, where its bytes leave it open: `write 5`, `checksum ok`. Names come from the project. */
  says: string
}

/** A frame part by part, as far as it can be understood; `bad` says why it is not a good one. */
export interface Anatomy {
  pieces: Piece[]
  /** Its possible meanings; empty where it is no good frame. */
  readings: readonly Message[]
  bad: BadCode | null
  /** Its bytes are characters. */
  isText?: true
  /** The bytes that make it none, where they are known. */
  wrong?: { from: number; to: number }
}

/** A wire frame opened: its body without flags and escapes, as far as it is one, and the form it has. */
export interface Opened extends Unwrapped {
  form: CompiledForm | null
  read: readonly Message[] | BadCode
}

/** Takes flags and escapes off one frame, good or bad, and finds its form. */
export function openFrame(side: DirectionCodec, wire: Uint8Array): Opened {
  const open = side.framing.unwrap(wire)
  const { body } = open
  const starts = side.framing.start.every((byte, i) => body[i] === byte)
  const parsed = starts ? parseBody(side, body, 0, body.length) : 'stray'
  // Without its opening flag it may still be a frame that shares the flag of the one before.
  const fault = open.fault === 'stray' && open.end < wire.length && typeof parsed !== 'string' ? null : open.fault
  const forms = starts && body.length > side.operationAt ? formsAt(side, body, 0) : undefined
  const fits = (one: CompiledForm) => typeof parseForm(side, one, body, 0, body.length) !== 'string'
  const form = (forms && forms.length > 1 ? forms.find(fits) : undefined) ?? forms?.[0] ?? null
  return { ...open, fault, form, read: fault ?? parsed }
}

/** Takes one frame, good or bad, apart. The pieces tile `wire`. */
export function dissect(side: DirectionCodec, wire: Uint8Array): Anatomy {
  const { body, places, from, end, form, read } = openFrame(side, wire)
  const { framing } = side
  const placeOf = (index: number) => places[index] ?? end
  const pieces: Piece[] = []
  const readings = typeof read === 'string' ? [] : read
  const piece = (kind: string, begin: number, stop: number, plain: Uint8Array): void => {
    const label = partKind(kind)?.label ?? kind
    const check =
      kind === 'checksum' && (readings.length || read === 'check') ? `checksum ${readings.length ? 'ok' : 'wrong'}` : ''
    pieces.push({
      kind,
      label,
      from: begin,
      to: stop,
      plain,
      says: check || (readings[0] && partKind(kind)?.says?.(readings[0])) || '',
    })
  }
  if (from) piece(framing.edge, 0, from, wire.slice(0, from))
  const add = (kind: string, begin: number, stop: number) => {
    if (stop > begin) piece(kind, placeOf(begin), placeOf(stop), body.slice(begin, stop))
  }
  const addContent = (begin: number, stop: number) => {
    for (const one of form!.assigned!.pieces(body.slice(begin, stop))) {
      const [first, last] = [begin + one.from, begin + one.to]
      if (last <= first) continue
      pieces.push({ ...one, from: placeOf(first), to: placeOf(last), plain: body.slice(first, last) })
    }
  }
  if (form) addForm(form, body.length, framing.start.length, add, form.assigned ? addContent : null)
  else add('unknown', 0, body.length)
  if (end < wire.length) piece(framing.edge, end, wire.length, wire.slice(end))
  return { pieces, readings, bad: typeof read === 'string' ? read : null }
}

/**
 * The parts of a form over a body of any length; what is missing is left out, what is too much is `unknown`. `addContent`: for the
 * payload of a frame that the project assigns.
 */
function addForm(
  form: CompiledForm,
  length: number,
  start: number,
  add: (kind: string, from: number, to: number) => void,
  addContent: ((from: number, to: number) => void) | null,
): void {
  add('start', 0, start)
  let at = start
  const payload = Math.max(0, length - form.fixedSize)
  for (const { part, size } of form.placed) {
    const end = Math.min(length, at + (isPayload(part) ? payload : size))
    const pieces = isPayload(part) ? form.packing?.pieces?.(payload) : undefined
    if (addContent && isPayload(part)) addContent(at, end)
    else if (pieces) for (const { kind, from, to } of pieces) add(kind, at + from, Math.min(end, at + to))
    else add(isPayload(part) ? 'payload' : part.part, at, end)
    at = end
  }
  add('unknown', at, length)
}

/** The bytes of a body from its pieces, without what marks its ends. */
export const bodyOfPieces = (pieces: readonly Piece[]): Uint8Array =>
  Uint8Array.from(pieces.filter(({ kind }) => kind !== 'flag' && kind !== 'end').flatMap(({ plain }) => Array.from(plain)))

/** `7E 51`, `0x7E, 0x51`: a frame for the clipboard. */
export const frameAsHex = toHex
/** A line as a string of C (C99, 6.4.4.4): what cannot be seen stands there in three octal digits. */
export const frameAsCString = (bytes: Uint8Array): string =>
  `"${Array.from(bytes, (b) => {
    const c = String.fromCharCode(b)
    if (c === '"' || c === '\\') return `\\${c}`
    if (c === '\n') return '\\n'
    if (c === '\r') return '\\r'
    return b >= 0x20 && b < 0x7f && c !== '?' ? c : `\\${b.toString(8).padStart(3, '0')}`
  }).join('')}"`
export const frameAsCArray = (bytes: Uint8Array): string => `{ ${Array.from(bytes, (b) => `0x${toHex([b])}`).join(', ')} }`
