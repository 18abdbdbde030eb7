import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { fromHex, joinBytes, mustHold, toHex } from '../base/index.ts'
import {
  ambiguityProblems,
  codecOf,
  compileLayout,
  checkLayout,
  dissect,
  encodeFrame,
  eventKinds,
  lampBinary,
  framingAt,
  freshPart,
  layoutAdvice,
  lengthLedStart,
  makeDecoder,
  operations,
  part,
  partKinds,
  reasons,
  type Codec,
  type Direction,
  type BinaryLayout,
  type BinaryWay,
  type Message,
  type Outcome,
  type Part,
} from './index.ts'
import { decoded, expectAnatomy, expectAnyChunking } from '../testing/decoding.ts'
import { oneMorePart } from '../testing/one-more.ts'
import { changedWay, bigEndianPlain, bigEndianPlainFrames, layoutsForLaws } from '../testing/layouts.ts'

const hex = (text: string) => mustHold(fromHex(text))
const lamp = mustHold(compileLayout(lampBinary))

describe('lamp binary, byte for byte', () => {
  const target: Message = { operation: 'write', sequence: 5, address: 0x12, payload: [6, 9] }
  test('231.0° in tenths to 0x0012 with sequence 5', () => {
    expect(toHex(mustHold(encodeFrame(codecOf(lamp, 'to panel'), target)))).toBe('7E 51 12 00 06 09 97 82 7E')
  })
  test('and back', () => {
    const out = makeDecoder(codecOf(lamp, 'to panel')).feed(hex('7E 51 12 00 06 09 97 82 7E'), 0, 0)
    expect(out).toEqual([{ kind: 'frame', readings: [target], from: 0, to: 9 }])
  })
  test('a report of the same', () => {
    const frame = mustHold(
      encodeFrame(codecOf(lamp, 'to host'), { operation: 'report', sequence: 3, address: 0x12, payload: [6, 9] }),
    )
    expect(toHex(frame)).toBe('7E 35 12 00 06 09 34 0E 7E')
  })
  test('flag and escape inside are stuffed', () => {
    const frame = mustHold(
      encodeFrame(codecOf(lamp, 'to panel'), { operation: 'write', sequence: 0, address: 0x7e, payload: [0x7d, 0x7e] }),
    )
    expect(toHex(frame).startsWith('7E 01 7D 5E 00 7D 5D 7D 5E')).toBe(true)
    expect(makeDecoder(codecOf(lamp, 'to panel')).feed(frame, 0, 0)).toMatchObject([
      { kind: 'frame', readings: [{ address: 0x7e }] },
    ])
  })
  test('what cannot be said is refused with a reason', () => {
    expect(encodeFrame(codecOf(lamp, 'to host'), target)).toMatchObject({ problem: { code: 'frame.no-form' } })
    expect(
      encodeFrame(codecOf(lamp, 'to panel'), {
        operation: 'write',
        sequence: 5,
        address: 0x12,
        payload: Array.from({ length: 242 }, () => 0),
      }),
    ).toMatchObject({
      problem: { code: 'frame.long', facts: { most: 240 } },
    })
  })
  test.each([
    ['7E 51 12 00 06 09 82 97 7E 7E', 'check'],
    ['7E 5F 12 00 06 09 82 97 7E 7E', 'operation'],
    ['7E 51 12 7E 7E', 'short'],
    ['12 34', 'stray'],
    ['7E 51 12 7D 7E', 'aborted'],
    ['7E 51 12 00 06 09 7D 07 97 7E', 'escape'],
    ['7E 51 12 00', 'unfinished'],
  ])('%s is bad: %s', (bytes, code) => {
    const decoder = makeDecoder(codecOf(lamp, 'to panel'))
    const out = [...decoder.feed(hex(bytes), 0, 0), ...decoder.expire(1e9)]
    expect(out[0]).toMatchObject({ kind: 'bad', code })
  })
  test('one flag between two frames is enough (RFC 1662), and two are as good', () => {
    const frames = [1, 2, 3].map((sequence) =>
      mustHold(encodeFrame(codecOf(lamp, 'to panel'), { operation: 'ask', sequence, address: 0x12, words: 1 })),
    )
    const shared = joinBytes([frames[0]!, frames[1]!.slice(1), frames[2]!.slice(1)])
    const read = (bytes: Uint8Array) => {
      const decoder = makeDecoder(codecOf(lamp, 'to panel'))
      return [...decoder.feed(bytes, 0, 0), ...decoder.expire(1e9)].map((o) =>
        o.kind === 'frame' ? `${o.readings[0]!.sequence} ${o.from}–${o.to}` : o.code,
      )
    }
    const size = frames[0]!.length
    expect(read(shared)).toEqual([`1 0–${size}`, `2 ${size}–${2 * size - 1}`, `3 ${2 * size - 1}–${3 * size - 2}`])
    expect(read(joinBytes(frames)).map((o) => o[0])).toEqual(['1', '2', '3'])
    expect(read(joinBytes([frames[0]!, hex('55 66'), frames[1]!])).map((o) => o.split(' ')[0])).toEqual(['1', 'stray', '2'])
  })
  test('silence is measured from the last byte of a burst to the first of the next', () => {
    const frame = mustHold(encodeFrame(codecOf(lamp, 'to panel'), target))
    const gap = lampBinary.toPanel.gapUs
    for (const [firstUs, kinds] of [
      [gap - 1, ['frame']],
      [gap, ['bad', 'bad', 'bad']],
    ] as const) {
      const decoder = makeDecoder(codecOf(lamp, 'to panel'))
      decoder.feed(frame.slice(0, 4), -2000, 0)
      const out = [...decoder.feed(frame.slice(4), firstUs, firstUs + 90_000), ...decoder.expire(1e9)]
      expect(out.map((o) => o.kind)).toEqual(kinds)
    }
  })
  test('a lost closing flag, a lost opening flag and a lost byte cost one frame each', () => {
    const frame = mustHold(encodeFrame(codecOf(lamp, 'to panel'), target))
    for (let lost = 0; lost < frame.length; lost++) {
      const stream = joinBytes([frame, frame.filter((_, i) => i !== lost), frame, frame])
      const decoder = makeDecoder(codecOf(lamp, 'to panel'))
      const frames = [...decoder.feed(stream, 0, 0), ...decoder.expire(1e9)].filter((o) => o.kind === 'frame')
      // A flag may end one frame and begin the next: where one is lost, the other does for both.
      const isFlag = lost === 0 || lost === frame.length - 1
      const [sent] = [...makeDecoder(codecOf(lamp, 'to panel')).feed(frame, 0, 0)].filter((o) => o.kind === 'frame')
      expect([lost, frames.map((f) => f.readings)]).toEqual([lost, Array(isFlag ? 4 : 3).fill(sent!.readings)])
    }
  })
})

