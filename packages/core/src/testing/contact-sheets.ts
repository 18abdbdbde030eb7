import type { Rect } from '../base/index.ts'
import type { Look } from '../palette/index.ts'
import { freshProject, passGate, plainPanel, type Project } from '../project/index.ts'
import type { Surface } from '../raster/index.ts'
import type { Holds, Value } from '../variables/index.ts'
import { widgetKind } from '../widgets/index.ts'
import { Workbench } from '../workbench/index.ts'
import { testAssets, testTypefaces } from './fonts.ts'

/** One picture of a kind: its settings, what it is bound to, and how it stands. */
export interface Variant {
  name: string
  settings?: Record<string, unknown>
  holds?: Holds
  value?: Value
  size?: [number, number]
  /** A finger on it, at hundredths of its width and height. */
  pressed?: [number, number]
  /** More variables, by the name they have in the settings as `variable:name`. */
  more?: Record<string, { holds: Holds; value: Value }>
  /** Runs so long before it is looked at, ms. */
  runMs?: number
}

const number = (min: number, max: number, unit = '', decimals = 0): Holds => ({
  type: min < 0 ? 'i16' : 'u16',
  factor: decimals ? 0.1 : 1,
  offset: 0,
  decimals,
  unit,
  min,
  max,
})
const choice = (...words: string[]): Holds => ({
  type: 'choice',
  choices: words.map((word, value) => ({ id: `choice:${value + 1}`, value, word })),
})
const text: Holds = { type: 'text', bytes: 40, encoding: 'latin-1' }
const flags: Holds = { type: 'flags', names: ['rain', 'wind', 'dew', 'mains'] }
const wind = number(0, 25, 'm/s', 1)
const percent = number(0, 100, '%')
const zones = [
  { from: 0, to: 12, colour: 'colour:good' },
  { from: 12, to: 18, colour: 'colour:warning' },
  { from: 18, to: 25, colour: 'colour:bad' },
]
const bound = { variable: 'variable:v' }
const face = (fill: string, border = '') => ({
  shape: 'box',
  fill,
  fillTo: '',
  gradient: 'down',
  border,
  borderWidth: border ? 2 : 0,
  radius: 8,
})
const toned = (tone: string) => ({ face: face(`colour:${tone} tint`, `colour:${tone}`), sillColour: `colour:${tone}` })
const order = { works: 'sets its value', variable: 'variable:order', value: 1, shows: 'variable:v', reaches: 2 }
const alarms = [
  { text: 'Rain on the dome', variable: 'variable:v', bit: 0, weight: 'heavy' },
  { text: 'Wind over 12 m/s', variable: 'variable:v', bit: 1, weight: 'middle' },
  { text: 'Dew on the corrector', variable: 'variable:v', bit: 2, weight: 'light' },
]

