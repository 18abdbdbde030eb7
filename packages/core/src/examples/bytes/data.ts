import { wordsToBytes, type Order } from '../../base/index.ts'
import { part, partKind, type Part, type TextTravel } from '../../frames/index.ts'
import { encodeValue } from '../../variables/index.ts'
import type { Meaning } from '../meaning.ts'
import type { Guess } from '../guess.ts'
import { explainedBy, groupsOf, isFree, orderWords, type Row } from './rows.ts'

/** How values may stand on the wire. */
export interface DataShape {
  key: string
  payload: Order
  /** Which word of a long value comes first. */
  words: Order
  part: Part
  texts: TextTravel
  textByte: number
}

const digits: readonly Part[] = [
  part('payload'),
  part('digits', { spelling: 'hex' }),
  ...[4, 5, 6, 3].flatMap((size) =>
    (['none', 'first'] as const).map((sign) => part('digits', { spelling: 'decimal', digits: size, sign })),
  ),
]

const travels: readonly (readonly [TextTravel, number])[] = [
  ['used', 0],
  ['ended', 0],
  ['ended', 0xff],
  ['whole', 0],
  ['padded', 0x20],
  ['padded', 0xff],
]

const shapes: readonly DataShape[] = digits.flatMap((one) =>
  (['high', 'low'] as const).flatMap((payload) =>
    ([payload, payload === 'high' ? 'low' : 'high'] as const).flatMap((words) =>
      travels.map(([texts, textByte]) => ({
        key: [
          one.part,
          'spelling' in one ? `${one.spelling} ${'digits' in one ? one.digits : ''}${'sign' in one ? one.sign : ''}` : '',
          payload,
          words,
          texts,
          textByte,
        ].join(' '),
        payload,
        words,
        part: one,
        texts,
        textByte,
      })),
    ),
  ),
)

/** The bytes on the wire that would say the value of an example in a shape; null where none would. */
function bytesIn(shape: DataShape, { place, value }: Meaning): readonly number[] | null {
  if (!place || value === null) return null
  const { holds } = place
  if (holds.type === 'text') {
    if (shape.part.part !== 'payload') return null
    const text = Array.from(String(value), (c) => c.charCodeAt(0) & 0xff)
    const fill = (byte: number) => [...text, ...new Array<number>(Math.max(0, holds.bytes - text.length)).fill(byte)]
    return shape.texts === 'used' ? text : shape.texts === 'ended' ? [...text, shape.textByte] : fill(shape.textByte)
  }
  const words = encodeValue(holds, value, place.order ?? shape.words)
  if (!words.ok) return null
  const payload = [...wordsToBytes(words.value, shape.payload)]
  const packing = partKind(shape.part.part)!.packs?.(shape.part as never, shape.payload, false)
  if (!packing) return payload
  const packed = packing.pack({ address: 0, payload })
  return packed.ok ? packed.value : null
}

/** The bytes that may stand for the value of an example, in every shape that is plain. */
export function expectedData(meaning: Meaning): { bytes: readonly number[] }[] {
  return shapes
    .filter(({ part: one, texts }) => one.part === 'payload' && texts === 'used')
    .flatMap((shape) => {
      const bytes = bytesIn(shape, meaning)
      return bytes ? [{ bytes }] : []
    })
}

export interface DataGuess extends Guess {
  shape: DataShape
  /** Where the data stand in each row: `from` to `to`; null: a row without a value. */
  spans: readonly ({ from: number; to: number; kind: string } | null)[]
}

/** Every shape in which the values of all rows stand at one place of their form. `behind`: the bytes that are likely before them. */
export function dataGuesses(rows: readonly Row[], behind: number): DataGuess[] {
  const valued = rows.filter(({ meaning }) => meaning.value !== null)
  if (!valued.length) return []
  const hasText = valued.some(({ meaning }) => meaning.place?.holds.type === 'text')
  const hasLong = valued.some(({ meaning }) => meaning.place && isLong(meaning))
  const found: DataGuess[] = []
  for (const shape of shapes) {
    if (!hasText && shape.texts !== 'used') continue
    if (!hasLong && shape.words !== shape.payload) continue
    const at = new Map<Row, { from: number; to: number; kind: string }>()
    const isFit = [...groupsOf(valued).values()].every((group) => placeIn(group, shape, behind, at))
    if (!isFit) continue
    const spans = rows.map((row) => at.get(row) ?? null)
    const isSame = found.some(
      (other) =>
        other.shape.part === shape.part &&
        JSON.stringify(other.spans) === JSON.stringify(spans) &&
        other.shape.payload === shape.payload,
    )
    if (isSame) continue
    found.push({
      key: `data ${shape.key}`,
      says: shapeWords(shape, hasText, hasLong),
      fits: valued.length,
      of: valued.length,
      explains: explainedBy(rows, spans),
      shape,
      spans,
    })
  }
  return found
}

const isLong = ({ place }: Meaning): boolean => place !== null && ['u32', 'i32', 'f32', 'time'].includes(place.holds.type)

/** The place at which all rows of a group have their value, with as much behind it in each. */
function placeIn(
  group: readonly Row[],
  shape: DataShape,
  behind: number,
  at: Map<Row, { from: number; to: number; kind: string }>,
): boolean {
  const wanted = group.map(({ meaning }) => bytesIn(shape, meaning))
  if (wanted.some((bytes) => bytes === null || !bytes.length)) return false
  const most = Math.min(...group.map(({ body }, k) => body.length - wanted[k]!.length))
  const places = Array.from({ length: most + 1 }, (_, k) => k).sort((a, b) => far(a, behind) - far(b, behind))
  for (const from of places) {
    const tails = new Set(group.map(({ body }, k) => body.length - from - wanted[k]!.length))
    const fits = group.every((row, k) => {
      const bytes = wanted[k]!
      return isFree(row, from, from + bytes.length) && bytes.every((byte, i) => row.body[from + i] === byte)
    })
    if (!fits || tails.size > 1) continue
    group.forEach((row, k) => at.set(row, { from, to: from + wanted[k]!.length, kind: 'payload' }))
    return true
  }
  return false
}

/** Data stand behind the address, as near as may be; before it only if they must. */
const far = (from: number, behind: number): number => (from >= behind ? from - behind : 100 + behind - from)

function shapeWords({ payload, words, part: one, texts, textByte }: DataShape, hasText: boolean, hasLong: boolean): string {
  const digit = one.part === 'digits' ? `, as ${partKind('digits')!.made(one as never)}` : `, ${orderWords(payload)}`
  const long = hasLong && words !== payload ? `, ${words} word first` : ''
  const byte = textByte.toString(16).toUpperCase().padStart(2, '0')
  const text = !hasText
    ? ''
    : {
        used: '; texts as long as they are',
        ended: `; texts end with ${byte}`,
        whole: '; texts fill their place with 00',
        padded: `; texts fill their place with ${byte}`,
      }[texts]
  return `data${digit}${long}${text}`
}
