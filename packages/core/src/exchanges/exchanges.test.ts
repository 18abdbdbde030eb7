import { describe, expect, test } from 'vitest'
import { usersOf, type Project } from '../project/index.ts'
import { stepKindNames, stepKind, stepWords, type Step, type StepKind } from '../scripts/index.ts'
import { demo, edited, widgetNamed } from '../testing/demo.ts'
import { Workbench } from '../workbench/index.ts'
import { atOnce, compileExchange, exchangeProblemWords, runExchange, settleUs } from './index.ts'
import { does } from '../testing/actions.ts'
import { oneMoreStep } from '../testing/one-more.ts'
import { Job, whole } from '../testing/job.ts'

const { project, assets } = demo
type Steps = [StepKind, Record<string, unknown>][]

function build(steps: Steps, from: Project = project, more: Record<string, unknown> = {}) {
  let p = edited(from, 'add exchange', { id: 'exchange:x', after: '', name: 'x' })
  if (Object.keys(more).length) p = edited(p, 'set exchange', { id: 'exchange:x', values: more })
  steps.forEach(
    ([kind, settings], i) => (p = edited(p, 'add step', { exchange: 'exchange:x', id: `step:x${i}`, kind, after: '', settings })),
  )
  return p
}
function run(steps: Steps, from: Project = project, more: Record<string, unknown> = {}) {
  const p = build(steps, from, more)
  const bench = new Workbench(p, assets)
  return runExchange(bench.build, bench.hostBuild, compileExchange(p, p.exchanges['exchange:x']!))
}
const statuses = (steps: Steps, from?: Project, more?: Record<string, unknown>) =>
  run(steps, from, more).steps.map((s) => s.problem?.code ?? s.status)
const w = (name: string) => widgetNamed(project, name).id
const withOpen = (settings: Record<string, unknown>) =>
  edited(project, 'set widgets', { ids: [w('Open shutter')], values: settings })
const events = withOpen({
  holdMs: 500,
  rules: (['pressed', 'held', 'lifted', 'slid off'] as const).map((on) => does(on, 'send event')),
})

describe('fingers', () => {
  const expectEvent = (what: string): Steps[number] => ['expect event', { widget: w('Open shutter'), what }]
  test('a tap is a press and a release inside', () => {
    expect(statuses([['touch', { widget: w('Open shutter') }], expectEvent('pressed'), expectEvent('lifted')], events)).toEqual([
      'passed',
      'passed',
      'passed',
    ])
  })
  test('a hold is long enough to be one', () => {
    const steps: Steps = [
      ['touch', { widget: w('Open shutter'), gesture: 'hold', holdMs: 700 }],
      expectEvent('pressed'),
      expectEvent('held'),
      expectEvent('lifted'),
    ]
    expect(statuses(steps, events)).toEqual(['passed', 'passed', 'passed', 'passed'])
  })
  test('a drag off the widget releases outside', () => {
    const steps: Steps = [
      ['touch', { widget: w('Open shutter'), gesture: 'drag', dx: -400, dy: 0, holdMs: 200 }],
      expectEvent('pressed'),
      expectEvent('slid off'),
    ]
    expect(statuses(steps, events)).toEqual(['passed', 'passed', 'passed'])
  })
  test('press and release are two steps, with time between', () => {
    const steps: Steps = [
      ['touch', { widget: w('Open shutter'), gesture: 'press' }],
      expectEvent('pressed'),
      ['wait', { ms: 800 }],
      expectEvent('held'),
      ['touch', { widget: w('Open shutter'), gesture: 'release' }],
      expectEvent('lifted'),
    ]
    expect(new Set(statuses(steps, events))).toEqual(new Set(['passed']))
  })
  test('hidden, and outside the glass, fail by name', () => {
    const touch: Steps = [['touch', { widget: w('Open shutter') }]]
    expect(statuses(touch, withOpen({ visible: false }))).toEqual(['exchange.touch.hidden'])
    const away = edited(project, 'place widgets', { places: { [w('Open shutter')]: { x: 900, y: 0, width: 50, height: 50 } } })
    expect(statuses(touch, away)).toEqual(['exchange.touch.outside the glass'])
    expect(statuses([['touch', { widget: '' }]])).toEqual(['exchange.no-widget'])
  })
})

const count = { type: 'u16' as const, factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 9 }

