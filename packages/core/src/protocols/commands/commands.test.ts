import { expect, test } from 'vitest'
import { mustHold, toHex } from '../../base/index.ts'
import { lampBinary, lengthLedStart, type Direction, type Layout } from '../../frames/index.ts'
import type { Cell, Holds } from '../../variables/index.ts'
import {
  contentOf,
  contentWrong,
  emptyBook,
  encodeContent,
  lampLines,
  likelyField,
  markField,
  parseValues,
  protocolFor,
  readContent,
  typedFrame,
  valuesInWords,
  wordsSetBy,
  type Book,
  type BuildCommand,
} from '../index.ts'
import { commandOf, field, hexField, textField } from '../../testing/commands.ts'

const cell = (index: number, holds: Holds): Cell => ({
  index,
  address: 0x100 + index,
  words: 1,
  holds,
  order: 'low',
  travels: 'both',
  stale: null,
})
const level = cell(1, { type: 'u16', factor: 0.1, offset: 0, decimals: 1, unit: '%', min: 0, max: 100 })
const mode = cell(2, { type: 'choice', choices: ['slow', 'fast'].map((word, value) => ({ word, value })) })

const [bytes, words, command] = [hexField, textField, commandOf]

const start = command([
  bytes('A1'),
  field('number', { label: 'level', variable: level, size: 2, order: 'low', factor: 0.1 }),
  field('number', { label: 'mode', variable: mode, spelling: 'bcd', size: 1 }),
  field('check', { algorithm: 'sum-8', first: 0 }),
])

test('constants, numbers of variables with their scale, BCD and a check over what stands before it', () => {
  const content = mustHold(encodeContent(start, [20.5, 1]))
  expect(toHex(content)).toBe('A1 CD 00 01 6F')
  expect(readContent(start, content)).toEqual([20.5, 1])
  expect(valuesInWords(start, [20.5, 1])).toBe('level 20.5 %, mode fast')
  expect(readContent(start, [0xa1, 0xcd, 0, 1, 0x70])).toBeNull()
  expect(readContent(start, [0xa1, 0xcd, 0, 0x1a, 0x88])).toBeNull()
  expect(encodeContent(start, [7000, 1])).toMatchObject({ ok: false, problem: { code: 'command.value' } })
  expect(wordsSetBy(start, [20.5, 1])).toMatchObject([{ words: Uint16Array.of(205) }, { words: Uint16Array.of(1) }])
})

test.each([
  ['signed, 2 bytes', { size: 2, signed: true }, -300, 'FE D4'],
  ['four bytes, low first', { size: 4, order: 'low' }, 305419896, '78 56 34 12'],
  ['IEEE 754', { spelling: 'float' }, -1.5, 'BF C0 00 00'],
  ['hex digits', { spelling: 'hex', size: 4 }, 0x2af, '30 32 41 46'],
  ['decimal digits, fixed', { spelling: 'decimal', size: 4 }, 42, '30 30 34 32'],
  ['decimal digits with a point', { spelling: 'decimal', size: 6, decimals: 2, signed: true }, -3.5, '2D 30 33 2E 35 30'],
  ['BCD, two bytes', { spelling: 'bcd', size: 2 }, 1234, '12 34'],
  ['counted from 1', { offset: 1 }, 4, '03'],
] as const)('a number: %s', (_, values, value, hex) => {
  const one = command([field('number', values)])
  const content = mustHold(encodeContent(one, [value]))
  expect(toHex(content)).toBe(hex)
  expect(readContent(one, content)).toEqual([value])
})

test.each([
  ['a time in BCD', {}, 29_730, '08 15 30'],
  ['hours and minutes in figures', { parts: 'hm', spelling: 'decimal' }, 29_700, '30 38 31 35'],
  ['a date', { parts: 'ymd' }, 9832, '26 12 02'],
  ['a date, day first', { parts: 'dmy', spelling: 'binary' }, 9832, '02 0C 1A'],
] as const)('a clock: %s', (_, values, value, hex) => {
  const one = command([field('clock', values)])
  const content = mustHold(encodeContent(one, [value]))
  expect(toHex(content)).toBe(hex)
  expect(readContent(one, content)).toEqual([value])
})

