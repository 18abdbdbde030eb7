import { createStore, del, entries, set } from 'idb-keyval'
import type { Request } from '@moth-lamp/core/project'

const store = createStore('moth-lamp', 'unsaved')
const windowId = crypto.randomUUID()
const lockOf = (id: string) => `moth-lamp window ${id}`

// As long as this window is open it holds a lock by its name: what stands under a name without a lock was left behind.
if (navigator.locks) void navigator.locks.request(lockOf(windowId), () => new Promise(() => undefined))

const key = (project: string, owner: string) => `${project} ${owner}`

/** Keeps what is not saved yet, so that a closed window loses nothing. */
export const keepUnsaved = (project: string, requests: Request[]): Promise<void> =>
  requests.length ? set(key(project, windowId), requests, store) : del(key(project, windowId), store)

/** Takes over what windows that are gone have left unsaved for a project. */
export async function leftBehind(project: string): Promise<Request[]> {
  const held = new Set((await navigator.locks?.query())?.held?.map((lock) => lock.name))
  const out: Request[] = []
  const taken: string[] = []
  for (const [found, requests] of (await entries(store)) as [string, Request[]][]) {
    const [of, owner] = found.split(' ')
    if (of !== project || !owner || owner === windowId || held.has(lockOf(owner))) continue
    out.push(...requests)
    taken.push(found)
  }
  // First under this window's name, then away from the old ones: at no moment is it nowhere.
  if (out.length) await set(key(project, windowId), out, store)
  for (const old of taken) await del(old, store)
  return out
}
