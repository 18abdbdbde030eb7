import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { ChangeId, Problem } from '@moth-lamp/core/base'
import { currentForm, migrateRequest, type Request } from '@moth-lamp/core/project'
import type { SetAside } from '@moth-lamp/core/saver'

/** An edit that is not saved yet, or was set aside: under its change id, whichever window made it. */
interface Row {
  changeId: ChangeId
  project: string
  /** The form of the document it was made on. */
  form: number
  request: Request
  /** When it was made, for the order: ms since 1970, and a count within this window. */
  atMs: number
  count: number
}

interface Kept extends DBSchema {
  edits: { key: string; value: Row; indexes: { project: string } }
  /** Files that the server has not yet, under their SHA-256. */
  assets: { key: string; value: { sha: string; bytes: Uint8Array } }
  aside: { key: string; value: Row & { problem: Problem }; indexes: { project: string } }
}

const name = 'moth-lamp-edits'
/** Before edits had rows of their own, each window kept its whole queue under `project owner` in this database. */
const formerName = 'moth-lamp'

let opened: Promise<IDBPDatabase<Kept>> | null = null
const database = (): Promise<IDBPDatabase<Kept>> =>
  (opened ??= openDB<Kept>(name, 2, {
    upgrade(db, from) {
      if (from < 1) {
        db.createObjectStore('edits', { keyPath: 'changeId' }).createIndex('project', 'project')
        db.createObjectStore('aside', { keyPath: 'changeId' }).createIndex('project', 'project')
      }
      if (from < 2) db.createObjectStore('assets', { keyPath: 'sha' })
    },
    // A later version of the page may need it in another shape: then this one lets go.
    blocking: (_now, _wanted, event) => (event.target as IDBDatabase).close(),
    terminated: () => (opened = null),
  }).catch((error: unknown) => {
    opened = null
    throw error
  }))

let count = 0

/** Adds an edit to what is not saved. The transaction is committed at once, so that a window closed right after keeps it. */
export async function keepEdit(project: string, request: Request): Promise<void> {
  const transaction = (await database()).transaction('edits', 'readwrite')
  const row: Row = { changeId: request.changeId, project, form: currentForm, request, atMs: Date.now(), count: count++ }
  void transaction.store.put(row)
  transaction.commit()
  await transaction.done
}

/** Keeps a file until the server has it. */
export async function keepAsset(sha: string, bytes: Uint8Array): Promise<void> {
  const transaction = (await database()).transaction('assets', 'readwrite')
  void transaction.store.put({ sha, bytes })
  transaction.commit()
  await transaction.done
}

/** Files that wait for the server; those of edits of other windows too. */
export const keptAssets = async (): Promise<{ sha: string; bytes: Uint8Array }[]> => (await database()).getAll('assets')

export const letAssetGo = async (sha: string): Promise<void> => (await database()).delete('assets', sha)

export async function letGo(ids: readonly ChangeId[], aside: boolean): Promise<void> {
  const transaction = (await database()).transaction(['edits', 'aside'], 'readwrite')
  for (const id of ids) {
    void transaction.objectStore('edits').delete(id)
    if (aside) void transaction.objectStore('aside').delete(id)
  }
  transaction.commit()
  await transaction.done
}

/** From what is to be saved to what never will be, in one step. */
export async function keepAside(project: string, { request, problem }: SetAside): Promise<void> {
  const transaction = (await database()).transaction(['edits', 'aside'], 'readwrite')
  const { changeId } = request
  const row = { changeId, project, form: currentForm, request, problem, atMs: Date.now(), count: count++ }
  void transaction.objectStore('edits').delete(changeId)
  void transaction.objectStore('aside').put(row)
  transaction.commit()
  await transaction.done
}

export interface Left {
  requests: Request[]
  aside: SetAside[]
  /** Edits made by a later version of this page: they wait for it. */
  later: number
}

/** Queued edits of a project from any window, in the order it was made; edits of older forms as ones of today. */
export async function leftBehind(project: string): Promise<Left> {
  await takeFormerQueues()
  const db = await database()
  const [edits, aside] = await Promise.all([
    db.getAllFromIndex('edits', 'project', project),
    db.getAllFromIndex('aside', 'project', project),
  ])
  const byTime = (a: Row, b: Row) => a.atMs - b.atMs || a.count - b.count
  const left: Left = { requests: [], aside: [], later: 0 }
  for (const { request, form } of edits.sort(byTime)) {
    const today = migrateRequest(request, form)
    if (today.ok) left.requests.push(today.value)
    else if (form > currentForm) left.later++
    else left.aside.push({ request, problem: today.problem })
  }
  for (const { request, form, problem } of aside.sort(byTime)) {
    const today = migrateRequest(request, form)
    left.aside.push({ request: today.ok ? today.value : request, problem })
  }
  return left
}

/** Queues of windows of the time when each kept its own: form 2. The rows go, the database stays: such a window may be open. */
async function takeFormerQueues(): Promise<void> {
  if (!(await indexedDB.databases()).some((found) => found.name === formerName)) return
  const former = await openDB(formerName)
  try {
    if (!former.objectStoreNames.contains('unsaved')) return
    const keys = (await former.getAllKeys('unsaved')) as string[]
    const rows: Row[] = []
    for (const key of keys)
      for (const request of (await former.get('unsaved', key)) as Request[])
        rows.push({ changeId: request.changeId, project: key.split(' ', 1)[0]!, form: 2, request, atMs: 0, count: rows.length })
    if (!rows.length) return
    const transaction = (await database()).transaction('edits', 'readwrite')
    for (const row of rows) void transaction.store.put(row)
    transaction.commit()
    await transaction.done
    for (const key of keys) await former.delete('unsaved', key)
  } finally {
    former.close()
  }
}
