import { sentence, sha256Hex, type ChangeId, type Problem } from '@moth-lamp/core/base'
import type { TextExtent } from '@moth-lamp/core/host'
import { assetsOf, gateSentences, fileSentences, withSettings, type Project } from '@moth-lamp/core/project'
import {
  Saver,
  saverSentences,
  type Failure,
  type SaveAnswer,
  type SaveRequest,
  type SaverCommand,
  type SaverEvent,
  type SetAside,
} from '@moth-lamp/core/saver'
import type { Look } from '@moth-lamp/core/palette'
import type { Value } from '@moth-lamp/core/variables'
import type { BenchClient } from '../worker/client.ts'
import type { PanelUpdate, HostValue, PaintedRect } from '../worker/messages.ts'
import { AssetKeeper } from './assets.ts'
import type { Studio } from './studio.ts'
import { ServerProblem } from './api.ts'
import { freshId } from './chance.ts'
import { onLost, takeDrafts } from './drafts.ts'
import { HostHistory } from './history.ts'
import { browserParts, type SessionParts } from './parts.ts'
import type { Left } from './queue.ts'
import {
  documentAtFirst,
  liveAtFirst,
  viewAtFirst,
  type DocumentState,
  type LiveState,
  type Notice,
  type ViewState,
} from './state.ts'
import { Store } from './store.ts'

/** One open project in one window: what the screens see of document, saving and worker, and what they look at. */
export class Session {
  readonly document: Store<DocumentState>
  readonly live: Store<LiveState>
  readonly view: Store<ViewState>
  /** The host's values of the last half minute. */
  readonly history: HostHistory
  private saver: Saver
  /** Pictures for the screens. */
  readonly studio: Studio
  private assets: AssetKeeper
  private client: BenchClient
  private unwatch: () => void
  private unlisten: () => void
  private readonly silence: () => void
  private painters = new Set<(update: PanelUpdate) => void>()
  private wakeTimer: ReturnType<typeof setTimeout> | undefined
  private closed = false
  private changeCount = 0
  private noticeCount = 0
  private ownEdits = 0

  private constructor(
    readonly id: string,
    project: Project,
    revision: number,
    assets: Map<string, Uint8Array>,
    private parts: SessionParts,
  ) {
    this.saver = new Saver(project, revision)
    this.document = new Store(documentAtFirst(project, revision))
    this.live = new Store(liveAtFirst(project))
    this.view = new Store(
      viewAtFirst(project),
      // Typed text is for the widgets that are selected until now.
      (change) => ('widgets' in change || 'page' in change || 'variable' in change) && takeDrafts(),
    )
    this.history = new HostHistory(this.live)
    this.client = parts.client(
      () => this.saver.project,
      assets,
      () => this.changeCount,
      {
        update: (update) => this.takeUpdate(update),
        state: (worker) => this.live.set({ worker }),
        restarted: () => this.say('The simulated panel was restarted.', 'bad'),
      },
    )
    this.studio = parts.studio(assets)
    this.assets = new AssetKeeper(assets, parts, {
      give: (sha, bytes) => {
        this.client.asset(sha, bytes)
        this.studio.asset(sha, bytes)
      },
      missing: (missing) => this.document.set({ missing }),
    })
    this.assets.look(project)
    void this.assets.upload().catch(() => undefined)
    this.silence = onLost((label, text, why) => this.say(`“${text}” was not applied to ${label}: ${why}`, 'bad'))
    this.unwatch = parts.live.watch(id, ({ revision: newest, form }) => this.hear({ on: 'told', revision: newest, form }))
    this.unlisten = parts.page.listen({ leave: this.leave, online: () => this.hear({ on: 'online' }) })
  }

  static async open(id: string, parts: SessionParts = browserParts): Promise<Session> {
    const { api, queue } = parts
    // First what is kept, then the document: what is saved in between is in both, and known by its id.
    const left = await queue.leftBehind(id).catch((error: unknown) => error as Error)
    const { project, revision } = await api.open(id)
    // One that is not there yet is asked for again: whoever named it may still be sending it.
    const found = await Promise.all(assetsOf(project).map(async (sha) => [sha, await api.asset(sha).catch(() => null)] as const))
    const assets = new Map(found.flatMap(([sha, bytes]) => (bytes ? [[sha, bytes] as const] : [])))
    const session = new Session(id, project, revision, assets, parts)
    if (left instanceof Error) session.say(cannotKeep, 'bad')
    else session.takeUp(left)
    return session
  }

  private takeUp({ requests, aside, later }: Left): void {
    this.hear({ on: 'found', requests, aside })
    if (later) this.say(`${later} unsaved changes were made with a newer version. Start that version to recover them.`)
    else if (requests.length) this.say(`Recovered ${requests.length} unsaved changes from this browser.`)
  }

  private leave = (): void => {
    takeDrafts()
    this.hear({ on: 'leaving' })
  }

