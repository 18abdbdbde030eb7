import { expectedData } from './data.ts'
import type { Row } from './rows.ts'

/** How bytes that may not stand in a frame are sent instead, as the examples show. */
export interface Escapes {
  escape: number
  /** Byte and code of each; `xor`: what all of them are XORed with, where that is one byte. */
  codes: readonly (readonly [number, number])[]
  xor: number | null
  rows: Row[]
}

/** A code whose byte is not known yet stands in a body as this and itself. */
const unknown = 0x100

/**
 * The escape byte that examples show: one behind which, with one byte for each code, every value that is known stands where it
 * should. Null: none shows one.
 */
export function unescaped(rows: readonly Row[], flag: number): Escapes | null {
  const counts = new Map<number, number>()
  for (const { body } of rows) for (const byte of new Set(body.subarray(0, -1))) counts.set(byte, (counts.get(byte) ?? 0) + 1)
  if (rows.every((row) => row.meaning.value === null || holdsValue(row))) return null
  for (const escape of [...counts.keys()].sort((a, b) => a - b)) {
    if (escape === flag) continue
    const codes = codesOf(rows, escape)
    if (!codes) continue
    const pairs = [...codes].map(([code, byte]) => [byte, code] as const).sort((a, b) => a[0] - b[0])
    const xors = new Set(pairs.map(([byte, code]) => byte ^ code))
    const xor = xors.size === 1 ? [...xors][0]! : null
    return { escape, codes: pairs, xor, rows: rows.map((row) => withoutEscapes(row, escape, codes)) }
  }
  return null
}

/** Whether the value of an example stands in its body as it is. */
function holdsValue({ body, meaning }: Row): boolean {
  return expectedData(meaning).some(({ bytes }) => findIn(body, bytes) >= 0)
}

function findIn(body: ArrayLike<number>, bytes: readonly number[], from = 0): number {
  for (let at = from; at + bytes.length <= body.length; at++) if (bytes.every((byte, k) => body[at + k] === byte)) return at
  return -1
}

/** The body with each code behind the escape as one unknown. */
function marked(body: Uint8Array, escape: number): number[] | null {
  const out: number[] = []
  for (let at = 0; at < body.length; at++) {
    if (body[at] !== escape) out.push(body[at]!)
    else if (at + 1 === body.length) return null
    else out.push(unknown + body[++at]!)
  }
  return out
}

/** The byte of each code, from values that hold one; null where a code stays unknown, or means two. */
function codesOf(rows: readonly Row[], escape: number): Map<number, number> | null {
  const codes = new Map<number, number>()
  const used = new Set<number>()
  for (const { body, meaning } of rows) {
    const found = marked(body, escape)
    if (!found) return null
    for (const byte of found) if (byte >= unknown) used.add(byte - unknown)
    if (meaning.value === null) continue
    const fit = expectedData(meaning)
      .map(({ bytes }) => fitting(found, bytes))
      .find((one) => one !== null)
    if (!fit) return null
    for (const [code, byte] of fit) {
      if ((codes.get(code) ?? byte) !== byte) return null
      codes.set(code, byte)
    }
  }
  return used.size && [...used].every((code) => codes.has(code)) ? codes : null
}

/** Where bytes stand in a body that has unknowns: the byte of each code among them; the place with most of them known. */
function fitting(body: readonly number[], bytes: readonly number[]): Map<number, number> | null {
  let best: Map<number, number> | null = null
  for (let at = 0; at + bytes.length <= body.length; at++) {
    const codes = new Map<number, number>()
    const isFit = bytes.every((byte, k) => {
      const found = body[at + k]!
      if (found < unknown) return found === byte
      if ((codes.get(found - unknown) ?? byte) !== byte) return false
      codes.set(found - unknown, byte)
      return true
    })
    if (isFit && (!best || codes.size < best.size)) best = codes
  }
  return best
}

function withoutEscapes(row: Row, escape: number, codes: ReadonlyMap<number, number>): Row {
  const body: number[] = []
  const places: number[] = []
  for (let at = 0; at < row.body.length; at++) {
    places.push(row.places[at]!)
    body.push(row.body[at] === escape ? codes.get(row.body[++at]!)! : row.body[at]!)
  }
  return { ...row, body: Uint8Array.from(body), places: [...places, row.places.at(-1)!], claims: [] }
}
