import { deflateSync } from 'node:zlib'
import { describe, expect, test } from 'vitest'
import { PNG } from 'pngjs'
import { joinBytes, mustHold, seededRandom } from '../base/index.ts'
import { testCodecs } from '../testing/codecs.ts'
import { chunk, pictureSet, type TestPicture } from '../testing/pictures.ts'
import { decodePicture, lookIntoPicture, mostPixels, type Pixels } from './index.ts'

const read = (bytes: Uint8Array) => decodePicture(bytes, testCodecs)
const code = (bytes: Uint8Array) => {
  const made = read(bytes)
  return made.ok ? 'taken' : made.problem.code
}
const set = await pictureSet()
const named = (name: string): TestPicture => set.find((one) => one.name === name)!

describe('pictures that are whole', () => {
  test.each(set.map((one) => [one.name, one] as const))('%s', (_, { bytes, format, pixels, within }) => {
    const made = mustHold(read(bytes))
    expect([made.info.format, made.width, made.height]).toEqual([format, pixels.width, pixels.height])
    expect(furthest(made, pixels)).toBeLessThanOrEqual(within)
  })
  test('a picture 16 384 pixels wide, and one of a single pixel', () => {
    const wide = encoded({ width: 16_384, height: 2, rgba: new Uint8Array(4 * 16_384 * 2).fill(255) })
    expect(mustHold(read(wide)).width).toBe(16_384)
    expect(mustHold(read(encoded({ width: 1, height: 1, rgba: Uint8Array.of(9, 8, 7, 6) }))).rgba).toEqual(
      Uint8Array.of(9, 8, 7, 6),
    )
  })
})

describe('pictures that are not', () => {
  test('cut anywhere, they are refused and nothing is thrown', () => {
    for (const { name, bytes } of set)
      for (let k = 0; k < 20; k++) {
        const cut = bytes.slice(0, Math.floor((bytes.length * k) / 20))
        expect([name, k, code(cut)]).not.toEqual([name, k, 'taken'])
      }
  })
  test('with flipped bits they are refused, or give pixels of the size they say', () => {
    const random = seededRandom(71)
    let refused = 0
    for (const { bytes } of set)
      for (let k = 0; k < 60; k++) {
        const flipped = bytes.slice()
        for (let n = 0; n <= k % 3; n++) flipped[random.below(flipped.length)]! ^= 1 << random.below(8)
        const made = read(flipped)
        if (!made.ok) refused++
        else expect(made.value.rgba.length).toBe(4 * made.value.width * made.value.height)
      }
    // Data without checksums, as the rows of a BMP, cannot tell.
    expect(refused).toBeGreaterThan(set.length * 30)
  })
  test('every flipped bit of a PNG is seen by a check value', () => {
    const { bytes } = named('PNG, 8 bits, red green blue')
    const random = seededRandom(5)
    for (let k = 0; k < 300; k++) {
      const flipped = bytes.slice()
      flipped[random.below(flipped.length)]! ^= 1 << random.below(8)
      expect(code(flipped)).not.toBe('taken')
    }
  })
  test('what is too large is refused by what it says, and no room is made for it', () => {
    for (const [width, height] of [
      [16_385, 1],
      [8192, 8192],
      [2_000_000_000, 2_000_000_000],
    ] as const) {
      expect(lookIntoPicture(headOnly(width, height))).toMatchObject({
        ok: false,
        problem: { code: 'picture.size', facts: { width, height, pixels: mostPixels } },
      })
    }
  })
  test('one that unpacks to more than it says is refused', () => {
    const small = encoded({ width: 4000, height: 4000, rgba: new Uint8Array(4 * 4000 * 4000) })
    expect(code(withSize(small, 10, 10))).toBe('picture.damaged')
  })
  test('a profile in a PNG is never unpacked, whatever it would come to', () => {
    const plain = encoded({ width: 2, height: 2, rgba: new Uint8Array(16).fill(9) })
    const withProfile = (packed: Uint8Array) =>
      joinBytes([
        plain.subarray(0, 33),
        chunk('iCCP', joinBytes([new TextEncoder().encode('p\0\0'), packed])),
        plain.subarray(33),
      ])
    // One that cannot be unpacked, and one of 64 MB: neither is looked at.
    for (const packed of [Uint8Array.of(1, 2, 3), new Uint8Array(deflateSync(new Uint8Array(64_000_000)))])
      expect(mustHold(read(withProfile(packed))).rgba).toEqual(new Uint8Array(16).fill(9))
  })
  test('a JPEG whose head claims more pixels than it has; the next is read', () => {
    const small = named('JPEG').bytes
    const head = small.findIndex((byte, at) => byte === 0xff && (small[at + 1] === 0xc0 || small[at + 1] === 0xc2))
    for (const [width, height] of [
      [4096, 4096],
      [61, 370],
    ] as const) {
      const claims = small.slice()
      new DataView(claims.buffer).setUint16(head + 5, height)
      new DataView(claims.buffer).setUint16(head + 7, width)
      expect(code(claims)).toBe('picture.damaged')
      expect(code(small)).toBe('taken')
    }
  })
  test('no picture, an ending that lies, nothing at all', () => {
    expect(code(new TextEncoder().encode('GIF is what I would like to be'))).toBe('picture.kind')
    expect(code(new Uint8Array())).toBe('picture.empty')
    expect(code(new Uint8Array(21 * 1024 * 1024))).toBe('picture.large')
    expect(mustHold(read(named('JPEG').bytes)).info.format).toBe('jpeg')
  })
})

const furthest = (a: Pixels, b: Pixels): number => {
  let most = 0
  for (let i = 0; i < a.rgba.length; i++) {
    const [x, y] = [a.rgba[i]!, b.rgba[i]!]
    // Where nothing is seen its colour does not matter.
    if ((i & 3) < 3 && a.rgba[i | 3] === 0 && b.rgba[i | 3] === 0) continue
    most = Math.max(most, Math.abs(x - y))
  }
  return most
}

function encoded({ width, height, rgba }: Pixels): Uint8Array {
  const png = new PNG({ width, height })
  png.data = Buffer.from(rgba)
  return new Uint8Array(PNG.sync.write(png))
}

/** A PNG with another size in its head, its check value put right. */
function withSize(png: Uint8Array, width: number, height: number): Uint8Array {
  const out = png.slice()
  const view = new DataView(out.buffer)
  view.setUint32(16, width)
  view.setUint32(20, height)
  view.setUint32(29, crc(out.subarray(12, 29)))
  return out
}
const headOnly = (width: number, height: number) =>
  withSize(encoded({ width: 1, height: 1, rgba: new Uint8Array(4) }), width, height)

/** CRC-32 by the definition, bit by bit (PNG 3, annex D). */
function crc(bytes: Uint8Array): number {
  let c = 0xffffffff
  for (const byte of bytes) {
    c ^= byte
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
  }
  return (c ^ 0xffffffff) >>> 0
}
