import type { VariableId } from '../base/index.ts'
import { unknownDate } from './dates.ts'
import type { ChoiceHolds, Holds, NumberHolds } from './holds.ts'

/** The minute of the day while nobody has set the clock. */
export const unknownMinute = 0xffff

/** A word of the panel's own memory: offered wherever a variable is picked. */
export interface OwnWord {
  id: VariableId
  name: string
  /** Words above the first own word. */
  offset: number
  holds: Holds
  writable: boolean
  meaning: string
}

const whole = (max: number, unit = '', min = 0): NumberHolds => ({
  type: 'u16',
  factor: 1,
  offset: 0,
  decimals: 0,
  unit,
  min,
  max,
})
const yesNo: ChoiceHolds = {
  type: 'choice',
  choices: [
    { value: 0, word: 'no' },
    { value: 1, word: 'yes' },
  ],
}

/** In address order, without gaps but one: a two-word value stands on an even address. */
export const ownWords: readonly OwnWord[] = [
  {
    id: 'variable:own-page',
    name: 'page',
    offset: 0,
    holds: whole(65_535),
    writable: true,
    meaning: 'number of the page shown',
  },
  {
    id: 'variable:own-backlight',
    name: 'backlight',
    offset: 1,
    holds: whole(100, '%', 1),
    writable: true,
    meaning: 'brightness of the glass',
  },
  { id: 'variable:own-clock', name: 'clock', offset: 2, holds: { type: 'time' }, writable: true, meaning: 'time of day' },
  {
    id: 'variable:own-beep',
    name: 'beep',
    offset: 4,
    holds: whole(5000, 'ms'),
    writable: true,
    meaning: 'sounds for so long, then counts to 0',
  },
  { id: 'variable:own-touch', name: 'touched', offset: 5, holds: yesNo, writable: false, meaning: 'a finger is on the glass' },
  {
    id: 'variable:own-version',
    name: 'version',
    offset: 6,
    holds: whole(65535),
    writable: false,
    meaning: 'stamp of the build that runs',
  },
  {
    id: 'variable:own-host-alive',
    name: 'host_alive',
    offset: 7,
    holds: yesNo,
    writable: false,
    meaning: 'the host was heard lately',
  },
  {
    id: 'variable:own-look',
    name: 'look',
    offset: 8,
    holds: {
      type: 'choice',
      choices: [
        { value: 0, word: 'night' },
        { value: 1, word: 'day' },
      ],
    },
    writable: true,
    meaning: 'which colours the glass shows, of a project that has both',
  },
  {
    id: 'variable:own-date',
    name: 'date',
    offset: 9,
    holds: { ...whole(65_534), none: { raw: unknownDate, word: 'unknown' } },
    writable: true,
    meaning: 'days since 1 January 2000; goes on at midnight',
  },
  {
    id: 'variable:own-weekday',
    name: 'weekday',
    offset: 10,
    holds: {
      type: 'choice',
      choices: ['unknown', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'].map((word, value) => ({
        value,
        word,
      })),
    },
    writable: false,
    meaning: 'day of the week, from the date',
  },
  {
    id: 'variable:own-minute',
    name: 'minute',
    offset: 11,
    holds: { ...whole(1439, 'min'), none: { raw: unknownMinute, word: 'unknown' } },
    writable: false,
    meaning: 'minutes since midnight, from the clock',
  },
  {
    id: 'variable:own-level',
    name: 'level',
    offset: 12,
    holds: whole(3),
    writable: true,
    meaning: 'who works at it: widgets that ask for a higher level take no touch',
  },
  {
    id: 'variable:own-code',
    name: 'code',
    offset: 13,
    holds: whole(65_535),
    writable: true,
    meaning: 'a code typed here gives its level; it reads as 0',
  },
  {
    id: 'variable:own-pop-up',
    name: 'pop_up',
    offset: 14,
    holds: whole(65_535),
    writable: true,
    meaning: 'number of the open pop-up, 0 = none',
  },
]

/** The index of the cell of an own word: below those of all variables. */
export const ownIndex = ({ offset }: Pick<OwnWord, 'offset'>): number => -1 - offset

export const ownWordById: ReadonlyMap<string, OwnWord> = new Map(ownWords.map((word) => [word.id, word]))

/** Words the panel keeps for itself from the first own word on. */
export const ownWordCount = 16

/** Offsets, by name, for the panel. */
export const ownOffset = {
  page: 0,
  backlight: 1,
  clock: 2,
  beep: 4,
  touched: 5,
  version: 6,
  hostAlive: 7,
  look: 8,
  date: 9,
  weekday: 10,
  minute: 11,
  level: 12,
  code: 13,
  popUp: 14,
} as const
