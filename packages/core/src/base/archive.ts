import { inflateSync } from 'fflate'
import { checksumOf } from './checksums.ts'
import { bad, good, type Result } from './result.ts'

/** A file in a ZIP, as the directory at its end says. */
export interface ArchiveEntry {
  name: string
  /** Bytes packed and unpacked. */
  packed: number
  size: number
  /** CRC-32 of the unpacked bytes. */
  check: number
  method: number
  /** Where its local header begins. */
  at: number
}

const endSignature = 0x06054b50
const entrySignature = 0x02014b50
const localSignature = 0x04034b50
/** Entries in one archive, at most. */
const mostEntries = 10_000

/**
 * The directory of a ZIP (APPNOTE 6.3.3: numbers least significant byte first, names in UTF-8), without unpacking anything.
 * No ZIP64, no encryption. Problem: `file.zip` (message).
 */
export function readArchive(bytes: Uint8Array): Result<Map<string, ArchiveEntry>> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const wrong = (message: string) => bad('file.zip', { message })
  let end = bytes.length - 22
  for (const lowest = Math.max(0, end - 0xffff); end >= lowest; end--) if (view.getUint32(end, true) === endSignature) break
  if (end < 0 || view.getUint32(end, true) !== endSignature) return wrong('no directory')
  const count = view.getUint16(end + 10, true)
  let at = view.getUint32(end + 16, true)
  if (count > mostEntries) return wrong(`${count} files (maximum ${mostEntries})`)
  const entries = new Map<string, ArchiveEntry>()
  for (let n = 0; n < count; n++) {
    if (at + 46 > end || view.getUint32(at, true) !== entrySignature) return wrong('damaged directory')
    const [nameSize, extraSize, commentSize] = [28, 30, 32].map((k) => view.getUint16(at + k, true)) as [number, number, number]
    if (at + 46 + nameSize > end) return wrong('damaged directory')
    if (view.getUint16(at + 8, true) & 1) return wrong('encrypted')
    const name = latin(bytes.subarray(at + 46, at + 46 + nameSize))
    if (entries.has(name)) return wrong(`two files are called ${name.slice(0, 80)}`)
    entries.set(name, {
      name,
      packed: view.getUint32(at + 20, true),
      size: view.getUint32(at + 24, true),
      check: view.getUint32(at + 16, true),
      method: view.getUint16(at + 10, true),
      at: view.getUint32(at + 42, true),
    })
    at += 46 + nameSize + extraSize + commentSize
  }
  return good(entries)
}

const latin = (bytes: Uint8Array): string => Array.from(bytes, (b) => String.fromCharCode(b)).join('')

/**
 * One file of a ZIP. At most `most` bytes are set aside for it, whatever it says of itself, and what comes out has the
 * size and the check value that the directory gives. Problems: `file.large` (bytes, most), `file.zip` (message).
 */
export function unpackEntry(bytes: Uint8Array, entry: ArchiveEntry, most: number): Result<Uint8Array> {
  const wrong = (message: string) => bad('file.zip', { message: `${entry.name.slice(0, 80)}: ${message}` })
  if (entry.size > most) return bad('file.large', { bytes: entry.size, most })
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (entry.at + 30 > bytes.length || view.getUint32(entry.at, true) !== localSignature) return wrong('invalid offset')
  const from = entry.at + 30 + view.getUint16(entry.at + 26, true) + view.getUint16(entry.at + 28, true)
  if (from + entry.packed > bytes.length) return wrong('truncated')
  const packed = bytes.subarray(from, from + entry.packed)
  let out: Uint8Array
  if (entry.method === 0) out = packed.slice()
  else if (entry.method === 8) {
    try {
      out = inflateSync(packed, { out: new Uint8Array(entry.size) })
    } catch (error) {
      return wrong(error instanceof Error ? error.message : 'decompression failed')
    }
  } else return wrong('unsupported compression')
  if (out.length !== entry.size || checksumOf('crc-32', out) !== entry.check) return wrong('checksum mismatch')
  return good(out)
}
