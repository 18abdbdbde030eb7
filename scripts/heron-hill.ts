// Draws the demo project, Heron Hill dome, by the edits anyone makes, and packs it as a project file:
//   npx tsx scripts/heron-hill.ts [FILE]
import { writeFileSync } from 'node:fs'
import { cosine, sine, type Rect } from '@moth-lamp/core/base'
import { noFace, type Face } from '@moth-lamp/core/faces'
import { freshProject, keypadSize, numberKeypad, plainPanel, packProject, passGate, type Project } from '@moth-lamp/core/project'
import { bundledFonts } from '../packages/server/src/fonts.ts'

const { typefaces, assets } = bundledFonts()
const sans = 'typeface:next'
const bold = 'typeface:next-bold'
const mono = 'typeface:mono'

const cream = '#f1ead6'
const mute = '#8fa0c4'
const amber = '#f5b941'
const card: Face = { ...noFace, fill: '#15213c', border: '#2c3f68', borderWidth: 1, radius: 10 }
const plain = (fill: string, radius = 8): Face => ({ ...noFace, fill, radius })
const key = (fill: string, to: string): Face => ({ ...noFace, fill, fillTo: to, radius: 9, border: '#00000a', borderWidth: 1 })

let project: Project = freshProject('Heron Hill dome', plainPanel, typefaces)
let n = 0

function edit(name: string, args: unknown): void {
  const done = passGate(project, { changeId: `change:demo${n++}`, edit: name, args })
  if (!done.ok) throw new Error(`${name}: ${JSON.stringify(done.problem)} ${JSON.stringify(args)}`)
  project = done.value.project
}

const at = (x: number, y: number, width: number, height: number): Rect => ({ x, y, width, height })
const v = (name: string) => `variable:${name}`

function variable(name: string, address: number, values: Record<string, unknown>): void {
  edit('add variable', { id: v(name), name, values: { address, ...values } })
}
const tenths = (unit: string, min: number, max: number, type = 'u16') => ({
  type,
  factor: 0.1,
  offset: 0,
  decimals: 1,
  unit,
  min,
  max,
})
const whole = (unit: string, min: number, max: number) => ({ type: 'u16', factor: 1, offset: 0, decimals: 0, unit, min, max })
const choice = (...words: string[]) => ({ type: 'choice', choices: words.map((word, value) => ({ value, word })) })

variable('dome_azimuth', 0x10, {
  holds: tenths('°', 0, 359.9),
  meaning: 'where the slit points',
  initial: 214.6,
  stale: { afterMs: 1500, shows: 'dim' },
})
variable('dome_target', 0x12, { holds: tenths('°', 0, 359.9), travels: 'both', meaning: 'where it is to point', initial: 231 })
variable('shutter_order', 0x20, {
  holds: choice('stop', 'open', 'close'),
  travels: 'panel to host',
  meaning: 'what the operator wants of the shutter',
})
variable('shutter_state', 0x21, { holds: choice('closed', 'moving', 'open', 'stopped'), meaning: 'what the shutter does' })
variable('weather_flags', 0x30, {
  holds: { type: 'flags', names: ['rain', 'wind', 'dew', 'mains_lost'] },
  meaning: 'alarms of the weather mast',
})
variable('wind_speed', 0x31, {
  holds: tenths('m/s', 0, 60),
  initial: 6.4,
  meaning: 'ten-minute mean',
  stale: { afterMs: 4000, shows: 'dashes' },
})
variable('outside_temp', 0x32, {
  holds: tenths('°C', -40, 60, 'i16'),
  initial: 4.2,
  meaning: 'at the mast',
  stale: { afterMs: 8000, shows: 'dashes' },
})
variable('humidity', 0x33, {
  holds: whole('%', 0, 100),
  initial: 71,
  meaning: 'relative, at the mast',
  stale: { afterMs: 8000, shows: 'dashes' },
})
variable('flat_level', 0x40, { holds: whole('%', 0, 100), travels: 'both', initial: 58, meaning: 'flat-field lamp' })
variable('site_note', 0x50, {
  holds: { type: 'text', bytes: 24, encoding: 'latin-1' },
  initial: 'Clear until 02:10',
  meaning: 'a line from the weather desk',
})
variable('park_time', 0x60, {
  holds: { type: 'time' },
  travels: 'both',
  initial: 19800,
  meaning: 'when the dome parks by itself',
})

