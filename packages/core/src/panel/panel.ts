import { sameJson, mustHold, Timers, type Rect, type VirtualClock } from '../base/index.ts'
import type { Build, BuildPage, BuildWidget, CompiledConduct } from '../compile/index.ts'
import type { EventKind, Message } from '../frames/index.ts'
import { nextSequence, protocolFor, type End, type Protocol, type Uncounted, type Wire } from '../protocols/index.ts'
import { perform, type Effect, type Moment, type World } from '../rules/index.ts'
import { Surface } from '../raster/index.ts'
import { nothingTyped, plainFormats, widgetKind, type Formats, type Gesture, type TypedNow } from '../widgets/index.ts'
import {
  systemVariableNamed,
  systemVariablesIn,
  type PanelRoom,
  spansOverlap,
  travelsToHost,
  type Cell,
} from '../variables/index.ts'
import { Doer, type Origin } from './doer.ts'
import { Following } from './follow.ts'
import { Glass } from './glass.ts'
import { Idle } from './idle.ts'
import { Desk, type Pretended, type ReadValue } from './desk.ts'
import { PanelClock } from './clock.ts'
import { Ear } from './ear.ts'
import { OwnRules } from './own-rules.ts'
import { PopUps } from './pop-ups.ts'
import { reach, type Reached } from './reach.ts'
import { Memory } from './memory.ts'
import { PageTime } from './page-time.ts'
import { Reports } from './reports.ts'
import { Staleness } from './staleness.ts'
import { States } from './states.ts'
import { panelSource, Talk } from './talk.ts'
import { linesAt, Touch, widgetAt } from './touch.ts'
import { ValueSet } from './value-set.ts'

/** What an edit did to values: the names of variables that were reset, and of those that started at something else. */
export interface Carried {
  reset: string[]
  startsAt: string[]
}

/** How many pages a panel can go back, and how many may open each other in one instant. */
const mostHistory = 8
const mostOpenings = 16

/** The simulated panel, from power-on until it is dropped. Everything happens at the clock's time. */
export class Panel implements End<Build, Carried> {
  readonly memory: Memory
  readonly glass: Glass
  /** What the desk draws: any page as it is now, without the panel knowing. */
  readonly desk: Glass
  private onDesk = new Desk(
    () => this.build,
    () => this.desk,
  )
  readonly touch: Touch
  readonly talk: Talk
  private doer: Doer
  private protocol: Protocol
  private page: BuildPage | null = null
  private popUps: PopUps
  private idle: Idle
  private pageTime: PageTime
  private set = new ValueSet()
  private ownRules: OwnRules
  private clock: PanelClock
  private ear: Ear
  /** Pages before this one, the last one last. */
  private history: number[] = []
  private goesBack = false
  private openings = 0
  private openingsUs = -1
  /** No touch counts until then, µs. */
  private lockedUntilUs = -1
  /** Widgets that will be drawn again by themselves. */
  private moving = new Set<number>()
  private openedUs = -Infinity
  private staleness: Staleness
  private states: States
  private reports: Reports
  private widgets = new Map<number, BuildWidget>()
  private backlight = 100
  /** The widget the finger came down on, 0: none. */
  private touchedWidget = 0
  private knownPages: readonly BuildPage[] | null = null
  private on = true
  private timers: Timers

