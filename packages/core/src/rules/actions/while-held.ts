import { described, settingTypes as t } from '../../settings/index.ts'
import { change, actionOf, named } from '../action.ts'
import { needsNumbers, variable } from './fields.ts'

/** 1 from the press until the finger has lifted, slid off or lost the widget; never longer. */
export const whileHeld = actionOf({
  action: 'while held',
  label: 'momentary',
  settings: described({
    variable,
    everyMs: {
      label: 'repeat every',
      type: t.whole,
      default: 0,
      unit: 'ms',
      min: 0,
      max: 10_000,
      group: 'Action',
      hint: 'keep-alive for the host; 0: once',
    },
  }),
  words: ({ variable: id, everyMs }, nameOf) =>
    `${named(id, nameOf)} is 1 while pressed${everyMs ? `, repeated every ${everyMs} ms` : ''}`,
  facts: ({ variable: target }) => ({ clears: target }),
  run: ({ variable: cell }, world) => change(cell, world, () => 1),
  end: ({ variable: cell }, world) => change(cell, world, () => 0),
  everyMs: (s) => s.everyMs,
  mistyped: needsNumbers,
})
