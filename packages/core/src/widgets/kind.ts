import type { Problem, Rect } from '../base/index.ts'
import type { Described, Fields, RawOf, SettledOf } from '../describe/index.ts'
import type { GlyphSheet, Surface } from '../raster/index.ts'
import type { Effect } from '../rules/index.ts'
import type { CompileContext } from '../settings/index.ts'
import type { Cell, Holds, UnitPair, Value } from '../variables/index.ts'

/** How values are written throughout a project: the line is not touched by it. */
export interface Formats {
  /** A decimal comma instead of a point. */
  comma: boolean
  /** Hours of the day by twelve, with am and pm. */
  twelve: boolean
  date: 'day month year' | 'month day year' | 'year month day'
  /** Units that are shown as others now. */
  pairs: readonly UnitPair[]
}
export const plainFormats: Formats = { comma: false, twelve: false, date: 'day month year', pairs: [] }

/** Lines of a keypad about its input. */
export interface TypedNow {
  draft: string
  /** Its purpose. */
  name: string
  /** The previous value. */
  was: string
  /** The allowed range. */
  range: string
  /** Why it is not taken as it stands; ''. */
  wrong: string
}
export const nothingTyped: TypedNow = { draft: '', name: '', was: '', range: '', wrong: '' }

/** The running panel as a widget sees it. */
export interface Live {
  formats: Formats
  read(cell: Cell): { value: Value; inRange: boolean; stale: boolean; written: boolean; known: boolean }
  sheet(key: string): GlyphSheet | null
  pressed: boolean
  enabled: boolean
  /** Input on the open pop-up; empty where none is. */
  typed(): TypedNow
  /** Number of the page that is shown. */
  page: number
  /** It is drawn for whoever edits it, not by the panel. */
  onDesk: boolean
  nowUs: number
  /** Since when the page or the pop-up that it is on is shown, µs. */
  sinceUs: number
}

/** Gesture of a finger on the widget on which it began. `cancelled`: it counts for nothing more. */
export interface Gesture {
  kind: 'down' | 'move' | 'up' | 'slid off' | 'held' | 'cancelled'
  x: number
  y: number
  /** Whether the finger is on the widget. */
  inside: boolean
  atUs: number
}

/** Purposes of kinds, in the order in which they are offered. */
export const purposes = ['show', 'touch', 'type', 'decorate'] as const
export type Purpose = (typeof purposes)[number]

