import { describe, expect, test } from 'vitest'
import { fromHex, mustHold, toHex } from '../base/index.ts'
import {
  ambiguities,
  ambiguityProblems,
  checkLayout,
  codecOf,
  compileLayout,
  compileWay,
  dissect,
  encodeFrame,
  makeDecoder,
  part,
  type BinaryLayout,
  type BinaryWay,
  type Message,
  type Part,
} from './index.ts'
import { expectAnatomy } from '../testing/decoding.ts'
import { bigEndianPlain, changedWay, layoutsForLaws } from '../testing/layouts.ts'

const hex = (text: string) => mustHold(fromHex(text))

describe('forms that are told apart without a code of their own', () => {
  const one = (parts: Part[], more: Partial<BinaryWay['forms'][number]> = {}) => ({
    operation: 'write' as const,
    directions: ['to panel'] as const,
    code: 6,
    parts,
    ...more,
  })
  const of = (forms: BinaryWay['forms'], change: Partial<BinaryWay> = {}) => changedWay(bigEndianPlain, { forms, ...change })
  const way = (layout: BinaryLayout) => codecOf(mustHold(compileLayout(layout)), 'to panel')
  const ask = { operation: 'ask' as const, directions: ['to panel'] as const, code: 6, parts: [part('words')] }
  const write: Message = { operation: 'write', sequence: 0, address: 0x12, payload: [6, 9] }
  const question: Message = { operation: 'ask', sequence: 0, address: 0x12, words: 2 }
  const readings = (layout: BinaryLayout, message: Message) => {
    const side = way(layout)
    const [outcome] = makeDecoder(side).feed(mustHold(encodeFrame(side, message)), 0, 0)
    return outcome!.kind === 'frame' && outcome!.readings
  }
  test('by a constant operand', () => {
    const layout = of([
      one([{ part: 'constant', bytes: [0x10] }, { part: 'payload' }]),
      { ...ask, parts: [{ part: 'constant', bytes: [0x20] }, part('words')] },
    ])
    expect([ambiguityProblems(layout), readings(layout, write), readings(layout, question)]).toEqual([[], [write], [question]])
  })
  test('by its length', () => {
    const layout = of([one([{ part: 'payload' }, part('words')]), ask], { mostPayload: 2 })
    expect(ambiguities(layout).filter(({ wire }) => wire)).toEqual([])
    expect([readings(layout, write), readings(layout, question)]).toEqual([[write], [question]])
  })
  test('by nothing: refused with a frame and both its readings', () => {
    const layout = of([one([{ part: 'payload' }]), ask])
    const [found] = ambiguities(layout)
    expect(found!.readings.map(({ operation }) => operation).sort()).toEqual(['ask', 'write'])
    expect(ambiguityProblems(layout)[0]).toMatchObject({ code: 'layout.ambiguous', facts: { bytes: toHex(found!.wire!) } })
  })
  test('by the data type of the variable', () => {
    const layout = of([
      one([{ part: 'constant', bytes: [1] }, { part: 'payload' }], { types: ['text'] }),
      one([{ part: 'payload' }], { types: ['u16'] }),
    ])
    const side = mustHold(compileWay(layout, 'to panel', 'low', (address) => (address === 0x12 ? 'u16' : 'text')))
    expect(toHex(mustHold(encodeFrame(side, write)))).toBe('A1 B2 05 06 00 12 06 09')
    expect(toHex(mustHold(encodeFrame(side, { ...write, address: 0x13 })))).toBe('A1 B2 06 06 00 13 01 06 09')
  })
  test('frames of a fixed length, each of its own', () => {
    const layout = of([one([{ part: 'payload' }], { code: 1 }), { ...ask, code: 2, size: 6 }], {
      framing: { kind: 'fixed', start: [0xa1], length: 6 },
      head: [part('operation'), part('address', { size: 2 })],
      mostPayload: 8,
    })
    const sized = changedWay(layout, {
      forms: layout.toPanel.forms.map((f) => (f.operation === 'ask' ? { ...f, size: 5 } : f)),
    })
    expect(checkLayout(sized)).toEqual([])
    expect([readings(sized, write), readings(sized, question)]).toEqual([[write], [question]])
  })
  test('an answer without an address has none: a dialogue knows whose it is', () => {
    const layout = changedWay(bigEndianPlain, {
      head: [part('length', { size: 1 }), part('operation')],
      forms: [{ operation: 'value', directions: ['to host'], code: 7, parts: [{ part: 'payload' }] }],
    })
    expect(checkLayout(layout)).toEqual([])
    const side = codecOf(mustHold(compileLayout(layout)), 'to host')
    const wire = mustHold(encodeFrame(side, { operation: 'value', sequence: 0, address: 0x12, payload: [6, 9] }))
    expect(toHex(wire)).toBe('A1 B2 03 07 06 09')
    expect(makeDecoder(side).feed(wire, 0, 0)).toMatchObject([{ readings: [{ operation: 'value', address: -1 }] }])
  })
  test('done that sends the write back', () => {
    const layout = changedWay(bigEndianPlain, {
      forms: [{ operation: 'done', directions: ['to host'], code: 1, parts: [{ part: 'payload' }] }],
    })
    const side = codecOf(mustHold(compileLayout(layout)), 'to host')
    const done: Message = { operation: 'done', sequence: 0, address: 0x12, payload: [6, 9] }
    expect(toHex(mustHold(encodeFrame(side, done)))).toBe('A1 B2 05 01 00 12 06 09')
    expect(makeDecoder(side).feed(mustHold(encodeFrame(side, done)), 0, 0)).toMatchObject([{ readings: [done] }])
  })
})

