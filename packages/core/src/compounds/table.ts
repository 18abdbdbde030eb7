import { tenTo } from '../base/index.ts'
import { isNumber, type Holds } from '../variables/index.ts'
import { widgetKind } from '../widgets/index.ts'
import type { Compound, Part } from './compound.ts'
import { columns, gap, lampStates, namedBits, rows, switchStates } from './parts.ts'

const percent: Holds = { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '%', min: 0, max: 100 }
const offOn: Holds = {
  type: 'choice',
  choices: [
    { id: 'choice:1', value: 0, word: 'off' },
    { id: 'choice:2', value: 1, word: 'on' },
  ],
}
const fourFlags: Holds = { type: 'flags', names: ['pump', 'heater', 'fan', 'valve'] }
const numbers = ['u8', 'i8', 'u16', 'i16', 'u32', 'i32', 'f32'] as const
const flat = (height: number, width: number) => () => ({ width, height })

/** Steps one would count in: 1, 2, 5, 10 … of every power of ten. */
const roundSteps = Array.from({ length: 16 }, (_, k) => tenTo(k - 6)).flatMap((power) => [power, 2 * power, 5 * power])

/** A step that moves the value through its range in about a hundred presses, and never by less than is seen or held. */
const stepOfRange = (holds: Holds): number => {
  if (!isNumber(holds)) return 1
  const least = Math.max(tenTo(-holds.decimals), holds.type === 'f32' ? 0 : Math.abs(holds.factor))
  const wanted = Math.max(least, (holds.max - holds.min) / 100)
  return Number((roundSteps.find((step) => step >= wanted - 1e-9) ?? least).toPrecision(9))
}

const compoundList: Compound[] = [
  {
    compound: 'switch',
    label: 'Labelled switch',
    meaning: 'a label and a toggle button',
    size: flat(46, 250),
    holds: offOn,
    travels: 'both',
    accepts: ['choice', ...numbers.slice(0, 4)],
    parts({ place, variable, holds, words }) {
      const [name, key] = columns(place, 6, 4)
      return [
        { kind: 'label', name: 'name', place: name!, settings: { text: words } },
        {
          kind: 'button',
          name: 'switch',
          place: key!,
          settings: { text: '', works: 'switches', variable, states: switchStates(holds) },
        },
      ]
    },
  },
  {
    compound: 'step value',
    label: 'Value with − and +',
    meaning: 'accelerates while pressed',
    size: flat(50, 284),
    holds: percent,
    travels: 'both',
    accepts: numbers,
    parts({ place, variable, holds }) {
      const [less, value, more] = columns(place, 1, 2, 1)
      const by = stepOfRange(holds)
      const adds = (amount: number) => [
        {
          on: { moment: 'pressed', everyMs: 300, faster: true },
          lines: [{ action: 'step', with: { variable, by: amount, atEnd: 'stop' } }],
        },
      ]
      return [
        { kind: 'number', name: 'value', place: value!, settings: { variable, align: 'centre' } },
        { kind: 'button', name: 'less', place: less!, settings: { text: '−', font: 'style:title', rules: adds(-by) } },
        { kind: 'button', name: 'more', place: more!, settings: { text: '+', font: 'style:title', rules: adds(by) } },
      ]
    },
  },
  {
    compound: 'slider value',
    label: 'Slider with value',
    meaning: 'drag, with the value beside it',
    size: flat(46, 372),
    holds: percent,
    travels: 'both',
    accepts: numbers,
    parts({ place, variable }) {
      const [slider, value] = columns(place, 6, 4)
      return [
        { kind: 'slider', name: 'slider', place: slider!, settings: { variable } },
        { kind: 'number', name: 'value', place: value!, settings: { variable, align: 'right' } },
      ]
    },
  },
  {
    compound: 'entry value',
    label: 'Value with keypad entry',
    meaning: 'a label and a value typed on a keypad',
    size: flat(50, 320),
    holds: percent,
    travels: 'both',
    accepts: [...numbers, 'text', 'time'],
    opensKeypad: true,
    parts({ place, variable, holds, words, keypad }) {
      // A text is longer than a number, in smaller letters.
      const isText = holds.type === 'text'
      const [name, entry] = isText ? columns(place, 2, 3) : columns(place, 1, 1)
      return [
        { kind: 'label', name: 'name', place: name!, settings: { text: words } },
        {
          kind: 'entry',
          name: 'entry',
          place: entry!,
          settings: { variable, keypad, asksFor: words, ...(isText ? { font: 'style:caption' } : {}) },
        },
      ]
    },
  },
  {
    compound: 'all on off',
    label: 'All on, all off',
    meaning: 'for named bits',
    size: flat(50, 250),
    holds: fourFlags,
    travels: 'both',
    accepts: ['flags'],
    parts({ place, variable, holds }) {
      const [on, off] = columns(place, 1, 1)
      const mask = namedBits(holds).reduce((all, { bit }) => all | (1 << bit), 0)
      const does = (action: string) => [
        { on: { moment: 'pressed' }, lines: [{ action, with: { variable, mask: mask || 0xffff } }] },
      ]
      return [
        { kind: 'button', name: 'all on', place: on!, settings: { text: 'All on', rules: does('set bits') } },
        { kind: 'button', name: 'all off', place: off!, settings: { text: 'All off', rules: does('clear bits') } },
      ]
    },
  },
  {
    compound: 'lamps',
    label: 'Lamps for named bits',
    meaning: 'a lamp and a label for each',
    size: (holds) => ({ width: 170, height: 34 * Math.max(1, namedBits(holds).length) }),
    holds: fourFlags,
    travels: 'host to panel',
    accepts: ['flags'],
    parts({ place, variable, holds }) {
      const bits = namedBits(holds).length ? namedBits(holds) : [{ bit: 0, name: 'bit 0' }]
      return rows(place, bits.length).flatMap((row, k) => {
        const { bit, name } = bits[k]!
        const size = Math.min(22, row.height)
        const lamp = { x: row.x, y: row.y + Math.floor((row.height - size) / 2), width: size, height: size }
        const words = { ...row, x: row.x + size + gap / 2, width: Math.max(1, row.width - size - gap / 2) }
        return [
          { kind: 'indicator', name: `${name} lamp`, place: lamp, settings: { variable, states: lampStates(bit) } },
          { kind: 'label', name: `${name} words`, place: words, settings: { text: name } },
        ]
      })
    },
  },
]

/** Settings of a new widget of that kind, besides those of the compound. */
const asNew = (part: Part): Part => ({ ...part, settings: { ...widgetKind(part.kind)?.fresh?.().settings, ...part.settings } })

/** The compounds, in the order in which they are offered. */
export const compounds: readonly Compound[] = compoundList.map((compound) => ({
  ...compound,
  parts: (made) => compound.parts(made).map(asNew),
}))