const messageFor = (way: BinaryWay, direction: Direction): fc.Arbitrary<Message> => {
  const kinds = operations.filter((op) => way.forms.some((f) => f.operation === op && f.directions.includes(direction)))
  const wide = way.head.concat(way.forms[0]!.parts).some((p) => p.part === 'address' && p.size === 2)
  const packed = way.head.some((p) => p.part === 'sequence and operation')
  const has = way.head.some((p) => p.part === 'sequence')
  return fc
    .record({
      operation: fc.constantFrom(...kinds),
      sequence: fc.nat(packed ? 15 : has ? 255 : 0),
      address: fc.oneof(fc.constantFrom(0x7e, 0x7d), fc.nat(wide ? 0xffff : 0xff)),
      payload: fc
        .uint8Array({ minLength: 2, maxLength: 12 })
        .map((b) => Array.from(way.framing.kind === 'fixed' ? b.slice(0, 2) : b.slice(0, b.length & ~1))),
      words: fc.nat(255),
      mask: fc.nat(0xffff),
      bits: fc.nat(0xffff),
      what: fc.constantFrom(...eventKinds),
      reason: fc.constantFrom(...reasons),
    })
    .map(({ operation, sequence, address, ...rest }) => {
      const said = {
        sequence,
        address: operation === 'done' || operation === 'refused' ? (hasAddress(way, operation) ? address : 0) : address,
      }
      if (operation === 'set bits') return { operation, ...said, mask: rest.mask, bits: rest.bits }
      if (operation === 'ask') return { operation, ...said, words: rest.words }
      if (operation === 'event') return { operation, ...said, what: rest.what }
      if (operation === 'done') return { operation, ...said }
      if (operation === 'refused') return { operation, ...said, reason: rest.reason }
      return { operation, ...said, payload: rest.payload }
    })
}
/** Messages without end bytes where the end would be taken to be. */
const sayable = (codec: Codec, way: BinaryWay, direction: Direction): fc.Arbitrary<Message> =>
  messageFor(way, direction).filter((message) => {
    const made = encodeFrame(codecOf(codec, direction), message)
    return made.ok || made.problem.code !== 'frame.end-inside'
  })
