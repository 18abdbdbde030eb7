import { panelOfToday, panelSchema, panelSettings } from '@moth-lamp/core/project'
import type { KeptProfile } from '@moth-lamp/contract'
import type { Database } from './database.ts'
import { HttpProblem } from './problem.ts'

/** Profiles that are kept at most. */
const most = 300

/** Panel profiles that projects share: a module is described once, and every project for it begins with that. */
export class Profiles {
  constructor(private db: Database) {}

  /** By name. What a profile has gained since it was kept is filled in, what was reshaped is reshaped; one that can be read no more is left out. */
  async list(): Promise<KeptProfile[]> {
    const rows = await this.db.selectFrom('profiles').selectAll().orderBy('name').execute()
    return rows.flatMap(({ name, panel }) => {
      const filled = panelSettings.fill(panelOfToday(panel))
      return filled.ok && !panelSchema.validate(filled.value).error ? [{ name, panel: filled.value }] : []
    })
  }

  /** Keeps a profile under a name; another of that name is replaced. */
  async keep({ name, panel }: KeptProfile): Promise<void> {
    const { count } = await this.db
      .selectFrom('profiles')
      .select((e) => e.fn.countAll<string>().as('count'))
      .where('name', '!=', name)
      .executeTakeFirstOrThrow()
    if (Number(count) >= most) throw new HttpProblem(422, 'api.many-profiles', { most })
    const row = { panel: JSON.stringify(panel) }
    await this.db
      .insertInto('profiles')
      .values({ name, ...row })
      .onConflict((c) => c.column('name').doUpdateSet(row))
      .execute()
  }

  async remove(name: string): Promise<void> {
    await this.db.deleteFrom('profiles').where('name', '=', name).execute()
  }
}
