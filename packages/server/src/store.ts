import { newId, sameJson, type ChangeId, type Problem, type Random } from '@moth-lamp/core/base'
import {
  currentForm,
  passGate,
  unspentAddresses,
  unspentNumbers,
  type Patch,
  type Project,
  type Request,
} from '@moth-lamp/core/project'
import type {
  ExchangeRecord,
  LiveNote,
  OpenedProject,
  ProjectSummary,
  SaveAnswer,
  SavedChange,
  SaveRequest,
} from '@moth-lamp/contract'
import { sql, type Transaction } from 'kysely'
import type { Database, Tables } from './database.ts'
import { announce } from './commits.ts'
import { Documents, keepSnapshot, type Head, type Remembered } from './documents.ts'
import { HttpProblem } from './problem.ts'
import { summaryOf, written, type Written } from './summary.ts'

/** A canonical text of the whole document is kept every so many revisions. */
const snapshotEvery = 100
/** A batch that passed the gate. */
interface Batch {
  project: Project
  rows: { request: Request; patches: Patch[] }[]
}

/** Hook for tests: the moment between the work of a transaction and its commit. */
export interface StoreHooks {
  beforeCommit?: () => Promise<void>
}

/**
 * Projects in PostgreSQL. A save is one transaction: the project's row is locked, the batch runs through the gate on the
 * document of that revision, changes become rows. The commit itself tells whoever listens.
 */
export class Store {
  private documents: Documents

  constructor(
    private db: Database,
    private random: Random,
    private hooks: StoreHooks = {},
  ) {
    this.documents = new Documents(random)
  }

  async list(): Promise<ProjectSummary[]> {
    const rows = await this.db.selectFrom('projects').selectAll().orderBy('updated_at', 'desc').limit(500).execute()
    const verdicts = await this.verdicts()
    return rows.map(({ id, name, revision, summary, updated_at, deleted_at }) => ({
      id,
      name,
      revision,
      ...summary,
      passed: verdicts.get(id)?.passed ?? null,
      failed: verdicts.get(id)?.failed ?? null,
      updatedAt: updated_at.toISOString(),
      deletedAt: deleted_at?.toISOString() ?? null,
    }))
  }

  /** By project, how many exchanges passed and failed when each was last run. */
  private async verdicts(): Promise<Map<string, { passed: number; failed: number }>> {
    const latest = await this.db
      .selectFrom('results')
      .select(['project_id', 'exchange', 'passed'])
      .distinctOn(['project_id', 'exchange'])
      .orderBy('project_id')
      .orderBy('exchange')
      .orderBy('id', 'desc')
      .execute()
    const counts = new Map<string, { passed: number; failed: number }>()
    for (const { project_id, passed } of latest) {
      const count = counts.get(project_id) ?? { passed: 0, failed: 0 }
      count[passed ? 'passed' : 'failed']++
      counts.set(project_id, count)
    }
    return counts
  }

  /** Puts a whole document in as a new project at revision 0. Its assets must be there, or come with it. */
  async create(project: Project | Written, assets: ReadonlyMap<string, Uint8Array> = new Map()): Promise<string> {
    const id = newId('project', this.random)
    const { text, name, summary } = 'text' in project ? project : written(project)
    for (const [sha, bytes] of assets) await this.addAsset(sha, bytes)
    await this.db.transaction().execute(async (trx) => {
      await trx.insertInto('projects').values({ id, name, revision: 0, form: currentForm, summary }).execute()
      await trx.insertInto('snapshots').values({ project_id: id, revision: 0, form: currentForm, document: text }).execute()
    })
    return id
  }

  /** The caller has checked that the bytes are what their name says. */
  async addAsset(sha: string, bytes: Uint8Array): Promise<void> {
    await this.db
      .insertInto('assets')
      .values({ sha, bytes: Buffer.from(bytes) })
      .onConflict((c) => c.column('sha').doUpdateSet({ sent_at: new Date() }))
      .execute()
  }

  /** The newest revision of a project; one of an older form is brought up first. */
  async open(id: string): Promise<OpenedProject> {
    const row = await this.head(id)
    const document = row.form < currentForm ? await this.bringUp(id) : await this.documents.at(this.db, id, row)
    this.documents.remember(id, document)
    return { id, ...document }
  }

  private async head(id: string): Promise<Head> {
    const row = await this.db
      .selectFrom('projects')
      .select(['revision', 'form'])
      .where('id', '=', id)
      .where('deleted_at', 'is', null)
      .executeTakeFirst()
    return row ?? missing()
  }

  /** Migrates the document of a project under its row's lock, unless another has just done it. */
  private async bringUp(id: string): Promise<Remembered> {
    return this.db.transaction().execute(async (trx) => {
      const row = await this.locked(trx, id)
      if (row.form === currentForm) return this.documents.at(trx, id, row)
      const document = await this.documents.migrated(trx, id, row)
      await this.writeHead(trx, id, document)
      return document
    })
  }

