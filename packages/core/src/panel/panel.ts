import { holdsPoint, mustHold, Timers, type Rect, type TimedEvent, type VirtualClock } from '../base/index.ts'
import type { Build, BuildPage, BuildWidget } from '../compile/index.ts'
import type { Message, Reason } from '../frames/index.ts'
import { protocolFor, Receiver, type Heard, type Protocol } from '../protocols/index.ts'
import { Surface } from '../raster/index.ts'
import { settledOf } from '../widgets/index.ts'
import { ownOffset, spansOverlap, type Cell, type Value } from '../variables/index.ts'
import { Doer } from './doer.ts'
import { Glass } from './glass.ts'
import { Memory } from './memory.ts'
import { panelSource, Talk } from './talk.ts'
import { Touch, widgetAt } from './touch.ts'

/** What became of a frame the panel heard. */
export type Verdict = 'ok' | 'refused' | 'out of range' | 'unexpected'

/** What a panel is connected to. */
export interface PanelPort {
  /** Bytes for the host; returns when the last will be in (µs). */
  send(bytes: Uint8Array, message: Message, attempt: number): number
  /** For who watches the line: what was heard, and what came of it. */
  heard(heard: Heard, verdict: Verdict | null, reason: Reason | null): void
}

/** How long a touch beeps, ms. */
const touchBeepMs = 30

/** The simulated panel, from power-on until it is dropped. Everything happens at the clock's time. */
export class Panel {
  readonly memory: Memory
  readonly glass: Glass
  readonly touch: Touch
  readonly talk: Talk
  private doer: Doer
  private receiver: Receiver
  private protocol: Protocol
  private page: BuildPage | null = null
  private aliveTimer: TimedEvent | null = null
  private expiry: TimedEvent | null = null
  private beepTimer: TimedEvent | null = null
  private lastWrite = new Map<number, number>()
  private staleNow = new Set<number>()
  private on = true
  private timers: Timers

  /** The layout of the build must have one reading (`checkLayout`): a panel cannot be built of any other. */
  constructor(
    readonly build: Build,
    clock: VirtualClock,
    private port: PanelPort,
  ) {
    const { header } = build
    this.timers = new Timers(clock, panelSource)
    this.protocol = mustHold(protocolFor(header.layout, build.book))
    this.receiver = new Receiver(this.protocol, 'to panel', this.protocol.dialogue(header.link.confirmTimeoutMs * 1000))
    this.memory = new Memory(header, (address, words) => this.wordsChanged(address, words))
    this.glass = new Glass(build, { read: (cell) => this.read(cell), isPressed: (widget) => this.touch.isPressed(widget) })
    this.talk = new Talk(this.timers, header.link, this.protocol, (message, attempt) => {
      const bytes = this.protocol.encode('to host', message)
      return bytes.ok && this.on ? this.port.send(bytes.value, message, attempt) : null
    })
    this.doer = new Doer({
      memory: this.memory,
      report: (cell) => this.report(cell),
      event: (address, what) => this.talk.say({ operation: 'event', address, what }),
    })
    this.touch = new Touch(this.timers, {
      page: () => this.page,
      settled: (widget) => this.glass.settled(widget),
      mark: (widget) => this.glass.mark(widget),
      run: (widget, moment, what) => void this.doer.run(widget.number, moment, what),
      beep: () => this.memory.setOwn('beep', touchBeepMs),
    })
    this.openPage()
    this.startClocks()
  }

  /** Tells the host which build runs, as a panel does when it has started. */
  announce(): void {
    const address = this.build.header.memory.ownFrom + ownOffset.version
    this.talk.say({ operation: 'report', address, payload: this.memory.bytesOf(address, 1) })
  }

  private startClocks(): void {
    const tick = () => {
      if (!this.on) return
      this.memory.setOwn('clock', (this.memory.clock() + 1) % 86_400)
      this.timers.after(1_000_000, tick)
    }
    this.timers.after(1_000_000, tick)
    for (const { cell } of this.build.header.cells) {
      if (!cell.stale) continue
      this.lastWrite.set(cell.address, this.timers.nowUs)
      this.watchStale(cell, this.timers.nowUs + cell.stale.afterMs * 1000)
    }
  }

