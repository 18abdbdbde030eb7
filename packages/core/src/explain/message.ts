import { bytesToWords, type Order } from '../base/index.ts'
import type { Message } from '../frames/index.ts'
import type { Book } from '../protocols/index.ts'
import { decodeValue, formatAddress, formatValue, isInRange, ownWords, wordsOf, type Holds } from '../variables/index.ts'

/** A message in words: `write`, `dome_target`, `231.0 °`. */
export interface Said {
  what: string
  name: string
  value: string
  /** False where the value is none the variable is meant to hold. */
  inRange: boolean
}

interface Place {
  name: string
  holds: Holds
  order: Order
  words: number
  offset: number
}

const indexes = new WeakMap<Book, Map<number, Book['variables'][number]>>()

function variableAt(book: Book, address: number): Place | null {
  let index = indexes.get(book)
  if (!index) {
    index = new Map()
    for (const entry of book.variables) for (let i = 0; i < entry.cell.words; i++) index.set(entry.cell.address + i, entry)
    indexes.set(book, index)
  }
  const found = index.get(address)
  if (found) {
    const { name, cell } = found
    return { name, holds: cell.holds, order: cell.order, words: cell.words, offset: address - cell.address }
  }
  const at = address - book.ownFrom
  const own = ownWords.find((w) => at >= w.offset && at < w.offset + wordsOf(w.holds))
  return own ? { name: own.name, holds: own.holds, order: book.memory, words: wordsOf(own.holds), offset: at - own.offset } : null
}

const hex4 = (n: number): string => `0x${n.toString(16).toUpperCase().padStart(4, '0')}`

/** A message in the names of the build that said or heard it. */
export function sayMessage(book: Book, message: Message): Said {
  const { operation, address } = message
  if (operation === 'event') {
    const name = book.widgets.find((w) => w.number === address)?.name ?? `widget ${address}`
    return { what: operation, name, value: message.what, inRange: true }
  }
  if (operation === 'message')
    return { what: operation, name: `message ${address}`, value: `${message.payload.length} bytes`, inRange: true }
  const place = variableAt(book, address)
  const name = place ? place.name + (place.offset ? ` + ${place.offset}` : '') : formatAddress(address)
  const said = { what: operation as string, name, inRange: true }
  switch (operation) {
    case 'ask':
      return { ...said, value: message.words === (place?.words ?? -1) ? '' : `${message.words} words` }
    case 'set bits':
      return { ...said, value: `mask ${hex4(message.mask)} = ${hex4(message.bits & message.mask)}` }
    case 'done':
      return { ...said, value: '' }
    case 'refused':
      return { ...said, value: message.reason }
    default:
      return { ...said, ...(valuesOf(book, address, message.payload) ?? valueOf(book, place, message.payload)) }
  }
}

/** Several whole variables that lie side by side in one message: the first and the last by name, each in its own unit. */
function valuesOf(book: Book, address: number, payload: readonly number[]): Omit<Said, 'what'> | null {
  const places: Place[] = []
  for (let at = 0; at < payload.length;) {
    const place = variableAt(book, address + at / 2)
    if (!place || place.offset || at + place.words * 2 > payload.length) return null
    places.push(place)
    at += place.words * 2
  }
  if (places.length < 2) return null
  let at = 0
  const values = places.map((place) => valueOf(book, place, payload.slice(at, (at += place.words * 2))))
  return {
    name: `${places[0]!.name} … ${places.at(-1)!.name}`,
    value: values.map(({ value }) => value).join(', '),
    inRange: values.every(({ inRange }) => inRange),
  }
}

function valueOf(book: Book, place: Place | null, payload: readonly number[]): { value: string; inRange: boolean } {
  const words = bytesToWords(payload, book.memory)
  if (place && place.offset === 0 && payload.length === place.words * 2) {
    const value = decodeValue(place.holds, words, place.order)
    return { value: formatValue(place.holds, value), inRange: isInRange(place.holds, value) }
  }
  return { value: Array.from(words, hex4).join(' '), inRange: true }
}

/** `write dome_target = 231.0 °` */
export const sentenceOf = ({ what, name, value }: Said): string => `${what} ${name}${value ? ` = ${value}` : ''}`
