import { bad, bytesToWords, good, wordsToPayload, type Order, type Result } from '../../base/index.ts'
import { oneOf, record, type RawOf } from '../../describe/index.ts'
import {
  bytesToText,
  decodeValue,
  encodeValue,
  formatDecimals,
  formatTime,
  freshHolds,
  isNumber,
  rawOf,
  textToBytes,
  unknownTime,
  type Cell,
  type ChoiceHolds,
  type FlagsHolds,
  type NumberHolds,
  type TextHolds,
} from '../../variables/index.ts'

const group = 'Spelling'

/** How values stand in a line. */
export const spellingSettings = record({
  numbers: { label: 'Numbers', type: oneOf({ shown: 'as shown, 23.50', raw: 'raw, 2350' }), default: 'shown', group },
  choices: { label: 'Choices', type: oneOf({ words: 'words', numbers: 'numbers' }), default: 'words', group },
  flags: { label: 'Flags', type: oneOf({ names: 'names, rain+wind', number: 'a number' }), default: 'names', group },
  text: { label: 'Text', type: oneOf({ quoted: 'in double quotes', bare: 'bare' }), default: 'quoted', group },
  times: { label: 'Times', type: oneOf({ clock: 'HH:MM:SS', seconds: 'seconds' }), default: 'clock', group },
  colours: { label: 'Colours', type: oneOf({ hex: '#RRGGBB', number: 'a number' }), default: 'hex', group },
})

export type Spelling = RawOf<typeof spellingSettings.fields>

/** Characters of a line are bytes: those of a string stand for 0–255. */
export const asString = (bytes: ArrayLike<number>): string => {
  if (bytes.length <= 2048) return String.fromCharCode.apply(null, bytes as number[])
  let out = ''
  for (let i = 0; i < bytes.length; i++) out += String.fromCharCode(bytes[i]!)
  return out
}
export const asBytes = (line: string): Uint8Array => Uint8Array.from(line, (c) => c.charCodeAt(0))

/** A word as it stands in a line: letters, figures and `_`; it never looks like a number. */
export const lineWord = (word: string): string => {
  const plain = word.replaceAll(/[^A-Za-z0-9_]+/g, '_')
  return /^[A-Za-z_]/.test(plain) ? plain : `_${plain}`
}

/** The word of a bit: its name, where no other bit has the same in a line; else its number. */
function bitWord({ names }: FlagsHolds, bit: number): string {
  const word = names[bit] ? lineWord(names[bit]) : ''
  const isOwn = word !== '' && !/^bit\d+$/.test(word) && names.every((name, k) => k === bit || !name || lineWord(name) !== word)
  return isOwn ? word : `bit${bit}`
}

/**
 * The value of a cell in a line, without quotes. `payload`: bytes of memory of that order. Problems: `line.value` (what no
 * spelling has), `line.size` (a payload that is not the whole cell).
 */
export function spell(spelling: Spelling, cell: Cell, payload: readonly number[], memory: Order): Result<string> {
  const { holds, words, order } = cell
  if (holds.type === 'text') return good(asString(textBytes(payload)))
  if (payload.length !== words * 2) return bad('line.size', { bytes: payload.length, wants: words * 2 })
  const stored = bytesToWords(payload, memory)
  const value = decodeValue(holds, stored, order) as number
  if (isNumber(holds)) {
    const raw = rawOf(holds, stored, order)
    if (spelling.numbers === 'raw' && holds.type !== 'f32') return good(String(raw))
    const shown = spelling.numbers === 'raw' ? fewestDecimals(raw) : formatDecimals(value, holds.decimals)
    return /^-?[\d.]+$/.test(shown) ? good(shown) : bad('line.value', { value: String(value) })
  }
  if (holds.type === 'choice') return good(choiceText(spelling, holds, value))
  if (holds.type === 'flags') return good(flagsText(spelling, holds, value))
  if (holds.type === 'time')
    return good(spelling.times === 'clock' && (value <= 86_399 || value === unknownTime) ? formatTime(value) : String(value))
  return good(spelling.colours === 'hex' ? hexColour(value) : String(value))
}

