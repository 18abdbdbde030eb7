import { unzlibSync } from 'fflate'
import { bad, good, type Problem, type Result } from '../base/index.ts'

/** Bytes of a font file, packed and unpacked, and tables in it, at most. */
export const mostFontBytes = 8 * 1024 * 1024
const mostUnpacked = 32 * 1024 * 1024
const mostTables = 100

const signatures: Record<number, 'woff' | 'sfnt'> = {
  0x774f4646: 'woff', // wOFF
  0x00010000: 'sfnt', // TrueType outlines
  0x4f54544f: 'sfnt', // OTTO: CFF outlines
  0x74727565: 'sfnt', // true
}

interface Table {
  tag: string
  at: number
  packed: number
  size: number
  check: number
}

/**
 * Walks a font file before anything reads it: signature, table directory (OpenType 1.9, WOFF 1.0; all numbers most
 * significant byte first), lengths, and the check value of every table. Null: it is whole. Problem: `font.damaged`
 * (what), `font.kind`, `font.large` (bytes, most).
 */
export function fontDamage(bytes: Uint8Array): Problem | null {
  if (bytes.length > mostFontBytes) return bad('font.large', { bytes: bytes.length, most: mostFontBytes }).problem
  const tables = readTables(bytes)
  if (!tables.ok) return tables.problem
  const unpacked = tables.value.reduce((sum, table) => sum + table.size, 0)
  if (unpacked > mostUnpacked) return bad('font.large', { bytes: unpacked, most: mostUnpacked }).problem
  for (const table of tables.value) {
    const content = contentOf(bytes, table)
    if (!content) return damaged(`the table ${table.tag}: decompression failed`)
    if (tableCheck(content, table.tag === 'head') !== table.check) return damaged(`the table ${table.tag}: checksum error`)
  }
  return null
}

/** Whether a file is a WOFF2. */
export const isWoff2 = (bytes: Uint8Array): boolean =>
  bytes.length >= 4 && String.fromCharCode(...bytes.subarray(0, 4)) === 'wOF2'

/**
 * Walks the head of a WOFF2 file (W3C WOFF 2.0, 4.1; most significant byte first) before it is unpacked: its length, the number of
 * its tables, and what it says it will be. Null: it may be unpacked, and what comes out is walked by `fontDamage`.
 */
export function woff2Damage(bytes: Uint8Array): Problem | null {
  if (!isWoff2(bytes)) return bad('font.kind').problem
  if (bytes.length > mostFontBytes) return bad('font.large', { bytes: bytes.length, most: mostFontBytes }).problem
  if (bytes.length < 48) return damaged('truncated header')
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (view.getUint32(8) !== bytes.length) return damaged('length mismatch')
  const [tables, unpacked] = [view.getUint16(12), view.getUint32(16)]
  if (!tables || tables > mostTables) return damaged('truncated table list')
  return unpacked > mostFontBytes ? bad('font.large', { bytes: unpacked, most: mostFontBytes }).problem : null
}

const damaged = (what: string): Problem => bad('font.damaged', { what }).problem

function readTables(bytes: Uint8Array): Result<Table[]> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const kind = bytes.length >= 12 ? signatures[view.getUint32(0)] : undefined
  if (!kind) return bad('font.kind')
  const [first, each] = kind === 'woff' ? [44, 20] : [12, 16]
  const count = bytes.length >= first ? view.getUint16(kind === 'woff' ? 12 : 4) : 0
  if (!count || count > mostTables || first + count * each > bytes.length)
    return { ok: false, problem: damaged('truncated table list') }
  if (kind === 'woff' && view.getUint32(8) !== bytes.length) return { ok: false, problem: damaged('length mismatch') }
  const tables: Table[] = []
  for (let n = 0; n < count; n++) {
    const at = first + n * each
    const tag = String.fromCharCode(...bytes.subarray(at, at + 4))
    const table: Table =
      kind === 'woff'
        ? {
            tag,
            at: view.getUint32(at + 4),
            packed: view.getUint32(at + 8),
            size: view.getUint32(at + 12),
            check: view.getUint32(at + 16),
          }
        : {
            tag,
            check: view.getUint32(at + 4),
            at: view.getUint32(at + 8),
            packed: view.getUint32(at + 12),
            size: view.getUint32(at + 12),
          }
    if (table.at + table.packed > bytes.length || table.packed > table.size)
      return { ok: false, problem: damaged(`truncated table ${tag}`) }
    tables.push(table)
  }
  return good(tables)
}

function contentOf(bytes: Uint8Array, { at, packed, size }: Table): Uint8Array | null {
  const raw = bytes.subarray(at, at + packed)
  if (packed === size) return raw
  try {
    const out = unzlibSync(raw, { out: new Uint8Array(size) })
    return out.length === size ? out : null
  } catch {
    return null
  }
}

/** The sum of a table's 32-bit words modulo 2³², short of bytes filled with zeros; of `head`, without its adjustment. */
function tableCheck(content: Uint8Array, isHead: boolean): number {
  let sum = 0
  for (let at = 0; at < content.length; at += 4) {
    if (isHead && at === 8) continue
    let word = 0
    for (let k = 0; k < 4; k++) word = word * 256 + (content[at + k] ?? 0)
    sum = (sum + word) % 4294967296
  }
  return sum
}

export const fontSentences: Record<string, string> = {
  'font.kind': 'not a TrueType, OpenType, WOFF or WOFF2 file',
  'font.damaged': 'damaged: {what}',
  'font.glyphs': 'glyphs cannot be rendered',
  'font.large': '{bytes} bytes (maximum {most})',
}