  /** Power is gone: nothing of this panel happens any more. */
  switchOff(): void {
    this.on = false
    this.talk.stop()
    this.timers.stop()
  }

  private watchStale(cell: Cell, atUs: number): void {
    this.timers.at(atUs, () => {
      if (!this.on) return
      const dueUs = this.lastWrite.get(cell.address)! + cell.stale!.afterMs * 1000
      if (dueUs > this.timers.nowUs) return this.watchStale(cell, dueUs)
      this.staleNow.add(cell.address)
      this.glass.touchWords(cell.address, cell.words)
    })
  }

  private hostWrote(address: number, words: number): void {
    if (!this.lastWrite.size) return
    for (const { cell } of this.build.header.cells) {
      if (!cell.stale || !spansOverlap(cell, { address, words })) continue
      this.lastWrite.set(cell.address, this.timers.nowUs)
      if (this.staleNow.delete(cell.address)) {
        this.glass.touchWords(cell.address, cell.words)
        this.watchStale(cell, this.timers.nowUs + cell.stale.afterMs * 1000)
      }
    }
  }

  read(cell: Cell): { value: Value; inRange: boolean; stale: boolean } {
    return { ...this.memory.read(cell), stale: this.staleNow.size > 0 && this.staleNow.has(cell.address) }
  }

  private wordsChanged(address: number, words: number): void {
    if (!this.glass) return
    this.glass.touchWords(address, words)
    const own = address - this.build.header.memory.ownFrom
    if (own <= ownOffset.page && own + words > ownOffset.page) this.openPage()
    if (own <= ownOffset.beep && own + words > ownOffset.beep) this.countBeepDown()
  }

  private openPage(): void {
    const page = this.build.header.pages.find((p) => p.number === this.memory.own('page')) ?? null
    if (page === this.page) return
    this.page = page
    this.touch?.pageChanged()
    this.glass.show(page)
  }

  private countBeepDown(): void {
    const ms = this.memory.own('beep')
    this.timers.cancel(this.beepTimer)
    if (ms > 0) this.beepTimer = this.timers.after(ms * 1000, () => this.on && this.memory.setOwn('beep', 0))
  }

  /** Ends for a cell what a touch on a former build had begun: 0 again, and reported as by the lifting of the finger. */
  letGo(cell: Cell): void {
    this.doer.run(0, 'lifted', (world) => world.do({ do: 'write', cell, value: 0, last: true }))
  }

  /** Tells the host of a cell that the panel has written, where it travels to the host. */
  private report(cell: Cell): void {
    if (cell.travels === 'panel to host' || cell.travels === 'both')
      this.talk.say({ operation: 'report', address: cell.address, payload: this.memory.bytesOf(cell.address, cell.words) })
  }

  /** Bytes from the line, the first of which began at `fromUs`; all are in by now. */
  receive(bytes: Uint8Array, fromUs: number): void {
    if (!this.on) return
    for (const heard of this.receiver.receive(bytes, fromUs, this.timers.nowUs)) this.take(heard)
    this.awaitSilence()
  }

  private awaitSilence(): void {
    const deadline = this.receiver.deadlineUs
    this.timers.cancel(this.expiry)
    this.expiry =
      deadline === null
        ? null
        : this.timers.at(deadline, () => {
            for (const heard of this.receiver.expire(this.timers.nowUs)) this.take(heard)
          })
  }

  private take(heard: Heard): void {
    if (heard.kind === 'bad') return this.port.heard(heard, null, null)
    this.hostIsAlive()
    const { message } = heard
    if (message.operation === 'done' || message.operation === 'refused')
      return this.port.heard(heard, this.talk.heardAnswer(message) ? 'ok' : 'unexpected', null)
    const reason = this.obey(message)
    this.port.heard(heard, reason ? 'refused' : this.isOutOfRange(message) ? 'out of range' : 'ok', reason)
    if (reason) this.talk.refuse(message, reason)
  }