  /** The window goes elsewhere: what waits is sent, and whatever comes of it is still heard. */
  close(): void {
    this.leave()
    this.closed = true
    this.unwatch()
    this.unlisten()
    this.silence()
    this.assets.close()
    this.studio.close()
    this.client.close()
  }

  /** The document as it is shown: every widget with all its settings. */
  get project(): Project {
    return withSettings(this.saver.project)
  }

  /** The document as it is stored: of linked copies only what is their own. */
  get stored(): Project {
    return this.saver.project
  }

  say(text: string, tone: Notice['tone'] = 'info', undo = false, act: Notice['act'] = null): void {
    this.document.set({ notice: { text, tone, undo, act, at: this.ownEdits, n: ++this.noticeCount } })
  }

  // --- editing and saving

  /** Runs an edit through the gate; false (and a notice) when it was refused. */
  edit(edit: string, args: unknown): boolean {
    this.ownEdits++
    return this.hear({ on: 'edit', request: { changeId: freshId('change'), edit, args } })
  }

  undo = (): void => {
    this.ownEdits++
    this.hear({ on: 'undo', changeId: freshId('change') })
  }
  redo = (): void => {
    this.ownEdits++
    this.hear({ on: 'redo', changeId: freshId('change') })
  }

  /** Takes back what a notice speaks of; false, and said, where something else was done since. */
  undoNoticed({ at }: Notice): boolean {
    if (at === this.ownEdits) return (this.undo(), true)
    this.say('This can no longer be reverted on its own. Use Undo.', 'bad')
    return false
  }

  /** Does again what was set aside, as an edit of now. */
  tryAgain({ request }: SetAside): void {
    if (this.edit(request.edit, request.args)) this.forgetSetAside(request.changeId)
  }

  forgetSetAside(changeId: ChangeId): void {
    this.hear({ on: 'forget', changeId })
  }

  /** Single way of every change of the document: to the saver, and its commands out. False: it was refused. */
  private hear(event: SaverEvent): boolean {
    const aside = this.saver.aside.length
    const commands = this.saver.hear(event, Date.now())
    for (const command of commands) this.obey(command)
    if (event.on !== 'found' && this.saver.aside.length > aside)
      this.say('One of your changes conflicts with another edit and was not applied. See Conflicts, top left.', 'bad')
    this.show()
    return !commands.some((c) => c.do === 'refuse')
  }

  private obey(command: SaverCommand): void {
    const { api, queue } = this.parts
    switch (command.do) {
      case 'keep':
        return this.storing(queue.keepEdit(this.id, command.request))
      case 'let go':
        return this.storing(queue.letGo(command.ids, command.aside))
      case 'set aside':
        return this.storing(queue.keepAside(this.id, command.aside))
      case 'wake':
        clearTimeout(this.wakeTimer)
        this.wakeTimer = setTimeout(() => this.hear({ on: 'time' }), Math.max(0, command.atMs - Date.now()))
        return
      case 'save':
        return this.calling(command.call, this.save(command.request, command.last), (call, answer) => ({
          on: 'saved answer',
          call,
          answer,
        }))
      case 'ask changes':
        return this.calling(command.call, api.changes(this.id, command.since), (call, { changes }) => ({
          on: 'changes answer',
          call,
          changes,
        }))
      case 'ask known':
        return this.calling(command.call, api.known(this.id, command.ids), (call, { known }) => ({
          on: 'known answer',
          call,
          known,
        }))
      case 'patch worker':
        this.changeCount++
        this.live.set({ making: true })
        return this.client.send({ type: 'change', patches: [...command.patches], count: this.changeCount })
      case 'refuse':
        return this.say(problemWords(command.problem), 'bad')
      case 'note':
        if (command.note['unbound']) this.say(`${command.note['unbound']} widgets lost their variable.`, 'info', true)
        if (command.note['keptWire'])
          this.say(`It was handed off: its name on the wire stays “${command.note['keptWire']}”.`, 'info', true)
        return
      case 'load again':
        return this.loadAgain(command.problem)
    }
  }

  /** First the files that the document names, then the changes that name them: nobody sees a picture that is not there. */
  private async save(request: SaveRequest, last: boolean): Promise<SaveAnswer> {
    const { api } = this.parts
    if (!this.assets.isSending) return api.save(this.id, request, last)
    // A window that is left has no time for files: all of it waits in the browser for the next one.
    if (last) throw new ServerProblem('away', 'Files are still being sent.', 0)
    await this.assets.sent()
    return api.save(this.id, request, false)
  }

  private storing(done: Promise<void>): void {
    done.catch(() => this.say(cannotKeep, 'bad'))
  }

  private calling<A>(call: number, done: Promise<A>, event: (call: number, answer: A) => SaverEvent): void {
    done.then(
      (answer) => this.hear(event(call, answer)),
      (error: unknown) => {
        const { why, problem } = failureOf(error)
        this.hear({ on: 'failed', call, why, problem })
      },
    )
  }