const hasAddress = (way: BinaryWay, operation: string) =>
  [...way.head, ...way.forms.find((f) => f.operation === operation)!.parts, ...way.end].some((p) => p.part === 'address')

const junk = (way: BinaryWay) => {
  const { before, start, after } = framingAt(way.framing)
  const marks = [...before, ...after, ...start, 0x7d, 1, 5]
  return fc.array(fc.oneof(fc.nat(255), fc.constantFrom(...marks)), { maxLength: 30 }).map((b) => Uint8Array.from(b))
}

/** A stream: frames, damaged frames and junk in between. */
const stream = (codec: Codec, way: BinaryWay, direction: Direction): fc.Arbitrary<Uint8Array> => {
  const frame = sayable(codec, way, direction).map((m) => mustHold(encodeFrame(codecOf(codec, direction), m)))
  const hurt = fc.tuple(frame, fc.nat(999), fc.nat(7), fc.boolean()).map(([bytes, at, bit, lose]) => {
    const place = at % bytes.length
    return lose ? bytes.filter((_, i) => i !== place) : bytes.map((b, i) => (i === place ? b ^ (1 << bit) : b))
  })
  return fc.array(fc.oneof({ arbitrary: frame, weight: 4 }, hurt, junk(way)), { maxLength: 8 }).map(joinBytes)
}

const decodeAll = (codec: Codec, direction: Direction, chunks: Uint8Array[]): Outcome[] =>
  decoded(makeDecoder(codecOf(codec, direction)), chunks)

