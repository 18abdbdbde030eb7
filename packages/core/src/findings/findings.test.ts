import { describe, expect, test } from 'vitest'
import { sha256Hex } from '../base/index.ts'
import { leastTargetMm, pictureSettings, usersOf, type Project } from '../project/index.ts'
import { noFace } from '../faces/index.ts'
import { does } from '../testing/actions.ts'
import { demo, dome, edited, widgetNamed } from '../testing/demo.ts'

import { testAssets } from '../testing/fonts.ts'
import { Job, tenths, whole } from '../testing/job.ts'
import type { Holds } from '../variables/index.ts'
import { oneMoreCheck, oneMoreKind } from '../testing/one-more.ts'
import { pictureSet } from '../testing/pictures.ts'
import { Workbench } from '../workbench/index.ts'
import { checkProject, findingSentences, findingWords, Viewer, type Finding } from './index.ts'

const { project, assets } = demo

const button = (name: string) => widgetNamed(project, name).id
const textOf = (name: string, text: string) => ({ ids: [button(name)], values: { text } })

/** For each finding: an edit of the demo that brings exactly that one, and where. */
const pictureFiles = await pictureSet()
const moon = pictureFiles.find((one) => one.name === 'PNG, 8 bits, alpha')!
const sun = pictureFiles.find((one) => one.name === 'PNG, 8 bits, red green blue')!.bytes
const sunSha = sha256Hex(sun)
const moonSha = sha256Hex(moon.bytes)
const andMoon = new Map([...assets, [moonSha, moon.bytes], [sunSha, sun]])
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

const mutations: Record<string, { edits: [string, unknown][]; at: string; fixed: boolean }> = {
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
  'picture-blends': {
    edits: [...aPicture({ keepsAlpha: true }), ['set panel', { values: { blends: false } }]],
    at: 'picture:moon',
    fixed: true,
  },
}

describe('findings of the demo', () => {
  test('each has a mutation here', () => expect(Object.keys(mutations).sort()).toEqual(Object.keys(findingSentences).sort()))
  test('one of another needs its check and its words: it is found, said and mended', () => {
    const gone = [oneMoreKind(), oneMoreCheck()]
    const place = { x: 0, y: 400, width: 9, height: 60 }
    const settings = { shows: 'variable:humidity' }
    const widgets = [{ id: 'widget:stripe', kind: 'stripe', name: 'thick', place, settings }]
    const thick = edited(project, 'add widgets', { page: dome, after: '', widgets })
    const [found, ...others] = new Workbench(thick, assets).findings()
    const mended = edited(thick, found!.fix!.edit, found!.fix!.args)
    expect([findingWords(found!), others]).toEqual(['“thick” is thicker than 50 px.', []])
    expect(new Workbench(mended, assets).findings()).toEqual([])
    for (const remove of gone) remove()
    expect(new Workbench(project, assets).findings()).toEqual([])
  })
  const codes = (findings: Finding[]) => [...new Set(findings.map((f) => f.code))]
  test.each(Object.entries(mutations))(
    '%s is found alone, at its place, and its fix gives zero again',
    (code, { edits, at, fixed }) => {
      const bench = new Workbench(project, andMoon)
      bench.take(edits.reduce((p, [edit, args]) => edited(p, edit, args), project))
      expect(codes(bench.findings())).toEqual([code])
      expect(bench.findings()[0]!.at).toBe(at)
      const fixes = () => bench.findings().filter((f) => f.fix)
      expect(fixes().length > 0).toBe(fixed)
      for (let round = 0; round < 6 && fixes().length; round++)
        bench.take(edited(bench.project, fixes()[0]!.fix!.edit, fixes()[0]!.fix!.args))
      if (fixed) expect(bench.findings()).toEqual([])
    },
  )
})