test('a clock refuses what is no time and no day', () => {
  const time = command([field('clock')])
  expect(readContent(time, [0x24, 0, 0])).toBeNull()
  expect(readContent(time, [0x1a, 0, 0])).toBeNull()
  expect(encodeContent(time, [86_400])).toMatchObject({ ok: false, problem: { code: 'command.value' } })
  expect(readContent(command([field('clock', { parts: 'ymd' })]), [0x26, 0x02, 0x30])).toBeNull()
})

test('texts: padded, and as long as they are up to what stands behind them', () => {
  const one = command([
    field('text', { label: 'title', size: 6 }),
    words('"'),
    field('text', { label: 'note' }),
    words('",'),
    field('number', { label: 'n', spelling: 'decimal', size: 0 }),
  ])
  const content = mustHold(encodeContent(one, ['ab', 'a, b', 12]))
  expect(String.fromCharCode(...content)).toBe('ab    "a, b",12')
  expect(readContent(one, content)).toEqual(['ab', 'a, b', 12])
  expect(encodeContent(one, ['ab', 'a",', 1])).toMatchObject({ ok: false, problem: { code: 'command.marker' } })
  expect(contentWrong(one)).toBeNull()
  const open = command([field('text', { label: 'a' }), field('text', { label: 'b' })])
  expect(contentWrong(open)).toMatchObject({ code: 'command.open', facts: { name: 'a' } })
})

test('values are typed as they are shown; none for those of the fields', () => {
  expect(mustHold(parseValues(start, '20.5, fast'))).toEqual([20.5, 1])
  expect(mustHold(parseValues(start, ', fast'))).toEqual([null, 1])
  expect(mustHold(parseValues(start, ''))).toEqual([])
  expect(parseValues(start, '1, fast, 2')).toMatchObject({ ok: false, problem: { code: 'command.values' } })
  expect(parseValues(start, '1, quick')).toMatchObject({ ok: false, problem: { code: 'value.choice' } })
})

const bookWith = (...commands: BuildCommand[]): Book => ({ ...emptyBook(), commands })

/** All that a decoder says of some bytes. */
const heard = (layout: Layout, book: Book, direction: Direction, wire: Uint8Array) => {
  const decoder = mustHold(protocolFor(layout, book)).decoder(direction)
  return [...decoder.feed(wire, 0, 0), ...decoder.expire(1e12)]
}

const aMessage = (payload: readonly number[], sequence = 0, address = 7) => ({
  operation: 'message' as const,
  sequence,
  address,
  payload,
})

test.each([
  ['lamp binary, as a message', lampBinary, start, '7E 39 07 00 A1 CD 00 01 6F 1F D6 7E', 3],
  ['lamp binary, in its header with a code of its own', lampBinary, { ...start, frame: 'layout', code: 12 }, null, 3],
  ['lamp binary, bare', lampBinary, { ...start, frame: 'bare', fields: [bytes('0F 10'), ...start.fields.slice(1)] }, null, 0],
  ['length-led, in its header', lengthLedStart, { ...start, frame: 'layout', code: 13 }, null, 0],
  [
    'lines',
    lampLines,
    { ...start, frame: 'bare', fields: [words('go '), field('number', { spelling: 'shown', variable: level })] },
    '67 6F 20 32 30 2E 35 0A',
    0,
  ],
] as const)('a command on the wire: %s', (_, layout, given, hex, sequence) => {
  const one = given as BuildCommand
  const book = bookWith(one)
  const protocol = mustHold(protocolFor(layout as Layout, book))
  const message = aMessage(mustHold(encodeContent(one, [20.5, 1])), sequence)
  const wire = mustHold(protocol.encode('to panel', message))
  if (hex) expect(toHex(wire)).toBe(hex)
  expect(heard(layout as Layout, book, 'to panel', wire)).toMatchObject([{ kind: 'frame', readings: [message] }])
  const anatomy = protocol.dissect('to panel', wire)
  expect(anatomy).toMatchObject({ bad: null, readings: [message] })
  const at = anatomy.pieces.reduce((to, piece) => (piece.from === to ? piece.to : -1), 0)
  expect(at).toBe(wire.length)
  if (one.frame !== 'message') expect(anatomy.pieces.map(({ says }) => says)).toContain('20.5 %')
  // Every flipped bit is a bad frame, or another one of the same kind: never a message that nobody can say.
  for (let bit = 0; bit < wire.length * 8; bit++) {
    const bent = wire.slice()
    bent[bit >> 3]! ^= 1 << (bit & 7)
    for (const outcome of heard(layout as Layout, book, 'to panel', bent))
      if (outcome.kind === 'frame') expect(protocol.encode('to panel', outcome.readings[0]!).ok).toBe(true)
  }
})

