import type { Message } from '../../frames/index.ts'
import { isNumber, type Cell } from '../../variables/index.ts'
import { allOf, causeOf, isPlausible, sureOf, wholeFrame, wordsOf, type CauseFinder, type Mark, type Suspect } from './cause.ts'
import { edgesOf } from './edges.ts'

/**
 * Bytes that a receiver makes of others whose sender is at another rate: it looks for a falling edge, and takes its eight bits in the
 * middle of its own bit times (8 data bits, no parity). `ratio`: bit times of the receiver in one of the sender. `late`: a sample
 * right on an edge counts for the bit behind it.
 */
export function heardAt(sent: ArrayLike<number>, ratio: number, late = true): number[] {
  const total = sent.length * 10
  const level = (time: number): number => {
    const at = Math.floor(time + (late ? 1e-6 : -1e-6))
    if (at < 0 || at >= total) return 1
    const bit = at % 10
    return bit === 0 ? 0 : bit === 9 ? 1 : (sent[Math.floor(at / 10)]! >> (bit - 1)) & 1
  }
  const heard: number[] = []
  const step = 1 / ratio
  let time = 0
  while (time < total) {
    // The next falling edge: of the sender's bits, at which one begins.
    let edge = Math.ceil(time - 1e-9)
    while (edge < total && !(level(edge + 0.25) === 0 && (edge === 0 || level(edge - 0.25) === 1))) edge++
    if (edge >= total) break
    let byte = 0
    for (let k = 0; k < 8; k++) byte |= level(edge + (k + 1.5) * step) << k
    heard.push(byte)
    time = edge + 9.5 * step
  }
  return heard
}

/** So many bytes are looked at. */
const mostHeard = 60
const mostSteps = 30_000

/**
 * Lines of characters that a receiver at twice the rate would hear as these bytes, until one of them `reads`; null where none does. A bit
 * between two edges may be lost, so that several lines are heard alike.
 */
function lineSentSlower(heard: ArrayLike<number>, reads: (sent: Uint8Array) => boolean): Uint8Array | null {
  const sent: number[] = []
  let steps = 0
  const isPrefix = (found: readonly number[]) => found.length <= heard.length && found.every((byte, k) => byte === heard[k])
  const search = (): boolean => {
    const now = heardAt(sent, 2)
    if (sent.length && now.length === heard.length && isPrefix(now) && reads(Uint8Array.from(sent))) return true
    for (const byte of characters) {
      if (++steps > mostSteps) return false
      sent.push(byte)
      const next = heardAt(sent, 2)
      // Bits that come next may change the last byte that is heard, no other.
      if (next.length > now.length && isPrefix(next.length > 1 ? next.slice(0, -1) : next) && search()) return true
      sent.pop()
    }
    return false
  }
  return search() ? Uint8Array.from(sent) : null
}

/** The bytes of lines, the likeliest first. */
const characters = [...Array.from({ length: 95 }, (_, k) => 0x20 + k), 0x0a, 0x0d, 0x09, 0x02, 0x03]

/** Every bit stands there twice: the receiver runs at twice the rate of the sender. */
export const baudTwice: CauseFinder = (suspect) => {
  const { bytes, direction, isDeep, protocol } = suspect
  if (!isDeep || bytes.length < 4 || bytes.length > mostHeard) return null
  const first = bytes[0]!
  const isDoubled = !(first & 1) && ((first >> 1) & 1) === ((first >> 2) & 1) && ((first >> 3) & 1) === ((first >> 4) & 1)
  if (!isDoubled) return null
  const isLine = protocol.isText[direction]
  const sent = isLine ? lineSentSlower(bytes, (one) => wholeFrame(suspect, direction, one) !== null) : null
  const message = sent ? wholeFrame(suspect, direction, sent) : isLine ? null : framesHeardAs(suspect, 2, true)
  if (!message) return null
  const sure = isPlausible(suspect, message) ? 'likely' : 'possible'
  return causeOf('baud-twice', sure, { reads: wordsOf(suspect, message) }, allOf(suspect))
}

