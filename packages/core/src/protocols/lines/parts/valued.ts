import { bad, good, hexByte } from '../../../base/index.ts'
import { oneOf, record, whole } from '../../../describe/index.ts'
import { payloadOf, type Message } from '../../../frames/index.ts'
import { namedFor, noName, type NamedCell } from '../names.ts'
import { faultAt, linePart, type Ground, type LineFault } from '../part.ts'
import { asString, quote, spell, spellBits, understand, understandBits, unquote } from '../spelling.ts'

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
    const spelt = spell(ground.spelling, named.cell, payload, ground.memory)
    if (!spelt.ok || named.cell.holds.type !== 'text') return spelt
    if (ground.spelling.text === 'quoted') return good(quote(spelt.value, ground.ends))
    for (const c of spelt.value) if (ground.stops(c.charCodeAt(0))) return bad('line.stop-inside', { character: c })
    return spelt
  },
  read: (_, line, at, into, { spelling, until }) => {
    if (spelling.text === 'quoted' && line[at] === '"') {
      const text = unquote(line, at)
      if ('fault' in text) return faultAt(text.fault, text.at, text.at + 1)
      into.spelt = { text: text.text, from: at, to: text.to }
      return text.to
    }
    const to = until(line, at)
    into.spelt = { text: line.slice(at, to), from: at, to }
    return to
  },
})

/** Understands what was spelt, by the variable that the line names: its bytes of memory, or the bits that change. */
export function understood(
  operation: Message['operation'],
  named: NamedCell,
  spelt: { text: string; from: number; to: number },
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
