import { described } from '../../settings/index.ts'
import { change, actionOf, named } from '../action.ts'
import { needsNumbers, variable } from './fields.ts'

export const toggle = actionOf({
  action: 'toggle',
  label: 'toggles',
  settings: described({ variable }),
  words: (raw, nameOf) => `toggles ${named(raw.variable, nameOf)}`,
  facts: ({ variable: target }) => ({ clears: target }),
  run: ({ variable: cell }, world) => change(cell, world, (now) => (now === 0 ? 1 : 0)),
  mistyped: needsNumbers,
})
