import { idPattern } from '../base/index.ts'
import { collectionAt } from './collections.ts'
import { pathOf } from './patches.ts'

/** How deep a path goes until it names a record: /widgets/id, /host/quantities/id, /panel. */
export const recordDepth = (path: readonly (string | number)[]): number => {
  const [first, second] = [String(path[0]), String(path[1])]
  if (first === 'spent') return 3
  if (first === 'host') return collectionAt(first, second) ? 3 : 2
  return collectionAt(first) ? 2 : 1
}

/** Whether a path names a record or something in it, by an id of the right kind: never a whole map, never a prototype. */
export function isInRecord(path: string): boolean {
  const keys = pathOf(path)
  if (keys.length < recordDepth(keys) || keys.some((key) => key === '__proto__' || key === '')) return false
  for (const depth of [1, 2]) {
    const collection = collectionAt(...keys.slice(0, depth))
    if (collection) return idPattern(collection.kind).test(keys[depth] ?? '')
  }
  return true
}
