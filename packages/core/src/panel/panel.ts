import { mustHold, Timers, type Rect, type VirtualClock } from '../base/index.ts'
import type { Build, BuildWidget } from '../compile/index.ts'
import type { EventKind } from '../frames/index.ts'
import { commandGoing, protocolFor, sameWire, type End, type Protocol, type Wire } from '../protocols/index.ts'
import { perform, type CompiledRule, type Effect, type Moment, type World } from '../rules/index.ts'
import { widgetKind, type Gesture } from '../widgets/index.ts'
import { systemVariableNamed, travelsToHost, type Cell } from '../variables/index.ts'
import { Commands } from './commands.ts'
import { Consequences } from './consequences.ts'
import { Doer, type Origin } from './doer.ts'
import { Fingers } from './fingers.ts'
import { Following, pageFollower, type Carried } from './follow.ts'
import { framesOf, type Foreseen } from './foresee.ts'
import { FormatsNow } from './formats.ts'
import { Glass, type GlassView } from './glass.ts'
import { Light } from './light.ts'
import { Desk, type ReadValue } from './desk.ts'
import { PanelClock } from './clock.ts'
import { Ear } from './ear.ts'
import { doOther, type EffectRooms } from './other-effects.ts'
import { OwnRules } from './own-rules.ts'
import { Pages } from './pages.ts'
import { PopUps } from './pop-ups.ts'
import { Redraws } from './redraws.ts'
import { reach, type Reached } from './reach.ts'
import { Memory } from './memory.ts'
import { PageTime } from './page-time.ts'
import { Reports } from './reports.ts'
import { Staleness } from './staleness.ts'
import { States } from './states.ts'
import { panelSource, Talk } from './talk.ts'
import { Touch } from './touch.ts'
import { ValueSet } from './value-set.ts'
import { Widgets } from './widgets.ts'

/** The simulated panel, from power-on until it is dropped. Everything happens at the clock's time. */
export class Panel implements End<Build, Carried> {
  readonly memory: Memory
  readonly glass: Glass
  /** The glass of the desk: any page as it is now, without the panel knowing. */
  readonly desk: Glass
  readonly touch: Touch
  readonly talk: Talk
  readonly onDesk = new Desk(
    () => this.build,
    () => this.desk,
  )
  private protocol: Protocol
  private timers: Timers
  private doer: Doer
  private commands: Commands
  private consequences: Consequences
  private fingers: Fingers
  private redraws: Redraws
  private pages: Pages
  private popUps: PopUps
  private lamp: Light
  private pageTime: PageTime
  private ownRules: OwnRules
  private clock: PanelClock
  private ear: Ear
  private staleness: Staleness
  private states: States
  private reports: Reports
  private set = new ValueSet()
  private formats = new FormatsNow()
  private widgets = new Widgets(
    () => this.glass,
    () => this.states,
  )
  private on = true

  /** The layout of the build must have one reading (`checkLayout`): a panel cannot be built of any other. */
  constructor(
    public build: Build,
    clock: VirtualClock,
    private wire: Wire,
  ) {
    const { header } = build
    this.timers = new Timers(clock, panelSource)
    this.protocol = mustHold(protocolFor(header.layout, build.book))
    this.consequences = this.makeConsequences()
    this.memory = new Memory(header, (address, words) => this.wordsChanged(address, words))
    this.widgets.become(header.pages)
    this.redraws = new Redraws(this.timers, (number) => {
      const widget = this.pages.widget(number)
      if (widget) this.glass.markMoving(widget)
    })
    this.pages = this.makePages()
    this.popUps = this.makePopUps()
    const view = this.glassView()
    this.glass = new Glass(build, view, true)
    this.desk = new Glass(build, { ...view, read: (cell: Cell) => this.onDesk.read(cell, this.read(cell)) }, false)
    this.staleness = new Staleness(
      this.timers,
      (words) => this.consequences.outdate(words),
      () => this.memory.own('host_alive') === 0,
    )
    this.states = this.makeStates()
    this.lamp = this.makeLight()
    this.pageTime = new PageTime(this.timers, {
      run: (rule, moment) => this.runRule(moment === 'time' ? 'timer' : 'page', rule, moment),
      go: (page) => this.pages.goTo(page),
    })
    this.reports = new Reports(
      this.timers,
      this.memory,
      () => this.talk,
      (widget) => this.markFailed(widget),
    )
    this.talk = this.makeTalk()
    this.commands = this.makeCommands()
    this.ear = this.makeEar()
    this.clock = new PanelClock(this.timers, this.memory, (ms) => this.wire.beside({ what: 'beep', ms }))
    this.ownRules = new OwnRules(this.timers, (rule, moment) => this.runRule('timer', rule, moment))
    this.doer = this.makeDoer()
    this.touch = this.makeTouch()
    this.fingers = this.makeFingers()
    this.powerOn()
  }

