import { LRUCache } from 'lru-cache'
import { bad, good, isProblem, type Problem, type Result } from '../base/index.ts'
import { makeSheet, usualCharacters } from './sheet.ts'
import { readTypeface, type Typeface } from './typeface.ts'

/** Something large that a build shows and does not make: the letters of a typeface at a size. */
export interface ChunkRequest {
  make: 'letters'
  /** SHA-256 of the font file. */
  asset: string
  /** Pixels to the em. */
  px: number
  /** The letters wanted, each once, in order of code points. */
  letters: string
}

/** What was made: a small header, and the parts by name. */
export interface Chunk {
  header: { ascent: number; descent: number; capHeight: number }
  parts: { metrics: Int32Array; coverage: Uint8Array }
}

export type Asset = (sha: string) => Uint8Array | null

export const chunkKey = ({ make, asset, px, letters }: ChunkRequest): string => `${make} ${asset} ${px} ${letters}`

/** Letters in order, each once. */
export const sortedLetters = (letters: Iterable<string>): string =>
  [...new Set(letters)].sort((a, b) => a.codePointAt(0)! - b.codePointAt(0)!).join('')

/** What any text of a variable may have in it. */
export const usualLetters = usualCharacters.map((code) => String.fromCodePoint(code)).join('')

const read = new WeakMap<Uint8Array, Result<Typeface>>()

/** Makes a chunk. Problems: `chunk.asset` (its file is not there), and those of `readTypeface`. */
export function makeChunk(request: ChunkRequest, asset: Asset): Result<Chunk> {
  const bytes = asset(request.asset)
  if (!bytes) return bad('chunk.asset', { asset: request.asset.slice(0, 12) })
  let typeface = read.get(bytes)
  if (!typeface) read.set(bytes, (typeface = readTypeface(bytes)))
  if (!typeface.ok) return typeface
  const characters = Array.from(request.letters, (letter) => letter.codePointAt(0)!)
  const { metrics, coverage, ...header } = makeSheet(typeface.value, request.px, characters)
  return good({ header, parts: { metrics, coverage } })
}

/** Where a build gets its chunks: made, wanted (they will be), or not to be had. */
export interface Chunks {
  get(request: ChunkRequest): Chunk | 'wanted' | Problem
  put(key: string, made: Result<Chunk>): void
}

const sizeOf = (made: Chunk | Problem): number =>
  'parts' in made ? made.parts.metrics.byteLength + made.parts.coverage.byteLength + 64 : 64

/** So many bytes of chunks are kept; those that nobody has asked for longest are forgotten first. */
const mostBytes = 64_000_000

const cache = (most: number) => new LRUCache<string, Chunk | Problem>({ maxSize: most, sizeCalculation: sizeOf })

/** Makes every chunk when it is asked for: for whoever can wait. */
export class MadeChunks implements Chunks {
  private made: ReturnType<typeof cache>

  /** `assets` may grow: what was not there is asked for again. */
  constructor(
    private assets: { get(sha: string): Uint8Array | undefined },
    most = mostBytes,
  ) {
    this.made = cache(most)
  }

  get(request: ChunkRequest): Chunk | Problem {
    const key = chunkKey(request)
    const known = this.made.get(key)
    if (known && !(isProblem(known) && known.code === 'chunk.asset')) return known
    const result = makeChunk(request, (sha) => this.assets.get(sha) ?? null)
    this.put(key, result)
    return result.ok ? result.value : result.problem
  }

  put(key: string, made: Result<Chunk>): void {
    this.made.set(key, made.ok ? made.value : made.problem)
  }
}

/** Makes none: says what is wanted, and has what was put in by whoever made it. */
export class WantedChunks implements Chunks {
  private made = cache(mostBytes)
  private wanted = new Map<string, ChunkRequest>()
  private asked = new Set<string>()

  get(request: ChunkRequest): Chunk | 'wanted' | Problem {
    const key = chunkKey(request)
    const known = this.made.get(key)
    if (known) return known
    if (!this.asked.has(key)) this.wanted.set(key, request)
    return 'wanted'
  }

  /** What has become wanted since this was last asked. */
  takeWanted(): ChunkRequest[] {
    const requests = [...this.wanted.values()]
    for (const key of this.wanted.keys()) this.asked.add(key)
    this.wanted.clear()
    return requests
  }

  put(key: string, made: Result<Chunk>): void {
    this.asked.delete(key)
    this.made.set(key, made.ok ? made.value : made.problem)
  }

  /** An asset has come: what could not be made without it is wanted again. */
  assetCame(): void {
    for (const [key, made] of this.made.entries()) if (isProblem(made)) this.made.delete(key)
  }
}
