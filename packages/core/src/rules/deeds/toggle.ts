import { described } from '../../settings/index.ts'
import { change, deedOf, named } from '../deed.ts'
import { needsNumbers, variable } from './fields.ts'

export const toggle = deedOf({
  deed: 'toggle',
  label: 'turns over',
  settings: described({ variable }),
  words: (raw, nameOf) => `turns ${named(raw.variable, nameOf)} over`,
  run: ({ variable: cell }, world) => change(cell, world, (now) => (now === 0 ? 1 : 0)),
  mistyped: needsNumbers,
})