const [dome] = project.pageOrder as [string]
edit('set page', { id: dome, values: { name: 'Dome', background: { ...noFace, fill: '#16213f', fillTo: '#0b1122' } } })
edit('add page', { id: 'page:weather', after: dome, name: 'Weather' })
edit('add page', { id: 'page:setup', after: 'page:weather', name: 'Setup' })
edit('add page', { id: 'page:keypad', after: 'page:setup', name: 'Number keypad', kind: 'keypad' })
for (const id of ['page:weather', 'page:setup'])
  edit('set page', { id, values: { background: { ...noFace, fill: '#16213f', fillTo: '#0b1122' } } })
edit('set page', {
  id: dome,
  values: { note: 'What an observer needs at night: where the slit points, where it is to go, the shutter.' },
})

let page = dome
let id = 0
function put(kind: string, name: string, place: Rect, settings: Record<string, unknown> = {}): string {
  const made = `widget:${name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}-${++id}`
  edit('add widgets', { page, after: '', widgets: [{ id: made, kind, name, place, settings }] })
  return made
}
const label = (text: string, place: Rect, size: number, colour = cream, align = 'left', typeface = sans) =>
  put('label', `“${text}”`, place, { text, font: { typeface, size }, colour, align })

function head(title: string): void {
  label(title, at(18, 14, 420, 44), 28, cream, 'left', bold)
  put('number', 'Clock', at(620, 16, 156, 40), {
    variable: 'variable:own-clock',
    font: { typeface: mono, size: 24 },
    colour: mute,
    align: 'right',
    face: noFace,
  })
  put('shape', 'Rule under the title', at(24, 60, 752, 2), { draws: 'face', face: plain('#3a5288', 0) })
}

const action = (moment: string, { do: deed, ...values }: Record<string, unknown>, everyMs = 0) => [
  { on: { moment, everyMs }, lines: [{ deed, with: values }] },
]
const press = (deed: Record<string, unknown>, everyMs = 0) => action('pressed', deed, everyMs)
const release = (deed: Record<string, unknown>) => action('lifted', deed)
const button = (
  name: string,
  text: string,
  place: Rect,
  actions: unknown,
  face: Face,
  pressed: Face,
  size = 22,
  more: Record<string, unknown> = {},
) =>
  put('button', name, place, {
    text,
    actions,
    face,
    pressedFace: pressed,
    font: { typeface: sans, size },
    colour: cream,
    ...more,
  })

const blue = key('#2f4a80', '#243a68')
const bluePressed = key('#4a6cb0', '#3c5a98')

function navigation(here: string): void {
  const pages: [string, string][] = [
    ['Dome', dome],
    ['Weather', 'page:weather'],
    ['Setup', 'page:setup'],
  ]
  const others = pages.filter(([, p]) => p !== here)
  others.forEach(([text, to], i) =>
    button(
      `To ${text}`,
      text,
      at(776 - (others.length - i) * 182 + 12, 412, 170, 50),
      release({ do: 'go to page', page: to }),
      plain('#20315a'),
      plain('#3c5690'),
      20,
    ),
  )
}

