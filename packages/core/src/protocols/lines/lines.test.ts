import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { joinBytes, mustHold } from '../../base/index.ts'
import { reasons, type Direction, type LinesWay, type Message } from '../../frames/index.ts'
import type { Holds } from '../../variables/index.ts'
import { decoded, expectAnatomy, expectAnyChunking } from '../../testing/decoding.ts'
import { namedBook, plainCell as cell } from '../../testing/random-lines.ts'
import { lampLines, layoutProblems, namesTwice, protocolFor, type Book } from '../index.ts'

const book = namedBook
const lines = mustHold(protocolFor(lampLines, book))
const bytes = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0))
const text = (all: Uint8Array) => String.fromCharCode(...all)
const hear = (direction: Direction, ...chunks: string[]) => {
  const decoder = lines.decoder(direction)
  return [...chunks.flatMap((chunk) => decoder.feed(bytes(chunk), 0, 0)), ...decoder.expire(1e12)]
}
const said = (direction: Direction, message: Message) => text(mustHold(lines.encode(direction, message)))

describe('lamp lines, letter for letter', () => {
  const at = { sequence: 0 }
  test.each<[Direction, Message, string]>([
    ['to panel', { operation: 'write', ...at, address: 0x12, payload: [6, 9] }, 'dome_target = 231.0\n'],
    ['to host', { operation: 'report', ...at, address: 0x20, payload: [1, 0] }, 'shutter = half_open\n'],
    ['to panel', { operation: 'write', ...at, address: 0x20, payload: [9, 0] }, 'shutter = 9\n'],
    ['to panel', { operation: 'write', ...at, address: 0x30, payload: [9, 0] }, 'weather = rain+dew\n'],
    ['to panel', { operation: 'write', ...at, address: 0x30, payload: [0, 0] }, 'weather = -\n'],
    ['to panel', { operation: 'write', ...at, address: 0x30, payload: [4, 0] }, 'weather = 4\n'],
    ['to panel', { operation: 'set bits', ...at, address: 0x30, mask: 3, bits: 2 }, 'bits weather -rain+strong_wind\n'],
    ['to panel', { operation: 'ask', ...at, address: 0x50, words: 2 }, 'opened?\n'],
    ['to host', { operation: 'value', ...at, address: 0x50, payload: [0x5a, 0x29, 1, 0] }, 'is opened = 21:08:42\n'],
    ['to host', { operation: 'value', ...at, address: 0x50, payload: [255, 255, 255, 255] }, 'is opened = --:--:--\n'],
    ['to host', { operation: 'value', ...at, address: 0x50, payload: [0, 0, 2, 0] }, 'is opened = 131072\n'],
    ['to host', { operation: 'report', ...at, address: 0x60, payload: [0x1f, 0xf8] }, 'tint = #FF00FF\n'],
    ['to host', { operation: 'report', ...at, address: 0x70, payload: [0, 0, 0xc0, 0xbf] }, 'ratio = -1.500\n'],
    ['to host', { operation: 'event', ...at, address: 7, what: 'pressed' }, 'event Open_shutter pressed\n'],
    ['to host', { operation: 'message', ...at, address: 3, payload: [10, 255] }, 'note 3 0AFF\n'],
    ['to host', { operation: 'done', ...at, address: 0x12 }, 'ok dome_target\n'],
    ['to panel', { operation: 'refused', ...at, address: 0x12, reason: 'not writable' }, 'no dome_target read-only\n'],
  ])('%s %j is %s', (direction, message, line) => {
    expect(said(direction, message)).toBe(line)
    expect(hear(direction, line)).toEqual([{ kind: 'frame', readings: [message], from: 0, to: line.length }])
  })

  test('a text is quoted; quotes, ends and unseen letters in it are escaped', () => {
    const payload = [0x61, 0x22, 0x5c, 0x0a, 0x0d, 0xe4, 0x20, 0x7a, 0, 0, 0, 0]
    const message: Message = { operation: 'write', ...at, address: 0x40, payload }
    const line = 'note = "a\\"\\\\\\n\\r\xe4 z"\n'
    expect(said('to panel', message)).toBe(line)
    expect(hear('to panel', line)).toMatchObject([{ kind: 'frame', readings: [message] }])
  })

  test('two bits of one word in a line have their numbers instead, so that neither is lost', () => {
    const named: Book = {
      ...book,
      variables: [{ name: 'w', cell: cell(1, 0x30, 1, { type: 'flags', names: ['dry!', 'dry?', 'bit0', 'dew'] }) }],
    }
    const own = mustHold(protocolFor({ ...lampLines }, named))
    for (const word of [1, 2, 4, 15]) {
      const message: Message = { operation: 'write', ...at, address: 0x30, payload: [word, 0] }
      const wire = mustHold(own.encode('to panel', message))
      expect(own.decoder('to panel').feed(wire, 0, 0)).toMatchObject([{ readings: [message] }])
    }
    expect(text(mustHold(own.encode('to panel', { operation: 'set bits', ...at, address: 0x30, mask: 3, bits: 1 })))).toBe(
      'bits w +bit0-bit1\n',
    )
  })

  test('other spellings are heard: a plus, fewer or more decimals, hex pairs, a CR before the end', () => {
    const payloadOf = (line: string) =>
      hear('to panel', line).map((o) => o.kind === 'frame' && 'payload' in o.readings[0]! && o.readings[0].payload)
    expect(payloadOf('dome_target = +231\r\n')).toEqual([[6, 9]])
    expect(payloadOf('dome_target = 230.95\n')).toEqual([[6, 9]])
    expect(payloadOf('dome_target = 400\n')).toEqual([[0xa0, 0x0f]])
    expect(payloadOf('note = "\\x41"\n')).toEqual([[0x41, ...Array<number>(11).fill(0)]])
  })

  test.each([
    ['dome_target = 1e3\n', 'value'],
    ['dome_target = 0x10\n', 'value'],
    ['dome_target = 23,5\n', 'value'],
    ['dome_target = 7000\n', 'value'],
    ['shutter = ajar\n', 'value'],
    ['weather = hail\n', 'value'],
    ['dome_targat = 4\n', 'name'],
    ['dome_target=4\n', 'name'],
    ['note = "abc\n', 'quoting'],
    ['note = abc\n', 'quoting'],
    ['note = "a\\q"\n', 'escape'],
    ['note = "abc" more\n', 'left-over'],
    ['note = "more than twelve"\n', 'value'],
    ['dome_target = 23', 'unfinished'],
    ['\n', 'idle'],
    [`${'x'.repeat(600)}\n`, 'long'],
  ])('%j is none: %s', (line, code) => {
    const out = hear('to panel', line)
    expect(out[0]).toMatchObject({ kind: 'bad', code })
    expect(out.every((o) => o.kind === 'bad')).toBe(true)
    expect(out.at(-1)!.to).toBe(line.length)
  })

  test('a bad line costs itself only, and no rest of a line is read as one', () => {
    const good = 'dome_target = 1.0\n'
    const kinds = (stream: string) => hear('to panel', stream).map((o) => o.kind)
    expect(kinds(`${good}oops\n${good}`)).toEqual(['frame', 'bad', 'frame'])
    // The end of a line that was too long would be a good one by itself.
    expect(kinds(`${'x'.repeat(700)} ${good}${good}`).filter((kind) => kind === 'frame').length).toBe(1)
  })

  test('the name most like an unknown one is offered, and the wrong characters are pointed at', () => {
    const line = bytes('dome_targat = 4\n')
    expect(lines.hint('to panel', line, 'name')).toMatchObject([
      { code: 'hint.name', facts: { name: 'dome_targat', like: 'dome_target' } },
    ])
    expect(lines.dissect('to panel', line)).toMatchObject({ bad: 'name', wrong: { from: 0, to: 11 }, isText: true })
    expect(lines.dissect('to panel', bytes('dome_target = 2x\n'))).toMatchObject({ bad: 'value', wrong: { from: 14, to: 16 } })
  })

  test('anatomy has a piece for each part, with its characters', () => {
    const { pieces } = lines.dissect('to panel', bytes('dome_target = 231.0\r\n'))
    expect(pieces.map((p) => [p.kind, text(p.plain), p.from, p.to])).toEqual([
      ['address', 'dome_target', 0, 11],
      ['start', ' = ', 11, 14],
      ['payload', '231.0', 14, 20],
      ['end', '\n', 20, 21],
    ])
  })

  test('what has no name cannot be said', () => {
    const message: Message = { operation: 'write', ...at, address: 0x999, payload: [1, 2] }
    expect(lines.encode('to panel', message)).toMatchObject({ problem: { code: 'line.no-name', facts: { address: 0x999 } } })
    expect(lines.encode('to host', { operation: 'event', ...at, address: 8, what: 'held' })).toMatchObject({
      problem: { code: 'line.no-widget' },
    })
  })
})

