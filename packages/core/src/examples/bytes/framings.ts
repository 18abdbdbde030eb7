import { freshFraming } from '../../frames/index.ts'
import { bytesWords, type Guess, type WaySamples } from '../guess.ts'
import { toHex } from '../../base/index.ts'
import { lengthFits, type LengthFit } from './length.ts'
import type { Framed, Row } from './rows.ts'
import { unescaped } from './escapes.ts'

/** A way in which the frames of the examples may be told apart. */
export interface FramingGuess extends Guess {
  framed: Framed
  length: LengthFit | null
}

type Samples = WaySamples['samples']

const rowsOf = (samples: Samples, from: number, cut: number): Row[] =>
  samples.map(({ wire, meaning, index }) => ({
    index,
    meaning,
    group: `${meaning.operation} ${meaning.direction}`,
    body: wire.slice(from, wire.length - cut),
    places: Array.from({ length: wire.length - from - cut + 1 }, (_, k) => from + k),
    claims: [],
  }))

/** Every framing of the catalogue that the examples allow, the likeliest first. */
export function framingGuesses(samples: Samples): FramingGuess[] {
  const plain = () => rowsOf(samples, 0, 0)
  const of = samples.length
  const all = (explains: Guess['explains'] = []) => ({ fits: of, of, explains })
  const at = (size: number, ends: readonly ('start' | 'end')[], kind: string): Guess['explains'] =>
    samples.flatMap(({ wire, index }) =>
      ends.map((end) => {
        const from = end === 'start' ? 0 : wire.length - size
        return { example: index, from, to: from + size, kind }
      }),
    )
  const guesses: FramingGuess[] = []
  const flagged = delimitedGuess(samples)
  if (flagged) guesses.push({ ...flagged, ...all(at(1, ['start', 'end'], 'flag')) })
  for (const fit of lengthFits(plain(), null))
    guesses.push({
      key: `length ${fit.at} ${fit.size} ${fit.order} ${fit.spelling} ${fit.unit}`,
      says: `${bytesWords(fit.at, fit.size)} ${fit.size === 1 ? 'counts' : 'count'}: ${fit.says}`,
      ...all(samples.map(({ index }) => ({ example: index, from: fit.at, to: fit.at + fit.size, kind: 'length' }))),
      framed: { rows: plain(), framing: (start) => freshFraming('length-led', { start: [...start] }), hasStart: true },
      length: fit,
    })
  const end = commonEnd(samples)
  for (let size = Math.min(4, end.length); size >= 1; size--) {
    const marker = end.slice(end.length - size)
    const isWhole = size === Math.min(4, end.length)
    if (!isWhole && !(size === 1 && (marker[0] === 0x0d || marker[0] === 0x0a))) continue
    guesses.push({
      key: `ended ${toHex(marker)}`,
      says: `each ends with ${toHex(marker)}`,
      ...all(at(size, ['end'], 'end')),
      framed: {
        rows: rowsOf(samples, 0, size),
        framing: (start) => freshFraming('ended', { start: [...start], end: [...marker] }),
        hasStart: true,
      },
      length: null,
    })
  }
  const sizes = new Set(samples.map(({ wire }) => wire.length))
  const only = sizes.size === 1 && samples.length > 1 ? [...sizes][0]! : 0
  if (only)
    guesses.push({
      key: 'fixed',
      says: `each has ${only} bytes`,
      ...all(),
      framed: { rows: plain(), framing: (start) => freshFraming('fixed', { start: [...start], length: only }), hasStart: true },
      length: null,
    })
  guesses.push({
    key: 'silent',
    says: 'a silence ends each; how long it is, examples cannot tell',
    ...all(),
    framed: { rows: plain(), framing: (start) => freshFraming('silent', { start: [...start] }), hasStart: true },
    length: null,
  })
  // Frames of one length with an end that is one byte: as likely its last byte is always the same.
  return only && end.length === 1
    ? [...guesses.filter(({ key }) => !key.startsWith('ended')), ...guesses.filter(({ key }) => key.startsWith('ended'))]
    : guesses
}

function commonEnd(samples: Samples): number[] {
  const first = samples[0]!.wire
  const end: number[] = []
  for (let back = 1; back <= 4; back++) {
    const byte = first.at(-back)
    if (byte === undefined || !samples.every(({ wire }) => wire.at(-back) === byte && wire.length > back + 1)) break
    end.unshift(byte)
  }
  return end
}

/** One byte before and after each, and, where it or another stands inside, how that is sent instead. */
function delimitedGuess(samples: Samples): Omit<FramingGuess, 'fits' | 'of' | 'explains'> | null {
  const flag = samples[0]!.wire[0]
  if (flag === undefined || samples.length < 2) return null
  const isFlagged = ({ wire }: { wire: Uint8Array }) =>
    wire.length > 3 && wire[0] === flag && wire.at(-1) === flag && !wire.subarray(1, -1).includes(flag)
  if (!samples.every(isFlagged)) return null
  const found = unescaped(rowsOf(samples, 1, 1), flag)
  const escape = found?.escape ?? (flag === 0x7d ? 0x7c : 0x7d)
  const codes = found && found.xor === null ? found.codes.flatMap(([byte, code]) => [byte, code]) : []
  const settings = { flag, escape, xor: found?.xor ?? 0x20, codes }
  const way = !found
    ? 'no example holds an escaped byte'
    : found.xor === null
      ? `escape ${toHex([escape])} with a table: ${found.codes.map(([byte, code]) => `${toHex([byte])} as ${toHex([code])}`).join(', ')}`
      : `escape ${toHex([escape])}, XOR ${toHex([found.xor])}`
  return {
    key: `delimited ${toHex([flag])}`,
    says: `${toHex([flag])} before and after each; ${way}`,
    framed: {
      rows: found?.rows ?? rowsOf(samples, 1, 1),
      framing: () => freshFraming('delimited', settings),
      hasStart: false,
    },
    length: null,
  }
}
