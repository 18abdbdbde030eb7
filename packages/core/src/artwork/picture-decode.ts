import { decode as decodePng } from 'fast-png'
import { bad, good, joinBytes, type Result } from '../base/index.ts'
import { decodeGif } from './gif.ts'
import type { Pixels } from './pixels.ts'
import { bmpHead, lookIntoPicture, mostPixels, mostSide, type BmpHead, type PictureInfo } from './picture-file.ts'

/** Decoders that are made elsewhere; each throws where it cannot. `turn` of a JPEG is left to us. */
export interface PictureCodecs {
  jpeg(bytes: Uint8Array): Pixels
  webp(bytes: Uint8Array): Pixels
  /** A drawing in SVG, so many pixels wide. */
  svg(bytes: Uint8Array, width: number): Pixels
}

/** Whether anything can be seen through a picture. */
export function seesThrough({ rgba }: Pixels): boolean {
  for (let at = 3; at < rgba.length; at += 4) if (rgba[at]! < 255) return true
  return false
}

/**
 * The pixels of a picture file, the same bytes in Node and in a browser, turned as its camera says. Problems: those of
 * `lookIntoPicture`, and `picture.damaged` (what) where a decoder finds it to be. `zoom`: how many pixels a drawing in SVG has to one of
 * its own; whatever has pixels keeps them.
 */
export function decodePicture(bytes: Uint8Array, codecs: PictureCodecs, zoom = 1): Result<Pixels & { info: PictureInfo }> {
  const info = lookIntoPicture(bytes)
  if (!info.ok) return info
  let pixels: Pixels
  try {
    if (info.value.format === 'svg') return good({ ...drawnAt(bytes, info.value, codecs, zoom), info: info.value })
    pixels = decoders[info.value.format](bytes, codecs)
  } catch (error) {
    return bad('picture.damaged', { what: (error instanceof Error ? error.message : 'decoding failed').slice(0, 120) })
  }
  const { width, height, rgba } = pixels
  if (width * height > mostPixels || rgba.length !== 4 * width * height)
    return bad('picture.damaged', { what: 'pixel count does not match the header' })
  const turned = turnedAs(pixels, info.value.turn)
  if (turned.width !== info.value.width || turned.height !== info.value.height)
    return bad('picture.damaged', { what: 'size does not match the header' })
  return good({ ...turned, info: info.value })
}

/** A row of samples of 1, 2, 4, 8 or 16 bits as numbers, most significant first (PNG 3, section 7.2). */
function unpacked(data: ArrayLike<number>, count: number, rows: number, depth: number): ArrayLike<number> {
  if (depth >= 8) return data
  const out = new Uint8Array(count * rows)
  const stride = Math.ceil((count * depth) / 8)
  const most = (1 << depth) - 1
  for (let row = 0; row < rows; row++)
    for (let k = 0; k < count; k++) {
      const bit = k * depth
      out[row * count + k] = (data[row * stride + (bit >> 3)]! >> (8 - depth - (bit & 7))) & most
    }
  return out
}

/** The chunks that pixels are made of. All others are left out: a profile or a text may unpack to far more than the picture. */
const pixelChunks = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND'])

/** A PNG with its signature and the chunks of its pixels alone (PNG 3, section 5). */
function pixelsOnly(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const parts = [bytes.subarray(0, 8)]
  for (let at = 8; at + 12 <= bytes.length;) {
    const end = at + 12 + view.getUint32(at)
    if (end > bytes.length) break
    if (pixelChunks.has(String.fromCharCode(...bytes.subarray(at + 4, at + 8)))) parts.push(bytes.subarray(at, end))
    at = end
  }
  return joinBytes(parts)
}

function png(bytes: Uint8Array): Pixels {
  const { width, height, data, depth, channels, palette, transparency } = decodePng(pixelsOnly(bytes))
  const samples = unpacked(data, width * channels, height, depth)
  const rgba = new Uint8Array(4 * width * height)
  const most = depth === 16 ? 65_535 : (1 << depth) - 1
  const scaled = (v: number) => (depth === 8 ? v : Math.floor((v * 255) / most + 0.5))
  const clear = transparency && transparency.length >= (channels === 3 ? 3 : 1) ? transparency : null
  for (let i = 0, at = 0; i < width * height; i++, at += channels) {
    const to = 4 * i
    const first = samples[at]!
    if (palette) {
      const colour = palette[first]
      if (!colour) throw new Error('palette index out of range')
      rgba[to] = colour[0]!
      rgba[to + 1] = colour[1]!
      rgba[to + 2] = colour[2]!
      rgba[to + 3] = colour[3] ?? 255
      continue
    }
    if (channels > 2) {
      rgba[to] = scaled(first)
      rgba[to + 1] = scaled(samples[at + 1]!)
      rgba[to + 2] = scaled(samples[at + 2]!)
      const isClear =
        clear && channels === 3 && clear[0] === first && clear[1] === samples[at + 1] && clear[2] === samples[at + 2]
      rgba[to + 3] = channels === 4 ? scaled(samples[at + 3]!) : isClear ? 0 : 255
      continue
    }
    rgba[to] = rgba[to + 1] = rgba[to + 2] = scaled(first)
    rgba[to + 3] = channels === 2 ? scaled(samples[at + 1]!) : clear?.[0] === first ? 0 : 255
  }
  return { width, height, rgba }
}