const messages = (direction: Direction): fc.Arbitrary<Message> => {
  const of = fc.constantFrom(...book.variables.map(({ cell }) => cell))
  const word = fc.nat(0xffff)
  const payload = (holds: Holds): fc.Arbitrary<number[]> =>
    holds.type === 'text'
      ? fc
          .array(fc.integer({ min: 1, max: 255 }), { maxLength: 12 })
          .map((all) => [...all, ...Array<number>(12 - all.length).fill(0)])
      : holds.type === 'time'
        ? fc.nat(0x7fffffff).map((s) => [s & 255, (s >> 8) & 255, (s >> 16) & 255, s >> 24])
        : holds.type === 'f32'
          ? fc.constantFrom([0, 0, 0, 0], [0, 0, 0xc0, 0xbf])
          : word.map((w) => [w & 255, w >> 8])
  return of.chain((cell): fc.Arbitrary<Message> => {
    const at = { sequence: 0, address: cell.address }
    const carries = direction === 'to panel' ? (['write'] as const) : (['value', 'report'] as const)
    return fc.oneof(
      fc
        .tuple(fc.constantFrom(...carries), payload(cell.holds))
        .map(([operation, bytes]): Message => ({ operation, ...at, payload: bytes })),
      fc.constant<Message>(
        direction === 'to panel' ? { operation: 'ask', ...at, words: cell.words } : { operation: 'done', ...at },
      ),
      fc.constantFrom(...reasons).map((reason): Message => ({ operation: 'refused', ...at, reason })),
    )
  })
}
const directions = fc.constantFrom<Direction>('to panel', 'to host')
const streams = directions.chain((direction) => {
  const line = messages(direction).map((m) => mustHold(lines.encode(direction, m)))
  const hurt = fc
    .tuple(line, fc.nat(999), fc.nat(7))
    .map(([all, at, bit]) => all.map((b, i) => (i === at % all.length ? b ^ (1 << bit) : b)))
  const junk = fc.array(fc.oneof(fc.nat(255), fc.constantFrom(10, 13, 34, 32)), { maxLength: 20 }).map((b) => Uint8Array.from(b))
  return fc.tuple(
    fc.constant(direction),
    fc.array(fc.oneof({ arbitrary: line, weight: 4 }, hurt, junk), { maxLength: 8 }).map(joinBytes),
  )
})

