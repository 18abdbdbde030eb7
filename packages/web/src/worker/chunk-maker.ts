import { bad, type Result } from '@moth-lamp/core/base'
import { chunkKey, type Chunk, type ChunkRequest } from '@moth-lamp/core/artwork'
import type { FromChunks, ToChunks } from './messages.ts'

/** A chunk takes milliseconds: what takes longer than this is damaged, or made to stop others. ms. */
const mostMs = 5_000

/** The worker that makes chunks, one after another; one that hangs is stopped, and the next begins. */
export class ChunkMaker {
  private worker: Worker | null = null
  private assets = new Map<string, Uint8Array>()
  private queue: ChunkRequest[] = []
  private timer: ReturnType<typeof setTimeout> | null = null

  constructor(private came: (key: string, made: Result<Chunk>) => void) {}

  asset(sha: string, bytes: Uint8Array): void {
    this.assets.set(sha, bytes)
    this.worker?.postMessage({ type: 'asset', sha, bytes } satisfies ToChunks)
  }

  make(requests: readonly ChunkRequest[]): void {
    this.queue.push(...requests)
    this.next()
  }

  get isIdle(): boolean {
    return this.queue.length === 0
  }

  private next(): void {
    const request = this.queue[0]
    if (!request || this.timer) return
    const key = chunkKey(request)
    this.timer = setTimeout(() => {
      this.worker?.terminate()
      this.worker = null
      this.done(key, bad('chunk.slow', { reason: `they took longer than ${mostMs / 1000} s: the file is damaged` }))
    }, mostMs)
    this.worker ??= this.start()
    this.worker.postMessage({ type: 'make', key, request } satisfies ToChunks)
  }

  private done(key: string, made: Result<Chunk>): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
    this.queue.shift()
    this.came(key, made)
    this.next()
  }

  private start(): Worker {
    const worker = new Worker(new URL('./chunks.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<FromChunks>) => this.done(data.key, data.made)
    worker.onerror = (event) => {
      event.preventDefault()
      this.worker = null
      const request = this.queue[0]
      if (request) this.done(chunkKey(request), bad('chunk.failed', { reason: event.message || 'it broke' }))
    }
    for (const [sha, bytes] of this.assets) worker.postMessage({ type: 'asset', sha, bytes } satisfies ToChunks)
    return worker
  }
}
