import type { CompiledOf, Described, Fields, RawOf } from '../describe/index.ts'
import { isCompiledFollow } from '../describe/index.ts'
import { eventKinds, type EventKind } from '../frames/index.ts'
import type { CompileContext } from '../settings/index.ts'
import type { Cell, Holds, Value } from '../variables/index.ts'

/**
 * Effect of an action. A write is in shown units; `last`: the finger has come to its end with it; until then it is reported
 * at most every `everyMs` (100 where it does not say; 0: not before its end).
 */
export type Effect =
  | { do: 'write'; cell: Cell; value: Value; last: boolean; everyMs?: number }
  /** The bits of `mask` become those of `bits`; all others stay as they are. */
  | { do: 'bits'; cell: Cell; mask: number; bits: number }
  | { do: 'page'; number: number }
  /** A pop-up over the page, opened by the widget whose touch this is; null closes the one that is open. */
  | { do: 'pop-up'; number: number | null; closesAfterMs?: number }
  /** A page, or a pop-up over the one that is shown: whichever the number is. */
  | { do: 'open'; number: number }
  /** The page before this one, up to eight of them; the page the panel starts with. */
  | { do: 'back' }
  | { do: 'start page' }
  | { do: 'beep'; ms: number }
  /** A glass that has dimmed by itself is as bright as before. */
  | { do: 'wake' }
  /** No touch counts for so long: while the glass is cleaned. */
  | { do: 'lock'; ms: number }
  /** Reports the changed values of a page that sends them as one set. */
  | { do: 'send values'; all: boolean }
  /** Discards the samples of a widget. */
  | { do: 'clear'; widget: number }
  /** Input of a keypad, for the widget that opened it: a character, or `delete`, `clear`, `sign`, `accept`. */
  | { do: 'key'; key: string }
  | { do: 'event'; what: EventKind }
  /** A command of the project goes to the host. */
  | { do: 'command'; number: number }

/** Of a page or the panel: it is opened, it is left, time has gone on, the panel has started. */
export const pageMoments = ['opened', 'left', 'time'] as const
export const panelMoments = ['started', 'time'] as const
export type Moment = EventKind | (typeof pageMoments)[number] | (typeof panelMoments)[number]
/** Texts that are displayed for moments. */
export const momentTexts: Record<Moment, string> = {
  pressed: 'on press',
  lifted: 'on release',
  'slid off': 'on slide-off',
  held: 'on long press',
  opened: 'when opened',
  left: 'when closed',
  time: 'periodically',
  started: 'at power-on',
}
/** Whether it is one that a host may be told of as an event. */
export const isEvent = (moment: Moment): moment is EventKind => eventKinds.some((kind) => kind === moment)

/** World of a run of actions. It reads its own writes. */
export interface World {
  /** Moment of the widget that the run belongs to, to its page, or to the panel. */
  readonly moment: Moment
  read(cell: Cell): Value
  do(effect: Effect): void
}

/** Names for the ids in an action. */
export type NameOf = (id: string) => string

/** Facts of an action, known without doing it: findings and lists ask for these, and never for an action by its name. */
export interface ActionFacts {
  /** The page or pop-up that it opens. */
  opens?: string
  /** It leaves the page for one that it does not name. */
  leaves?: true
  /** The key of a keypad that it types. */
  types?: string
  /** The variable that it gives a value, whatever it had; `to` is that value, or whose it is. */
  sets?: { variable: string; to: unknown }
  /** A variable of which it may leave nothing: bits are cleared, or it is 0 in turn. */
  clears?: string
  /** The command that it sends. */
  orders?: string
  /** It sends an event. */
  says?: true
}

/** A kind of action: what a button does, in one file. */
export interface ActionOf<F extends Fields<CompileContext>> {
  action: string
  /** In the list of what may be done: `adds to`. */
  label: string
  settings: Described<CompileContext, F>
  /** Settings that are others than usual where one is made under a moment. */
  fresh?(moment: Moment): Partial<RawOf<F>>
  /** Its sentence: `adds 1 to dome_target`. */
  words(raw: RawOf<F>, nameOf: NameOf): string
  /** Does it. Every reference is there: a line that names nothing is left out of the build. */
  run(settings: CompiledOf<F>, world: World): void
  /** Ends what it began; with this it is done at the press, whatever moment it stands under, and ends with the touch. */
  end?(settings: CompiledOf<F>, world: World): void
  /** While it lasts it is done again every so many ms; 0: once. */
  everyMs?(settings: CompiledOf<F>): number
  /** Its facts, from settings as they are stored; without this, none. */
  facts?(raw: RawOf<F>): ActionFacts
  /** Whether it would make a number of a text, or a text of a number: then it does nothing, which a finding says. */
  mistyped?(raw: RawOf<F>, holdsOf: (id: string) => Holds | null): boolean
}

/** An action in the table, where each has its own settings. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what stands in the settings is the action's own business
export type ActionKind = ActionOf<any>

/** Declares an action, so that its functions know the types of its settings. */
export const actionOf = <const F extends Fields<CompileContext>>(action: ActionOf<F>): ActionOf<F> => action

/** A number that stands there or is that of a variable now; null where the variable holds a text or no number. */
export function amountOf(amount: unknown, world: World): number | null {
  const value = isCompiledFollow<Cell>(amount) ? world.read(amount.follow) : (amount as Value)
  return typeof value === 'number' && !Number.isNaN(value) ? value : null
}

/** Writes what a cell's number becomes; a text becomes nothing. */
export function change(cell: Cell | null, world: World, to: (now: number) => number): void {
  const now = cell && amountOf(world.read(cell), world)
  if (cell && now !== null) world.do({ do: 'write', cell, value: to(now), last: true })
}

export const named = (id: string, nameOf: NameOf): string => (id ? nameOf(id) : '…')

/** Whether an id names what holds a text; null where it names nothing. */
export const isText = (id: string, holdsOf: (id: string) => Holds | null): boolean | null => {
  const holds = holdsOf(id)
  return holds && holds.type === 'text'
}
