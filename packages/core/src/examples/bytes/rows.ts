import type { Order } from '../../base/index.ts'
import type { Framing } from '../../frames/index.ts'
import type { Explains } from '../guess.ts'
import type { Meaning } from '../meaning.ts'

/** A part that a stretch of bytes is held to be. */
export interface Claim {
  from: number
  to: number
  kind: string
}

/** An example without what its framing puts around it. */
export interface Row {
  index: number
  meaning: Meaning
  /** Operation and direction: examples of one group have one form. */
  group: string
  body: Uint8Array
  /** Where each byte of the body begins on the wire, and, last, where the body ends. */
  places: readonly number[]
  claims: Claim[]
}

/** A place that is the same in all rows of a group, from the start or, behind the data, from the end. */
export const isFree = (row: Row, from: number, to: number): boolean =>
  from >= 0 && to <= row.body.length && row.claims.every((claim) => claim.to <= from || claim.from >= to)

export const explainedBy = (rows: readonly Row[], claims: readonly (Claim | null)[]): Explains[] =>
  rows.flatMap((row, k) => {
    const claim = claims[k]
    return claim ? [{ example: row.index, from: row.places[claim.from]!, to: row.places[claim.to]!, kind: claim.kind }] : []
  })

/** The rows of each group, in the order in which they come. */
export function groupsOf(rows: readonly Row[]): Map<string, Row[]> {
  const groups = new Map<string, Row[]>()
  for (const row of rows) groups.set(row.group, [...(groups.get(row.group) ?? []), row])
  return groups
}

export const orderWords = (order: Order): string => (order === 'low' ? 'little-endian' : 'big-endian')

/** Rows as a framing leaves them, and the framing itself as far as it is known. */
export interface Framed {
  rows: Row[]
  /** Without the start bytes, which are known last. */
  framing(start: readonly number[]): Framing
  /** It has a place for start bytes; without one they are constants. */
  hasStart: boolean
}
