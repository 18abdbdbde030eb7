import { describe, expect, test } from 'vitest'
import { hashOfWords, newId, seededRandom, sha256Hex, type Rect } from '../base/index.ts'
import { Compiler, compileHost } from '../compile/index.ts'
import { findingSentences, findingWords, registerCheck, type Finding } from '../findings/index.ts'
import { passGate, pictureSettings, usersOf, type Project } from '../project/index.ts'
import { described, settingTypes } from '../settings/index.ts'
import { demo, otherDemo, dome, edited, widgetNamed } from '../testing/demo.ts'
import { EditMaker } from '../testing/edits.ts'
import { bigEndianPlain } from '../testing/layouts.ts'
import { kindOf, registerWidgetKind } from '../widgets/index.ts'
import { Workbench } from './index.ts'
import { does } from '../testing/actions.ts'
import { noFace } from '../faces/index.ts'
import { pictureSet } from '../testing/pictures.ts'
import { MadeChunks } from '../artwork/index.ts'

const { project, assets } = demo
const seed = Number(process.env['SEED'] ?? 4600)

describe('the demo', () => {
  test.each(project.exchangeOrder.map((id) => [project.exchanges[id]!.name, id] as const))('%s passes', (_, id) => {
    const result = new Workbench(project, assets).runExchange(id)!
    expect(result.steps.filter((s) => s.status !== 'passed')).toEqual([])
    expect(result.passed).toBe(true)
  })
  test('has no findings', () => expect(new Workbench(project, assets).findings()).toEqual([]))
  test('is the same twice: pixels and conversation', () => {
    const run = () => {
      const bench = new Workbench(project, assets)
      bench.advance(3_000_000)
      bench.rig.panel.touchDown(720, 120)
      bench.advance(2_000_000)
      bench.rig.panel.touchUp(720, 120)
      bench.advance(5_000_000)
      bench.paint()
      return [hashOfWords(bench.rig.panel.glass.surface.pixels), bench.rig.conversationHash()]
    }
    expect(run()).toEqual(run())
  })
  test('approaches its target the short way round at 2.5° a second', () => {
    const bench = new Workbench(project, assets)
    bench.advance(1_000_000)
    bench.hostWrites('variable:dome_azimuth', 355)
    bench.hostWrites('variable:dome_target', 5)
    bench.advance(2_000_000)
    expect(Number(bench.values()['variable:dome_azimuth']!.value)).toBeCloseTo(359.5, 0)
    bench.advance(2_600_000)
    expect(bench.values()['variable:dome_azimuth']!.value).toBe(5)
  })
})

describe('the other demo', () => {
  const { project, assets } = otherDemo
  test.each(project.exchangeOrder.map((id) => [project.exchanges[id]!.name, id] as const))('%s: passes', (_, id) => {
    expect(new Workbench(project, assets).runExchange(id)!.steps.filter((s) => s.status !== 'passed')).toEqual([])
  })
  test('has no findings', () => expect(new Workbench(project, assets).findings()).toEqual([]))
  test('moves only while its key is held, whatever becomes of the finger', () => {
    const bench = new Workbench(project, assets)
    const named = (name: string) => project.variableOrder.find((id) => project.variables[id]!.name === name)!
    const angle = () => Number(bench.values()[named('angle')]!.value)
    const { x, y, width, height } = widgetNamed(project, 'Raise').place
    bench.advance(1_000_000)
    bench.rig.panel.touchDown(x + width / 2, y + height / 2)
    bench.advance(2_000_000)
    expect(angle()).toBeGreaterThan(2.5)
    // Another page opens under the finger.
    bench.rig.panel.memory.setOwn('page', 3)
    bench.advance(500_000)
    const here = angle()
    bench.advance(5_000_000)
    expect(angle()).toBe(here)
  })
})