  private powerOn(): void {
    const { cells, conduct } = this.build.header
    this.pages.open()
    // At power-on no finger could mean another page.
    this.pages.openedUs = -Infinity
    this.clock.start()
    this.staleness.watch(cells)
    this.states.become(this.widgets.all)
    this.states.start()
    this.lamp.restart()
    this.ownRules.start(conduct.rules)
  }

  // --- its rooms

  private makeConsequences(): Consequences {
    return new Consequences({
      memory: () => this.memory,
      header: () => this.build.header,
      glasses: () => [this.glass, this.desk],
      states: () => this.states,
      touch: () => this.touch,
      openPage: () => this.pages.open(),
      openPopUp: () => this.popUps.follow(this.memory.own('pop_up')),
      light: () => this.lamp.follow(),
      beep: () => this.clock.beep(),
      tellTime: () => this.clock.tell(),
      hostCameOrWent: () => this.hostCameOrWent(),
    })
  }

  private makePages(): Pages {
    return new Pages(this.timers, {
      build: () => this.build,
      memory: () => this.memory,
      popUps: () => this.popUps,
      leaving: () => this.sendSet(),
      shows: () => {
        this.touch.cancel()
        this.glass.show(this.pages.shown)
      },
      opened: (page) => this.pageTime.opened(page),
      beside: (happening) => this.wire.beside(happening),
    })
  }

  private makePopUps(): PopUps {
    return new PopUps(this.timers, {
      find: (number) => this.build.header.pages.find((p) => p.number === number && p.kind !== 'page'),
      hearsKeys: (widget) => this.widgets.hearsKeys(widget),
      closed: (by) => this.widgets.keypadClosed(by),
      is: (number) => this.memory.setOwn('pop_up', number),
      shows: (number) => {
        this.pages.nowShown()
        this.wire.beside({ what: 'pop-up', page: number })
      },
    })
  }

  private glassView(): GlassView {
    return {
      read: (cell) => this.read(cell),
      isPressed: (widget) => this.touch.isPressed(widget) || this.popUps.now?.by === widget.number,
      hasFailed: (widget) => this.reports.hasFailed(widget.number),
      stateOf: (widget) => this.states.of(widget),
      typed: () => this.widgets.typing(this.popUps.now?.by ?? 0),
      formats: () => this.formats.now(this.build.header.conduct, this.memory),
      page: () => this.pages.now?.number ?? 0,
      level: () => this.memory.own('level'),
      later: (widget, ms) => this.redraws.later(widget, ms),
      look: () => this.memory.look,
      nowUs: () => this.timers.nowUs,
      sinceUs: (widget) => (this.popUps.now?.page.widgets.includes(widget) ? this.popUps.sinceUs : this.pageTime.openedUs),
    }
  }

  private makeStates(): States {
    return new States(this.timers, {
      settled: this.settled,
      live: (widget) => this.glass.liveFor(widget),
      changed: (widget) => this.showsOther(widget),
      does: (_, effects) => this.byItself('notice', 'time', (world) => effects.forEach((effect) => world.do(effect))),
    })
  }

  private makeLight(): Light {
    return new Light(this.timers, {
      memory: () => this.memory,
      conduct: () => this.build.header.conduct,
      dimmed: () => this.touch.dimmed(),
      goHome: () => this.pages.goTo(this.build.header.conduct.homePage ?? this.build.header.startPage),
      changed: (percent) => this.wire.beside({ what: 'backlight', percent }),
    })
  }

  private makeTalk(): Talk {
    return new Talk(
      this.timers,
      this.build.header.link,
      this.protocol,
      (message, attempt) => {
        const bytes = this.protocol.encode('to host', message)
        if (!this.on) return null
        if (bytes.ok) return this.wire.send(bytes.value, message, attempt)
        this.wire.beside({ what: 'not sent', message, problem: bytes.problem })
        return null
      },
      (what, widget, ending) => {
        if (what.operation === 'report') this.reports.ended(what.address, this.memory.wordsIn(what.payload), widget, ending)
        else if (ending !== 'done') this.reports.fail(widget)
      },
    )
  }

  private makeCommands(): Commands {
    return new Commands({
      book: () => this.build.book,
      link: () => this.build.header.link,
      memory: () => this.memory,
      talk: () => this.talk,
      wire: this.wire,
    })
  }