/** A single-precision number by the fewest decimals that mean it, at most nine: no exponent is heard in a line. */
function fewestDecimals(value: number): string {
  for (let decimals = 0; decimals < 9; decimals++)
    if (Math.fround(Number(value.toFixed(decimals))) === value) return formatDecimals(value, decimals)
  return formatDecimals(value, 9)
}

/** The bytes of a text up to its end in memory. */
function textBytes(payload: readonly number[]): readonly number[] {
  const end = payload.indexOf(0)
  return end < 0 ? payload : payload.slice(0, end)
}

const choiceText = (spelling: Spelling, { choices }: ChoiceHolds, value: number): string => {
  const found = spelling.choices === 'words' ? choices.filter((c) => c.value === value) : []
  const word = found[0] && lineWord(found[0].word)
  return word && choices.filter((c) => lineWord(c.word) === word).length === 1 ? word : String(value)
}

function flagsText(spelling: Spelling, holds: FlagsHolds, word: number): string {
  const set = Array.from({ length: 16 }, (_, bit) => bit).filter((bit) => word & (1 << bit))
  if (spelling.flags === 'number' || set.some((bit) => !holds.names[bit])) return String(word)
  return set.map((bit) => bitWord(holds, bit)).join('+') || '-'
}

/** `#RRGGBB` of RGB565, each part spread over eight bits. */
function hexColour(value: number): string {
  const [r, g, b] = [value >> 11, (value >> 5) & 63, value & 31]
  const spread = [(r << 3) | (r >> 2), (g << 2) | (g >> 4), (b << 3) | (b >> 2)]
  return `#${spread.map((part) => part.toString(16).toUpperCase().padStart(2, '0')).join('')}`
}

/**
 * The bytes of memory that a spelt value means. Problems: `line.number` (no number; no exponent, hex or comma is heard),
 * `line.beyond` (beyond the type), `line.choice`, `line.flag`, `line.time`, `line.colour`, `line.long` (bytes, most),
 * `line.letters`.
 */
export function understand(spelling: Spelling, cell: Cell, spelt: string, memory: Order): Result<readonly number[]> {
  const { holds, order } = cell
  if (holds.type === 'text') return understandText(holds, cell.words, spelt)
  const value = isNumber(holds) ? numberOf(spelling, holds, spelt) : plainValue(holds, spelt)
  if (!value.ok) return value
  // A clock may hold what is no time of day: all bits while nobody has set it.
  const words = encodeValue(holds.type === 'time' ? plainSeconds : holds, value.value, order)
  if (!words.ok) return bad('line.beyond', { value: spelt })
  return good(wordsToPayload(words.value, memory))
}

const plainSeconds = freshHolds('u32')

/** The value of a spelt number, in shown units; more decimals than the variable has are rounded when it is stored. */
function numberOf(spelling: Spelling, holds: NumberHolds, spelt: string): Result<number> {
  if (!/^[+-]?(\d+(\.\d{0,9})?|\.\d{1,9})$/.test(spelt)) return bad('line.number', { value: spelt })
  const value = Number(spelt)
  if (spelling.numbers === 'shown') return good(value)
  if (holds.type !== 'f32' && !Number.isInteger(value)) return bad('line.number', { value: spelt })
  return good(value * holds.factor + holds.offset)
}

function plainValue(holds: Cell['holds'], spelt: string): Result<number> {
  if (/^\d{1,10}$/.test(spelt)) return good(Number(spelt))
  if (holds.type === 'choice') {
    const found = holds.choices.find((c) => lineWord(c.word) === spelt)
    return found ? good(found.value) : bad('line.choice', { word: spelt })
  }
  if (holds.type === 'flags') return flagsOf(holds, spelt)
  if (holds.type === 'time') {
    if (spelt === formatTime(unknownTime)) return good(unknownTime)
    const parts = /^(\d\d):([0-5]\d):([0-5]\d)$/.exec(spelt)
    const seconds = parts ? Number(parts[1]) * 3600 + Number(parts[2]) * 60 + Number(parts[3]) : NaN
    return seconds <= 86_399 ? good(seconds) : bad('line.time', { value: spelt })
  }
  const colour = /^#([0-9A-Fa-f]{6})$/.exec(spelt)
  if (!colour) return bad('line.colour', { value: spelt })
  const all = parseInt(colour[1]!, 16)
  return good(((all >> 8) & 0xf800) | ((all >> 5) & 0x7e0) | ((all >> 3) & 0x1f))
}

