import type { Order } from '../base/index.ts'

/** `words` words of memory from `address` on. */
export interface Span {
  address: number
  words: number
}

/** Where variables may stand: [from, to), less the panel's own words [ownFrom, ownTo). */
export interface MemoryPlan {
  from: number
  to: number
  ownFrom: number
  ownTo: number
  /** Which byte of a word comes first where memory is bytes, and by default which word of a longer value. */
  order: Order
}

export const spansOverlap = (a: Span, b: Span): boolean => a.address < b.address + b.words && b.address < a.address + a.words

export const isInOwnWords = (plan: MemoryPlan, span: Span): boolean =>
  spansOverlap(span, { address: plan.ownFrom, words: plan.ownTo - plan.ownFrom })

export const isInMemory = (plan: MemoryPlan, span: Span): boolean =>
  span.address >= plan.from && span.address + span.words <= plan.to

/**
 * Hands out addresses: the lowest free place, two-word values on even addresses, never in the own words and never on
 * a span it was told is taken (live or retired). Spans may be given in any order; handing out n addresses in a row
 * costs O(n log n) in all.
 */
export class AddressBook {
  private taken: Span[]
  /** Where the search for a place of so many words resumes: everything below is known to be too small. */
  private resume = new Map<number, { index: number; at: number }>()

  constructor(
    private plan: MemoryPlan,
    taken: Iterable<Span>,
  ) {
    this.taken = [...taken, { address: plan.ownFrom, words: plan.ownTo - plan.ownFrom }].sort((a, b) => a.address - b.address)
  }

  /** The address of a free place, now taken; null when memory has none of that size. */
  give(words: number): number | null {
    const even = words === 2
    let { index, at } = this.resume.get(words) ?? { index: 0, at: this.plan.from }
    for (;;) {
      if (even && at % 2) at++
      const next = this.taken[index]
      if (!next || at + words <= next.address) break
      at = Math.max(at, next.address + next.words)
      index++
    }
    this.resume.set(words, { index, at })
    if (at + words > this.plan.to) return null
    this.taken.splice(index, 0, { address: at, words })
    for (const [size, place] of this.resume)
      if (place.index > index || (place.index === index && size !== words && place.at > at)) place.index++
    return at
  }
}

/** One clash: the two indices into the spans that were given. */
export interface Overlap {
  first: number
  second: number
}

/** All neighbouring clashes, by address: each span against the furthest-reaching one before it. */
export function findOverlaps(spans: readonly Span[]): Overlap[] {
  const order = spans.map((_, i) => i).sort((a, b) => spans[a]!.address - spans[b]!.address || a - b)
  const out: Overlap[] = []
  let reach = -1
  for (const i of order) {
    if (reach >= 0 && spansOverlap(spans[reach]!, spans[i]!)) out.push({ first: reach, second: i })
    if (reach < 0 || spans[i]!.address + spans[i]!.words > spans[reach]!.address + spans[reach]!.words) reach = i
  }
  return out
}

/** `0x0012` or `18`: one switch for all addresses. */
export const formatAddress = (address: number, as: 'hex' | 'decimal' = 'hex'): string =>
  as === 'hex' ? `0x${address.toString(16).toUpperCase().padStart(4, '0')}` : String(address)

/** An address as typed: `0x0012`, `18`; with `hexFirst`, bare digits are hex too. Null when it is none. */
export function parseAddress(text: string, hexFirst = false): number | null {
  const trimmed = text.trim()
  const hex = /^0x([0-9a-f]{1,4})$/i.exec(trimmed) ?? (hexFirst ? /^([0-9a-f]{4})$/i.exec(trimmed) : null)
  const value = hex ? parseInt(hex[1]!, 16) : /^\d{1,5}$/.test(trimmed) ? Number(trimmed) : -1
  return value >= 0 && value <= 0xffff ? value : null
}