describe('order and strictness', () => {
  test('a report of a variable that stands behind the panel’s own words is asked for like any other', () => {
    const job = new Job().edit('set panel', { values: { ownFrom: 0x0020 } }).variable('n', count, { address: 0x0060 })
    job.widget('button', 'b', [0, 0, 120, 60], { rules: [does('pressed', 'set', { variable: 'variable:n', to: 3 })] })
    job.edit('add exchange', { id: 'exchange:n', after: '' })
    const step = (id: string, kind: string, settings: object) =>
      job.edit('add step', { exchange: 'exchange:n', id: `step:${id}`, kind, after: '', settings })
    step('t', 'touch', { widget: 'widget:b' })
    expect(job.bench.runExchange('exchange:n')).toMatchObject({ passed: false, leftOver: { message: { operation: 'report' } } })
    step('r', 'expect report', { variable: 'variable:n', value: '3' })
    expect(job.bench.runExchange('exchange:n')!.passed).toBe(true)
  })
  const plus: Steps[number] = ['touch', { widget: w('Target more') }]
  const open: Steps[number] = ['touch', { widget: w('Open shutter') }]
  const target = (value: string): Steps[number] => ['expect report', { variable: 'variable:dome_target', value }]
  const order: Steps[number] = ['expect report', { variable: 'variable:shutter_order', value: 'open' }]
  test('reports match in the order they came', () => {
    expect(statuses([plus, open, target('231.5'), order])).toEqual(['passed', 'passed', 'passed', 'passed'])
    expect(statuses([plus, open, order])).toEqual(['passed', 'passed', 'exchange.something-else'])
  })
  test('others may be allowed', () => {
    expect(statuses([plus, open, order], project, { allowsOthers: true })).toEqual(['passed', 'passed', 'passed'])
    expect(run([plus, plus], project, { allowsOthers: true }).passed).toBe(true)
    expect(run([plus, plus]).passed).toBe(false)
  })
  test('after a failed step nothing more is run', () => {
    const result = run([target('231.5'), plus, target('231.5')])
    expect(result.steps.map((s) => s.status)).toEqual(['failed', 'not run', 'not run'])
  })
  test('a tolerance lets a number be near', () => {
    const steps = (tolerance: number): Steps => [
      plus,
      ['expect report', { variable: 'variable:dome_target', value: '231.4', tolerance }],
    ]
    expect(statuses(steps(0.2))[1]).toBe('passed')
    expect(statuses(steps(0.05))[1]).toBe('exchange.other-value')
  })
  test('the right value on another try is told', () => {
    expect(statuses([plus, ['expect report', { variable: 'variable:dome_target', value: '231.5', attempt: 2 }]])[1]).toBe(
      'exchange.other-try',
    )
  })
  test('the same exchange gives the same result, to the byte', () => {
    const once = run([plus, target('231.5'), ['wait', { ms: 2000 }]])
    const again = run([plus, target('231.5'), ['wait', { ms: 2000 }]])
    expect(once.rig.conversationHash()).toBe(again.rig.conversationHash())
    expect(once.endUs).toBe(again.endUs)
  })
})

