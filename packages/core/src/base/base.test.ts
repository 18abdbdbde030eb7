import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import {
  holdsPoint,
  without,
  VirtualClock,
  bytesToWords,
  canonicalJson,
  jsonLength,
  checksumFunction,
  checksumNames,
  checksumOf,
  checksums,
  cosine,
  fromHex,
  newId,
  roundHalfAway,
  sameJson,
  randomFrom,
  seededRandom,
  sine,
  toHex,
  wordsToBytes,
  wrapInto,
} from './index.ts'

describe('checksums', () => {
  const nine = new TextEncoder().encode('123456789')
  test.each(checksumNames)('%s gives its catalogued check value', (name) => {
    expect(checksumOf(name, nine)).toBe(checksums[name].check)
  })
  test('any part of a longer buffer gives the same as a copy of that part', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 90 }), fc.nat(40), fc.constantFrom(...checksumNames), (bytes, skip, name) => {
        const from = Math.min(skip, bytes.length)
        expect(checksumFunction(name)(bytes, from, bytes.length)).toBe(checksumOf(name, bytes.slice(from)))
      }),
    )
  })
})

describe('bytes', () => {
  test('reads what people paste', () => {
    for (const text of ['7E 51 12 00', '7e511200', '0x7E, 0x51, 0x12, 0x00', '{0x7E,0x51,0x12,0x0}', '7E-51\n12:00'])
      expect(fromHex(text)).toEqual({ ok: true, value: Uint8Array.of(0x7e, 0x51, 0x12, 0) })
  })
  test('says what is wrong and where', () => {
    expect(fromHex('7E 5G')).toMatchObject({ ok: false, problem: { code: 'bytes.digit', facts: { at: 4, character: 'G' } } })
    expect(fromHex('7E 512')).toMatchObject({ ok: false, problem: { code: 'bytes.odd', facts: { at: 3 } } })
    expect(fromHex('  ')).toMatchObject({ ok: false, problem: { code: 'bytes.empty' } })
  })
  test('hex and words come back', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 1, maxLength: 40 }),
        fc.constantFrom('low' as const, 'high' as const),
        (bytes, order) => {
          expect(fromHex(toHex(bytes))).toEqual({ ok: true, value: bytes })
          const even = bytes.slice(0, bytes.length & ~1)
          expect(wordsToBytes(bytesToWords(even, order), order)).toEqual(even)
        },
      ),
    )
  })
})

describe('math', () => {
  test('rounds half away from zero, without a signed zero', () => {
    expect([2.5, -2.5, 0.15 / 0.1, 1.005 / 0.01, -0.4, 231 / 0.1].map(roundHalfAway)).toEqual([3, -3, 2, 101, 0, 2310])
    expect(Object.is(roundHalfAway(-0.4), 0)).toBe(true)
  })
  test('sine and cosine are within 1e-12 of the platform', () => {
    for (let a = -720; a <= 720; a += 7) {
      expect(Math.abs(sine(a) - Math.sin((a * Math.PI) / 180))).toBeLessThan(1e-12)
      expect(Math.abs(cosine(a) - Math.cos((a * Math.PI) / 180))).toBeLessThan(1e-12)
    }
  })
  test('wraps into a half-open span', () => {
    expect([wrapInto(360, 0, 360), wrapInto(-1, 0, 360), wrapInto(10, 1, 9), wrapInto(725, 0, 360)]).toEqual([0, 359, 1, 5])
  })
})

describe('the virtual clock', () => {
  test('keeps one total order: time, source, sequence', () => {
    const clock = new VirtualClock()
    const seen: string[] = []
    clock.at(20, 1, () => seen.push('20/1'))
    clock.at(10, 2, () => seen.push('10/2 first'))
    clock.at(10, 2, () => seen.push('10/2 second'))
    clock.at(10, 1, () => seen.push('10/1'))
    const gone = clock.at(5, 0, () => seen.push('cancelled'))
    clock.cancel(gone)
    expect(clock.nextUs()).toBe(10)
    clock.runUntil(15)
    expect(seen).toEqual(['10/1', '10/2 first', '10/2 second'])
    expect(clock.nowUs).toBe(15)
    clock.runUntil(20)
    expect(seen.at(-1)).toBe('20/1')
  })
  test('any order of asking gives the same order of happening', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(20), fc.nat(3)), { maxLength: 60 }), (asks) => {
        const clock = new VirtualClock()
        const seen: [number, number, number][] = []
        asks.forEach(([at, source], i) => clock.at(at, source, () => seen.push([at, source, i])))
        clock.runUntil(100)
        expect(seen).toEqual([...seen].sort((a, b) => a[0] - b[0] || a[1] - b[1] || a[2] - b[2]))
        expect(seen.length).toBe(asks.length)
      }),
    )
  })
  test('names who goes round in a circle', () => {
    const clock = new VirtualClock()
    const again = () => void clock.after(0, 7, again)
    again()
    expect(() => clock.runUntil(1)).toThrow(/source 7/)
  })
})

describe('ids and canonical text', () => {
  test('ids carry their kind and come from the seed', () => {
    expect(newId('page', seededRandom(3))).toBe(newId('page', seededRandom(3)))
    expect(newId('widget', seededRandom(4))).toMatch(/^widget:[0-9a-z]{20}$/)
    let drawn = 0
    const counting = randomFrom(() => (drawn++, 0x9e3779b9 * drawn) >>> 0)
    expect(newId('page', counting)).not.toBe(newId('page', counting))
    expect(drawn * 5).toBe(200)
  })
  test('equal data is equal text', () => {
    expect(canonicalJson({ b: [1, { d: 2, c: 3 }], a: undefined })).toBe('{"b":[1,{"c":3,"d":2}]}')
    expect(sameJson({ a: [1, { b: 2 }] }, { a: [1, { b: 2 }] })).toBe(true)
    expect(sameJson({ a: 1 }, { a: 1, b: 2 })).toBe(false)
    expect(sameJson([], {})).toBe(false)
  })
  test('has the length that is told without writing it', () => {
    const values = [
      null,
      true,
      -1.5,
      1e21,
      '',
      'a“\n\u0001😀',
      [],
      {},
      [[], {}],
      { a: undefined },
      { b: [1, { d: 'x' }], a: undefined, '10': 0 },
    ]
    expect(values.map(jsonLength)).toEqual(values.map((value) => canonicalJson(value).length))
  })
})

test('what lies outside a rectangle is in parts that do not overlap, and nothing is left out', () => {
  const side = fc.integer({ min: 0, max: 12 })
  const rects = fc.record({ x: side, y: side, width: side, height: side })
  fc.assert(
    fc.property(rects, rects, (a, b) => {
      const parts = without(a, b)
      for (let x = 0; x < 24; x++)
        for (let y = 0; y < 24; y++) {
          const is = holdsPoint(a, x, y) && !holdsPoint(b, x, y)
          expect(parts.filter((part) => holdsPoint(part, x, y)).length).toBe(is ? 1 : 0)
        }
    }),
  )
})
