import { sha256Hex } from '../base/index.ts'
import { noFace } from '../faces/index.ts'
import { pictureSettings, usersOf } from '../project/index.ts'
import { lampLines } from '../protocols/index.ts'
import { does } from './actions.ts'
import { demo, dome, widgetNamed } from './demo.ts'
import { pictureSet } from './pictures.ts'

const { project, assets } = demo

export const button = (name: string) => widgetNamed(project, name).id
const textOf = (name: string, text: string) => ({ ids: [button(name)], values: { text } })

/** For each finding: an edit of the demo that brings exactly that one, and where. */
const pictureFiles = await pictureSet()
const moon = pictureFiles.find((one) => one.name === 'PNG, 8 bits, alpha')!
const sun = pictureFiles.find((one) => one.name === 'PNG, 8 bits, red green blue')!.bytes
const sunSha = sha256Hex(sun)
const moonSha = sha256Hex(moon.bytes)
export const andMoon = new Map([...assets, [moonSha, moon.bytes], [sunSha, sun]])
/** A picture, and a place where it is shown. */
const aPicture = (values: object): [string, unknown][] => {
  const { width, height } = moon.pixels
  const original = {
    id: 'picture:moon',
    name: 'moon',
    file: 'moon.png',
    format: 'png',
    asset: moonSha,
    fromWidth: width,
    fromHeight: height,
  }
  return [
    [
      'add pictures',
      { pictures: [{ ...pictureSettings.defaults, width, height, way: 'exact', ...original, ...values }], after: '' },
    ],
    ['set page', { id: 'page:weather', values: { background: { ...noFace, fill: 'colour:ground', picture: 'picture:moon' } } }],
  ]
}

/** Another picture beside the moon, of another file. */
const andSun = (values: object = {}): [string, unknown][] => [
  ...aPicture({}),
  ['add pictures', { pictures: [{ ...aMoonRecord(), id: 'picture:sun', name: 'sun', asset: sunSha, ...values }], after: '' }],
]
const aMoonRecord = () => (aPicture({})[0]![1] as { pictures: [object] }).pictures[0]
const showing = (picture: string) => ({ ...noFace, picture: `picture:${picture}` })
const lamp = widgetNamed(project, 'Shutter state')
const lampStates = (...pictures: string[]) => ({
  ids: [lamp.id],
  values: {
    states: (lamp.settings['states'] as { face: object }[]).map((state, k) => ({
      ...state,
      ...(pictures[k] ? { face: showing(pictures[k]) } : {}),
    })),
  },
})

/** A command whose fields are some bytes. */
const aCommand = (values: object, bytes: readonly number[] = [1, 2]): [string, unknown] => [
  'add command',
  { id: 'command:go', after: '', name: 'go', values: { fields: [{ field: 'constant', bytes }], ...values } },
]