  /** The layout of the build must have one reading (`checkLayout`): a panel cannot be built of any other. */
  constructor(
    public build: Build,
    clock: VirtualClock,
    private wire: Wire,
  ) {
    const { header } = build
    this.timers = new Timers(clock, panelSource)
    this.protocol = mustHold(protocolFor(header.layout, build.book))
    this.memory = new Memory(header, (address, words) => this.wordsChanged(address, words))
    this.know(build)
    const view = {
      read: (cell: Cell) => this.read(cell),
      isPressed: (widget: BuildWidget) => this.touch.isPressed(widget) || this.popUps.now?.by === widget.number,
      hasFailed: (widget: BuildWidget) => this.reports.hasFailed(widget.number),
      stateOf: (widget: BuildWidget) => this.states.of(widget),
      typed: () => {
        const by = this.widgets.get(this.popUps.now?.by ?? 0)
        return by ? this.typingOf(by) : nothingTyped
      },
      formats: () => this.formats,
      page: () => this.page?.number ?? 0,
      level: () => this.memory.own('level'),
      later: (widget: BuildWidget, ms: number) => this.moveLater(widget, ms),
      look: () => this.memory.look,
      nowUs: () => this.timers.nowUs,
      sinceUs: (widget: BuildWidget) =>
        this.popUps.now?.page.widgets.includes(widget) ? this.popUps.sinceUs : this.pageTime.openedUs,
    }
    this.popUps = new PopUps(this.timers, {
      find: (number) => this.build.header.pages.find((p) => p.number === number && p.kind !== 'page'),
      hearsKeys: (widget) => widgetKind(this.widgets.get(widget)?.kind ?? '')?.key !== undefined,
      closed: (by) => {
        const widget = this.widgets.get(by)
        if (widget) widgetKind(widget.kind)?.closed?.(this.states.of(widget))
      },
      is: (number) => this.memory.setOwn('pop_up', number),
      shows: (number) => {
        this.pageOpened()
        this.wire.beside({ what: 'pop-up', page: number })
      },
    })
    this.glass = new Glass(build, view, true)
    this.desk = new Glass(build, { ...view, read: (cell: Cell) => this.onDesk.read(cell, this.read(cell)) }, false)
    this.staleness = new Staleness(
      this.timers,
      ({ address, words }) => this.touchWords(address, words),
      () => this.memory.own('host_alive') === 0,
    )
    this.states = new States(this.timers, {
      settled: (widget) => this.glass.settled(widget),
      live: (widget) => this.glass.liveFor(widget),
      changed: (widget) => this.showsOther(widget),
      does: (_, effects) => this.byItself('timer', 'time', (world) => effects.forEach((effect) => world.do(effect))),
    })
    this.idle = new Idle(this.timers, {
      conduct: () => this.build.header.conduct,
      light: () => this.memory.own('backlight'),
      setLight: (percent) => this.memory.setOwn('backlight', percent),
      forgetLevel: () => this.memory.setOwn('level', 0),
      goHome: () => this.goTo(this.build.header.conduct.homePage ?? this.build.header.startPage),
    })
    this.pageTime = new PageTime(this.timers, {
      run: (rule, moment) =>
        this.byItself(moment === 'time' ? 'timer' : 'page', moment, (world) =>
          rule.lines.forEach((line) => perform(line, world)),
        ),
      go: (page) => this.goTo(page),
    })
    this.reports = new Reports(
      this.timers,
      this.memory,
      () => this.talk,
      (widget) => this.markFailed(widget),
    )
    this.talk = new Talk(
      this.timers,
      header.link,
      this.protocol,
      (message, attempt) => {
        const bytes = this.protocol.encode('to host', message)
        return bytes.ok && this.on ? this.wire.send(bytes.value, message, attempt) : null
      },
      (what, widget, ending) => {
        if (what.operation === 'report') this.reports.ended(what.address, this.memory.wordsIn(what.payload), widget, ending)
        else if (ending !== 'done') this.reports.fail(widget)
      },
    )
    this.ear = new Ear(this.timers, {
      memory: this.memory,
      wire: this.wire,
      header: () => this.build.header,
      protocol: () => this.protocol,
      talk: () => this.talk,
      wrote: (address, words) => {
        for (const cell of this.memory.cellsIn(address, words)) this.staleness.wrote(cell)
        this.states.wrote(address, words)
      },
    })
    this.clock = new PanelClock(this.timers, this.memory, (ms) => this.wire.beside({ what: 'beep', ms }))
    this.ownRules = new OwnRules(this.timers, (rule, moment) =>
      this.byItself('timer', moment, (world) => rule.lines.forEach((line) => perform(line, world))),
    )
    this.doer = new Doer({
      memory: () => this.memory,
      together: (write) => this.writeTogether(write),
      report: (cell, { widget }, last, everyMs) => {
        if (this.page?.sends === 'on leaving' && travelsToHost(cell.travels)) this.set.put(cell, widget)
        else this.reports.say(cell, widget, last, everyMs)
      },
      event: ({ widget }, what) => this.talk.say({ operation: 'event', address: widget, what }, widget),
      page: (number) => this.goTo(number),
      popUp: (number, origin, closesAfterMs) => this.popUps.show(number, origin.widget, closesAfterMs),
      key: (key) => this.type(key),
      other: (effect) => this.doOther(effect),
    })
    this.touch = new Touch(this.timers, {
      page: () => this.touchedPage,
      openedUs: () => this.openedUs,
      limits: () => this.build.header.touch,
      level: () => this.memory.own('level'),
      settled: (widget) => this.glass.settled(widget),
      mark: (widget) => this.glass.mark(widget),
      run: (widget, moment, holding, what) => void this.doer.run({ by: 'touch', widget: widget.number, moment, holding }, what),
      gesture: (widget, gesture) => this.gesture(widget, gesture),
      ended: () => this.reports.flush(),
      notCounted: (why) => this.notCounted(why),
      beep: () => this.memory.setOwn('beep', this.build.header.conduct.beepMs),
    })
    this.openPage()
    // At power-on no finger could mean another page.
    this.openedUs = -Infinity
    this.clock.start()
    this.staleness.watch(header.cells)
    this.states.become(this.widgets)
    this.states.start()
    this.idle.restart()
    this.ownRules.start(header.conduct.rules)
  }