  /** The server and this page do not fit any more. What waits is in the browser; a page that came no further says so. */
  private loadAgain(problem: Problem): void {
    const why = `${problem.code} ${JSON.stringify(problem.facts)}`
    if (!this.closed) this.parts.page.loadAgain(why)
  }

  private show(): void {
    const { revision, aside, canUndo, canRedo, state } = this.saver
    const { project } = this
    const message = problemWords(this.saver.trouble ?? { code: 'saver.misfit', facts: {} })
    this.document.set({
      project,
      revision,
      canUndo,
      canRedo,
      setAside: [...aside],
      save: state === 'away' || state === 'load again' ? { kind: state, message } : { kind: state },
    })
    this.assets.look(project)
    this.keepSelection()
  }

  /** A file of the project: its SHA-256. */
  addAsset = (bytes: Uint8Array): Promise<string> => this.assets.add(bytes)

  /** A file of the project, if the server takes it: why not, or null. */
  offerAsset = (bytes: Uint8Array): Promise<string | null> => this.assets.offer(bytes)

  /** A file that is missing has come by another hand: whether it was one of them. */
  async bring(bytes: Uint8Array): Promise<boolean> {
    const sha = sha256Hex(bytes)
    if (!this.document.value.missing.some((one) => one.sha === sha)) return false
    await this.assets.add(bytes)
    return true
  }

  /** Drops deleted records from the selection. */
  private keepSelection(): void {
    const { project } = this.saver
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

  // --- the live panel

  private takeUpdate(update: PanelUpdate): void {
    for (const paint of this.painters) paint(update)
    const { type: _, painted: __, reset, startsAt, values, own, host, outputs, findings, plan, wire, ...always } = update
    this.live.set({
      ...always,
      making: update.making || update.count < this.changeCount,
      ...(values ? { values: values.all ? values.of : { ...this.live.value.values, ...values.of } } : {}),
      ...(own ? { own } : {}),
      ...(host ? { host: host.all ? host.of : withNew(this.live.value.host, host.of) } : {}),
      ...(outputs ? { outputs } : {}),
      ...(findings ? { findings } : {}),
      ...(plan ? { plan } : {}),
      ...(wire ? { wire } : {}),
    })
    if (reset.length && update.count !== this.toldReset) {
      this.toldReset = update.count
      this.say(`Reset to the initial value: ${reset.join(', ')}.`)
    }
    if (startsAt.length && update.count !== this.toldStart) {
      this.toldStart = update.count
      this.say(`The running panel still has the old value of ${startsAt.join(', ')}. Use Reset in the Variable section.`)
    }
  }
  private toldReset = -1
  private toldStart = -1

  /** Every painter of the glass gets each update; the first time, all of it is painted. */
  onPaint(paint: (update: PanelUpdate) => void): () => void {
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

  /** Has the desk show other values than the panel holds. */
  pretend(values: Record<string, Value> | null, stale = false): void {
    this.client.send({ type: 'pretend', values, stale })
  }

  /** Which of its two looks the panel shows. */
  showLook(look: Look): void {
    this.client.send({ type: 'show look', look })
  }

  /** The last request counts: an update that is under way was made before. */
  setClock(run = this.live.value.running, speed = this.live.value.speed): void {
    this.live.set({ running: run, speed })
    this.client.send({ type: 'clock', run, speed })
  }

  touch(phase: 'down' | 'move' | 'up', x: number, y: number): void {
    this.client.send({ type: 'touch', phase, x, y })
  }

  hostWrites(id: string, value: Value, extent?: TextExtent): void {
    this.client.send({ type: 'host writes', id, value, extent })
  }

  thumbnail = (page: string, width: number): Promise<PaintedRect | null> => this.client.thumbnail(page, width)
}

/** A list of the host's values with those that are others now in their places. */
function withNew(list: readonly HostValue[], others: readonly HostValue[]): HostValue[] {
  const byName = new Map(others.map((value) => [value.name, value]))
  return list.map((value) => byName.get(value.name) ?? value)
}

const cannotKeep = 'Browser storage is full or disabled. Unsaved changes are lost if you close this window.'

const sentences = { ...gateSentences, ...fileSentences, ...saverSentences }

/** A problem as a sentence; one that comes from the server brings its own. */
export const problemWords = ({ code, facts }: Problem): string =>
  typeof facts['message'] === 'string' && !(code in sentences) ? facts['message'] : sentence(sentences[code] ?? code, facts)

/** Failure of a request as the saver needs it. A deleted project may come back: its edits wait. */
function failureOf(error: unknown): { why: Failure; problem: Problem } {
  if (!(error instanceof ServerProblem)) return { why: 'fault', problem: { code: 'fault', facts: { message: String(error) } } }
  const whys: Record<number, Failure> = { 400: 'never', 409: 'load again', 413: 'too large', 500: 'fault' }
  return { why: whys[error.status] ?? 'away', problem: error.problem }
}
