import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex } from '@noble/hashes/utils.js'

/** JSON with the keys of every object in code-unit order, so that equal data is equal text. */
export function canonicalJson(value: unknown, indent?: number): string {
  return JSON.stringify(sorted(value), undefined, indent)
}

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted)
  if (value === null || typeof value !== 'object') return value
  const source = value as Record<string, unknown>
  return Object.fromEntries(
    Object.keys(source)
      .sort()
      .filter((key) => source[key] !== undefined)
      .map((key) => [key, sorted(source[key])]),
  )
}

/** How many letters `canonicalJson` would write of JSON data, without writing them. */
export function jsonLength(value: unknown): number {
  if (typeof value === 'string') return JSON.stringify(value).length
  if (typeof value !== 'object' || value === null) return String(value).length
  if (Array.isArray(value)) {
    let length = value.length ? value.length + 1 : 2
    for (const one of value) length += jsonLength(one)
    return length
  }
  let length = 1
  for (const [key, one] of Object.entries(value)) if (one !== undefined) length += key.length + 4 + jsonLength(one)
  return Math.max(2, length)
}

/** Deep equality of JSON data. */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null || Array.isArray(a) !== Array.isArray(b))
    return false
  const left = a as Record<string, unknown>
  const right = b as Record<string, unknown>
  const keys = Object.keys(left)
  if (keys.length !== Object.keys(right).length) return false
  for (const key of keys) {
    const one = left[key]
    const other = right[key]
    if (one === other ? other === undefined && !Object.hasOwn(right, key) : !Object.hasOwn(right, key) || !sameJson(one, other))
      return false
  }
  return true
}

/** SHA-256 as 64 lower-case hex digits: the name of an asset or of a chunk of a build. */
export const sha256Hex = (bytes: Uint8Array): string => bytesToHex(sha256(bytes))

/** SHA-256 of typed pixels or words, taken least significant byte first on every machine. */
export function hashOfWords(words: Uint16Array): string {
  const bytes = new Uint8Array(words.length * 2)
  for (let i = 0; i < words.length; i++) {
    bytes[2 * i] = words[i]! & 0xff
    bytes[2 * i + 1] = words[i]! >> 8
  }
  return sha256Hex(bytes)
}
