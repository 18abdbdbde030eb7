import type { Order } from '../../base/index.ts'
import { operationTexts, part, takeWire, type NumberSpelling, type Part } from '../../frames/index.ts'
import { wordsOf } from '../../variables/index.ts'
import { bytesWords, type Guess } from '../guess.ts'
import type { Meaning } from '../meaning.ts'
import { explainedBy, groupsOf, isFree, orderWords, type Claim, type Row } from './rows.ts'

/** A field at one place from the start, in those groups of rows that have it. */
export interface FieldGuess extends Guess {
  part: Part
  spans: readonly (Claim | null)[]
}

/** A field stands this far from the start at most. */
const furthest = 16

interface Shape {
  size: number
  order: Order
  spelling: NumberSpelling
}

const numbers = (sizes: readonly number[], spelled: readonly (readonly [number, NumberSpelling])[] = []): Shape[] => [
  ...sizes.flatMap((size) =>
    (size === 1 ? (['high'] as const) : (['high', 'low'] as const)).map((order) => ({
      size,
      order,
      spelling: 'binary' as const,
    })),
  ),
  ...spelled.map(([size, spelling]) => ({ size, order: 'high' as const, spelling })),
]

/** The places at which a number is what its example says, in all rows of as many groups as may be. */
function fieldGuesses(
  rows: readonly Row[],
  kind: string,
  shapes: readonly Shape[],
  wanted: (meaning: Meaning) => number | null,
  made: (shape: Shape) => { part: Part; says: string },
): FieldGuess[] {
  const asked = rows.filter(({ meaning }) => wanted(meaning) !== null)
  const guesses: FieldGuess[] = []
  if (!asked.length) return guesses
  for (const shape of shapes)
    for (let at = 0; at < furthest; at++) {
      const spans = new Map<Row, Claim>()
      for (const group of groupsOf(asked).values()) {
        const isFit = group.every(
          (row) => isFree(row, at, at + shape.size) && takeWire(row.body, at, shape) === wanted(row.meaning),
        )
        if (isFit) for (const row of group) spans.set(row, { from: at, to: at + shape.size, kind })
      }
      if (!spans.size) continue
      const { part: one, says } = made(shape)
      const claims = rows.map((row) => spans.get(row) ?? null)
      guesses.push({
        key: `${kind} ${at} ${shape.size} ${shape.order} ${shape.spelling} ${says}`,
        says: `${bytesWords(at, shape.size)}: ${says}`,
        fits: spans.size,
        of: asked.length,
        explains: explainedBy(rows, claims),
        part: one,
        spans: claims,
      })
    }
  return guesses.sort((a, b) => b.fits - a.fits)
}

const spellingWords = ({ size, order, spelling }: Shape): string =>
  spelling === 'binary' ? (size === 1 ? '' : `, ${orderWords(order)}`) : spelling === 'bcd' ? ', BCD' : ', in ASCII digits'

/** Where the address of a variable, or the number of a widget, stands. */
export function addressGuesses(rows: readonly Row[]): FieldGuess[] {
  const number = ({ place, widget }: Meaning) => widget?.number ?? place?.address ?? null
  const shapes = numbers(
    [2, 4, 3, 1],
    [
      [4, 'hex'],
      [5, 'decimal'],
      [4, 'decimal'],
      [2, 'bcd'],
    ],
  )
  return (['words', 'bytes'] as const)
    .flatMap((unit) =>
      fieldGuesses(
        rows,
        'address',
        shapes,
        (meaning) => {
          const at = number(meaning)
          return at === null ? null : unit === 'bytes' ? at * 2 : at
        },
        (shape) => ({
          part: part('address', { ...shape, unit }),
          says: `address${spellingWords(shape)}${unit === 'bytes' ? ', counted in bytes' : ''}`,
        }),
      ),
    )
    .sort((a, b) => b.fits - a.fits)
}

/** Where the number of the frame stands. */
export const sequenceGuesses = (rows: readonly Row[]): FieldGuess[] => {
  const said = new Set(rows.flatMap(({ meaning }) => (meaning.sequence === null ? [] : [meaning.sequence])))
  if (said.size < 2) return []
  return fieldGuesses(
    rows,
    'sequence',
    numbers([1, 2]),
    ({ sequence }) => sequence,
    (shape) => ({ part: part('sequence', { ...shape }), says: `sequence${spellingWords(shape)}` }),
  )
}

