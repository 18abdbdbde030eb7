import { bad, good, hexByte, type Result } from '../../../base/index.ts'
import { oneOf, record, whole } from '../../../describe/index.ts'
import { payloadOf, type Message } from '../../../frames/index.ts'
import { namedFor, noName, type NamedCell } from '../names.ts'
import { faultAt, isFault, linePart, type Ground, type LineFault, type Spelt } from '../part.ts'
import { asString, quote, spell, spellBits, understand, understandBits, unquote, type Spelling } from '../spelling.ts'

const carrying = ['write', 'set bits', 'value', 'report'] as const

/** The value, spelt by the type of its variable: a text in quotes where the way says so. */
export const value = linePart({
  part: 'value',
  label: 'value',
  tint: 'payload',
  isOpen: true,
  settings: record({}),
  onlyIn: carrying,
  made: () => '',
  put: (_, message, ground) => {
    const named = namedFor(ground.names, message)
    const payload = payloadOf(message)
    if (!named) return noName(message)
    if (message.operation === 'set bits') return spellBits(named.cell, message.mask, message.bits)
    if (!payload) return good('')
    return spelledValue(ground, named, payload)
  },
  read: (_, line, at, into, { spelling, until }) => {
    const spelt = takeSpelt(line, at, until(line, at), spelling)
    if (isFault(spelt)) return spelt
    into.spelt = spelt
    return spelt.to
  },
})

/** The value of a variable as it stands in a line. Problems as of `spell`, and `line.stop-inside` (character). */
export function spelledValue(ground: Ground, { cell }: NamedCell, payload: readonly number[]): Result<string> {
  const spelt = spell(ground.spelling, cell, payload, ground.memory)
  if (!spelt.ok) return spelt
  if (cell.holds.type === 'text' && ground.spelling.text === 'quoted') return good(quote(spelt.value, ground.ends))
  for (const c of spelt.value) if (ground.stops(c.charCodeAt(0))) return bad('line.stop-inside', { character: c })
  return spelt
}

/** A spelt value at its place: up to its closing quote, or, where it has none, up to `end`. */
export function takeSpelt(line: string, at: number, end: number, { text: travels }: Spelling): Spelt | LineFault {
  if (travels !== 'quoted' || line[at] !== '"') return { text: line.slice(at, end), from: at, to: end }
  const text = unquote(line, at)
  return 'fault' in text ? faultAt(text.fault, text.at, text.at + 1) : { text: text.text, from: at, to: text.to }
}

/** Understands what was spelt, by the variable that the line names: its bytes of memory, or the bits that change. */
export function understood(
  operation: Message['operation'],
  named: NamedCell,
  spelt: Spelt,
  line: string,
  { spelling, memory }: Ground,
): LineFault | { payload: readonly number[] } | { mask: number; bits: number } {
  const { cell } = named
  const isQuoted = spelling.text === 'quoted' && line[spelt.from] === '"'
  if (spelling.text === 'quoted' && isQuoted !== (cell.holds.type === 'text' && operation !== 'set bits'))
    return faultAt('quoting', spelt.from, spelt.to)
  if (operation === 'set bits') {
    const bits = understandBits(cell, spelt.text)
    return bits.ok ? bits.value : faultAt('value', spelt.from, spelt.to, bits.problem.facts)
  }
  const payload = understand(spelling, cell, spelt.text, memory)
  return payload.ok
    ? { payload: payload.value }
    : faultAt('value', spelt.from, spelt.to, { why: payload.problem.code, ...payload.problem.facts })
}

/** The bytes of a payload, each as two hex figures. */
export const hexData = linePart({
  part: 'hex data',
  label: 'data in hex',
  tint: 'payload',
  isOpen: true,
  settings: record({}),
  onlyIn: ['write', 'value', 'report', 'message'],
  made: () => 'two figures a byte',
  put: (_, message) => good((payloadOf(message) ?? []).map(hexByte).join('')),
  read: (_, line, at, into, { until }) => {
    const to = until(line, at)
    const figures = line.slice(at, to)
    if (!/^([0-9A-Fa-f]{2})*$/.test(figures)) return faultAt('number', at, to, { value: figures })
    into.payload = Array.from({ length: figures.length / 2 }, (_x, k) => parseInt(figures.slice(2 * k, 2 * k + 2), 16))
    return to
  },
})

/** So many bytes as they stand in memory, whatever they are. */
export const raw = linePart({
  part: 'raw bytes',
  label: 'raw bytes',
  tint: 'payload',
  settings: record({
    bytes: { label: 'Bytes', type: whole, default: 2, min: 1, max: 240, group: 'Part' },
    order: {
      label: 'Byte order',
      type: oneOf({ 'as memory': 'as in memory', turned: 'bytes of a word turned' }),
      default: 'as memory',
      group: 'Part',
    },
  }),
  onlyIn: ['write', 'value', 'report', 'message'],
  made: ({ bytes }) => `${bytes} bytes`,
  size: ({ bytes }) => bytes,
  put: ({ bytes, order }, message) => {
    const payload = payloadOf(message) ?? []
    if (payload.length !== bytes) return bad('line.size', { bytes: payload.length, wants: bytes })
    return good(asString(order === 'turned' ? turned(payload) : payload))
  },
  read: ({ bytes, order }, line, at, into) => {
    if (at + bytes > line.length) return faultAt('short', at, line.length, { wants: bytes })
    const payload = Array.from(line.slice(at, at + bytes), (c) => c.charCodeAt(0))
    into.payload = order === 'turned' ? turned(payload) : payload
    return at + bytes
  },
})

const turned = (payload: readonly number[]): readonly number[] =>
  payload.map((byte, i) => ((i ^ 1) < payload.length ? payload[i ^ 1]! : byte))
