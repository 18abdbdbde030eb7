import { unzlibSync } from 'fflate'
import { seededRandom } from '../base/index.ts'

interface Table {
  tag: Uint8Array
  content: Uint8Array
}

/** The tables of a WOFF, unpacked. */
function tablesOf(woff: Uint8Array): Table[] {
  const view = new DataView(woff.buffer, woff.byteOffset, woff.byteLength)
  return Array.from({ length: view.getUint16(12) }, (_, n) => {
    const at = 44 + n * 20
    const [from, packed, size] = [4, 8, 12].map((k) => view.getUint32(at + k)) as [number, number, number]
    const raw = woff.subarray(from, from + packed)
    return { tag: woff.slice(at, at + 4), content: packed === size ? raw.slice() : unzlibSync(raw) }
  })
}

/** A font file of tables, each with the check value that its content has. */
function sfnt(tables: readonly Table[]): Uint8Array {
  const size = tables.reduce((sum, t) => sum + 16 + ((t.content.length + 3) & ~3), 12)
  const out = new Uint8Array(size)
  const view = new DataView(out.buffer)
  view.setUint32(0, 0x00010000)
  view.setUint16(4, tables.length)
  let at = 12 + tables.length * 16
  tables.forEach(({ tag, content }, n) => {
    const isHead = String.fromCharCode(...tag) === 'head'
    let sum = 0
    for (let i = 0; i < content.length; i += 4)
      if (!(isHead && i === 8))
        sum =
          (sum +
            (((content[i]! << 24) | ((content[i + 1] ?? 0) << 16) | ((content[i + 2] ?? 0) << 8) | (content[i + 3] ?? 0)) >>>
              0)) %
          4294967296
    out.set(tag, 12 + n * 16)
    view.setUint32(16 + n * 16, sum)
    view.setUint32(20 + n * 16, at)
    view.setUint32(24 + n * 16, content.length)
    out.set(content, at)
    at += (content.length + 3) & ~3
  })
  return out
}

/** A font with one to five flipped bits inside its tables, whose check values are right again: made to harm, not damaged. */
export function hostileFont(woff: Uint8Array, seed: number): Uint8Array {
  const random = seededRandom(seed)
  const tables = tablesOf(woff)
  for (let flips = 1 + random.below(5); flips > 0; flips--) {
    const { content } = tables[random.below(tables.length)]!
    const at = random.below(content.length)
    content[at] = content[at]! ^ (1 << random.below(8))
  }
  return sfnt(tables)
}

/**
 * A whole and sound font, but for its table of characters: one group (format 12) says that it maps four thousand million
 * of them. Reading it takes for ever, or all memory, whichever is first over.
 */
export function hangingFont(woff: Uint8Array): Uint8Array {
  const content = new Uint8Array(40)
  const view = new DataView(content.buffer)
  view.setUint16(2, 1)
  view.setUint16(4, 3)
  view.setUint16(6, 10)
  view.setUint32(8, 12)
  view.setUint16(12, 12)
  view.setUint32(16, 28)
  view.setUint32(24, 1)
  view.setUint32(32, 0xfffffffe)
  return sfnt(tablesOf(woff).map((table) => (String.fromCharCode(...table.tag) === 'cmap' ? { ...table, content } : table)))
}