/** Half of the bits are lost: the frames of the project are tried, what each would be heard as. */
export const baudHalf: CauseFinder = (suspect) => {
  const { bytes, isDeep } = suspect
  if (!isDeep || bytes.length < 5 || bytes.length > mostHeard) return null
  for (const late of [true, false]) {
    const message = framesHeardAs(suspect, 0.5, late)
    if (message) {
      const sure = isPlausible(suspect, message) ? 'likely' : 'possible'
      return causeOf('baud-half', sure, { reads: wordsOf(suspect, message) }, allOf(suspect))
    }
  }
  return null
}

/** The words that a variable of one word may have, the first and the last behind it. */
function wordsIn({ holds }: Cell): [number, number] {
  if (!isNumber(holds) || holds.type === 'i16' || holds.type === 'i8') return [0, 0x1_0000]
  const ends = [holds.min, holds.max].map((value) => Math.round((value - holds.offset) / holds.factor)).sort((a, b) => a - b)
  return [Math.max(0, ends[0]!), Math.min(0x1_0000, ends[1]! + 1)]
}

/** A message of the project whose frame is heard as the bytes of a suspect by a receiver at another rate. */
function framesHeardAs({ protocol, book, direction, bytes }: Suspect, ratio: number, late: boolean): Message | null {
  const operations = direction === 'to panel' ? (['write'] as const) : (['report', 'value'] as const)
  const encoded = (message: Message) => {
    const made = protocol.encode(direction, message)
    return made.ok ? made.value : null
  }
  const isHeard = (sent: Uint8Array) => {
    const heard = heardAt(sent, ratio, late)
    return heard.length === bytes.length && heard.every((byte, k) => byte === bytes[k])
  }
  const sequences = Math.min(protocol.lastSequence, 15)
  for (const { cell } of book.variables)
    for (const operation of operations)
      for (let sequence = 0; sequence <= sequences && cell.words === 1; sequence++) {
        const of = (word: number): Message => {
          const low = [word & 0xff, word >> 8]
          return { operation, sequence, address: cell.address, payload: book.memory === 'low' ? low : low.reverse() }
        }
        const [zero, ones] = [encoded(of(0)), encoded(of(0xffff))]
        if (!zero || !ones) continue
        let same = 0
        while (same < zero.length && zero[same] === ones[same]) same++
        // The bytes before the data are heard the same, whatever the data are.
        const head = heardAt(zero.subarray(0, same), ratio, late).slice(0, -1)
        if (!head.length || head.some((byte, k) => byte !== bytes[k])) continue
        const [least, behind] = wordsIn(cell)
        for (let word = least; word < behind; word++) {
          const sent = encoded(of(word))
          if (sent && isHeard(sent)) return of(word)
        }
      }
  return null
}

const marksWhere = (bytes: Uint8Array, is: (byte: number) => boolean): Mark[] =>
  [...bytes.keys()].filter((at) => is(bytes[at]!)).map((at) => ({ from: at, to: at + 1 }))

const ones = (byte: number): number => {
  let n = 0
  for (let rest = byte; rest; rest >>= 1) n += rest & 1
  return n
}

/** Seven data bits with parity, read as eight. */
export const parityBit: CauseFinder = (suspect) => {
  const { bytes, direction, layout } = suspect
  if (bytes.length < 4 || !bytes.some((byte) => byte & 0x80)) return null
  const odd = bytes.filter((byte) => ones(byte) % 2 === 1).length
  if (odd > 0 && odd < bytes.length) return null
  const right = bytes.map((byte) => byte & 0x7f)
  const { end } = edgesOf(layout, direction)
  const ended = [right, Uint8Array.from([...right, ...end])]
  const message = ended.map((one) => wholeFrame(suspect, direction, one)).find((one) => one !== null)
  if (!message) return null
  // Each byte fits one of the two parities by chance once in two.
  const sure = sureOf(bytes.length, 2, isPlausible(suspect, message))
  return causeOf(
    'parity',
    sure,
    { parity: odd ? 'odd' : 'even', reads: wordsOf(suspect, message) },
    marksWhere(bytes, (byte) => byte >= 0x80),
  )
}