/** Samples of each kind. A kind that is not here is drawn untouched alone. */
export const variants: Record<string, Variant[]> = {
  label: [
    { name: 'untouched' },
    { name: 'title', settings: { text: 'Heron Hill', font: 'style:title' } },
    { name: 'wraps', settings: { text: 'Open stays locked until ten minutes are dry.', wraps: true }, size: [150, 64] },
  ],
  shape: [
    { name: 'untouched', size: [110, 60] },
    { name: 'line', settings: { draws: 'line up', lineColour: 'colour:ink' }, size: [90, 50] },
    { name: 'lines', settings: { draws: 'lines', lineColour: 'colour:ink' }, size: [90, 50] },
    { name: 'polygon', settings: { draws: 'polygon', points: '0,100 50,0 100,100', lineColour: 'colour:bad' }, size: [60, 50] },
    { name: 'arc', settings: { draws: 'arc', lineWidth: 5, lineColour: 'colour:accent' }, size: [60, 60] },
    { name: 'ring', settings: { draws: 'ring', lineWidth: 8, lineColour: 'colour:warning' }, size: [60, 60] },
  ],
  number: [
    { name: 'in range', settings: bound, holds: number(0, 359, '°', 1), value: 214.6 },
    { name: 'coloured by range', settings: { ...bound, zones: zones.slice(1) }, holds: wind, value: 14.2 },
    { name: 'past its end', settings: bound, holds: percent, value: 104 },
    { name: 'no value', settings: { ...bound, noValueWord: 'open', noValue: -40 }, holds: number(-40, 60, '°C', 1), value: -40 },
    { name: 'does not fit', settings: { ...bound, digits: 2 }, holds: number(0, 9999), value: 1204 },
    { name: 'thousands', settings: { ...bound, thousands: true, digits: 6 }, holds: number(0, 65_000), value: 61_204 },
    { name: 'hex', settings: { ...bound, base: 'hex', zeros: true, digits: 4 }, holds: number(0, 65_535), value: 0x1f2e },
    { name: 'signed', settings: { ...bound, sign: true }, holds: number(-40, 60, '°C', 1), value: 4.2 },
  ],
  text: [
    { name: 'in its variable', settings: bound, holds: text, value: 'Clear until 02:30' },
    {
      name: 'too long: runs',
      settings: { ...bound, runs: 60, restMs: 200 },
      holds: text,
      value: 'Clouds are likely after 23:00',
      size: [150, 36],
      runMs: 900,
    },
    {
      name: 'by state',
      settings: {
        ...bound,
        states: [{ when: { by: 'value', value: 1 }, meaning: 'shutter closing', face: face(''), textColour: 'colour:warning' }],
      },
      holds: choice('closed', 'closing'),
      value: 1,
    },
  ],
  clock: [
    { name: 'time' },
    { name: 'to the minute', settings: { style: 'time to the minute' } },
    { name: 'weekday and date', settings: { style: 'weekday and date', font: 'style:caption' }, size: [170, 30] },
  ],
  indicator: [
    { name: 'off', settings: bound, holds: choice('off', 'on'), value: 0 },
    { name: 'on', settings: bound, holds: choice('off', 'on'), value: 1 },
    {
      name: 'with its word',
      size: [76, 30],
      settings: {
        ...bound,
        writes: true,
        states: [
          {
            when: { by: 'value', value: 1 },
            meaning: 'wet',
            face: { ...face('colour:bad'), radius: 15 },
            textColour: 'colour:ground',
          },
        ],
      },
      holds: choice('dry', 'wet'),
      value: 1,
    },
    { name: 'none holds', settings: { ...bound, states: [] }, holds: choice('off', 'on'), value: 1 },
  ],
  level: [0, 1, 2, 3, 4, 7].map((value) => ({ name: String(value), settings: bound, holds: number(0, 9), value })),
  bar: [
    { name: 'untouched', settings: bound, holds: percent, value: 68 },
    { name: 'zones', settings: { ...bound, zones }, holds: wind, value: 14.6, size: [180, 32] },
    { name: 'past its end', settings: { ...bound, segments: 12, zones, zonesShow: 'in the bar' }, holds: wind, value: 30 },
    { name: 'to the left', settings: { ...bound, way: 'left' }, holds: percent, value: 45 },
    { name: 'up', settings: { ...bound, way: 'up', zones }, holds: wind, value: 14.6, size: [32, 110] },
    { name: 'down', settings: { ...bound, way: 'down' }, holds: percent, value: 33, size: [24, 110] },
  ],
  gauge: [
    { name: 'blade', settings: { ...bound, zones }, holds: wind, value: 11.5 },
    {
      name: 'arc',
      settings: {
        ...bound,
        pointer: 'arc',
        pointerColour: 'colour:accent',
        labelled: 2,
        caption: 'humid',
        zones: [
          { from: 0, to: 70, colour: 'colour:good' },
          { from: 70, to: 90, colour: 'colour:warning' },
          { from: 90, to: 100, colour: 'colour:bad' },
        ],
      },
      holds: percent,
      value: 71,
    },
    {
      name: 'round, with a slit and a marker',
      size: [220, 220],
      settings: {
        ...bound,
        marker: 'variable:m',
        pointer: 'slit',
        pointerWidth: 26,
        band: 44,
        pointerColour: 'colour:warning',
        start: 0,
        sweep: 360,
        ticks: 72,
        labelled: 4,
        labels: 'N, E, S, W',
        ends: 'its own',
        from: 0,
        to: 360,
      },
      holds: number(0, 359, '°', 1),
      value: 214.6,
      more: { m: { holds: number(0, 359, '°', 1), value: 231 } },
    },
    { name: 'past its end', settings: { ...bound, labelled: 0 }, holds: wind, value: 31, size: [130, 120] },
  ],
  trend: [
    {
      name: 'untouched',
      settings: { traces: [{ variable: 'variable:v' }], everyMs: 100, samples: 40 },
      holds: wind,
      value: 9,
      runMs: 5000,
      size: [300, 140],
    },
    {
      name: 'two traces, zones, clipped',
      settings: {
        traces: [{ variable: 'variable:v' }, { variable: 'variable:m', colour: 'colour:muted', line: 'dashes' }],
        ends: 'its own',
        low: 0,
        high: 15,
        zones: zones.slice(1),
        everyMs: 100,
        samples: 60,
      },
      holds: wind,
      value: 9,
      more: { m: { holds: wind, value: 4 } },
      runMs: 6500,
      size: [340, 150],
    },
    {
      name: 'sweeps',
      settings: {
        traces: [{ variable: 'variable:v', line: 'dots' }],
        newest: 'sweeps',
        everyMs: 100,
        samples: 40,
        scale: false,
        times: false,
      },
      holds: wind,
      value: 9,
      runMs: 6000,
      size: [220, 90],
    },
  ],
  button: [
    { name: 'rest', settings: { text: 'Open' } },
    { name: 'pressed', settings: { text: 'Open' }, pressed: [50, 50] },
    { name: 'out of use', settings: { text: 'Open', enabled: false } },
    { name: 'on', settings: { text: 'Flat lamp', works: 'switches', ...bound }, holds: choice('off', 'on'), value: 1 },
    {
      name: 'pending',
      settings: { text: 'Open', pendingText: 'Opening', ...order },
      holds: choice('closed', 'moving', 'open'),
      value: 1,
      more: { order: { holds: choice('stop', 'open'), value: 1 } },
      runMs: 500,
    },
    {
      name: 'failed',
      settings: { text: 'Open', failedText: 'No answer', failAfterMs: 1000, ...order },
      holds: choice('closed', 'moving', 'open'),
      value: 0,
      more: { order: { holds: choice('stop', 'open'), value: 1 } },
      runMs: 1500,
    },
    {
      name: 'held, half way',
      settings: { text: 'Park', confirms: true, pressedLook: 'as at rest' },
      pressed: [50, 50],
      runMs: 400,
    },
    { name: 'toned bad', settings: { text: 'Stop', ...toned('bad') } },
    { name: 'icon', settings: { text: '', icon: 'lightbulb' }, size: [60, 50] },
    { name: 'icon and words', settings: { text: 'Park', icon: 'house-line' } },
    { name: 'toned good', settings: { text: 'Open', ...toned('good') } },
    {
      name: 'words by state',
      settings: {
        ...bound,
        states: [
          {
            when: { by: 'value', value: 1 },
            meaning: 'Running',
            face: face('colour:good tint', 'colour:good'),
            textColour: 'colour:ink',
          },
        ],
      },
      holds: choice('off', 'on'),
      value: 1,
    },
  ],
  area: [{ name: 'seen while edited', settings: { note: 'opens Setup' } }],
  slider: [
    { name: 'untouched', settings: bound, holds: percent, value: 58 },
    { name: 'detents', settings: { ...bound, detents: 7 }, holds: percent, value: 0, size: [220, 52] },
    { name: 'past its end', settings: bound, holds: number(0, 50), value: 70 },
    { name: 'up', settings: { ...bound, way: 'up', detents: 5 }, holds: percent, value: 50, size: [52, 130] },
    { name: 'out of use', settings: { ...bound, enabled: false }, holds: percent, value: 30 },
  ],
  dial: [
    { name: 'untouched', settings: bound, holds: number(0, 100), value: 62 },
    {
      name: 'without end',
      settings: { ...bound, endless: true, writes: false, ticks: 12 },
      holds: number(0, 359),
      value: 200,
      size: [110, 110],
    },
  ],
  digits: [
    { name: 'untouched', settings: bound, holds: number(0, 359, '', 1), value: 231 },
    { name: 'signed, one stepped', settings: bound, holds: number(-99, 99), value: -7, size: [110, 84], pressed: [80, 20] },
  ],
  entry: [
    { name: 'rest', settings: bound, holds: number(0, 359, '°', 1), value: 231 },
    { name: 'code', settings: { ...bound, hidden: true }, holds: number(0, 9999), value: 4711 },
    { name: 'out of use', settings: { ...bound, enabled: false }, holds: percent, value: 40 },
  ],
  typed: [{ name: 'nothing typed' }],
  tabs: [
    {
      name: 'words of its variable',
      settings: { of: 'the words of its variable', ...bound },
      holds: choice('Slew', 'Track', 'Rest'),
      value: 1,
    },
    {
      name: 'below each other',
      settings: { of: 'the words of its variable', way: 'below each other', ...bound },
      holds: choice('Dome', 'Weather'),
      value: 0,
      size: [110, 90],
    },
  ],
  list: [
    { name: 'untouched', settings: bound, holds: choice('Moon', 'Jupiter', 'Vega', 'Ring nebula', 'Albireo'), value: 1 },
    {
      name: 'several variables',
      settings: {
        of: 'several variables',
        rows: [
          { text: 'Wind', variable: 'variable:v' },
          { text: 'Humidity', variable: 'variable:m' },
        ],
      },
      holds: wind,
      value: 9.8,
      more: { m: { holds: percent, value: 71 } },
      size: [200, 76],
    },
  ],
  icon: ['bell', 'wind', 'drop', 'lightning', 'moon', 'sun', 'lock', 'thermometer', 'plug', 'house', 'sliders', 'check'].map(
    (icon, k) => ({ name: icon, settings: { icon, colour: ['colour:ink', 'colour:accent', 'colour:warning'][k % 3] } }),
  ),
  alarms: [
    { name: 'three, the heavy one first', settings: { alarms, order: 'heaviest first' }, holds: flags, value: 7 },
    { name: 'none', settings: { alarms }, holds: flags, value: 0, size: [200, 60] },
  ],
}

