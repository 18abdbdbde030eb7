import type { Item } from '../describe/index.ts'

/** A number with a scale: shown value = raw × factor + offset. One of eight bits stands in the low byte of its word. `min` and `max` are shown values, both allowed. */
export interface NumberHolds {
  type: 'u8' | 'i8' | 'u16' | 'i16' | 'u32' | 'i32' | 'f32'
  factor: number
  offset: number
  /** Digits after the point when shown, 0–9. */
  decimals: number
  unit: string
  min: number
  max: number
  /** A raw number that means that there is no value (an open sensor), and the word for it; of an f32 also what is no number. */
  none?: NoValue
}

export interface NoValue {
  raw: number
  word: string
}

export interface Choice extends Item {
  value: number
  word: string
}

/** A word that means one of several named values. */
export interface ChoiceHolds {
  type: 'choice'
  choices: readonly Choice[]
}

/** Up to sixteen named bits of one word; names[0] is bit 0; an empty name is a bit not used. */
export interface FlagsHolds {
  type: 'flags'
  names: readonly string[]
}

/** `bytes` of text, two to a word; the rest after a shorter text is zero. */
export interface TextHolds {
  type: 'text'
  bytes: number
  encoding: Encoding
  /** Its allowed characters; none or '': every letter of its encoding that is usual. */
  letters?: string
}

/** RGB565, or the seconds since midnight (two words). */
export interface PlainHolds {
  type: 'colour' | 'time'
}

export type Encoding = 'ascii' | 'latin-1' | 'utf-8'
export type Holds = NumberHolds | ChoiceHolds | FlagsHolds | TextHolds | PlainHolds
export type HoldsType = Holds['type']

/** A number in shown units (choice: its raw value, flags: the word, time: seconds), or a text. */
export type Value = number | string

export const holdsTypes: readonly HoldsType[] = [
  'u8',
  'i8',
  'u16',
  'i16',
  'u32',
  'i32',
  'f32',
  'choice',
  'flags',
  'text',
  'colour',
  'time',
]

export const isNumber = (holds: Holds): holds is NumberHolds => 'factor' in holds

/** Range of a raw number of a data type. For f32 the largest finite value of IEEE 754 binary32. */
export const rawLimits: Record<NumberHolds['type'], { min: number; max: number }> = {
  u8: { min: 0, max: 255 },
  i8: { min: -128, max: 127 },
  u16: { min: 0, max: 65535 },
  i16: { min: -32768, max: 32767 },
  u32: { min: 0, max: 4294967295 },
  i32: { min: -2147483648, max: 2147483647 },
  f32: { min: -3.4028234663852886e38, max: 3.4028234663852886e38 },
}

/** Words of memory a variable needs. */
export function wordsOf(holds: Holds): number {
  switch (holds.type) {
    case 'u32':
    case 'i32':
    case 'f32':
    case 'time':
      return 2
    case 'text':
      return Math.ceil(holds.bytes / 2)
    default:
      return 1
  }
}

/** Defaults of a data type. */
export function freshHolds(type: HoldsType): Holds {
  switch (type) {
    case 'choice':
      return {
        type,
        choices: [
          { id: 'choice:1', value: 0, word: 'off' },
          { id: 'choice:2', value: 1, word: 'on' },
        ],
      }
    case 'flags':
      return { type, names: [] }
    case 'text':
      return { type, bytes: 16, encoding: 'latin-1' }
    case 'colour':
    case 'time':
      return { type }
    default: {
      const whole = type === 'f32' ? { min: -1000, max: 1000 } : rawLimits[type]
      return { type, factor: 1, offset: 0, decimals: type === 'f32' ? 1 : 0, unit: '', min: whole.min, max: whole.max }
    }
  }
}

/** Off and on: what a variable holds that a key switches. */
export const offOn = (): ChoiceHolds => freshHolds('choice') as ChoiceHolds

/** The same variable as another type: of numbers scale, unit and range stay, as far as the new type holds them. */
export function retyped(holds: Holds, type: HoldsType): Holds {
  const fresh = freshHolds(type)
  if (!isNumber(holds) || !isNumber(fresh)) return holds.type === type ? holds : fresh
  const limits = rawLimits[fresh.type]
  const ends = [limits.min * holds.factor + holds.offset, limits.max * holds.factor + holds.offset]
  const [least, most] = [Math.min(...ends), Math.max(...ends)]
  const min = Math.max(least, Math.min(holds.min, most))
  const max = Math.min(most, Math.max(holds.max, min))
  // All that the old type could hold is all that the new one can: nobody has said a range.
  const old = rawLimits[holds.type]
  const wasAll = holds.factor === 1 && holds.offset === 0 && holds.min === old.min && holds.max === old.max
  const { none: _, ...plain } = holds
  const none = holds.none && holds.none.raw >= limits.min && holds.none.raw <= limits.max ? { none: holds.none } : {}
  return wasAll ? { ...fresh, unit: holds.unit, decimals: holds.decimals } : { ...plain, ...none, type: fresh.type, min, max }
}
