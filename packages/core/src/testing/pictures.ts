import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { deflateSync } from 'node:zlib'
import { encode as encodePng } from 'fast-png'
import { GifWriter } from 'omggif'
import jpegFactory from '@jsquash/jpeg/codec/enc/mozjpeg_enc.js'
import webpFactory from '@jsquash/webp/codec/enc/webp_enc.js'
import { defaultOptions as jpegOptions } from '@jsquash/jpeg/meta.js'
import { defaultOptions as webpOptions } from '@jsquash/webp/meta.js'
import { turnedAs, type PictureFormat, type Pixels } from '../artwork/index.ts'

/** A picture file, and the pixels that it holds, each channel within so much. */
export interface TestPicture {
  name: string
  format: PictureFormat
  bytes: Uint8Array
  pixels: Pixels
  within: number
}

const here = createRequire(import.meta.url)

interface Encoder {
  encode(data: Uint8Array, width: number, height: number, options: object): Uint8Array
}
async function encoder(factory: unknown, code: string): Promise<Encoder> {
  const module = new WebAssembly.Module(readFileSync(here.resolve(code)))
  return (factory as (options: object) => Promise<Encoder>)({
    noInitialRun: true,
    instantiateWasm(imports: WebAssembly.Imports, done: (instance: WebAssembly.Instance) => void) {
      const instance = new WebAssembly.Instance(module, imports)
      done(instance)
      return instance.exports
    },
  })
}

const size = { width: 21, height: 13 }

