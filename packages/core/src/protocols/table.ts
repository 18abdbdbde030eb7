import { fromHex, good, sameJson, type Order, type Result } from '../base/index.ts'
import { formsOf, wayOf, waysOf, type Direction, type Hint, type Layout, type Way } from '../frames/index.ts'
import { asksForTypes, binaryWay } from './binary.ts'
import { assignedFrames } from './commands/assigned.ts'
import { openQuestions } from './dialogue.ts'
import { linesWay } from './lines/lines.ts'
import type { Book, Protocol } from './protocol.ts'
import type { MakeWay, WayProtocol } from './way.ts'

/** How each kind of way speaks. */
const ways: Readonly<Record<Way['kind'], MakeWay>> = { binary: binaryWay, lines: linesWay }

/** The kinds whose bytes depend on the names of a build. */
const named: ReadonlySet<Way['kind']> = new Set(['lines'])

/** Whether the bytes of a layout depend on names. */
export const needsNames = (layout: Layout): boolean =>
  (['to panel', 'to host'] as const).some((direction) => {
    const way = wayOf(layout, direction)
    return named.has(way.kind) || asksForTypes(way)
  })

/** Whether frames depend on the names of a build or on its commands. */
export const asksBook = ({ layout, book }: WireOf): boolean => needsNames(layout) || book.commands.length > 0

const byMemory = new WeakMap<Layout, Partial<Record<Order, Result<Protocol>>>>()
const byBook = new WeakMap<Layout, WeakMap<Book, Result<Protocol>>>()

/**
 * The protocol of a layout in a build, the same one for the same two; of bytes alone, for the same memory. Problem: the first of
 * `layoutProblems`.
 */
export function protocolFor(layout: Layout, book: Book): Result<Protocol> {
  if (asksBook({ layout, book })) {
    let made = byBook.get(layout)
    if (!made) byBook.set(layout, (made = new WeakMap()))
    let protocol = made.get(book)
    if (!protocol) made.set(book, (protocol = bothWays(layout, book)))
    return protocol
  }
  let made = byMemory.get(layout)
  if (!made) byMemory.set(layout, (made = {}))
  return (made[book.memory] ??= bothWays(layout, book))
}

/** Layout and names of a build: all that its bytes depend on. */
export interface WireOf {
  layout: Layout
  book: Book
}

/** Whether the frames of two builds are the same, so that one that has begun to come goes on. */
export function sameWire(one: WireOf, other: WireOf): boolean {
  if (!sameWays(one.layout, other.layout) || one.book.memory !== other.book.memory) return false
  if (one.book === other.book) return true
  if (!asksBook(one) && !asksBook(other)) return true
  if (!sameJson(one.book.commands, other.book.commands)) return false
  return !needsNames(one.layout) || sameNames(one, other)
}

/** Examples are none of what is said. */
const sameWays = (one: Layout, other: Layout): boolean =>
  one === other || (one.toPanel === other.toPanel && one.toHost === other.toHost)

function sameNames({ layout, book: one }: WireOf, { book: other }: WireOf): boolean {
  const asksPages = waysOf(layout).some(({ way }) => way.kind === 'lines' && way.names.template.includes('{page}'))
  const samePage = (a: { page?: string }, b: { page?: string }) => !asksPages || a.page === b.page
  return (
    one.ownFrom === other.ownFrom &&
    one.variables.length === other.variables.length &&
    one.widgets.length === other.widgets.length &&
    one.variables.every((a, k) => {
      const b = other.variables[k]!
      return a.cell === b.cell && a.name === b.name && a.wire === b.wire && samePage(a, b)
    }) &&
    one.widgets.every((a, k) => {
      const b = other.widgets[k]!
      return a.number === b.number && a.name === b.name && samePage(a, b)
    })
  )
}

function bothWays(layout: Layout, book: Book): Result<Protocol> {
  const make = (direction: Direction) => ways[wayOf(layout, direction).kind](layout, direction, book)
  const [toPanel, toHost] = [make('to panel'), make('to host')]
  if (!toPanel.ok) return toPanel
  if (!toHost.ok) return toHost
  const of = (direction: Direction): WayProtocol => (direction === 'to panel' ? toPanel.value : toHost.value)
  const other = (direction: Direction): WayProtocol => (direction === 'to panel' ? toHost.value : toPanel.value)
  const both = [toPanel.value, toHost.value]
  const assigns = {
    'to panel': assignedFrames(book, 'to panel').length > 0,
    'to host': assignedFrames(book, 'to host').length > 0,
  }
  return good({
    lastSequence: Math.min(...both.map(({ lastSequence }) => lastSequence)),
    limits: {
      payload: Math.min(...both.map(({ limits }) => limits.payload)),
      frame: Math.max(...both.map(({ limits }) => limits.frame)),
    },
    silenceUs: { 'to panel': toPanel.value.silenceUs, 'to host': toHost.value.silenceUs },
    can: (direction, operation) =>
      formsOf(layout, direction).some((form) => form.operation === operation) || (operation === 'message' && assigns[direction]),
    encode: (direction, message) => of(direction).encode(message),
    decoder: (direction) => of(direction).decoder(),
    dialogue: openQuestions,
    dissect: (direction, wire) => of(direction).dissect(wire),
    mend: (direction, typed) => of(direction).mend(typed),
    isText: { 'to panel': toPanel.value.typed !== undefined, 'to host': toHost.value.typed !== undefined },
    typed: (direction, text) => {
      const { typed } = of(direction)
      return typed && text.trim() && !isHex(text) ? good(typed(text.replace(/[\r\n]+$/, ''))) : fromHex(text)
    },
    hint: (direction, wire, code) =>
      code === 'operation' || code === 'word' ? otherWay(other(direction), wire) : of(direction).hint(wire, code),
  })
}

/** Whether a text is bytes in hex and nothing else: two figures each, with a blank between them or `0x` before. */
const isHex = (text: string): boolean => /^\s*(0x)?[0-9a-f]{2}([\s,]+(0x)?[0-9a-f]{2})+[\s,]*$/i.test(text)

/** The meaning of a frame that the other end would send. */
function otherWay(other: WayProtocol, wire: Uint8Array): Hint[] {
  const { readings, bad } = other.dissect(wire)
  return bad || !readings[0] ? [] : [{ code: 'hint.other-way', facts: {}, reads: readings[0] }]
}
