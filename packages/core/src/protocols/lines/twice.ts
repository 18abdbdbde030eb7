import { waysOf, type Layout } from '../../frames/index.ts'
import type { Book } from '../protocol.ts'
import { wireNames, type NamedTwice } from './names.ts'

/** Names on the wire that more than one variable of a build has, in any of the ways of a layout. */
export const namesTwice = (layout: Layout, book: Book): NamedTwice[] =>
  waysOf(layout).flatMap(({ way }) => (way.kind === 'lines' ? wireNames(way.names, book).twice : []))
