import { vi } from 'vitest'
import { makeChunk, type ChunkRequest } from '@moth-lamp/core/artwork'
import type { ChangeId } from '@moth-lamp/core/base'
import type { Request } from '@moth-lamp/core/project'
import type { SetAside } from '@moth-lamp/core/saver'
import type { LiveNote } from '@moth-lamp/contract'
import { ModelServer } from '../../../core/src/testing/histories.ts'
import { ServerProblem } from '../session/api.ts'
import type { SessionParts } from '../session/parts.ts'
import { Studio } from '../session/studio.ts'
import { BenchClient, WorkerPool, type WorkerEnd } from '../worker/client.ts'
import type { FromWorker, ToChunks, ToWorker } from '../worker/messages.ts'
import { serve } from '../worker/serve.ts'

// The parts a session stands on, without a browser: each part does what the real one does, in this process, when it is told to.

/** The panel's worker in this process: what it is told and what it tells is cloned, and comes a moment later. */
export class NearWorker implements WorkerEnd {
  static all: NearWorker[] = []
  onmessage: WorkerEnd['onmessage'] = null
  onerror: WorkerEnd['onerror'] = null
  heard: ToWorker[] = []
  ended = false
  /** It hears and answers nothing. */
  stuck = false
  private serve = serve((message) => this.tell(message))

  constructor() {
    NearWorker.all.push(this)
  }

  private tell(message: FromWorker): void {
    const data = structuredClone(message)
    queueMicrotask(() => this.ended || this.stuck || this.onmessage?.call(null as never, { data } as MessageEvent))
  }

  postMessage(message: unknown): void {
    const data = structuredClone(message) as ToWorker
    this.heard.push(data)
    queueMicrotask(() => this.ended || this.stuck || this.serve(data))
  }

  breaks(why: string): void {
    this.onerror?.call(null as never, { message: why } as ErrorEvent)
  }

  terminate(): void {
    // A worker that is ended goes on with nothing: its timers end with its project.
    this.serve({ type: 'close' })
    this.ended = true
  }
}

/** The worker that makes chunks, in this process. */
class NearChunks {
  onmessage: ((event: { data: unknown }) => void) | null = null
  private assets = new Map<string, Uint8Array>()

  postMessage(message: ToChunks): void {
    if (message.type === 'asset') return void this.assets.set(message.sha, message.bytes)
    if (message.type !== 'make') return
    const made = makeChunk<ChunkRequest>(message.request, (sha) => this.assets.get(sha) ?? null)
    queueMicrotask(() => this.onmessage?.({ data: { key: message.key, made } }))
  }

  terminate(): void {
    this.onmessage = null
  }
}
/** The worker of chunks is asked for by name: it is this one until `vi.unstubAllGlobals`. */
export const withChunks = (): void => void vi.stubGlobal('Worker', NearChunks)

export interface Near extends SessionParts {
  server: ModelServer
  /** Files of the server, and of this browser. */
  files: Map<string, Uint8Array>
  keptFiles: Map<string, Uint8Array>
  kept: Map<ChangeId, Request>
  aside: Map<ChangeId, SetAside>
  /** The requests made of the server, in order. */
  calls: string[]
  /** The server is away, or takes no file, or takes one only when `letFilesIn` is called. */
  away: boolean
  refusesFiles: string | null
  filesWait: boolean
  letFilesIn(): void
  /** Another window's commit is told. */
  told(): void
  leave(): void
  loadedAgain: string[]
}

/** Parts around a model of the server that holds a project. */
export function nearParts(server: ModelServer, files: Map<string, Uint8Array> = new Map()): Near {
  let waiting: (() => void)[] = []
  let hear: (note: LiveNote) => void = () => undefined
  let on = { leave: () => undefined as void, online: () => undefined as void }
  const workers = new WorkerPool(() => new NearWorker())
  const call = async (name: string): Promise<void> => {
    near.calls.push(name)
    if (near.away) throw new ServerProblem('away', 'The server is away.', 0)
  }
  const near: Near = {
    server,
    files,
    keptFiles: new Map(),
    kept: new Map(),
    aside: new Map(),
    calls: [],
    away: false,
    refusesFiles: null,
    filesWait: false,
    letFilesIn: () => {
      near.filesWait = false
      for (const go of waiting) go()
      waiting = []
    },
    told: () => hear({ project: 'project:near', revision: server.revision, form: server.project.format }),
    leave: () => on.leave(),
    loadedAgain: [],
    api: {
      open: async (id) => (await call('open'), { id, project: server.project, revision: server.revision }),
      asset: async (sha) => {
        await call('asset')
        const bytes = near.files.get(sha)
        if (!bytes) throw new ServerProblem('api.unknown', 'Not there.', 404)
        return bytes as Uint8Array<ArrayBuffer>
      },
      save: async (_id, request) => {
        await call('save')
        const event = server.save(request)
        if (event.on === 'saved answer') return event.answer
        throw new ServerProblem(
          event.why,
          'It failed.',
          { 'too large': 413, fault: 500, never: 400, 'load again': 409, away: 0 }[event.why],
        )
      },
      changes: async (_id, since) => (await call('changes'), { revision: server.revision, changes: server.rows.slice(since) }),
      known: async (_id, ids) => (await call('known'), { known: ids.filter(server.knows) }),
      putAsset: async (sha, bytes) => {
        await call('put')
        if (near.filesWait) await new Promise<void>((resolve) => waiting.push(resolve))
        if (near.refusesFiles !== null) throw new ServerProblem('api.bad-asset', near.refusesFiles, 422)
        near.files.set(sha, bytes)
      },
    },
    queue: {
      keepEdit: async (_project, request) => void near.kept.set(request.changeId, request),
      letGo: async (ids, alsoAside) => {
        for (const id of ids) {
          near.kept.delete(id)
          if (alsoAside) near.aside.delete(id)
        }
      },
      keepAside: async (_project, aside) => {
        near.kept.delete(aside.request.changeId)
        near.aside.set(aside.request.changeId, aside)
      },
      keepAsset: async (sha, bytes) => void near.keptFiles.set(sha, bytes),
      keptAssets: async () => [...near.keptFiles].map(([sha, bytes]) => ({ sha, bytes })),
      letAssetGo: async (sha) => void near.keptFiles.delete(sha),
      leftBehind: async () => ({ requests: [...near.kept.values()], aside: [...near.aside.values()], later: 0 }),
    },
    live: {
      watch: (_id, tell) => {
        hear = tell
        return () => (hear = () => undefined)
      },
    },
    client: (project, assets, count, events) =>
      new BenchClient(project, assets, count, events, { workers, nextFrame: (go) => void setTimeout(go, 16) }),
    studio: (assets) => new Studio(assets),
    page: {
      listen: (told) => {
        on = told
        return () => undefined
      },
      loadAgain: (why) => near.loadedAgain.push(why) > 0,
    },
  }
  return near
}