function flagsOf(holds: FlagsHolds, spelt: string): Result<number> {
  if (spelt === '-') return good(0)
  let word = 0
  for (const one of spelt.split('+')) {
    const bit = bitOf(holds, one)
    if (bit < 0) return bad('line.flag', { word: one })
    word |= 1 << bit
  }
  return good(word)
}

const bitOf = (holds: FlagsHolds, word: string): number => {
  for (let bit = 0; bit < 16; bit++) if (bitWord(holds, bit) === word) return bit
  return -1
}

function understandText(holds: TextHolds, words: number, spelt: string): Result<readonly number[]> {
  const bytes = asBytes(spelt)
  if (bytes.length > holds.bytes) return bad('line.long', { bytes: bytes.length, most: holds.bytes })
  const again = textToBytes(bytesToText(bytes, holds.encoding), holds.encoding)
  if (!again.ok || asString(again.value) !== spelt) return bad('line.letters', { encoding: holds.encoding })
  const padded = new Array<number>(words * 2).fill(0)
  for (let i = 0; i < bytes.length; i++) padded[i] = bytes[i]!
  return good(padded)
}

/** `+rain-wind`: the bits that change, each with what it becomes. Problem: `line.flags` where a variable has no flags. */
export function spellBits({ holds }: Cell, mask: number, bits: number): Result<string> {
  if (holds.type !== 'flags') return bad('line.flags', {})
  let out = ''
  for (let bit = 0; bit < 16; bit++) if (mask & (1 << bit)) out += (bits & (1 << bit) ? '+' : '-') + bitWord(holds, bit)
  return good(out || '+')
}

/** Problems: `line.flags`, `line.flag` (word). */
export function understandBits({ holds }: Cell, spelt: string): Result<{ mask: number; bits: number }> {
  if (holds.type !== 'flags' || !/^[+-]/.test(spelt)) return bad('line.flags', {})
  let [mask, bits] = [0, 0]
  if (spelt === '+') return good({ mask, bits })
  for (const [, sign, word] of spelt.matchAll(/([+-])([^+-]*)/g)) {
    const bit = bitOf(holds, word!)
    if (bit < 0) return bad('line.flag', { word: word! })
    mask |= 1 << bit
    bits = sign === '+' ? bits | (1 << bit) : bits & ~(1 << bit)
  }
  return good({ mask, bits })
}

const quoted: Readonly<Record<string, string>> = { '"': '"', '\\': '\\', '\r': 'r', '\n': 'n', '\t': 't' }
const escaped: Readonly<Record<string, string>> = Object.fromEntries(Object.entries(quoted).map(([plain, code]) => [code, plain]))

/** A text between double quotes; what cannot stand there as it is, and whatever `mustEscape` says, behind a backslash. */
export const quote = (text: string, mustEscape: (byte: number) => boolean): string => {
  let out = '"'
  for (const c of text) {
    const byte = c.charCodeAt(0)
    if (quoted[c]) out += `\\${quoted[c]}`
    else if (byte < 0x20 || byte === 0x7f || mustEscape(byte)) out += `\\x${byte.toString(16).toUpperCase().padStart(2, '0')}`
    else out += c
  }
  return `${out}"`
}

/** The text between the double quotes at `at`, and the place behind it; why it is none. */
export function unquote(line: string, at: number): { text: string; to: number } | { fault: 'quoting' | 'escape'; at: number } {
  if (line[at] !== '"') return { fault: 'quoting', at }
  let text = ''
  for (let i = at + 1; i < line.length; i++) {
    if (line[i] === '"') return { text, to: i + 1 }
    if (line[i] !== '\\') {
      text += line[i]!
      continue
    }
    const code = line[++i] ?? ''
    const pair = code === 'x' ? /^[0-9A-Fa-f]{2}/.exec(line.slice(i + 1, i + 3)) : null
    if (pair) {
      text += String.fromCharCode(parseInt(pair[0], 16))
      i += 2
    } else if (escaped[code] !== undefined) text += escaped[code]
    else return { fault: 'escape', at: i - 1 }
  }
  return { fault: 'quoting', at: line.length }
}