describe('painting', () => {
  test('after anything at all, the dirty rectangles give what a full repaint gives', () => {
    const random = seededRandom(seed)
    const bench = new Workbench(project, assets)
    for (let i = 0; i < 120; i++) {
      const [x, y] = [random.below(800), random.below(480)]
      bench.rig.panel.touchDown(x, y)
      bench.advance(random.below(300_000))
      bench.paint()
      bench.rig.panel.touchUp(random.below(4) ? x : random.below(800), y)
      if (random.below(6) === 0) bench.hostWrites('variable:weather_flags', random.below(16))
      bench.advance(random.below(2_000_000))
      bench.paint()
      // As if it were painted for the first time, with whatever layer is open.
      const { glass } = bench.rig.panel
      const inParts = hashOfWords(glass.surface.pixels)
      glass.markAll()
      bench.paint()
      expect([i, inParts]).toEqual([i, hashOfWords(glass.surface.pixels)])
    }
  })
  test('one changed number writes at most 1.5 times the pixels of its box', () => {
    const bench = new Workbench(project, assets)
    bench.rig.host.silent = true
    bench.advance(1_200_000)
    bench.rig.panel.memory.setOwn('page', 2)
    bench.paint()
    const { surface } = bench.rig.panel.glass
    const before = surface.written
    const cell = bench.build.header.cells.find((c) => c.cell.address === 0x33)!.cell
    bench.rig.panel.memory.write(cell, 72)
    const areas = bench.paint()
    const box = widgetNamed(project, 'Humidity').place
    expect(areas.length).toBeGreaterThan(0)
    expect(surface.written - before).toBeLessThanOrEqual(1.5 * box.width * box.height)
    const inked = (r: Rect) => r.width * r.height
    expect(areas.reduce((sum, r) => sum + inked(r), 0)).toBeLessThanOrEqual(box.width * box.height)
  })
  test('a page painted for the desk leaves the panel alone', () => {
    const bench = new Workbench(project, assets)
    bench.advance(500_000)
    bench.paint()
    const before = [bench.rig.panel.pageNumber, bench.rig.conversation.lastId, hashOfWords(bench.rig.panel.glass.surface.pixels)]
    // The desk may show other values than the panel holds, and nobody hears of it.
    const stored = hashOfWords(bench.paintPage('page:weather')!.pixels)
    const said = bench.rig.conversation.lastId
    bench.pretend({ 'variable:wind_speed': 60, 'variable:humidity': 100 })
    expect(hashOfWords(bench.paintPage('page:weather')!.pixels)).not.toBe(stored)
    expect(bench.values()['variable:wind_speed']!.value).not.toBe(60)
    bench.pretend(null)
    expect([hashOfWords(bench.paintPage('page:weather')!.pixels), bench.rig.conversation.lastId]).toEqual([stored, said])
    expect(bench.paintPage('page:weather')!.pixels.some((p) => p !== 0)).toBe(true)
    bench.paint()
    expect([
      bench.rig.panel.pageNumber,
      bench.rig.conversation.lastId,
      hashOfWords(bench.rig.panel.glass.surface.pixels),
    ]).toEqual(before)
  })
})

describe('compiling', () => {
  test('a compiler with a memory gives what one without gives, over all edits', () => {
    const random = seededRandom(seed)
    const maker = new EditMaker(random)
    const warm = new Compiler(new MadeChunks(assets))
    let at = project
    let n = 0
    for (let i = 0; i < 260; i++) {
      const request = maker.request(at)
      const done = request ? passGate(at, request) : null
      if (!done?.ok || (request!.edit.startsWith('delete') && random.below(3))) continue
      maker.saw(done.value.change)
      at = done.value.project
      const build = warm.compile(at)
      const host = compileHost(at, warm.cells)
      if (n++ % 4) continue
      const cold = new Compiler(new MadeChunks(assets))
      expect({ header: build.header, symbols: build.symbols, chunks: Object.keys(build.chunks).sort() }).toEqual(
        (({ header, symbols, chunks }) => ({ header, symbols, chunks: Object.keys(chunks).sort() }))(cold.compile(at)),
      )
      expect(host).toEqual(compileHost(at))
    }
    expect(n).toBeGreaterThan(80)
  })
  test('one edit compiles one widget again', () => {
    const compiler = new Compiler(new MadeChunks(assets))
    compiler.compile(project)
    compiler.compile(edited(project, 'name widget', { id: widgetNamed(project, 'Target').id, name: 'Goal' }))
    expect(compiler.recompiled).toBe(1)
  })
  test('a build holds no id of the project outside its symbols, and no functions', () => {
    const { header, chunks } = new Compiler(new MadeChunks(assets)).compile(project)
    expect(JSON.stringify(header)).not.toMatch(/(page|widget|variable|typeface|exchange):/)
    expect(JSON.parse(JSON.stringify(header))).toEqual(header)
    for (const chunk of Object.values(chunks)) expect(ArrayBuffer.isView(chunk)).toBe(true)
  })
  test('another build has another version stamp', () => {
    const stamp = (p: Project) => new Compiler(new MadeChunks(assets)).compile(p).header.version
    expect(stamp(edited(project, 'set link', { values: { baud: 9600 } }))).not.toBe(stamp(project))
    expect(stamp(edited(project, 'set page', { id: dome, values: { note: 'other' } }))).toBe(stamp(project))
  })
})

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
          values: { actions: [does('pressed', 'set', { variable: 'variable:own-backlight', to: 2 })] },
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
          values: { actions: [does('pressed', 'set', { variable: 'variable:alarms_seen', to: 0 })] },
        },
      ],
    ],
    at: button('Stop shutter'),
    fixed: true,
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
      ['set layout', { values: { forms: project.layout.forms.map((f) => (f.operation === 'report' ? { ...f, code: 4 } : f)) } }],
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
          values: { actions: [does('pressed', 'go to page', { page: 'page:end' })] },
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
              settings: { actions: [does('pressed', 'go to page', { page: dome })] },
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
          values: { actions: [does('pressed', 'set', { variable: 'variable:own-backlight', to: 0 })] },
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
            actions: [does('pressed', 'set', { variable: 'variable:shutter_order', to: { follows: 'variable:site_note' } })],
          },
        },
      ],
    ],
    at: button('Stop shutter'),
    fixed: false,
  },
  layout: { edits: [['set layout', { values: { head: [] } }]], at: '', fixed: true },
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

