import { sql, type Kysely } from 'kysely'

/** When an asset was last sent: those that nothing names are kept for a while, since what names them may be on its way. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .alterTable('assets')
    .addColumn('sent_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .execute()
}
