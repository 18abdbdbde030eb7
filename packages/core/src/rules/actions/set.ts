import { doesFollow, isCompiledFollow } from '../../describe/index.ts'
import { described } from '../../settings/index.ts'
import type { Cell, Value } from '../../variables/index.ts'
import { actionOf, isText, named } from '../action.ts'
import { amount, amountWords, variable } from './fields.ts'

export const set = actionOf({
  action: 'set',
  label: 'sets',
  settings: described({ variable, to: amount('to', 1, 'value') }),
  words: (raw, nameOf) => `sets ${named(raw.variable, nameOf)} to ${amountWords(raw.to, nameOf)}`,
  facts: ({ variable: target, to }) => ({ sets: { variable: target, to } }),
  run({ variable: cell, to }, world) {
    const value: Value = isCompiledFollow<Cell>(to) ? world.read(to.follow) : (to as number)
    if (cell && (typeof value === 'string') === (cell.holds.type === 'text')) world.do({ do: 'write', cell, value, last: true })
  },
  mistyped({ variable: target, to }, holdsOf) {
    const from = doesFollow(to) ? isText(to.follows, holdsOf) : false
    const into = isText(target, holdsOf)
    return from !== null && into !== null && from !== into
  },
})
