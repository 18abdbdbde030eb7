import { bad, good, mustHold, toHex } from '../../base/index.ts'
import { textToBytes } from '../../variables/index.ts'
import { EndedDecoder, wayOf, type Anatomy, type BadCode, type Hint, type LinesWay, type Piece } from '../../frames/index.ts'
import type { MakeWay } from '../way.ts'
import { checkLines } from './check.ts'
import { compileLines, dissectLine, encodeLine, isLineEnd, readLine, withoutIgnored, type LineCodec } from './codec.ts'
import { nearest } from './names.ts'
import { isFault } from './part.ts'
import { asBytes, asString } from './spelling.ts'

/** The most bytes of a value in a message: those of the longest text. */
const mostPayload = 240

/** Lines of text as a layout describes them, in the names of a build. */
export const linesWay: MakeWay = (layout, direction, book) => {
  const way = wayOf(layout, direction) as LinesWay
  const problem = checkLines(way)[0]
  if (problem) return { ok: false, problem }
  const codec = compileLines(way, direction, book)
  const sequences = way.forms.flatMap((form) => form.parts.filter((part) => part.part === 'sequence'))
  return good({
    lastSequence: sequences.length ? Math.min(...sequences.map((part) => Number(part['most']))) : 0,
    limits: { payload: mostPayload, frame: way.start.length + way.longest + way.end.length },
    silenceUs: 0,
    encode: (message) => {
      const line = encodeLine(codec, message)
      if (!line.ok) return line
      const wire = framed(way, line.value)
      return isWhole(codec, wire) ? good(wire) : bad('frame.end-inside', { end: toHex(way.end) })
    },
    decoder: () => decoderOf(codec),
    dissect: (wire) => dissect(codec, wire),
    hint: (wire, code) => hints(codec, wire, code),
    mend: (typed) => mend(codec, typed),
    typed: (text) => framed(way, asString(latinBytes(text))),
  })
}

const framed = ({ start, end }: LinesWay, line: string): Uint8Array => Uint8Array.from([...start, ...asBytes(line), ...end])

/** Characters as bytes of Latin-1; those that it does not have in UTF-8. */
const latinBytes = (text: string): Uint8Array =>
  Uint8Array.from(
    [...text].flatMap((c) => (c.charCodeAt(0) < 0x100 ? [c.charCodeAt(0)] : [...mustHold(textToBytes(c, 'utf-8'))])),
  )

/** Whether a line has its end nowhere else. */
function isWhole(codec: LineCodec, wire: Uint8Array): boolean {
  const { start, end } = codec.way
  for (let at = start.length; at < wire.length - end.length; at++)
    if (end.every((byte, k) => wire[at + k] === byte) && isLineEnd(codec, wire, start.length, at)) return false
  return true
}

function decoderOf(codec: LineCodec) {
  const { way } = codec
  return new EndedDecoder({
    start: way.start,
    end: way.end,
    most: way.start.length + way.longest,
    gapUs: way.gapUs,
    isEnd: (bytes, from, at) => isLineEnd(codec, bytes, from + way.start.length, at),
    read: (bytes, from, to) => {
      const { line } = withoutIgnored(way, bytes, from + way.start.length, to)
      if (!line) return 'idle'
      const read = readLine(codec, line)
      return isFault(read) ? read.code : read
    },
  })
}

/** A line opened: what stands between its start and its end. */
function opened({ start, end }: LinesWay, wire: Uint8Array): { from: number; to: number; fault: BadCode | null } {
  const from = start.every((byte, k) => wire[k] === byte) ? start.length : 0
  const hasEnd = wire.length >= from + end.length && end.every((byte, k) => wire[wire.length - end.length + k] === byte)
  const to = hasEnd ? wire.length - end.length : wire.length
  return { from, to, fault: from < start.length ? 'stray' : hasEnd ? null : 'unfinished' }
}

function dissect(codec: LineCodec, wire: Uint8Array): Anatomy {
  const { way } = codec
  const { from, to, fault } = opened(way, wire)
  const { line, places } = withoutIgnored(way, wire, from, to)
  const read = dissectLine(codec, line)
  const placeOf = (at: number) => from + (places ? (places[at] ?? to - from) : at)
  const pieces: Piece[] = []
  if (from) pieces.push({ kind: 'start', label: 'start', from: 0, to: from, plain: wire.slice(0, from), says: '' })
  for (const [k, piece] of read.pieces.entries()) {
    const next = read.pieces[k + 1]
    pieces.push({ ...piece, from: k ? placeOf(piece.from) : from, to: next ? placeOf(next.from) : to })
  }
  if (!read.pieces.length && to > from)
    pieces.push({ kind: 'unknown', label: 'unknown', from, to, plain: wire.slice(from, to), says: '' })
  if (to < wire.length) pieces.push({ kind: 'end', label: 'end', from: to, to: wire.length, plain: wire.slice(to), says: '' })
  const badCode = fault ?? (line ? read.fault?.code : 'idle') ?? null
  const wrong = !fault && read.fault ? { from: placeOf(read.fault.from), to: placeOf(read.fault.to) } : null
  return { pieces, readings: badCode ? [] : read.readings, bad: badCode, isText: true, ...(wrong ? { wrong } : {}) }
}

/**
 * Codes: `hint.name` (name, like), `hint.check` (right), `hint.end-missing` (end; reads: with it), `hint.wanted` (text: the characters
 * that were expected).
 */
function hints(codec: LineCodec, wire: Uint8Array, code: BadCode): Hint[] {
  const { way } = codec
  const { from, to } = opened(way, wire)
  const { line } = withoutIgnored(way, wire, from, to)
  const read = readLine(codec, line)
  if (code === 'unfinished' || code === 'stray')
    return isFault(read) ? [] : [{ code: 'hint.end-missing', facts: { end: toHex(way.end) }, reads: read[0]! }]
  if (!isFault(read)) return []
  if (read.code === 'name') {
    const { cells, widgets } = codec.names
    const like = nearest([...cells.keys(), ...widgets.keys()], String(read.facts['name']))
    return like === null ? [] : [{ code: 'hint.name', facts: { ...read.facts, like } }]
  }
  if (read.code === 'check') return [{ code: 'hint.check', facts: read.facts }]
  return read.code === 'word' || read.code === 'gap' ? [{ code: 'hint.wanted', facts: read.facts }] : []
}

/** A typed line with its end, and the check that it should have; null where it is none even so. */
function mend(codec: LineCodec, typed: Uint8Array): Uint8Array | null {
  const { way } = codec
  const { from, to } = opened(way, typed)
  const { line } = withoutIgnored(way, typed, from, to)
  const read = readLine(codec, line)
  if (!isFault(read)) return framed(way, line)
  if (read.code !== 'check') return null
  const right = line.slice(0, read.from) + String(read.facts['right'])
  return isFault(readLine(codec, right)) ? null : framed(way, right)
}