describe('the host’s side', () => {
  test('writes, asks and raw bytes reach the panel, and its answers can be expected', () => {
    expect(
      statuses([
        ['host writes', { variable: 'variable:dome_target', value: '12.5' }],
        ['expect memory', { variable: 'variable:dome_target', value: '12.5', withinMs: 100 }],
        ['expect shown', { widget: w('Target'), text: '12.5°', withinMs: 100 }],
        ['expect nothing', { ms: 300 }],
      ]),
    ).toEqual(['passed', 'passed', 'passed', 'passed'])
    const quiet: Steps = [
      ['trouble', { what: 'host falls silent', count: 1 }],
      ['wait', { ms: 300 }],
    ]
    expect(
      statuses([
        ...quiet,
        ['host sends bytes', { bytes: '7E 51 12 00 06 09 97 82 7E' }],
        ['expect answer', { from: 'panel', answer: 'done', withinMs: 100 }],
      ]).at(-1),
    ).toBe('passed')
    expect(
      statuses([
        ...quiet,
        ['host sends bytes', { bytes: '7E 51 12 00 06 09 82 97 7E' }],
        ['expect answer', { from: 'panel', answer: 'done', withinMs: 100 }],
      ]).at(-1),
    ).toBe('exchange.no-answer')
  })
  test('a write of flags by their names', () => {
    expect(
      statuses([
        ['host writes', { variable: 'variable:weather_flags', value: 'rain dew' }],
        ['expect memory', { variable: 'variable:weather_flags', value: 'rain dew', withinMs: 100 }],
        ['expect shown', { widget: w('Dew lamp'), text: 'on', withinMs: 100 }],
      ]),
    ).toEqual(['passed', 'passed', 'passed'])
  })
  test('a page opened by the host', () => {
    expect(
      statuses([
        ['host writes', { variable: 'variable:own-page', value: '3' }],
        ['expect page', { page: 'page:setup', withinMs: 100 }],
      ]),
    ).toEqual(['passed', 'passed'])
  })
  test('power of both begins anew', () => {
    expect(
      statuses([
        ['host writes', { variable: 'variable:flat_level', value: '5' }],
        ['power cycle', { which: 'both' }],
        ['expect memory', { variable: 'variable:flat_level', value: '58', withinMs: 2000 }],
      ]),
    ).toEqual(['passed', 'passed', 'passed'])
  })
})

describe('words', () => {
  const name = (id: string) => id.split(':')[1] ?? id
  test.each(stepKindNames())('“%s” is said in a line, fresh and with everything set', (kind) => {
    const p = build([[kind, {}]])
    const step = Object.values(p.exchanges['exchange:x']!.steps)[0]!
    expect(stepWords(step, name)).not.toMatch(/undefined|object/)
    const filled = {
      ...step,
      settings: Object.fromEntries(
        stepKind(kind).settings.list.map((s) => [s.key, s.type.name === 'variable' ? 'variable:dome_target' : s.default]),
      ),
    }
    if (Object.hasOwn(stepKind(kind).settings.fields, 'variable'))
      expect(stepWords(filled as Step, name)).toContain('dome_target')
  })
  test('every reason has a sentence', () => {
    for (const code of [
      'no-variable',
      'no-widget',
      'value',
      'nothing-came',
      'other-value',
      'other-try',
      'something-else',
      'left-over',
      'touch.covered',
    ]) {
      const words = exchangeProblemWords({ code: `exchange.${code}`, facts: { ms: 5, value: 'x', why: '' } })
      expect(words).toMatch(/^[“A-Z].*\.$/)
      expect(words).not.toContain('{')
    }
  })
})

describe('in slices', () => {
  const long = edited(edited(project, 'add exchange', { id: 'exchange:long', after: '' }), 'add step', {
    exchange: 'exchange:long',
    id: 'step:wait',
    kind: 'wait',
    after: '',
    settings: { ms: 600_000 },
  })
  const runner = () => {
    const bench = new Workbench(long, assets)
    return bench.exchange('exchange:long')!
  }
  test('an exchange ends as at once, tells how far it is, and may be left in the middle', () => {
    const slices = runner().slices()
    const told: number[] = []
    let at = slices.next()
    for (; !at.done; at = slices.next()) told.push(at.value.nowUs)
    expect(told.length).toBeGreaterThan(100)
    expect([...told].sort((a, b) => a - b)).toEqual(told)
    expect(at.value.passed).toBe(true)
    expect(at.value.endUs).toBe(runner().finish().endUs)
    const left = runner().slices()
    left.next()
    expect(left.return(undefined as never).done).toBe(true)
  })
})

test('a step of another kind needs its record and how it is run: it is valid, refers, is said, compiled and run', () => {
  const gone = oneMoreStep()
  const p = edited(edited(project, 'add exchange', { id: 'exchange:even', after: '' }), 'add step', {
    exchange: 'exchange:even',
    id: 'step:even',
    kind: 'is even',
    after: '',
    settings: { variable: 'variable:flat_level' },
  })
  expect(stepKindNames()).toContain('is even')
  expect(stepWords(p.exchanges['exchange:even' as never]['steps']['step:even'], (id) => id.split(':')[1]!)).toBe(
    'flat_level is even',
  )
  expect(usersOf(p, 'variable:flat_level').some((u) => u.from === 'exchange:even')).toBe(true)
  const ran = (initial: number) =>
    new Workbench(edited(p, 'set variable', { id: 'variable:flat_level', values: { initial } }), assets)
  expect([58, 57].map((n) => ran(n).runExchange('exchange:even')!.passed)).toEqual([true, false])
  const unnamed = edited(p, 'set step', { exchange: 'exchange:even', id: 'step:even', values: { variable: '' } })
  expect(new Workbench(unnamed, assets).runExchange('exchange:even')!.steps[0]!.problem!.code).toBe('exchange.no-variable')
  gone()
  expect(stepKindNames()).not.toContain('is even')
})