test('what a kind finds wrong with its settings says so in its name, and its mend is an edit', () => {
  const wrong = edited(project, 'set widgets', { ids: [button('Wind')], values: { digits: 1 } })
  const [found, ...others] = new Workbench(wrong, assets).findings()
  expect([findingWords(found!), others]).toEqual(['“Wind”: it shows 1 digits before the point; its range needs 2.', []])
  expect(new Workbench(edited(wrong, found!.fix!.edit, found!.fix!.args), assets).findings()).toEqual([])
})

test('a text that is too wide is given room where there is some, smaller letters only where there is none', () => {
  const cut = (name: string, text: string) => edited(project, 'set widgets', { ids: [button(name)], values: { text } })
  const fix = (p: Project) => new Workbench(p, assets).findings().find((f) => f.code === 'text-wide')!.fix!
  expect(fix(cut('“Dome”', 'Dome of the observatory 2')).edit).toBe('place widgets')
  expect(fix(cut('Close shutter', 'Close it all now')).edit).toBe('set widgets')
})

/** What is found in a project by the checks alone, nothing compiled: code and place. */
const viewer = new Viewer(testAssets)
const found = (project: Project): Finding[] => checkProject(viewer.view(project))
const said = (job: Job): string[] => found(job.project).map(({ code, at }) => `${code} ${at}`)

