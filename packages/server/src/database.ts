import { Kysely, PostgresDialect, Migrator, sql, type Generated, type Migration, type ColumnType } from 'kysely'
import pg from 'pg'
import type { Problem } from '@moth-lamp/core/base'
import * as first from './migrations/001-first.ts'
import * as forms from './migrations/002-forms.ts'
import * as profiles from './migrations/003-profiles.ts'
import * as assets from './migrations/004-assets.ts'

export interface ProjectTable {
  id: string
  name: string
  revision: number
  /** The form of the document at this revision. */
  form: number
  /** Summary for the shelf, kept beside the document so that listing needs no document. */
  summary: ColumnType<{ width: number; height: number; link: string; exchanges: number }, string, string>
  updated_at: ColumnType<Date, never, Date>
  deleted_at: ColumnType<Date | null, never, Date | null>
}

export interface ChangeTable {
  project_id: string
  revision: number
  change_id: string
  edit: string
  args: ColumnType<unknown, string, never>
  patches: ColumnType<unknown, string, never>
  /** The form of the document after it. */
  form: number
  saved_at: ColumnType<Date, never, never>
}

export interface SnapshotTable {
  project_id: string
  revision: number
  form: number
  document: string
}

export interface AssetTable {
  sha: string
  bytes: Buffer
  sent_at: ColumnType<Date, Date | undefined, Date>
}

export interface PictureTable {
  project_id: string
  revision: number
  /** Which way of painting made it. */
  maker: number
  png: Buffer | null
  /** Why there is none. */
  problem: ColumnType<Problem | null, string | null, string | null>
}

export interface ProfileTable {
  name: string
  panel: ColumnType<unknown, string, string>
}

export interface ResultTable {
  id: Generated<number>
  project_id: string
  exchange: string
  revision: number
  passed: boolean
  failed_step: string | null
  ran_at: ColumnType<Date, never, never>
}

export interface Tables {
  projects: ProjectTable
  changes: ChangeTable
  snapshots: SnapshotTable
  assets: AssetTable
  results: ResultTable
  pictures: PictureTable
  profiles: ProfileTable
}

export type Database = Kysely<Tables>

/** A pool that outlives the database: a lost connection is an error of one query, never of the process. */
export function connect(url: string, onLost: (error: Error) => void): Database {
  const pool = new pg.Pool({
    connectionString: url,
    max: 8,
    connectionTimeoutMillis: 4000,
    idleTimeoutMillis: 30_000,
    statement_timeout: 20_000,
  })
  pool.on('error', onLost)
  pool.on('connect', (client) => client.on('error', onLost))
  return new Kysely<Tables>({ dialect: new PostgresDialect({ pool }) })
}

const migrations: Record<string, Migration> = {
  '001-first': first,
  '002-forms': forms,
  '003-profiles': profiles,
  '004-assets': assets,
}

export async function migrateToLatest(db: Database): Promise<void> {
  const { error } = await new Migrator({ db, provider: { getMigrations: () => Promise.resolve(migrations) } }).migrateToLatest()
  if (error) throw error instanceof Error ? error : new Error('the migration of the database failed')
}

export const ping = async (db: Database): Promise<void> => void (await sql`select 1`.execute(db))

/** Whether an error is the database being away, rather than a mistake of ours: classes 08 and 57 of SQLSTATE, or the socket. */
export function isAway(error: unknown): boolean {
  const { code, message } = error as { code?: string; message?: string }
  if (typeof code === 'string')
    return /^(08|57P|53300|25P03)/.test(code) || ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND'].includes(code)
  return /Connection terminated|timeout exceeded when trying to connect|not queryable|Client was closed/i.test(message ?? '')
}