test.each(layoutsForLaws.filter(({ toPanel }) => toPanel.mostPayload > 2).map((layout) => [layout.name, layout] as const))(
  'a frame of more than 256 bytes is taken apart to its end: %s',
  (_, layout) => {
    const count = (p: Part): Part =>
      p.part === 'length' || p.part === 'words' ? { ...p, size: p.spelling === 'decimal' ? 3 : 2 } : p
    const way = layout.toPanel
    const long = changedWay(layout, {
      mostPayload: 400,
      head: way.head.map(count),
      forms: way.forms.map((f) => ({ ...f, parts: f.parts.map(count) })),
    })
    const side = codecOf(mustHold(compileLayout(long)), 'to panel')
    const payload = Array.from({ length: 400 }, (_x, k) => (k * 7) % 250)
    const wire = mustHold(encodeFrame(side, { operation: 'write', sequence: 1, address: 2, payload }))
    const anatomy = dissect(side, wire)
    expect(wire.length).toBeGreaterThan(400)
    expectAnatomy(anatomy, () => makeDecoder(side), wire)
    const data = anatomy.pieces.find(({ kind }) => kind === 'payload')!
    expect([data.plain.length, data.to - data.from >= 400]).toEqual([400, true])
  },
)

describe('numbers in other spellings', () => {
  test.each([
    ['hex', 4, 'high', 0x12ab, '31 32 41 42'],
    ['decimal', 5, 'high', 1234, '30 31 32 33 34'],
    ['decimal', 3, 'low', 12, '32 31 30'],
    ['bcd', 2, 'high', 4321, '43 21'],
    ['binary', 3, 'low', 0x123456, '56 34 12'],
  ] as const)('%s, %i bytes, %s: %i is %s', (spelling, size, order, address, bytes) => {
    const layout = changedWay(bigEndianPlain, {
      head: [part('length', { size: 1 }), part('operation'), part('address', { size, order, spelling })],
    })
    const side = codecOf(mustHold(compileLayout(layout)), 'to panel')
    const message: Message = { operation: 'ask', sequence: 0, address, words: 1 }
    const wire = mustHold(encodeFrame(side, message))
    expect(toHex(wire.slice(4, 4 + size))).toBe(bytes)
    expect(makeDecoder(side).feed(wire, 0, 0)).toMatchObject([{ readings: [message] }])
  })
  test('a byte that is no figure is told', () => {
    const layout = changedWay(bigEndianPlain, {
      head: [part('length', { size: 1 }), part('operation'), part('address', { size: 2, spelling: 'bcd' })],
    })
    const side = codecOf(mustHold(compileLayout(layout)), 'to panel')
    const decoder = makeDecoder(side)
    expect([...decoder.feed(hex('A1 B2 04 03 1A 00 01'), 0, 0), ...decoder.expire(1e12)][0]).toMatchObject({
      kind: 'bad',
      code: 'digits',
    })
  })
  test('a frame for another module is none of ours', () => {
    const layout = changedWay(bigEndianPlain, {
      head: [part('length', { size: 1 }), part('module', { number: 17 }), part('operation'), part('address', { size: 2 })],
    })
    const side = codecOf(mustHold(compileLayout(layout)), 'to panel')
    const wire = mustHold(encodeFrame(side, { operation: 'ask', sequence: 0, address: 2, words: 1 }))
    expect(toHex(wire)).toBe('A1 B2 05 11 03 00 02 01')
    const decoder = makeDecoder(side)
    expect([...decoder.feed(wire.with(3, 0x12), 0, 0), ...decoder.expire(1e12)][0]).toMatchObject({ kind: 'bad', code: 'module' })
  })
})
