import { wrapInto } from '../../base/index.ts'
import { oneOf } from '../../describe/index.ts'
import { described } from '../../settings/index.ts'
import { isNone, isNumber, type Cell } from '../../variables/index.ts'
import { amountOf, change, actionOf, named } from '../action.ts'
import { amount, amountWords, needsNumbers, variable } from './fields.ts'

/** Adds (shown units, may be negative); at the end of the range it stops or begins again at the other end. */
export const step = actionOf({
  action: 'step',
  label: 'increments',
  settings: described({
    variable,
    by: { ...amount('amount', 1, 'step'), before: 'by' },
    atEnd: { label: 'at limit', type: oneOf({ stop: 'stop', wrap: 'wrap' }), default: 'stop', group: 'Action' },
  }),
  words({ variable: id, by, atEnd }, nameOf) {
    const takes = typeof by === 'number' && by < 0
    const much = typeof by === 'number' ? String(Math.abs(by)) : amountWords(by, nameOf)
    const verb = takes ? 'decrements' : 'increments'
    return `${verb} ${named(id, nameOf)} by ${much}, ${atEnd === 'stop' ? 'stops at limit' : 'wraps at limit'}`
  },
  run({ variable: cell, by, atEnd }, world) {
    const much = amountOf(by, world)
    if (cell && much !== null) change(cell, world, (now) => stepped(cell, now, much, atEnd))
  },
  mistyped: needsNumbers,
})

/** A value one step further, inside the range of its variable; a choice steps through its words in order. */
export function stepped(cell: Cell, now: number, by: number, atEnd: 'stop' | 'wrap'): number {
  const { holds } = cell
  if (holds.type === 'choice') {
    const values = holds.choices.map((c) => c.value)
    if (!values.length) return now
    const next = values.indexOf(now) + by
    return values[atEnd === 'wrap' ? wrapInto(next, 0, values.length) : Math.min(values.length - 1, Math.max(0, next))]!
  }
  // There is nothing to add to: it begins where the range does.
  if (isNumber(holds) && isNone(holds, now)) return by < 0 && atEnd === 'wrap' ? holds.max : holds.min
  const [min, max] = isNumber(holds) ? [holds.min, holds.max] : holds.type === 'time' ? [0, 86_399] : [0, 65_535]
  const next = now + by
  const slack = Math.abs(by) * 1e-9
  if (next >= min - slack && next <= max + slack) return Math.min(max, Math.max(min, next))
  if (atEnd === 'stop') return next < min ? min : max
  // A circle has one step of resolution between its last value and its first: 359.9° + 0.1° is 0°.
  const resolution = isNumber(holds) ? (holds.type === 'f32' ? 0 : Math.abs(holds.factor)) : 1
  return Math.min(max, wrapInto(next, min, max - min + resolution))
}