  private makeEar(): Ear {
    return new Ear(this.timers, {
      memory: this.memory,
      wire: this.wire,
      header: () => this.build.header,
      protocol: () => this.protocol,
      talk: () => this.talk,
      command: (number) => commandGoing(this.build.book, number, 'to panel'),
      reply: (command) => this.commands.reply(command),
      wrote: (address, words) => {
        for (const cell of this.memory.cellsIn(address, words)) this.staleness.wrote(cell)
        this.states.wrote(address, words)
      },
    })
  }

  private makeDoer(): Doer {
    const rooms: EffectRooms = {
      header: () => this.build.header,
      memory: () => this.memory,
      pages: () => this.pages,
      popUps: () => this.popUps,
      light: () => this.lamp,
      fingers: () => this.fingers,
      states: () => this.states,
      sendValues: (all) => {
        if (all && this.pages.now) this.set.putAll(this.pages.now)
        this.sendSet()
      },
    }
    return new Doer({
      memory: () => this.memory,
      together: (write) => this.consequences.writeTogether(write),
      report: (cell, { widget }, last, everyMs) => {
        if (this.pages.now?.sends === 'on leaving' && travelsToHost(cell.travels)) this.set.put(cell, widget)
        else this.reports.say(cell, widget, last, everyMs)
      },
      event: ({ widget }, what) => this.talk.say({ operation: 'event', address: widget, what }, widget),
      command: ({ widget }, number) => this.commands.send(number, widget),
      page: (number) => this.pages.goTo(number),
      popUp: (number, origin, closesAfterMs) => this.popUps.show(number, origin.widget, closesAfterMs),
      key: (key) => this.type(key),
      other: (effect) => doOther(rooms, effect),
    })
  }

  private makeTouch(): Touch {
    return new Touch(this.timers, {
      page: () => this.pages.touched,
      openedUs: () => this.pages.openedUs,
      limits: () => this.build.header.touch,
      level: () => this.memory.own('level'),
      settled: this.settled,
      mark: (widget) => this.glass.mark(widget),
      run: (widget, moment, holding, what) => void this.doer.run({ by: 'touch', widget: widget.number, moment, holding }, what),
      gesture: (widget, gesture) => this.gesture(widget, gesture),
      ended: () => this.reports.flush(),
      notCounted: (why) => this.fingers.notCounted(why),
      beep: () => this.memory.setOwn('beep', this.build.header.conduct.beepMs),
    })
  }

  private makeFingers(): Fingers {
    return new Fingers(this.timers, {
      memory: () => this.memory,
      glass: () => this.glass,
      light: () => this.lamp,
      pages: () => this.pages,
      popUps: () => this.popUps,
      touch: () => this.touch,
      wire: () => this.wire,
    })
  }

  // --- what it does

  /** A run that belongs to no widget: of a page, of the panel, of what a widget has noticed. */
  private byItself(by: Origin['by'], moment: Moment, what: (world: World) => void): void {
    this.doer.run({ by, widget: 0, moment, holding: false }, what)
  }

  private runRule(by: Origin['by'], rule: CompiledRule, moment: Moment): void {
    this.byItself(by, moment, (world) => rule.lines.forEach((line) => perform(line, world)))
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
    const same = sameWire({ layout: old.header.layout, book: old.book }, { layout: build.header.layout, book: build.book })
    this.build = build
    this.widgets.become(build.header.pages)
    if (!same) {
      this.protocol = mustHold(protocolFor(build.header.layout, build.book))
      this.ear.begin()
    }
    this.talk.become(build.header.link, this.protocol)
    const carried = this.memory.become(build.header, following)
    this.consequences.forgetNews()
    if (!following.same) this.staleness.become(build.header.cells, following.where)
    // The page and the pop-up that are shown, by their ids, as the build has them now.
    const now = pageFollower(old, build)
    this.pages.become(now, (widget) => this.widgets.of(widget) !== undefined)
    this.glass.become(build, this.pages.shown)
    this.onDesk.become(build, now)
    this.states.become(this.widgets.all)
    this.pageTime.become(this.pages.now)
    if (old.header.conduct !== build.header.conduct) {
      this.lamp.restart()
      this.ownRules.wait(build.header.conduct.rules)
    }
    const held = this.touch.holds
    if (held) this.touch.become(this.pages.widget(held.number), following.where)
    return carried
  }

  private settled = (widget: BuildWidget) => this.glass.settled(widget)

  read = (cell: Cell): ReadValue => ({
    ...this.memory.read(cell),
    stale: this.staleness.isStale(cell),
    written: this.memory.isWritten(cell),
    known: this.memory.isKnown(cell),
  })

