import { LRUCache } from 'lru-cache'
import { bad, canonicalJson, good, isProblem, sha256Hex, type Problem, type Rect, type Result } from '../base/index.ts'
import { toPanel, type PanelPicture } from './dither.ts'
import { fitPlan, fitted, prepared, type Dither, type Fitting } from './fit.ts'
import { decodePicture, type PictureCodecs } from './picture-decode.ts'
import type { Pixels } from './pixels.ts'
import { lookIntoPicture, mostPixels, pictureFormat } from './picture-file.ts'
import type { Smoothing } from '../raster/index.ts'
import { makeSheet } from './sheet.ts'
import { runBytes } from './runs.ts'
import { readTypeface, type Lettering, type Typeface } from './typeface.ts'

/** How letters are made, whichever they are. */
export interface LetterSpec {
  /** SHA-256 of the font file. */
  asset: string
  /** Pixels to the em. */
  px: number
  /** 1 to 1000; 0: as the file has it by itself. */
  weight: number
  /** Bits a pixel. */
  bits: Smoothing
  /** SHA-256 of font files that letters are taken from which the first lacks. */
  fallbacks: readonly string[]
  /** Pairs stand as the typeface wants them. */
  kerns: boolean
}

/** The letters of a typeface at a size. */
export interface LetterRequest extends LetterSpec {
  make: 'letters'
  /** The letters wanted, each once, in order of code points. */
  letters: string
}

/** A picture fitted to a size, in the colours of the glass. */
export interface PictureRequest {
  make: 'picture'
  /** SHA-256 of the original. */
  asset: string
  width: number
  height: number
  fitting: Fitting
  dither: Dither
  /** `#rrggbb` under what is transparent. */
  ground: string
  keepsAlpha: boolean
  /** Region of the picture once it is as large as this, in pixels of the glass; null: all of it. */
  cut: Rect | null
}

/** Something large that a build shows and does not make. */
export type ChunkRequest = LetterRequest | PictureRequest

export interface LetterChunk {
  header: { ascent: number; descent: number; capHeight: number }
  /** `outlines`: bytes of the outline of each letter, whatever its size, in the order of the metrics. */
  parts: { metrics: Int32Array; coverage: Uint8Array; outlines: Int32Array; kerning?: Int32Array }
  /** By which a build names its parts: their SHA-256, least significant byte first. */
  names: { metrics: string; coverage: string; kerning?: string }
}

export interface PictureChunk {
  /** `from`: what the plan was made for: the original turned and trimmed. */
  header: {
    width: number
    height: number
    from: { width: number; height: number }
    /** Bytes in runs of one colour. */
    runs: number
    /** RGB565 that every pixel has, all of them opaque; −1: they differ. */
    flat: number
    /** Pixels of one colour all around, at the narrowest side; 0 where it is flat. */
    margin: number
  }
  /** Without alpha it covers all of its place. */
  parts: { pixels: Uint16Array; alpha?: Uint8Array }
  /** As of letters; '' where there is none. */
  names: { pixels: string; alpha: string }
}

const nameOf = ({ buffer, byteOffset, byteLength }: Int32Array | Uint16Array | Uint8Array): string =>
  sha256Hex(new Uint8Array(buffer, byteOffset, byteLength))

/** A chunk: a small header, and the parts by name. */
export type Chunk = LetterChunk | PictureChunk
export type ChunkOf<R extends ChunkRequest> = R extends LetterRequest ? LetterChunk : PictureChunk

export type Asset = (sha: string) => Uint8Array | null

const keys = new WeakMap<ChunkRequest, string>()

/** By which a chunk is kept: equal for equal requests. */
export function chunkKey(request: ChunkRequest): string {
  let key = keys.get(request)
  if (key === undefined) {
    key = `${request.make} ${request.asset} ${canonicalJson({ ...request, asset: '' })}`
    keys.set(request, key)
  }
  return key
}