/** Where the words that are asked for, or that follow, are counted. */
export const wordsGuesses = (rows: readonly Row[]): FieldGuess[] =>
  fieldGuesses(
    rows,
    'words',
    numbers(
      [2, 1],
      [
        [2, 'hex'],
        [2, 'decimal'],
      ],
    ),
    ({ operation, place, value }) =>
      place && (operation === 'ask' || value !== null) && place.holds.type !== 'text' ? wordsOf(place.holds) : null,
    (shape) => ({ part: part('words', { ...shape }), says: `word count${spellingWords(shape)}` }),
  )
    .filter(({ spans }) => rows.every((row, k) => row.meaning.operation !== 'ask' || spans[k]))
    // An operation need not have it.
    .map((guess) => ({ ...guess, of: guess.fits }))

/** A byte that is the same in all frames of an operation, and another for each operation of a direction. */
export function operationGuesses(rows: readonly Row[], before: (row: Row) => number): FieldGuess[] {
  const groups = [...groupsOf(rows).values()]
  const guesses: (FieldGuess & { told: number })[] = []
  for (let at = 0; at < furthest; at++) {
    const codes = groups.map((group) => codeAt(group, at, before))
    if (codes.includes(null)) continue
    const told = groups.map((group, k) => `${group[0]!.meaning.direction} ${codes[k]}`)
    if (new Set(told).size < groups.length) continue
    const spans = rows.map(() => ({ from: at, to: at + 1, kind: 'operation' }))
    const list = groups.map((group, k) => `${hexOf(codes[k]!)} ${operationTexts[group[0]!.meaning.operation]}`).join(', ')
    guesses.push({
      key: `operation ${at}`,
      says: `${bytesWords(at, 1)}: operation, ${list}`,
      fits: rows.length,
      of: rows.length,
      explains: explainedBy(rows, spans),
      part: part('operation'),
      spans,
      told: new Set(codes).size,
    })
  }
  const both = nibbleGuesses(rows)
  return [...both, ...guesses.sort((a, b) => b.told - a.told)]
}

const hexOf = (byte: number): string => byte.toString(16).toUpperCase().padStart(2, '0')

function codeAt(group: readonly Row[], at: number, before: (row: Row) => number): number | null {
  const code = group[0]!.body[at]
  const isSame = group.every((row) => row.body[at] === code && isFree(row, at, at + 1) && at < before(row))
  return code === undefined || !isSame ? null : code
}

/** Sequence and operation in the two halves of one byte. */
function nibbleGuesses(rows: readonly Row[]): FieldGuess[] {
  if (!rows.every(({ meaning }) => meaning.sequence !== null)) return []
  const groups = [...groupsOf(rows).values()]
  return [0, 1, 2, 3].flatMap((at) =>
    (['sequence', 'operation'] as const).flatMap((high): FieldGuess[] => {
      const halves = (row: Row) => {
        const byte = row.body[at]!
        return high === 'sequence' ? [byte >> 4, byte & 15] : [byte & 15, byte >> 4]
      }
      if (!rows.every((row) => isFree(row, at, at + 1) && halves(row)[0] === row.meaning.sequence! % 16)) return []
      const codes = groups.map((group) => new Set(group.map((row) => halves(row)[1]!)))
      const told = new Set(groups.map((group, k) => `${group[0]!.meaning.direction} ${[...codes[k]!][0]}`))
      if (codes.some((code) => code.size > 1) || told.size < groups.length) return []
      const spans = rows.map(() => ({ from: at, to: at + 1, kind: 'sequence and operation' }))
      return [
        {
          key: `sequence and operation ${at} ${high}`,
          says: `${bytesWords(at, 1)}: sequence in the ${high === 'sequence' ? 'high' : 'low'} half, operation in the other`,
          fits: rows.length,
          of: rows.length,
          explains: explainedBy(rows, spans),
          part: part('sequence and operation', { high }),
          spans,
        },
      ]
    }),
  )
}