/** A soft picture of every channel, with alpha or without. */
export function softPicture(width: number, height: number, hasAlpha = false): Pixels {
  const rgba = new Uint8Array(4 * width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      rgba.set(
        [
          Math.floor((x * 255) / Math.max(1, width - 1)),
          Math.floor((y * 255) / Math.max(1, height - 1)),
          Math.floor(((x + y) * 255) / (width + height)),
          hasAlpha ? Math.floor((x * 255) / Math.max(1, width - 1)) : 255,
        ],
        4 * (y * width + x),
      )
  return { width, height, rgba }
}

const mapped = ({ width, height, rgba }: Pixels, change: (r: number, g: number, b: number, a: number) => number[]): Pixels => {
  const out = new Uint8Array(rgba.length)
  for (let at = 0; at < rgba.length; at += 4) out.set(change(rgba[at]!, rgba[at + 1]!, rgba[at + 2]!, rgba[at + 3]!), at)
  return { width, height, rgba: out }
}

/** A picture as a JPEG of good quality. */
export async function jpegOf({ width, height, rgba }: Pixels): Promise<Uint8Array> {
  const jpeg = await encoder(jpegFactory, '@jsquash/jpeg/codec/enc/mozjpeg_enc.wasm')
  return jpeg.encode(rgba, width, height, { ...jpegOptions, quality: 90 }).slice()
}

/** One file of each sort that is taken, of one picture, its pixels known by how it was made. */
export async function pictureSet(): Promise<TestPicture[]> {
  const opaque = softPicture(size.width, size.height)
  const clear = softPicture(size.width, size.height, true)
  const [jpeg, webp] = await Promise.all([
    encoder(jpegFactory, '@jsquash/jpeg/codec/enc/mozjpeg_enc.wasm'),
    encoder(webpFactory, '@jsquash/webp/codec/enc/webp_enc.wasm'),
  ])
  const plainJpeg = jpeg
    .encode(opaque.rgba, size.width, size.height, { ...jpegOptions, quality: 98, auto_subsample: false, chroma_subsample: 1 })
    .slice()
  const webpOf = (pixels: Pixels, lossless: number) =>
    webp.encode(pixels.rgba, size.width, size.height, { ...webpOptions, quality: 98, lossless, exact: 1 }).slice()
  const out: TestPicture[] = [
    ...pngs(opaque, clear),
    { name: 'JPEG', format: 'jpeg', bytes: plainJpeg, pixels: opaque, within: 12 },
    ...[2, 3, 4, 5, 6, 7, 8].map((turn): TestPicture => {
      return {
        name: `JPEG, turned as EXIF ${turn}`,
        format: 'jpeg',
        bytes: withTurn(plainJpeg, turn),
        pixels: turnedAs(opaque, turn),
        within: 12,
      }
    }),
    { name: 'WebP, lossless, with alpha', format: 'webp', bytes: webpOf(clear, 1), pixels: clear, within: 0 },
    { name: 'WebP', format: 'webp', bytes: webpOf(opaque, 0), pixels: opaque, within: 40 },
    gifOf(opaque),
    ...bmps(opaque, clear),
  ]
  return out
}

function pngs(opaque: Pixels, clear: Pixels): TestPicture[] {
  const { width, height } = opaque
  const png = (name: string, pixels: Pixels, bytes: Uint8Array, within = 0): TestPicture => ({
    name: `PNG, ${name}`,
    format: 'png',
    bytes,
    pixels,
    within,
  })
  const channels = (pixels: Pixels, keep: number[]) => {
    const data = new Uint8Array(width * height * keep.length)
    for (let i = 0; i < width * height; i++) keep.forEach((k, n) => (data[i * keep.length + n] = pixels.rgba[4 * i + k]!))
    return data
  }
  const grey = mapped(opaque, (r) => [r, r, r, 255])
  const greyClear = mapped(clear, (r, _g, _b, a) => [r, r, r, a])
  const wide = (data: Uint8Array) => Uint16Array.from(data, (v) => v * 257)
  const few = (bits: number): TestPicture => {
    const most = (1 << bits) - 1
    const level = (r: number) => Math.round((r * most) / 255)
    const rows = new Uint8Array(height * (1 + Math.ceil((width * bits) / 8)))
    const stride = rows.length / height
    const pixels = mapped(
      opaque,
      (r) =>
        Array(3)
          .fill(Math.floor((level(r) * 255) / most + 0.5))
          .concat(255) as number[],
    )
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const bit = x * bits
        rows[y * stride + 1 + (bit >> 3)]! |= level(opaque.rgba[4 * (y * width + x)]!) << (8 - bits - (bit & 7))
      }
    return png(`${bits} ${bits === 1 ? 'bit' : 'bits'}, grey`, pixels, pngOf(width, height, bits, 0, rows))
  }
  const palette = (bits: number): TestPicture => {
    const count = 1 << bits
    const index = (x: number, y: number) => (x * 3 + y) % count
    const colours = Array.from({ length: count }, (_, k) => [(k * 37) % 256, (k * 91) % 256, (k * 53) % 256, k === 0 ? 0 : 255])
    const stride = 1 + Math.ceil((width * bits) / 8)
    const rows = new Uint8Array(height * stride)
    const rgba = new Uint8Array(4 * width * height)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const bit = x * bits
        rows[y * stride + 1 + (bit >> 3)]! |= index(x, y) << (8 - bits - (bit & 7))
        rgba.set(colours[index(x, y)]!, 4 * (y * width + x))
      }
    const plte = chunk('PLTE', Uint8Array.from(colours.flatMap((c) => c.slice(0, 3))))
    const bytes = pngOf(width, height, bits, 3, rows, [plte, chunk('tRNS', Uint8Array.of(0))])
    return png(`a palette of ${count}`, { width, height, rgba }, bytes)
  }
  const keyed = mapped(opaque, (r, g, b) => [r, g, b, r === 0 && g === 0 && b === 0 ? 0 : 255])
  const rgbRows = new Uint8Array(height * (1 + 3 * width))
  for (let y = 0; y < height; y++)
    rgbRows.set(channels(opaque, [0, 1, 2]).subarray(3 * width * y, 3 * width * (y + 1)), y * (1 + 3 * width) + 1)
  return [
    png('8 bits, red green blue', opaque, encodePng({ width, height, channels: 3, data: channels(opaque, [0, 1, 2]) })),
    png('8 bits, alpha', clear, encodePng({ width, height, channels: 4, data: clear.rgba })),
    png('8 bits, grey', grey, encodePng({ width, height, channels: 1, data: channels(opaque, [0]) })),
    png('8 bits, grey with alpha', greyClear, encodePng({ width, height, channels: 2, data: channels(clear, [0, 3]) })),
    png(
      '16 bits, red green blue',
      opaque,
      encodePng({ width, height, channels: 3, depth: 16, data: wide(channels(opaque, [0, 1, 2])) }),
    ),
    png('16 bits, alpha', clear, encodePng({ width, height, channels: 4, depth: 16, data: wide(clear.rgba) })),
    png('one colour means nothing', keyed, pngOf(width, height, 8, 2, rgbRows, [chunk('tRNS', new Uint8Array(6))])),
    png('interlaced', opaque, interlaced(opaque)),
    ...[1, 2, 4].map(few),
    ...[1, 2, 4, 8].map(palette),
  ]
}

