import type {
  ApiProblem,
  ExchangeRecord,
  OpenedProject,
  ProjectSummary,
  SaveAnswer,
  SavedChange,
  SaveRequest,
} from '@moth-lamp/contract'

/** An answer of the server that is no success, in its own words; `away` when there was no answer at all. */
export class ServerProblem extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly away: boolean,
  ) {
    super(message)
  }
}

async function call(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response
  try {
    response = await fetch(`/api${path}`, init)
  } catch {
    throw new ServerProblem('away', 'The server does not answer. It is tried again and again; nothing is lost.', true)
  }
  if (response.ok) return response
  const problem = (await response.json().catch(() => null)) as ApiProblem | null
  throw new ServerProblem(
    problem?.code ?? 'unknown',
    problem?.message ?? `The server answered ${response.status}.`,
    response.status >= 502,
  )
}

const get = async <T>(path: string): Promise<T> => (await call(path)).json() as Promise<T>
const send = (path: string, body: unknown): Promise<Response> =>
  call(path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })

export const api = {
  projects: () => get<ProjectSummary[]>('/projects'),
  create: async (body: { name: string; width: number; height: number; diagonalInches: number }) =>
    (await send('/projects', body)).json() as Promise<{ id: string }>,
  importFile: async (file: Blob) =>
    (
      await call('/projects/import', { method: 'POST', headers: { 'content-type': 'application/zip' }, body: file })
    ).json() as Promise<{ id: string }>,
  open: (id: string) => get<OpenedProject>(`/projects/${id}`),
  save: async (id: string, request: SaveRequest) =>
    (await send(`/projects/${id}/changes`, request)).json() as Promise<SaveAnswer>,
  changes: (id: string, since: number) =>
    get<{ revision: number; changes: SavedChange[] }>(`/projects/${id}/changes?since=${since}`),
  asset: async (sha: string) => new Uint8Array(await (await call(`/assets/${sha}`)).arrayBuffer()),
  duplicate: async (id: string) =>
    (await call(`/projects/${id}/duplicate`, { method: 'POST' })).json() as Promise<{ id: string }>,
  remove: async (id: string) => (await call(`/projects/${id}`, { method: 'DELETE' })).json() as Promise<unknown>,
  restore: async (id: string) => (await call(`/projects/${id}/restore`, { method: 'POST' })).json() as Promise<unknown>,
  results: (id: string) => get<ExchangeRecord[]>(`/projects/${id}/results`),
  addResult: async (id: string, result: Omit<ExchangeRecord, 'ranAt'>) =>
    (await send(`/projects/${id}/results`, result)).json() as Promise<unknown>,
}