/** Letters in order, each once. */
export const sortedLetters = (letters: Iterable<string>): string =>
  [...new Set(letters)].sort((a, b) => a.codePointAt(0)! - b.codePointAt(0)!).join('')

const read = new WeakMap<Uint8Array, Map<number, Result<Typeface>>>()

/** A font file at a weight, read once. */
function typefaceOf(bytes: Uint8Array, weight: number): Result<Typeface> {
  let weights = read.get(bytes)
  if (!weights) read.set(bytes, (weights = new Map()))
  let typeface = weights.get(weight)
  if (!typeface) weights.set(weight, (typeface = readTypeface(bytes, weight)))
  return typeface
}

/**
 * Letters as they are asked for. Problems: `chunk.asset` (the file of the typeface is not there), and those of `readTypeface`. A
 * file to fall back on that is not there or cannot be read is passed over.
 */
export function letteringOf({ asset, weight, fallbacks, kerns }: LetterSpec, files: Asset): Result<Lettering> {
  const bytes = files(asset)
  if (!bytes) return bad('chunk.asset', { asset: asset.slice(0, 12) })
  const typeface = typefaceOf(bytes, weight)
  if (!typeface.ok) return typeface
  const others = fallbacks.flatMap((sha) => {
    const file = files(sha)
    const other = file && typefaceOf(file, weight)
    return other?.ok ? [other.value] : []
  })
  return good({ typeface: typeface.value, fallbacks: others, kerns })
}

let codecs: PictureCodecs | null = null
/** The decoders of whoever runs this: until they are given no JPEG and no WebP can be shown. */
export const givePictureCodecs = (given: PictureCodecs): void => void (codecs = given)

/** The decoders there are: each throws where none was given. */
export const pictureCodecs = (): PictureCodecs => codecs ?? noCodecs

const noCodecs: PictureCodecs = {
  jpeg: () => {
    throw new Error('nothing here reads JPEG')
  },
  webp: () => {
    throw new Error('nothing here reads WebP')
  },
  svg: () => {
    throw new Error('nothing here draws SVG')
  },
}

/** Pixels of the originals that were asked for last: two of the largest. */
const decoded = new LRUCache<string, Pixels>({ maxSize: 8 * mostPixels, sizeCalculation: ({ rgba }) => rgba.length })

/** The pixels of an original, remembered for a while; a drawing in SVG `zoom` times as large. Problems: those of `decodePicture`. */
export function originalOf(sha: string, bytes: Uint8Array, zoom = 1): Result<Pixels> {
  const key = zoom === 1 ? sha : `${sha} ${zoom}`
  const known = decoded.get(key)
  if (known) return good(known)
  const made = decodePicture(bytes, pictureCodecs(), zoom)
  if (!made.ok) return made
  const { width, height, rgba } = made.value
  decoded.set(key, { width, height, rgba })
  return good({ width, height, rgba })
}

/** Makes a chunk. Problems: `chunk.asset` (its file is not there), and those of `readTypeface` and `decodePicture`. */
export function makeChunk<R extends ChunkRequest>(request: R, asset: Asset): Result<ChunkOf<R>> {
  const made: Result<Chunk> = request.make === 'letters' ? makeLetters(request, asset) : makePicture(request, asset)
  return made as Result<ChunkOf<R>>
}

function makeLetters(request: LetterRequest, asset: Asset): Result<LetterChunk> {
  const lettering = letteringOf(request, asset)
  if (!lettering.ok) return lettering
  const characters = Array.from(request.letters, (letter) => letter.codePointAt(0)!)
  const { metrics, coverage, outlines, kerning, ...header } = makeSheet(lettering.value, request.px, characters, request.bits)
  return good({
    header,
    parts: { metrics, coverage, outlines, ...(kerning ? { kerning } : {}) },
    names: { metrics: nameOf(metrics), coverage: nameOf(coverage), ...(kerning ? { kerning: nameOf(kerning) } : {}) },
  })
}

