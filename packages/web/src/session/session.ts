import { sentence, type ChangeId, newId, seededRandom, type IdKind, type Problem } from '@moth-lamp/core/base'
import type { Finding } from '@moth-lamp/core/findings'
import { assetsOf, currentForm, gateSentences, Replica, type Project, type Request, type SetAside } from '@moth-lamp/core/project'
import type { Value } from '@moth-lamp/core/variables'
import { BenchClient } from '../worker/client.ts'
import type { Frame, HostValue, PaintedRect } from '../worker/messages.ts'
import { api, ServerProblem } from './api.ts'
import { Store } from './store.ts'
import { keepUnsaved, leftBehind } from './unsaved.ts'

export type SaveState = { kind: 'saved' | 'unsaved' | 'saving' } | { kind: 'away'; message: string }

export interface DocumentState {
  project: Project
  revision: number
  save: SaveState
  setAside: SetAside[]
  canUndo: boolean
  canRedo: boolean
  /** Something to say once: why an edit was refused, how many users were unbound. */
  notice: { text: string; tone: 'info' | 'bad'; n: number } | null
}

export interface LiveState {
  nowUs: number
  lastEntry: number
  conversation: number
  page: string | null
  busy: Frame['busy']
  values: NonNullable<Frame['values']>
  host: HostValue[]
  outputs: NonNullable<Frame['outputs']>
  findings: Finding[]
  running: boolean
  speed: number
  silent: boolean
  /** Changes on the glass. */
  count: number
  width: number
  height: number
}

export interface ViewState {
  lamp: 'edit' | 'touch'
  /** Alt is held: Touch for as long. */
  alt: boolean
  page: string
  widgets: string[]
  variable: string | null
  addresses: 'hex' | 'decimal'
}

const random = seededRandom(crypto.getRandomValues(new Uint32Array(1))[0]!)

/** A new id of a kind, from this window's own chance. */
export const freshId = <K extends IdKind>(kind: K) => newId(kind, random)

const retryMs = [500, 1000, 2000, 4000, 8000]
const saveDelayMs = 300
const mostInBatch = 100

/** One open project in one window: document, saving, worker, and what the page looks at. */
export class Session {
  readonly document: Store<DocumentState>
  readonly live: Store<LiveState>
  readonly view: Store<ViewState>
  private replica: Replica
  private client: BenchClient
  private events: EventSource
  private painters = new Set<(frame: Frame) => void>()
  private saveTimer = 0
  private saving = false
  private failures = 0
  private closed = false
  private changeCount = 0
  private noticeCount = 0

  private constructor(
    readonly id: string,
    project: Project,
    revision: number,
    assets: Map<string, Uint8Array>,
  ) {
    this.replica = new Replica(project, revision)
    this.document = new Store<DocumentState>({
      project,
      revision,
      save: { kind: 'saved' },
      setAside: [],
      canUndo: false,
      canRedo: false,
      notice: null,
    })
    this.live = new Store<LiveState>({
      nowUs: 0,
      lastEntry: 0,
      conversation: 0,
      page: null,
      busy: { 'to panel': 0, 'to host': 0 },
      values: {},
      host: [],
      outputs: [],
      findings: [],
      running: false,
      speed: 1,
      silent: false,
      count: 0,
      width: project.panel.width,
      height: project.panel.height,
    })
    this.view = new Store<ViewState>({
      lamp: 'edit',
      alt: false,
      page: project.startPage || project.pageOrder[0] || '',
      widgets: [],
      variable: null,
      addresses: 'hex',
    })
    this.client = new BenchClient(
      () => this.replica.project,
      assets,
      () => this.changeCount,
      { frame: (frame) => this.takeFrame(frame), restarted: () => this.say('The simulated panel was started anew.', 'bad') },
    )
    this.events = new EventSource(`/api/projects/${id}/live`)
    this.events.onmessage = ({ data }: MessageEvent<string>) =>
      void this.hearOf((JSON.parse(data) as { revision: number }).revision)
  }

  static async open(id: string): Promise<Session> {
    const { project, revision } = await api.open(id)
    const assets = new Map(await Promise.all(assetsOf(project).map(async (sha) => [sha, await api.asset(sha)] as const)))
    const session = new Session(id, project, revision, assets)
    await session.takeUpUnsaved()
    return session
  }

