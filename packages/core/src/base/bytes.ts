import { bad, good, type Result } from './result.ts'

/** Which byte (or word) goes first on the wire: the least significant (`low`) or the most significant (`high`). */
export type Order = 'low' | 'high'

const digits = '0123456789ABCDEF'

/** Two hex digits of a byte (0–255), upper case. */
export const hexByte = (byte: number): string => digits[(byte >> 4) & 15]! + digits[byte & 15]!

/** Four hex digits of a word (0–65535), upper case. */
export const hexWord = (word: number): string => hexByte(word >> 8) + hexByte(word)

/** `7E 51 12`: bytes as people write them. */
export const toHex = (bytes: Uint8Array | readonly number[]): string => Array.from(bytes, hexByte).join(' ')

/** The longest text of bytes that is read at once, in characters. */
export const longestHexText = 200_000

/**
 * Bytes from what people paste: `7E 51`, `7e51`, `0x7E, 0x51`, `{0x7E}`, `7E-51`, over several lines.
 * Problems: `bytes.digit` (at, character), `bytes.odd` (at), `bytes.empty`, `bytes.long`. `at` counts characters from 0.
 */
export function fromHex(text: string): Result<Uint8Array> {
  if (text.length > longestHexText) return bad('bytes.long', { length: text.length, most: longestHexText })
  const out: number[] = []
  const token = /0x([0-9a-f]+)|([0-9a-f]+)|([\s,;:{}[\]()-]+)|(.)/giy
  for (let match = token.exec(text); match; match = token.exec(text)) {
    const run = match[1] ?? match[2]
    if (match[4] !== undefined) return bad('bytes.digit', { at: match.index, character: match[4] })
    if (run === undefined) continue
    const even = run.length === 1 ? `0${run}` : run
    if (even.length % 2) return bad('bytes.odd', { at: match.index, digits: run })
    for (let i = 0; i < even.length; i += 2) out.push(parseInt(even.slice(i, i + 2), 16))
  }
  return out.length ? good(Uint8Array.from(out)) : bad('bytes.empty')
}

export const sameBytes = (a: ArrayLike<number>, b: ArrayLike<number>): boolean => {
  if (a.length !== b.length) return false
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false
  return true
}

export function joinBytes(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0))
  let at = 0
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out
}

/** Writes an unsigned number of `size` bytes (1–4) at `at`; the value is taken modulo 2^(8·size). */
export function putNumber(into: Uint8Array, at: number, size: number, order: Order, value: number): void {
  for (let i = 0; i < size; i++) into[order === 'low' ? at + i : at + size - 1 - i] = (value >>> (8 * i)) & 0xff
}

/** Reads an unsigned number of `size` bytes (1–4) at `at`. */
export function takeNumber(from: ArrayLike<number>, at: number, size: number, order: Order): number {
  let value = 0
  for (let i = 0; i < size; i++) value = value * 256 + from[order === 'high' ? at + i : at + size - 1 - i]!
  return value
}

/** Memory words as bytes, each word in `order`. */
export function wordsToBytes(words: ArrayLike<number>, order: Order): Uint8Array {
  const out = new Uint8Array(words.length * 2)
  for (let i = 0; i < words.length; i++) putNumber(out, i * 2, 2, order, words[i]!)
  return out
}

/** Memory words as the payload of a message. */
export const wordsToPayload = (words: ArrayLike<number>, order: Order): number[] => Array.from(wordsToBytes(words, order))

/** The inverse of `wordsToBytes`; an odd last byte is left out, so check the length first. */
export function bytesToWords(bytes: ArrayLike<number>, order: Order): Uint16Array {
  const out = new Uint16Array(bytes.length >> 1)
  for (let i = 0; i < out.length; i++) out[i] = takeNumber(bytes, i * 2, 2, order)
  return out
}