/** How far a mask stands from the lowest bit, and the greatest value it holds. */
const shiftOf = (mask: number): { shift: number; most: number } => {
  if (!mask) return { shift: 0, most: 0 }
  let shift = 0
  while (!((mask >>> shift) & 1)) shift++
  return { shift, most: mask >>> shift }
}

function bmp(bytes: Uint8Array): Pixels {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const head = bmpHead(bytes, view)
  if (!head.ok) throw new Error('unreadable header')
  const { width, height, upwards, stride, from, bits } = head.value
  const rgba = new Uint8Array(4 * width * height)
  const put = bits <= 8 ? fromPalette(bytes, head.value) : fromBits(view, head.value)
  for (let y = 0; y < height; y++) {
    const row = from + stride * (upwards ? height - 1 - y : y)
    for (let x = 0; x < width; x++) put(row, x, rgba, 4 * (y * width + x))
  }
  // Many programs leave the fourth byte zero and mean it to be nothing.
  if (bits === 32 && rgba.every((value, i) => (i & 3) !== 3 || value === 0))
    for (let i = 3; i < rgba.length; i += 4) rgba[i] = 255
  return { width, height, rgba }
}

type Put = (row: number, x: number, rgba: Uint8Array, to: number) => void

function fromPalette(bytes: Uint8Array, { bits, palette }: BmpHead): Put {
  return (row, x, rgba, to) => {
    const bit = x * bits
    const index = (bytes[row + (bit >> 3)]! >> (8 - bits - (bit & 7))) & ((1 << bits) - 1)
    if (index >= palette.count) throw new Error('palette index out of range')
    const at = palette.from + index * palette.each
    rgba[to] = bytes[at + 2]!
    rgba[to + 1] = bytes[at + 1]!
    rgba[to + 2] = bytes[at]!
    rgba[to + 3] = 255
  }
}

function fromBits(view: DataView, { bits, masks }: BmpHead): Put {
  const parts = masks.map((mask) => ({ mask, ...shiftOf(mask) }))
  return (row, x, rgba, to) => {
    const value =
      bits === 16
        ? view.getUint16(row + 2 * x, true)
        : bits === 32
          ? view.getUint32(row + 4 * x, true)
          : view.getUint16(row + 3 * x, true) | (view.getUint8(row + 3 * x + 2) << 16)
    parts.forEach(({ mask, shift, most }, k) => {
      rgba[to + k] = most ? Math.floor((((value & mask) >>> shift) * 255) / most + 0.5) : k === 3 ? 255 : 0
    })
  }
}

/** A drawing so many times as large as it says, but no larger than a picture may be; exactly as large as that comes to. */
function drawnAt(bytes: Uint8Array, { width, height }: PictureInfo, codecs: PictureCodecs, zoom: number): Pixels {
  const most = Math.min(mostSide / Math.max(width, height), Math.sqrt(mostPixels / (width * height)))
  const scale = Math.min(zoom, most)
  const size = { width: Math.max(1, Math.floor(width * scale)), height: Math.max(1, Math.floor(height * scale)) }
  const drawn = codecs.svg(bytes, size.width)
  if (drawn.width === size.width && drawn.height === size.height) return drawn
  const rgba = new Uint8Array(4 * size.width * size.height)
  const across = Math.min(drawn.width, size.width)
  for (let y = 0; y < Math.min(drawn.height, size.height); y++)
    rgba.set(drawn.rgba.subarray(4 * y * drawn.width, 4 * (y * drawn.width + across)), 4 * y * size.width)
  return { ...size, rgba }
}

const decoders: Record<Exclude<PictureInfo['format'], 'svg'>, (bytes: Uint8Array, codecs: PictureCodecs) => Pixels> = {
  png,
  gif: decodeGif,
  bmp,
  jpeg: (bytes, codecs) => codecs.jpeg(bytes),
  webp: (bytes, codecs) => codecs.webp(bytes),
}

/** The picture turned or mirrored as EXIF numbers it: 3 by 180°, 6 by 90° to the right, 8 to the left; 2, 4, 5, 7 mirrored. */
export function turnedAs(pixels: Pixels, turn: number): Pixels {
  if (turn <= 1) return pixels
  const { width: w, height: h } = pixels
  const [width, height] = turn > 4 ? [h, w] : [w, h]
  const from = new Uint32Array(pixels.rgba.buffer, pixels.rgba.byteOffset, w * h)
  const out = new Uint32Array(width * height)
  // Where the pixel at (x, y) of the turned picture stands in the other: start, and steps to the right and down.
  const [start, right, down] = {
    2: [w - 1, -1, w],
    3: [w * h - 1, -1, -w],
    4: [(h - 1) * w, 1, -w],
    5: [0, w, 1],
    6: [(h - 1) * w, -w, 1],
    7: [w * h - 1, -w, -1],
    8: [w - 1, w, -1],
  }[turn] as [number, number, number]
  for (let y = 0; y < height; y++)
    for (let x = 0, at = start + down * y; x < width; x++, at += right) out[y * width + x] = from[at]!
  return { width, height, rgba: new Uint8Array(out.buffer) }
}