  private hostIsAlive(): void {
    this.memory.setOwn('hostAlive', 1)
    this.timers.cancel(this.aliveTimer)
    this.aliveTimer = this.timers.after(this.build.header.link.aliveMs * 1000, () => this.memory.setOwn('hostAlive', 0))
  }

  /** Does what a message says: null, or why not. Done is said here, refused by the caller. */
  private obey(message: Message): Reason | null {
    switch (message.operation) {
      case 'write': {
        const reason = this.memory.hostWrite(message.address, message.payload)
        if (!reason) this.wrote(message, Math.ceil(message.payload.length / 2))
        return reason
      }
      case 'set bits': {
        const reason = this.memory.hostSetBits(message.address, message.mask, message.bits)
        if (!reason) this.wrote(message, 1)
        return reason
      }
      case 'ask': {
        if (message.words < 1 || message.words * 2 > this.build.header.layout.mostPayload) return 'length'
        if (!this.memory.isThere(message.address, message.words)) return 'address'
        this.talk.answer({
          operation: 'value',
          sequence: message.sequence,
          address: message.address,
          payload: this.memory.bytesOf(message.address, message.words),
        })
        return null
      }
      default:
        return 'operation'
    }
  }

  private wrote(message: Message, words: number): void {
    this.hostWrote(message.address, words)
    this.talk.done(message)
  }

  private isOutOfRange(message: Message): boolean {
    if (message.operation !== 'write') return false
    const span = { address: message.address, words: Math.ceil(message.payload.length / 2) }
    return this.build.header.cells.some(({ cell }) => spansOverlap(cell, span) && !this.memory.read(cell).inRange)
  }

  touchDown(x: number, y: number): void {
    this.touch.down(x, y)
    this.memory.setOwn('touched', 1)
  }

  touchMove(x: number, y: number): void {
    this.touch.move(x, y)
  }

  touchUp(x: number, y: number): void {
    this.touch.up(x, y)
    this.memory.setOwn('touched', 0)
  }

  get pageNumber(): number {
    return this.page?.number ?? 0
  }

  paint(): Rect[] {
    return this.glass.paint()
  }

  /** Any page of the build as it would look now; the panel knows nothing of it. */
  paintPage(number: number, surface: Surface): boolean {
    const page = this.build.header.pages.find((p) => p.number === number)
    if (page) this.glass.paintPage(page, surface)
    return page !== undefined
  }

  /** What a person would read off a widget of any page. Null: no such widget. */
  shows(number: number): string | null {
    for (const page of this.build.header.pages) {
      const widget = page.widgets.find((w) => w.number === number)
      if (widget) return this.glass.shows(widget)
    }
    return null
  }

  /** A point of a widget on the page shown that a finger can reach, or why there is none. */
  pointOn(
    number: number,
  ): { x: number; y: number } | { why: 'not on this page' | 'hidden' | 'outside the glass' | 'covered'; by: number | null } {
    const widget = this.page?.widgets.find((w) => w.number === number)
    if (!this.page || !widget) return { why: 'not on this page', by: null }
    if (settledOf(this.glass.settled(widget)).visible === false) return { why: 'hidden', by: null }
    const { width, height } = this.build.header
    const points = pointsOf(widget).filter((p) => holdsPoint({ x: 0, y: 0, width, height }, p.x, p.y))
    if (!points.length) return { why: 'outside the glass', by: null }
    const settled = (w: BuildWidget) => this.glass.settled(w)
    const reached = points.map((p) => ({ p, top: widgetAt(this.page!, p.x, p.y, settled) }))
    const free = reached.find(({ top }) => top === widget || top === null)
    return free ? free.p : { why: 'covered', by: reached[0]!.top!.number }
  }
}

/** The middle first, then the middles of the four quarters. */
const pointsOf = ({ place: { x, y, width, height } }: BuildWidget): { x: number; y: number }[] =>
  [
    [0.5, 0.5],
    [0.25, 0.25],
    [0.75, 0.25],
    [0.25, 0.75],
    [0.75, 0.75],
  ].map(([u, v]) => ({ x: Math.floor(x + width * u!), y: Math.floor(y + height * v!) }))
