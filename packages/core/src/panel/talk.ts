import type { TimedEvent, Timers } from '../base/index.ts'
import { answering, payloadOf, type EventKind, type LinkSettings, type Message, type Reason } from '../frames/index.ts'
import { nextSequence, type Protocol } from '../protocols/index.ts'
import { spansOverlap, type Span } from '../variables/index.ts'

/** The answer to a command: another command, or done and refused; and how long it is waited for. */
export interface Awaited {
  ms: number
  command: number | null
}

type NotYetNumbered =
  | { operation: 'report'; address: number; payload: readonly number[] }
  | { operation: 'message'; address: number; payload: readonly number[] }
  | { operation: 'event'; address: number; what: EventKind }

type Report = Extract<NotYetNumbered, { operation: 'report' }>
const spanOf = ({ address, payload }: Report): Span => ({ address, words: Math.ceil(payload.length / 2) })
/** Whether a report says all words that another says. */
const covers = (one: Report, other: Report): boolean => {
  const [a, b] = [spanOf(one), spanOf(other)]
  return a.address <= b.address && a.address + a.words >= b.address + b.words
}

/** A report or event of a widget (0: of the panel itself) that waits for its turn. */
interface Waiting {
  what: NotYetNumbered
  widget: number
  /** Null: no answer; undefined: as the link says. */
  awaits: Awaited | null | undefined
  giveUp: TimedEvent
}

/** One that is on its way to the host. */
interface Outgoing {
  what: NotYetNumbered
  widget: number
  awaits: Awaited | null
  message: Message
  attempt: number
}

/** How a report or event ended: the host has it, it refused it, or it never got through. */
export type Ending = 'done' | 'refused' | 'lost'

/** Sorts after the line and before the host at the same instant. */
export const panelSource = 2

/** A report or event that could not begin within this time is given up: an old order must not fire when the host is back. */
export const waitsAtMostUs = 500_000

/**
 * Messages of a panel: answers after its latency, and reports and events one at a time, each repeated until it is
 * answered or the tries are used up. A report replaces one that waits and says nothing but what it says anew.
 */
export class Talk {
  /** Of the last report or event. */
  sequence = 0
  private waiting: Waiting[] = []
  private current: Outgoing | null = null
  private timer: TimedEvent | null = null
  /** Reports and events that never got through. */
  lost = 0

  constructor(
    private timers: Timers,
    private link: LinkSettings,
    private protocol: Protocol,
    private send: (message: Message, attempt: number) => number | null,
    private ended: (what: NotYetNumbered, widget: number, ending: Ending) => void,
  ) {}

  /** The answer to what is said, where nothing else is said of it. */
  private get usual(): Awaited | null {
    const { confirm, confirmTimeoutMs: ms } = this.link
    return confirm && this.protocol.can('to panel', 'done') ? { ms, command: null } : null
  }

  /** Other settings, other frames: what waits is said by them, what is on its way goes on. */
  become(link: LinkSettings, protocol: Protocol): void {
    this.link = link
    this.protocol = protocol
    if (protocol.lastSequence) this.sequence %= protocol.lastSequence + 1
  }

  answer(message: Message): void {
    if (this.protocol.can('to host', message.operation))
      this.timers.after(this.link.latencyMs * 1000, () => void this.send(message, 1))
  }

  /** `always`: whatever the link says. */
  done(to: Message, always = false): void {
    if (this.link.answers !== 'always' && !always) return
    const payload = to.operation === 'message' ? null : payloadOf(to)
    this.answer({ operation: 'done', ...answering(to), ...(payload ? { payload } : {}) })
  }

  refuse(to: Message, reason: Reason): void {
    if (this.link.answers !== 'never') this.answer({ operation: 'refused', ...answering(to), reason })
  }

  say(what: NotYetNumbered, widget = 0, awaits?: Awaited | null): void {
    if (!this.protocol.can('to host', what.operation)) return
    if (what.operation === 'report') this.drop((w) => w.operation === 'report' && covers(what, w))
    const giveUp = this.timers.after(waitsAtMostUs, () => {
      if (!this.drop((w) => w === what)) return
      this.lost++
      this.ended(what, widget, 'lost')
    })
    this.waiting.push({ what, widget, awaits, giveUp })
    this.next()
  }

  private drop(which: (what: NotYetNumbered) => boolean): boolean {
    const gone = this.waiting.filter((w) => which(w.what))
    for (const { giveUp } of gone) this.timers.cancel(giveUp)
    this.waiting = this.waiting.filter((w) => !gone.includes(w))
    return gone.length > 0
  }

  /** Whether a newer report of any of some words waits or is on its way. */
  hasNewer(address: number, words: number): boolean {
    return [...this.waiting, ...(this.current ? [this.current] : [])].some(
      ({ what }) => what.operation === 'report' && spansOverlap({ address, words }, spanOf(what)),
    )
  }

  private next(): void {
    if (this.current) return
    const first = this.waiting.shift()
    if (!first) return
    this.timers.cancel(first.giveUp)
    this.sequence = nextSequence(this.protocol, this.sequence)
    const { what, widget, awaits = this.usual } = first
    this.current = { what, widget, awaits, message: { ...what, sequence: this.sequence }, attempt: 0 }
    this.transmit()
  }

  private transmit(): void {
    const { current } = this
    if (!current) return
    current.attempt++
    const endUs = this.send(current.message, current.attempt)
    if (endUs === null) return this.finish('lost')
    if (!current.awaits) return this.finish('done')
    this.timer = this.timers.at(endUs + current.awaits.ms * 1000, () => {
      if (current.attempt < this.link.tries) return this.transmit()
      this.lost++
      this.finish('lost')
    })
  }

  private finish(ending: Ending): void {
    const { current } = this
    this.timers.cancel(this.timer)
    this.timer = null
    this.current = null
    if (current) this.ended(current.what, current.widget, ending)
    this.next()
  }

  /** The host has answered. Only an answer to what is on its way counts; whether it did. */
  heardAnswer(message: Message): boolean {
    const { current } = this
    if (!current?.awaits || (message.operation !== 'done' && message.operation !== 'refused')) return false
    if (message.operation === 'done' && current.awaits.command !== null) return false
    // By its number where frames are numbered, and by its address where the answer has one.
    if (this.protocol.lastSequence > 0 && message.sequence !== current.message.sequence) return false
    if (message.address !== 0 && message.address !== current.message.address) return false
    this.finish(message.operation === 'done' ? 'done' : 'refused')
    return true
  }

  /** The host has sent a command; whether it is the answer to what is on its way. */
  heardCommand(number: number): boolean {
    if (this.current?.awaits?.command !== number) return false
    this.finish('done')
    return true
  }

  stop(): void {
    this.timers.cancel(this.timer)
    for (const { giveUp } of this.waiting) this.timers.cancel(giveUp)
    this.timer = null
    this.current = null
    this.waiting = []
  }
}