// --- Dome
head('Heron Hill · Dome')
const [cx, cy] = [208, 268]
put('shape', 'Dial', at(cx - 170, cy - 170, 340, 340), {
  draws: 'face',
  face: { ...noFace, shape: 'ellipse', fill: '#0a1020', border: '#3d5688', borderWidth: 3 },
})
const ring = (name: string, bound: string, radius: number, size: number, lit: string, dark: string) => {
  for (let k = 0; k < 24; k++) {
    const bearing = k * 15
    const x = Math.round(cx + radius * sine(bearing) - size / 2)
    const y = Math.round(cy - radius * cosine(bearing) - size / 2)
    const face = (fill: string): Face => ({ ...noFace, shape: 'ellipse', fill })
    const states = (
      k === 0
        ? [
            [352.5, 359.9],
            [0, 7.4],
          ]
        : [[bearing - 7.5, bearing + 7.4]]
    ).map(([from, to]) => ({ when: { by: 'range', from, to }, meaning: 'here', face: face(lit), textColour: cream }))
    put('indicator', `${name} ${bearing}°`, at(x, y, size, size), {
      variable: v(bound),
      states,
      otherwise: face(dark),
      otherwiseText: 'not here',
    })
  }
}
ring('Slit at', 'dome_azimuth', 152, 16, amber, '#1c2947')
ring('Target at', 'dome_target', 128, 8, '#7fb8ff', '#131d36')
for (const [text, x, y] of [
  ['N', 0, -100],
  ['E', 100, 0],
  ['S', 0, 100],
  ['W', -100, 0],
] as const)
  label(text, at(cx + x - 16, cy + y - 16, 32, 32), 22, mute, 'centre')
label('azimuth', at(cx - 70, cy - 56, 140, 28), 18, mute, 'centre')
put('number', 'Azimuth', at(cx - 86, cy - 28, 172, 60), {
  variable: v('dome_azimuth'),
  digits: 3,
  font: { typeface: mono, size: 42 },
  colour: amber,
  align: 'centre',
  face: plain('#0a1020', 0),
})

put('shape', 'Target card', at(414, 78, 362, 88), { draws: 'face', face: card })
label('Target azimuth', at(424, 84, 190, 30), 18, mute)
put('number', 'Target', at(424, 114, 160, 46), {
  variable: v('dome_target'),
  digits: 3,
  font: { typeface: mono, size: 34 },
  colour: cream,
  face: plain('#15213c', 0),
})
const step = (by: number) => press({ do: 'step', variable: v('dome_target'), by, atEnd: 'wrap' }, 150)
const minus = button('Target less', '−', at(608, 90, 74, 64), step(-0.5), blue, bluePressed, 34)
const plus = button('Target more', '+', at(690, 90, 74, 64), step(0.5), blue, bluePressed, 34)

const order = (to: number) => press({ do: 'set', variable: v('shutter_order'), to })
const open = button(
  'Open shutter',
  'Open shutter',
  at(414, 180, 176, 70),
  order(1),
  key('#37825f', '#27634a'),
  key('#52ab82', '#3a8a68'),
  24,
)
const close = button(
  'Close shutter',
  'Close',
  at(600, 180, 84, 70),
  order(2),
  key('#8a4244', '#6a3032'),
  key('#b4605f', '#8a4244'),
  22,
)
button('Stop shutter', 'Stop', at(692, 180, 84, 70), order(0), key('#5a6377', '#434b5e'), key('#818ba2', '#5a6377'), 22)

label('Shutter', at(408, 270, 80, 32), 18, mute)
const pill = (fill: string, textColour = '#0d1626'): { face: Face; textColour: string } => ({ face: plain(fill, 16), textColour })
const shutter = put('indicator', 'Shutter state', at(488, 268, 130, 36), {
  variable: v('shutter_state'),
  writes: true,
  font: { typeface: bold, size: 18 },
  states: [
    { when: { by: 'value', value: 0 }, meaning: 'closed', ...pill('#3a4a70', cream) },
    { when: { by: 'value', value: 1 }, meaning: 'moving', ...pill(amber) },
    { when: { by: 'value', value: 2 }, meaning: 'open', ...pill('#86e08c') },
    { when: { by: 'value', value: 3 }, meaning: 'stopped', ...pill('#c9cedb') },
  ],
  otherwise: plain('#0a1020', 16),
})
const lamp = (name: string, bound: string, bit: number, x: number, y: number, lit: string) =>
  put('indicator', name, at(x, y, 24, 24), {
    variable: v(bound),
    states: [
      {
        when: { by: 'bit', bit, set: true },
        meaning: 'on',
        face: { ...noFace, shape: 'ellipse', fill: lit, border: '#fff3d0', borderWidth: 1 },
        textColour: cream,
      },
      {
        when: { by: 'bit', bit, set: false },
        meaning: 'off',
        face: { ...noFace, shape: 'ellipse', fill: '#2a3859', border: '#42527a', borderWidth: 1 },
        textColour: cream,
      },
    ],
  })
