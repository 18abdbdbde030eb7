import { unzlibSync } from 'fflate'
import { isSvg, walkSvg } from './svg.ts'
import { bad, checksumFunction, good, type Result } from '../base/index.ts'

/** Bytes of a picture file, pixels in it, and pixels along one side, at most. */
export const mostPictureBytes = 20 * 1024 * 1024
export const mostPixels = 16 * 1024 * 1024
export const mostSide = 16_384

export const pictureFormats = ['png', 'jpeg', 'gif', 'bmp', 'webp', 'svg'] as const
export type PictureFormat = (typeof pictureFormats)[number]

/** Facts of the head of a picture file, once its whole has been walked. */
export interface PictureInfo {
  format: PictureFormat
  /** As it is meant to be seen: after `turn`. */
  width: number
  height: number
  /** How the stored rows and columns are to be turned, as in EXIF 2.32 tag 0x0112: 1 as they are, 2–8 mirrored or turned. */
  turn: number
  /** Pictures in the file: of an animation the first counts. */
  count: number
}

/** Format of a file by its signature; null where it is unknown. */
export function pictureFormat(bytes: Uint8Array): PictureFormat | null {
  const starts = (at: number, ...values: number[]) => values.every((value, k) => bytes[at + k] === value)
  if (starts(0, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png'
  if (starts(0, 0xff, 0xd8, 0xff)) return 'jpeg'
  if (starts(0, 0x47, 0x49, 0x46, 0x38) && (bytes[4] === 0x37 || bytes[4] === 0x39) && bytes[5] === 0x61) return 'gif'
  if (starts(0, 0x42, 0x4d) && bytes.length > 26) return 'bmp'
  if (starts(0, 0x52, 0x49, 0x46, 0x46) && starts(8, 0x57, 0x45, 0x42, 0x50)) return 'webp'
  if (isSvg(bytes)) return 'svg'
  return null
}

const damaged = (what: string) => bad('picture.damaged', { what })
const cut = (what = 'truncated') => damaged(what)

/**
 * Walks a picture file before any decoder reads it: signature, sizes, segments with their lengths and check values, its
 * end. Nothing is set aside for a picture that says it is too large. Problems: `picture.kind`, `picture.empty`,
 * `picture.large` (bytes, most), `picture.size` (width, height, side, pixels), `picture.damaged` (what), `picture.sort`
 * (what): a sort of its format that is not taken; `picture.drawing` (what).
 */
export function lookIntoPicture(bytes: Uint8Array): Result<PictureInfo> {
  if (!bytes.length) return bad('picture.empty')
  if (bytes.length > mostPictureBytes) return bad('picture.large', { bytes: bytes.length, most: mostPictureBytes })
  const format = pictureFormat(bytes)
  if (!format) return bad('picture.kind')
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const found = walks[format](bytes, view)
  if (!found.ok) return found
  const { turn, count } = found.value
  const [width, height] = turn > 4 ? [found.value.height, found.value.width] : [found.value.width, found.value.height]
  if (!width || !height) return damaged('no pixels')
  return good({ format, width, height, turn, count })
}

type Found = Pick<PictureInfo, 'width' | 'height' | 'turn' | 'count'>
type Walk = (bytes: Uint8Array, view: DataView) => Result<Found>

/** Problem where the sizes are too large: looked at before anything of that size is made. */
const tooLarge = (width: number, height: number) =>
  width > mostSide || height > mostSide || width * height > mostPixels
    ? bad('picture.size', { width, height, side: mostSide, pixels: mostPixels })
    : null

const crc32 = checksumFunction('crc-32')

/** Passes of an interlaced picture: first column and row, steps (PNG 3, section 8.2). */
const passes = [
  [0, 0, 8, 8],
  [4, 0, 8, 8],
  [0, 4, 4, 8],
  [2, 0, 4, 4],
  [0, 2, 2, 4],
  [1, 0, 2, 2],
  [0, 1, 1, 2],
] as const

/** Bytes of the rows of a PNG, each with its filter byte. */
function rowBytes(width: number, height: number, bits: number, interlaced: boolean): number {
  const rows = (w: number, h: number) => (w && h ? h * (1 + Math.ceil((w * bits) / 8)) : 0)
  if (!interlaced) return rows(width, height)
  return passes.reduce((sum, [x, y, dx, dy]) => sum + rows(Math.ceil((width - x) / dx), Math.ceil((height - y) / dy)), 0)
}

const channelsOfType: Record<number, { channels: number; depths: readonly number[] }> = {
  0: { channels: 1, depths: [1, 2, 4, 8, 16] },
  2: { channels: 3, depths: [8, 16] },
  3: { channels: 1, depths: [1, 2, 4, 8] },
  4: { channels: 2, depths: [8, 16] },
  6: { channels: 4, depths: [8, 16] },
}

/** PNG (third edition): chunks of length, type, content, CRC-32; all numbers most significant byte first. */
const png: Walk = (bytes, view) => {
  let head: { width: number; height: number; bits: number; depth: number; type: number; interlaced: boolean } | null = null
  const packed: Uint8Array[] = []
  let palette = 0
  for (let at = 8; ;) {
    if (at + 12 > bytes.length) return cut('missing end marker')
    const length = view.getUint32(at)
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8))
    const end = at + 8 + length
    if (end + 4 > bytes.length) return cut(`truncated in ${nameOfChunk(type)}`)
    if (crc32(bytes, at + 4, end) !== view.getUint32(end)) return damaged(`${nameOfChunk(type)} checksum error`)
    if (!head) {
      if (type !== 'IHDR' || length !== 13) return damaged('missing header')
      const [width, height] = [view.getUint32(at + 8), view.getUint32(at + 12)]
      const [depth, colour, method, filter, interlace] = bytes.subarray(at + 16, at + 21) as unknown as number[]
      const known = channelsOfType[colour!]
      if (!known?.depths.includes(depth!) || method !== 0 || filter !== 0 || interlace! > 1) return damaged('invalid header')
      if (!width || !height) return damaged('no pixels')
      const large = tooLarge(width, height)
      if (large) return large
      head = { width, height, bits: depth! * known.channels, depth: depth!, type: colour!, interlaced: interlace === 1 }
    } else if (type === 'PLTE') {
      if (length % 3 || length > 768 || !length) return damaged('invalid palette')
      palette = length / 3
    } else if (type === 'IDAT') packed.push(bytes.subarray(at + 8, end))
    else if (type === 'IEND') break
    else if (type.charCodeAt(0) < 97 && type !== 'IHDR') return damaged(`unknown critical chunk ${nameOfChunk(type)}`)
    at = end + 4
  }
  if (head.type === 3 && !palette) return damaged('no palette')
  if (!packed.length) return damaged('no pixels')
  const expected = rowBytes(head.width, head.height, head.bits, head.interlaced)
  const rows = inflated(joined(packed), expected)
  if (!rows) return damaged('pixel data does not decompress to the size in the header')
  return good({ width: head.width, height: head.height, turn: 1, count: 1 })
}

