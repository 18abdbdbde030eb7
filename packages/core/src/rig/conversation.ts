import type { Book } from '../protocols/index.ts'
import type { BadCode, Direction, Message, Reason } from '../frames/index.ts'

/** One frame, or one stretch of bytes that is none, or a change of power. */
export interface Entry {
  id: number
  kind: 'frame' | 'bad' | 'lost' | 'power'
  direction: Direction
  /** From the first bit of the first byte to the last of the last. */
  fromUs: number
  toUs: number
  bytes: Uint8Array
  message: Message | null
  code: BadCode | null
  verdict: string | null
  reason: Reason | null
  /** Which try this was of a report; 0 where that is not known. */
  attempt: number
  /** The entry this one answers, and the one that answers it. */
  answers: number | null
  answeredBy: number | null
  /** Names and places as they were in the build that sent it. */
  book: Book
  /** Subject of the entry: for `power`, who was switched. */
  note: string
}

/** An entry of which nothing is known yet but where and when; thousands come a second, so it is one plain object from the start. */
export const begin = (
  kind: Entry['kind'],
  direction: Direction,
  fromUs: number,
  toUs: number,
  bytes: Uint8Array,
  book: Book,
): Entry => ({
  id: 0,
  kind,
  direction,
  fromUs,
  toUs,
  bytes,
  message: null,
  code: null,
  verdict: null,
  reason: null,
  attempt: 0,
  answers: null,
  answeredBy: null,
  book,
  note: '',
})

/** Sequences have 16 bits at most, and so have addresses. */
const openKey = (direction: Direction, sequence: number, address: number): number =>
  (sequence * 65536 + address) * 2 + (direction === 'to panel' ? 1 : 0)

/** Entries kept; the oldest go first. */
const most = 20_000

export class Conversation {
  private entries: Entry[] = []
  private nextId = 1
  private open = new Map<number, number>()
  /** Bytes that passed in all, for the load of the line. */
  bytesPassed: Record<Direction, number> = { 'to panel': 0, 'to host': 0 }

  /** Takes over what was begun with `begin`, and numbers it. */
  add(entry: Entry): void {
    entry.id = this.nextId++
    this.bytesPassed[entry.direction] += entry.bytes.length
    this.link(entry)
    this.entries.push(entry)
    if (this.entries.length > most * 1.1) this.entries = this.entries.slice(-most)
  }

  /** An answer belongs to the last open request of the other direction with its sequence and address. */
  private link(entry: Entry): void {
    const { message, direction } = entry
    if (!message || entry.kind !== 'frame') return
    const { sequence, address, operation } = message
    if (operation === 'done' || operation === 'refused' || operation === 'value') {
      const other: Direction = direction === 'to panel' ? 'to host' : 'to panel'
      const key = openKey(other, sequence, address)
      const request = this.get(this.open.get(key) ?? this.open.get(openKey(other, sequence, 0)) ?? -1)
      if (!request) return
      entry.answers = request.id
      request.answeredBy = entry.id
      this.open.delete(key)
    } else this.open.set(openKey(direction, sequence, address), entry.id)
  }

  get(id: number): Entry | null {
    const first = this.entries[0]?.id ?? 0
    return this.entries[id - first] ?? null
  }

  /** All that are kept, oldest first. */
  all(): readonly Entry[] {
    return this.entries
  }

  get lastId(): number {
    return this.nextId - 1
  }

  since(id: number): Entry[] {
    const first = this.entries[0]?.id ?? 0
    return this.entries.slice(Math.max(0, id + 1 - first))
  }
}
