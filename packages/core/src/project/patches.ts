import { sameJson } from '../base/index.ts'

/** A JSON patch (RFC 6902) without move, copy and test. Paths go through record ids, never through a place in a list. */
export interface Patch {
  op: 'add' | 'remove' | 'replace'
  path: string
  value?: unknown
}

/** JSON pointer (RFC 6901) of a path. */
export function pointer(path: readonly (string | number)[]): string {
  let text = ''
  for (const key of path) text += `/${/[~/]/.test(String(key)) ? String(key).replaceAll('~', '~0').replaceAll('/', '~1') : key}`
  return text
}

export function pathOf(pointer: string): string[] {
  const keys = pointer.split('/')
  keys.shift()
  // Hardly ever is anything written in another way.
  return pointer.includes('~') ? keys.map((key) => key.replaceAll('~1', '/').replaceAll('~0', '~')) : keys
}

export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

const nothing = Symbol('nothing')

/** The value at a path of JSON data, or a mark that there is none. Own keys only. */
function valueAt(data: unknown, path: readonly string[]): unknown {
  let at = data
  for (const key of path) {
    if (!isRecord(at) || !Object.hasOwn(at, key)) return nothing
    at = at[key]
  }
  return at
}

/**
 * The document with patches applied, frozen where it is new; what is not touched is shared with the old one. Each
 * container is copied once, however many patches go through it. Null where a path leads nowhere.
 */
export function applyPatches<T>(document: T, patches: readonly Patch[]): T | null {
  const copies = new Set<object>()
  const copyOf = (value: unknown): Record<string, unknown> | null => {
    if (!isRecord(value)) return null
    if (copies.has(value)) return value
    const copy = { ...value }
    copies.add(copy)
    return copy
  }
  let root: unknown = document
  for (const { op, path, value } of patches) {
    const keys = pathOf(path)
    const last = keys.pop()
    if (last === undefined || last === '__proto__') return null
    let at = copyOf(root)
    if (!at) return null
    root = at
    for (const key of keys) {
      const child: Record<string, unknown> | null = key !== '__proto__' && Object.hasOwn(at, key) ? copyOf(at[key]) : null
      if (!child) return null
      at[key] = child
      at = child
    }
    if (op !== 'remove') at[last] = value
    else if (Object.hasOwn(at, last)) delete at[last]
    else return null
  }
  for (const copy of copies) Object.freeze(copy)
  return root as T
}

/** Patches from one state to another, down through objects, whole values for lists and scalars; and those back. */
export function patchesBetween(before: unknown, after: unknown, path = ''): { patches: Patch[]; inverse: Patch[] } {
  const patches: Patch[] = []
  const inverse: Patch[] = []
  const walk = (a: unknown, b: unknown, at: string): void => {
    if (a === b) return
    if (isRecord(a) && isRecord(b)) {
      for (const key of Object.keys(a)) walk(a[key], b[key], at + pointer([key]))
      for (const key of Object.keys(b)) if (!Object.hasOwn(a, key)) walk(undefined, b[key], at + pointer([key]))
      return
    }
    if (sameJson(a, b)) return
    patches.push(b === undefined ? { op: 'remove', path: at } : { op: a === undefined ? 'add' : 'replace', path: at, value: b })
    inverse.push(a === undefined ? { op: 'remove', path: at } : { op: b === undefined ? 'add' : 'replace', path: at, value: a })
  }
  walk(before, after, path)
  return { patches, inverse: inverse.reverse() }
}

/** Whether the document still has at every path what the patches left there. */
export const stillStands = (document: unknown, patches: readonly Patch[]): boolean =>
  patches.every((patch) => {
    const now = valueAt(document, pathOf(patch.path))
    return patch.op === 'remove' ? now === nothing : now !== nothing && sameJson(now, patch.value)
  })

/** Reserved numbers stay reserved: no undo gives a number or an address back, but one may retire again what was released. */
export const staysSpent = ({ op, path }: Patch): boolean =>
  !path.startsWith('/spent/') || (op === 'add' && /^\/spent\/(addresses|numbers)\//.test(path))