const nameOfChunk = (type: string): string => (/^[A-Za-z]{4}$/.test(type) ? type : 'of an invalid name')

function joined(parts: readonly Uint8Array[]): Uint8Array {
  if (parts.length === 1) return parts[0]!
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out
}

/** Unpacked zlib data of exactly so many bytes: nothing more is ever set aside. RFC 1950. */
function inflated(packed: Uint8Array, size: number): Uint8Array | null {
  try {
    // Room for one byte more, so that more than there should be is seen.
    const out = unzlibSync(packed, { out: new Uint8Array(size + 1) })
    return out.length === size ? out : null
  } catch {
    return null
  }
}

/** JPEG (ITU-T T.81): markers with lengths, most significant byte first; scans go on to the next marker; EOI at the end. */
const jpeg: Walk = (bytes, view) => {
  let size: { width: number; height: number; parts: number } | null = null
  let turn = 1
  let scans = 0
  for (let at = 2; ;) {
    // A marker may be led by any number of fill bytes.
    if (bytes[at] !== 0xff) return at >= bytes.length ? cut('missing end marker') : damaged('invalid block order')
    while (bytes[at + 1] === 0xff) at++
    const marker = bytes[at + 1]
    if (marker === undefined) return cut('missing end marker')
    at += 2
    if (marker === 0xd9) break
    if (marker === 0x01 || (marker >= 0xd0 && marker <= 0xd7)) continue
    if (at + 2 > bytes.length) return cut()
    const length = view.getUint16(at)
    if (length < 2 || at + length > bytes.length) return cut('truncated segment')
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)) {
      if (marker > 0xc2) return bad('picture.sort', { what: 'unsupported JPEG coding; save it as baseline or progressive' })
      if (length < 8) return damaged('truncated header')
      if (bytes[at + 2] !== 8) return bad('picture.sort', { what: 'JPEG with more than 8 bits' })
      size = { height: view.getUint16(at + 3), width: view.getUint16(at + 5), parts: bytes[at + 7]! }
      const large = tooLarge(size.width, size.height)
      if (large) return large
      if (size.parts !== 1 && size.parts !== 3) return bad('picture.sort', { what: 'CMYK JPEG; save it in RGB' })
    }
    if (marker === 0xe1) turn = turnOf(bytes.subarray(at + 2, at + length)) ?? turn
    if (marker === 0xcc) return bad('picture.sort', { what: 'unsupported JPEG coding; save it as baseline or progressive' })
    at += length
    if (marker !== 0xda) continue
    if (!size) return damaged('pixels before the header')
    scans++
    // Coded bytes go on until a marker that is no restart and no stuffed zero.
    while (at < bytes.length && (bytes[at] !== 0xff || bytes[at + 1] === 0 || (bytes[at + 1]! >= 0xd0 && bytes[at + 1]! <= 0xd7)))
      at++
    if (at >= bytes.length) return cut('missing end marker')
  }
  if (!size?.width || !size.height || !scans) return damaged('no pixels')
  return good({ width: size.width, height: size.height, turn, count: 1 })
}

