import { seededRandom, type Random, type TimedEvent, type VirtualClock } from '../base/index.ts'
import { byteEndUs, type Direction, type LinkSettings } from '../frames/index.ts'

/** Injected faults. Chances are “one in so many”; 0 is never. */
export interface Trouble {
  flipOneBitIn: number
  loseOneByteIn: number
  /** Whole frames still to be lost, by direction. */
  lose: Record<Direction, number>
}

export const noTrouble = (): Trouble => ({ flipOneBitIn: 0, loseOneByteIn: 0, lose: { 'to panel': 0, 'to host': 0 } })

/** A burst that has passed the line. `arrived` is what the other side gets; null where all of it was lost. */
export interface Passed<S> {
  direction: Direction
  sent: Uint8Array
  arrived: Uint8Array | null
  fromUs: number
  toUs: number
  /** Note of its sender. */
  said: S
}

/** Sorts before panel and host at the same instant: what has arrived is there before anyone acts. */
const source = 1

export class Line<S> {
  trouble = noTrouble()
  private silenceUs: Readonly<Record<Direction, number>> = { 'to panel': 0, 'to host': 0 }
  private freeAtUs: Record<Direction, number> = { 'to panel': 0, 'to host': 0 }
  private random: Random
  private onTheWay = new Map<Passed<S>, TimedEvent>()

  constructor(
    private clock: VirtualClock,
    private link: LinkSettings,
    seed: number,
    private deliver: (passed: Passed<S>) => void,
  ) {
    this.random = seededRandom(seed)
  }

  /**
   * Sends bytes as soon as the direction is free; returns when the last one will be in (µs). With `byteByByte` each
   * byte arrives at its own instant, as it must where the bytes are not one frame.
   */
  send(direction: Direction, bytes: Uint8Array, said: S, byteByByte = false): number {
    const freeAtUs = this.freeAtUs[direction]
    const fromUs = Math.max(this.clock.nowUs, freeAtUs ? freeAtUs + this.silenceUs[direction] : 0)
    const toUs = byteEndUs(this.link, fromUs, bytes.length)
    this.freeAtUs[direction] = toUs
    if (!byteByByte) this.pass(direction, bytes, fromUs, toUs, said)
    else
      for (let k = 0; k < bytes.length; k++)
        this.pass(direction, bytes.slice(k, k + 1), byteEndUs(this.link, fromUs, k), byteEndUs(this.link, fromUs, k + 1), said)
    return toUs
  }

  /**
   * Takes other settings from now on: what is on its way arrives as it was sent. `silenceUs`: so long nothing is sent behind what was
   * sent last, for frames that end by a silence.
   */
  become(link: LinkSettings, silenceUs: Readonly<Record<Direction, number>>): void {
    this.link = link
    this.silenceUs = silenceUs
  }

  /** When a direction has nothing left to send. */
  freeAt(direction: Direction): number {
    return this.freeAtUs[direction]
  }

  private pass(direction: Direction, sent: Uint8Array, fromUs: number, toUs: number, said: S): void {
    const passed: Passed<S> = { direction, sent, arrived: this.suffer(direction, sent), fromUs, toUs, said }
    const event = this.clock.at(toUs, source, () => {
      this.onTheWay.delete(passed)
      this.deliver(passed)
    })
    this.onTheWay.set(passed, event)
  }

  /** A sender goes off: of what is on its way, the bytes that are in by now are all that arrives. */
  cutOff(direction: Direction): void {
    const { nowUs } = this.clock
    for (const [passed, event] of this.onTheWay) {
      if (passed.direction !== direction) continue
      this.clock.cancel(event)
      this.onTheWay.delete(passed)
      let whole = 0
      while (whole < passed.sent.length && byteEndUs(this.link, passed.fromUs, whole + 1) <= nowUs) whole++
      const upTo = <T extends Uint8Array | null>(bytes: T) => bytes && bytes.slice(0, whole)
      if (whole) this.deliver({ ...passed, sent: upTo(passed.sent), arrived: upTo(passed.arrived), toUs: nowUs })
    }
    this.freeAtUs[direction] = nowUs
  }

  /** Nothing that is on its way arrives. */
  stop(): void {
    for (const event of this.onTheWay.values()) this.clock.cancel(event)
    this.onTheWay.clear()
  }

  private suffer(direction: Direction, sent: Uint8Array): Uint8Array | null {
    const { trouble, random } = this
    if (trouble.lose[direction] > 0) {
      trouble.lose[direction]--
      return null
    }
    if (!trouble.flipOneBitIn && !trouble.loseOneByteIn) return sent
    const out: number[] = []
    for (const byte of sent) {
      if (trouble.loseOneByteIn && random.below(trouble.loseOneByteIn) === 0) continue
      let hurt = byte
      if (trouble.flipOneBitIn) for (let bit = 0; bit < 8; bit++) if (random.below(trouble.flipOneBitIn) === 0) hurt ^= 1 << bit
      out.push(hurt)
    }
    return out.length ? Uint8Array.from(out) : null
  }
}