describe('findings', () => {
  test('each has a mutation here', () => expect(Object.keys(mutations).sort()).toEqual(Object.keys(findingSentences).sort()))
  test('one of another needs its check and its words: it is found and said', () => {
    const check = (): Finding[] => [{ code: 'ours', severity: 'advice', station: 'Pages', at: '', facts: { n: 3 }, fix: null }]
    const gone = registerCheck(check, { ours: 'There are {n}.' })
    const found = new Workbench(project, assets).findings().map(findingWords)
    gone()
    expect(found).toEqual(['There are 3.'])
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

describe('a change while the panel is held', () => {
  test('every value follows its variable to its new address; a changed type resets that one and says so', () => {
    const bench = new Workbench(project, assets)
    bench.advance(500_000)
    bench.hostWrites('variable:dome_target', 123.4)
    bench.hostWrites('variable:humidity', 64)
    bench.advance(100_000)
    bench.take(edited(bench.project, 'set variable', { id: 'variable:dome_target', values: { address: 0x90 } }))
    expect(bench.values()['variable:dome_target']!.value).toBe(123.4)
    expect(bench.reset).toEqual([])
    bench.take(
      edited(bench.project, 'set variable', {
        id: 'variable:humidity',
        values: { holds: { type: 'u16', factor: 0.5, offset: 0, decimals: 1, unit: '%', min: 0, max: 50 } },
      }),
    )
    expect(bench.reset).toEqual(['humidity'])
    expect(bench.values()['variable:dome_target']!.value).toBe(123.4)
  })
  test('the page shown stays, and a preview leaves no trace', () => {
    const bench = new Workbench(project, assets)
    bench.advance(500_000)
    bench.rig.panel.memory.setOwn('page', 2)
    bench.preview({
      changeId: newId('change', seededRandom(1)),
      edit: 'place widgets',
      args: { places: { [button('Target')]: { x: 1, y: 1, width: 160, height: 46 } } },
    })
    expect(bench.rig.panel.pageNumber).toBe(2)
    bench.cancelPreview()
    expect(bench.project).toBe(project)
    expect(bench.rig.panel.build).toBe(bench.build)
  })
})

test('a second layout, without a checksum and big-endian, passes the same exchanges', () => {
  const { name: _, ...layout } = bigEndianPlain
  const bench = new Workbench(edited(project, 'set layout', { values: layout }), assets)
  expect(bench.findings()).toEqual([])
  const names = [
    'Open the shutter',
    'Refused in rain',
    'Target stepped and reached',
    'A lost report is repeated',
    'Host gone, values stale',
    'Power cycle and synchronise',
  ]
  for (const id of project.exchangeOrder)
    expect([bench.project.exchanges[id]!.name, bench.runExchange(id)!.passed]).toEqual([
      expect.toSatisfy((n) => names.includes(String(n))),
      true,
    ])
  const frame = bench.rig.conversation
  bench.advance(1_000_000)
  expect(
    frame
      .all()
      .find((e) => e.message?.operation === 'write')!
      .bytes.slice(0, 2),
  ).toEqual(Uint8Array.of(0xa1, 0xb2))
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

test('a kind of widget registered by a test is compiled, painted and checked like any other', () => {
  const stripe = kindOf({
    kind: 'stripe',
    label: 'Stripe',
    meaning: 'a test',
    size: { width: 10, height: 10 },
    touchable: false,
    settings: described({
      colour: { label: 'Colour', type: settingTypes.colour, default: '#ff0000', group: 'Looks', follows: true },
      shows: { label: 'Shows', type: settingTypes.variable, default: '', group: 'Shows', essential: true },
      visible: { label: 'Visible', type: settingTypes.yesNo, default: true, group: 'Behaviour' },
    }),
    paint: (surface, place, s) => surface.fill(place, s.colour),
    shows: (s) => String(s.colour),
  })
  const remove = registerWidgetKind(stripe)
  try {
    const added = edited(project, 'add widgets', {
      page: dome,
      after: '',
      widgets: [{ id: 'widget:stripe', kind: 'stripe', place: { x: 0, y: 470, width: 9, height: 9 } }],
    })
    const bench = new Workbench(added, assets)
    bench.advance(1_500_000)
    bench.paint()
    expect(bench.rig.panel.glass.surface.pixels[472 * 800 + 2]).toBe(0xf800)
    const [found, ...others] = bench.findings()
    expect([found!.code, others]).toEqual(['no-variable', []])
    expect(new Workbench(edited(added, found!.fix!.edit, found!.fix!.args), assets).findings()).toEqual([])
  } finally {
    remove()
  }
})
