import { bad, bytesToWords, clamp, good, roundHalfAway, tenTo, wordsToBytes, type Order, type Result } from '../base/index.ts'
import {
  isNumber,
  rawLimits,
  wordsOf,
  type Encoding,
  type FlagsHolds,
  type Holds,
  type NumberHolds,
  type Value,
} from './holds.ts'

/**
 * A value as memory words. Problems: `value.number` (not a number), `value.type` (beyond the type; low, high, raw),
 * `value.long` (bytes, most), `value.encoding` (character), `value.whole` (a word 0–65535 was wanted).
 * A value outside its range but inside its type is stored as it is: range is a question for findings and the glass.
 * `order`: which word of a longer value, and which letter of a text in each word, comes first.
 */
export function encodeValue(holds: Holds, value: Value, order: Order): Result<Uint16Array> {
  if (holds.type === 'text') return encodeText(holds.bytes, holds.encoding, String(value), order)
  if (typeof value !== 'number' || !Number.isFinite(value)) return bad('value.number', { value: String(value) })
  if (isNumber(holds)) return encodeNumber(holds, value, order)
  const most = holds.type === 'time' ? 86_399 : 65_535
  if (!Number.isInteger(value) || value < 0 || value > most) return bad('value.whole', { value, most })
  return good(holds.type === 'time' ? pair(value, order) : Uint16Array.of(value))
}

function encodeNumber(holds: NumberHolds, value: number, order: Order): Result<Uint16Array> {
  const { min, max } = rawLimits[holds.type]
  if (holds.type === 'f32') {
    const raw = (value - holds.offset) / holds.factor
    if (raw < min || raw > max) return bad('value.type', { value, type: holds.type, low: min, high: max })
    const view = new DataView(new ArrayBuffer(4))
    view.setFloat32(0, raw)
    return good(pair(view.getUint32(0), order))
  }
  const raw = roundHalfAway((value - holds.offset) / holds.factor)
  if (raw < min || raw > max) {
    const ends = [min, max].map((r) => shownOf(holds, r)).sort((a, b) => a - b)
    return bad('value.type', { value, type: holds.type, low: ends[0]!, high: ends[1]! })
  }
  if (holds.type === 'u8' || holds.type === 'i8') return good(Uint16Array.of(raw & 0xff))
  return good(holds.type === 'u16' || holds.type === 'i16' ? Uint16Array.of(raw & 0xffff) : pair(raw, order))
}

const pair = (raw: number, order: Order): Uint16Array => {
  const low = raw & 0xffff
  const high = (raw >>> 16) & 0xffff
  return order === 'low' ? Uint16Array.of(low, high) : Uint16Array.of(high, low)
}

/** Factor and offset as whole numbers over a power of ten, where both are decimals of at most fifteen places. */
interface Decimal {
  factor: number
  offset: number
  tens: number
}
const decimals = new WeakMap<NumberHolds, Decimal | { tens: 0 }>()

function decimalOf(holds: NumberHolds): Decimal | { tens: 0 } {
  let known = decimals.get(holds)
  if (!known) {
    known = { tens: 0 }
    for (let places = 0; places <= 15 && !known.tens; places++) {
      const tens = tenTo(places)
      const [factor, offset] = [roundHalfAway(holds.factor * tens), roundHalfAway(holds.offset * tens)]
      if (factor / tens === holds.factor && offset / tens === holds.offset) known = { factor, offset, tens }
    }
    decimals.set(holds, known)
  }
  return known
}

/**
 * The shown value of a raw whole number: the double nearest to the decimal that is meant, by one exact division of whole
 * numbers. Where factor or offset are no decimals, or the whole numbers too large, the product, freed of its hair.
 */
function shownOf(holds: NumberHolds, raw: number): number {
  const exact = decimalOf(holds)
  if ('factor' in exact) {
    const whole = raw * exact.factor + exact.offset
    if (Math.abs(whole) <= Number.MAX_SAFE_INTEGER) return whole / exact.tens + 0
  }
  const value = raw * holds.factor + holds.offset
  if (!Number.isFinite(value) || Math.abs(value) >= 1e9 || Math.abs(holds.factor) < 1e-6) return value
  return roundHalfAway(value * 1e6) / 1e6
}

/** Whether a value is the one that means that there is none. */
export const isNone = (holds: Holds, value: Value): boolean => noneWord(holds, value) !== null