describe.each(layoutsForLaws.map((layout) => [layout.name, layout] as const))('the laws of decoding: %s', (_, layout) => {
  const codec = mustHold(compileLayout(layout))
  const directions = fc.constantFrom<Direction>('to panel', 'to host')

  test('every message comes back as it was', () => {
    fc.assert(
      fc.property(
        directions.chain((d) => fc.tuple(fc.constant(d), sayable(codec, layout.toPanel, d))),
        ([direction, message]) => {
          const bytes = mustHold(encodeFrame(codecOf(codec, direction), message))
          expect(decodeAll(codec, direction, [bytes])).toEqual([
            { kind: 'frame', readings: [message], from: 0, to: bytes.length },
          ])
        },
      ),
    )
  })
  test('frames and bad ranges tile the input, and each frame encodes to the bytes at its place', () => {
    fc.assert(
      fc.property(
        directions.chain((d) => fc.tuple(fc.constant(d), stream(codec, layout.toPanel, d))),
        ([direction, bytes]) => {
          let at = 0
          for (const outcome of decodeAll(codec, direction, [bytes])) {
            expect(outcome.from).toBe(at)
            expect(outcome.to).toBeGreaterThan(at)
            at = outcome.to
            if (outcome.kind !== 'frame') continue
            const again = mustHold(encodeFrame(codecOf(codec, direction), outcome.readings[0]!))
            const shares = layout.toPanel.framing.kind === 'delimited' && again.length === outcome.to - outcome.from + 1
            expect(shares ? again.slice(1) : again).toEqual(bytes.slice(outcome.from, outcome.to))
            // The flag that it shares closed the frame before it.
            if (shares) expect(bytes[outcome.from - 1]).toBe(again[0])
          }
          expect(at).toBe(bytes.length)
        },
      ),
    )
  })
  test('the chunking makes no difference: byte by byte, and cut anywhere', () => {
    fc.assert(
      fc.property(
        directions.chain((d) =>
          fc.tuple(fc.constant(d), stream(codec, layout.toPanel, d), fc.array(fc.nat(200), { maxLength: 6 })),
        ),
        ([direction, bytes, cuts]) => expectAnyChunking(() => makeDecoder(codecOf(codec, direction)), bytes, cuts),
      ),
    )
  })
  test('after any junk and a silence the next frame is read', () => {
    fc.assert(
      fc.property(
        directions.chain((d) => fc.tuple(fc.constant(d), junk(layout.toPanel), sayable(codec, layout.toPanel, d))),
        ([direction, noise, message]) => {
          const decoder = makeDecoder(codecOf(codec, direction))
          decoder.feed(noise, 0, 0)
          decoder.expire(layout.toPanel.gapUs)
          const now = layout.toPanel.gapUs
          const out = [
            ...decoder.feed(mustHold(encodeFrame(codecOf(codec, direction), message)), now, now),
            ...decoder.expire(2 * now),
          ]
          expect(out).toMatchObject([{ kind: 'frame', readings: [message] }])
        },
      ),
    )
  })
  test('anatomy tiles the frame, and agrees with the decoder', () => {
    fc.assert(
      fc.property(
        directions.chain((d) => fc.tuple(fc.constant(d), sayable(codec, layout.toPanel, d), fc.nat(400), fc.nat(8))),
        ([direction, message, at, bit]) => {
          const bytes = mustHold(encodeFrame(codecOf(codec, direction), message))
          if (bit < 8) bytes[at % bytes.length]! ^= 1 << bit
          const side = codecOf(codec, direction)
          expectAnatomy(dissect(side, bytes), () => makeDecoder(side), bytes)
        },
      ),
    )
  })
})

describe('lamp binary and a second layout, frame by frame', () => {
  const plain = mustHold(compileLayout(bigEndianPlain))
  test.each(bigEndianPlainFrames)('$hex', ({ direction, message, hex: bytes }) => {
    expect(toHex(mustHold(encodeFrame(codecOf(plain, direction), message)))).toBe(bytes)
    expect(decodeAll(plain, direction, [hex(bytes)])).toMatchObject([{ kind: 'frame', readings: [message] }])
  })
  // Each operation of the table in docs/formats.md, with sequence 5.
  test.each<[Direction, Message, string]>([
    ['to panel', { operation: 'set bits', sequence: 5, address: 0x30, mask: 0x0104, bits: 4 }, '7E 52 30 00 04 01 04 00'],
    ['to panel', { operation: 'ask', sequence: 5, address: 0x12, words: 2 }, '7E 53 12 00 02'],
    ['to host', { operation: 'value', sequence: 5, address: 0x12, payload: [6, 9] }, '7E 54 12 00 06 09'],
    ['to host', { operation: 'event', sequence: 5, address: 0x107, what: 'slid off' }, '7E 56 07 01 04'],
    ['to panel', { operation: 'done', sequence: 5, address: 0x12 }, '7E 57 12 00'],
    ['to host', { operation: 'refused', sequence: 5, address: 0x12, reason: 'not writable' }, '7E 58 12 00 03'],
    ['to host', { operation: 'message', sequence: 5, address: 2, payload: [10, 0] }, '7E 59 02 00 0A 00'],
  ])('%s %j begins %s', (direction, message, begin) => {
    const bytes = mustHold(encodeFrame(codecOf(lamp, direction), message))
    expect(toHex(bytes).startsWith(begin)).toBe(true)
    expect(bytes.length).toBe(begin.split(' ').length + 3)
    expect(decodeAll(lamp, direction, [bytes])).toMatchObject([{ kind: 'frame', readings: [message] }])
  })
})

