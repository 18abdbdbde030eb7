// Draws the demo project, Heron Hill dome, by the edits anyone makes, and packs it as a project file:
//   npx tsx scripts/heron-hill.ts [FILE]
import { writeFileSync } from 'node:fs'
import { sha256Hex, type Rect } from '@moth-lamp/core/base'
import { noFace, type Face } from '@moth-lamp/core/faces'
import {
  freshProject,
  keypadPages,
  pictureSettings,
  plainPanel,
  packProject,
  passGate,
  type Project,
} from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { bundledFonts } from '../packages/server/src/fonts.ts'
import { hillAtDusk } from './heron-artwork.ts'

const { typefaces, assets } = bundledFonts()
const sans = 'typeface:next'
const bold = 'typeface:next-bold'
const mono = 'typeface:mono'

const plain = (fill: string, radius = 8): Face => ({ ...noFace, fill, radius })
const card: Face = { ...noFace, fill: 'colour:surface', border: 'colour:line', borderWidth: 1, radius: 10 }
const toned = (tone: string) => ({
  face: { ...noFace, fill: `colour:${tone} tint`, border: `colour:${tone}`, borderWidth: 1, radius: 8 },
  sillColour: `colour:${tone}`,
})

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

variable('alarms_seen', 0x34, {
  holds: { type: 'flags', names: ['rain', 'wind', 'dew', 'mains_lost'] },
  travels: 'both',
  meaning: 'alarms that somebody has seen',
})

// --- colours, type, conduct
edit('set looks', { looks: 'both' })
for (const [id, size] of [
  ['title', 26],
  ['value', 27],
  ['caption', 17],
  ['button', 19],
] as const)
  edit('set style', { id: `style:${id}`, values: { size } })
edit('set conduct', { values: { dimAfterS: 300, dimTo: 25 } })

const [dome] = project.pageOrder as [string]
edit('set page', { id: dome, values: { name: 'Dome' } })
edit('add page', { id: 'page:weather', after: dome, name: 'Weather' })
edit('add page', { id: 'page:setup', after: 'page:weather', name: 'Setup' })
edit('add page', { id: 'page:keypad', after: 'page:setup', name: 'Number keypad', kind: 'keypad' })
edit('add page', { id: 'page:frame', after: 'page:keypad', name: 'Frame', kind: 'layer' })
edit('add page', { id: 'page:splash', after: 'page:frame', name: 'Splash' })
for (const id of [dome, 'page:weather', 'page:setup']) edit('set page', { id, values: { layer: 'page:frame' } })
edit('set page', {
  id: dome,
  values: { note: 'What an observer needs at night: where the slit points, where it is to go, the shutter.' },
})
edit('set page', {
  id: 'page:frame',
  values: { note: 'What every page has: the name, the time, the way to the others. Edited once.' },
})

let page = dome
let id = 0
function put(kind: string, name: string, place: Rect, settings: Record<string, unknown> = {}): string {
  const made = `widget:${name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}-${++id}`
  const { settings: fresh = {} } = widgetKind(kind)!.fresh?.() ?? {}
  edit('add widgets', { page, after: '', widgets: [{ id: made, kind, name, place, settings: { ...fresh, ...settings } }] })
  return made
}
const label = (text: string, place: Rect, more: Record<string, unknown> = {}) =>
  put('label', `“${text}”`, place, { text, ...more })
const muted = { colour: 'colour:muted' }
const press = (action: string, values: Record<string, unknown>, everyMs = 0, faster = false) => [
  { on: { moment: 'pressed', everyMs, ...(faster ? { faster } : {}) }, lines: [{ action, with: values }] },
]

// --- what every page has
page = 'page:frame'
label('Heron Hill', at(18, 12, 160, 42), { font: 'style:title' })
put('clock', 'Clock', at(622, 14, 156, 40), { align: 'right' })
put('shape', 'Rule under the title', at(24, 60, 752, 2), { draws: 'face', face: plain('colour:off', 0) })
const pagesTabs = put('tabs', 'Pages', at(424, 412, 352, 52), {
  tabs: [
    { text: 'Dome', page: dome },
    { text: 'Weather', page: 'page:weather' },
    { text: 'Setup', page: 'page:setup' },
  ],
})
const title = (text: string) => label(text, at(164, 12, 200, 42), { ...muted, font: { typeface: sans, size: 26 } })

