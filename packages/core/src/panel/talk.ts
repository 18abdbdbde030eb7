import type { TimedEvent, Timers } from '../base/index.ts'
import type { EventKind, LinkSettings, Message, Reason } from '../frames/index.ts'
import type { Protocol } from '../protocols/index.ts'

/** A report or event on its way to the host. */
export interface Outgoing {
  message: Message
  attempt: number
}

type NotYetNumbered =
  { operation: 'report'; address: number; payload: readonly number[] } | { operation: 'event'; address: number; what: EventKind }

/** Sorts after the line and before the host at the same instant. */
export const panelSource = 2

/** Reports kept waiting while one is unconfirmed; a newer value of the same address then takes the older one's place. */
const mostWaiting = 64

/**
 * What a panel says: answers after its latency, and reports and events one at a time, each repeated until it is
 * answered or the tries are used up.
 */
export class Talk {
  /** Of the last report or event. */
  sequence = 0
  private waiting: NotYetNumbered[] = []
  private current: Outgoing | null = null
  private timer: TimedEvent | null = null
  private confirms: boolean
  /** Reports and events given up after the last try. */
  lost = 0

  constructor(
    private timers: Timers,
    private link: LinkSettings,
    private protocol: Protocol,
    private send: (message: Message, attempt: number) => number | null,
  ) {
    this.confirms = link.confirm && protocol.can('to panel', 'done')
  }

  answer(message: Message): void {
    if (this.protocol.can('to host', message.operation))
      this.timers.after(this.link.latencyMs * 1000, () => void this.send(message, 1))
  }

  done(to: Message): void {
    if (this.link.answers === 'always') this.answer({ operation: 'done', sequence: to.sequence, address: to.address })
  }

  refuse(to: Message, reason: Reason): void {
    if (this.link.answers !== 'never') this.answer({ operation: 'refused', sequence: to.sequence, address: to.address, reason })
  }

  say(what: NotYetNumbered): void {
    if (!this.protocol.can('to host', what.operation)) return
    const older =
      this.waiting.length >= mostWaiting
        ? this.waiting.findIndex((w) => w.operation === 'report' && what.operation === 'report' && w.address === what.address)
        : -1
    if (older >= 0) this.waiting[older] = what
    else this.waiting.push(what)
    this.next()
  }

  private next(): void {
    if (this.current) return
    const what = this.waiting.shift()
    if (!what) return
    this.sequence = this.protocol.lastSequence ? (this.sequence + 1) % (this.protocol.lastSequence + 1) : 0
    this.current = { message: { ...what, sequence: this.sequence }, attempt: 0 }
    this.transmit()
  }

  private transmit(): void {
    const { current } = this
    if (!current) return
    current.attempt++
    const endUs = this.send(current.message, current.attempt)
    if (!this.confirms || endUs === null) return this.finish()
    this.timer = this.timers.at(endUs + this.link.confirmTimeoutMs * 1000, () => {
      if (current.attempt < this.link.tries) return this.transmit()
      this.lost++
      this.finish()
    })
  }

  private finish(): void {
    this.timers.cancel(this.timer)
    this.timer = null
    this.current = null
    this.next()
  }

  /** The host has answered. Only an answer to what is on its way counts; whether it did. */
  heardAnswer(message: Message): boolean {
    const { current } = this
    if (!current || (message.operation !== 'done' && message.operation !== 'refused')) return false
    // By its number where frames are numbered, and by its address where the answer has one.
    if (this.protocol.lastSequence > 0 && message.sequence !== current.message.sequence) return false
    if (message.address !== 0 && message.address !== current.message.address) return false
    this.finish()
    return true
  }

  stop(): void {
    this.timers.cancel(this.timer)
    this.timer = null
    this.current = null
    this.waiting = []
  }
}
