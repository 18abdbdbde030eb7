import type { BadCode, Decoder, Direction, Message } from '../frames/index.ts'
import type { Dialogue, Protocol } from './protocol.ts'

/** A frame or a bad range with its bytes, the instant its last byte was in, and which try its sender calls it (0: not counted). */
export type Heard = { bytes: Uint8Array; atUs: number; attempt: number } & (
  { kind: 'frame'; message: Message } | { kind: 'bad'; code: BadCode }
)

/** One end's ear: a decoder that remembers the bytes its outcomes speak of, and knows which reading is meant. */
export class Receiver {
  private decoder: Decoder
  private recent: number[] = []
  private base = 0
  /** Which try the last bytes were of: a silence may end a frame long behind them. */
  private attempt = 0

  constructor(
    protocol: Protocol,
    private direction: Direction,
    private dialogue: Dialogue,
  ) {
    this.decoder = protocol.decoder(direction)
  }

  get deadlineUs(): number | null {
    return this.decoder.deadlineUs
  }

  /** Bytes that were on the line from `firstUs` to `lastUs`, which is now; of the try `attempt`. */
  receive(bytes: Uint8Array, firstUs: number, lastUs: number, attempt = 0): Heard[] {
    const late = this.expire(firstUs)
    this.attempt = attempt
    for (let i = 0; i < bytes.length; i++) this.recent.push(bytes[i]!)
    const outcomes = this.decoder.feed(bytes, firstUs, lastUs)
    const heard = this.attach(outcomes, lastUs, attempt)
    return late.length ? [...late, ...heard] : heard
  }

  expire(atUs: number): Heard[] {
    const deadline = this.decoder.deadlineUs
    return deadline === null || atUs < deadline ? [] : this.attach(this.decoder.expire(atUs), deadline, this.attempt)
  }

  private attach(outcomes: ReturnType<Decoder['feed']>, atUs: number, attempt: number): Heard[] {
    if (!outcomes.length) return []
    const heard = outcomes.map((o): Heard => {
      const bytes = Uint8Array.from(this.recent.slice(o.from - this.base, o.to - this.base))
      if (o.kind === 'bad') return { kind: 'bad', code: o.code, bytes, atUs, attempt }
      return { kind: 'frame', message: this.dialogue.heard(this.direction, o.readings, atUs), bytes, atUs, attempt }
    })
    const end = outcomes[outcomes.length - 1]!.to
    this.recent = this.recent.slice(end - this.base)
    this.base = end
    return heard
  }
}
