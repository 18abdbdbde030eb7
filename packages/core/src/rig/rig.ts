import { canonicalJson, mustHold, sha256Hex, VirtualClock, type Rect } from '../base/index.ts'
import type { Build, HostBuild } from '../compile/index.ts'
import { bytesUs, type Direction, type Message } from '../frames/index.ts'
import { SimulatedHost, type Host } from '../host/index.ts'
import { Line, type Passed } from '../line/index.ts'
import { Panel, type Carried } from '../panel/index.ts'
import { protocolFor, type End, type Heard, type Protocol, type Wire } from '../protocols/index.ts'
import type { Value } from '../variables/index.ts'
import { PanelEvents } from './panel-events.ts'
import { begin, Conversation, type Entry } from './conversation.ts'

/** From power-on until the panel says which build it runs. */
const bootUs = 50_000
const rigSource = 0

/** Note of the sender of a burst: the message, and which try it is. */
export interface Sent {
  message: Message | null
  attempt: number
}

/** Makes the host's end of a rig: the simulated one, or another. */
export type MakeHost<H extends Host> = (build: HostBuild, clock: VirtualClock, wire: Wire, seed: number) => H

const simulated: MakeHost<Host> = (build, clock, wire, seed) => new SimulatedHost(build, clock, wire, seed)

/** The silence behind each frame, µs. */
const silenceOf = ({ header, book }: Build): Protocol['silenceUs'] => mustHold(protocolFor(header.layout, book)).silenceUs

/**
 * Panel, line and host on one clock. The same build, seed and inputs give the same pixels and the same conversation, with every
 * host that does the same at the same time.
 */
export class Rig {
  readonly clock = new VirtualClock()
  readonly conversation = new Conversation()
  /** Touches, pages, pins and the light, each at its time. */
  readonly events = new PanelEvents()
  readonly line: Line<Sent>
  panel!: Panel
  host!: Host

  constructor(
    private build: Build,
    private hostBuild: HostBuild,
    private seed: number,
    private makeHost: MakeHost<Host> = simulated,
  ) {
    this.line = new Line(this.clock, build.header.link, seed, (passed) => this.deliver(passed))
    this.line.become(build.header.link, silenceOf(build))
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
    return new Panel(this.build, this.clock, this.wire('to host'))
  }

  private startHost(): void {
    this.host = this.makeHost(this.hostBuild, this.clock, this.wire('to panel'), this.seed)
  }

  /** The line as the end that speaks in one direction has it; it hears the other. */
  private wire(speaks: Direction): Wire {
    const hears = speaks === 'to host' ? 'to panel' : 'to host'
    return {
      send: (bytes, message, attempt) => this.line.send(speaks, bytes, { message, attempt }),
      heard: (heard, verdict, reason) => this.note(hears, heard, verdict, reason),
      beside: (happening) => this.events.add(this.nowUs, speaks, happening, this.build.book),
    }
  }

  private hearing(direction: Direction): End<unknown, unknown> {
    return direction === 'to panel' ? this.panel : this.host
  }

  private deliver(passed: Passed<Sent>): void {
    if (!passed.arrived) {
      const { direction, fromUs, toUs, sent, said } = passed
      const lost = begin('lost', direction, fromUs, toUs, sent, this.build.book)
      // Nobody heard it: its sender knows what it was.
      lost.message = said.message
      lost.attempt = said.attempt
      this.conversation.add(lost)
      return
    }
    this.hearing(passed.direction).receive(passed.arrived, passed.fromUs, passed.said.attempt)
  }

  private note(direction: Direction, heard: Heard, verdict: string | null, reason: Entry['reason']): void {
    const { bytes, atUs, attempt } = heard
    const fromUs = Math.max(0, Math.floor(atUs - bytesUs(this.build.header.link, bytes.length)))
    const entry = begin(heard.kind === 'frame' ? 'frame' : 'bad', direction, fromUs, atUs, bytes, this.build.book)
    if (heard.kind === 'frame') entry.message = heard.message
    else entry.code = heard.code
    entry.verdict = verdict
    entry.reason = reason
    entry.attempt = attempt
    this.conversation.add(entry)
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
    this.line.send(direction, bytes, typed, true)
    if (direction === 'to panel') this.host.says(bytes)
  }

  /** Nothing happens any more: both ends are off, and nothing is on its way. */
  stop(): void {
    this.panel.stop()
    this.host.stop()
    this.line.stop()
  }

  powerCycle(which: 'panel' | 'host' | 'both'): void {
    const power = begin('power', 'to host', this.nowUs, this.nowUs, noBytes, this.build.book)
    power.note = which
    this.conversation.add(power)
    if (which !== 'host') {
      this.panel.stop()
      this.line.cutOff('to host')
      this.startPanel()
    }
    if (which !== 'panel') {
      this.host.stop()
      this.line.cutOff('to panel')
      this.startHost()
    }
  }

  /**
   * Puts another build in: panel, line and host become it, and everything goes on. Says which variables were reset, since
   * their type or range is another now, and which have another value than they would start with.
   */
  become(build: Build, hostBuild: HostBuild): Carried {
    this.build = build
    this.hostBuild = hostBuild
    this.line.become(build.header.link, silenceOf(build))
    const carried = this.panel.become(build)
    this.host.become(hostBuild)
    return carried
  }

  /** Values of all variables by the index of their cells, as the panel holds them. */
  values(): { index: number; value: Value; inRange: boolean; stale: boolean; written: boolean; known: boolean }[] {
    return this.build.header.cells.map(({ cell }) => ({ index: cell.index, ...this.panel.read(cell) }))
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

const noBytes = new Uint8Array(0)

/** Bytes typed into the line have no sender. */
const typed = { message: null as Message | null, attempt: 0 }
