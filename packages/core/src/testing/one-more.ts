import type { Problem } from '../base/index.ts'
import { isCompiledFollow, record, whole } from '../describe/index.ts'
import { registerStep } from '../exchanges/index.ts'
import { registerCheck } from '../findings/index.ts'
import { partOf, registerPart } from '../frames/index.ts'
import { actionOf, registerAction } from '../rules/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { registerSystemVariable, type Cell } from '../variables/index.ts'
import { kindOf, registerWidgetKind } from '../widgets/index.ts'

// One more of each thing of which there is a table, as whoever adds one would write it. Each function registers its own, and
// gives what takes it out again.

/** A kind of widget: a field of one colour, as much of it as its variable has of a hundred; all of it where it has none. */
export const oneMoreKind = (): (() => void) =>
  registerWidgetKind(
    kindOf({
      kind: 'stripe',
      label: 'Stripe',
      meaning: 'a share of a field in one colour',
      purpose: 'show',
      size: { width: 120, height: 24 },
      touchable: false,
      settings: described({
        shows: { label: 'Shows', type: t.variable, default: '', group: 'Shows', essential: true },
        ink: { label: 'Ink of the stripe', type: t.colour, default: '#ff0000', group: 'Looks', follows: true },
        visible: { label: 'Visible', type: t.yesNo, default: true, group: 'Behaviour' },
      }),
      fresh: () => ({ variable: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 100 } }),
      paint: (surface, { x, y, width, height }, { shows, ink }, live) => {
        const share = shows ? Number(live.read(shows).value) / 100 : 1
        surface.fill({ x, y, width: Math.round(width * share), height }, ink)
      },
      shows: ({ shows }, live) => (shows ? String(live.read(shows).value) : ''),
    }),
  )

/** A part of a frame: the number of a unit, which 13 cannot be. */
export const oneMorePart = (): (() => void) =>
  registerPart(
    partOf({
      part: 'unit',
      label: 'unit',
      settings: record({ unit: { label: 'Unit', type: whole, default: 17, min: 0, max: 255, group: 'Part' } }),
      size: () => 1,
      made: ({ unit }) => `unit ${unit}`,
      put:
        ({ unit }) =>
        (body, at) => {
          body[at] = unit
          return null
        },
      read:
        ({ unit }) =>
        (bytes, at) =>
          bytes[at] === unit ? null : 'constant',
      says: () => 'ours',
      wrong: ({ unit }) => (unit === 13 ? { code: 'layout.unlucky', facts: {} } : null),
    }),
  )

/** An action: divides a value by two, or by another. */
export const oneMoreAction = (): (() => void) =>
  registerAction(
    actionOf({
      action: 'halve',
      label: 'halves',
      settings: described({
        variable: { label: 'variable', type: t.written, default: '', group: 'Action' },
        by: { label: 'by', type: t.number, default: 2, group: 'Action', follows: true },
      }),
      words: (raw, nameOf) => `halves ${nameOf(raw.variable)}`,
      run({ variable: cell, by }, world) {
        const divisor = Number(isCompiledFollow<Cell>(by) ? world.read(by.follow) : by)
        if (cell) world.do({ do: 'write', cell, value: Number(world.read(cell)) / divisor, last: true })
      },
    }),
  )

const notEven: Problem = { code: 'exchange.other-memory', facts: {} }

/** A step: expects a value to be even within 100 ms. */
export const oneMoreStep = (): (() => void) =>
  registerStep(
    'is even',
    {
      label: 'is even',
      expects: true,
      settings: described({ variable: { label: 'Variable', type: t.variable, default: '', group: 'Step', essential: true } }),
      words: (s: { variable: string }, nameOf: (id: string) => string) => `${nameOf(s.variable)} is even`,
    },
    function* (stage, { variable: cell }: { variable: Cell }) {
      const isEven = () => (Number(stage.rig.panel.memory.read(cell).value) % 2 === 0 ? true : null)
      return (yield* stage.await(100, isEven)) ? null : { problem: notEven }
    },
  )

/** A check: a stripe is at most 50 px thick. */
export const oneMoreCheck = (): (() => void) =>
  registerCheck(
    ({ project }) =>
      Object.values(project.widgets)
        .filter((w) => w.kind === 'stripe' && w.place.height > 50)
        .map((w) => ({
          code: 'stripe-thick',
          severity: 'advice' as const,
          station: 'Pages' as const,
          at: w.id,
          facts: { name: w.name, most: 50 },
          fix: { label: 'Make it 50 px high', edit: 'place widgets', args: { places: { [w.id]: { height: 50 } } } },
        })),
    { 'stripe-thick': '“{name}” is thicker than {most} px.' },
  )

/** A system variable: how many have come to see, in pairs; what is shown is painted again when it is another. */
export const oneMoreSystemVariable = (): (() => void) =>
  registerSystemVariable({
    id: 'variable:own-visitors',
    name: 'visitors',
    holds: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 40 },
    writable: true,
    meaning: 'how many have come to see',
    atPowerOn: 2,
    allows: (value) => value % 2 === 0,
    written: (panel) => panel.repaint(),
  })