/** A chunk of a PNG: length, type, content, CRC-32. */
/** A chunk of a PNG: length, type, content, CRC-32. */
export function chunk(type: string, content: Uint8Array): Uint8Array {
  const out = new Uint8Array(12 + content.length)
  const view = new DataView(out.buffer)
  view.setUint32(0, content.length)
  out.set(
    [...type].map((c) => c.charCodeAt(0)),
    4,
  )
  out.set(content, 8)
  let c = 0xffffffff
  for (const byte of out.subarray(4, 8 + content.length)) {
    c ^= byte
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
  }
  view.setUint32(8 + content.length, (c ^ 0xffffffff) >>> 0)
  return out
}

function pngOf(
  width: number,
  height: number,
  depth: number,
  type: number,
  rows: Uint8Array,
  more: Uint8Array[] = [],
  interlace = 0,
): Uint8Array {
  const head = new Uint8Array(13)
  const view = new DataView(head.buffer)
  view.setUint32(0, width)
  view.setUint32(4, height)
  head.set([depth, type, 0, 0, interlace], 8)
  const parts = [
    Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a),
    chunk('IHDR', head),
    ...more,
    chunk('IDAT', deflateSync(rows)),
    chunk('IEND', new Uint8Array()),
  ]
  return new Uint8Array(Buffer.concat(parts))
}

function interlaced({ width, height, rgba }: Pixels): Uint8Array {
  const out: number[] = []
  for (const [x0, y0, dx, dy] of [
    [0, 0, 8, 8],
    [4, 0, 8, 8],
    [0, 4, 4, 8],
    [2, 0, 4, 4],
    [0, 2, 2, 4],
    [1, 0, 2, 2],
    [0, 1, 1, 2],
  ] as const)
    // prettier-ignore
    for (let y = y0; y < height && x0 < width; y += dy) {
      out.push(0)
      for (let x = x0; x < width; x += dx) out.push(...rgba.subarray(4 * (y * width + x), 4 * (y * width + x) + 4))
    }
  return pngOf(width, height, 8, 6, Uint8Array.from(out), [], 1)
}

/** A JPEG with an APP1 segment that says how it is turned. */
function withTurn(jpeg: Uint8Array, turn: number): Uint8Array {
  const tiff = Uint8Array.of(0x4d, 0x4d, 0, 42, 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, turn, 0, 0, 0, 0, 0, 0)
  const content = Uint8Array.of(...[...'Exif\0\0'].map((c) => c.charCodeAt(0)), ...tiff)
  const segment = Uint8Array.of(0xff, 0xe1, 0, content.length + 2, ...content)
  return Uint8Array.of(...jpeg.subarray(0, 2), ...segment, ...jpeg.subarray(2))
}

function gifOf({ width, height, rgba }: Pixels): TestPicture {
  const levels = [0, 85, 170, 255]
  const near = (v: number) => Math.round(v / 85)
  const palette = Array.from({ length: 64 }, (_, k) => (levels[k >> 4]! << 16) | (levels[(k >> 2) & 3]! << 8) | levels[k & 3]!)
  const indexes = Array.from({ length: width * height }, (_, i) => {
    const at = 4 * i
    return (near(rgba[at]!) << 4) | (near(rgba[at + 1]!) << 2) | near(rgba[at + 2]!)
  })
  const buffer: number[] = []
  const writer = new GifWriter(buffer as unknown as Buffer, width, height, { palette })
  writer.addFrame(0, 0, width, height, indexes)
  const end = writer.end()
  const pixels = mapped({ width, height, rgba }, (r, g, b) => [near(r) * 85, near(g) * 85, near(b) * 85, 255])
  return { name: 'GIF', format: 'gif', bytes: Uint8Array.from(buffer.slice(0, end)), pixels, within: 0 }
}

