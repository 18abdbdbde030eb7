import type { Compare } from '../scripts/index.ts'

/** Whether a value stands in that relation to another. Bits count from 0. */
export function compares(value: number, how: Compare, other: number): boolean {
  switch (how) {
    case 'is':
      return value === other
    case 'is not':
      return value !== other
    case 'above':
      return value > other
    case 'below':
      return value < other
    case 'has bit':
      return ((value >> other) & 1) === 1
    case 'lacks bit':
      return ((value >> other) & 1) === 0
  }
}