/** Whole pictures that something was cut out of last: what is cut next is often of the same. */
const wholes = new LRUCache<string, { picture: PanelPicture; from: { width: number; height: number } }>({
  maxSize: 16_000_000,
  sizeCalculation: ({ picture }) => picture.pixels.byteLength + 1,
})

function makePicture(request: PictureRequest, files: Asset): Result<PictureChunk> {
  const key = request.cut ? chunkKey({ ...request, cut: null }) : ''
  let whole = wholes.get(key)
  if (!whole) {
    const made = wholePicture(request, files)
    if (!made.ok) return made
    whole = made.value
    if (request.cut) wholes.set(key, whole)
  }
  const { width, height, pixels, alpha } = request.cut ? cutOut(whole.picture, request.cut) : whole.picture
  const runs = runBytes(pixels, width, 2) + (alpha ? runBytes(alpha, width, 1) : 0)
  const flat = pixels.every((pixel) => pixel === pixels[0]) && (!alpha || alpha.every((a) => a === 255)) ? pixels[0]! : -1
  const margin = flat >= 0 || alpha ? 0 : marginOf(pixels, width, height)
  return good({
    header: { width, height, from: whole.from, runs, flat, margin },
    parts: { pixels, ...(alpha ? { alpha } : {}) },
    names: { pixels: nameOf(pixels), alpha: alpha ? nameOf(alpha) : '' },
  })
}

/** How far the colour of its corner goes on all around a picture. */
function marginOf(pixels: Uint16Array, width: number, height: number): number {
  const [colour] = pixels
  const isRing = (k: number) => {
    for (let x = k; x < width - k; x++)
      if (pixels[k * width + x] !== colour || pixels[(height - 1 - k) * width + x] !== colour) return false
    for (let y = k; y < height - k; y++)
      if (pixels[y * width + k] !== colour || pixels[y * width + width - 1 - k] !== colour) return false
    return true
  }
  let margin = 0
  while (2 * margin < Math.min(width, height) && isRing(margin)) margin++
  return margin
}

/** How much larger than it says a drawing in SVG is drawn, so that it comes to the glass as it is; 1 for whatever has pixels. */
function zoomOf(bytes: Uint8Array, target: { width: number; height: number }, { turn, way, part }: Fitting): number {
  if (pictureFormat(bytes) !== 'svg' || way === 'exact') return 1
  const info = lookIntoPicture(bytes)
  if (!info.ok) return 1
  const { width, height } = info.value
  const plan = fitPlan(turn === 90 || turn === 270 ? { width: height, height: width } : { width, height }, target, { way, part })
  // Steps of a sixteenth, so that a size that is pulled does not draw it anew each time.
  const scale = Math.max(1 / plan.across, 1 / plan.down)
  return Math.ceil(16 * scale) / 16
}

function wholePicture({ asset, width, height, fitting, dither, ground, keepsAlpha }: PictureRequest, files: Asset) {
  const bytes = files(asset)
  if (!bytes) return bad('chunk.asset', { asset: asset.slice(0, 12) })
  const zoom = zoomOf(bytes, { width, height }, fitting)
  const original = originalOf(asset, bytes, zoom)
  if (!original.ok) return original
  const from = prepared(original.value, fitting)
  const part = {
    x: zoom * fitting.part.x,
    y: zoom * fitting.part.y,
    width: zoom * fitting.part.width,
    height: zoom * fitting.part.height,
  }
  const ready = fitted(from, { width, height }, { ...fitting, part, turn: 0, trims: false })
  const picture = toPanel(ready, dither, ground, keepsAlpha)
  // A recipe applies to the drawing at its stated size.
  return good({ picture, from: { width: Math.round(from.width / zoom), height: Math.round(from.height / zoom) } })
}

