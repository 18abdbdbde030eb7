import { checksumFunction, toHex } from '../base/index.ts'
import type { Anatomy, BadCode, Direction, Message } from '../frames/index.ts'
import type { Project } from '../project/index.ts'
import { protocolFor, type Protocol } from '../protocols/index.ts'
import { sayMessage, sentenceOf } from './message.ts'

/** One stretch of pasted bytes: a frame in words, or why it is none and what would be right. */
export interface Explained {
  from: number
  to: number
  bytes: Uint8Array
  anatomy: Anatomy
  good: boolean
  code: BadCode | null
  /** `write dome_target = 231.0 °, sequence 5`, or what is wrong. */
  says: string
  /** What was probably meant, or how it reads as it stands. */
  hint: string
}

export interface Explanation {
  direction: Direction
  parts: Explained[]
}

export const badWords: Record<BadCode, string> = {
  stray: 'These bytes belong to no frame.',
  idle: 'A flag with nothing before the next one: the line was idle.',
  check: 'The check does not fit.',
  operation: 'The layout has no operation with this code in this direction.',
  length: 'The length does not fit the frame.',
  words: 'The number of words does not fit the payload.',
  constant: 'A constant byte has another value.',
  escape: 'An escape stands before a byte that needs none.',
  aborted: 'An escape right before the flag: the frame was broken off.',
  long: 'The frame is longer than the layout allows.',
  short: 'The frame is too short for what it says it is.',
  unfinished: 'The frame is not finished.',
  what: 'The event code means nothing here.',
  reason: 'The reason code means nothing here.',
}

/** Explains bytes against a project: as the direction that understands more of them. Null: the layout has two readings. */
export function explainBytes(project: Project, bytes: Uint8Array, as?: Direction): Explanation | null {
  const protocol = protocolFor(project.layout)
  if (!protocol.ok) return null
  if (as) return explainAs(project, protocol.value, bytes, as)
  const [panel, host] = (['to panel', 'to host'] as const).map((d) => explainAs(project, protocol.value, bytes, d)) as [
    Explanation,
    Explanation,
  ]
  const score = (e: Explanation) =>
    e.parts.reduce((sum, p) => sum + (p.good ? 100 : p.anatomy.pieces.some((x) => x.kind === 'unknown') ? 0 : 1), 0)
  return score(host) > score(panel) ? host : panel
}

function explainAs(project: Project, protocol: Protocol, bytes: Uint8Array, direction: Direction): Explanation {
  const decoder = protocol.decoder(direction)
  const outcomes = [...decoder.feed(bytes, 0), ...decoder.expire(Number.MAX_SAFE_INTEGER)]
  const parts = outcomes.map((o): Explained => {
    const part = bytes.slice(o.from, o.to)
    const anatomy = protocol.dissect(direction, part)
    const seen = { from: o.from, to: o.to, bytes: part, anatomy }
    if (o.kind === 'frame') return { ...seen, good: true, code: null, says: wordsOf(project, protocol, o.message), hint: '' }
    return {
      ...seen,
      good: false,
      code: o.code,
      says: badWords[o.code],
      hint: hintFor(project, protocol, direction, part, o.code),
    }
  })
  return { direction, parts }
}

const wordsOf = (project: Project, protocol: Protocol, message: Message): string =>
  sentenceOf(sayMessage(project, message)) + (protocol.lastSequence ? `, sequence ${message.sequence}` : '')

function hintFor(project: Project, protocol: Protocol, direction: Direction, bytes: Uint8Array, code: BadCode): string {
  if (code === 'check') return checkHint(project, protocol, direction, bytes)
  if (code === 'stray') return strayHint(protocol, direction, bytes)
  if (code === 'unfinished') return 'Its end is missing: perhaps the copy was cut off.'
  if (code === 'operation') {
    const other: Direction = direction === 'to panel' ? 'to host' : 'to panel'
    const read = protocol.dissect(other, bytes)
    return read.message ? `Read the other way it is ${sentenceOf(sayMessage(project, read.message))}.` : ''
  }
  return ''
}

