import { hexByte } from '../../base/index.ts'
import { payloadOf, wayOf, type Direction, type Message } from '../../frames/index.ts'
import { isNumber } from '../../variables/index.ts'
import { sayMessage, sentenceOf } from '../message.ts'
import {
  causeOf,
  isPlausible,
  mended,
  sureOf,
  wholeFrame,
  wordsOf,
  checkBits,
  type CauseFinder,
  type Mark,
  type Suspect,
} from './cause.ts'

const markOf = ({ anatomy }: Suspect, kind: string): Mark[] =>
  anatomy.pieces.filter((piece) => piece.kind === kind).map(({ from, to }) => ({ from, to }))

/** A value beyond its range, or an address that nobody has, which would be good with its bytes the other way round. */
export const byteOrder: CauseFinder = (suspect) => {
  const { message, book, layout, direction } = suspect
  if (!message || wayOf(layout, direction).kind !== 'binary' || isPlausible(suspect, message)) return null
  const received = sentenceOf(sayMessage(book, message))
  const turned = (payload: readonly number[]) => payload.map((byte, i) => payload[i ^ 1] ?? byte)
  const payload = payloadOf(message)
  const swapped: [string, string, Message][] = []
  if (payload && payload.length % 2 === 0)
    swapped.push(['the value', 'payload', { ...message, payload: turned(payload) } as Message])
  const address = ((message.address & 0xff) << 8) | (message.address >> 8)
  if (message.address >= 0) swapped.push(['the address', 'address', { ...message, address }])
  for (const [what, kind, other] of swapped) {
    if (!isPlausible(suspect, other)) continue
    return causeOf('byte-order', 'likely', { what, received, reads: sentenceOf(sayMessage(book, other)) }, markOf(suspect, kind))
  }
  return null
}

/** Figures as characters where a number is meant; of a line, a number in quotes. */
export const textForNumber: CauseFinder = (suspect) => {
  const { message, book, bytes, layout, direction } = suspect
  if (wayOf(layout, direction).kind === 'lines') {
    const text = String.fromCharCode(...bytes)
    const quoted = /"([+-]?[\d.]+)"/.exec(text)
    if (!quoted) return null
    const right = Uint8Array.from(text.replace(quoted[0], quoted[1]!), (c) => c.charCodeAt(0))
    const marks = [{ from: quoted.index, to: quoted.index + quoted[0].length }]
    return mended(suspect, 'text-for-number', { text: quoted[1]! }, marks, right)
  }
  const payload = message && payloadOf(message)
  if (!payload?.length || message!.operation === 'message') return null
  const figures = String.fromCharCode(...payload)
  if (!/^[+-]?\d[\d.]*\0*$/.test(figures)) return null
  const cell = book.variables.find((one) => one.cell.address === message!.address)?.cell
  if (!cell || !isNumber(cell.holds) || (isPlausible(suspect, message!) && payload.length === cell.words * 2)) return null
  const name = sayMessage(book, { ...message!, payload: new Array<number>(cell.words * 2).fill(0) } as Message).name
  const text = figures.replaceAll('\0', '')
  return causeOf(
    'text-for-number',
    'likely',
    { text, reads: `${name} = ${text} as characters ${payload.map(hexByte).join(' ')}` },
    markOf(suspect, 'payload'),
  )
}

/** A text of a line without the quotes that the layout has. */
export const quotesMissing: CauseFinder = (suspect) => {
  const { bytes, layout, direction } = suspect
  const way = wayOf(layout, direction)
  if (way.kind !== 'lines' || way.spelling['text'] !== 'quoted') return null
  const body = bytes.length - way.end.length
  for (let at = way.start.length + 1; at < body; at++) {
    const right = Uint8Array.from([...bytes.subarray(0, at), 0x22, ...bytes.subarray(at, body), 0x22, ...way.end])
    const found = mended(suspect, 'quotes-missing', {}, [{ from: at, to: body }], right, { tries: 1 })
    if (found) return found
  }
  return null
}

/** Numbers that were typed as decimals where hex is read. */
export const decimal: CauseFinder = (suspect) => {
  const { text, direction } = suspect
  const typed = text === null ? null : decimalsOf(text)
  const ways: readonly Direction[] = [direction, direction === 'to panel' ? 'to host' : 'to panel']
  for (const way of typed ? ways : []) {
    const message = wholeFrame(suspect, way, typed!)
    if (!message) continue
    const sure = sureOf(checkBits(suspect.protocol.dissect(way, typed!)), 2, isPlausible(suspect, message))
    return causeOf('decimal', sure, { reads: wordsOf(suspect, message) }, [{ from: 0, to: suspect.bytes.length }])
  }
  const { bytes } = suspect
  if (bytes.length < 4 || bytes.some((byte) => byte >> 4 > 9 || (byte & 15) > 9)) return null
  const right = bytes.map((byte) => (byte >> 4) * 10 + (byte & 15))
  return mended(suspect, 'decimal', {}, [{ from: 0, to: bytes.length }], right)
}

/** Bytes of a list of decimal numbers; null where it is none. */
export function decimalsOf(text: string): Uint8Array | null {
  const list = /(?:^|[\s:>])((?:\d{1,3}[\s,;]+){3,}\d{1,3})\s*[,;]?\s*$/.exec(
    text.replace(/^\s*(?:\d{1,2}:\d{2}:\d{2}(?:[.,]\d+)?|\d+[.,]\d+)\s/, ''),
  )
  if (!list) return null
  const numbers = list[1]!.split(/[\s,;]+/).map(Number)
  return numbers.every((n) => n <= 255) ? Uint8Array.from(numbers) : null
}
