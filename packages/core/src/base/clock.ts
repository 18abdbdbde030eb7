import { mustBe } from './result.ts'

/**
 * Virtual time: integer microseconds in doubles (never bit operations on them). One total order of events:
 * time, then source, then the sequence in which they were asked for.
 */
export interface TimedEvent {
  atUs: number
  /** Lower sources come first at the same instant. */
  source: number
  sequence: number
  run: (() => void) | null
}

const before = (a: TimedEvent, b: TimedEvent): boolean =>
  a.atUs !== b.atUs ? a.atUs < b.atUs : a.source !== b.source ? a.source < b.source : a.sequence < b.sequence

/** How many events may happen at one instant before the clock names the source that goes round in a circle. */
const mostAtOneInstant = 100_000

export class VirtualClock {
  nowUs = 0
  private heap: TimedEvent[] = []
  private sequence = 0

  /** Asks for `run` at `atUs` (an integer, not in the past). The handle cancels it. */
  at(atUs: number, source: number, run: () => void): TimedEvent {
    mustBe(Number.isSafeInteger(atUs), `the instant ${atUs} is whole microseconds`)
    const event: TimedEvent = { atUs: atUs < this.nowUs ? this.nowUs : atUs, source, sequence: this.sequence++, run }
    this.push(event)
    return event
  }

  after(delayUs: number, source: number, run: () => void): TimedEvent {
    return this.at(this.nowUs + delayUs, source, run)
  }

  /** A cancelled event is never run, and nothing of it is kept once there are many of them. */
  cancel(event: TimedEvent | null): void {
    if (!event?.run) return
    event.run = null
    if (++this.cancelled > 64 && this.cancelled > this.heap.length / 2) this.sweep()
  }

  private cancelled = 0

  private sweep(): void {
    const live = this.heap.filter((event) => event.run)
    this.cancelled = 0
    this.heap = []
    for (const event of live) this.push(event)
  }

  /** How many events are asked for and not cancelled. */
  get asked(): number {
    return this.heap.reduce((count, event) => count + (event.run ? 1 : 0), 0)
  }

  /** When the next event is due, or null when nothing is asked for. */
  nextUs(): number | null {
    this.dropCancelled()
    return this.heap[0]?.atUs ?? null
  }

  /** Runs all events up to and including `untilUs`, and leaves the clock there. */
  runUntil(untilUs: number): void {
    let atSame = 0
    let instant = -1
    for (;;) {
      const event = this.heap[0]
      if (!event || event.atUs > untilUs) break
      this.pop()
      if (!event.run) continue
      atSame = event.atUs === instant ? atSame + 1 : 0
      instant = event.atUs
      mustBe(atSame < mostAtOneInstant, `source ${event.source} asks for more and more at ${instant} µs`)
      this.nowUs = event.atUs
      const run = event.run
      event.run = null
      run()
    }
    if (untilUs > this.nowUs) this.nowUs = untilUs
  }

  private dropCancelled(): void {
    while (this.heap.length && !this.heap[0]!.run) this.pop()
  }

  private push(event: TimedEvent): void {
    const heap = this.heap
    let at = heap.length
    heap.push(event)
    while (at > 0) {
      const parent = (at - 1) >> 1
      if (!before(event, heap[parent]!)) break
      heap[at] = heap[parent]!
      at = parent
    }
    heap[at] = event
  }

  private pop(): void {
    const heap = this.heap
    const last = heap.pop()!
    if (!heap.length) return
    let at = 0
    for (;;) {
      let child = 2 * at + 1
      if (child >= heap.length) break
      if (child + 1 < heap.length && before(heap[child + 1]!, heap[child]!)) child++
      if (!before(heap[child]!, last)) break
      heap[at] = heap[child]!
      at = child
    }
    heap[at] = last
  }
}

/** The timers of one owner on a shared clock: when it is gone, none of them is left. */
export class Timers {
  private pending = new Set<TimedEvent>()
  private stopped = false

  constructor(
    private clock: VirtualClock,
    private source: number,
  ) {}

  get nowUs(): number {
    return this.clock.nowUs
  }

  /** As `VirtualClock.at`; an owner that has stopped asks in vain. */
  at(atUs: number, run: () => void): TimedEvent {
    if (this.stopped) return { atUs, source: this.source, sequence: -1, run: null }
    const event = this.clock.at(atUs, this.source, () => {
      this.pending.delete(event)
      run()
    })
    this.pending.add(event)
    return event
  }

  after(delayUs: number, run: () => void): TimedEvent {
    return this.at(this.clock.nowUs + delayUs, run)
  }

  cancel(event: TimedEvent | null): void {
    if (event && this.pending.delete(event)) this.clock.cancel(event)
  }

  /** Whether what was asked for is still to come. */
  isPending = (event: TimedEvent): boolean => this.pending.has(event)

  stop(): void {
    this.stopped = true
    for (const event of this.pending) this.clock.cancel(event)
    this.pending.clear()
  }
}
