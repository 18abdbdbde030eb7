import { sha256Hex } from '@moth-lamp/core/base'
import { assetsOf, type Project } from '@moth-lamp/core/project'
import { ServerProblem } from './api.ts'
import type { SessionParts } from './parts.ts'

/** How long after the server was away it is tried again, ms. */
const againMs = 5_000

/** A file that the document names and nobody else can have: neither here nor on the server, or refused by the server. */
export interface MissingAsset {
  sha: string
  /** Why the server does not take it; null: it has never come there, and is not kept here. */
  why: string | null
}

interface Events {
  give(sha: string, bytes: Uint8Array): void
  /** Called when the set of missing assets has changed. */
  missing(list: readonly MissingAsset[]): void
}

/**
 * The files of a project: given to the worker as they come, kept in the browser until the server has them. One that the server
 * refuses stays here for as long as this browser lets it: a document may name it.
 */
export class AssetKeeper {
  private asked = new Set<string>()
  private named: ReadonlySet<string> = new Set()
  /** Those that are kept here and are not on the server yet. */
  private unsent = new Set<string>()
  private refused = new Map<string, string>()
  private lacking = new Set<string>()
  private sending: Promise<void> | null = null
  private timer: ReturnType<typeof setTimeout> | undefined
  private closed = false

  constructor(
    private known: Map<string, Uint8Array>,
    private parts: Pick<SessionParts, 'api' | 'queue'>,
    private events: Events,
  ) {}

  /** A file of one's own: there at once, also while the server is away. Its name is the SHA-256 of its bytes. */
  async add(bytes: Uint8Array): Promise<string> {
    const sha = sha256Hex(bytes)
    await this.parts.queue.keepAsset(sha, bytes)
    this.unsent.add(sha)
    this.refused.delete(sha)
    this.take(sha, bytes)
    void this.upload().catch(() => undefined)
    return sha
  }

  /**
   * Asks the server for a file before anything names it: why it refuses it, or null. Where the server is away the file is taken, and
   * sent when it is back.
   */
  async offer(bytes: Uint8Array): Promise<string | null> {
    const sha = await this.add(bytes)
    await this.upload().catch(() => undefined)
    const why = this.refused.get(sha)
    if (why === undefined || this.named.has(sha)) return null
    this.refused.delete(sha)
    await this.parts.queue.letAssetGo(sha).catch(() => undefined)
    return why
  }

  private take(sha: string, bytes: Uint8Array): void {
    if (this.lacking.delete(sha)) this.tell()
    if (this.known.has(sha)) return
    this.known.set(sha, bytes)
    this.events.give(sha, bytes)
  }

  private tell(): void {
    const refused = [...this.refused].filter(([sha]) => this.named.has(sha)).map(([sha, why]) => ({ sha, why }))
    const lacking = [...this.lacking].filter((sha) => this.named.has(sha)).map((sha) => ({ sha, why: null }))
    this.events.missing([...refused, ...lacking])
  }

  /** Fetches what a document names and is not here: a change of another window named it. */
  look(project: Project): void {
    this.named = new Set(assetsOf(project))
    for (const sha of this.named) {
      if (this.known.has(sha) || this.asked.has(sha)) continue
      this.asked.add(sha)
      void this.fetch(sha)
    }
    if (this.refused.size || this.lacking.size) this.tell()
  }

  private async fetch(sha: string): Promise<void> {
    const kept = (await this.parts.queue.keptAssets().catch(() => [])).find((asset) => asset.sha === sha)
    try {
      this.take(sha, kept?.bytes ?? (await this.parts.api.asset(sha)))
    } catch (error) {
      if (this.closed) return
      // The window that named it may still be sending it.
      if (error instanceof ServerProblem && error.status === 404 && !this.known.has(sha)) {
        this.lacking.add(sha)
        this.tell()
      }
      setTimeout(() => !this.closed && !this.known.has(sha) && void this.fetch(sha), againMs)
    }
  }

  /** Whether the server lacks something that a document names and that is kept here: it is not saved for others before it has it. */
  get isSending(): boolean {
    return [...this.unsent].some((sha) => this.named.has(sha))
  }

  /** When the server has what the document names and is kept here, or has refused it. Fails as a save does where it is away. */
  async sent(): Promise<void> {
    while (this.isSending) await this.upload()
  }

  /** Sends what the server has not yet, whichever window kept it; again after a while where the server is away. */
  upload(): Promise<void> {
    clearTimeout(this.timer)
    this.sending ??= this.send().finally(() => (this.sending = null))
    return this.sending
  }

  private async send(): Promise<void> {
    const kept = await this.parts.queue.keptAssets().catch((): { sha: string; bytes: Uint8Array }[] => [])
    // An asset that the browser could not keep is here all the same.
    for (const sha of this.unsent)
      if (!kept.some((asset) => asset.sha === sha)) kept.push({ sha, bytes: this.known.get(sha) ?? new Uint8Array(0) })
    for (const { sha, bytes } of kept) {
      if (this.refused.has(sha)) continue
      this.unsent.add(sha)
      try {
        await this.parts.api.putAsset(sha, bytes)
        this.unsent.delete(sha)
        await this.parts.queue.letAssetGo(sha).catch(() => undefined)
      } catch (error) {
        if (error instanceof ServerProblem && !error.away) {
          this.unsent.delete(sha)
          this.refused.set(sha, error.message)
          this.tell()
          continue
        }
        if (!this.closed) this.timer = setTimeout(() => void this.upload().catch(() => undefined), againMs)
        throw error
      }
    }
  }

  close(): void {
    this.closed = true
    clearTimeout(this.timer)
  }
}
