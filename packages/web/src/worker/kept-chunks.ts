import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { sizeOfMade, type Chunk } from '@moth-lamp/core/artwork'

interface Kept extends DBSchema {
  chunks: { key: string; value: Chunk }
  /** Size in bytes, and the time of the last use (ms since 1970). */
  uses: { key: string; value: { key: string; bytes: number; usedMs: number } }
}

const name = 'moth-lamp-chunks'
/** All of them together; those wanted longest ago go first. Bytes. */
const mostBytes = 128 << 20
/** After so many more it is looked whether they are too many. Bytes. */
const sweepEvery = 16 << 20
/** A store that does not answer for so long is stuck: all is made instead. ms. */
const patienceMs = 3_000

/**
 * Chunks kept in this browser, so that a project that is opened again shows its pictures and letters at once. One is kept under
 * what was asked for and who made it: other code makes others, and those of code that is gone go. Where the browser keeps
 * nothing, or fails to, all is made anew.
 */
export class KeptChunks {
  private opened: Promise<IDBPDatabase<Kept>> | null = null
  private sinceSweep = 0

  /** `maker`: a name that is another for other code; '': nothing is kept. */
  constructor(private maker: string) {}

  /** Those of the keys that are kept; none after an error, or where it takes too long. */
  async find(keys: readonly string[]): Promise<Map<string, Chunk>> {
    const none = new Map<string, Chunk>()
    if (!this.maker || !keys.length) return none
    const late = new Promise<Map<string, Chunk>>((resolve) => setTimeout(() => resolve(none), patienceMs))
    return Promise.race([this.read(keys).catch(() => none), late])
  }

  /** Keeps a chunk. What cannot be kept is made again next time. */
  keep(key: string, chunk: Chunk): void {
    if (this.maker) void this.write(key, chunk).catch(() => undefined)
  }

  private named = (key: string): string => `${this.maker} ${key}`

  private database(): Promise<IDBPDatabase<Kept>> {
    return (this.opened ??= openDB<Kept>(name, 1, {
      upgrade(db) {
        db.createObjectStore('chunks')
        db.createObjectStore('uses', { keyPath: 'key' })
      },
      blocking: (_now, _wanted, event) => (event.target as IDBDatabase).close(),
      terminated: () => (this.opened = null),
    }).then(async (db) => {
      await this.sweep(db)
      return db
    }))
  }

  private async read(keys: readonly string[]): Promise<Map<string, Chunk>> {
    const transaction = (await this.database()).transaction(['chunks', 'uses'], 'readwrite')
    const found = new Map<string, Chunk>()
    await Promise.all(
      keys.map(async (key) => {
        const chunk = await transaction.objectStore('chunks').get(this.named(key))
        if (!chunk) return
        found.set(key, chunk)
        await transaction.objectStore('uses').put({ key: this.named(key), bytes: sizeOfMade(chunk), usedMs: Date.now() })
      }),
    )
    return found
  }

  private async write(key: string, chunk: Chunk): Promise<void> {
    const db = await this.database()
    const bytes = sizeOfMade(chunk)
    const transaction = db.transaction(['chunks', 'uses'], 'readwrite')
    void transaction.objectStore('chunks').put(chunk, this.named(key))
    void transaction.objectStore('uses').put({ key: this.named(key), bytes, usedMs: Date.now() })
    await transaction.done
    this.sinceSweep += bytes
    if (this.sinceSweep > sweepEvery) await this.sweep(db)
  }

  /** Lets go what other code has made, and what is too much, the longest unused first. */
  private async sweep(db: IDBPDatabase<Kept>): Promise<void> {
    this.sinceSweep = 0
    const uses = (await db.getAll('uses')).sort((a, b) => b.usedMs - a.usedMs)
    let room = mostBytes
    const gone = uses.filter(({ key, bytes }) => !key.startsWith(`${this.maker} `) || (room -= bytes) < 0)
    if (!gone.length) return
    const transaction = db.transaction(['chunks', 'uses'], 'readwrite')
    for (const { key } of gone) {
      void transaction.objectStore('chunks').delete(key)
      void transaction.objectStore('uses').delete(key)
    }
    await transaction.done
  }
}
