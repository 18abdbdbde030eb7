import type { Order, Result } from '../base/index.ts'
import type { Layout } from '../frames/index.ts'
import { binaryProtocol } from './binary.ts'
import type { Book, Protocol } from './protocol.ts'

const known = new WeakMap<Layout, Partial<Record<Order, Result<Protocol>>>>()

/** The protocol of a layout in a build, the same one for the same two. Problem: the first of `checkLayout`. */
export function protocolFor(layout: Layout, book: Pick<Book, 'memory'>): Result<Protocol> {
  let made = known.get(layout)
  if (!made) known.set(layout, (made = {}))
  return (made[book.memory] ??= binaryProtocol(layout, book.memory))
}