// --- Dome
page = dome
title('Dome')
const dial = at(24, 84, 376, 376)
const inside = (by: number): Rect => at(dial.x + by, dial.y + by, dial.width - 2 * by, dial.height - 2 * by)
const disc = (fill: string): Face => ({ ...noFace, shape: 'ellipse', fill, border: 'colour:line', borderWidth: 2 })
put('shape', 'Dial', inside(54), { draws: 'face', face: disc('colour:surface') })
put('shape', 'Hub', inside(110), { draws: 'face', face: disc('colour:ground') })
put('gauge', 'Azimuth', dial, {
  variable: v('dome_azimuth'),
  marker: v('dome_target'),
  pointer: 'slit',
  pointerWidth: 38,
  pointerColour: 'colour:warning',
  band: 54,
  pointerInset: 55,
  ends: 'its own',
  from: 0,
  to: 360,
  start: 0,
  sweep: 360,
  ticks: 72,
  labelled: 12,
  labels: 'N, 30, 60, E, 120, 150, S, 210, 240, W, 300, 330',
  caption: 'azimuth',
  font: { typeface: mono, size: 33 },
})

label('Target azimuth', at(418, 74, 190, 30), muted)
put('entry', 'Target', at(424, 104, 200, 60), {
  variable: v('dome_target'),
  keypad: 'page:keypad',
  asksFor: 'Target azimuth',
  font: { typeface: mono, size: 30 },
})
const big = { font: { typeface: bold, size: 26 } }
const step = (by: number) => press('step', { variable: v('dome_target'), by, atEnd: 'wrap' }, 150, true)
const minus = put('button', 'Target less', at(636, 104, 64, 60), { text: '−', rules: step(-0.5), ...big })
const plus = put('button', 'Target more', at(712, 104, 64, 60), { text: '+', rules: step(0.5), ...big })

const order = (to: number) => press('set', { variable: v('shutter_order'), to })
const leadsTo = (value: number, reaches: number) => ({
  variable: v('shutter_order'),
  value,
  shows: v('shutter_state'),
  reaches,
  failAfterMs: 9000,
  failedText: 'No answer',
})
const open = put('button', 'Open shutter', at(424, 180, 164, 66), {
  text: 'Open shutter',
  rules: order(1),
  pendingText: 'Opening',
  ...leadsTo(1, 2),
})
const close = put('button', 'Close shutter', at(600, 180, 84, 66), {
  text: 'Close',
  rules: order(2),
  ...leadsTo(2, 0),
  failedText: '',
})
put('button', 'Stop shutter', at(696, 180, 80, 66), { text: 'Stop', rules: order(0), ...toned('bad') })