describe('checks by themselves, on a project of their own', () => {
  test('where there is nothing, nothing is found', () => expect(said(new Job())).toEqual([]))

  test('words are too wide from the first pixel that they lack, and the room that is offered is just enough', () => {
    const label = (width: number) =>
      new Job().widget('label', 'words', [10, 10, width, 40], { text: 'Wind from the west', colour: '#ffffff' })
    const isCut = (width: number) => said(label(width)).some((one) => one.startsWith('text-wide'))
    let width = 20
    while (isCut(width)) width++
    expect(width).toBeGreaterThan(60)
    for (let k = 1; k < 30; k++) expect([isCut(width - k), isCut(width + k)]).toEqual([true, false])
    const fix = found(label(width - 12).project).find((f) => f.code === 'text-wide')!.fix!
    expect(fix).toMatchObject({ edit: 'place widgets', args: { places: { 'widget:words': { width } } } })
  })

  test('variables may touch in memory, and not share a word', () => {
    const at = (address: number) =>
      new Job()
        .variable('wide', { ...whole(0, 9), type: 'u32' } as never, { address: 0x20 })
        .variable('other', whole(0, 9), { address })
        .edit('release all addresses', {})
    const clashes = (address: number) => said(at(address)).filter((one) => one.startsWith('overlap'))
    expect([0x1f, 0x22].map(clashes)).toEqual([[], []])
    expect([0x20, 0x21].map((address) => clashes(address).length)).toEqual([1, 1])
  })

  test('what a page or the panel does by itself is looked at as what a touch does is', () => {
    const wrong = { action: 'set', with: { variable: 'variable:words', to: 5 } }
    const job = new Job()
      .variable('words', { type: 'text', bytes: 8, encoding: 'ascii' } as Holds)
      .page('two')
      .edit('set page', { id: 'page:two', values: { rules: [{ on: { moment: 'opened', everyMs: 0 }, lines: [wrong] }] } })
      .edit('set conduct', { values: { rules: [{ on: { moment: 'started', everyMs: 0 }, lines: [wrong] }] } })
    const found = checkProject(new Viewer(testAssets).view(job.project)).filter(({ code }) => code === 'mistyped')
    expect(found.map(({ at, facts }) => [at, facts['name']])).toEqual([
      ['page:two', 'two'],
      ['', 'The panel'],
    ])
  })

  test('what is held together comes onto the glass as one, however many of it are outside and all mended at once', () => {
    const job = new Job()
      .widget('shape', 'a', [-60, -20, 50, 50])
      .widget('shape', 'b', [20, -40, 50, 50])
      .widget('shape', 'c', [100, 30, 50, 50])
      .edit('hold together', { ids: ['widget:a', 'widget:b', 'widget:c'], together: true })
    const outside = () => checkProject(new Viewer(testAssets).view(job.project)).filter(({ code }) => code === 'outside')
    const all = outside()
    expect(all.length).toBe(2)
    for (const { fix } of all) job.edit(fix!.edit, fix!.args)
    expect(outside()).toEqual([])
    const at = (name: string) => job.project.widgets[`widget:${name}`]!.place
    expect(['a', 'b', 'c'].map((name) => [at(name).x, at(name).y])).toEqual([
      [0, 20],
      [80, 0],
      [160, 70],
    ])
  })

  test('a target is too small below the least that its finger needs, on the narrower side', () => {
    for (const finger of ['bare finger', 'gloved finger'] as const) {
      const isSmall = (px: number) => {
        const job = new Job({ finger, diagonalInches: 5 }).widget('button', 'b', [20, 20, 180, px], { text: '' })
        return said(job).some((one) => one.startsWith('target-small'))
      }
      const perMm = Math.sqrt(400 * 400 + 300 * 300) / (5 * 25.4)
      const least = Math.ceil(leastTargetMm[finger] * perMm)
      expect([isSmall(8), isSmall(least - 1), isSmall(least), isSmall(180)]).toEqual([true, true, false, false])
    }
  })

  test('each key of a row has room for a finger: arrows of digits, tabs', () => {
    const found = (kind: string, width: number, height: number, settings: object) => {
      const job = new Job({ finger: 'bare finger', diagonalInches: 5 })
        .variable('v', tenths(0, 99))
        .widget(kind, 'w', [20, 20, width, height], settings as Record<string, unknown>)
      return said(job).filter((one) => one.startsWith('part-small'))
    }
    const finger = Math.ceil((7 * Math.sqrt(400 * 400 + 300 * 300)) / (5 * 25.4))
    const digits = (width: number, height: number) => found('digits', width, height, { variable: 'variable:v' }).length
    expect([digits(4 * finger, 2 * finger), digits(4 * finger, 2 * finger - 2), digits(2 * finger, 2 * finger)]).toEqual([
      0, 1, 1,
    ])
    const tabs = [1, 2, 3].map((n) => ({ text: String(n), page: '' }))
    const row = (width: number) => found('tabs', width, finger, { of: 'pages', tabs, way: 'beside each other' }).length
    expect([row(3 * finger), row(2 * finger)]).toEqual([0, 1])
  })

  test('a text at its longest is told where it does not fit, whoever shows it', () => {
    const found = (kind: string, width: number, settings: object, bytes = 12) => {
      const job = new Job()
        .variable('v', { type: 'text', bytes, encoding: 'ascii' } as Holds)
        .widget(kind, 'w', [20, 20, width, 40], settings as Record<string, unknown>)
      return said(job).filter((one) => one.startsWith('text-wide')).length
    }
    const follows = { text: { follows: 'variable:v' } }
    const shown: [string, object][] = [
      ['text', { variable: 'variable:v', runs: 0 }],
      ['entry', { variable: 'variable:v' }],
      ['label', follows],
      ['button', follows],
    ]
    for (const [kind, settings] of shown)
      expect([kind, found(kind, 300, settings), found(kind, 60, settings)]).toEqual([kind, 0, 1])
  })

  test('whoever looks, and in whatever order things were made, the same is found', () => {
    const names = ['a', 'b', 'c', 'd', 'e']
    const made = (order: readonly string[]) => {
      const job = new Job()
      for (const name of order) job.variable(name, whole(0, 99), { address: 0x40 + names.indexOf(name) })
      for (const name of order)
        job.widget('number', `n${name}`, [names.indexOf(name) * 70, 10, 60, 8], { variable: `variable:${name}` })
      return said(job).sort()
    }
    const first = made(names)
    expect(first.length).toBeGreaterThan(4)
    expect([made([...names].reverse()), made(['c', 'e', 'a', 'd', 'b'])]).toEqual([first, first])
  })
})
