import { readFileSync } from 'node:fs'
import Tinypool from 'tinypool'
import { bad, type Result } from '@moth-lamp/core/base'
import type { Project } from '@moth-lamp/core/project'
import type { DocumentOfFile, Task } from './tasks.ts'

// Beside the built server, or built from the sources when these run as they are.
const tasks = new URL(import.meta.url.endsWith('.ts') ? '../../dist/tasks.js' : './tasks.js', import.meta.url)

/** Heap limit of a process, MB; what lies outside it is bounded by the sizes that are looked at first. */
const mostHeapMb = 192
/** How long a process may take to start, ms, and how often it is tried. */
const startingMs = 10_000
const mostStarts = 4
/** How much of a processor's time a piece of work may take, ms. */
const limitsMs = { document: 1800, asset: 4000, upload: 6000, unpack: 5000, picture: 5000, pack: 20_000 }

/** On a machine that has much else to do it may take so many times longer by the clock. */
const mostByTheClock = 5

/**
 * How long a process has had a processor since it began, ms: utime and stime of `/proc/…/stat` (proc(5)), in hundredths of a
 * second. Null where the system does not tell it.
 */
function workedMs(pid: number): number | null {
  try {
    // The name of the program, in brackets, may hold anything.
    const fields = readFileSync(`/proc/${pid}/stat`, 'latin1')
      .replace(/^.*\) /s, '')
      .split(' ')
    return 10 * (Number(fields[11]) + Number(fields[12]))
  } catch {
    return null
  }
}

/** Calls `over` once a process has worked for so long, or has had so much longer by the clock; what it returns ends the watch. */
export function watchWork(pid: number, limitMs: number, over: () => void): () => void {
  const before = workedMs(pid)
  const untilMs = performance.now() + mostByTheClock * limitMs
  let timer: NodeJS.Timeout
  const wait = (ms: number) => {
    timer = setTimeout(() => {
      const now = workedMs(pid)
      const leftMs = before === null || now === null ? 0 : Math.min(limitMs - (now - before), untilMs - performance.now())
      if (leftMs > 0) wait(Math.max(20, leftMs))
      else over()
    }, ms)
  }
  wait(limitMs)
  return () => clearTimeout(timer)
}

/** Why a piece of work failed: an error of another process comes as plain data. */
function whyOf(error: unknown): string {
  const { message } = (error ?? {}) as { message?: unknown }
  return typeof message === 'string' && message ? message : typeof error === 'string' ? error : 'process stopped'
}

/**
 * One process, one piece of work after another. A piece that takes too long ends with its process, as one does that takes all
 * memory: in a thread, that would end the server too. The next piece gets a new process.
 */
class Lane {
  private pool = new Tinypool({
    runtime: 'child_process',
    filename: tasks.href,
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 60_000,
    serialization: 'advanced',
    execArgv: [`--max-old-space-size=${mostHeapMb}`],
    env: { PATH: process.env['PATH'] ?? '' },
  })
  private last: Promise<unknown> = Promise.resolve()

  constructor() {
    // A process that ends while it has nothing to do is nobody's failure: the next piece of work starts another.
    this.pool.on('error', () => undefined)
  }

  run<T>(task: Task, limitMs: number): Promise<Result<T>> {
    const done = this.last.then(() => this.now<T>(task, limitMs))
    this.last = done
    return done
  }

  private async now<T>(task: Task, limitMs: number): Promise<Result<T>> {
    const limit = new AbortController()
    let watched: () => void = () => undefined
    try {
      // A process that has still to start is not counted against the work.
      watched = watchWork(await this.ready(), limitMs, () => limit.abort())
      return (await this.pool.run(task, { signal: limit.signal })) as Result<T>
    } catch (error) {
      if (limit.signal.aborted) return bad('work.slow', { seconds: limitMs / 1000 })
      return bad('work.failed', { why: whyOf(error).slice(0, 200) })
    } finally {
      watched()
    }
  }

  /** The id of a process that has started. One that dies while it starts is given up at once, and another tried. */
  private async ready(): Promise<number> {
    for (let tries = 1; ; tries++) {
      const stop = new AbortController()
      const giveUp = () => stop.abort()
      const timer = setTimeout(giveUp, startingMs)
      this.pool.once('error', giveUp)
      try {
        const started = (await this.pool.run({ do: 'ready' } satisfies Task, { signal: stop.signal })) as Result<number>
        if (started.ok) return started.value
        throw new Error(started.problem.code)
      } catch (error) {
        if (tries === mostStarts) throw error
      } finally {
        clearTimeout(timer)
        this.pool.off('error', giveUp)
      }
    }
  }

  close = (): Promise<void> => this.pool.destroy()
}

/**
 * Where whatever parses, decodes or paints what came from outside is done: away from the process that answers requests. Two
 * lanes, so that whoever reads a file does not wait for the pictures of a shelf. Problems besides those of the work:
 * `work.slow` (seconds), `work.failed` (why).
 */
export class Workroom {
  private files = new Lane()
  private pictures = new Lane()

  document = (file: string): Promise<Result<DocumentOfFile>> => this.files.run({ do: 'document', file }, limitsMs.document)

  asset = (file: string, sha: string): Promise<Result<Uint8Array>> => this.files.run({ do: 'asset', file, sha }, limitsMs.asset)

  /** A WOFF2 file as the font that it was made of. */
  unpack = (bytes: Uint8Array): Promise<Result<Uint8Array>> => this.files.run({ do: 'unpack', bytes }, limitsMs.unpack)

  upload = (bytes: Uint8Array, sha: string): Promise<Result<Uint8Array>> =>
    this.files.run({ do: 'upload', bytes, sha }, limitsMs.upload)

  pack = (project: Project, assets: Map<string, Uint8Array>): Promise<Result<Uint8Array>> =>
    this.files.run({ do: 'pack', document: JSON.stringify(project), assets }, limitsMs.pack)

  picture = (project: Project, assets: Map<string, Uint8Array>): Promise<Result<Uint8Array>> =>
    this.pictures.run({ do: 'picture', document: JSON.stringify(project), assets }, limitsMs.picture)

  async close(): Promise<void> {
    await Promise.all([this.files.close(), this.pictures.close()])
  }
}

export const workSentences: Record<string, string> = {
  'work.slow': 'Stopped after {seconds} s. The file is damaged or malicious.',
  'work.failed': 'Failed ({why}). The file is damaged or too large.',
}