label('Shutter', at(418, 258, 90, 36), muted)
const pill = (fill: string, textColour = 'colour:ground'): { face: Face; textColour: string } => ({
  face: plain(fill, 16),
  textColour,
})
const shutter = put('indicator', 'Shutter state', at(524, 260, 120, 32), {
  variable: v('shutter_state'),
  writes: true,
  font: { typeface: bold, size: 17 },
  states: [
    { when: { by: 'value', value: 0 }, meaning: 'closed', ...pill('colour:off', 'colour:ink') },
    { when: { by: 'value', value: 1 }, meaning: 'moving', ...pill('colour:warning') },
    { when: { by: 'value', value: 2 }, meaning: 'open', ...pill('colour:good') },
    { when: { by: 'value', value: 3 }, meaning: 'stopped', ...pill('colour:muted') },
  ],
  otherwise: plain('colour:off', 16),
})
const windZones = [
  { from: 0, to: 10, colour: 'colour:good' },
  { from: 10, to: 14, colour: 'colour:warning' },
  { from: 14, to: 60, colour: 'colour:bad' },
]
label('Wind', at(418, 302, 90, 40), muted)
put('bar', 'Wind bar', at(524, 308, 122, 30), {
  variable: v('wind_speed'),
  ends: 'its own',
  from: 0,
  to: 20,
  zones: windZones.map((zone) => ({ ...zone, to: Math.min(20, zone.to) })),
})
put('number', 'Wind on Dome', at(650, 302, 130, 40), {
  variable: v('wind_speed'),
  digits: 2,
  align: 'right',
  font: { typeface: mono, size: 22 },
  zones: windZones.slice(1),
})
const lampStates = (bit: number, tone: string) => {
  const round = (fill: string, border: string, borderWidth: number): Face => ({
    ...noFace,
    shape: 'ellipse',
    fill,
    border,
    borderWidth,
  })
  return [
    {
      when: { by: 'bit', bit, set: true },
      meaning: 'on',
      face: round(`colour:${tone}`, `colour:${tone} tint`, 4),
      textColour: 'colour:ink',
    },
    {
      when: { by: 'bit', bit, set: false },
      meaning: 'off',
      face: round('colour:off', 'colour:line', 2),
      textColour: 'colour:ink',
    },
  ]
}
;['Rain', 'Wind', 'Dew', 'Mains'].forEach((text, bit) => {
  put('indicator', `${text} lamp`, at(424 + bit * 90, 362, 24, 24), {
    variable: v('weather_flags'),
    states: lampStates(bit, ['bad', 'warning', 'warning', 'bad'][bit]!),
  })
  label(text, at(446 + bit * 90, 358, 68, 32))
})

// --- Weather
page = 'page:weather'
title('Weather')
const reading = (text: string, bound: string, x: number, width: number, digits: number, more: Record<string, unknown> = {}) => {
  label(text, at(x, 72, width, 28), muted)
  return put('number', text, at(x, 98, width, 44), { variable: v(bound), digits, ...more })
}
const wind = reading('Wind', 'wind_speed', 18, 190, 2, { zones: windZones.slice(1) })
reading('Temperature', 'outside_temp', 222, 180, 2)
reading('Humidity', 'humidity', 414, 150, 3)
label('From the weather desk', at(570, 72, 206, 28), muted)
put('text', 'Site note', at(570, 98, 206, 44), {
  variable: v('site_note'),
  colour: 'colour:accent',
  empty: '—',
})
label('Wind, the last ten minutes', at(18, 152, 300, 28), muted)
put('trend', 'Wind trend', at(24, 182, 380, 282), {
  traces: [{ variable: v('wind_speed') }],
  everyMs: 5000,
  samples: 120,
  ends: 'its own',
  low: 0,
  high: 20,
  grid: 3,
  gridUpright: 4,
  zones: windZones.slice(1).map((zone) => ({ ...zone, to: Math.min(20, zone.to) })),
})
label('Alarms', at(418, 152, 200, 28), muted)
put('alarms', 'Alarms', at(424, 182, 352, 214), {
  alarms: [
    { text: 'Rain on the dome', variable: v('weather_flags'), bit: 0, weight: 'heavy' },
    { text: 'Gusts above 14 m/s', variable: v('weather_flags'), bit: 1, weight: 'middle' },
    { text: 'Dew point near', variable: v('weather_flags'), bit: 2, weight: 'light' },
    { text: 'Mains lost', variable: v('weather_flags'), bit: 3, weight: 'heavy' },
  ],
  order: 'heaviest first',
  seenIn: v('alarms_seen'),
  none: 'Nothing to see to',
  rowHeight: 34,
})

