import { isNumber, type Holds, type Value } from './holds.ts'
import { formatValue, usedBits } from './values.ts'

/** Values by which one sees whether a widget has room: the least, the most, and the one with the longest words. */
export const extremes = ['least', 'most', 'longest'] as const
export type Extreme = (typeof extremes)[number]

/** One of the extremes of what a variable holds, in shown units. */
export function extremeOf(holds: Holds, which: Extreme): Value {
  const [least, most] = ends(holds)
  if (which === 'least') return least
  if (which === 'most') return most
  if (holds.type === 'choice') {
    const [longest] = [...holds.choices].sort((a, b) => b.word.length - a.word.length)
    return longest?.value ?? 0
  }
  return formatValue(holds, least).length > formatValue(holds, most).length ? least : most
}

function ends(holds: Holds): [Value, Value] {
  if (isNumber(holds)) return [holds.min, holds.max]
  if (holds.type === 'text') return ['', 'W'.repeat(holds.bytes)]
  if (holds.type === 'choice') return [holds.choices[0]?.value ?? 0, holds.choices.at(-1)?.value ?? 0]
  if (holds.type === 'flags') return [0, usedBits(holds)]
  return holds.type === 'time' ? [0, 86_399] : [0, 0xffff]
}
