import { expect, test } from 'vitest'
import { sayMessage, sentenceOf } from '../explain/index.ts'
import { lampLines } from '../protocols/index.ts'
import type { Project } from '../project/index.ts'
import { demo, edited, widgetNamed } from '../testing/demo.ts'
import { moduleLayouts } from '../testing/modules/layouts.ts'
import { Workbench } from './index.ts'

const { project, assets } = demo
const named = (name: string) => project.variableOrder.find((id) => project.variables[id]!.name === name)!
const stop = widgetNamed(project, 'Stop shutter')
const ascii = (text: string) => [...text].map((c) => c.charCodeAt(0))

/** The demo with commands both ways: `park` of the panel, with a value; `lit` of the host, which sets backlight and page. */
function withCommands(from: Project, frame: string): Project {
  const text = (words: string) => ({ field: 'constant', bytes: ascii(words) })
  const edits: [string, unknown][] = [
    [
      'add command',
      {
        id: 'command:park',
        after: '',
        name: 'park',
        values: {
          sender: 'panel',
          frame,
          answer: 'done',
          fields: [
            text('park '),
            { field: 'number', label: 'target', variable: named('dome_target'), spelling: 'decimal', size: 0 },
          ],
        },
      },
    ],
    [
      'add command',
      {
        id: 'command:lit',
        after: '',
        name: 'lit',
        values: {
          sender: 'host',
          frame,
          answer: 'done',
          fields: [
            text('lit '),
            { field: 'number', label: 'light', variable: 'variable:own-backlight', spelling: 'bcd', size: 1 },
          ],
          sets: [{ variable: named('dome_target'), value: '120' }],
        },
      },
    ],
    [
      'set widgets',
      {
        ids: [stop.id],
        values: {
          rules: [
            { on: { moment: 'pressed', everyMs: 0 }, lines: [{ action: 'send command', with: { command: 'command:park' } }] },
          ],
        },
      },
    ],
    [
      'add to host',
      { part: 'sendings', id: 'sending:a', after: '', settings: { command: 'command:lit', values: '70', ms: 200 } },
    ],
    [
      'add to host',
      {
        part: 'sendings',
        id: 'sending:b',
        after: '',
        settings: { what: 'ask', variable: named('dome_azimuth'), when: 'every', ms: 500 },
      },
    ],
    [
      'add to host',
      {
        part: 'reactions',
        id: 'reaction:park',
        after: null,
        settings: {
          on: 'command',
          command: 'command:park',
          effects: [{ afterMs: 100, variable: '', value: 0, command: 'command:lit' }],
        },
      },
    ],
    [
      'add exchange',
      {
        id: 'exchange:lit',
        after: '',
        steps: [
          { id: 'step:1', kind: 'host sends command', settings: { command: 'command:lit', values: '40' } },
          { id: 'step:2', kind: 'expect answer', settings: { from: 'panel', answer: 'done' } },
          { id: 'step:3', kind: 'expect memory', settings: { variable: named('dome_target'), value: '120' } },
          { id: 'step:4', kind: 'touch', settings: { widget: stop.id } },
          { id: 'step:5', kind: 'expect command', settings: { command: 'command:park', values: '120' } },
          { id: 'step:6', kind: 'expect command', settings: { from: 'host', command: 'command:lit', values: '40' } },
        ],
      },
    ],
  ]
  return edits.reduce((at, [edit, args]) => edited(at, edit, args), from)
}

const inLines = edited(project, 'set layout', { values: { ...lampLines } })

test.each([
  ['by number, in bytes', project, 'message'],
  ['bare, in lines', inLines, 'bare'],
  ['by number, in lines', inLines, 'message'],
] as const)(
  'commands %s: sent by a key, at power-on, by a reaction and an exchange; heard, obeyed and answered',
  (_, from, frame) => {
    const made = withCommands(from, frame)
    const bench = new Workbench(made, assets)
    expect(bench.findings()).toEqual([])
    bench.advance(2_000_000)
    // At power-on the host has said “lit”: the light is at 70 %, and so is what it sets besides.
    expect(bench.values()[named('dome_target')]).toMatchObject({ value: 120 })
    expect(bench.rig.panel.memory.own('backlight')).toBe(70)
    const { x, y, width, height } = stop.place
    bench.rig.panel.touchDown(x + width / 2, y + height / 2)
    bench.advance(1_000_000)
    bench.rig.panel.touchUp(x + width / 2, y + height / 2)
    bench.advance(1_000_000)
    const book = bench.rig.panel.build.book
    const said = bench.rig.conversation
      .all()
      .flatMap((entry) =>
        entry.message
          ? [`${entry.direction} ${sentenceOf(sayMessage(book, entry.message))}${entry.verdict ? `: ${entry.verdict}` : ''}`]
          : [],
      )
    expect(said).toContain('to panel command lit = light 70 %: ok')
    expect(said).toContain('to host command park = target 120.0°: ok')
    expect(said.filter((one) => one.startsWith('to panel command lit')).length).toBe(2)
    expect(said.filter((one) => one.startsWith('to panel read request dome_azimuth')).length).toBeGreaterThan(4)
    const result = bench.runExchange('exchange:lit')!
    expect(result.steps.filter(({ status }) => status !== 'passed')).toEqual([])
  },
)