  /** How values are written now; read from memory once for each way it can be. */
  private get formats(): Formats {
    const { conduct } = this.build.header
    const others = conduct.otherUnits !== null && Number(this.memory.read(conduct.otherUnits).value) !== 0
    if (this.written.of !== conduct || this.written.others !== others)
      this.written = { of: conduct, others, formats: { ...conduct, pairs: others ? conduct.units : [] } }
    return this.written.formats
  }
  private written: { of: CompiledConduct | null; others: boolean; formats: Formats } = {
    of: null,
    others: false,
    formats: plainFormats,
  }

  /** A run that belongs to no widget: of a page, of the panel, of what a widget has noticed. */
  private byItself(by: Origin['by'], moment: Moment, what: (world: World) => void): void {
    this.doer.run({ by, widget: 0, moment, holding: false }, what)
  }

  private typingOf(widget: BuildWidget): TypedNow {
    const kind = widgetKind(widget.kind)
    return kind?.typing
      ? kind.typing(this.glass.settled(widget), this.states.of(widget), this.glass.liveFor(widget))
      : { ...nothingTyped, draft: this.glass.shows(widget) ?? '' }
  }

  private moveLater(widget: BuildWidget, ms: number): void {
    if (this.moving.has(widget.number)) return
    this.moving.add(widget.number)
    this.timers.after(ms * 1000, () => {
      this.moving.delete(widget.number)
      const now = this.shownWidget(widget.number)
      if (now) this.glass.markMoving(now)
    })
  }

  private doOther(effect: Effect): void {
    switch (effect.do) {
      case 'open': {
        const page = this.build.header.pages.find((p) => p.number === effect.number)
        if (page?.kind === 'page') this.goTo(page.number)
        else if (page) this.popUps.show(page.number, 0, 0)
        break
      }
      case 'back':
        this.goBack()
        break
      case 'start page':
        this.goTo(this.build.header.startPage)
        break
      case 'beep':
        this.memory.setOwn('beep', effect.ms)
        break
      case 'wake':
        this.idle.wake()
        break
      case 'lock':
        this.lockedUntilUs = this.timers.nowUs + effect.ms * 1000
        break
      case 'send values':
        if (effect.all && this.page) this.set.putAll(this.page)
        this.sendSet()
        break
      case 'clear':
        this.states.clear(effect.widget)
    }
  }

