import type { Kysely } from 'kysely'

/**
 * Every document, change and snapshot says in which form it is (form 2 until now). The picture of a project is kept for
 * the revision it shows, with the reason where none could be made.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const table of ['projects', 'changes', 'snapshots']) {
    await db.schema
      .alterTable(table)
      .addColumn('form', 'integer', (c) => c.notNull().defaultTo(2))
      .execute()
    await db.schema
      .alterTable(table)
      .alterColumn('form', (c) => c.dropDefault())
      .execute()
  }
  await db.schema
    .createTable('pictures')
    .addColumn('project_id', 'text', (c) => c.primaryKey().references('projects.id').onDelete('cascade'))
    .addColumn('revision', 'integer', (c) => c.notNull())
    .addColumn('maker', 'integer', (c) => c.notNull())
    .addColumn('png', 'bytea')
    .addColumn('problem', 'jsonb')
    .execute()
}