/** The word for no value, where a value means that; null where it is a value. */
export function noneWord(holds: Holds, value: Value): string | null {
  if (!isNumber(holds) || !holds.none || typeof value !== 'number') return null
  const { raw, word } = holds.none
  if (holds.type === 'f32') return !Number.isFinite(value) || value === raw * holds.factor + holds.offset ? word : null
  return value === shownOf(holds, raw) ? word : null
}

/** The value that means that there is none, in shown units; null where none does. */
export const noneValue = (holds: NumberHolds): number | null =>
  !holds.none ? null : holds.type === 'f32' ? holds.none.raw * holds.factor + holds.offset : shownOf(holds, holds.none.raw)

/** The raw whole number (or binary32 value) that words hold. */
export function rawOf(holds: NumberHolds, words: ArrayLike<number>, order: Order): number {
  if (holds.type === 'u8') return words[0]! & 0xff
  if (holds.type === 'i8') return (words[0]! << 24) >> 24
  if (holds.type === 'u16') return words[0]!
  if (holds.type === 'i16') return (words[0]! << 16) >> 16
  const low = words[order === 'low' ? 0 : 1]!
  const high = words[order === 'low' ? 1 : 0]!
  if (holds.type === 'u32') return high * 65536 + low
  if (holds.type === 'i32') return (high << 16) | low
  const view = new DataView(new ArrayBuffer(4))
  view.setUint32(0, high * 65536 + low)
  return view.getFloat32(0)
}

/** Value of memory words, in shown units. Never fails: any word means something, if only a value out of range. */
export function decodeValue(holds: Holds, words: ArrayLike<number>, order: Order): Value {
  if (holds.type === 'text') return decodeText(words, holds, order)
  if (isNumber(holds)) {
    const raw = rawOf(holds, words, order)
    return holds.type === 'f32' ? raw * holds.factor + holds.offset : shownOf(holds, raw)
  }
  if (holds.type === 'time') return words[order === 'low' ? 1 : 0]! * 65536 + words[order === 'low' ? 0 : 1]!
  return words[0]!
}

/** Whether a value is one that the variable is meant to hold. */
export function isInRange(holds: Holds, value: Value): boolean {
  if (holds.type === 'text') return typeof value === 'string'
  if (isNone(holds, value)) return true
  if (typeof value !== 'number' || Number.isNaN(value)) return false
  if (isNumber(holds)) return value >= holds.min - hair(holds) && value <= holds.max + hair(holds)
  if (holds.type === 'choice') return holds.choices.some((c) => c.value === value)
  if (holds.type === 'flags') return (value & ~usedBits(holds)) === 0
  return holds.type === 'time' ? value <= 86_399 : true
}

/** A number brought into the range of what holds it; every other value as it is. */
export const inBounds = (holds: Holds, value: Value): Value =>
  isNumber(holds) && typeof value === 'number' ? Math.min(holds.max, Math.max(holds.min, value)) : value

const hair = (holds: NumberHolds): number => (holds.type === 'f32' ? Math.abs(holds.factor) * 1e-4 : 1e-9)

/** The mask of the named bits; a flags word without names uses all sixteen. */
export function usedBits(holds: FlagsHolds): number {
  let mask = 0
  holds.names.forEach((name, bit) => {
    if (name) mask |= 1 << bit
  })
  return mask || 0xffff
}

export const clampToRange = (holds: NumberHolds, value: number): number => clamp(value, holds.min, holds.max)

/** `-12.50`: a number with fixed decimals, rounded half away from zero, decimal point only. */
export function formatDecimals(value: number, decimals: number): string {
  if (!Number.isFinite(value)) return '####'
  const scaled = roundHalfAway(value * tenTo(decimals))
  if (Math.abs(scaled) > Number.MAX_SAFE_INTEGER) return value.toExponential(3)
  const digits = String(Math.abs(scaled)).padStart(decimals + 1, '0')
  const text = decimals ? `${digits.slice(0, -decimals)}.${digits.slice(-decimals)}` : digits
  return scaled < 0 ? `-${text}` : text
}

/** A unit as it follows its number: after a blank, but for those of an angle (ISO 80000-1, 7.1.4). */
export const unitAfter = (unit: string): string => (/^[°′″]$/.test(unit) ? unit : ` ${unit}`)

