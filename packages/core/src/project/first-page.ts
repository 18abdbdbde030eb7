import type { PageId } from '../base/index.ts'
import type { Project } from './types.ts'

/** The page one works on first: the one a panel starts with; where that goes on by itself, the one it goes on to. '' for none. */
export function firstPage({ pages, pageOrder, startPage }: Project): PageId | '' {
  const start = startPage ? pages[startPage] : undefined
  const next = start?.showsForMs && Object.hasOwn(pages, start.thenPage) ? (start.thenPage as PageId) : ''
  return next || startPage || (pageOrder[0] ?? '')
}