  private async locked(trx: Transaction<Tables>, id: string): Promise<Head> {
    const row = await trx
      .selectFrom('projects')
      .select(['revision', 'form'])
      .where('id', '=', id)
      .where('deleted_at', 'is', null)
      .forUpdate()
      .executeTakeFirst()
    return row ?? missing()
  }

  private async writeHead(trx: Transaction<Tables>, id: string, { revision, project }: Remembered): Promise<void> {
    await trx
      .updateTable('projects')
      .set({ revision, form: currentForm, name: project.name, summary: summaryOf(project), updated_at: new Date() })
      .where('id', '=', id)
      .execute()
    await announce(trx, { project: id, revision, form: currentForm })
  }

  /** The newest revisions of projects, as windows are told them; nothing of those that are not there. */
  async newest(ids: readonly string[]): Promise<LiveNote[]> {
    return this.db.selectFrom('projects').select(['id as project', 'revision', 'form']).where('id', 'in', ids).execute()
  }

  /** Which of these changes are saved in a project. */
  async known(id: string, ids: readonly string[]): Promise<ChangeId[]> {
    await this.head(id)
    if (!ids.length) return []
    const rows = await this.db
      .selectFrom('changes')
      .select('change_id')
      .where('project_id', '=', id)
      .where('change_id', 'in', ids)
      .execute()
    return rows.map((row) => row.change_id as ChangeId)
  }

  /** Changes saved after a revision. Throws 409 where the document has changed its form since, or has no such revision. */
  async changesSince(id: string, since: number): Promise<{ revision: number; changes: SavedChange[] }> {
    const { revision } = await this.head(id)
    return { revision, changes: await this.changesBetween(this.db, id, since, revision) }
  }

  private async changesBetween(
    db: Database | Transaction<Tables>,
    id: string,
    since: number,
    until: number,
  ): Promise<SavedChange[]> {
    const rows = await db
      .selectFrom('changes')
      .select(['revision', 'change_id', 'edit', 'patches'])
      .where('project_id', '=', id)
      .where('revision', '>', since)
      .where('revision', '<=', until)
      .orderBy('revision')
      .execute()
    if (since > until) throw new HttpProblem(409, 'api.other-history', { revision: since, newest: until })
    if (rows.some((r) => r.edit === 'migrate')) throw new HttpProblem(409, 'api.older-window', { form: currentForm })
    return rows.map((r) => ({
      revision: r.revision,
      changeId: r.change_id as ChangeId,
      edit: r.edit,
      patches: r.patches as Patch[],
    }))
  }

  /** Saves a batch that was made on a base revision: see `SaveAnswer`. Idempotent by change id. */
  async save(id: string, { form, base, changes: requests }: SaveRequest): Promise<SaveAnswer> {
    let committed: Remembered | null = null
    const answer = await this.db.transaction().execute(async (trx): Promise<SaveAnswer> => {
      const row = await this.locked(trx, id)
      if (form !== currentForm || row.form !== currentForm) throw new HttpProblem(409, 'api.older-window', { form: currentForm })
      const known = await this.knownAmong(trx, id, requests)
      const other = requests.find((r) => known.get(r.changeId) === 'other')
      if (other) return { outcome: 'refused', changeId: other.changeId, problem: { code: 'gate.id-taken', facts: {} } }
      if (base !== row.revision)
        return { outcome: 'behind', revision: row.revision, changes: await this.changesBetween(trx, id, base, row.revision) }
      if (known.size) return { outcome: 'known', changeIds: [...known.keys()] }
      const result = this.runBatch(await this.documents.at(trx, id, row), requests)
      if ('problem' in result) return { outcome: 'refused', changeId: result.changeId, problem: result.problem }
      committed = { revision: row.revision + result.rows.length, project: result.project }
      await this.write(trx, id, row.revision, result)
      await this.hooks.beforeCommit?.()
      return { outcome: 'saved', revision: committed.revision }
    })
    if (committed) this.documents.remember(id, committed)
    return answer
  }

  /**
   * Spends every address and number of a project, as a change of its own: it leaves the house now. Returns how many addresses were not
   * spent before. Tries again where somebody saves meanwhile.
   */
  async spendAddresses(id: string): Promise<number> {
    for (;;) {
      const { project, revision } = await this.open(id)
      const unspent = unspentAddresses(project).length
      if (!unspent && !unspentNumbers(project).length) return 0
      const change = { changeId: newId('change', this.random), edit: 'spend addresses', args: {} }
      const answer = await this.save(id, { form: currentForm, base: revision, changes: [change] })
      if (answer.outcome === 'saved') return unspent
      if (answer.outcome === 'refused') throw new HttpProblem(422, answer.problem.code, answer.problem.facts)
    }
  }

