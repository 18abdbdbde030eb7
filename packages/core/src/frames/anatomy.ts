import { toHex } from '../base/index.ts'
import { codecOf, parseBody, type BadCode, type Codec, type CompiledForm } from './codec.ts'
import { startOf } from './check.ts'
import type { PartKind } from './layout.ts'
import type { Direction, Message } from './messages.ts'

/** One stretch of a frame on the wire: `from` to `to` (exclusive) count bytes of the frame, escapes included. */
export interface Piece {
  kind: PartKind | 'flag' | 'start' | 'unknown'
  from: number
  to: number
  /** The bytes before escaping. */
  plain: Uint8Array
}

/** A frame part by part, as far as it can be understood; `bad` says why it is not a good one. */
export interface Anatomy {
  pieces: Piece[]
  message: Message | null
  bad: BadCode | null
}

/** Takes one frame, good or bad, apart. The pieces tile `wire`. */
export function dissect(codec: Codec, direction: Direction, wire: Uint8Array): Anatomy {
  const { layout } = codec
  const way = codecOf(codec, direction)
  const open = layout.framing.kind === 'delimited' ? unwrap(wire, layout.framing) : null
  const body = open ? open.body : wire
  const placeOf = (index: number) => (open ? (open.places[index] ?? open.end) : index)
  const pieces: Piece[] = []
  if (open && open.from) pieces.push({ kind: 'flag', from: 0, to: open.from, plain: wire.slice(0, open.from) })
  const add = (kind: Piece['kind'], from: number, to: number) => {
    if (to > from) pieces.push({ kind, from: placeOf(from), to: placeOf(to), plain: body.slice(from, to) })
  }
  const form = way.only ?? way.byCode[(body[way.operationAt] ?? -1) & way.operationMask]
  const start = startOf(layout)
  const starts = start.every((byte, i) => body[i] === byte)
  const read = open?.fault ?? (starts ? parseBody(layout, way, body, 0, body.length) : 'stray')
  if (form && starts && body.length > way.operationAt) addForm(form, body.length, start.length, add)
  else add('unknown', 0, body.length)
  if (open && open.end < wire.length) pieces.push({ kind: 'flag', from: open.end, to: wire.length, plain: wire.slice(open.end) })
  return typeof read === 'string' ? { pieces, message: null, bad: read } : { pieces, message: read, bad: null }
}

/** The parts of a form over a body of any length; what is missing is left out, what is too much is `unknown`. */
function addForm(
  form: CompiledForm,
  length: number,
  start: number,
  add: (kind: Piece['kind'], from: number, to: number) => void,
): void {
  add('start', 0, start)
  let at = start
  const payload = Math.max(0, length - form.fixedSize)
  for (const { part, size } of form.placed) {
    const end = Math.min(length, at + (part.part === 'payload' ? payload : size))
    add(part.part, at, end)
    at = end
  }
  add('unknown', at, length)
}

interface Unwrapped {
  body: Uint8Array
  /** For each byte of the body, where it begins on the wire. */
  places: number[]
  from: number
  end: number
  fault: BadCode | null
}

function unwrap(wire: Uint8Array, { flag, escape, xor }: { flag: number; escape: number; xor: number }): Unwrapped {
  const from = wire[0] === flag ? 1 : 0
  const end = wire.length > from && wire[wire.length - 1] === flag ? wire.length - 1 : wire.length
  const body: number[] = []
  const places: number[] = []
  let fault: BadCode | null = from === 0 ? 'stray' : end === wire.length ? 'unfinished' : null
  for (let i = from; i < end; i++) {
    places.push(i)
    if (wire[i] !== escape) body.push(wire[i]!)
    else if (i + 1 >= end) {
      body.push(escape)
      fault ??= 'aborted'
    } else {
      const plain = wire[++i]! ^ xor
      if (plain !== flag && plain !== escape) fault ??= 'escape'
      body.push(plain)
    }
  }
  return { body: Uint8Array.from(body), places, from, end, fault }
}

/** `7E 51`, `0x7E, 0x51`: a frame for the clipboard. */
export const frameAsHex = toHex
export const frameAsCArray = (bytes: Uint8Array): string => `{ ${Array.from(bytes, (b) => `0x${toHex([b])}`).join(', ')} }`
