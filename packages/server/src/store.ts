import { EventEmitter } from 'node:events'
import { newId, type ChangeId, type Problem, type Random } from '@moth-lamp/core/base'
import { linkInWords } from '@moth-lamp/core/frames'
import { applyPatches, passGate, projectText, type Patch, type Project, type Request } from '@moth-lamp/core/project'
import type { ExchangeRecord, OpenedProject, ProjectSummary, SaveAnswer, SavedChange } from '@moth-lamp/contract'
import type { Transaction } from 'kysely'
import type { Database, Tables } from './database.ts'
import { HttpProblem } from './problem.ts'

/** A canonical text of the whole document is kept every so many revisions. */
const snapshotEvery = 100
/** Documents kept in memory, the least recently used goes first. */
const mostRemembered = 40

/** A batch that passed the gate. */
interface Batch {
  project: Project
  rows: { request: Request; patches: Patch[] }[]
}

interface Remembered {
  revision: number
  project: Project
}

/** What tests may reach into: the moment between the work of a transaction and its commit. */
export interface StoreHooks {
  beforeCommit?: () => Promise<void>
}

/**
 * Projects in PostgreSQL. A save is one transaction: the project's row is locked, the batch runs through the gate on the
 * document of that revision, changes become rows. Windows are told after the commit.
 */
export class Store {
  /** Emits a project's id with its new revision, after the commit. */
  readonly saved = new EventEmitter().setMaxListeners(0)
  private remembered = new Map<string, Remembered>()

  constructor(
    private db: Database,
    private random: Random,
    private hooks: StoreHooks = {},
  ) {}

  private remember(id: string, document: Remembered): void {
    this.remembered.delete(id)
    this.remembered.set(id, document)
    const [oldest] = this.remembered.keys()
    if (this.remembered.size > mostRemembered && oldest) this.remembered.delete(oldest)
  }

  async list(): Promise<ProjectSummary[]> {
    const rows = await this.db.selectFrom('projects').selectAll().orderBy('updated_at', 'desc').limit(500).execute()
    const passed = await this.passedCounts()
    return rows.map(({ id, name, revision, summary, updated_at, deleted_at }) => ({
      id,
      name,
      revision,
      ...summary,
      passed: passed.get(id) ?? null,
      updatedAt: updated_at.toISOString(),
      deletedAt: deleted_at?.toISOString() ?? null,
    }))
  }

  private async passedCounts(): Promise<Map<string, number>> {
    const latest = await this.db
      .selectFrom('results')
      .select(['project_id', 'exchange', 'passed'])
      .distinctOn(['project_id', 'exchange'])
      .orderBy('project_id')
      .orderBy('exchange')
      .orderBy('id', 'desc')
      .execute()
    const counts = new Map<string, number>()
    for (const { project_id, passed } of latest) counts.set(project_id, (counts.get(project_id) ?? 0) + (passed ? 1 : 0))
    return counts
  }

  /** Puts a whole document in as a new project at revision 0, with its assets. */
  async create(project: Project, assets: ReadonlyMap<string, Uint8Array>): Promise<string> {
    const id = newId('project', this.random)
    await this.db.transaction().execute(async (trx) => {
      for (const [sha, bytes] of assets)
        await trx
          .insertInto('assets')
          .values({ sha, bytes: Buffer.from(bytes) })
          .onConflict((c) => c.column('sha').doNothing())
          .execute()
      await trx
        .insertInto('projects')
        .values({ id, name: project.name, revision: 0, summary: summaryOf(project) })
        .execute()
      await trx
        .insertInto('snapshots')
        .values({ project_id: id, revision: 0, document: projectText(project) })
        .execute()
    })
    return id
  }

  async open(id: string): Promise<OpenedProject> {
    const row = await this.db
      .selectFrom('projects')
      .select(['revision'])
      .where('id', '=', id)
      .where('deleted_at', 'is', null)
      .executeTakeFirst()
    if (!row) throw new HttpProblem(404, 'api.no-project')
    const { revision, project } = await this.documentAt(this.db, id, row.revision)
    return { id, revision, project }
  }