const margin = 12
const captionHeight = 22

/** Places boxes from the left, in rows no wider than a sheet. */
function placed(sizes: readonly (readonly [number, number])[], widest: number): { places: Rect[]; height: number } {
  let [x, y, row] = [margin, margin, 0]
  const places = sizes.map(([width, height]): Rect => {
    const taken = Math.max(width, 112)
    if (x > margin && x + taken + margin > widest) {
      x = margin
      y += row + margin
      row = 0
    }
    const place = { x, y, width, height }
    x += taken + margin
    row = Math.max(row, height + captionHeight)
    return place
  })
  return { places, height: y + row + margin }
}

/** A kind with all its variants on one glass, each with its name below it, in a look. */
export function contactSheet(kind: string, look: Look): Surface {
  const found = widgetKind(kind)!
  const all = variants[kind] ?? [{ name: 'untouched' }]
  const width = 640
  const { places, height } = placed(
    all.map(({ size }) => size ?? ([found.size.width, found.size.height] as const)),
    width,
  )
  let project: Project = freshProject(
    'Sheet',
    { ...plainPanel, width, height, diagonalInches: Math.round(Math.sqrt(width * width + height * height) / 1.3335) / 100 },
    testTypefaces,
  )
  let n = 0
  const edit = (name: string, args: unknown) => {
    const done = passGate(project, { changeId: `change:sheet${n++}`, edit: name, args })
    if (!done.ok) throw new Error(`${kind}, ${name}: ${JSON.stringify(done.problem)}`)
    project = done.value.project
  }
  edit('set looks', { looks: look })
  const page = project.startPage
  const moving: { id: string; from: number }[] = []
  const coming: { id: string; value: number }[] = []
  all.forEach((variant, k) => {
    const fresh = found.fresh?.() ?? {}
    const ids = new Map([
      ['variable:v', `variable:v${k}`],
      ...Object.keys(variant.more ?? {}).map((name) => [`variable:${name}`, `variable:${name}${k}`] as const),
    ])
    const variable = (id: string, holds: Holds, value: Value) =>
      edit('add variable', { id, name: id.slice(9), values: { holds, initial: value, travels: 'both' } })
    if (variant.holds) {
      variable(ids.get('variable:v')!, variant.holds, kind === 'alarms' ? 0 : (variant.value ?? 0))
      if (kind === 'alarms') coming.push({ id: ids.get('variable:v')!, value: Number(variant.value) })
      if (kind === 'trend') moving.push({ id: ids.get('variable:v')!, from: Number(variant.value) })
    }
    for (const [name, { holds, value }] of Object.entries(variant.more ?? {}))
      variable(ids.get(`variable:${name}`)!, holds, value)
    const renamed = JSON.parse(JSON.stringify({ ...fresh.settings, ...variant.settings }), (_, value: unknown) =>
      typeof value === 'string' ? (ids.get(value) ?? value) : value,
    ) as Record<string, unknown>
    edit('add widgets', {
      page,
      after: '',
      widgets: [
        { id: `widget:v${k}`, kind, name: variant.name, place: places[k], settings: renamed },
        {
          id: `widget:c${k}`,
          kind: 'label',
          place: { ...places[k]!, x: places[k]!.x - 6, y: places[k]!.y + places[k]!.height, width: 200, height: captionHeight },
          settings: { text: variant.name, colour: 'colour:muted', font: { typeface: testTypefaces[0]!.id, size: 13 } },
        },
      ],
    })
  })
  const bench = new Workbench(project, testAssets)
  const { memory } = bench.rig.panel
  memory.setOwn('clock', 75_876)
  memory.setOwn('date', 9418)
  const cellOf = (id: string) =>
    bench.build.header.cells.find(({ cell: { address } }) => address === project.variables[id as never]?.['address'])!.cell
  for (const { id, value } of coming) memory.write(cellOf(id), value)
  // Moving widgets are moved by hand: up and down, the same way in every run.
  const longest = Math.max(0, ...all.map(({ runMs = 0 }) => runMs))
  const pressed = all.findIndex((variant) => variant.pressed)
  for (let ms = 0; ms < longest; ms += 100) {
    for (const { id, from } of moving) {
      const wave = ((ms / 100) % 26) - 13
      memory.write(cellOf(id), Math.max(0, from + Math.round((60 - wave * wave) * 1.3) / 10))
    }
    bench.advance(100_000)
  }
  const sheet = (k: number) => {
    const { x, y, width: w, height: h } = places[k]!
    const [px, py] = all[k]!.pressed!
    return [Math.floor(x + (w * px) / 100), Math.floor(y + (h * py) / 100)] as const
  }
  if (pressed < 0 && kind !== 'area') {
    bench.paint()
    return bench.rig.panel.glass.surface
  }
  if (kind === 'area') return bench.paintPage(page as never)!
  // Each finger has a panel of its own: pressed pictures are put into the one at rest.
  bench.paint()
  const rest = bench.rig.panel.glass.surface
  all.forEach((variant, k) => {
    if (!variant.pressed) return
    const own = new Workbench(project, testAssets)
    own.advance(400_000)
    own.rig.panel.touchDown(...sheet(k))
    own.advance((variant.runMs ?? 60) * 1000 + 30_000)
    own.paint()
    const { x, y, width: w, height: h } = places[k]!
    for (let row = y; row < y + h; row++)
      rest.pixels.set(own.rig.panel.glass.surface.pixels.subarray(row * width + x, row * width + x + w), row * width + x)
  })
  return rest
}