export const mutations: Record<string, { edits: [string, unknown][]; at: string; fixed: boolean }> = {
  overlap: {
    edits: [
      ['set variable', { id: 'variable:humidity', values: { address: 0x32 } }],
      ['release address', { key: 'variable:humidity@51' }],
    ],
    at: 'variable:humidity',
    fixed: true,
  },
  retired: {
    edits: [
      ['add variable', { id: 'variable:old', name: 'old', values: { address: 0x70 } }],
      ['spend addresses', {}],
      ['delete variable', { id: 'variable:old' }],
      ['set variable', { id: 'variable:humidity', values: { address: 0x70 } }],
    ],
    at: 'variable:humidity',
    fixed: true,
  },
  'own-words': {
    edits: [['set variable', { id: 'variable:humidity', values: { address: 0xff04 } }]],
    at: 'variable:humidity',
    fixed: true,
  },
  'no-memory': {
    edits: [['set variable', { id: 'variable:humidity', values: { address: 0x02 } }]],
    at: 'variable:humidity',
    fixed: true,
  },
  'range-beyond-type': {
    edits: [
      [
        'set variable',
        {
          id: 'variable:humidity',
          values: { holds: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '%', min: -5, max: 100 } },
        },
      ],
    ],
    at: 'variable:humidity',
    fixed: true,
  },
  unused: { edits: [['add variable', { id: 'variable:spare', name: 'spare' }]], at: 'variable:spare', fixed: true },
  'same-wire-name': {
    edits: [
      ['set layout', { values: { toPanel: lampLines.toPanel } }],
      ['set variable', { id: 'variable:humidity', values: { wireName: 'wind_speed' } }],
    ],
    at: 'variable:humidity',
    fixed: false,
  },
  'same-name': {
    edits: [['set variable', { id: 'variable:humidity', values: { name: 'wind_speed' } }]],
    at: 'variable:humidity',
    fixed: true,
  },
  outside: {
    edits: [['place widgets', { places: { [button('Rule under the title')]: { x: 100, y: 60, width: 752, height: 2 } } }]],
    at: button('Rule under the title'),
    fixed: true,
  },
  'touch-overlap': {
    edits: [['place widgets', { places: { [button('Stop shutter')]: { x: 670, y: 180, width: 84, height: 70 } } }]],
    at: button('Stop shutter'),
    fixed: false,
  },
  'no-variable': {
    edits: [['set widgets', { ids: [button('Azimuth')], values: { variable: '' } }]],
    at: button('Azimuth'),
    fixed: true,
  },
  'not-reported': {
    edits: [['set variable', { id: 'variable:shutter_order', values: { travels: 'host to panel' } }]],
    at: button('Open shutter'),
    fixed: true,
  },
  'text-wide': {
    edits: [['set widgets', textOf('Open shutter', 'Open the shutter now')]],
    at: button('Open shutter'),
    fixed: true,
  },
  'text-tall': {
    edits: [['place widgets', { places: { [button('“Dome”')]: { x: 164, y: 12, width: 200, height: 16 } } }]],
    at: button('“Dome”'),
    fixed: true,
  },
  'text-small': {
    edits: [['set widgets', { ids: [button('“Rain”')], values: { font: { typeface: 'typeface:next', size: 9 } } }]],
    at: button('“Rain”'),
    fixed: true,
  },
  'part-small': {
    edits: [
      [
        'add widgets',
        {
          page: project.startPage,
          after: '',
          widgets: [
            {
              id: 'widget:steps',
              kind: 'digits',
              name: 'Steps',
              place: { x: 560, y: 10, width: 220, height: 60 },
              settings: { variable: 'variable:dome_target' },
            },
          ],
        },
      ],
    ],
    at: 'widget:steps',
    fixed: true,
  },
  'target-small': {
    edits: [['place widgets', { places: { [button('Stop shutter')]: { x: 700, y: 190, width: 60, height: 30 } } }]],
    at: button('Stop shutter'),
    fixed: true,
  },
  contrast: {
    edits: [['set widgets', { ids: [button('“Rain”')], values: { colour: 'colour:off' } }]],
    at: button('“Rain”'),
    fixed: true,
  },
  absent: {
    edits: [['set panel', { values: { hasClock: false } }]],
    at: usersOf(project, 'variable:own-clock')[0]!.from,
    fixed: false,
  },
  dark: {
    edits: [
      [
        'set widgets',
        {
          ids: [button('Backlight less')],
          values: { rules: [does('pressed', 'set', { variable: 'variable:own-backlight', to: 2 })] },
        },
      ],
    ],
    at: button('Backlight less'),
    fixed: false,
  },
  'keypad-lacks': {
    edits: [['delete widgets', { ids: [button('Key .')] }]],
    at: usersOf(project, 'page:keypad')[0]!.from,
    fixed: false,
  },
  'whole-word': {
    edits: [
      [
        'set widgets',
        {
          ids: [button('Stop shutter')],
          values: { rules: [does('pressed', 'set', { variable: 'variable:alarms_seen', to: 0 })] },
        },
      ],
    ],
    at: button('Stop shutter'),
    fixed: true,
  },
  'quantity-twice': {
    edits: [
      [
        'add to host',
        { part: 'quantities', id: 'quantity:twice', kind: 'constant', after: '', settings: { variable: 'variable:humidity' } },
      ],
    ],
    at: 'variable:humidity',
    fixed: true,
  },
  unfit: {
    edits: [
      [
        'add variable',
        {
          id: 'variable:odd',
          name: 'odd',
          values: { holds: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 9 }, travels: 'both' },
        },
      ],
      ['set widgets', { ids: [button('Stop shutter')], values: { shows: 'variable:odd' } }],
      ['set variable', { id: 'variable:odd', values: { holds: { type: 'colour' } } }],
    ],
    at: button('Stop shutter'),
    fixed: false,
  },
  'none-in-range': {
    edits: [
      [
        'set variable',
        {
          id: 'variable:humidity',
          values: {
            holds: {
              type: 'u16',
              factor: 1,
              offset: 0,
              decimals: 0,
              unit: '%',
              min: 0,
              max: 100,
              none: { raw: 50, word: 'open' },
            },
          },
        },
      ],
    ],
    at: 'variable:humidity',
    fixed: false,
  },
  'unit-unscaled': {
    edits: [
      [
        'set variable',
        {
          id: 'variable:humidity',
          values: { holds: { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '%', min: 0, max: 255 } },
        },
      ],
    ],
    at: 'variable:humidity',
    fixed: false,
  },
  'page-kind': {
    edits: [
      ['add page', { id: 'page:over', after: '', name: 'Over', kind: 'layer' }],
      [
        'set widgets',
        {
          ids: [widgetNamed(project, 'Open shutter').id],
          values: { rules: [does('pressed', 'open pop-up', { popUp: 'page:over' })] },
        },
      ],
    ],
    at: widgetNamed(project, 'Open shutter').id,
    fixed: false,
  },
  'state-or-action': {
    edits: [
      [
        'set widgets',
        {
          ids: [button('Backlight less')],
          values: {
            shows: 'variable:shutter_order',
            states: ['Halted', 'Ajar', 'Close'].map((meaning, value) => ({
              when: { by: 'value', value },
              meaning,
              face: project.widgets[button('Backlight less')]!.settings['face'],
              textColour: 'colour:ink',
            })),
          },
        },
      ],
    ],
    at: button('Close shutter'),
    fixed: false,
  },
  'layout-advice': {
    edits: [
      [
        'set layout',
        {
          values: {
            'toPanel/forms': project.layout.toPanel.forms.map((f) => (f.operation === 'report' ? { ...f, code: 4 } : f)),
          },
        },
      ],
    ],
    at: '',
    fixed: false,
  },
  kind: {
    edits: [
      [
        'add widgets',
        {
          page: dome,
          after: '',
          widgets: [
            {
              id: 'widget:trend',
              kind: 'trend',
              place: { x: 560, y: 440, width: 60, height: 30 },
              settings: { traces: [{ variable: 'variable:wind_speed', colour: '#ffffff' }], low: 9, high: 3 },
            },
          ],
        },
      ],
    ],
    at: 'widget:trend',
    fixed: false,
  },
  chunk: {
    edits: [
      ['add typeface', { id: 'typeface:lost', name: 'Lost', asset: 'f'.repeat(64) }],
      ['set widgets', { ids: [button('Open shutter')], values: { font: { typeface: 'typeface:lost', size: 20 } } }],
    ],
    at: 'typeface:lost',
    fixed: false,
  },
  glyph: { edits: [['set widgets', textOf('Open shutter', 'Öffnen Ж')]], at: button('Open shutter'), fixed: false },
  // A page that cannot be left: an empty one, reached from the first.
  'dead-end': {
    edits: [
      ['add page', { id: 'page:end', after: '', name: 'End' }],
      [
        'set widgets',
        {
          ids: [button('Stop shutter')],
          values: { rules: [does('pressed', 'go to page', { page: 'page:end' })] },
        },
      ],
    ],
    at: 'page:end',
    fixed: true,
  },
  unreachable: {
    edits: [
      ['add page', { id: 'page:lost', after: '', name: 'Lost' }],
      [
        'add widgets',
        {
          page: 'page:lost',
          after: '',
          widgets: [
            {
              id: 'widget:x',
              kind: 'button',
              place: { x: 0, y: 0, width: 90, height: 60 },
              settings: { rules: [does('pressed', 'go to page', { page: dome })] },
            },
          ],
        },
      ],
    ],
    at: 'page:lost',
    fixed: false,
  },
  backlight: {
    edits: [
      [
        'set widgets',
        {
          ids: [button('Backlight less')],
          values: { rules: [does('pressed', 'set', { variable: 'variable:own-backlight', to: 0 })] },
        },
      ],
    ],
    at: button('Backlight less'),
    fixed: true,
  },
  mistyped: {
    edits: [
      [
        'set widgets',
        {
          ids: [button('Stop shutter')],
          values: {
            rules: [does('pressed', 'set', { variable: 'variable:shutter_order', to: { follows: 'variable:site_note' } })],
          },
        },
      ],
    ],
    at: button('Stop shutter'),
    fixed: false,
  },
  layout: { edits: [['set layout', { values: { 'toPanel/head': [] } }]], at: '', fixed: true },
  'artwork-full': { edits: [...aPicture({}), ['set panel', { values: { artworkKiB: 0 } }]], at: '', fixed: false },
  'states-alike': { edits: [...aPicture({}), ['set widgets', lampStates('moon', 'moon')]], at: lamp.id, fixed: false },
  'states-sizes': {
    edits: [...andSun({ width: 20 }), ['set widgets', lampStates('moon', 'sun')]],
    at: lamp.id,
    fixed: false,
  },
  'pair-crossed': {
    edits: [
      ...andSun(),
      [
        'set widgets',
        { ids: [button('Target less'), button('Target more')], values: { face: showing('moon'), pressedFace: showing('sun') } },
      ],
      ['set widgets', { ids: [button('Stop shutter')], values: { face: showing('sun'), pressedFace: showing('moon') } }],
    ],
    at: button('Stop shutter'),
    fixed: true,
  },
  'knob-odd': {
    edits: [
      ...andSun({ height: 12 }),
      [
        'set widgets',
        { ids: [widgetNamed(project, 'Flat slider').id], values: { face: showing('moon'), track: showing('sun') } },
      ],
    ],
    at: widgetNamed(project, 'Flat slider').id,
    fixed: false,
  },
  'picture-margin': {
    edits: [
      ...aPicture({ width: 41, height: 33, way: 'exact' }),
      ['set widgets', { ids: [button('Stop shutter')], values: { face: showing('moon') } }],
    ],
    at: 'picture:moon',
    fixed: true,
  },
  'picture-glass': { edits: aPicture({ width: 21, height: 481, way: 'inside', trims: true }), at: 'picture:moon', fixed: true },
  'picture-unused': { edits: aPicture({}).slice(0, 1), at: 'picture:moon', fixed: true },
  'picture-enlarged': { edits: aPicture({ width: 210, height: 130, way: 'inside' }), at: 'picture:moon', fixed: false },
  'picture-stretched': { edits: aPicture({ width: 21, height: 11, way: 'stretch' }), at: 'picture:moon', fixed: true },
  'picture-runs': {
    edits: [...aPicture({ kept: 'runs' }), ['set panel', { values: { readsRuns: false } }]],
    at: 'picture:moon',
    fixed: true,
  },
  'typeface-licence': {
    edits: [
      [
        'add typeface',
        { id: 'typeface:shut', name: 'Shut', asset: Object.values(project.typefaces)[0]!.asset, embedding: 'restricted' },
      ],
    ],
    at: 'typeface:shut',
    fixed: false,
  },
  writing: {
    edits: [
      [
        'set variable',
        { id: 'variable:site_note', values: { holds: { type: 'text', bytes: 24, encoding: 'utf-8', letters: 'ab שלום' } } },
      ],
    ],
    at: 'variable:site_note',
    fixed: false,
  },
  'command-unsaid': { edits: [aCommand({ frame: 'layout', code: 99 })], at: 'command:go', fixed: false },
  'command-misread': {
    edits: [
      aCommand({ frame: 'bare' }, [15, 2]),
      [
        'add command',
        { id: 'command:as', after: null, name: 'as', values: { frame: 'bare', fields: [{ field: 'constant', bytes: [15, 2] }] } },
      ],
    ],
    at: 'command:go',
    fixed: false,
  },
  'command-takes': {
    edits: [aCommand({ frame: 'bare', fields: [{ field: 'constant', bytes: [0x51] }, { field: 'text' }] })],
    at: 'command:go',
    fixed: false,
  },
  'command-answer': { edits: [aCommand({ answer: 'command' })], at: 'command:go', fixed: false },
  'command-values': {
    edits: [
      aCommand({}),
      ['add to host', { part: 'sendings', id: 'sending:go', after: '', settings: { command: 'command:go', values: '1' } }],
    ],
    at: 'command:go',
    fixed: false,
  },
  'command-other-way': {
    edits: [
      aCommand({}),
      [
        'set widgets',
        {
          ids: [button('Stop shutter')],
          values: {
            rules: [{ on: { moment: 'pressed' }, lines: [{ action: 'send command', with: { command: 'command:go' } }] }],
          },
        },
      ],
    ],
    at: button('Stop shutter'),
    fixed: true,
  },
  'picture-blends': {
    edits: [...aPicture({ keepsAlpha: true }), ['set panel', { values: { blends: false } }]],
    at: 'picture:moon',
    fixed: true,
  },
}