describe('the laws of decoding, for lines', () => {
  const all = (direction: Direction, chunks: Uint8Array[]) => decoded(lines.decoder(direction), chunks)
  test('every message comes back as it was', () => {
    fc.assert(
      fc.property(
        directions.chain((d) => fc.tuple(fc.constant(d), messages(d))),
        ([direction, message]) => {
          const wire = mustHold(lines.encode(direction, message))
          expect(all(direction, [wire])).toEqual([{ kind: 'frame', readings: [message], from: 0, to: wire.length }])
        },
      ),
    )
  })
  test('lines and bad ranges tile the input; a line is spelt again as one that is heard as the same', () => {
    fc.assert(
      fc.property(streams, ([direction, stream]) => {
        let at = 0
        for (const outcome of all(direction, [stream])) {
          expect([outcome.from, outcome.to > outcome.from]).toEqual([at, true])
          at = outcome.to
          if (outcome.kind !== 'frame') continue
          const again = mustHold(lines.encode(direction, outcome.readings[0]!))
          expect(all(direction, [again])).toMatchObject([{ readings: outcome.readings }])
        }
        expect(at).toBe(stream.length)
      }),
    )
  })
  test('the chunking makes no difference', () => {
    fc.assert(
      fc.property(streams, fc.array(fc.nat(200), { maxLength: 6 }), ([direction, stream], cuts) =>
        expectAnyChunking(() => lines.decoder(direction), stream, cuts),
      ),
    )
  })
  test('anatomy tiles a line, and agrees with the decoder', () => {
    fc.assert(
      fc.property(
        directions.chain((d) => fc.tuple(fc.constant(d), messages(d), fc.nat(400), fc.nat(8))),
        ([direction, message, at, bit]) => {
          const wire = mustHold(lines.encode(direction, message))
          if (bit < 8) wire[at % wire.length]! ^= 1 << bit
          expectAnatomy(lines.dissect(direction, wire), () => lines.decoder(direction), wire)
        },
      ),
    )
  })
})

