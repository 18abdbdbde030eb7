import { sameJson } from '../base/index.ts'

/** A JSON patch (RFC 6902) without move, copy and test. Paths go through record ids, never through a place in a list. */
export interface Patch {
  op: 'add' | 'remove' | 'replace'
  path: string
  value?: unknown
}

/** JSON pointer (RFC 6901) of a path. */
export const pointer = (path: readonly (string | number)[]): string =>
  path.map((key) => `/${String(key).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('')

export const pathOf = (pointer: string): string[] =>
  pointer
    .split('/')
    .slice(1)
    .map((key) => key.replaceAll('~1', '/').replaceAll('~0', '~'))

const nothing = Symbol('nothing')

/** The value at a path of JSON data, or a mark that there is none. */
function valueAt(data: unknown, path: readonly string[]): unknown {
  let at = data
  for (const key of path) {
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, key)) return nothing
    at = (at as Record<string, unknown>)[key]
  }
  return at
}

/** The document with patches applied: what is not touched is shared with the old one. Null where a path leads nowhere. */
export function applyPatches<T>(document: T, patches: readonly Patch[]): T | null {
  let out: unknown = document
  for (const patch of patches) {
    const next = applyAt(out, pathOf(patch.path), patch)
    if (next === nothing) return null
    out = next
  }
  return out as T
}

function applyAt(at: unknown, path: readonly string[], patch: Patch): unknown {
  const [key, ...rest] = path
  if (key === undefined || key === '__proto__') return key === undefined && patch.op !== 'remove' ? patch.value : nothing
  if (typeof at !== 'object' || at === null || Array.isArray(at)) return nothing
  const record = at as Record<string, unknown>
  if (rest.length) {
    if (!Object.hasOwn(record, key)) return nothing
    const child = applyAt(record[key], rest, patch)
    return child === nothing ? nothing : Object.freeze({ ...record, [key]: child })
  }
  if (patch.op === 'remove') {
    if (!Object.hasOwn(record, key)) return nothing
    const { [key]: _, ...others } = record
    return Object.freeze(others)
  }
  return Object.freeze({ ...record, [key]: patch.value })
}

/** Whether the document still has at every path what the patches left there. */
export const stillStands = (document: unknown, patches: readonly Patch[]): boolean =>
  patches.every((patch) => {
    const now = valueAt(document, pathOf(patch.path))
    return patch.op === 'remove' ? now === nothing : now !== nothing && sameJson(now, patch.value)
  })

/** How deep a path goes until it names a record: /widgets/id, /host/quantities/id, /panel. */
export const recordDepth = (path: readonly (string | number)[]): number => {
  const first = String(path[0])
  if (first === 'spent') return path[1] === 'addresses' ? 3 : 2
  if (first === 'host') return path[1] === 'name' || String(path[1]).endsWith('Order') || path[1] === 'synchronises' ? 2 : 3
  return ['pages', 'widgets', 'variables', 'typefaces', 'exchanges'].includes(first) ? 2 : 1
}