// --- Setup
page = 'page:setup'
title('Setup')
const row = (text: string, y: number, height = 78) => {
  put('shape', `${text} card`, at(24, y, 560, height), { draws: 'face', face: card })
  label(text, at(34, y + Math.floor(height / 2) - 20, 150, 40))
}
row('Flat lamp', 78)
put('slider', 'Flat slider', at(190, 98, 230, 38), { variable: v('flat_level') })
put('entry', 'Typed level', at(434, 92, 136, 50), {
  variable: v('flat_level'),
  keypad: 'page:keypad',
  asksFor: 'Flat lamp',
  font: { typeface: mono, size: 22 },
})
const setting = (text: string, bound: string, y: number, by: number, digits: number) => {
  row(text, y)
  put('number', text, at(200, y + 14, 184, 50), { variable: bound, digits, align: 'right' })
  for (const [name, sign, x] of [
    [`${text} less`, '−', 396],
    [`${text} more`, '+', 488],
  ] as const)
    put('button', name, at(x, y + 10, 82, 58), {
      text: sign,
      rules: press('step', { variable: bound, by: sign === '+' ? by : -by, atEnd: 'stop' }, 120, true),
      ...big,
    })
}
setting('Backlight', 'variable:own-backlight', 168, 5, 3)
setting('Park at', v('park_time'), 258, 900, 2)
put('shape', 'Colours card', at(600, 78, 176, 88), { draws: 'face', face: card })
label('Colours', at(610, 80, 150, 30), muted)
put('tabs', 'Colours', at(612, 112, 152, 44), {
  of: 'the words of its variable',
  variable: 'variable:own-look',
  font: { typeface: bold, size: 16 },
})
put('shape', 'Build card', at(600, 178, 176, 158), { draws: 'face', face: card })
label('Build', at(610, 182, 150, 28), muted)
put('number', 'Build', at(610, 208, 156, 40), { variable: 'variable:own-version', digits: 5 })
label('Host heard', at(610, 256, 150, 28), muted)
put('indicator', 'Host alive', at(616, 290, 120, 32), {
  variable: 'variable:own-host-alive',
  writes: true,
  font: { typeface: bold, size: 17 },
  states: [
    { when: { by: 'value', value: 1 }, meaning: 'yes', ...pill('colour:good') },
    { when: { by: 'value', value: 0 }, meaning: 'no', ...pill('colour:bad') },
  ],
})

// --- Splash
page = 'page:splash'
const dusk = hillAtDusk()
const duskAsset = sha256Hex(dusk)
edit('add pictures', {
  pictures: [
    {
      ...pictureSettings.defaults,
      id: 'picture:hill-dusk',
      name: 'hill at dusk',
      file: 'hill-at-dusk.png',
      format: 'png',
      asset: duskAsset,
      fromWidth: 800,
      fromHeight: 480,
      width: 800,
      height: 480,
      way: 'exact',
      dither: 'spread',
    },
  ],
  after: '',
})
edit('set page', {
  id: page,
  values: {
    showsForMs: 900,
    thenPage: dome,
    skips: true,
    background: { ...noFace, fill: '#16162c', picture: 'picture:hill-dusk' },
  },
})
const light = { align: 'centre', colour: '#f7ebd6' }
label('Heron Hill', at(240, 380, 320, 52), { ...light, font: { typeface: bold, size: 40 } })
label('dome remote', at(240, 430, 320, 34), light)
edit('set start page', { id: 'page:splash' })

// --- Keypad
let keys = 0
for (const { id, widgets } of keypadPages('decimal', project.panel, (of) =>
  of === 'page' ? 'page:keypad' : `widget:key-${keys++}`,
))
  edit('add widgets', { page: id, after: '', widgets })

// --- the simulated host
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
  // Its middle is the second of the three tabs.
  ['touch', { widget: pagesTabs }],
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
  ['expect page', { page: dome, withinMs: 1200 }],
  memory('dome_target', '232.0', 1500),
  memory('shutter_state', 'closed', 1500),
)

// The file leaves the house.
edit('spend addresses', {})

const file = process.argv[2] ?? new URL('../packages/server/demo/heron-hill-dome.mothlamp', import.meta.url).pathname
writeFileSync(file, packProject(project, new Map([...assets, [duskAsset, dusk]])))
console.log(`${file}: ${Object.keys(project.widgets).length} widgets, ${project.exchangeOrder.length} exchanges`)
