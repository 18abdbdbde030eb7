import { canonicalJson, sameJson, sha256Hex, VirtualClock, type Rect } from '../base/index.ts'
import type { Build, HostBuild } from '../compile/index.ts'
import { bitsPerByte, type Direction } from '../frames/index.ts'
import { StandIn } from '../host/index.ts'
import { Line, type Passed } from '../line/index.ts'
import { Panel } from '../panel/index.ts'
import type { Heard } from '../protocols/index.ts'
import type { Value } from '../variables/index.ts'
import { Conversation, type Entry } from './conversation.ts'

/** From power-on until the panel says which build it runs. */
const bootUs = 50_000
const rigSource = 0

/** Panel, line and host on one clock. The same build, seed and inputs give the same pixels and the same conversation. */
export class Rig {
  readonly clock = new VirtualClock()
  readonly conversation = new Conversation()
  readonly line: Line
  panel!: Panel
  host!: StandIn
  private passing: Passed | null = null

  constructor(
    private build: Build,
    private hostBuild: HostBuild,
    private seed: number,
  ) {
    this.line = new Line(this.clock, build.header.link, seed, (passed) => this.deliver(passed))
    this.startPanel()
    this.startHost()
  }

  private startPanel(): void {
    const panel = this.madePanel()
    this.panel = panel
    this.clock.after(bootUs, rigSource, () => this.panel === panel && panel.announce())
  }

  /** In a method of its own: what a panel is connected by must keep no other panel alive. */
  private madePanel(): Panel {
    return new Panel(this.build, this.clock, {
      send: (bytes, _message, attempt) => this.line.send('to host', bytes, attempt),
      heard: (heard, verdict, reason) => this.note('to panel', heard, verdict, reason),
    })
  }

  private startHost(): void {
    this.host = new StandIn(
      this.hostBuild,
      this.clock,
      {
        send: (bytes) => this.line.send('to panel', bytes, 0),
        heard: (heard, verdict, reason) => this.note('to host', heard, verdict, reason),
      },
      this.seed,
    )
  }

  private deliver(passed: Passed): void {
    if (!passed.arrived) {
      this.conversation.add({
        ...blank,
        kind: 'lost',
        direction: passed.direction,
        fromUs: passed.fromUs,
        toUs: passed.toUs,
        bytes: passed.sent,
        attempt: attemptOf(passed),
      })
      return
    }
    this.passing = passed
    if (passed.direction === 'to panel') this.panel.receive(passed.arrived, passed.fromUs)
    else this.host.receive(passed.arrived, passed.fromUs)
    this.passing = null
  }

  private note(direction: Direction, heard: Heard, verdict: string | null, reason: Entry['reason']): void {
    const { bytes, atUs } = heard
    const byteUs = (bitsPerByte(this.build.header.link) * 1_000_000) / this.build.header.link.baud
    const attempt = this.passing ? attemptOf(this.passing) : 0
    const what =
      heard.kind === 'frame' ? { kind: 'frame' as const, message: heard.message } : { kind: 'bad' as const, code: heard.code }
    this.conversation.add({
      ...blank,
      ...what,
      direction,
      fromUs: Math.max(0, Math.floor(atUs - bytes.length * byteUs)),
      toUs: atUs,
      bytes,
      verdict,
      reason,
      attempt,
    })
  }

  /** Runs until `us` later. */
  advance(us: number): void {
    this.clock.runUntil(this.clock.nowUs + us)
  }

  get nowUs(): number {
    return this.clock.nowUs
  }

  /** Types bytes into the line as one of the two sides. */
  sendRaw(direction: Direction, bytes: Uint8Array): void {
    this.line.send(direction, bytes, 0, true)
  }

  powerCycle(which: 'panel' | 'host' | 'both'): void {
    const at = { fromUs: this.nowUs, toUs: this.nowUs }
    this.conversation.add({ ...blank, ...at, kind: 'power', direction: 'to host', note: which })
    if (which !== 'host') {
      this.panel.switchOff()
      this.line.cutOff('to host')
      this.startPanel()
    }
    if (which !== 'panel') {
      this.host.switchOff()
      this.line.cutOff('to panel')
      this.startHost()
    }
  }

  /**
   * Puts another build in while the panel is held: every value follows its variable by id, in shown units. Returns the
   * names of the variables whose type or range is another now: they were reset.
   */
  swap(build: Build, hostBuild: HostBuild): string[] {
    const before = this.panel
    const old = this.build
    this.build = build
    this.hostBuild = hostBuild
    const sameLink = sameJson(old.header.link, build.header.link) && sameJson(old.header.layout, build.header.layout)
    before.switchOff()
    this.line.become(build.header.link)
    this.startSwapped(before, old)
    if (!sameLink || !sameJson(old.header.cells, build.header.cells)) {
      this.host.switchOff()
      this.startHost()
    }
    return this.carryValues(before, old)
  }

  private startSwapped(before: Panel, old: Build): void {
    const panel = this.madePanel()
    this.panel = panel
    // The host must not take the next report for a repeat of the last.
    panel.talk.sequence = before.talk.sequence
    panel.memory.setOwn('backlight', before.memory.own('backlight'))
    panel.memory.setOwn('clock', before.memory.clock())
    panel.memory.setOwn('hostAlive', before.memory.own('hostAlive'))
    const shown = old.symbols.pages.find((p) => p.number === before.pageNumber)
    const now = shown && this.build.symbols.pages.find((p) => p.id === shown.id)
    if (now) panel.memory.setOwn('page', now.number)
  }

  private carryValues(before: Panel, old: Build): string[] {
    const reset: string[] = []
    const cells = (build: Build) => {
      // Two variables may stand at one address (a finding says so); the number of words tells most of them apart.
      const byPlace = new Map(build.header.cells.map(({ cell }) => [`${cell.address} ${cell.words}`, cell]))
      return new Map(
        build.symbols.variables.map((v) => [v.id, { name: v.name, cell: byPlace.get(`${v.address} ${v.words}`) ?? null }]),
      )
    }
    const was = cells(old)
    const held = before.touch.held
    for (const [id, { name, cell }] of cells(this.build)) {
      const other = was.get(id)?.cell
      if (!cell || !other) continue
      if (sameJson(cell.holds, other.holds)) {
        // The very words, where they mean the same: not every word has a value that would come back as it was.
        if (cell.order === other.order) this.panel.memory.copy(cell, before.memory, other)
        else this.panel.memory.write(cell, before.memory.read(other).value)
        if (held.includes(other)) this.panel.letGo(cell)
      } else if (before.memory.read(other).value !== this.panel.memory.read(cell).value) reset.push(name)
    }
    return reset
  }

  /** Values of all variables by address, as the panel holds them. */
  values(): { address: number; value: Value; inRange: boolean; stale: boolean }[] {
    return this.build.header.cells.map(({ cell }) => ({ address: cell.address, ...this.panel.read(cell) }))
  }

  paint(): Rect[] {
    return this.panel.paint()
  }

  /** A hash of the conversation so far: the same in every engine. */
  conversationHash(): string {
    const text = canonicalJson(
      this.conversation
        .all()
        .map((e) => [e.kind, e.direction, e.fromUs, e.toUs, Array.from(e.bytes), e.verdict, e.code, e.answers]),
    )
    return sha256Hex(Uint8Array.from(text, (c) => c.charCodeAt(0) & 0xff))
  }
}

const blank = { message: null, code: null, verdict: null, reason: null, attempt: 0, note: '', bytes: new Uint8Array(0) }

const attemptOf = (passed: Passed): number => (typeof passed.tag === 'number' ? passed.tag : 0)