/** The orientation in an APP1 segment, where it is EXIF and says one (EXIF 2.32, 4.6.4). */
function turnOf(segment: Uint8Array): number | null {
  if (String.fromCharCode(...segment.subarray(0, 6)) !== 'Exif\0\0' || segment.length < 16) return null
  const view = new DataView(segment.buffer, segment.byteOffset + 6, segment.length - 6)
  const little = view.getUint16(0) === 0x4949
  if (!little && view.getUint16(0) !== 0x4d4d) return null
  const first = view.getUint32(4, little)
  if (first + 2 > view.byteLength) return null
  const count = view.getUint16(first, little)
  for (let k = 0; k < count; k++) {
    const at = first + 2 + 12 * k
    if (at + 12 > view.byteLength) return null
    if (view.getUint16(at, little) !== 0x0112) continue
    const turn = view.getUint16(at + 8, little)
    return turn >= 1 && turn <= 8 ? turn : null
  }
  return null
}

/** GIF 89a: the screen, then blocks of sub-blocks to the trailer; least significant byte first. */
const gif: Walk = (bytes, view) => {
  if (bytes.length < 13) return cut()
  const [width, height] = [view.getUint16(6, true), view.getUint16(8, true)]
  const large = tooLarge(width, height)
  if (large) return large
  const table = (packed: number) => (packed & 0x80 ? 3 * (2 << (packed & 7)) : 0)
  let at = 13 + table(bytes[10]!)
  let count = 0
  const subBlocks = () => {
    while (at < bytes.length && bytes[at] !== 0) at += bytes[at]! + 1
    at++
    return at <= bytes.length
  }
  for (;;) {
    const kind = bytes[at++]
    if (kind === 0x3b) break
    if (kind === 0x21) {
      at++
      if (!subBlocks()) return cut('truncated extension')
    } else if (kind === 0x2c) {
      if (at + 9 > bytes.length) return cut()
      const [x, y, w, h] = [0, 2, 4, 6].map((k) => view.getUint16(at + k, true)) as [number, number, number, number]
      if (!w || !h || x + w > width || y + h > height) return damaged('frame outside the image')
      const own = table(bytes[at + 8]!)
      if (!own && !table(bytes[10]!)) return damaged('no palette')
      at += 10 + own
      // Bits of the first codes: a palette has 2 to 256 colours, and one of two is coded as one of four.
      if (bytes[at - 1]! < 2 || bytes[at - 1]! > 8) return damaged('invalid pixel data')
      if (!subBlocks()) return cut('truncated pixel data')
      count++
    } else return kind === undefined ? cut('missing end marker') : damaged('invalid block order')
  }
  return count ? good({ width, height, turn: 1, count }) : damaged('no pixels')
}

/** BMP: a file head of 14 bytes, an information head of 12, 40 or more, a palette, rows of pixels; least significant byte first. */
const bmp: Walk = (bytes, view) => {
  const head = bmpHead(bytes, view)
  if (!head.ok) return head
  const { width, height } = head.value
  return good({ width, height, turn: 1, count: 1 })
}

export interface BmpHead {
  width: number
  height: number
  /** Rows stand from the bottom up. */
  upwards: boolean
  bits: number
  /** Where pixels begin, and bytes from row to row. */
  from: number
  stride: number
  /** Where the palette begins, how many colours it has, bytes to each. */
  palette: { from: number; count: number; each: number }
  /** Which bits are red, green, blue and alpha, where they say so. */
  masks: readonly [number, number, number, number]
}

