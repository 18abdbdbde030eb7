import { LRUCache } from 'lru-cache'
import { chunkKey, sizeOfMade, type Chunk, type ChunkOf, type ChunkRequest, type TypefaceFacts } from '@moth-lamp/core/artwork'
import { isProblem, type Problem, type Result } from '@moth-lamp/core/base'
import { ChunkMaker } from '../worker/chunk-maker.ts'
import type { LookedPicture } from '../worker/messages.ts'
import { Store } from './store.ts'

/** Pictures and letters as the screens show them, made in a worker of their own: what is asked for comes a little later. */
export class Studio {
  /** Counts what has come. */
  readonly came = new Store({ count: 0 })
  private made = new LRUCache<string, Chunk | Problem>({ maxSize: 96_000_000, sizeCalculation: sizeOfMade })
  private asked = new Set<string>()
  private doubtful = new Set<string>()
  private maker: ChunkMaker

  constructor(assets: ReadonlyMap<string, Uint8Array>) {
    this.maker = new ChunkMaker((came) => {
      for (const [key, made] of came) {
        this.asked.delete(key)
        // Chunks that lacked an asset are requested again.
        if (this.doubtful.delete(key) && !made.ok) continue
        this.made.set(key, made.ok ? made.value : made.problem)
      }
      this.tell()
    })
    for (const [sha, bytes] of assets) this.maker.asset(sha, bytes)
  }

  asset(sha: string, bytes: Uint8Array): void {
    this.maker.asset(sha, bytes)
    // Chunks that lacked it can be made now.
    for (const [key, made] of this.made.entries()) if (isProblem(made)) this.made.delete(key)
    for (const key of this.asked) this.doubtful.add(key)
    this.tell()
  }

  private tell(): void {
    this.came.set({ count: this.came.value.count + 1 })
  }

  /** A picture or letters that were asked for, why they cannot be had, or null while they are being made. */
  get<R extends ChunkRequest>(request: R): ChunkOf<R> | Problem | null {
    const key = chunkKey(request)
    const known = this.made.get(key)
    if (known) return known as ChunkOf<R> | Problem
    if (!this.asked.has(key)) {
      this.asked.add(key)
      this.maker.make([request])
    }
    return null
  }

  look = (bytes: Uint8Array): Promise<Result<LookedPicture>> => this.maker.look(bytes)
  lookAtFont = (bytes: Uint8Array): Promise<Result<TypefaceFacts>> => this.maker.lookAtFont(bytes)

  close(): void {
    this.maker.close()
  }
}