describe('which layouts have one reading', () => {
  test('all that are shipped do', () => expect([lampBinary, lengthLedStart, ...layoutsForLaws].flatMap(checkLayout)).toEqual([]))
  const changed = (change: Partial<BinaryWay>): string[] => checkLayout(changedWay(bigEndianPlain, change)).map((p) => p.code)
  test('the others are refused with the reason', () => {
    expect(changed({ head: bigEndianPlain.toPanel.head.filter((p) => p.part !== 'length') })).toContain('layout.length-missing')
    const unnamed = changedWay(bigEndianPlain, { head: bigEndianPlain.toPanel.head.filter((p) => p.part !== 'operation') })
    expect(ambiguityProblems(unnamed).map((p) => p.code)).toContain('layout.ambiguous')
    expect(changed({ head: bigEndianPlain.toPanel.head.filter((p) => p.part !== 'address') })).toContain('layout.needs')
    expect(
      ambiguityProblems(changedWay(bigEndianPlain, { forms: bigEndianPlain.toPanel.forms.map((f) => ({ ...f, code: 1 })) })).map(
        (p) => p.code,
      ),
    ).toContain('layout.ambiguous')
    expect(changed({ forms: bigEndianPlain.toPanel.forms.map((f) => ({ ...f, code: 300 })) })).toContain('layout.code')
    expect(changed({ mostPayload: 300 })).toContain('layout.length-range')
    expect(
      changed({
        head: [part('length', { size: 1, order: 'high', counts: 'payload', adds: -1 }), ...bigEndianPlain.toPanel.head.slice(1)],
      }),
    ).toContain('layout.length-range')
    expect(changed({ framing: { kind: 'delimited', flag: 0x7e, escape: 0x7e, xor: 0x20, codes: [] } })).toContain('layout.flag')
    expect(changed({ framing: { kind: 'delimited', flag: 0x7e, escape: 0x5e, xor: 0x20, codes: [] } })).toContain('layout.flag')
    expect(changed({ framing: { kind: 'fixed', start: [], length: 8 } })).toContain('layout.fixed')
    expect(changed({ end: [{ part: 'payload' }] })).toContain('layout.twice')
    expect(
      changed({
        end: [{ part: 'reason', codes: { operation: 1, address: 2, 'not writable': 3, length: 4, value: 5, busy: 6 } }],
      }),
    ).toContain('layout.stray-part')
    const forms = (operation: string, parts: Part[]) =>
      changed({ forms: bigEndianPlain.toPanel.forms.map((f) => (f.operation === operation ? { ...f, parts } : f)) })
    const codes = { operation: 1, address: 2, 'not writable': 3, length: 4, value: 1, busy: 6 }
    expect(forms('refused', [{ part: 'reason', codes }])).toContain('layout.same-codes')
    const counted = changed({
      mostPayload: 600,
      head: [part('length', { size: 2, order: 'high', counts: 'payload', adds: 0 }), ...bigEndianPlain.toPanel.head.slice(1)],
      forms: bigEndianPlain.toPanel.forms.map((f) =>
        f.operation === 'write' ? { ...f, parts: [part('words', { size: 1, order: 'low' }), { part: 'payload' }] } : f,
      ),
    })
    expect(counted).toEqual(['layout.words-range'])
    const fixed = layoutsForLaws.find((l) => l.toPanel.framing.kind === 'fixed')!
    expect(
      checkLayout(changedWay(fixed, { framing: { kind: 'fixed', start: [0x5a], length: 12 } })).map((p) => p.code),
    ).toContain('layout.fixed')
    expect(changed({ forms: [] })).toContain('layout.empty')
  })
  test('and what can be said is not refused: a length of one byte that counts a payload of 250', () => {
    const head: Part[] = [
      part('length', { size: 1, order: 'high', counts: 'payload', adds: 0 }),
      ...bigEndianPlain.toPanel.head.slice(1),
    ]
    const wide = mustHold(compileLayout(changedWay(bigEndianPlain, { mostPayload: 250, head })))
    const message: Message = { operation: 'write', sequence: 0, address: 1, payload: Array.from({ length: 250 }, (_, k) => k) }
    const bytes = mustHold(encodeFrame(codecOf(wide, 'to panel'), message))
    expect(makeDecoder(codecOf(wide, 'to panel')).feed(bytes, 0, 0)).toEqual([
      { kind: 'frame', readings: [message], from: 0, to: bytes.length },
    ])
  })
  test('an answer and a report may be the very same frame: it has both readings, and advice says so', () => {
    const code = bigEndianPlain.toPanel.forms.find((f) => f.operation === 'value')!.code
    const same = changedWay(bigEndianPlain, {
      forms: bigEndianPlain.toPanel.forms.map((f) => (f.operation === 'report' ? { ...f, code } : f)),
    })
    expect([checkLayout(same), layoutAdvice(same).map((p) => p.code)]).toEqual([[], ['layout.two-readings']])
    const codec = mustHold(compileLayout(same))
    const bytes = mustHold(
      encodeFrame(codecOf(codec, 'to host'), { operation: 'report', sequence: 0, address: 7, payload: [1, 2] }),
    )
    const [outcome] = makeDecoder(codecOf(codec, 'to host')).feed(bytes, 0, 0)
    expect(outcome!.kind === 'frame' && outcome!.readings.map((m) => m.operation)).toEqual(['value', 'report'])
    const asks = changedWay(same, { forms: same.toPanel.forms.map((f) => (f.operation === 'event' ? { ...f, code } : f)) })
    expect(ambiguityProblems(asks).map((p) => p.code)).toContain('layout.ambiguous')
  })
})