  private know(build: Build): void {
    if (this.knownPages === build.header.pages) return
    this.knownPages = build.header.pages
    this.widgets = new Map(build.header.pages.flatMap((page) => page.widgets.map((w) => [w.number, w])))
  }

  /** Tells the host which build runs, as a panel does when it has started. */
  announce(): void {
    const address = this.build.header.memory.ownFrom + systemVariableNamed('version').offset
    this.talk.say({ operation: 'report', address, payload: this.memory.bytesOf(address, 1) })
  }

  stop(): void {
    this.on = false
    this.talk.stop()
    this.timers.stop()
  }

  // --- another build

  /**
   * Takes another build while it runs. Memory follows its variables by id; talk, finger, staleness, timers and the states of
   * widgets go on; what a touch had begun and the build no longer has ends as if the finger had left.
   */
  become(build: Build): Carried {
    const old = this.build
    const following = new Following(old, build)
    const sameWire = old.header.layout === build.header.layout && old.book.memory === build.book.memory
    this.build = build
    this.know(build)
    if (!sameWire) {
      this.protocol = mustHold(protocolFor(build.header.layout, build.book))
      this.ear.begin()
    }
    this.talk.become(build.header.link, this.protocol)
    const told = this.memory.become(build.header, following)
    this.news = null
    if (!following.same) this.staleness.become(build.header.cells, following.where)
    this.followPages(old, build)
    this.states.become(this.widgets)
    this.pageTime.become(this.page)
    if (old.header.conduct !== build.header.conduct) {
      this.idle.restart()
      this.ownRules.wait(build.header.conduct.rules)
    }
    const held = this.touch.holds
    if (held) this.touch.become(this.shownWidget(held.number), following.where)
    return told
  }

  /** The page and the pop-up that are shown, by their ids, as the build has them now. */
  private followPages(old: Build, build: Build): void {
    const idOf = (number: number) => old.symbols.pages.find((p) => p.number === number)?.id
    const now = (number: number): BuildPage | null => {
      const id = idOf(number)
      const found = build.symbols.pages.find((p) => p.id === id)?.number
      return build.header.pages.find((p) => p.number === found) ?? null
    }
    const shown = this.page && now(this.page.number)
    this.popUps.become(now, (widget) => this.widgets.has(widget))
    // A panel that showed nothing shows where it would start.
    const page = shown ?? build.header.pages.find((p) => p.number === build.header.startPage) ?? null
    this.page = page
    this.memory.setOwn('page', page?.number ?? 0)
    this.glass.become(build, this.shownPages())
    this.onDesk.become(build, now)
  }

  private shownWidget(number: number): BuildWidget | null {
    return (
      this.shownPages()
        .flatMap((page) => page.widgets)
        .find((w) => w.number === number) ?? null
    )
  }

  read = (cell: Cell): ReadValue => ({
    ...this.memory.read(cell),
    stale: this.staleness.isStale(cell),
    written: this.memory.isWritten(cell),
    known: this.memory.isKnown(cell),
  })

  // --- widgets

  /** What it has in its state is another: where it is shown, its moving part is out of date. */
  private showsOther(widget: BuildWidget): void {
    if (this.shownPages().some((page) => page.widgets.includes(widget))) this.glass.markMoving(widget)
    this.onDesk.showsOther(widget)
  }

  private gesture(widget: BuildWidget, gesture: Gesture): readonly Effect[] {
    const kind = widgetKind(widget.kind)
    if (!kind?.touch) return []
    const effects = kind.touch(
      gesture,
      widget.place,
      this.glass.settled(widget),
      this.states.of(widget),
      this.glass.liveFor(widget),
    )
    this.showsOther(widget)
    return effects
  }

