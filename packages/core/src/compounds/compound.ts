import type { Rect } from '../base/index.ts'
import type { Values } from '../describe/index.ts'
import type { Holds, HoldsType, Travels } from '../variables/index.ts'

/** A widget of a compound, where it stands on the glass. */
export interface Part {
  kind: string
  /** Its name after that of the variable: `wind_speed slider`. */
  name: string
  place: Rect
  settings: Values
}

/** Purpose and place of a compound. */
export interface Made {
  place: Rect
  /** Id of its variable, and what that holds. */
  variable: string
  holds: Holds
  /** Its text on the glass. */
  words: string
  /** A page of the kind keypad; '': none. */
  keypad: string
}

/** Several widgets that are offered as one thing and held together. */
export interface Compound {
  compound: string
  label: string
  meaning: string
  /** Its size for what its variable holds, px. */
  size(holds: Holds): { width: number; height: number }
  /** Data type of the variable that is made for it. */
  holds: Holds
  travels: Travels
  /** Variables that may be shown instead of one that is made. */
  accepts: readonly HoldsType[]
  opensKeypad?: true
  parts(made: Made): Part[]
}