  private async takeUpUnsaved(): Promise<void> {
    const left = await leftBehind(this.id).catch(() => [])
    if (!left.length) return
    this.replica.restore(left)
    this.afterEdits()
    this.resend()
    if (this.replica.pending.length)
      this.say(`${this.replica.pending.length} change(s) that were not saved last time are here again.`)
  }

  close(): void {
    this.closed = true
    clearTimeout(this.saveTimer)
    this.events.close()
    this.client.close()
  }

  get project(): Project {
    return this.replica.project
  }

  say(text: string, tone: 'info' | 'bad' = 'info'): void {
    this.document.set({ notice: { text, tone, n: ++this.noticeCount } })
  }

  // --- editing

  /** Runs an edit through the gate; false (and a notice) when it was refused. */
  edit(edit: string, args: unknown): boolean {
    return this.settle(this.replica.edit({ changeId: freshId('change'), edit, args }))
  }

  undo = (): void => void this.settle(this.replica.undo(freshId('change')))
  redo = (): void => void this.settle(this.replica.redo(freshId('change')))

  private settle(result: ReturnType<Replica['undo']>): boolean {
    if (!result) return false
    if (!result.ok) {
      this.say(problemWords(result.problem), 'bad')
      this.afterEdits()
      return false
    }
    const { change, note } = result
    if (change) {
      this.changeCount++
      this.client.send({ type: 'change', patches: change.patches, count: this.changeCount })
    }
    const unbound = Number(note['unbound'] ?? 0)
    if (unbound) this.say(`${unbound} user(s) of it were unbound.`)
    this.afterEdits()
    return true
  }

  private afterEdits(): void {
    const { project, revision, setAside, canUndo, canRedo } = this.replica
    this.document.set({ project, revision, setAside: [...setAside], canUndo, canRedo })
    this.keepSelection()
    if (!this.replica.pending.length) return
    if (this.document.value.save.kind === 'saved') this.document.set({ save: { kind: 'unsaved' } })
    void keepUnsaved(this.id, this.replica.batch(Infinity).changes).catch(() => undefined)
    this.saveSoon(saveDelayMs)
  }

  /** What was deleted is selected no more. */
  private keepSelection(): void {
    const { project } = this.replica
    const { page, widgets, variable } = this.view.value
    const kept = widgets.filter((id) => id in project.widgets)
    const change: Partial<ViewState> = {}
    if (kept.length !== widgets.length) change.widgets = kept
    if (!(page in project.pages)) change.page = project.pageOrder[0] ?? ''
    if (variable && variable.startsWith('variable:') && !variable.startsWith('variable:own-') && !(variable in project.variables))
      change.variable = null
    if (Object.keys(change).length) this.view.set(change)
  }

  /** Shows an edit on the glass without making it, as while dragging. */
  preview(edit: string, args: unknown): void {
    this.client.send({ type: 'preview', request: { changeId: 'change:preview', edit, args } })
  }

  cancelPreview(): void {
    this.client.send({ type: 'cancel preview' })
  }

  // --- saving

  private saveSoon(ms: number): void {
    clearTimeout(this.saveTimer)
    if (!this.closed) this.saveTimer = window.setTimeout(() => void this.save(), ms)
  }

  private async save(): Promise<void> {
    if (this.saving || this.closed || !this.replica.pending.length) return
    this.saving = true
    if (this.document.value.save.kind !== 'away') this.document.set({ save: { kind: 'saving' } })
    const batch = this.replica.batch(mostInBatch)
    try {
      const answer = await api.save(this.id, { form: currentForm, ...batch })
      this.failures = 0
      if (answer.outcome === 'saved')
        this.replica.confirm(
          batch.changes.map((c) => c.changeId),
          answer.revision,
        )
      else if (answer.outcome === 'behind') this.takeTheirs(answer.changes, answer.revision)
      else this.dropRefused(answer.changeId, answer.problem)
      await keepUnsaved(this.id, this.replica.batch(Infinity).changes).catch(() => undefined)
      this.document.set({ revision: this.replica.revision, save: { kind: this.replica.pending.length ? 'unsaved' : 'saved' } })
      this.saving = false
      if (this.replica.pending.length) this.saveSoon(0)
      else if (this.heard > this.replica.revision) void this.hearOf(this.heard)
    } catch (error) {
      this.saving = false
      const message = error instanceof ServerProblem ? error.message : 'Saving failed. It is tried again.'
      this.document.set({ save: { kind: 'away', message } })
      this.saveSoon(retryMs[Math.min(this.failures++, retryMs.length - 1)]!)
    }
  }

