import { sql, type Kysely } from 'kysely'

/** Projects; revisions as rows of changes; a snapshot now and then; assets by hash; how exchanges went. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('projects')
    .addColumn('id', 'text', (c) => c.primaryKey())
    .addColumn('name', 'text', (c) => c.notNull())
    .addColumn('revision', 'integer', (c) => c.notNull())
    .addColumn('summary', 'jsonb', (c) => c.notNull())
    .addColumn('updated_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .addColumn('deleted_at', 'timestamptz')
    .execute()
  await db.schema
    .createTable('changes')
    .addColumn('project_id', 'text', (c) => c.notNull().references('projects.id').onDelete('cascade'))
    .addColumn('revision', 'integer', (c) => c.notNull())
    .addColumn('change_id', 'text', (c) => c.notNull())
    .addColumn('edit', 'text', (c) => c.notNull())
    .addColumn('args', 'jsonb', (c) => c.notNull())
    .addColumn('patches', 'jsonb', (c) => c.notNull())
    .addColumn('saved_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .addPrimaryKeyConstraint('changes_pk', ['project_id', 'revision'])
    .addUniqueConstraint('changes_once', ['project_id', 'change_id'])
    .execute()
  await db.schema
    .createTable('snapshots')
    .addColumn('project_id', 'text', (c) => c.notNull().references('projects.id').onDelete('cascade'))
    .addColumn('revision', 'integer', (c) => c.notNull())
    .addColumn('document', 'text', (c) => c.notNull())
    .addPrimaryKeyConstraint('snapshots_pk', ['project_id', 'revision'])
    .execute()
  await db.schema
    .createTable('assets')
    .addColumn('sha', 'text', (c) => c.primaryKey())
    .addColumn('bytes', 'bytea', (c) => c.notNull())
    .execute()
  await db.schema
    .createTable('results')
    .addColumn('id', 'bigserial', (c) => c.primaryKey())
    .addColumn('project_id', 'text', (c) => c.notNull().references('projects.id').onDelete('cascade'))
    .addColumn('exchange', 'text', (c) => c.notNull())
    .addColumn('revision', 'integer', (c) => c.notNull())
    .addColumn('passed', 'boolean', (c) => c.notNull())
    .addColumn('failed_step', 'text')
    .addColumn('ran_at', 'timestamptz', (c) => c.notNull().defaultTo(sql`now()`))
    .execute()
  await db.schema.createIndex('results_by_project').on('results').columns(['project_id', 'exchange', 'id']).execute()
}