/** The value in words, as every screen writes it: `231.0°`, `4.2 °C`, `open`, `rain wind`, `21:47:06`, `#3A7F`. */
export function formatValue(holds: Holds, value: Value, withUnit = true): string {
  if (typeof value === 'string') return value
  const none = noneWord(holds, value)
  if (none !== null) return none
  if (isNumber(holds)) return formatDecimals(value, holds.decimals) + (withUnit && holds.unit ? unitAfter(holds.unit) : '')
  if (holds.type === 'choice') return holds.choices.find((c) => c.value === value)?.word ?? `no choice ${value}`
  if (holds.type === 'flags') return flagWords(holds, value).join(' ') || 'none'
  if (holds.type === 'time') return formatTime(value)
  return `#${value.toString(16).toUpperCase().padStart(4, '0')}`
}

/** A time of day that nobody has said yet: all bits set, in either order. It is what a panel's clock holds from power-on. */
export const unknownTime = 0xffff_ffff

/** `21:47:06` of seconds since midnight; `--:--:--` while unknown, `##:##:##` past the end of the day. */
export function formatTime(seconds: number): string {
  if (seconds === unknownTime) return '--:--:--'
  const two = (n: number) => String(Math.floor(n)).padStart(2, '0')
  return seconds > 86_399 ? '##:##:##' : `${two(seconds / 3600)}:${two((seconds / 60) % 60)}:${two(seconds % 60)}`
}

const flagWords = (holds: FlagsHolds, word: number): string[] => {
  const out: string[] = []
  for (let bit = 0; bit < 16; bit++) if (word & (1 << bit)) out.push(holds.names[bit] || `bit ${bit}`)
  return out
}

/**
 * Parses typed text as a value. Problems: `value.number`, `value.range` (low, high), `value.choice` (word, words),
 * `value.flag` (word), `value.time`, `value.long`, `value.encoding`.
 */
export function parseValue(holds: Holds, text: string): Result<Value> {
  const trimmed = text.trim()
  if (holds.type === 'text') {
    const fits = encodeText(holds.bytes, holds.encoding, text, 'low')
    return fits.ok ? good(text) : fits
  }
  if (isNumber(holds)) return parseNumber(holds, trimmed)
  if (holds.type === 'choice') {
    const found = holds.choices.find((c) => c.word.toLowerCase() === trimmed.toLowerCase() || String(c.value) === trimmed)
    return found ? good(found.value) : bad('value.choice', { word: trimmed, words: holds.choices.map((c) => c.word).join(', ') })
  }
  if (holds.type === 'flags') return parseFlags(holds, trimmed)
  if (holds.type === 'time') return parseTime(trimmed)
  const colour = /^#?([0-9a-f]{4})$/i.exec(trimmed)
  return colour ? good(parseInt(colour[1]!, 16)) : bad('value.number', { value: trimmed })
}

function parseNumber(holds: NumberHolds, text: string): Result<Value> {
  const none = noneValue(holds)
  if (none !== null && text.toLowerCase() === holds.none!.word.toLowerCase()) return good(none)
  const bare = holds.unit && text.endsWith(holds.unit) ? text.slice(0, -holds.unit.length).trim() : text
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(bare)) return bad('value.number', { value: text })
  const value = Number(bare)
  return isInRange(holds, value) ? good(value) : bad('value.range', { value, low: holds.min, high: holds.max })
}

function parseFlags(holds: FlagsHolds, text: string): Result<Value> {
  if (/^(none|0)?$/i.test(text)) return good(0)
  if (/^(0x[0-9a-f]{1,4}|\d{1,5})$/i.test(text) && Number(text) <= 0xffff) return good(Number(text))
  let word = 0
  const parts = text.toLowerCase().split(/[\s,+]+/)
  for (let at = 0; at < parts.length;) {
    const found = longestName(holds, parts, at)
    if (!found) return bad('value.flag', { word: parts[at]!, words: holds.names.filter(Boolean).join(', ') })
    word |= 1 << found.bit
    at += found.parts
  }
  return good(word)
}

/** The bit whose name the most of the parts from one on spell: a name may have blanks, shown so or typed with `_`. */
function longestName({ names }: FlagsHolds, parts: readonly string[], at: number): { bit: number; parts: number } | null {
  let best: { bit: number; parts: number } | null = null
  names.forEach((name, bit) => {
    const spelt = name.toLowerCase().split(/[\s_]+/)
    const typed = parts.slice(at).flatMap((part) => part.split('_'))
    if (!name || !spelt.every((part, k) => typed[k] === part)) return
    let [used, seen] = [0, 0]
    while (seen < spelt.length) seen += parts[at + used++]!.split('_').length
    if (seen === spelt.length && used > (best?.parts ?? 0)) best = { bit, parts: used }
  })
  return best
}