describe('lines that may be two things', () => {
  const way = lampLines.toPanel as LinesWay
  const found = (forms: LinesWay['forms']) => layoutProblems({ ...lampLines, toPanel: { ...way, forms } })
  const name = { part: 'name' }
  const blank = { part: 'gap', text: ' ', any: false }
  test('a quote beside a value that has its own is refused', () => {
    const problems = found([
      {
        operation: 'write',
        directions: ['to panel'],
        types: [],
        parts: [name, { part: 'gap', text: '="', any: false }, { part: 'value' }],
      },
    ])
    expect(problems.map(({ code }) => code)).toEqual(['layout.quote-gap'])
  })
  test('lamp lines has none', () => expect(layoutProblems(lampLines)).toEqual([]))
  test('a question that may be a confirmation is refused, with the line', () => {
    const problems = found([
      { operation: 'ask', directions: ['to panel'], types: [], parts: [{ part: 'words', text: 'tell' }, blank, name] },
      { operation: 'done', directions: ['to panel'], types: [], parts: [{ part: 'words', text: 'tell' }, blank, name] },
    ])
    expect(problems).toMatchObject([{ code: 'layout.ambiguous', facts: { bytes: '“tell x”', direction: 'to panel' } }])
  })
  test('a bare value that may be the word of another form', () => {
    const parts = [name, blank, { part: 'value' }]
    const problems = found([
      { operation: 'write', directions: ['to panel'], types: [], parts },
      { operation: 'ask', directions: ['to panel'], types: [], parts: [name, blank, { part: 'words', text: '7' }] },
    ])
    expect(problems).toMatchObject([{ code: 'layout.ambiguous', facts: { bytes: '“x 7”' } }])
  })
  test('the same words the other way are no ambiguity, nor are forms for other data types', () => {
    const parts = [name, blank, { part: 'value' }]
    expect(
      found([
        { operation: 'write', directions: ['to panel'], types: [], parts },
        { operation: 'report', directions: ['to host'], types: [], parts },
      ]),
    ).toEqual([])
  })
})

describe('a way of its own', () => {
  const way = lampLines.toPanel as LinesWay
  const of = (change: Partial<LinesWay>) => mustHold(protocolFor({ ...lampLines, toPanel: { ...way, ...change } }, book))
  test('names by a template, raw numbers, three end bytes, a check', () => {
    const forms: LinesWay['forms'] = [
      {
        operation: 'write',
        directions: ['to panel'],
        types: [],
        parts: [
          { part: 'name' },
          { part: 'words', text: '=' },
          { part: 'value' },
          { part: 'words', text: '*' },
          { part: 'check', algorithm: 'xor-8' },
        ],
      },
    ]
    const own = of({
      end: [0x1e, 0x1e, 0x1e],
      ignored: [],
      names: { template: '{name}.v', letters: 'capitals' },
      spelling: { ...way.spelling, numbers: 'raw' },
      forms,
    })
    const wire = mustHold(own.encode('to panel', { operation: 'write', sequence: 0, address: 0x12, payload: [6, 9] }))
    const line = 'DOME_TARGET.V=2310*'
    const check = [...line]
      .reduce((all, c) => all ^ c.charCodeAt(0), 0)
      .toString(16)
      .toUpperCase()
      .padStart(2, '0')
    expect(text(wire)).toBe(`${line}${check}\x1e\x1e\x1e`)
    const decoder = own.decoder('to panel')
    expect(decoder.feed(wire, 0, 0)).toMatchObject([{ kind: 'frame' }])
    wire[3]! ^= 1
    expect(own.dissect('to panel', wire).bad).not.toBeNull()
  })
  test('a variable may have a name of its own, and one page before all names', () => {
    const named: Book = {
      ...book,
      variables: book.variables.map((v) => (v.name === 'shutter' ? { ...v, wire: 'SH:1' } : { ...v, page: 'Dome' })),
    }
    const own = mustHold(
      protocolFor({ ...lampLines, toPanel: { ...way, names: { template: '{page}.{name}', letters: 'as they are' } } }, named),
    )
    const said = (address: number, words: number) =>
      text(mustHold(own.encode('to panel', { operation: 'ask', sequence: 0, address, words })))
    expect([said(0x20, 1), said(0x12, 1)]).toEqual(['SH:1?\n', 'Dome.dome_target?\n'])
    expect(own.decoder('to panel').feed(bytes('SH:1?\n'), 0, 0)).toMatchObject([
      { readings: [{ operation: 'ask', address: 0x20 }] },
    ])
    const twice = { ...named, variables: named.variables.map((v) => ({ ...v, wire: 'same' })) }
    expect(namesTwice(lampLines, twice).map(({ wire, name, other }) => [wire, name, other])[0]).toEqual([
      'same',
      'shutter',
      'dome_target',
    ])
  })
  test('raw bytes of known length may hold the end', () => {
    const own = of({
      end: [0x0a],
      ignored: [],
      forms: [
        {
          operation: 'write',
          directions: ['to panel'],
          types: [],
          parts: [{ part: 'name' }, { part: 'words', text: ':' }, { part: 'raw bytes', bytes: 2, order: 'turned' }],
        },
      ],
    })
    const message: Message = { operation: 'write', sequence: 0, address: 0x12, payload: [0x0a, 0x0a] }
    const wire = mustHold(own.encode('to panel', message))
    const decoder = own.decoder('to panel')
    expect([...wire, ...wire].flatMap((byte) => decoder.feed(Uint8Array.of(byte), 0, 0))).toMatchObject([
      { kind: 'frame', readings: [message], to: 15 },
      { kind: 'frame', readings: [message], to: 30 },
    ])
  })
})
