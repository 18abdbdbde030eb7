import type { Pixels } from './pixels.ts'

/** Codes of at most twelve bits, so as many entries. */
const mostCodes = 4096

/** Rows of an interlaced picture in the order they are stored: first row, step (GIF 89a, appendix E). */
const passes = [
  [0, 8],
  [4, 8],
  [2, 4],
  [1, 2],
] as const

/**
 * The first picture of a GIF 89a that has been walked, in its place on the screen; what it does not cover, and what its colour that
 * means nothing covers, is transparent. Throws where its codes are none, or too few or too many.
 */
export function decodeGif(bytes: Uint8Array): Pixels {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const [width, height] = [view.getUint16(6, true), view.getUint16(8, true)]
  const rgba = new Uint8Array(4 * width * height)
  const sizeOf = (packed: number) => (packed & 0x80 ? 2 << (packed & 7) : 0)
  let [palette, colours] = [13, sizeOf(bytes[10]!)]
  let at = 13 + 3 * colours
  let clear = -1
  while (bytes[at] === 0x21) {
    // A graphic control extension says which colour means nothing.
    if (bytes[at + 1] === 0xf9 && bytes[at + 2]! >= 4 && bytes[at + 3]! & 1) clear = bytes[at + 6]!
    at += 2
    while (bytes[at] !== 0) at += bytes[at]! + 1
    at++
  }
  const [left, top, w, h] = [1, 3, 5, 7].map((k) => view.getUint16(at + k, true)) as [number, number, number, number]
  const packed = bytes[at + 9]!
  at += 10
  if (sizeOf(packed)) {
    ;[palette, colours] = [at, sizeOf(packed)]
    at += 3 * colours
  }
  const indexes = unpacked(bytes, at, w * h)
  const rows = packed & 0x40 ? passes.flatMap(([first, step]) => rowsFrom(first, step, h)) : rowsFrom(0, 1, h)
  rows.forEach((row, k) => {
    for (let x = 0; x < w; x++) {
      const index = indexes[k * w + x]!
      if (index === clear) continue
      if (index >= colours) throw new Error('palette index out of range')
      const to = 4 * ((top + row) * width + left + x)
      const from = palette + 3 * index
      rgba[to] = bytes[from]!
      rgba[to + 1] = bytes[from + 1]!
      rgba[to + 2] = bytes[from + 2]!
      rgba[to + 3] = 255
    }
  })
  return { width, height, rgba }
}

const rowsFrom = (first: number, step: number, height: number): number[] =>
  Array.from({ length: Math.max(0, Math.ceil((height - first) / step)) }, (_, k) => first + k * step)

/** The bytes in the sub-blocks from a place, and where they end. */
function* codedBytes(bytes: Uint8Array, from: number): Generator<number> {
  for (let at = from; bytes[at]; at += bytes[at]! + 1) for (let k = 1; k <= bytes[at]!; k++) yield bytes[at + k]!
}

/**
 * Exactly so many colour indexes from the code size and the sub-blocks at a place. Codes of growing length, least significant bit
 * first; each stands for a row of indexes: one of the palette, or what an earlier code stood for with one more (GIF 89a, appendix F).
 */
function unpacked(bytes: Uint8Array, from: number, count: number): Uint8Array {
  const first = bytes[from]!
  const clearCode = 1 << first
  const end = clearCode + 1
  // Meaning of a code: the code it continues, its last index, its length.
  const before = new Uint16Array(mostCodes)
  const last = new Uint8Array(mostCodes)
  const length = new Uint16Array(mostCodes)
  for (let k = 0; k < clearCode; k++) {
    last[k] = k
    length[k] = 1
  }
  const out = new Uint8Array(count)
  let [next, size, previous, done, bits, held] = [end + 1, first + 1, -1, 0, 0, 0]
  for (const byte of codedBytes(bytes, from + 1)) {
    held |= byte << bits
    bits += 8
    while (bits >= size) {
      const code = held & ((1 << size) - 1)
      held >>>= size
      bits -= size
      if (code === clearCode) {
        ;[next, size, previous] = [end + 1, first + 1, -1]
        continue
      }
      if (code === end) {
        if (done !== count) throw new Error('fewer pixels than the size in the header')
        return out
      }
      if (code > next || (code === next && previous < 0) || (previous < 0 && code >= clearCode))
        throw new Error('invalid pixel data')
      const known = code === next ? previous : code
      const run = length[known]! + (code === next ? 1 : 0)
      if (done + run > count) throw new Error('more pixels than the size in the header')
      let to = done + length[known]! - 1
      for (let walk = known; ; walk = before[walk]!) {
        out[to--] = last[walk]!
        if (length[walk] === 1) break
      }
      const head = out[done]!
      if (code === next) out[done + run - 1] = head
      done += run
      if (previous >= 0 && next < mostCodes) {
        before[next] = previous
        last[next] = head
        length[next] = length[previous]! + 1
        next++
        if (next === 1 << size && size < 12) size++
      }
      previous = code
    }
  }
  if (done !== count) throw new Error('fewer pixels than the size in the header')
  return out
}
