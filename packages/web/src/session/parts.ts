import type { Project } from '@moth-lamp/core/project'
import { BenchClient, type ClientEvents } from '../worker/client.ts'
import { api } from './api.ts'
import { live } from './live.ts'
import * as queue from './queue.ts'
import { Studio } from './studio.ts'

/** The part of the browser's window that a session needs. */
export interface PageParts {
  /** Hears that the window is left, and that there is a network again; what it returns ends that. */
  listen(on: { leave(): void; online(): void }): () => void
  /** Loads the page again; false where it has done so already for this reason. */
  loadAgain(why: string): boolean
}

/** The parts a session stands on: each may be another in a test. */
export interface SessionParts {
  api: Pick<typeof api, 'open' | 'asset' | 'save' | 'changes' | 'known' | 'putAsset'>
  queue: Pick<typeof queue, 'keepAside' | 'keepAsset' | 'keepEdit' | 'keptAssets' | 'leftBehind' | 'letAssetGo' | 'letGo'>
  live: Pick<typeof live, 'watch'>
  client(project: () => Project, assets: Map<string, Uint8Array>, count: () => number, events: ClientEvents): BenchClient
  studio(assets: ReadonlyMap<string, Uint8Array>): Studio
  page: PageParts
}

/** A page that has loaded itself again for a server's sake does so once: sessionStorage remembers for which. */
const loadedAgainKey = 'moth-lamp loaded again'

const page: PageParts = {
  listen({ leave, online }) {
    window.addEventListener('pagehide', leave)
    window.addEventListener('online', online)
    return () => {
      window.removeEventListener('pagehide', leave)
      window.removeEventListener('online', online)
    }
  },
  loadAgain(why) {
    if (sessionStorage.getItem(loadedAgainKey) === why) return false
    sessionStorage.setItem(loadedAgainKey, why)
    location.reload()
    return true
  },
}

/** Those of the browser. */
export const browserParts: SessionParts = {
  api,
  queue,
  live,
  client: (...about) => new BenchClient(...about),
  studio: (assets) => new Studio(assets),
  page,
}
