import type { VariableId } from '../base/index.ts'
import { unknownDate } from './dates.ts'
import { wordsOf, type ChoiceHolds, type Holds, type NumberHolds } from './holds.ts'
import { unknownTime } from './values.ts'

/** The minute of the day while nobody has set the clock. */
export const unknownMinute = 0xffff

/** Doings of a panel when one of its own words is another: asked by the table, done by the panel. */
export interface PanelRoom {
  /** The page of the number that `page` says is opened; the pop-up of `pop_up`, or the open one is closed. */
  openPage(): void
  openPopUp(): void
  /** The light, the beeper and what follows from clock and date are brought up to date. */
  light(): void
  beep(): void
  tellTime(): void
  hostCameOrWent(): void
  /** The code that stands there gives its level, and is forgotten. */
  tryCode(): void
  /** All that is shown may look different. */
  repaint(): void
}

/** The pages and looks that a panel has: a write may ask for no more. */
export interface PanelHas {
  isPage(number: number): boolean
  isPopUp(number: number): boolean
  hasLook(value: number): boolean
}

/** A variable that every panel has by itself: offered wherever a variable is picked. */
export interface SystemVariable {
  id: VariableId
  name: string
  holds: Holds
  /** A host may write it too, and not the panel alone. */
  writable: boolean
  meaning: string
  /** The part that a module must have for it. */
  needs?: 'clock' | 'beeper' | 'touch'
  /** Its raw value at power-on; 0 where nothing is said. */
  atPowerOn?: number
  /** Whether a raw value may be written, beyond what its type says. */
  allows?(value: number, panel: PanelHas): boolean
  /** The consequence of a write, or of the panel's own change. */
  written?(panel: PanelRoom): void
}

