import { EventEmitter } from 'node:events'
import pg from 'pg'
import { sql, type Transaction } from 'kysely'
import type { Logger } from 'pino'
import { noteSchema, type LiveNote } from '@moth-lamp/contract'
import type { Database, Tables } from './database.ts'

const channel = 'moth_lamp_commits'
const retryMs = [100, 500, 1000, 2000, 5000]

/** Says in a transaction that a project has a new revision: everyone hears it once, and only if, it is committed. */
export async function announce(trx: Transaction<Tables>, note: LiveNote): Promise<void> {
  await sql`select pg_notify(${channel}, ${JSON.stringify(note)})`.execute(trx)
}

/**
 * Commits to the database, by whichever server process: heard by LISTEN on a connection of its own. When that
 * connection was lost, the revisions of all that is watched are read again, so that no commit goes unheard.
 */
export class Commits {
  private heard = new EventEmitter().setMaxListeners(0)
  private client: pg.Client | null = null
  private stopped = false
  private failures = 0
  private timer: NodeJS.Timeout | undefined

  constructor(
    private url: string,
    private db: Database,
    private log: Logger,
  ) {}

  async start(): Promise<void> {
    await this.connect()
  }

  private async connect(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, application_name: 'moth-lamp commits', keepAlive: true })
    client.on('notification', ({ payload }) => this.hear(payload ?? ''))
    client.on('error', (error) => this.lost(client, error))
    client.on('end', () => this.lost(client, new Error('the connection ended')))
    this.client = client
    try {
      await client.connect()
      await client.query(`listen ${channel}`)
      this.failures = 0
      await this.readAgain()
    } catch (error) {
      this.lost(client, error)
    }
  }

  /** Anyone who may write to the database may announce: what is not a note of ours is passed over. */
  private hear(payload: string): void {
    try {
      const { value, error } = noteSchema.validate(JSON.parse(payload))
      if (error) throw error
      this.tell(value as LiveNote)
    } catch (error) {
      this.log.warn({ err: error, payload: payload.slice(0, 200) }, 'an announcement cannot be read')
    }
  }

  private lost(client: pg.Client, error: unknown): void {
    if (this.client !== client) return
    this.client = null
    void client.end().catch(() => undefined)
    if (this.stopped) return
    this.log.warn({ err: error }, 'commits are not heard of; connecting again')
    const wait = retryMs[Math.min(this.failures++, retryMs.length - 1)]!
    this.timer = setTimeout(() => void this.connect(), wait)
  }

  /** Tells the newest revision of everything that is watched. */
  private async readAgain(): Promise<void> {
    const watched = this.heard.eventNames() as string[]
    if (!watched.length) return
    const rows = await this.db.selectFrom('projects').select(['id', 'revision', 'form']).where('id', 'in', watched).execute()
    for (const { id, revision, form } of rows) this.tell({ project: id, revision, form })
  }

  private tell(note: LiveNote): void {
    this.heard.emit(note.project, note)
  }

  watch(project: string, tell: (note: LiveNote) => void): void {
    this.heard.on(project, tell)
  }

  unwatch(project: string, tell: (note: LiveNote) => void): void {
    this.heard.off(project, tell)
  }

  async stop(): Promise<void> {
    this.stopped = true
    clearTimeout(this.timer)
    const client = this.client
    this.client = null
    await client?.end().catch(() => undefined)
  }
}