/** A kind of widget. The functions get settings as they are compiled, with every follower's value of now. */
export interface KindOf<F extends Fields<CompileContext>, S = undefined> {
  kind: string
  label: string
  meaning: string
  /** Its purpose: it shows a value, is touched, is typed into, or decorates. */
  purpose: Purpose
  size: { width: number; height: number }
  touchable: boolean
  /** It has no place but that of its words: written on the glass, they make it as wide as they are. */
  grows?: true
  /** The setting that has its words: copies in a row count them up, or are given their own. */
  words?: keyof F & string
  settings: Described<CompileContext, F>
  /**
   * Settings of a new one besides its defaults, and the variable that is made for it when it has none to show; `pages` are
   * those that the project has by then.
   */
  fresh?(pages?: readonly { id: string; name: string }[]): { settings?: Partial<RawOf<F>>; variable?: Holds }
  /** Additional settings for a picture of itself, where untouched it would show nothing; `variable` is of `holds`. */
  picture?(variable: string): { settings: Partial<RawOf<F>>; holds?: Holds; value?: Value }
  /**
   * State that the panel keeps for it from power-on: over page changes and edits, by its number. The other functions may change it
   * in place; whatever it holds must be theirs alone.
   */
  state?(settings: SettledOf<F>): S
  /** The state under other settings; without this, as it is. */
  keeps?(state: S, settings: SettledOf<F>): S
  /** Whether a point takes touches; without this, all of its place. */
  hits?(place: Rect, settings: SettledOf<F>, x: number, y: number): boolean
  /** Effects of a finger; it may change nothing but the state. */
  touch?(gesture: Gesture, place: Rect, settings: SettledOf<F>, state: S, live: Live): readonly Effect[]
  /** Input on the keypad that it has opened. */
  key?(key: string, settings: SettledOf<F>, state: S, live: Live): readonly Effect[]
  /** Texts of a keypad that it has opened. */
  typing?(settings: SettledOf<F>, state: S, live: Live): TypedNow
  /** The host has written a variable that it reads, be it with the value it had. */
  wrote?(settings: SettledOf<F>, state: S, live: Live): void
  /** Discards its samples. */
  clear?(settings: SettledOf<F>, state: S): void
  /** On a pop-up, it shows what is typed there. */
  showsTyping?: true
  /** Its pop-up was closed, by whatever. */
  closed?(state: S): void
  /** It samples so often, on whatever page; null: never. */
  samplesEveryMs?(settings: SettledOf<F>): number | null
  sample?(settings: SettledOf<F>, state: S, live: Live): void
  /**
   * A variable that it reads has changed, or the panel has started, on whatever page it is. What it brings is done as the panel's
   * own.
   */
  noticed?(settings: SettledOf<F>, state: S, live: Live): readonly Effect[]
  /** While it is shown it looks different again after so long; null: it stands still. */
  movesEveryMs?(place: Rect, settings: SettledOf<F>, live: Live, state: S): number | null
  paint(surface: Surface, place: Rect, settings: SettledOf<F>, live: Live, state: S): void
  /** Its visible text. */
  shows(settings: SettledOf<F>, live: Live, state: S): string
  /** The part of its place that a changed value can change; without this, all of it. The panel adds where it was before. */
  moving?(place: Rect, settings: SettledOf<F>, live: Live, state: S): Rect
  /** A part of its place of which it hides all that lies below, as it is now; without this, or an empty one: none. */
  solid?(place: Rect, settings: SettledOf<F>, live: Live, state: S): Rect
  /** Every letter it may show, whatever its variables hold; without this, the usual ones. Settings as they are stored. */
  letters?(raw: RawOf<F>, holdsOf: (variable: string) => Holds | null): string
  /** Every letter that a keypad may need to show what is typed into it. Settings as they are stored. */
  typingLetters?(raw: RawOf<F>, holdsOf: (variable: string) => Holds | null): string
  /** Of the texts it may show, those to be measured: for findings. Settings as they are stored. */
  widest?(raw: RawOf<F>, holdsOf: (variable: string) => Holds | null): string[]
  /** Parts of its place that a finger must hit one by one; without this, its place as a whole. Settings as they are stored. */
  targets?(place: Rect, raw: RawOf<F>, holdsOf: (variable: string) => Holds | null): Rect[]
  /** The type of a variable that is made for a setting, where that is not the first type it accepts. Settings as they are stored. */
  holdsFor?(key: string, raw: RawOf<F>): Holds | null
  /** Other settings of a face that come with its first picture, so that the picture is shown at its own size. Settings as they are stored. */
  sizedFor?(face: string, picture: { width: number; height: number }, raw: RawOf<F>): Partial<RawOf<F>>
  /** Faults of its settings that no other check sees. */
  findings?(raw: RawOf<F>, holdsOf: (variable: string) => Holds | null): readonly KindFinding<F>[]
}

/** Finding of a kind about its settings: `says` after its name is the sentence, `mends` what would put it right. */
export interface KindFinding<F> extends Problem {
  says: string
  mends?: { label: string; values: Partial<RawOf<F>> }
}

/** A finding of whatever kind. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what would mend it is the kind's own business
export type Found = KindFinding<any>

/** A kind in the table, where any has its own settings and state. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what stands in the settings is the kind's own business
export type WidgetKind = KindOf<any, any>

/** Declares a kind, so that its functions know the types of its settings and its state. */
export const kindOf = <const F extends Fields<CompileContext>, S = undefined>(kind: KindOf<F, S>): KindOf<F, S> => kind