describe('several values in one frame', () => {
  const job = new Job()
    .page('menu', { sends: 'on leaving' })
    .variable('a', whole(0, 99), { address: 0x20 })
    .variable('b', whole(0, 99), { address: 0x21 })
  for (const [k, name] of ['a', 'b'].entries()) {
    const sets = does('pressed', 'set', { variable: `variable:${name}`, to: 10 + k })
    job.widget('button', `set-${name}`, [k * 95, 0, 90, 60], { rules: [sets] }, 'page:menu')
  }
  const lead: Steps = [
    ['host writes', { variable: 'variable:own-page', value: '2' }],
    ['wait', { ms: 300 }],
    ['touch', { widget: 'widget:set-a' }],
    ['touch', { widget: 'widget:set-b' }],
    ['host writes', { variable: 'variable:own-page', value: '1' }],
  ]
  const problems = (...values: [string, string][]) => {
    const expected: Steps = values.map(([name, value]) => [
      'expect report',
      { variable: `variable:${name}`, value, withinMs: 300 },
    ])
    return run([...lead, ...expected], job.project).steps.flatMap((s) => s.problem?.code ?? [])
  }

  test('each is found in the one frame, in any order', () => {
    expect(problems(['a', '10'], ['b', '11'])).toEqual([])
    expect(problems(['b', '11'], ['a', '10'])).toEqual([])
  })
  test('a wrong one is told of, and none is found twice', () => {
    expect(problems(['a', '10'], ['b', '12'])).toEqual(['exchange.other-value'])
    expect(problems(['a', '10'], ['a', '10'])).toEqual(['exchange.nothing-came'])
  })
})

test('an exchange without steps waits for a splash to pass, and the touch that is added then counts', () => {
  const { first } = new Job()
  const job = new Job()
    .variable('n', whole(0, 99), { initial: 42 })
    .page('main')
    .edit('set page', { id: first, values: { showsForMs: 2500, thenPage: 'page:main' } })
    .widget('button', 'go', [0, 0, 90, 60], { rules: [does('pressed', 'step', { variable: 'variable:n', by: 1 })] }, 'page:main')
  const runner = new Workbench(job.project, assets).exchange(null)!
  expect(runner.rig.panel.canBeTouched).toBe(false)
  expect(runner.finish().endUs).toBe(settleUs)
  expect(atOnce(runner.waitForTouch(20_000))).toBe(true)
  const steps: Steps = [
    ['wait', { ms: (runner.rig.nowUs - settleUs) / 1000 }],
    ['touch', { widget: 'widget:go' }],
    ['expect report', { variable: 'variable:n', value: '43' }],
  ]
  expect(statuses(steps, job.project)).toEqual(['passed', 'passed', 'passed'])
  const never = new Workbench(new Job().project, assets).exchange(null)!
  expect(atOnce(never.waitForTouch(1_000))).toBe(false)
})

test('steps come together, in one step of undo, into an exchange or with a new one', () => {
  const steps = [
    { id: 'step:a', kind: 'wait', settings: { ms: 20 } },
    { id: 'step:b', kind: 'wait' },
  ]
  let p = edited(project, 'add exchange', { id: 'exchange:x', after: '', steps })
  p = edited(p, 'add steps', { exchange: 'exchange:x', after: 'step:a', steps: [{ id: 'step:c', kind: 'wait' }] })
  const { stepOrder, steps: made } = p.exchanges['exchange:x']!
  expect(stepOrder).toEqual(['step:a', 'step:c', 'step:b'])
  expect([made['step:a']!.settings, made['step:b']!.settings]).toEqual([{ ms: 20 }, { ms: 1000 }])
  expect(() => edited(p, 'add steps', { exchange: 'exchange:x', after: '', steps: [{ id: 'step:a', kind: 'wait' }] })).toThrow()
})
