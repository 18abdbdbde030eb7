import { bytesToWords, mustHold, type Problem } from '../base/index.ts'
import type { Direction, Message } from '../frames/index.ts'
import { commandOf, protocolFor, type BuildCommand, type Protocol } from '../protocols/index.ts'
import type { Entry, Rig } from '../rig/index.ts'
import { decodeValue, isInOwnWords, parseValue, type Cell, type Value } from '../variables/index.ts'

/** How one step ended. `problem` says why it failed; bytes are whole frames, where there are any to compare. */
export interface StepResult {
  id: string
  status: 'passed' | 'failed' | 'not run'
  /** When it began, and when it was done or decided. */
  fromUs: number
  atUs: number
  problem: Problem | null
  expected: string
  came: string
  expectedBytes: Uint8Array | null
  cameBytes: Uint8Array | null
  direction: Direction
  /** The entry of the conversation that decided. */
  entry: number | null
}

/** So much virtual time, and so many events, are one slice. */
const sliceUs = 2_000_000
const sliceEvents = 200

/** Work that takes time: between two yields so little of it that whoever asked stays at hand. */
export type Slices<T> = Generator<void, T>

/** The outcome of a step: null, it holds; else the expected, what came, and why it failed. */
export type Outcome = Partial<Omit<StepResult, 'id' | 'status' | 'atUs'>> | null

export const fail = (code: string, facts: Problem['facts']): { problem: Problem } => ({
  problem: { code: `exchange.${code}`, facts },
})

/** A run of an exchange as its steps have it: the rig, its finger, and what of the conversation they have dealt with. */
export class Watch {
  private protocol: Protocol
  /** Entries up to this one have been dealt with by expectations, and answers in each direction. */
  cursor: number
  answerCursor: Record<Direction, number>
  /** Commands of the host up to this entry have been dealt with. */
  commandCursor: number
  /** A report of several variables, and the indexes of those that steps have asked for. */
  private several: { entry: Entry; asked: Set<number> } | null = null
  /** Where the finger is that a step has put down. */
  finger: { x: number; y: number } | null = null

  constructor(
    readonly rig: Rig,
    private allowsOthers: boolean,
  ) {
    const { build } = rig.panel
    this.protocol = mustHold(protocolFor(build.header.layout, build.book))
    // The talk of panel and host before it is no step's business.
    this.cursor = rig.conversation.lastId
    this.commandCursor = this.cursor
    this.answerCursor = { 'to host': this.cursor, 'to panel': this.cursor }
  }

  /** The command of a number, where the build has it. */
  command(number: number): BuildCommand | undefined {
    return commandOf(this.rig.panel.build.book, number)
  }

  /** The number of a page by its name, for people. */
  nameOfPage(number: number | null): string {
    return this.rig.panel.build.symbols.pages.find((p) => p.number === number)?.name ?? ''
  }

  /** Lets so much time pass. */
  *pass(us: number): Slices<void> {
    for (let left = us; left > 0; left -= sliceUs) {
      this.rig.advance(Math.min(left, sliceUs))
      yield
    }
  }

  /** Lets time pass, event by event, until `look` finds something or the time is up. */
  *await<T>(withinMs: number, look: () => T | null): Slices<T | null> {
    const untilUs = this.rig.nowUs + withinMs * 1000
    for (let events = 1; ; events++) {
      if (events % sliceEvents === 0) yield
      const found = look()
      if (found !== null) return found
      const next = this.rig.clock.nextUs()
      if (next === null || next > untilUs) {
        yield* this.pass(untilUs - this.rig.nowUs)
        return look()
      }
      this.rig.advance(next - this.rig.nowUs)
    }
  }

  /** A report or event that a step has to deal with: not a repeat of what had arrived, and not of start-up. */
  private isSpoken({ direction, kind, verdict, message }: Entry): boolean {
    if (direction !== 'to host' || kind !== 'frame' || verdict === 'repeated') return false
    if (message!.operation === 'event' || message!.operation === 'message') return true
    // Reports of a panel about itself are no step's business.
    const { memory } = this.rig.panel.build.header
    return message!.operation === 'report' && !isInOwnWords(memory, { address: message!.address, words: 1 })
  }

  /** Each call gives the next entry after `id` of which something holds, and looks at none twice: null while there is none. */
  after(id: number, holds: (entry: Entry) => boolean): () => Entry | null {
    let from = id
    return () => {
      for (const entry of this.rig.conversation.since(from)) {
        from = entry.id
        if (holds(entry)) return entry
      }
      return null
    }
  }

  /** Reports and events that have arrived and are not dealt with, one after another. */
  spoken(): () => Entry | null {
    return this.after(this.cursor, (entry) => this.isSpoken(entry))
  }

  *nextSpoken(withinMs: number, isIt: (entry: Entry) => boolean): Slices<{ entry: Entry; fits: boolean } | null> {
    const next = this.spoken()
    return yield* this.await(withinMs, () => {
      for (let entry = next(); entry; entry = next()) {
        const fits = isIt(entry)
        if (!fits && this.allowsOthers) continue
        if (fits) this.cursor = entry.id
        return { entry, fits }
      }
      return null
    })
  }

  /** The report that was found last, where it holds one more variable that no step has asked for yet. */
  alsoIn(cell: Cell, holds: (entry: Entry) => boolean, isIt: (entry: Entry) => boolean) {
    const { several } = this
    if (several?.entry.id !== this.cursor || several.asked.has(cell.index) || !holds(several.entry)) return null
    return { entry: several.entry, fits: isIt(several.entry) }
  }

  asked(cell: Cell, entry: Entry): void {
    if (this.several?.entry !== entry) this.several = { entry, asked: new Set() }
    this.several.asked.add(cell.index)
  }

  valueOf(cell: Cell, payload: readonly number[]): Value | null {
    return payload.length === cell.words * 2
      ? decodeValue(cell.holds, bytesToWords(payload, this.rig.panel.build.book.memory), cell.order)
      : null
  }

  frame(direction: Direction, message: Message): Uint8Array | null {
    const bytes = this.protocol.encode(direction, message)
    return bytes.ok ? bytes.value : null
  }

  /** Words of memory as the payload of a message. */
  payloadOf(words: Uint16Array): number[] {
    return this.rig.panel.memory.payloadOf(words)
  }
}

/** Goes on with the value of a step as its variable holds it. */
export function* withValue(
  s: { variable: Cell | null; value: string },
  go: (cell: Cell, value: Value) => Slices<Outcome>,
): Slices<Outcome> {
  const cell = s.variable!
  const parsed = parseValue(cell.holds, s.value)
  return parsed.ok ? yield* go(cell, parsed.value) : fail('value', { value: s.value, why: parsed.problem.code })
}
