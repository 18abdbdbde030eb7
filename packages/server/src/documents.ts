import { newId, sameJson, type Problem, type Random } from '@moth-lamp/core/base'
import {
  applyPatches,
  currentForm,
  migrate,
  projectText,
  validateProject,
  withinMemory,
  type Patch,
  type Project,
} from '@moth-lamp/core/project'
import type { Transaction } from 'kysely'
import type { Database, Tables } from './database.ts'
import { HttpProblem } from './problem.ts'

/** Documents kept in memory, the least recently used goes first. */
const mostRemembered = 40

/** A document as it was after so many revisions. */
export interface Remembered {
  revision: number
  project: Project
}

/** Facts of the document in a row of `projects`. */
export interface Head {
  revision: number
  form: number
}

type Reading = Database | Transaction<Tables>

/**
 * The documents of projects, from snapshots and the changes after them. Stored ones grow: what a description has gained
 * is filled in and kept as a snapshot in place; one of an older form is migrated under its row's lock, as a revision of
 * its own, and nothing is replayed across it.
 */
export class Documents {
  private remembered = new Map<string, Remembered>()

  constructor(private random: Random) {}

  remember(id: string, document: Remembered): void {
    this.remembered.delete(id)
    this.remembered.set(id, document)
    const [oldest] = this.remembered.keys()
    if (this.remembered.size > mostRemembered && oldest) this.remembered.delete(oldest)
  }

  /** The document of a revision in the current form. Throws 409 for a newer form, 422 for one that cannot be read. */
  async at(db: Reading, id: string, { revision, form }: Head): Promise<Remembered> {
    if (form !== currentForm) throw new HttpProblem(409, 'api.newer-form', { found: form, known: currentForm })
    const known = this.remembered.get(id)
    if (known?.revision === revision) return known
    // The cached document has passed the gate, and so has every change after it.
    if (known && known.revision < revision)
      return { revision, project: (await replayed(db, id, known.revision, revision, known.project)) as Project }
    const stored = await this.stored(db, id, revision)
    const project = mustRead(validateProject(withinMemory(stored)))
    if (!sameJson(project, stored)) await keepSnapshot(db, id, revision, project)
    return { revision, project }
  }

  /** Stored document of a revision, in whatever form. */
  private async stored(db: Reading, id: string, revision: number): Promise<unknown> {
    const snapshot = await db
      .selectFrom('snapshots')
      .selectAll()
      .where('project_id', '=', id)
      .where('revision', '<=', revision)
      .orderBy('revision', 'desc')
      .executeTakeFirstOrThrow()
    return replayed(db, id, snapshot.revision, revision, JSON.parse(snapshot.document) as unknown)
  }

  /**
   * A document of an older form as one of the current form, one revision later. The row of the project must be locked.
   * Returns what it has become; the row itself is the caller's to write.
   */
  async migrated(trx: Transaction<Tables>, id: string, { revision, form }: Head): Promise<Remembered> {
    const current = migrate(await this.stored(trx, id, revision))
    const project = mustRead(current.ok ? validateProject(withinMemory(current.value)) : current)
    const next = revision + 1
    await trx
      .insertInto('changes')
      .values({
        project_id: id,
        revision: next,
        change_id: newId('change', this.random),
        edit: 'migrate',
        args: JSON.stringify({ from: form, to: currentForm }),
        patches: '[]',
        form: currentForm,
      })
      .execute()
    await keepSnapshot(trx, id, next, project)
    return { revision: next, project }
  }
}

/** The document after the changes of `from` + 1 … `until`. */
async function replayed(db: Reading, id: string, from: number, until: number, document: unknown): Promise<unknown> {
  if (from === until) return document
  const changes = await db
    .selectFrom('changes')
    .select(['revision', 'patches', 'edit'])
    .where('project_id', '=', id)
    .where('revision', '>', from)
    .where('revision', '<=', until)
    .orderBy('revision')
    .execute()
  let at = document
  for (const { revision, patches, edit } of changes) {
    if (edit === 'migrate') throw new Error(`replay of ${id} would cross the forms at ${revision}`)
    const next = applyPatches(at, patches as Patch[])
    if (next === null)
      throw new HttpProblem(422, 'api.damaged', { where: `revision ${revision}`, why: 'it does not fit the one before' })
    at = next
  }
  return at
}

export async function keepSnapshot(db: Reading, id: string, revision: number, project: Project): Promise<void> {
  const row = { document: projectText(project), form: currentForm }
  await db
    .insertInto('snapshots')
    .values({ project_id: id, revision, ...row })
    .onConflict((c) => c.columns(['project_id', 'revision']).doUpdateSet(row))
    .execute()
}

function mustRead(result: { ok: true; value: Project } | { ok: false; problem: Problem }): Project {
  if (result.ok) return result.value
  const { facts } = result.problem
  throw new HttpProblem(422, 'api.damaged', {
    where: String(facts['path'] ?? 'the document'),
    why: String(facts['message'] ?? result.problem.code),
  })
}