  /** The effects of a kind by itself at a moment of a touch, wherever on the widget that is; none where the place counts. */
  private touchedAnywhere(widget: BuildWidget, moment: EventKind): readonly Effect[] {
    const kind = widgetKind(widget.kind)
    const gesture = moment === 'pressed' ? 'down' : moment === 'lifted' ? 'up' : null
    if (!kind?.touch || !gesture) return []
    const { x, y, width, height } = widget.place
    const settings = this.glass.settled(widget)
    const live = this.glass.liveFor(widget)
    const at = (share: number): readonly Effect[] => {
      const state = structuredClone(this.states.of(widget))
      const atUs = this.timers.nowUs
      const point = { x: x + width * share, y: y + height * share, inside: true, atUs }
      // A finger that is lifted was down before.
      if (gesture === 'up') kind.touch!({ kind: 'down', ...point }, widget.place, settings, state, live)
      return kind.touch!({ kind: gesture, ...point }, widget.place, settings, state, live)
    }
    const [first, second] = [at(0.25), at(0.75)]
    return sameJson(first, second) ? first : []
  }

  // --- pages and pop-ups

  /** Words that a run has written, while it writes: what follows from them comes when all are there. */
  private together: { address: number; words: number }[] | null = null

  private writeTogether(write: () => void): () => void {
    const spans: { address: number; words: number }[] = []
    this.together = spans
    write()
    this.together = null
    for (const { address, words } of spans) this.touchWords(address, words)
    return () => spans.forEach(({ address, words }) => this.wordsFollow(address, words))
  }

  private wordsChanged(address: number, words: number): void {
    if (!this.on) return
    if (this.together) return void this.together.push({ address, words })
    this.touchWords(address, words)
    this.wordsFollow(address, words)
  }

  /** Answers to the system variables when they are others. */
  private room: PanelRoom = {
    openPage: () => this.openPage(),
    openPopUp: () => this.popUpAsked(),
    light: () => this.lightChanged(),
    beep: () => this.clock.beep(),
    tellTime: () => this.clock.tell(),
    hostCameOrWent: () => this.hostCameOrWent(),
    tryCode: () => this.tryCode(),
    repaint: () => {
      for (const glass of [this.glass, this.desk]) glass.markAll()
    },
  }

  /** Pages that open, lights, times: all that comes of words that are others now. */
  private wordsFollow(address: number, words: number): void {
    const own = address - this.build.header.memory.ownFrom
    for (const variable of systemVariablesIn(own, words)) variable.written?.(this.room)
    this.states.wordsChanged(address, words)
    const { otherUnits } = this.build.header.conduct
    if (otherUnits && spansOverlap(otherUnits, { address, words })) this.room.repaint()
    this.touch.look()
  }

  /** Variables of which something may be another since somebody asked; null: all of them. */
  private news: Set<Cell> | null = null

  /** Variables that may have another value, or be stale or known otherwise, than when this was last asked; null: any of them. */
  takeNews(): ReadonlySet<Cell> | null {
    const { news } = this
    this.news = new Set()
    return news
  }

  private touchWords(address: number, words: number): void {
    if (this.news) for (const cell of this.memory.cellsIn(address, words)) this.news.add(cell)
    this.glass.touchWords(address, words)
    this.desk.touchWords(address, words)
  }

  /** A code that was typed gives the highest level it is the code of; it is forgotten at once. */
  private tryCode(): void {
    const code = this.memory.own('code')
    if (code === 0) return
    const { code1, code2, code3 } = this.build.header.conduct
    const level = [code1, code2, code3].lastIndexOf(code) + 1
    this.memory.setOwn('code', 0)
    if (level > 0) this.memory.setOwn('level', level)
  }

  /** The own word of the pop-up was written: that pop-up is opened, or the one that is open is closed. */
  private popUpAsked(): void {
    const number = this.memory.own('pop_up')
    if (number !== this.popUpNumber) this.popUps.show(number || null, 0, 0)
  }

  /** What goes stale with the host looks different. */
  private hostCameOrWent(): void {
    for (const { cell } of this.build.header.cells) if (cell.stale?.afterMs === 0) this.touchWords(cell.address, cell.words)
  }