/** A part of a picture, to the pixel as it is in the whole. */
function cutOut({ width, pixels, alpha }: PanelPicture, cut: Rect): PanelPicture {
  const part = <T extends Uint16Array | Uint8Array>(all: T, into: T): T => {
    for (let y = 0; y < cut.height; y++) {
      const from = (cut.y + y) * width + cut.x
      into.set(all.subarray(from, from + cut.width), y * cut.width)
    }
    return into
  }
  const size = cut.width * cut.height
  return {
    width: cut.width,
    height: cut.height,
    pixels: part(pixels, new Uint16Array(size)),
    alpha: alpha && part(alpha, new Uint8Array(size)),
  }
}

/** Where a build gets its chunks: made, wanted (they will be), or not to be had. */
export interface Chunks {
  get<R extends ChunkRequest>(request: R): ChunkOf<R> | 'wanted' | Problem
  put(key: string, made: Result<Chunk>): void
}

/** Bytes of what was made, and a few for its header or why it could not be. */
export const sizeOfMade = (made: Chunk | Problem): number =>
  'parts' in made ? Object.values(made.parts).reduce((sum: number, part: ArrayBufferView) => sum + part.byteLength, 64) : 64

/** So many bytes of chunks are kept; those that nobody has asked for longest are forgotten first. */
const mostBytes = 64_000_000

const cache = (most: number) => new LRUCache<string, Chunk | Problem>({ maxSize: most, sizeCalculation: sizeOfMade })

/** Files by the SHA-256 of what is in them. */
interface FilesBySha {
  get(sha: string): Uint8Array | undefined
}

/** Makes every chunk when it is asked for: for whoever can wait. */
export class MadeChunks implements Chunks {
  private made: ReturnType<typeof cache>

  /** `assets` may grow: what was not there is asked for again. */
  constructor(
    private assets: FilesBySha,
    most = mostBytes,
  ) {
    this.made = cache(most)
  }

  get<R extends ChunkRequest>(request: R): ChunkOf<R> | Problem {
    const key = chunkKey(request)
    const known = this.made.get(key)
    if (known && !(isProblem(known) && known.code === 'chunk.asset')) return known as ChunkOf<R> | Problem
    const result = makeChunk(request, (sha) => this.assets.get(sha) ?? null)
    this.put(key, result)
    return result.ok ? result.value : result.problem
  }

  put(key: string, made: Result<Chunk>): void {
    this.made.set(key, made.ok ? made.value : made.problem)
  }
}

const madeOf = new WeakMap<FilesBySha, MadeChunks>()

/** One for each set of assets: whoever builds from the same ones makes each chunk once. */
export function madeFrom(assets: FilesBySha): MadeChunks {
  let made = madeOf.get(assets)
  if (!made) madeOf.set(assets, (made = new MadeChunks(assets)))
  return made
}

/** Makes none: says what is wanted, and has what was put in by whoever made it. */
export class WantedChunks implements Chunks {
  private made = cache(mostBytes)
  private wanted = new Map<string, ChunkRequest>()
  private asked = new Set<string>()
  /** Asked for before an asset came: that they cannot be made may be out of date when it is told. */
  private doubtful = new Set<string>()

  get<R extends ChunkRequest>(request: R): ChunkOf<R> | 'wanted' | Problem {
    const key = chunkKey(request)
    const known = this.made.get(key)
    if (known) return known as ChunkOf<R> | Problem
    if (!this.asked.has(key)) this.wanted.set(key, request)
    return 'wanted'
  }

  /** Wanted chunks since the last call. */
  takeWanted(): ChunkRequest[] {
    const requests = [...this.wanted.values()]
    for (const key of this.wanted.keys()) this.asked.add(key)
    this.wanted.clear()
    return requests
  }

  put(key: string, made: Result<Chunk>): void {
    this.asked.delete(key)
    if (this.doubtful.delete(key) && !made.ok) return
    this.made.set(key, made.ok ? made.value : made.problem)
  }

  /** An asset has come: what could not be made without it is wanted again. */
  assetCame(): void {
    for (const [key, made] of this.made.entries()) if (isProblem(made)) this.made.delete(key)
    for (const key of this.asked) this.doubtful.add(key)
  }
}