test('a command that the panel cannot obey is refused, all of it; one of the other way is no command', () => {
  const bench = new Workbench(withCommands(project, 'message'), assets)
  bench.advance(1_000_000)
  const target = () => bench.values()[named('dome_target')]!.value
  expect(target()).toBe(120)
  bench.hostWrites(named('dome_target'), 10)
  bench.advance(500_000)
  // 0 % of light is refused, and then the target is not set either.
  expect(bench.rig.host.command(2, [0])).toBeNull()
  bench.advance(500_000)
  expect(target()).toBe(10)
  const refused = bench.rig.conversation.all().filter(({ message }) => message?.operation === 'refused')
  expect(refused.map(({ message }) => message)).toMatchObject([{ reason: 'value', address: 2 }])
  expect(bench.rig.host.command(1, [])).toMatchObject({ code: 'exchange.command.other-way' })
})

test('names and commands that change while it runs are on the wire at once, and a frame that has begun goes on', () => {
  const made = withCommands(inLines, 'bare')
  const bench = new Workbench(made, assets)
  bench.advance(1_000_000)
  bench.take(edited(made, 'set variable', { id: named('dome_target'), values: { name: 'goal', wireName: 'goal' } }))
  bench.hostWrites(named('dome_target'), 20)
  bench.advance(300_000)
  expect(bench.values()[named('dome_target')]!.value).toBe(20)
  const lines = bench.rig.conversation.all().map(({ bytes }) => String.fromCharCode(...bytes))
  expect(lines.some((line) => line === 'goal = 20.0\n')).toBe(true)
  const changed = edited(bench.project, 'set command', {
    id: 'command:lit',
    values: { fields: [{ field: 'constant', bytes: ascii('on') }] },
  })
  bench.take(changed)
  expect(bench.rig.host.command(2, [])).toBeNull()
  bench.advance(300_000)
  expect(
    bench.rig.conversation.all().some(({ bytes, verdict }) => String.fromCharCode(...bytes) === 'on\n' && verdict === 'ok'),
  ).toBe(true)
})

test('a module that is polled lives on the Bench: a banner, a start sequence, and values that are asked for', () => {
  const line = (words: string, ...more: object[]) => [{ field: 'constant', bytes: ascii(words) }, ...more]
  const number = { field: 'number', label: 'period', spelling: 'decimal', size: 0 }
  const add = (id: string, name: string, values: object): [string, unknown] => [
    'add command',
    { id, after: '', name, values: { frame: 'bare', ...values } },
  ]
  const edits: [string, unknown][] = [
    ['set layout', { values: { ...moduleLayouts['Dotterel P']!.layout } }],
    add('command:banner', 'banner', { sender: 'panel', fields: line('DOTTEREL 21') }),
    add('command:ready', 'ready', { sender: 'panel', fields: line('INIT OK') }),
    add('command:init', 'init', { fields: line('INIT ', number), answer: 'command', answerBy: 'command:ready' }),
    [
      'set conduct',
      {
        values: {
          rules: [{ on: { moment: 'started' }, lines: [{ action: 'send command', with: { command: 'command:banner' } }] }],
        },
      },
    ],
    ['set link', { values: { confirm: false, answers: 'never' } }],
    [
      'add to host',
      {
        part: 'reactions',
        id: 'reaction:up',
        after: null,
        settings: {
          on: 'command',
          command: 'command:banner',
          effects: [{ afterMs: 20, variable: '', value: 0, command: 'command:init' }],
        },
      },
    ],
    [
      'add to host',
      {
        part: 'sendings',
        id: 'sending:poll',
        after: '',
        settings: { what: 'ask', variable: named('shutter_order'), when: 'every', ms: 200 },
      },
    ],
  ]
  const bench = new Workbench(
    edits.reduce((at, [edit, args]) => edited(at, edit, args), project),
    assets,
  )
  bench.advance(2_500_000)
  const lines = () => bench.rig.conversation.all().map(({ bytes }) => String.fromCharCode(...bytes).trimEnd())
  const at = (words: string) => lines().indexOf(words)
  expect(at('DOTTEREL 21')).toBeGreaterThanOrEqual(0)
  expect(at('INIT 0')).toBeGreaterThan(at('DOTTEREL 21'))
  expect(at('INIT OK')).toBeGreaterThan(at('INIT 0'))
  // A touch is told by nobody; the next poll brings it.
  const known = () => bench.rig.host.values().find(({ name }) => name === 'shutter_order')!.value
  const before = known()
  const { x, y, width, height } = widgetNamed(project, 'Open shutter').place
  bench.rig.panel.touchDown(x + width / 2, y + height / 2)
  bench.advance(100_000)
  bench.rig.panel.touchUp(x + width / 2, y + height / 2)
  bench.advance(600_000)
  expect([before, known()]).toEqual([0, 1])
  expect(lines().filter((one) => one === 'R shutter_order').length).toBeGreaterThan(4)
})