  // --- widgets

  /** The state of a widget is another: where it is shown, its moving part is out of date. */
  private showsOther(widget: BuildWidget): void {
    if (this.pages.shown.some((page) => page.widgets.includes(widget))) this.glass.markMoving(widget)
    this.onDesk.showsOther(widget)
  }

  private gesture(widget: BuildWidget, gesture: Gesture): readonly Effect[] {
    const effects = this.widgets.gesture(widget, gesture)
    if (effects) this.showsOther(widget)
    return effects ?? []
  }

  // --- pages and pop-ups

  private wordsChanged(address: number, words: number): void {
    if (this.on) this.consequences.of({ address, words })
  }

  /** Variables that may have another value, or be stale or known otherwise, than when this was last asked; null: any of them. */
  takeNews(): ReadonlySet<Cell> | null {
    return this.consequences.takeNews()
  }

  /** Widgets of values that go stale with the host look different. */
  private hostCameOrWent(): void {
    for (const { cell } of this.build.header.cells) if (cell.stale?.afterMs === 0) this.consequences.outdate(cell)
  }

  /** Reports the changed values of a page that sends them as one set. */
  private sendSet(): void {
    for (const { address, words, widget } of this.set.take(Math.floor(this.protocol.limits.payload / 2)))
      this.talk.say({ operation: 'report', address, payload: this.memory.bytesOf(address, words) }, widget)
  }

  /** Number of the pop-up that is open; 0: none. */
  get popUpNumber(): number {
    return this.popUps.number
  }

  /** A key of a keypad, for the widget that opened it. */
  private type(key: string): void {
    const widget = this.widgets.of(this.popUps.now?.by ?? 0)
    const effects = this.widgets.key(widget, key)
    if (!widget || !effects) return
    this.glass.mark(widget)
    for (const shown of this.popUps.now?.page.widgets ?? []) if (widgetKind(shown.kind)?.showsTyping) this.glass.mark(shown)
    const origin: Origin = { by: 'touch', widget: widget.number, moment: 'lifted', holding: false }
    this.doer.run(origin, (world) => effects.forEach((e) => world.do(e)))
  }

  private markFailed(widget: number): void {
    const shown = this.pages.widget(widget)
    if (shown) this.glass.mark(shown)
  }

  // --- reports

  /** Whether the last report of a widget was refused or never got through, less than two seconds ago. */
  hasFailed(widget: number): boolean {
    return this.reports.hasFailed(widget)
  }

  /** The frames that a press of a widget, or its lifting, would send now: nothing is done. */
  framesOf(number: number, moment: EventKind): Foreseen[] {
    const widget = this.widgets.of(number)
    const { doer, widgets, memory, protocol, timers, talk } = this
    const command = (number: number) => this.commands.foreseen(number)
    const view = { doer, widgets, memory, protocol, command, nowUs: timers.nowUs, sequence: talk.sequence }
    return widget ? framesOf(view, widget, moment) : []
  }

  /** Gives the variable whose cell has that index its start value again. */
  reset(index: number): void {
    const found = this.build.header.cells.find(({ cell }) => cell.index === index)
    if (found) this.memory.reset(found)
  }

  // --- the line

  /** Bytes from the line, the first of which began at `fromUs`; all are in by now. */
  receive(bytes: Uint8Array, fromUs: number, attempt: number): void {
    if (this.on) this.doer.byHost(() => this.ear.receive(bytes, fromUs, attempt))
  }

  // --- fingers and glass

  touchDown(x: number, y: number): void {
    this.fingers.down(x, y)
  }

  touchMove(x: number, y: number): void {
    this.fingers.move(x, y)
  }

  touchUp(x: number, y: number): void {
    this.fingers.up(x, y)
  }

  /** How bright the glass is, 0–100 %. */
  get light(): number {
    return this.lamp.now
  }

  /** Whether a finger would find anything on the page that is shown, and would count. */
  get canBeTouched(): boolean {
    return this.pages.canBeTouched(this.build.header.touch.deafMs, this.settled)
  }

  get pageNumber(): number {
    return this.pages.now?.number ?? 0
  }

  paint(): Rect[] {
    return this.glass.paint()
  }

  /** Visible text of a widget on any page, or null if it does not exist. */
  shows(number: number): string | null {
    const widget = this.widgets.of(number)
    return widget ? this.glass.shows(widget) : null
  }

  /** A point of a widget on the page shown that a finger can reach, or why there is none. */
  pointOn(number: number): Reached {
    return reach(this.pages.touched, number, this.build.header, this.settled)
  }
}