  /** The document of a revision: what is remembered, or the snapshot before it and the changes since. */
  private async documentAt(db: Database | Transaction<Tables>, id: string, revision: number): Promise<Remembered> {
    const known = this.remembered.get(id)
    if (known?.revision === revision) return known
    let from: Remembered
    if (known && known.revision < revision) from = known
    else {
      const snapshot = await db
        .selectFrom('snapshots')
        .selectAll()
        .where('project_id', '=', id)
        .where('revision', '<=', revision)
        .orderBy('revision', 'desc')
        .executeTakeFirstOrThrow()
      from = { revision: snapshot.revision, project: JSON.parse(snapshot.document) as Project }
    }
    const changes = await db
      .selectFrom('changes')
      .select(['patches'])
      .where('project_id', '=', id)
      .where('revision', '>', from.revision)
      .where('revision', '<=', revision)
      .orderBy('revision')
      .execute()
    let { project } = from
    for (const { patches } of changes)
      project = applyPatches(project, patches as Patch[]) ?? fault(`the changes of ${id} do not fit`)
    const document = { revision, project }
    if (db === this.db) this.remember(id, document)
    return document
  }

  async changesSince(id: string, since: number): Promise<{ revision: number; changes: SavedChange[] }> {
    const row = await this.db
      .selectFrom('projects')
      .select(['revision'])
      .where('id', '=', id)
      .where('deleted_at', 'is', null)
      .executeTakeFirst()
    if (!row) throw new HttpProblem(404, 'api.no-project')
    const changes = await this.changesBetween(this.db, id, since, row.revision)
    return { revision: row.revision, changes }
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
    return rows.map((r) => ({
      revision: r.revision,
      changeId: r.change_id as ChangeId,
      edit: r.edit,
      patches: r.patches as Patch[],
    }))
  }

  /** Saves a batch: see `SaveAnswer`. Idempotent by change id. */
  async save(id: string, base: number, requests: readonly Request[]): Promise<SaveAnswer> {
    let committed: Remembered | null = null
    const answer = await this.db.transaction().execute(async (trx): Promise<SaveAnswer> => {
      const row = await trx
        .selectFrom('projects')
        .select(['revision'])
        .where('id', '=', id)
        .where('deleted_at', 'is', null)
        .forUpdate()
        .executeTakeFirst()
      if (!row) throw new HttpProblem(404, 'api.no-project')
      const known = await trx
        .selectFrom('changes')
        .select('change_id')
        .where('project_id', '=', id)
        .where(
          'change_id',
          'in',
          requests.map((r) => r.changeId),
        )
        .execute()
      const saved = new Set(known.map((k) => k.change_id))
      const fresh = requests.filter((r) => !saved.has(r.changeId))
      if (base !== row.revision) {
        if (base > row.revision) throw new HttpProblem(400, 'api.request', { why: `revision ${base} is not there yet` })
        return { outcome: 'behind', revision: row.revision, changes: await this.changesBetween(trx, id, base, row.revision) }
      }
      if (!fresh.length) return { outcome: 'saved', revision: row.revision }
      const result = this.runBatch(await this.documentAt(trx, id, row.revision), fresh)
      if ('problem' in result) return { outcome: 'refused', changeId: result.changeId, problem: result.problem }
      await this.write(trx, id, row.revision, result)
      await this.hooks.beforeCommit?.()
      committed = { revision: row.revision + result.rows.length, project: result.project }
      return { outcome: 'saved', revision: committed.revision }
    })
    if (committed) {
      this.remember(id, committed)
      this.saved.emit(id, (committed as Remembered).revision)
    }
    return answer
  }

  private runBatch(document: Remembered, requests: readonly Request[]): Batch | { changeId: ChangeId; problem: Problem } {
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
        })),
      )
      .execute()
    await trx
      .updateTable('projects')
      .set({ revision: last, name: project.name, summary: summaryOf(project), updated_at: new Date() })
      .where('id', '=', id)
      .execute()
    if (Math.floor(last / snapshotEvery) > Math.floor(revision / snapshotEvery))
      await trx
        .insertInto('snapshots')
        .values({ project_id: id, revision: last, document: projectText(project) })
        .execute()
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

const summaryOf = (project: Project): string =>
  JSON.stringify({
    width: project.panel.width,
    height: project.panel.height,
    link: `${project.layout.name} ${linkInWords(project.link)}`,
    exchanges: project.exchangeOrder.length,
  })

const fault = (what: string): never => {
  throw new Error(what)
}