const flags = ['Rain', 'Wind', 'Dew', 'Mains']
flags.forEach((text, bit) => {
  lamp(`${text} lamp`, 'weather_flags', bit, 414 + bit * 92, 322, ['#6ab7ff', '#ffd166', '#8fe3d0', '#ff6b5e'][bit]!)
  label(text, at(438 + bit * 92, 318, 68, 32), 17, cream)
})
label('Wind', at(408, 360, 60, 32), 18, mute)
put('number', 'Wind on Dome', at(466, 358, 150, 36), {
  variable: v('wind_speed'),
  digits: 2,
  font: { typeface: mono, size: 22 },
  colour: cream,
  face: noFace,
})
navigation(dome)

// --- Weather
page = 'page:weather'
head('Heron Hill · Weather')
const tile = (text: string, bound: string, x: number, digits: number) => {
  put('shape', `${text} card`, at(x, 82, 240, 130), { draws: 'face', face: card })
  label(text, at(x + 10, 92, 200, 30), 18, mute)
  return put('number', text, at(x + 10, 128, 220, 68), {
    variable: v(bound),
    digits,
    font: { typeface: mono, size: 38 },
    colour: cream,
    face: plain('#15213c', 0),
  })
}
const wind = tile('Wind', 'wind_speed', 24, 2)
tile('Temperature', 'outside_temp', 280, 2)
tile('Humidity', 'humidity', 536, 3)
put('shape', 'Alarms card', at(24, 230, 370, 166), { draws: 'face', face: card })
label('Alarms of the mast', at(34, 238, 260, 30), 18, mute)
;['Rain', 'Gusts above 14 m/s', 'Dew point near', 'Mains lost'].forEach((text, bit) => {
  lamp(`${text} alarm`, 'weather_flags', bit, 44, 274 + bit * 29, ['#6ab7ff', '#ffd166', '#8fe3d0', '#ff6b5e'][bit]!)
  label(text, at(76, 270 + bit * 29, 300, 30), 18, cream)
})
put('shape', 'Note card', at(410, 230, 366, 70), { draws: 'face', face: card })
label('From the weather desk', at(420, 234, 300, 28), 17, mute)
put('text', 'Site note', at(420, 260, 346, 36), {
  variable: v('site_note'),
  font: { typeface: sans, size: 22 },
  colour: amber,
  empty: '—',
})
label('Wind, the last minute', at(410, 302, 300, 26), 17, mute)
put('trend', 'Wind trend', at(410, 328, 366, 68), {
  traces: [{ variable: v('wind_speed'), colour: '#ffd166' }],
  everyMs: 500,
  samples: 120,
  low: 0,
  high: 16,
  grid: 3,
})
navigation('page:weather')