function bmps(opaque: Pixels, clear: Pixels): TestPicture[] {
  const { width, height } = opaque
  const of = (
    name: string,
    pixels: Pixels,
    bits: number,
    put: (view: DataView, at: number, x: number, y: number) => void,
    palette: number[] = [],
    masks: number[] = [],
    down = false,
  ): TestPicture => {
    const stride = 4 * Math.ceil((width * bits) / 32)
    const size = masks.length ? 56 : 40
    const from = 14 + size + palette.length
    const bytes = new Uint8Array(from + stride * height)
    const view = new DataView(bytes.buffer)
    bytes.set([0x42, 0x4d])
    view.setUint32(2, bytes.length, true)
    view.setUint32(10, from, true)
    view.setUint32(14, size, true)
    view.setInt32(18, width, true)
    view.setInt32(22, down ? -height : height, true)
    view.setUint16(26, 1, true)
    view.setUint16(28, bits, true)
    view.setUint32(30, masks.length ? 3 : 0, true)
    view.setUint32(46, palette.length / 4, true)
    masks.forEach((mask, k) => view.setUint32(54 + 4 * k, mask, true))
    bytes.set(palette, 14 + size)
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) put(view, from + stride * (down ? y : height - 1 - y), x, y)
    return { name: `BMP, ${name}`, format: 'bmp', bytes, pixels, within: 0 }
  }
  const channel = (pixels: Pixels, x: number, y: number, k: number) => pixels.rgba[4 * (y * width + x) + k]!
  const scaled = (v: number, most: number) => Math.floor((Math.round((v * most) / 255) * 255) / most + 0.5)
  const plain = mapped(opaque, (r, g, b) => [scaled(r, 31), scaled(g, 31), scaled(b, 31), 255])
  const four = [[0, 0, 0], [255, 0, 0], [0, 255, 0], [0, 0, 255]] // prettier-ignore
  const index = (x: number, y: number) => (x + y) % 4
  const painted: Pixels = { width, height, rgba: Uint8Array.from(Array.from({ length: width * height }, (_, i) => [...four[index(i % width, Math.floor(i / width))]!, 255]).flat()) } // prettier-ignore
  return [
    of('24 bits', opaque, 24, (view, row, x, y) =>
      [2, 1, 0].forEach((k, n) => view.setUint8(row + 3 * x + n, channel(opaque, x, y, k))),
    ),
    of(
      '24 bits, from the top',
      opaque,
      24,
      (view, row, x, y) => [2, 1, 0].forEach((k, n) => view.setUint8(row + 3 * x + n, channel(opaque, x, y, k))),
      [],
      [],
      true,
    ),
    of(
      '32 bits, with alpha',
      clear,
      32,
      (view, row, x, y) => [2, 1, 0, 3].forEach((k, n) => view.setUint8(row + 4 * x + n, channel(clear, x, y, k))),
      [],
      [0xff0000, 0xff00, 0xff, 0xff000000],
    ),
    of('16 bits', plain, 16, (view, row, x, y) => {
      const [r, g, b] = [0, 1, 2].map((k) => Math.round((channel(opaque, x, y, k) * 31) / 255)) as [number, number, number]
      view.setUint16(row + 2 * x, (r << 10) | (g << 5) | b, true)
    }),
    of(
      '4 bits',
      painted,
      4,
      (view, row, x, y) => view.setUint8(row + (x >> 1), view.getUint8(row + (x >> 1)) | (index(x, y) << (x & 1 ? 0 : 4))),
      four.flatMap(([r, g, b]) => [b!, g!, r!, 0]),
    ),
  ]
}
