import type { LiveNote } from '@moth-lamp/contract'

type Batch = Map<string, LiveNote>

/**
 * The newest revisions of projects, read one query at a time: all that is asked for while one runs is read by the next. So
 * windows, however often they ask, hold one connection to the database and no more.
 */
export class Newest {
  private wanted = new Set<string>()
  private running: Promise<Batch> | null = null
  private next: Promise<Batch> | null = null

  constructor(private read: (ids: readonly string[]) => Promise<LiveNote[]>) {}

  /** As it is at a moment after the call; null where there is no such project. */
  async of(project: string): Promise<LiveNote | null> {
    this.wanted.add(project)
    this.next ??= this.readNext()
    return (await this.next).get(project) ?? null
  }

  private async readNext(): Promise<Batch> {
    await this.running?.catch(() => undefined)
    const ids = [...this.wanted]
    this.wanted.clear()
    this.running = this.next
    this.next = null
    return new Map((await this.read(ids)).map((note) => [note.project, note]))
  }
}
