import { bad, good, type Result } from '@moth-lamp/core/base'
import { chunkKey, type Chunk, type ChunkRequest, type TypefaceFacts } from '@moth-lamp/core/artwork'
import { KeptChunks } from './kept-chunks.ts'
import makerUrl from './chunks.worker.ts?worker&url'
import type { FromChunks, LookedPicture, ToChunks } from './messages.ts'

/**
 * A chunk takes milliseconds, a large original seconds, ms. What takes longer is tried once more after all others, with more time:
 * the machine may have had much else to do. Then it is damaged, or made to stop others.
 */
const mostMs = { letters: 5_000, picture: 20_000 }
const moreTime = 3

interface Job {
  key: string
  message: ToChunks
  mostMs: number
  /** It was stopped once. */
  again?: boolean
  /** Begins when it is given to the worker; what it returns hears how it ended. */
  begin(): (answer: FromChunks) => void
}

/** Why there is no other answer. */
const failed = (answer: FromChunks): Result<never> => ('made' in answer ? (answer.made as Result<never>) : bad('chunk.failed'))

/** The code that makes chunks has its hash in its address; while it is being written it has not, and nothing is kept. */
const kept = new KeptChunks(import.meta.env.DEV ? '' : makerUrl)

/** The files a chunk is made of. */
const filesOf = (request: ChunkRequest): readonly string[] =>
  request.make === 'letters' ? [request.asset, ...request.fallbacks] : [request.asset]

type Made = readonly [key: string, made: Result<Chunk>]

/** The worker that makes chunks, one after another, those apart that are kept; one that hangs is stopped, and the next begins. */
export class ChunkMaker {
  private worker: Worker | null = null
  private assets = new Map<string, Uint8Array>()
  private queue: Job[] = []
  private timer: ReturnType<typeof setTimeout> | null = null
  private looks = 0
  /** Requests of which it is not known yet whether they are kept. */
  private sought = 0
  private closed = false
  private done: ((answer: FromChunks) => void) | null = null
  /** Letters that were made without a file to fall back on, by key: they are made again when it comes. */
  private without = new Map<string, ChunkRequest>()

  /** `came`: chunks that came together. */
  constructor(private came: (made: readonly Made[]) => void) {}

  asset(sha: string, bytes: Uint8Array): void {
    this.assets.set(sha, bytes)
    this.worker?.postMessage({ type: 'asset', sha, bytes } satisfies ToChunks)
    for (const [key, request] of this.without)
      if (filesOf(request).includes(sha)) {
        this.without.delete(key)
        this.begin(request)
      }
    this.next()
  }

  make(requests: readonly ChunkRequest[]): void {
    if (!requests.length) return
    const whole = requests.filter((request) => !this.lacking(request).length)
    this.sought += requests.length
    void kept.find(whole.map(chunkKey)).then((found) => {
      this.sought -= requests.length
      if (this.closed) return
      for (const request of requests) if (!found.has(chunkKey(request))) this.begin(request)
      if (found.size) this.came([...found].map(([key, chunk]) => [key, good(chunk)]))
      this.next()
    })
  }

  private begin(request: ChunkRequest): void {
    const key = chunkKey(request)
    const begin = () => {
      const lacked = this.lacking(request)
      return (answer: FromChunks) => {
        if (!('made' in answer)) return
        // A file has come meanwhile: with it another is made, or it can be made at all.
        if (lacked.some((sha) => this.assets.has(sha))) return this.begin(request)
        const { made } = answer
        if (made.ok && lacked.length) this.without.set(key, request)
        else if (made.ok) kept.keep(key, made.value)
        this.came([[key, made]])
      }
    }
    this.queue.push({ key, message: { type: 'make', key, request }, mostMs: mostMs[request.make], begin })
  }

  /** The files it is made of that have not come. */
  private lacking = (request: ChunkRequest): string[] => filesOf(request).filter((sha) => !this.assets.has(sha))

  /** Whether a file is a picture that can be shown, and what it says of itself. */
  look(bytes: Uint8Array): Promise<Result<LookedPicture>> {
    const key = `look ${this.looks++}`
    return new Promise((resolve) => {
      const begin = () => (answer: FromChunks) => resolve('looked' in answer ? answer.looked : failed(answer))
      this.queue.push({ key, message: { type: 'look', key, bytes }, mostMs: mostMs.picture, begin })
      this.next()
    })
  }

  /** Facts that a font file states, if its glyphs can be drawn. */
  lookAtFont(bytes: Uint8Array): Promise<Result<TypefaceFacts>> {
    const key = `look ${this.looks++}`
    return new Promise((resolve) => {
      const begin = () => (answer: FromChunks) => resolve('font' in answer ? answer.font : failed(answer))
      this.queue.push({ key, message: { type: 'look at font', key, bytes }, mostMs: mostMs.letters, begin })
      this.next()
    })
  }

  get isIdle(): boolean {
    return this.queue.length === 0 && this.sought === 0
  }

  close(): void {
    this.closed = true
    this.queue = []
    if (this.timer) clearTimeout(this.timer)
    this.worker?.terminate()
  }

  private next(): void {
    const job = this.queue[0]
    if (!job || this.timer) return
    this.timer = setTimeout(() => {
      this.worker?.terminate()
      this.worker = null
      if (!job.again) return this.later(job)
      const reason = `timed out after ${job.mostMs / 1000} s: the file is damaged`
      this.ended({ key: job.key, made: bad('chunk.slow', { reason, what: reason }) })
    }, job.mostMs)
    this.worker ??= this.start()
    this.done = job.begin()
    this.worker.postMessage(job.message)
  }

  private later(job: Job): void {
    this.timer = null
    this.queue.shift()
    this.queue.push({ ...job, mostMs: moreTime * job.mostMs, again: true })
    this.next()
  }

  private ended(answer: FromChunks): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
    this.queue.shift()
    this.done?.(answer)
    this.next()
  }

  private start(): Worker {
    const worker = new Worker(makerUrl, { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<FromChunks>) => this.ended(data)
    worker.onerror = (event) => {
      event.preventDefault()
      this.worker = null
      const job = this.queue[0]
      const reason = event.message || 'decoder crashed'
      if (job) this.ended({ key: job.key, made: bad('chunk.failed', { reason, what: reason }) })
    }
    for (const [sha, bytes] of this.assets) worker.postMessage({ type: 'asset', sha, bytes } satisfies ToChunks)
    return worker
  }
}