describe('the order of bytes in a payload', () => {
  const message: Message = { operation: 'write', sequence: 0, address: 1, payload: [1, 2, 3, 4, 5] }
  test.each([
    ['as memory', 'low', [1, 2, 3, 4, 5]],
    ['as memory', 'high', [1, 2, 3, 4, 5]],
    ['low', 'low', [1, 2, 3, 4, 5]],
    ['high', 'low', [2, 1, 4, 3, 5]],
    ['low', 'high', [2, 1, 4, 3, 5]],
  ] as const)('%s, over memory of %s: %j', (payload, memory, wire) => {
    const codec = mustHold(compileLayout(changedWay(bigEndianPlain, { payload }), memory))
    const bytes = mustHold(encodeFrame(codecOf(codec, 'to panel'), message))
    expect(Array.from(bytes.slice(-5))).toEqual(wire)
    expect(makeDecoder(codecOf(codec, 'to panel')).feed(bytes, 0, 0)).toMatchObject([{ readings: [message] }])
  })
})

test('a part of another one needs its one record: it is checked, put, read, taken apart and said', () => {
  const gone = oneMorePart()
  const layout = (unit: number): BinaryLayout =>
    changedWay(lampBinary, { head: [...lampBinary.toPanel.head, { part: 'unit', unit } as unknown as Part] })
  expect(partKinds().map((kind) => kind.part)).toContain('unit')
  expect(freshPart('unit')).toEqual({ part: 'unit', unit: 17 })
  expect([checkLayout(layout(13)).map((p) => p.code)[0], checkLayout(layout(17))]).toEqual(['layout.unlucky', []])
  const codec = mustHold(compileLayout(layout(17)))
  const message: Message = { operation: 'ask', sequence: 1, address: 2, words: 1 }
  const bytes = mustHold(encodeFrame(codecOf(codec, 'to panel'), message))
  expect(decodeAll(codec, 'to panel', [bytes])).toMatchObject([{ kind: 'frame', readings: [message] }])
  expect(dissect(codecOf(codec, 'to panel'), bytes).pieces.map((p) => [p.label, p.says])).toContainEqual(['unit', 'ours'])
  const other = mustHold(compileLayout(layout(18)))
  expect(decodeAll(other, 'to panel', [bytes])).toMatchObject([{ kind: 'bad', code: 'constant' }])
  gone()
  expect(partKinds().map((kind) => kind.part)).not.toContain('unit')
})