// --- Setup
page = 'page:setup'
head('Heron Hill · Setup')
const setting = (text: string, bound: string, y: number, by: number, digits: number) => {
  put('shape', `${text} card`, at(24, y, 560, 84), { draws: 'face', face: card })
  label(text, at(34, y + 22, 160, 40), 20, cream)
  put('number', text, at(200, y + 14, 184, 56), {
    variable: bound,
    digits,
    font: { typeface: mono, size: 30 },
    colour: amber,
    align: 'right',
    face: plain('#15213c', 0),
  })
  button(
    `${text} less`,
    '−',
    at(396, y + 10, 82, 64),
    press({ do: 'step', variable: bound, by: -by, atEnd: 'stop' }, 120),
    blue,
    bluePressed,
    32,
  )
  button(
    `${text} more`,
    '+',
    at(488, y + 10, 82, 64),
    press({ do: 'step', variable: bound, by, atEnd: 'stop' }, 120),
    blue,
    bluePressed,
    32,
  )
}
setting('Flat lamp', v('flat_level'), 78, 1, 3)
setting('Backlight', 'variable:own-backlight', 174, 5, 3)
setting('Park at', v('park_time'), 270, 900, 2)
put('shape', 'Build card', at(600, 78, 176, 180), { draws: 'face', face: card })
label('Build', at(610, 90, 150, 28), 17, mute)
put('number', 'Build', at(610, 116, 156, 40), {
  variable: 'variable:own-version',
  digits: 5,
  font: { typeface: mono, size: 24 },
  colour: cream,
  face: noFace,
})
label('Host heard', at(610, 176, 150, 28), 17, mute)
put('indicator', 'Host alive', at(620, 208, 120, 34), {
  variable: 'variable:own-host-alive',
  writes: true,
  font: { typeface: bold, size: 17 },
  states: [
    { when: { by: 'value', value: 1 }, meaning: 'yes', ...pill('#86e08c') },
    { when: { by: 'value', value: 0 }, meaning: 'no', ...pill('#ff8a7a') },
  ],
})
put('shape', 'Flat slider card', at(600, 270, 176, 84), { draws: 'face', face: card })
label('Flat lamp', at(610, 274, 90, 28), 17, mute)
put('entry', 'Typed level', at(700, 273, 70, 30), {
  variable: v('flat_level'),
  keypad: 'page:keypad',
  font: { typeface: mono, size: 15 },
  colour: cream,
})
put('slider', 'Flat slider', at(612, 306, 152, 36), { variable: v('flat_level'), knob: 30 })
navigation('page:setup')

// --- Keypad
const keys = Array.from({ length: keypadSize }, (_, k) => `widget:key-${k}`)
edit('add widgets', { page: 'page:keypad', after: '', widgets: numberKeypad(project.panel, keys) })

// --- the stand-in
edit('set host', { values: { name: 'dome drive' } })
const quantity = (name: string, kind: string, settings: Record<string, unknown>) =>
  edit('add to host', {
    part: 'quantities',
    id: `quantity:${name}`,
    kind,
    after: '',
    settings: { variable: v(name), ...settings },
  })
quantity('dome_azimuth', 'approach', { everyMs: 200, start: 214.6, target: v('dome_target'), perSecond: 2.5, circle: 360 })
quantity('wind_speed', 'walk', { everyMs: 1000, low: 2, high: 14, start: 6.4, step: 0.6 })
quantity('outside_temp', 'walk', { everyMs: 3000, low: -2, high: 9, start: 4.2, step: 0.2 })
quantity('humidity', 'walk', { everyMs: 3000, low: 55, high: 88, start: 71, step: 1 })
quantity('weather_flags', 'constant', { everyMs: 2000, value: 0 })
quantity('shutter_state', 'constant', { everyMs: 1000, value: 0 })
const reaction = (name: string, settings: Record<string, unknown>) =>
  edit('add to host', {
    part: 'reactions',
    id: `reaction:${name}`,
    after: '',
    settings: { on: 'report', variable: v('shutter_order'), compare: 'is', ...settings },
  })
const effects = (...list: [number, number][]) =>
  list.map(([afterMs, value]) => ({ afterMs, variable: v('shutter_state'), value }))
// The host has a clock of its own, and sets the panel's whenever it has started.
reaction('clock', {
  variable: 'variable:own-version',
  compare: 'any',
  effects: [{ afterMs: 20, variable: 'variable:own-clock', value: 77_226 }],
})
reaction('rain', {
  value: 1,
  whenVariable: v('weather_flags'),
  whenCompare: 'has bit',
  whenValue: 0,
  answer: 'refused',
  reason: 'busy',
})
reaction('open', { value: 1, effects: effects([0, 1], [6000, 2]) })
reaction('close', { value: 2, effects: effects([0, 1], [6000, 0]) })
reaction('stop', { value: 0, effects: effects([0, 3]) })
edit('add to host', {
  part: 'outputs',
  id: 'output:relay-open',
  after: '',
  settings: { name: 'shutter motor', whenVariable: v('shutter_state'), whenCompare: 'is', whenValue: 1, activeLow: true },
})
edit('add to host', {
  part: 'outputs',
  id: 'output:flat',
  after: '',
  settings: { name: 'flat lamp', whenVariable: v('flat_level'), whenCompare: 'above', whenValue: 0, activeLow: false },
})

