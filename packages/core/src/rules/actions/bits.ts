import { described, settingTypes as t } from '../../settings/index.ts'
import { amountOf, actionOf, named, type ActionKind } from '../action.ts'
import { needsNumbers, variable } from './fields.ts'

/** The three actions on some bits of a variable, by what the bits become. */
const onBits = (
  action: string,
  label: string,
  verb: string,
  clears: boolean,
  becomes: (now: number, mask: number) => number,
): ActionKind =>
  actionOf({
    action,
    label,
    settings: described({
      variable,
      mask: { label: 'bits', type: t.mask, default: 1, group: 'Action', of: { variable: 'variable', as: 'bits' } },
    }),
    words({ variable: id, mask }, nameOf) {
      const bits = Array.from({ length: 16 }, (_, bit) => bit).filter((bit) => mask & (1 << bit))
      return `${verb} bit ${bits.join(', ')} of ${named(id, nameOf)}`
    },
    facts: ({ variable: target }) => (clears ? { clears: target } : {}),
    run({ variable: cell, mask }, world) {
      const now = cell && amountOf(world.read(cell), world)
      if (cell && now !== null) world.do({ do: 'bits', cell, mask, bits: becomes(now, mask) & mask })
    },
    mistyped: needsNumbers,
  })

export const setBits = onBits('set bits', 'sets bits of', 'sets', false, (_now, mask) => mask)
export const clearBits = onBits('clear bits', 'clears bits of', 'clears', true, () => 0)
export const toggleBits = onBits('toggle bits', 'toggles bits of', 'toggles', true, (now) => ~now)