  private takeTheirs(changes: Parameters<Replica['takeTheirs']>[0], revision: number): void {
    const before = this.replica.setAside.length
    this.replica.takeTheirs(changes, revision)
    this.resend()
    this.afterEdits()
    if (this.replica.setAside.length > before)
      this.say('A change of yours no longer applies: it is kept aside (top left).', 'bad')
  }

  private dropRefused(changeId: ChangeId, problem: Problem): void {
    const dropped = this.replica.pending.find((c) => c.changeId === changeId)
    if (!dropped) return
    this.replica.setBack(changeId, problem)
    this.resend()
    this.afterEdits()
  }

  private resend(): void {
    this.changeCount++
    this.client.send({ type: 'take', project: this.replica.project, count: this.changeCount })
  }

  /** The newest revision that the server has told of. */
  private heard = 0

  /** Another window has saved. While we save ourselves, the answer will tell; what came in between is asked for then. */
  private async hearOf(revision: number): Promise<void> {
    this.heard = Math.max(this.heard, revision)
    if (this.saving || this.closed || revision <= this.replica.revision) return
    try {
      const { revision: now, changes } = await api.changes(this.id, this.replica.revision)
      if (!this.saving && now > this.replica.revision) this.takeTheirs(changes, now)
      this.document.set({ revision: this.replica.revision })
    } catch (error) {
      // When the server is away the stream of events connects again by itself, and tells the revision anew.
      if (!(error instanceof ServerProblem))
        this.say('What another window saved does not fit here. Load the page again; nothing is lost.', 'bad')
    }
  }

  forgetSetAside(request: Request): void {
    this.replica.setAside = this.replica.setAside.filter((s) => s.request.changeId !== request.changeId)
    this.document.set({ setAside: [...this.replica.setAside] })
  }

  // --- the live panel

  private takeFrame(frame: Frame): void {
    for (const paint of this.painters) paint(frame)
    const { nowUs, lastEntry, conversation, page, busy, running, speed, silent, count, width, height } = frame
    this.live.set({
      nowUs,
      lastEntry,
      conversation,
      page,
      busy,
      running,
      speed,
      silent,
      count,
      width,
      height,
      ...(frame.values ? { values: frame.values } : {}),
      ...(frame.host ? { host: frame.host } : {}),
      ...(frame.outputs ? { outputs: frame.outputs } : {}),
      ...(frame.findings ? { findings: frame.findings } : {}),
    })
    if (frame.reset.length && frame.count !== this.toldReset) {
      this.toldReset = frame.count
      this.say(`Reset to its start value: ${frame.reset.join(', ')}.`)
    }
  }
  private toldReset = -1

  /** Whoever draws the glass hears of every frame; the first time, all of it is painted. */
  onPaint(paint: (frame: Frame) => void): () => void {
    this.painters.add(paint)
    return () => void this.painters.delete(paint)
  }

  get worker(): BenchClient {
    return this.client
  }

  /** The glass as it must be in Edit (a page of the held panel) or in Touch (the panel itself, its clock running). */
  lookAt(page: string | null): void {
    this.client.send({ type: 'look at', page })
  }

  setClock(run: boolean, speed = this.live.value.speed): void {
    this.live.set({ running: run, speed })
    this.client.send({ type: 'clock', run, speed })
  }

  touch(phase: 'down' | 'move' | 'up', x: number, y: number): void {
    this.client.send({ type: 'touch', phase, x, y })
  }

  hostWrites(id: string, value: Value): void {
    this.client.send({ type: 'host writes', id, value })
  }

  thumbnail = (page: string, width: number): Promise<PaintedRect | null> => this.client.thumbnail(page, width)
}

export const problemWords = ({ code, facts }: Problem): string => sentence(gateSentences[code] ?? code, facts)
