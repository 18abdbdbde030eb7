import { checksumFunction, checksumNames, checksums, checksumSize, type ChecksumName, type Order } from '../../base/index.ts'
import { takeWire, type NumberSpelling } from '../../frames/index.ts'
import type { Guess } from '../guess.ts'
import { explainedBy, isFree, type Row } from './rows.ts'

export interface CheckFit {
  algorithm: ChecksumName
  order: Order
  spelling: NumberSpelling & ('binary' | 'hex')
  size: number
  /** The first byte covered, from the start; `data`: the first of the data. */
  from: number | 'data'
  /** Bytes left out before it. */
  leaves: number
}
export interface CheckGuess extends Guess {
  fit: CheckFit
  spans: readonly { from: number; to: number; kind: string }[]
}

/** A check begins this far from the start at most. */
const furthest = 12
/** So many bytes at least it covers in the longest example. */
const leastCovered = 2

/** Every check of the catalogue that fits the end of all rows, over every stretch that ends before it. */
export function checkGuesses(rows: readonly Row[]): CheckGuess[] {
  const found: CheckGuess[] = []
  for (const algorithm of checksumNames)
    for (const spelling of ['binary', 'hex'] as const)
      for (const order of checksumSize(algorithm) > 1 && spelling === 'binary' ? (['low', 'high'] as const) : (['high'] as const))
        for (const leaves of [0, 1, 2]) {
          const size = checksumSize(algorithm) * (spelling === 'hex' ? 2 : 1)
          const fits = rangesThatFit(rows, { algorithm, spelling, order, size, leaves })
          for (const from of fits) found.push(guessOf(rows, { algorithm, spelling, order, size, leaves, from }))
        }
  return found.sort((a, b) => rank(a.fit) - rank(b.fit))
}

/** Of several that fit, one over more bytes with nothing left out is meant sooner. */
const rank = ({ from, leaves, size }: CheckFit): number => (from === 'data' ? 50 : from) + 100 * leaves - size

function rangesThatFit(rows: readonly Row[], fit: Omit<CheckFit, 'from'>): CheckFit['from'][] {
  const { algorithm, order, spelling, size, leaves } = fit
  const run = checksumFunction(algorithm)
  const said: number[] = []
  for (const row of rows) {
    const at = row.body.length - size
    if (at - leaves < 1 || !isFree(row, at, at + size)) return []
    const value = takeWire(row.body, at, { size, order, spelling })
    if (value < 0) return []
    said.push(value)
  }
  const isFit = (from: CheckFit['from']) => {
    let longest = 0
    for (const [k, row] of rows.entries()) {
      const to = row.body.length - size - leaves
      const first = from === 'data' ? (row.claims.find(({ kind }) => kind === 'payload')?.from ?? -1) : from
      if (first < 0 || first > to || run(row.body, first, to) !== said[k]) return false
      longest = Math.max(longest, to - first)
    }
    return longest >= leastCovered
  }
  const ranges: CheckFit['from'][] = [...Array.from({ length: furthest }, (_, k) => k), 'data']
  return ranges.filter(isFit)
}

function guessOf(rows: readonly Row[], fit: CheckFit): CheckGuess {
  const spans = rows.map(({ body }) => ({ from: body.length - fit.size, to: body.length, kind: 'checksum' }))
  const { algorithm, order, spelling, from, leaves, size } = fit
  const range = from === 'data' ? 'the data' : from === 0 ? 'all before it' : `byte ${from + 1} to before it`
  const ends =
    spelling === 'hex' ? ', in hex digits' : size > 1 ? (order === 'low' ? ', low byte first' : ', high byte first') : ''
  return {
    key: `check ${algorithm} ${order} ${spelling} ${from} ${leaves}`,
    says: `${checksums[algorithm].label}${ends}, over ${range}${leaves ? `, ${leaves} left out before it` : ''}`,
    fits: rows.length,
    of: rows.length,
    explains: explainedBy(rows, spans),
    fit,
    spans,
  }
}