/** The heads of a BMP. Problems as of `lookIntoPicture`. */
export function bmpHead(bytes: Uint8Array, view: DataView): Result<BmpHead> {
  const size = bytes.length >= 18 ? view.getUint32(14, true) : 0
  if (size !== 12 && (size < 40 || size > 200)) return bad('picture.sort', { what: 'unsupported BMP header' })
  if (14 + size > bytes.length) return cut('truncated header')
  const old = size === 12
  const width = old ? view.getUint16(18, true) : view.getInt32(18, true)
  const tall = old ? view.getUint16(20, true) : view.getInt32(22, true)
  const bits = old ? view.getUint16(24, true) : view.getUint16(28, true)
  const packing = old ? 0 : view.getUint32(30, true)
  const height = Math.abs(tall)
  if (width <= 0 || !height) return damaged('no pixels')
  const large = tooLarge(width, height)
  if (large) return large
  if (![1, 4, 8, 16, 24, 32].includes(bits)) return damaged('invalid header')
  if (packing !== 0 && packing !== 3 && packing !== 6)
    return bad('picture.sort', { what: 'compressed BMP; save it uncompressed, or as PNG' })
  const from = view.getUint32(10, true)
  const stride = 4 * Math.ceil((width * bits) / 32)
  if (from < 14 + size || from + stride * height > bytes.length) return cut('truncated pixel data')
  const each = old ? 3 : 4
  const said = old ? 0 : view.getUint32(46, true)
  const after = 14 + size + (packing && size === 40 ? 12 : 0)
  const count = bits > 8 ? 0 : Math.min(said || 1 << bits, 1 << bits, Math.floor((from - after) / each))
  if (bits <= 8 && count < 1) return damaged('no palette')
  const mask = (k: number) =>
    14 + size >= 54 + 4 * k + 4 || (packing && size === 40 && k < 3) ? view.getUint32(54 + 4 * k, true) : 0
  const plain = bits === 16 ? [0x7c00, 0x03e0, 0x001f, 0] : [0xff0000, 0xff00, 0xff, 0]
  const masks = (packing ? [0, 1, 2, 3].map(mask) : plain) as unknown as BmpHead['masks']
  return good({ width, height, upwards: tall > 0, bits, from, stride, palette: { from: after, count, each }, masks })
}

/** WebP (RFC 9649): a RIFF of chunks, least significant byte first, padded to even lengths. */
const webp: Walk = (bytes, view) => {
  const end = bytes.length >= 12 ? 8 + view.getUint32(4, true) : 0
  if (end < 20 || end > bytes.length) return cut('length mismatch')
  let size: { width: number; height: number } | null = null
  let pixels = false
  for (let at = 12; at < end;) {
    if (at + 8 > end) return cut()
    const type = String.fromCharCode(...bytes.subarray(at, at + 4))
    const length = view.getUint32(at + 4, true)
    const from = at + 8
    if (from + length > end) return cut('truncated segment')
    if (type === 'ANIM' || type === 'ANMF') return bad('picture.sort', { what: 'animation; save one frame of it' })
    if (type === 'VP8X' && length >= 10) size = { width: 1 + uint24(bytes, from + 4), height: 1 + uint24(bytes, from + 7) }
    if (type === 'VP8 ') {
      if (length < 10 || bytes[from + 3] !== 0x9d || bytes[from + 4] !== 0x01 || bytes[from + 5] !== 0x2a)
        return damaged('invalid pixel data')
      size ??= { width: view.getUint16(from + 6, true) & 0x3fff, height: view.getUint16(from + 8, true) & 0x3fff }
      pixels = true
    }
    if (type === 'VP8L') {
      if (length < 5 || bytes[from] !== 0x2f) return damaged('invalid pixel data')
      const bits = view.getUint32(from + 1, true)
      size ??= { width: 1 + (bits & 0x3fff), height: 1 + ((bits >>> 14) & 0x3fff) }
      pixels = true
    }
    at = from + length + (length & 1)
  }
  if (!size || !pixels) return damaged('no pixels')
  return tooLarge(size.width, size.height) ?? good({ ...size, turn: 1, count: 1 })
}

const uint24 = (bytes: Uint8Array, at: number): number => bytes[at]! | (bytes[at + 1]! << 8) | (bytes[at + 2]! << 16)

const svg: Walk = (bytes) => {
  const size = walkSvg(bytes)
  if (!size.ok) return size
  return tooLarge(size.value.width, size.value.height) ?? good({ ...size.value, turn: 1, count: 1 })
}

const walks: Record<PictureFormat, Walk> = { png, jpeg, gif, bmp, webp, svg }

export const pictureSentences: Record<string, string> = {
  'picture.kind': 'Unsupported format; use PNG, JPEG, WebP, GIF, BMP or SVG',
  'picture.empty': 'Empty file',
  'picture.large': 'The file has {bytes} bytes (maximum {most})',
  'picture.size': '{width} × {height} pixels; maximum {side} a side and {pixels} in all',
  'picture.damaged': 'Damaged file: {what}',
  'picture.sort': 'Not supported: {what}',
  'picture.drawing': 'SVG rejected: {what}',
}