function parseTime(text: string): Result<Value> {
  const parts = /^(\d{1,2}):(\d{2})(?::(\d{2}))?$/.exec(text)
  if (!parts) return bad('value.time', { value: text })
  const [h, m, s] = [Number(parts[1]), Number(parts[2]), Number(parts[3] ?? 0)]
  return h < 24 && m < 60 && s < 60 ? good(h * 3600 + m * 60 + s) : bad('value.time', { value: text })
}

/** Text as bytes of an encoding. Problem: `value.encoding` with the character that has no byte there. */
export function textToBytes(text: string, encoding: Encoding): Result<Uint8Array> {
  const out: number[] = []
  for (const character of text) {
    const point = character.codePointAt(0)!
    if (point === 0 || (encoding === 'ascii' && point > 0x7e) || (encoding === 'latin-1' && point > 0xff))
      return bad('value.encoding', { character: point === 0 ? 'zero' : character, encoding })
    if (encoding !== 'utf-8' || point < 0x80) out.push(point)
    else out.push(...utf8(point))
  }
  return good(Uint8Array.from(out))
}

/** RFC 3629; a lone surrogate becomes U+FFFD. */
function utf8(point: number): number[] {
  const p = point >= 0xd800 && point <= 0xdfff ? 0xfffd : point
  if (p < 0x800) return [0xc0 | (p >> 6), 0x80 | (p & 63)]
  if (p < 0x10000) return [0xe0 | (p >> 12), 0x80 | ((p >> 6) & 63), 0x80 | (p & 63)]
  return [0xf0 | (p >> 18), 0x80 | ((p >> 12) & 63), 0x80 | ((p >> 6) & 63), 0x80 | (p & 63)]
}

/** Bytes as text: up to the first zero; what is not valid in the encoding becomes U+FFFD. */
export function bytesToText(bytes: Uint8Array, encoding: Encoding): string {
  let out = ''
  for (let i = 0; i < bytes.length && bytes[i] !== 0;) {
    const byte = bytes[i]!
    const length =
      encoding !== 'utf-8' || byte < 0x80 ? 1 : byte >= 0xf0 && byte < 0xf5 ? 4 : byte >= 0xe0 ? 3 : byte >= 0xc2 ? 2 : 1
    const point = length === 1 ? byte : utf8Point(bytes, i, length)
    const readable = encoding === 'latin-1' || byte < 0x80 || (encoding === 'utf-8' && length > 1 && point >= 0)
    out += readable ? String.fromCodePoint(point) : '\ufffd'
    i += readable ? length : 1
  }
  return out
}

/** The code point of a sequence, or −1 where it is cut off, overlong, a surrogate or has a wrong continuation. */
function utf8Point(bytes: Uint8Array, at: number, length: number): number {
  let point = bytes[at]! & (0xff >> (length + 1))
  for (let k = 1; k < length; k++) {
    const next = bytes[at + k]
    if (next === undefined || (next & 0xc0) !== 0x80) return -1
    point = point * 64 + (next & 63)
  }
  const least = length === 2 ? 0x80 : length === 3 ? 0x800 : 0x10000
  return point < least || point > 0x10ffff || (point >= 0xd800 && point <= 0xdfff) ? -1 : point
}

function encodeText(most: number, encoding: Encoding, text: string, order: Order): Result<Uint16Array> {
  const bytes = textToBytes(text, encoding)
  if (!bytes.ok) return bytes
  if (bytes.value.length > most) return bad('value.long', { bytes: bytes.value.length, most })
  const padded = new Uint8Array(Math.ceil(most / 2) * 2)
  padded.set(bytes.value)
  // The first character is the first byte on the wire, whatever the order of a word.
  return good(bytesToWords(padded, order))
}

const decodeText = (words: ArrayLike<number>, holds: { bytes: number; encoding: Encoding }, order: Order): string =>
  bytesToText(wordsToBytes(Uint16Array.from(words), order).slice(0, holds.bytes), holds.encoding)

/** The value a variable has when nothing was said: zero, brought into its range; the first choice; an empty text. */
export function freshValue(holds: Holds): Value {
  if (holds.type === 'text') return ''
  if (holds.type === 'choice') return holds.choices[0]?.value ?? 0
  return isNumber(holds) ? clampToRange(holds, 0) : 0
}

/** `wordsOf` zero words: what memory holds where nothing could be encoded. */
export const emptyWords = (holds: Holds): Uint16Array => new Uint16Array(wordsOf(holds))
