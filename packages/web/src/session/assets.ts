import { sha256Hex } from '@moth-lamp/core/base'
import { assetsOf, type Project } from '@moth-lamp/core/project'
import { api, ServerProblem } from './api.ts'
import { keepAsset, keptAssets, letAssetGo } from './queue.ts'

/** How long after the server was away it is tried again, ms. */
const againMs = 5_000

/** The files of a project: given to the worker as they come, kept in the browser until the server has them. */
export class AssetKeeper {
  private asked = new Set<string>()
  private timer = 0
  private closed = false

  constructor(
    private known: Map<string, Uint8Array>,
    private give: (sha: string, bytes: Uint8Array) => void,
    private say: (text: string) => void,
  ) {}

  /** A file of one's own: there at once, also while the server is away. Its name is the SHA-256 of its bytes. */
  async add(bytes: Uint8Array): Promise<string> {
    const sha = sha256Hex(bytes)
    await keepAsset(sha, bytes)
    this.take(sha, bytes)
    void this.upload()
    return sha
  }

  private take(sha: string, bytes: Uint8Array): void {
    if (this.known.has(sha)) return
    this.known.set(sha, bytes)
    this.give(sha, bytes)
  }

  /** Fetches what a document names and is not here: a change of another window named it. */
  look(project: Project): void {
    for (const sha of assetsOf(project)) {
      if (this.known.has(sha) || this.asked.has(sha)) continue
      this.asked.add(sha)
      void this.fetch(sha)
    }
  }

  private async fetch(sha: string): Promise<void> {
    const kept = (await keptAssets().catch(() => [])).find((asset) => asset.sha === sha)
    try {
      this.take(sha, kept?.bytes ?? (await api.asset(sha)))
    } catch {
      // Whoever named it may still be sending it.
      if (!this.closed) window.setTimeout(() => void this.fetch(sha), againMs)
    }
  }

  /** Sends what the server has not yet, whichever window kept it. What it will never take is said, and let go. */
  async upload(): Promise<void> {
    clearTimeout(this.timer)
    for (const { sha, bytes } of await keptAssets().catch(() => [])) {
      try {
        await api.putAsset(sha, bytes)
        await letAssetGo(sha)
      } catch (error) {
        if (error instanceof ServerProblem && !error.away) {
          this.say(error.message)
          await letAssetGo(sha)
        } else if (!this.closed) {
          this.timer = window.setTimeout(() => void this.upload(), againMs)
          return
        }
      }
    }
  }

  close(): void {
    this.closed = true
    clearTimeout(this.timer)
  }
}
