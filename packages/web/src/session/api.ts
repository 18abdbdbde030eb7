import type { ChangeId, Problem } from '@moth-lamp/core/base'
import type {
  ApiProblem,
  ExchangeRecord,
  ImportNote,
  KeptProfile,
  OpenedProject,
  ProjectSummary,
  SaveAnswer,
  SavedChange,
  SaveRequest,
} from '@moth-lamp/contract'

/** An answer of the server that is no success, in its own words. Without any answer, the status is 0. */
export class ServerProblem extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly status: number,
  ) {
    super(message)
  }

  /** Nobody there, or nobody who could do it now: the same again may succeed. */
  get away(): boolean {
    return this.status === 0 || this.status >= 502
  }

  get problem(): Problem {
    return { code: this.code, facts: { message: this.message } }
  }
}

async function call(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response
  try {
    response = await fetch(`/api${path}`, init)
  } catch {
    throw new ServerProblem('away', 'Cannot reach the server. Retrying; no changes are lost.', 0)
  }
  if (response.ok) return response
  const problem = (await response.json().catch(() => null)) as ApiProblem | null
  throw new ServerProblem(problem?.code ?? 'unknown', problem?.message ?? `Server error ${response.status}.`, response.status)
}

/** A request that outlives its page may carry so much, bytes. */
const mostAtLast = 60_000

const get = async <T>(path: string): Promise<T> => (await call(path)).json() as Promise<T>
function send(path: string, body: unknown, { method = 'POST', last = false } = {}): Promise<Response> {
  const text = JSON.stringify(body)
  const keepalive = last && text.length * 3 < mostAtLast
  return call(path, { method, headers: { 'content-type': 'application/json' }, body: text, keepalive })
}

/** The values of an answer that comes as one JSON text a line, as soon as each is there. */
async function* lines<T>(response: Response): AsyncGenerator<T> {
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  for (;;) {
    const { value, done } = await reader.read()
    if (done) return
    const parts = (rest + value).split('\n')
    rest = parts.pop()!
    for (const part of parts) if (part) yield JSON.parse(part) as T
  }
}

export const api = {
  projects: () => get<ProjectSummary[]>('/projects'),
  create: async (body: { name: string; width: number; height: number; diagonalInches: number }) =>
    (await send('/projects', body)).json() as Promise<{ id: string }>,
  /** Reads a project file, told how far the server is with its assets; the signal gives it up. */
  importFile: async (
    file: Blob,
    onProgress: (done: number, of: number) => void,
    signal: AbortSignal,
  ): Promise<{ id: string }> => {
    const headers = { 'content-type': 'application/zip', accept: 'application/x-ndjson' }
    const response = await call('/projects/import', { method: 'POST', headers, body: file, signal })
    for await (const note of lines<ImportNote>(response)) {
      if ('id' in note) return note
      if ('problem' in note) throw new ServerProblem(note.problem.code, note.problem.message, 422)
      onProgress(note.done, note.of)
    }
    throw new ServerProblem('cut off', 'The server stopped while reading the file. Try again.', 0)
  },
  /** Why there is no picture of a project; null when there is one after all. */
  pictureProblem: async (id: string): Promise<string | null> => {
    const failed = await call(`/projects/${id}/picture`).catch((error: unknown) => error)
    return failed instanceof ServerProblem ? failed.message : null
  },
  open: (id: string) => get<OpenedProject>(`/projects/${id}`),
  /** `last`: the page is about to be gone, and the request should outlive it. */
  save: async (id: string, request: SaveRequest, last: boolean) =>
    (await send(`/projects/${id}/changes`, request, { last })).json() as Promise<SaveAnswer>,
  changes: (id: string, since: number) =>
    get<{ revision: number; changes: SavedChange[] }>(`/projects/${id}/changes?since=${since}`),
  known: async (id: string, ids: readonly ChangeId[]) =>
    (await send(`/projects/${id}/known`, { ids })).json() as Promise<{ known: ChangeId[] }>,
  putAsset: async (sha: string, bytes: Uint8Array) =>
    void (await call(`/assets/${sha}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/octet-stream' },
      body: bytes as BodyInit,
    })),
  /** A WOFF2 file as the font that it was made of, or why it is not taken. */
  unpackFont: async (bytes: Uint8Array): Promise<Uint8Array | { why: string }> => {
    const headers = { 'content-type': 'application/octet-stream' }
    const answer = await call('/fonts/unpack', { method: 'POST', headers, body: bytes as BodyInit })
    const refused = answer.headers.get('content-type')?.startsWith('application/json')
    return refused ? ((await answer.json()) as { why: string }) : new Uint8Array(await answer.arrayBuffer())
  },
  asset: async (sha: string) => new Uint8Array(await (await call(`/assets/${sha}`)).arrayBuffer()),
  spendAddresses: async (id: string) =>
    (await call(`/projects/${id}/spend`, { method: 'POST' })).json() as Promise<{ spent: number; missing: string[] }>,
  profiles: () => get<KeptProfile[]>('/profiles'),
  keepProfile: (profile: KeptProfile) => send('/profiles', profile, { method: 'PUT' }),
  removeProfile: (name: string) => call(`/profiles?name=${encodeURIComponent(name)}`, { method: 'DELETE' }),
  duplicate: async (id: string) =>
    (await call(`/projects/${id}/duplicate`, { method: 'POST' })).json() as Promise<{ id: string }>,
  remove: async (id: string) => (await call(`/projects/${id}`, { method: 'DELETE' })).json() as Promise<unknown>,
  restore: async (id: string) => (await call(`/projects/${id}/restore`, { method: 'POST' })).json() as Promise<unknown>,
  results: (id: string) => get<ExchangeRecord[]>(`/projects/${id}/results`),
  addResult: async (id: string, result: Omit<ExchangeRecord, 'ranAt'>) =>
    (await send(`/projects/${id}/results`, result)).json() as Promise<unknown>,
}