  private shownPages(): BuildPage[] {
    return this.page ? [this.page, ...(this.popUps.now ? [this.popUps.now.page] : [])] : []
  }

  private openPage(): void {
    const number = this.memory.own('page')
    const page = this.build.header.pages.find((p) => p.number === number && p.kind === 'page') ?? null
    if (page === this.page) return
    if (this.loops()) {
      // Pages that open each other for ever: the one that is shown stays.
      this.wire.beside({ what: 'loop', page: number })
      this.memory.setOwn('page', this.page?.number ?? 0)
      return
    }
    this.sendSet()
    if (this.page && !this.goesBack) this.history = [...this.history, this.page.number].slice(-mostHistory)
    this.page = page
    this.popUps.close()
    this.pageOpened()
    this.wire.beside({ what: 'page', page: page?.number ?? 0 })
    this.pageTime.opened(page)
  }

  /** What was changed on a page whose values travel as one set is told. */
  private sendSet(): void {
    for (const { address, words, widget } of this.set.take(Math.floor(this.protocol.limits.payload / 2)))
      this.talk.say({ operation: 'report', address, payload: this.memory.bytesOf(address, words) }, widget)
  }

  private goTo(number: number | null): void {
    if (number !== null) this.memory.setOwn('page', number)
  }

  private goBack(): void {
    const number = this.history.at(-1)
    if (number === undefined) return
    this.history = this.history.slice(0, -1)
    this.goesBack = true
    this.goTo(number)
    this.goesBack = false
  }

  /** Whether pages have opened each other too often without any time going by. */
  private loops(): boolean {
    const { nowUs } = this.timers
    this.openings = nowUs === this.openingsUs ? this.openings + 1 : 0
    this.openingsUs = nowUs
    return this.openings > mostOpenings
  }

  private pageOpened(): void {
    this.openedUs = this.timers.nowUs
    this.touch.cancel()
    this.glass.show(this.shownPages())
  }

  /** What a finger reaches: the pop-up alone, where one is open. */
  private get touchedPage(): BuildPage | null {
    return this.popUps.now?.page ?? this.page
  }

  /** Number of the pop-up that is open; 0: none. */
  get popUpNumber(): number {
    return this.popUps.number
  }

  /** A key of a keypad, for the widget that opened it. */
  private type(key: string): void {
    const widget = this.widgets.get(this.popUps.now?.by ?? 0)
    const kind = widget && widgetKind(widget.kind)
    if (!widget || !kind?.key) return
    const effects = kind.key(key, this.glass.settled(widget), this.states.of(widget), this.glass.liveFor(widget))
    this.glass.mark(widget)
    for (const shown of this.popUps.now?.page.widgets ?? []) if (widgetKind(shown.kind)?.showsTyping) this.glass.mark(shown)
    const origin: Origin = { by: 'touch', widget: widget.number, moment: 'lifted', holding: false }
    this.doer.run(origin, (world) => effects.forEach((e) => world.do(e)))
  }

  private lightChanged(): void {
    const now = this.memory.own('backlight')
    if (now < this.backlight) this.touch.dimmed()
    this.idle.lightChanged(now)
    if (now !== this.backlight) this.wire.beside({ what: 'backlight', percent: now })
    this.backlight = now
  }

  private markFailed(widget: number): void {
    const shown = this.shownWidget(widget)
    if (shown) this.glass.mark(shown)
  }

  // --- reports

  /** Whether the last report of a widget was refused or never got through, less than two seconds ago. */
  hasFailed(widget: number): boolean {
    return this.reports.hasFailed(widget)
  }