// --- exchanges
let steps = 0
function exchange(name: string, ...list: [string, Record<string, unknown>][]): void {
  const made = `exchange:${name.toLowerCase().replaceAll(/[^a-z]+/g, '-')}`
  edit('add exchange', { id: made, after: '', name, seed: 3 })
  for (const [kind, settings] of list) edit('add step', { exchange: made, id: `step:s${++steps}`, kind, after: '', settings })
}
const report = (name: string, value: string, more: Record<string, unknown> = {}): [string, Record<string, unknown>] => [
  'expect report',
  { variable: v(name), value, withinMs: 300, ...more },
]
const memory = (name: string, value: string, withinMs: number, tolerance = 0): [string, Record<string, unknown>] => [
  'expect memory',
  { variable: v(name), value, withinMs, tolerance },
]

exchange(
  'Open the shutter',
  ['touch', { widget: open }],
  report('shutter_order', 'open'),
  ['expect answer', { from: 'host', answer: 'done', withinMs: 100 }],
  memory('shutter_state', 'moving', 300),
  ['expect shown', { widget: shutter, text: 'open', withinMs: 7000 }],
)
exchange(
  'Refused in rain',
  ['host writes', { variable: v('weather_flags'), value: 'rain' }],
  ['wait', { ms: 200 }],
  ['touch', { widget: open }],
  report('shutter_order', 'open'),
  ['expect answer', { from: 'host', answer: 'refused', reason: 'busy', withinMs: 100 }],
  ['expect nothing', { ms: 1000 }],
  ['expect shown', { widget: shutter, text: 'closed', withinMs: 100 }],
)
exchange(
  'Target stepped and reached',
  ['touch', { widget: plus, times: 4 }],
  report('dome_target', '231.5'),
  report('dome_target', '232.0'),
  report('dome_target', '232.5'),
  report('dome_target', '233.0'),
  memory('dome_azimuth', '233.0', 10_000, 0.1),
  ['touch', { widget: minus }],
  report('dome_target', '232.5'),
)
exchange(
  'A lost report is repeated',
  ['trouble', { what: 'lose frames to the host', count: 1 }],
  ['touch', { widget: close }],
  report('shutter_order', 'close', { attempt: 2, withinMs: 400 }),
  ['expect answer', { from: 'host', answer: 'done', withinMs: 100 }],
)
exchange(
  'Host gone, values stale',
  ['trouble', { what: 'host falls silent', count: 1 }],
  ['expect memory', { variable: 'variable:own-host-alive', value: 'no', withinMs: 4000 }],
  ['touch', { widget: findByName('To Weather') }],
  ['expect page', { page: 'page:weather', withinMs: 100 }],
  ['expect shown', { widget: wind, text: '---', withinMs: 5000 }],
  ['trouble', { what: 'host speaks again', count: 1 }],
  ['expect memory', { variable: 'variable:own-host-alive', value: 'yes', withinMs: 2000 }],
)
exchange(
  'Power cycle and synchronise',
  ['touch', { widget: plus, times: 2 }],
  report('dome_target', '231.5'),
  report('dome_target', '232.0'),
  ['power cycle', { which: 'panel' }],
  ['expect page', { page: dome, withinMs: 100 }],
  memory('dome_target', '232.0', 1500),
  memory('shutter_state', 'closed', 1500),
)

// The file leaves the house.
edit('spend addresses', {})

function findByName(name: string): string {
  return Object.values(project.widgets).find((w) => w.name === name && w.page === dome)!.id
}

const file = process.argv[2] ?? new URL('../packages/server/demo/heron-hill-dome.mothlamp', import.meta.url).pathname
writeFileSync(file, packProject(project, assets))
console.log(`${file}: ${Object.keys(project.widgets).length} widgets, ${project.exchangeOrder.length} exchanges`)
