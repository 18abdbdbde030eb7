import { bytesToWords, type Order } from '../base/index.ts'
import { eventTexts, notSaid, operationTexts, placesOf, reasonTexts, type Message, type PlacedBytes } from '../frames/index.ts'
import { commandOf, contentOf, readContent, valuesInWords, type Book } from '../protocols/index.ts'
import {
  CellIndex,
  decodeValue,
  formatAddress,
  formatValue,
  isInRange,
  systemVariables,
  wordsOf,
  type Holds,
} from '../variables/index.ts'

/** A message in words: `write`, `dome_target`, `231.0°`. */
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

const indexes = new WeakMap<Book, CellIndex<Book['variables'][number]>>()

function variableAt(book: Book, address: number): Place | null {
  let index = indexes.get(book)
  if (!index) {
    index = new CellIndex(book.variables, ({ cell }) => cell)
    indexes.set(book, index)
  }
  const found = index.at(address).at(-1)
  if (found) {
    const { name, cell } = found
    return { name, holds: cell.holds, order: cell.order, words: cell.words, offset: address - cell.address }
  }
  const at = address - book.ownFrom
  const own = systemVariables().find((w) => at >= w.offset && at < w.offset + wordsOf(w.holds))
  return own ? { name: own.name, holds: own.holds, order: book.memory, words: wordsOf(own.holds), offset: at - own.offset } : null
}

const hex4 = (n: number): string => `0x${n.toString(16).toUpperCase().padStart(4, '0')}`

/** A message in the names of the build that said or heard it. */
export function sayMessage(book: Book, message: Message): Said {
  const { operation, address } = message
  if (operation === 'event') {
    const name = book.widgets.find((w) => w.number === address)?.name ?? `widget ${address}`
    return { what: operationTexts[operation], name, value: eventTexts[message.what], inRange: true }
  }
  if (operation === 'message') return sayCommand(book, message)
  if (operation === 'value' && address === notSaid)
    return {
      what: operationTexts[operation],
      name: 'of the open request',
      value: wordsInHex(book, message.payload),
      inRange: true,
    }
  if ('to' in message && message.to) {
    const all = message.to === 'event' ? book.widgets : book.commands
    const value = operation === 'refused' ? reasonTexts[message.reason] : ''
    return {
      what: operationTexts[operation],
      name: all.find(({ number }) => number === address)?.name ?? String(address),
      value,
      inRange: true,
    }
  }
  const place = variableAt(book, address)
  const name = place ? place.name + (place.offset ? ` + ${place.offset}` : '') : formatAddress(address)
  const said = { what: operationTexts[operation] as string, name, inRange: true }
  switch (operation) {
    case 'ask':
      return { ...said, value: message.words === (place?.words ?? -1) ? '' : `${message.words} words` }
    case 'set bits':
      return { ...said, value: `mask ${hex4(message.mask)} = ${hex4(message.bits & message.mask)}` }
    case 'done':
      return { ...said, value: '' }
    case 'refused':
      return { ...said, value: reasonTexts[message.reason] }
    default:
      return { ...said, ...valuesAt(book, placesOf(message)) }
  }
}

/** A command by its name, with the values that travel in it. */
function sayCommand(book: Book, { address, payload }: Message & { operation: 'message' }): Said {
  const what = operationTexts.message
  const command = commandOf(book, address)
  const size = `${payload.length} ${payload.length === 1 ? 'byte' : 'bytes'}`
  if (!command) return { what, name: `number ${address}`, value: size, inRange: true }
  const values = readContent(command, payload)
  if (!values) return { what, name: command.name, value: `${size} that are no content of it`, inRange: false }
  const { carried } = contentOf(command)
  const inRange = carried.every(({ cell }, k) => !cell || isInRange(cell.holds, values[k]!))
  return { what, name: command.name, value: valuesInWords(command, values), inRange }
}

/** The stretch of a payload that one variable takes, or words that belong to none. */
interface Stretch {
  place: Place | null
  address: number
  bytes: readonly number[]
}

function stretchesOf(book: Book, address: number, payload: readonly number[]): Stretch[] {
  const out: Stretch[] = []
  for (let at = 0; at < payload.length;) {
    const place = variableAt(book, address + at / 2)
    const last = out.at(-1)
    const size = place ? (place.words - place.offset) * 2 : 2
    const bytes = payload.slice(at, at + size)
    if (!place && last && !last.place) out[out.length - 1] = { ...last, bytes: [...last.bytes, ...bytes] }
    else out.push({ place, address: address + at / 2, bytes })
    at += size
  }
  return out
}

const nameOf = ({ place, address }: Stretch): string =>
  place ? place.name + (place.offset ? ` + ${place.offset}` : '') : formatAddress(address)

/** The values of several places, each by its name; of one its name stands apart. */
function valuesAt(book: Book, places: readonly PlacedBytes[]): Omit<Said, 'what'> {
  const all = places.map(({ address, payload }) => valuesOf(book, address, payload))
  if (all.length === 1) return all[0]!
  const names = all.map(({ name }) => name)
  return {
    name: names.join(', '),
    value: all.map(({ value }) => value).join(', '),
    inRange: all.every(({ inRange }) => inRange),
  }
}

/** All that a payload touches: one by its name, several by the first and the last, each value in its own unit. */
function valuesOf(book: Book, address: number, payload: readonly number[]): Omit<Said, 'what'> {
  const stretches = stretchesOf(book, address, payload)
  if (!stretches.length)
    return { name: nameOf({ place: variableAt(book, address), address, bytes: [] }), value: '', inRange: true }
  const values = stretches.map((stretch) => valueOf(book, stretch))
  const [first, last] = [stretches[0]!, stretches.at(-1)!]
  return {
    name: first === last ? nameOf(first) : `${nameOf(first)} … ${nameOf(last)}`,
    value: values.map(({ value }) => value).join(', '),
    inRange: values.every(({ inRange }) => inRange),
  }
}

/** Words of memory in hex, and what is left of an odd byte. */
function wordsInHex(book: Book, bytes: readonly number[]): string {
  const words = Array.from(bytesToWords(bytes, book.memory), hex4)
  if (bytes.length % 2) words.push(`half a word 0x${bytes.at(-1)!.toString(16).toUpperCase().padStart(2, '0')}`)
  return words.join(' ')
}

/** A text may be shorter than its variable, by an odd byte too; of anything else a part says no value: its words stand there. */
function valueOf(book: Book, { place, bytes }: Stretch): { value: string; inRange: boolean } {
  const isWhole = place?.offset === 0 && bytes.length === place.words * 2
  if (place && (isWhole || (place.offset === 0 && place.holds.type === 'text'))) {
    const padded = [...bytes, ...new Array<number>(place.words * 2 - bytes.length).fill(0)]
    const value = decodeValue(place.holds, bytesToWords(padded, book.memory), place.order)
    return { value: formatValue(place.holds, value), inRange: isInRange(place.holds, value) }
  }
  return { value: wordsInHex(book, bytes) + (place?.offset === 0 ? ' (not all of it)' : ''), inRange: true }
}

/** `write dome_target = 231.0°` */
export const sentenceOf = ({ what, name, value }: Said): string => `${what} ${name}${value ? ` = ${value}` : ''}`
