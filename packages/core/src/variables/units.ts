import { isNumber, type Holds } from './holds.ts'

/** A value in a second unit: `value × factor + offset`, shown with so many decimals. What is stored and sent stays as it is. */
export interface UnitPair {
  unit: string
  other: string
  factor: number
  offset: number
  decimals: number
}

/** How a value is shown: what it then holds, and the way there and back. */
export interface ShownIn {
  holds: Holds
  shown(value: number): number
  stored(shown: number): number
}

const same = (value: number): number => value

/** Past this many digits a difference is an error of reckoning. */
const exact = (value: number): number => Number(value.toPrecision(12))

/** How what a variable holds is shown where some units have a second one: as it is where none of them is its own. */
export function shownIn(holds: Holds, pairs: readonly UnitPair[]): ShownIn {
  const pair = isNumber(holds) && holds.unit ? pairs.find(({ unit, factor }) => unit === holds.unit && factor !== 0) : undefined
  if (!pair || !isNumber(holds)) return { holds, shown: same, stored: same }
  const shown = (value: number) => exact(value * pair.factor + pair.offset)
  const [a, b] = [shown(holds.min), shown(holds.max)]
  return {
    holds: { ...holds, unit: pair.other, decimals: pair.decimals, min: Math.min(a, b), max: Math.max(a, b) },
    shown,
    stored: (value) => exact((value - pair.offset) / pair.factor),
  }
}