/** What the check would have to be; whether its bytes were swapped; and how the frame reads if the check is taken as right. */
function checkHint(project: Project, protocol: Protocol, direction: Direction, bytes: Uint8Array): string {
  const anatomy = protocol.dissect(direction, bytes)
  const piece = anatomy.pieces.find((p) => p.kind === 'checksum')
  if (!piece) return ''
  const body = anatomy.pieces.filter((p) => p.kind !== 'flag').flatMap((p) => Array.from(p.plain))
  const right = rightCheck(protocol, anatomy, Uint8Array.from(body))
  if (!right) return ''
  const read = protocol.decoder(direction)
  const mended = mend(protocol, body, right, anatomy)
  const outcome = mended && read.feed(mended, 0)[0]
  const reads = outcome?.kind === 'frame' ? ` Read as it stands: ${wordsOf(project, protocol, outcome.message)}.` : ''
  const swapped = right.length === 2 && right[0] === piece.plain[1] && right[1] === piece.plain[0]
  return `${swapped ? 'Its two bytes look swapped: ' : ''}${toHex(right)} would be right for this frame.${reads}`
}

function rightCheck(protocol: Protocol, anatomy: Anatomy, body: Uint8Array): Uint8Array | null {
  const { layout } = protocol
  const part = [...layout.head, ...layout.end, ...layout.forms.flatMap((f) => f.parts)].find((p) => p.part === 'checksum')
  if (part?.part !== 'checksum') return null
  let at = 0
  let from = 0
  for (const piece of anatomy.pieces) {
    if (piece.kind === 'flag') continue
    if (piece.kind === 'checksum') break
    at += piece.plain.length
    if (
      (part.covers === 'after the start' && piece.kind === 'start') ||
      (part.covers === 'after the length' && piece.kind === 'length')
    )
      from = at
    if (part.covers === 'payload' && piece.kind === 'payload') from = at - piece.plain.length
  }
  const size = anatomy.pieces.find((p) => p.kind === 'checksum')!.plain.length
  const value = checksumFunction(part.algorithm)(body, from, at)
  const out = new Uint8Array(size)
  for (let i = 0; i < size; i++) out[part.order === 'low' ? i : size - 1 - i] = (value >>> (8 * i)) & 0xff
  return out
}

/** The frame with another check, escaped again. */
function mend(protocol: Protocol, body: number[], right: Uint8Array, anatomy: Anatomy): Uint8Array | null {
  const { framing } = protocol.layout
  let at = 0
  for (const piece of anatomy.pieces) {
    if (piece.kind === 'flag') continue
    if (piece.kind === 'checksum') break
    at += piece.plain.length
  }
  const mended = [...body.slice(0, at), ...right, ...body.slice(at + right.length)]
  if (framing.kind !== 'delimited') return Uint8Array.from(mended)
  const stuffed = mended.flatMap((b) => (b === framing.flag || b === framing.escape ? [framing.escape, b ^ framing.xor] : [b]))
  return Uint8Array.of(framing.flag, ...stuffed, framing.flag)
}

function strayHint(protocol: Protocol, direction: Direction, bytes: Uint8Array): string {
  const { framing } = protocol.layout
  if (framing.kind === 'delimited') {
    const wrapped = Uint8Array.of(framing.flag, ...bytes, framing.flag)
    return protocol.dissect(direction, wrapped).message
      ? 'Between two flags this would be a good frame.'
      : `A frame begins with the flag ${toHex([framing.flag])}.`
  }
  const start = framing.start
  const swapped = start.length > 1 && start.every((_, i) => bytes[i] === start[start.length - 1 - i])
  if (swapped) return `The start bytes are swapped: ${toHex(start)} is right, not ${toHex([...start].reverse())}.`
  return start.length ? `A frame begins with ${toHex(start)}.` : ''
}
