import { bad, fromHex, good, sameBytes, toHex, wordsToPayload, type Order, type Problem, type Result } from '../base/index.ts'
import { wayOf, type Layout, type Message } from '../frames/index.ts'
import { emptyBook, protocolFor, type Book } from '../protocols/index.ts'
import { encodeValue, wordsOf, type Cell } from '../variables/index.ts'
import { parseMeanings, type Meaning, type Place } from './meaning.ts'

/** A frame and its meaning, understood. */
export interface Sample {
  wire: Uint8Array
  meaning: Meaning
}

/** An example held against a layout: what the layout says for its meaning, and the first byte that differs (−1: none). */
export interface ExampleCheck {
  wire: Uint8Array
  meaning: Meaning | null
  /** The bytes of the layout; null where it cannot say this. */
  said: Uint8Array | null
  differsAt: number
  problem: Problem | null
}

/** Where a place stands that no example gives an address: a layout of lines needs none. */
const firstFree = 0x0100

/** Names and addresses of all examples as a build would have them. `memory`: the order of bytes, and of words where none is said. */
export function exampleBook(meanings: readonly Meaning[], memory: Order): Book {
  const places = new Map<string, Place>()
  const widgets = new Map<number, { name: string; number: number }>()
  for (const { place, widget } of meanings) {
    if (place) places.set(nameOf(place), place)
    if (widget) widgets.set(widget.number, widget)
  }
  let free = firstFree
  const variables = [...places].map(([name, place], index) => {
    const { holds, order, page } = place
    const words = wordsOf(holds)
    const address = place.address ?? free
    if (place.address === null) free += words
    const cell: Cell = { index, address, words, holds, order: order ?? memory, travels: 'both', stale: null }
    return { name, page, cell }
  })
  return { ...emptyBook(memory), variables, widgets: [...widgets.values()] }
}

export const nameOf = ({ name, address }: Place): string => name || `at_${(address ?? 0).toString(16).padStart(4, '0')}`

/** The message of a meaning in a book that was made of it. Problem: `example.command`, and those of `encodeValue`. */
export function messageOf(
  { operation, place, widget, value, mask, bits, what, reason, sequence }: Meaning,
  book: Book,
): Result<Message> {
  const cell = place && book.variables.find(({ name }) => name === nameOf(place))?.cell
  const said = { sequence: sequence ?? 0, address: cell?.address ?? widget?.number ?? 0 }
  if (operation === 'event') return good({ operation, ...said, what: what! })
  if (!cell || operation === 'message') return bad('example.command')
  if (operation === 'ask') return good({ operation, ...said, words: cell.words })
  if (operation === 'done') return good({ operation, ...said })
  if (operation === 'refused') return good({ operation, ...said, reason: reason! })
  if (operation === 'set bits') return good({ operation, ...said, mask, bits })
  const words = encodeValue(cell.holds, value ?? 0, cell.order)
  if (!words.ok) return words
  const payload = wordsToPayload(words.value, book.memory)
  return good({ operation, ...said, payload } as Message)
}

/** Each example of a layout held against it, by the bytes that the layout makes of its meaning. `memory`: the order of bytes in memory. */
export function checkExamples(layout: Layout, memory: Order): ExampleCheck[] {
  const examples = layout.examples ?? []
  const meanings = parseMeanings(examples.map(({ means }) => means))
  const book = exampleBook(
    meanings.flatMap((one) => (one.ok ? [one.value] : [])),
    memory,
  )
  const { examples: _, ...bare } = layout
  const protocol = protocolFor(bare, book)
  return examples.map(({ bytes }, k): ExampleCheck => {
    const wire = fromHex(bytes)
    const meaning = meanings[k]!
    const nothing = { wire: wire.ok ? wire.value : new Uint8Array(), meaning: meaning.ok ? meaning.value : null, said: null }
    const fails = (problem: Problem): ExampleCheck => ({ ...nothing, differsAt: 0, problem })
    if (!wire.ok) return fails(wire.problem)
    if (!meaning.ok) return fails(meaning.problem)
    if (!protocol.ok) return fails(protocol.problem)
    const message = messageOf(meaning.value, book)
    const said = message.ok ? protocol.value.encode(meaning.value.direction, message.value) : message
    if (!said.ok) return fails(said.problem)
    return { ...nothing, said: said.value, differsAt: firstDifference(said.value, wire.value), problem: null }
  })
}

/** The first place where two differ, the length too; −1: nowhere. */
export function firstDifference(one: ArrayLike<number>, other: ArrayLike<number>): number {
  if (sameBytes(one, other)) return -1
  const most = Math.min(one.length, other.length)
  for (let at = 0; at < most; at++) if (one[at] !== other[at]) return at
  return most
}

/** Whether the frames of a direction are lines of characters. */
export const isLines = (layout: Layout, meaning: Meaning): boolean => wayOf(layout, meaning.direction).kind === 'lines'

export const exampleOf = ({ wire, meaning }: Sample, words: (meaning: Meaning) => string): { bytes: string; means: string } => ({
  bytes: toHex(wire),
  means: words(meaning),
})
