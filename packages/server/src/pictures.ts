import type { Problem } from '@moth-lamp/core/base'
import { assetsOf } from '@moth-lamp/core/project'
import type { Database } from './database.ts'
import type { Store } from './store.ts'
import type { Workroom } from './work/workroom.ts'

/** Counts the ways of painting: pictures made by another are made anew. */
const maker = 1

export type Picture = { png: Buffer; problem: null } | { png: null; problem: Problem }

/** Pictures of start pages for the shelf: made beside the thread of requests, kept for the revision they show. */
export class Pictures {
  private making = new Map<string, Promise<Picture>>()

  constructor(
    private db: Database,
    private store: Store,
    private work: Workroom,
  ) {}

  async of(id: string): Promise<Picture> {
    const [head] = await this.store.newest([id])
    const kept = await this.db.selectFrom('pictures').selectAll().where('project_id', '=', id).executeTakeFirst()
    if (head && kept?.revision === head.revision && kept.maker === maker)
      return kept.png ? { png: kept.png, problem: null } : { png: null, problem: kept.problem! }
    let making = this.making.get(id)
    if (!making) {
      making = this.make(id).finally(() => this.making.delete(id))
      this.making.set(id, making)
    }
    return making
  }

  private async make(id: string): Promise<Picture> {
    const { project, revision } = await this.store.open(id)
    const made = await this.work.picture(project, await this.store.assetsFor(assetsOf(project)))
    const picture: Picture = made.ok ? { png: Buffer.from(made.value), problem: null } : { png: null, problem: made.problem }
    const row = { revision, maker, png: picture.png, problem: picture.problem && JSON.stringify(picture.problem) }
    await this.db
      .insertInto('pictures')
      .values({ project_id: id, ...row })
      .onConflict((c) => c.column('project_id').doUpdateSet(row))
      .execute()
    return picture
  }
}