test('a command goes one way only, and others are told apart by their constants', () => {
  const one = command([bytes('0F 01')], { frame: 'bare' })
  const two = command([bytes('0F'), field('number')], { frame: 'bare', number: 8, name: 'any' })
  const book = bookWith(two, one)
  const protocol = mustHold(protocolFor(lampBinary, book))
  const wire = (message: Parameters<typeof protocol.encode>[1]) => mustHold(protocol.encode('to panel', message))
  expect(heard(lampBinary, book, 'to panel', wire(aMessage([0x0f, 1])))).toMatchObject([
    { readings: [{ address: 7 }, { address: 8 }] },
  ])
  expect(heard(lampBinary, book, 'to panel', wire(aMessage([0x0f, 2], 0, 8)))).toMatchObject([{ readings: [{ address: 8 }] }])
  expect(heard(lampBinary, book, 'to host', wire(aMessage([0x0f, 1])))).toMatchObject([{ kind: 'bad' }])
})

test('a frame of a manual becomes a command: with the layout around it, or as it is', () => {
  const led = lengthLedStart
  const protocol = mustHold(protocolFor(led, bookWith({ ...start, frame: 'layout', code: 13 })))
  const wire = mustHold(protocol.encode('to panel', aMessage(mustHold(encodeContent(start, [20.5, 1])))))
  const typed = mustHold(typedFrame(led, 'to panel', wire))
  expect({ ...typed, content: toHex(typed.content) }).toEqual({
    frame: 'layout',
    code: 13,
    address: 7,
    content: 'A1 CD 00 01 6F',
  })
  // It says those very bytes, whatever its number is.
  const again = mustHold(protocolFor(led, bookWith({ ...start, number: 99, frame: 'layout', code: 13, address: 7 })))
  expect(toHex(mustHold(again.encode('to panel', aMessage([...typed.content], 0, 99))))).toBe(toHex(wire))
  expect(again.dissect('to panel', wire).readings).toEqual([aMessage([...typed.content], 0, 99)])
  const line = mustHold(typedFrame(lampLines, 'to panel', Uint8Array.from([...'beep 3\r\n'].map((c) => c.charCodeAt(0)))))
  expect(String.fromCharCode(...line.content)).toBe('beep 3')
  expect(typedFrame(lampLines, 'to panel', new Uint8Array(0)).ok).toBe(false)
})

test('a stretch that is marked becomes a field', () => {
  const constant = { field: 'constant', bytes: [...'beep 30 ms'].map((c) => c.charCodeAt(0)) }
  const marked = markField([constant], 0, 5, 2, likelyField([0x33, 0x30]))
  expect(marked.map((one) => one.field)).toEqual(['constant', 'number', 'constant'])
  expect(marked[1]).toMatchObject({ spelling: 'decimal', size: 0, value: 30 })
  expect(markField([constant], 0, 8, 9, likelyField([1]))).toEqual([constant])
  expect(likelyField([0x12, 0x34])).toMatchObject({ field: 'number', size: 2, value: 0x1234 })
  expect(contentOf(command([])).carried).toEqual([])
})