/** One in the table, at its place. */
export interface PlacedVariable extends SystemVariable {
  /** Words above the first word of the system variables. */
  offset: number
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
const choice = (...words: string[]): ChoiceHolds => ({ type: 'choice', choices: words.map((word, value) => ({ value, word })) })

/** In the order of their addresses. What is new is put at the end: no place moves that firmware may know. */
const table: SystemVariable[] = [
  {
    id: 'variable:own-page',
    name: 'page',
    holds: whole(65_535),
    writable: true,
    meaning: 'number of the page shown',
    allows: (value, panel) => panel.isPage(value),
    written: (panel) => panel.openPage(),
  },
  {
    id: 'variable:own-backlight',
    name: 'backlight',
    holds: whole(100, '%', 1),
    writable: true,
    meaning: 'brightness of the glass',
    atPowerOn: 100,
    written: (panel) => panel.light(),
  },
  {
    id: 'variable:own-clock',
    name: 'clock',
    holds: { type: 'time' },
    writable: true,
    meaning: 'time of day',
    needs: 'clock',
    atPowerOn: unknownTime,
    allows: (seconds) => seconds <= 86_399,
    written: (panel) => panel.tellTime(),
  },
  {
    id: 'variable:own-beep',
    name: 'beep',
    holds: whole(5000, 'ms'),
    writable: true,
    meaning: 'beep duration (ms), counts down',
    needs: 'beeper',
    written: (panel) => panel.beep(),
  },
  {
    id: 'variable:own-touch',
    name: 'touched',
    holds: choice('no', 'yes'),
    writable: false,
    meaning: '1 while touched',
    needs: 'touch',
  },
  { id: 'variable:own-version', name: 'version', holds: whole(65_535), writable: false, meaning: 'build ID' },
  {
    id: 'variable:own-host-alive',
    name: 'host_alive',
    holds: choice('no', 'yes'),
    writable: false,
    meaning: '1 while the host communicates',
    written: (panel) => panel.hostCameOrWent(),
  },
  {
    id: 'variable:own-look',
    name: 'look',
    holds: choice('night', 'day'),
    writable: true,
    meaning: 'theme: 0 night, 1 day',
    allows: (value, panel) => panel.hasLook(value),
    written: (panel) => panel.repaint(),
  },
  {
    id: 'variable:own-date',
    name: 'date',
    holds: { ...whole(65_534), none: { raw: unknownDate, word: 'unknown' } },
    writable: true,
    meaning: 'days since 1 January 2000; goes on at midnight',
    atPowerOn: unknownDate,
    written: (panel) => panel.tellTime(),
  },
  {
    id: 'variable:own-weekday',
    name: 'weekday',
    holds: choice('unknown', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'),
    writable: false,
    meaning: 'day of the week, from the date',
  },
  {
    id: 'variable:own-minute',
    name: 'minute',
    holds: { ...whole(1439, 'min'), none: { raw: unknownMinute, word: 'unknown' } },
    writable: false,
    meaning: 'minutes since midnight, from the clock',
    atPowerOn: unknownMinute,
  },
  {
    id: 'variable:own-level',
    name: 'level',
    holds: whole(3),
    writable: true,
    meaning: 'access level of the operator',
    written: (panel) => panel.repaint(),
  },
  {
    id: 'variable:own-code',
    name: 'code',
    holds: whole(65_535),
    writable: true,
    meaning: 'access code (write-only)',
    written: (panel) => panel.tryCode(),
  },
  {
    id: 'variable:own-pop-up',
    name: 'pop_up',
    holds: whole(65_535),
    writable: true,
    meaning: 'number of the open pop-up, 0 = none',
    allows: (value, panel) => value === 0 || panel.isPopUp(value),
    written: (panel) => panel.openPopUp(),
  },
  {
    id: 'variable:own-contract',
    name: 'contract',
    holds: { ...whole(0xffff_ffff), type: 'u32' },
    writable: false,
    meaning: 'contract hash; version is the same in one word',
  },
]

/** Words that were set aside for them at first: more are taken only when there are more. */
const firstWords = 16

/** Each at its place: one after another, a value of two words on an even one. */
function placed(): PlacedVariable[] {
  let at = 0
  return table.map((variable) => {
    const words = wordsOf(variable.holds)
    const offset = words === 2 && at % 2 ? at + 1 : at
    at = offset + words
    return { ...variable, offset }
  })
}

let list: readonly PlacedVariable[]
let byId: ReadonlyMap<string, PlacedVariable>
let byName: ReadonlyMap<string, PlacedVariable>
function index(): void {
  list = placed()
  byId = new Map(list.map((one) => [one.id, one]))
  byName = new Map(list.map((one) => [one.name, one]))
}
index()

/** All there are, in the order of their addresses. */
export const systemVariables = (): readonly PlacedVariable[] => list
/** The one of an id; undefined where there is none. */
export const systemVariable = (id: string): PlacedVariable | undefined => byId.get(id)
/** The one of a name, which there must be. */
export const systemVariableNamed = (name: string): PlacedVariable => byName.get(name)!
/** All by their ids. */
export const systemVariablesById = (): ReadonlyMap<string, PlacedVariable> => byId

/** Words of memory that the panel keeps for them, from the first on. */
export const systemWords = (): number => {
  const last = list.at(-1)!
  return Math.max(firstWords, last.offset + wordsOf(last.holds))
}

/** Those that have a word among some, counted from the first word of all. */
export const systemVariablesIn = (offset: number, words: number): PlacedVariable[] =>
  list.filter((one) => one.offset < offset + words && one.offset + wordsOf(one.holds) > offset)

/** The index of the cell of a system variable: below those of all variables. */
export const systemIndex = ({ offset }: Pick<PlacedVariable, 'offset'>): number => -1 - offset

/** Adds one behind all others; it is taken out again with the function that comes back. */
export function registerSystemVariable(variable: SystemVariable): () => void {
  table.push(variable)
  index()
  return () => {
    table.splice(table.indexOf(variable), 1)
    index()
  }
}
