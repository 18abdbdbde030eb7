import type { Problem } from '@moth-lamp/core/base'
import { isCompiledFollow, record, whole } from '@moth-lamp/core/describe'
import { registerStep } from '@moth-lamp/core/exchanges'
import { registerCheck } from '@moth-lamp/core/findings'
import { partOf, registerPart } from '@moth-lamp/core/frames'
import { deedOf, registerDeed } from '@moth-lamp/core/rules'
import { described, settingTypes as t } from '@moth-lamp/core/settings'
import type { Cell } from '@moth-lamp/core/variables'
import { kindOf, registerWidgetKind } from '@moth-lamp/core/widgets'

// One more of each thing of which there is a table, as whoever adds one would write it: a file, and a line that registers it.

registerWidgetKind(
  kindOf({
    kind: 'stripe',
    label: 'Stripe',
    meaning: 'A field of one colour with a share of it filled.',
    size: { width: 120, height: 24 },
    touchable: true,
    settings: described({
      shows: { label: 'Shows', type: t.variable, default: '', group: 'Shows', essential: true },
      ink: { label: 'Ink of the stripe', type: t.colour, default: '#00ff00', group: 'Looks', follows: true },
      visible: { label: 'Visible', type: t.yesNo, default: true, group: 'Behaviour' },
    }),
    fresh: () => ({ variable: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 100 } }),
    paint: (surface, { x, y, width, height }, { shows, ink }, live) => {
      const share = shows ? Number(live.read(shows).value) / 100 : 0
      surface.fill({ x, y, width: Math.round(width * share), height }, ink)
    },
    shows: ({ shows }, live) => (shows ? String(live.read(shows).value) : ''),
  }),
)

registerPart(
  partOf({
    part: 'unit number',
    label: 'unit number',
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
  }),
)

registerDeed(
  deedOf({
    deed: 'halve',
    label: 'halves',
    settings: described({
      variable: { label: 'variable', type: t.written, default: '', group: 'Deed' },
      by: { label: 'by', type: t.number, default: 2, group: 'Deed', follows: true },
    }),
    words: ({ variable, by }, nameOf) => `halves ${nameOf(variable)} by ${String(by)}`,
    run({ variable: cell, by }, world) {
      const divisor = Number(isCompiledFollow<Cell>(by) ? world.read(by.follow) : by)
      if (cell) world.do({ do: 'write', cell, value: Math.floor(Number(world.read(cell)) / divisor), last: true })
    },
  }),
)

const notEven: Problem = { code: 'exchange.other-memory', facts: { wanted: 'even', got: 'odd' } }

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
