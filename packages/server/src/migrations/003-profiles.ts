import type { Kysely } from 'kysely'

/** Panel profiles that projects share, by name. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('profiles')
    .addColumn('name', 'text', (c) => c.primaryKey())
    .addColumn('panel', 'jsonb', (c) => c.notNull())
    .execute()
}
