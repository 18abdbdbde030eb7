import type { Order } from '../../base/index.ts'
import { mostIn, takeWire, type NumberSpelling } from '../../frames/index.ts'
import { isFree, orderWords, type Row } from './rows.ts'

/** A number at one place that counts bytes of every example. */
export interface LengthFit {
  at: number
  size: number
  order: Order
  spelling: NumberSpelling
  unit: 'bytes' | 'words'
  counts: 'payload' | 'after the length' | 'after the length, without the check' | 'whole frame'
  adds: number
  says: string
}

/** A length stands this far from the start at most. */
const furthest = 10

const shapes: readonly (readonly [number, NumberSpelling])[] = [
  [2, 'binary'],
  [1, 'binary'],
  [4, 'hex'],
  [2, 'hex'],
  [3, 'decimal'],
  [2, 'decimal'],
]

/** Every number that counts bytes in all rows, which must not be of one length. `checkSize`: bytes of the check at their end; null: not known. */
export function lengthFits(rows: readonly Row[], checkSize: number | null): LengthFit[] {
  if (new Set(rows.map(({ body }) => body.length)).size < 2) return []
  const shortest = Math.min(...rows.map(({ body }) => body.length))
  const found: LengthFit[] = []
  for (let at = 0; at < Math.min(furthest, shortest); at++)
    for (const [size, spelling] of shapes)
      for (const order of size === 1 || spelling !== 'binary' ? (['high'] as const) : (['high', 'low'] as const))
        for (const unit of ['bytes', 'words'] as const) {
          const fit = at + size <= shortest ? fitAt(rows, { at, size, order, spelling, unit }, checkSize) : null
          // A number that is part of a longer one counts as much: the longer one is meant.
          if (fit && !found.some((other) => overlap(other, fit))) found.push(fit)
        }
  return found
}

const overlap = (one: LengthFit, other: LengthFit): boolean => one.at < other.at + other.size && other.at < one.at + one.size

function fitAt(
  rows: readonly Row[],
  number: Omit<LengthFit, 'counts' | 'adds' | 'says'>,
  checkSize: number | null,
): LengthFit | null {
  const { at, size, order, spelling, unit } = number
  const scale = unit === 'words' ? 2 : 1
  const wire = { size, order, spelling }
  if (!rows.every((row) => isFree(row, at, at + size))) return null
  const said = rows.map(({ body }) => takeWire(body, at, wire))
  if (said.includes(-1)) return null
  const beyond = rows.map(({ body }, k) => body.length - said[k]! * scale)
  const [first] = beyond
  if (!beyond.every((one) => one === first) || Math.abs(first!) > 40 || first! > mostIn(wire)) return null
  const behind = at + size
  const makes = (counts: LengthFit['counts'], adds: number, words: string): LengthFit => ({
    ...number,
    counts,
    adds,
    says: `${words}${unit === 'words' ? ', in words' : ''}${size > 1 && spelling === 'binary' ? `, ${orderWords(order)}` : ''}${spelling === 'binary' ? '' : ', in ASCII digits'}`,
  })
  if (first === 0) return makes('whole frame', 0, 'the whole frame')
  if (first === behind) return makes('after the length', 0, 'the bytes behind')
  if (checkSize && first === behind + checkSize)
    return makes('after the length, without the check', 0, 'the bytes behind, without the check')
  const adds = (behind - first!) / scale
  if (!Number.isInteger(adds)) return null
  return makes('after the length', adds, `the bytes behind ${adds > 0 ? '+' : '−'} ${Math.abs(adds)}`)
}