  /** Which of the requests have been saved before: the very same, or another under its id. */
  private async knownAmong(
    trx: Transaction<Tables>,
    id: string,
    requests: readonly Request[],
  ): Promise<Map<ChangeId, 'same' | 'other'>> {
    const rows = await trx
      .selectFrom('changes')
      .select(['change_id', 'edit', 'args'])
      .where('project_id', '=', id)
      .where(
        'change_id',
        'in',
        requests.map((r) => r.changeId),
      )
      .execute()
    return new Map(
      rows.map((row) => {
        const request = requests.find((r) => r.changeId === row.change_id)!
        const same = row.edit === request.edit && sameJson(row.args, request.args)
        return [request.changeId, same ? 'same' : 'other']
      }),
    )
  }

  private runBatch(
    document: { project: Project },
    requests: readonly Request[],
  ): Batch | { changeId: ChangeId; problem: Problem } {
    let { project } = document
    const rows: Batch['rows'] = []
    for (const request of requests) {
      const done = passGate(project, request)
      if (!done.ok) return { changeId: request.changeId, problem: done.problem }
      project = done.value.project
      rows.push({ request, patches: done.value.change.patches })
    }
    return { project, rows }
  }

  private async write(trx: Transaction<Tables>, id: string, revision: number, { project, rows }: Batch): Promise<void> {
    const last = revision + rows.length
    await trx
      .insertInto('changes')
      .values(
        rows.map(({ request, patches }, i) => ({
          project_id: id,
          revision: revision + 1 + i,
          change_id: request.changeId,
          edit: request.edit,
          args: JSON.stringify(request.args),
          patches: JSON.stringify(patches),
          form: currentForm,
        })),
      )
      .execute()
    await this.writeHead(trx, id, { revision: last, project })
    if (Math.floor(last / snapshotEvery) > Math.floor(revision / snapshotEvery)) await keepSnapshot(trx, id, last, project)
  }

  async asset(sha: string): Promise<Buffer> {
    const row = await this.db.selectFrom('assets').select('bytes').where('sha', '=', sha).executeTakeFirst()
    if (!row) throw new HttpProblem(404, 'api.no-asset')
    return row.bytes
  }

  async assetsFor(shas: readonly string[]): Promise<Map<string, Uint8Array>> {
    if (!shas.length) return new Map()
    const rows = await this.db.selectFrom('assets').selectAll().where('sha', 'in', shas).execute()
    return new Map(rows.map((r) => [r.sha, new Uint8Array(r.bytes)]))
  }

  /** Which of these assets there are. */
  async assetsThere(shas: readonly string[]): Promise<ReadonlySet<string>> {
    if (!shas.length) return new Set()
    const rows = await this.db.selectFrom('assets').select('sha').where('sha', 'in', shas).execute()
    return new Set(rows.map(({ sha }) => sha))
  }

  /**
   * Deletes the assets that no document and no change names, so long as they were not sent after `before`: what names them may be on
   * its way. What a project had once is kept, since an undo may want it. How many went.
   */
  async collectAssets(before: Date): Promise<number> {
    const { numAffectedRows } = await sql`
      with named as (
        select found[1] as sha from snapshots, regexp_matches(document, '"([0-9a-f]{64})"', 'g') as found
        union select found[1] from changes, regexp_matches(patches::text, '"([0-9a-f]{64})"', 'g') as found
        union select found[1] from changes, regexp_matches(args::text, '"([0-9a-f]{64})"', 'g') as found
      )
      delete from assets where sent_at < ${before} and not exists (select from named where named.sha = assets.sha)
    `.execute(this.db)
    return Number(numAffectedRows ?? 0)
  }

  /** To the history, or back from it. */
  async setDeleted(id: string, deleted: boolean): Promise<void> {
    const done = await this.db
      .updateTable('projects')
      .set({ deleted_at: deleted ? new Date() : null })
      .where('id', '=', id)
      .executeTakeFirst()
    if (!done.numUpdatedRows) throw new HttpProblem(404, 'api.no-project')
  }

  async addResult(id: string, result: Omit<ExchangeRecord, 'ranAt'>): Promise<void> {
    await this.open(id)
    await this.db
      .insertInto('results')
      .values({
        project_id: id,
        exchange: result.exchange,
        revision: result.revision,
        passed: result.passed,
        failed_step: result.failedStep,
      })
      .execute()
  }

  async results(id: string): Promise<ExchangeRecord[]> {
    const rows = await this.db
      .selectFrom('results')
      .selectAll()
      .distinctOn('exchange')
      .where('project_id', '=', id)
      .orderBy('exchange')
      .orderBy('id', 'desc')
      .execute()
    return rows.map((r) => ({
      exchange: r.exchange,
      revision: r.revision,
      passed: r.passed,
      failedStep: r.failed_step,
      ranAt: r.ran_at.toISOString(),
    }))
  }

  async isEmpty(): Promise<boolean> {
    return (await this.db.selectFrom('projects').select('id').limit(1).executeTakeFirst()) === undefined
  }
}

const missing = (): never => {
  throw new HttpProblem(404, 'api.no-project')
}