  /** The frames that a press of a widget, or its lifting, would send now: nothing is done. */
  framesOf(number: number, moment: EventKind): { message: Message; bytes: Uint8Array }[] {
    const widget = this.widgets.get(number)
    if (!widget) return []
    const { writes, others } = this.doer.plan(moment, (world) => {
      for (const effect of this.touchedAnywhere(widget, moment)) world.do(effect)
      linesAt(widget, moment).forEach((line) => perform(line, world))
    })
    let sequence = this.talk.sequence
    const reports = writes.flatMap(({ cell, words }) =>
      travelsToHost(cell.travels)
        ? [{ operation: 'report' as const, address: cell.address, payload: this.memory.payloadOf(words) }]
        : [],
    )
    const events = others.flatMap((effect) =>
      effect.do === 'event' ? [{ operation: 'event' as const, address: number, what: effect.what }] : [],
    )
    return [...reports, ...events].flatMap((said) => {
      sequence = nextSequence(this.protocol, sequence)
      const message: Message = { ...said, sequence }
      const bytes = this.protocol.encode('to host', message)
      return bytes.ok ? [{ message, bytes: bytes.value }] : []
    })
  }

  /** Gives the variable whose cell has that index its start value again. */
  reset(index: number): void {
    const found = this.build.header.cells.find(({ cell }) => cell.index === index)
    if (found) this.memory.reset(found)
  }

  // --- the line

  /** Bytes from the line, the first of which began at `fromUs`; all are in by now. */
  receive(bytes: Uint8Array, fromUs: number): void {
    if (this.on) this.ear.receive(bytes, fromUs)
  }

  // --- fingers and glass

  touchDown(x: number, y: number): void {
    const page = this.touchedPage
    const widget = page && widgetAt(page, x, y, (w) => this.glass.settled(w))
    this.wire.beside({ what: 'touched', widget: widget?.number ?? 0, x, y })
    this.touchedWidget = widget?.number ?? 0
    const woke = this.idle.touched()
    this.popUps.touched()
    this.memory.setOwn('touched', 1)
    if (woke) return this.notCounted('it woke the glass')
    if (this.timers.nowUs < this.lockedUntilUs) return this.notCounted('touch is locked')
    if (!this.popUps.now && this.page?.skips && this.page.then !== null) return this.goTo(this.page.then)
    this.touch.down(x, y)
  }

  private notCounted(why: Uncounted): void {
    this.wire.beside({ what: 'not counted', why })
  }

  touchMove(x: number, y: number): void {
    this.touch.move(x, y)
  }

  touchUp(x: number, y: number): void {
    this.wire.beside({ what: 'lifted', widget: this.touchedWidget, x, y })
    this.touch.up(x, y)
    this.memory.setOwn('touched', 0)
  }

  /** How bright the glass is, 0–100 %. */
  get light(): number {
    return this.backlight
  }

  /** Whether a finger would find anything on the page that is shown, and would count. */
  get canBeTouched(): boolean {
    if (this.timers.nowUs - this.openedUs < this.build.header.touch.deafMs * 1000) return false
    const page = this.build.header.pages.find((p) => p.number === this.pageNumber)
    return page?.widgets.some((w) => widgetKind(w.kind)?.touchable && this.glass.settled(w)['visible'] !== false) ?? false
  }

  get pageNumber(): number {
    return this.page?.number ?? 0
  }

  paint(): Rect[] {
    return this.glass.paint()
  }

  /** Has the desk show other values than are stored, until it is told otherwise. */
  pretend(instead: Pretended | null): void {
    this.onDesk.pretend(instead)
  }

  /** The page the desk draws from now on; null: none. */
  lookAt(number: number | null): void {
    this.onDesk.lookAt(number)
  }

  /** Any page of the build as it would look now; the panel knows nothing of it. */
  paintPage(number: number, surface: Surface): boolean {
    return this.onDesk.paintPage(number, surface)
  }

  /** What a person would read off a widget of any page. Null: no such widget. */
  shows(number: number): string | null {
    const widget = this.widgets.get(number)
    return widget ? this.glass.shows(widget) : null
  }

  /** A point of a widget on the page shown that a finger can reach, or why there is none. */
  pointOn(number: number): Reached {
    return reach(this.touchedPage, number, this.build.header, (widget) => this.glass.settled(widget))
  }
}
