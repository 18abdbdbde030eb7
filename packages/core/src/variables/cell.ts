import type { Order } from '../base/index.ts'
import type { Holds } from './holds.ts'

/** Direction of a variable: the host, the panel, both, or the panel without telling anyone. */
export type Travels = 'host to panel' | 'panel to host' | 'both' | 'stays'
export const travelKinds: readonly Travels[] = ['host to panel', 'panel to host', 'both', 'stays']
/** Whether the panel tells the host of what it writes. */
export const travelsToHost = (travels: Travels): boolean => travels === 'panel to host' || travels === 'both'

export const travelWords: Record<Travels, string> = {
  'host to panel': 'host → panel',
  'panel to host': 'panel → host',
  both: 'both',
  stays: 'panel only',
}

/** Look of a value that the host has not sent for too long. */
export interface Staleness {
  afterMs: number
  shows: 'dim' | 'dashes'
}

/** A variable as the panel and the simulated host know it: a place in memory and what the words there mean. */
export interface Cell {
  /** Tells it from every other of a build, and of all builds of its project: an address is a place, which several may share. */
  index: number
  address: number
  words: number
  holds: Holds
  /** Which word of a longer value, and which letter of a text in each word, comes first. */
  order: Order
  travels: Travels
  stale: Staleness | null
}

/** The bytes of a cell in a payload that begins at an address, two to a word; null where it is not wholly there. */
export function bytesOfCell(
  { address, words }: Pick<Cell, 'address' | 'words'>,
  from: number,
  payload: readonly number[],
): readonly number[] | null {
  const [first, last] = [(address - from) * 2, (address - from + words) * 2]
  if (first < 0 || last > payload.length) return null
  return first === 0 && last === payload.length ? payload : payload.slice(first, last)
}

/**
 * The bytes of a cell after a write of `payload` from an address on, two to a word; null where they are not all known.
 * Bytes that are not written stay as `before`, but the rest of a text in which the payload ends: the panel clears it.
 */
export function bytesAfterWrite(
  cell: Pick<Cell, 'address' | 'words' | 'holds'>,
  from: number,
  payload: readonly number[],
  before: readonly number[] | null,
): readonly number[] | null {
  const size = cell.words * 2
  const first = (cell.address - from) * 2
  if (first >= payload.length || first + size <= 0) return null
  const whole = bytesOfCell(cell, from, payload)
  if (whole) return whole
  const clears = cell.holds.type === 'text' && payload.length < first + size
  const out: number[] = []
  for (let i = 0; i < size; i++) {
    const at = first + i
    const byte = at >= 0 && at < payload.length ? payload[at] : at >= 0 && clears ? 0 : before?.[i]
    if (byte === undefined) return null
    out.push(byte)
  }
  return out
}
