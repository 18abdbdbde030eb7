import { doesFollow, type Follows } from '../../describe/index.ts'
import { settingTypes as t } from '../../settings/index.ts'
import type { Holds } from '../../variables/index.ts'
import { isText, named, type NameOf } from '../action.ts'

const group = 'Action'

/** The variable that an action writes. */
export const variable = { label: 'variable', type: t.written, default: '', group, before: '' }

/** A number, fixed or that of a variable: a value of the action's own variable, or a step of it. */
export const amount = (label: string, value: number, as: 'value' | 'step') => ({
  label,
  type: t.number,
  default: value,
  group,
  follows: true as const,
  of: { variable: 'variable', as },
})

export const amountWords = (amount: number | Follows, nameOf: NameOf): string =>
  doesFollow(amount) ? named(amount.follows, nameOf) : String(amount)

/** Of an action that makes one number of another: neither its variable nor an amount it takes may be a text. */
export const needsNumbers = (raw: object, holdsOf: (id: string) => Holds | null): boolean =>
  Object.values(raw).some((value) => isText(doesFollow(value) ? value.follows : String(value as string), holdsOf) === true)
