import type { BadCode } from '../bad.ts'

/** Bytes that may not stand in a frame as they are: each is sent as the escape and a code. */
export interface Escaping {
  escape: number
  /** The code of each byte that is escaped; −1 for one that stands as it is. */
  codeOf: Int16Array
  /** The byte of each code; −1 for what is no code. */
  byteOf: Int16Array
}

/** `table`: pairs of a byte and its code; where it is empty, the code is the byte XOR `xor`. Null: some byte has no code. */
export function escapingOf(special: readonly number[], escape: number, xor: number, table: readonly number[]): Escaping | null {
  const codeOf = new Int16Array(256).fill(-1)
  const byteOf = new Int16Array(256).fill(-1)
  const put = (byte: number, code: number) => {
    codeOf[byte] = code
    byteOf[code] = byte
  }
  if (table.length) for (let i = 0; i + 1 < table.length; i += 2) put(table[i]!, table[i + 1]!)
  else for (const byte of new Set([...special, escape])) put(byte, byte ^ xor)
  const sent = byteOf.reduce((all, byte) => all + (byte >= 0 ? 1 : 0), 0)
  const escaped = codeOf.reduce((all, code) => all + (code >= 0 ? 1 : 0), 0)
  const isGood =
    table.length % 2 === 0 &&
    sent === escaped &&
    [...special, escape].every((byte) => codeOf[byte]! >= 0 && byteOf[byte]! < 0) &&
    !special.includes(escape)
  return isGood ? { escape, codeOf, byteOf } : null
}

/** Writes the bytes `from` to `to` (excluded), escaped, into `out` at `at`; gives the place behind them. */
export function putEscaped(
  { escape, codeOf }: Escaping,
  bytes: Uint8Array,
  from: number,
  to: number,
  out: Uint8Array,
  at: number,
): number {
  for (let i = from; i < to; i++) {
    const byte = bytes[i]!
    if (codeOf[byte]! >= 0) {
      out[at++] = escape
      out[at++] = codeOf[byte]!
    } else out[at++] = byte
  }
  return at
}

/** How many bytes of these are escaped. */
export function escapedIn({ codeOf }: Escaping, bytes: Uint8Array, from = 0): number {
  let count = 0
  for (let i = from; i < bytes.length; i++) if (codeOf[bytes[i]!]! >= 0) count++
  return count
}

/** The bytes `from` to `to` (excluded) without escapes, each with its place; `fault`: an escape that nobody would send. */
export function withoutEscapes(
  { escape, byteOf, codeOf }: Escaping,
  wire: Uint8Array,
  from: number,
  to: number,
): { body: Uint8Array; places: number[]; fault: BadCode | null } {
  const body: number[] = []
  const places: number[] = []
  let fault: BadCode | null = null
  for (let i = from; i < to; i++) {
    places.push(i)
    if (wire[i] !== escape) {
      body.push(wire[i]!)
      if (codeOf[wire[i]!]! >= 0) fault ??= 'bare'
    } else if (i + 1 >= to) {
      body.push(escape)
      fault ??= 'aborted'
    } else {
      const code = wire[++i]!
      if (byteOf[code]! < 0) fault ??= 'escape'
      body.push(byteOf[code]! < 0 ? code : byteOf[code]!)
    }
  }
  return { body: Uint8Array.from(body), places, fault }
}
