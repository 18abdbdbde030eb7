import { describe, expect, test } from 'vitest'
import { fromHex, mustHold, seededRandom } from '../base/index.ts'
import { Workbench } from '../workbench/index.ts'
import { runExchange, compileExchange } from '../exchanges/index.ts'
import { demo, dome, edited, widgetNamed } from '../testing/demo.ts'
import type { Project } from '../project/index.ts'
import { contactUs, does } from '../testing/actions.ts'

const { project, assets } = demo
const started = (p: Project = project) => {
  const bench = new Workbench(p, assets)
  bench.advance(1_500_000)
  return bench
}
const centre = (name: string) => {
  const { x, y, width, height } = widgetNamed(project, name).place
  return [Math.floor(x + width / 2), Math.floor(y + height / 2)] as const
}
const spoken = (bench: Workbench, since: number) =>
  bench.rig.conversation.since(since).filter((e) => e.message?.operation === 'report' || e.message?.operation === 'event')
const withRules = (rules: unknown, more: Record<string, unknown> = {}) =>
  edited(project, 'set widgets', { ids: [widgetNamed(project, 'Open shutter').id], values: { rules, ...more } })
const set = (to: number) => ({ variable: 'variable:flat_level', to })

describe('fingers', () => {
  test('sliding off cancels what a release inside would have done, and does what a release outside does', () => {
    const bench = started(withRules([does('lifted', 'set', set(1)), does('slid off', 'set', set(2))]))
    const [x, y] = centre('Open shutter')
    bench.rig.panel.touchDown(x, y)
    bench.advance(contactUs)
    bench.rig.panel.touchMove(5, 5)
    bench.rig.panel.touchUp(5, 5)
    expect(bench.values()['variable:flat_level']!.value).toBe(2)
    bench.rig.panel.touchDown(x, y)
    bench.advance(contactUs)
    bench.rig.panel.touchUp(x + 3, y)
    expect(bench.values()['variable:flat_level']!.value).toBe(1)
  })
  test('a page opened under a finger ignores it until it is lifted', () => {
    const bench = started(
      edited(project, 'set widgets', {
        ids: [widgetNamed(project, 'Close shutter').id],
        values: { rules: [does('pressed', 'go to page', { page: 'page:weather' })] },
      }),
    )
    const before = bench.rig.conversation.lastId
    const [x, y] = centre('Close shutter')
    bench.rig.panel.touchDown(x, y)
    bench.advance(contactUs)
    expect(bench.rig.panel.pageNumber).toBe(2)
    bench.rig.panel.touchUp(x, y)
    expect(bench.rig.panel.pageNumber).toBe(2)
    expect(spoken(bench, before)).toEqual([])
  })
  test('what is 1 while held goes back even when the page has changed below the finger', () => {
    const bench = started(withRules([does('pressed', 'while held', { variable: 'variable:flat_level' })]))
    const [x, y] = centre('Open shutter')
    bench.rig.panel.touchDown(x, y)
    bench.advance(contactUs)
    expect(bench.values()['variable:flat_level']!.value).toBe(1)
    bench.rig.panel.memory.setOwn('page', 3)
    bench.rig.panel.touchUp(x, y)
    expect(bench.values()['variable:flat_level']!.value).toBe(0)
  })
  test('repeats while held, once at first, then after its delay', () => {
    const bench = started()
    const [x, y] = centre('Target more')
    bench.rig.panel.touchDown(x, y)
    bench.advance(contactUs)
    expect(bench.values()['variable:dome_target']!.value).toBe(231.5)
    bench.advance(400_000)
    expect(bench.values()['variable:dome_target']!.value).toBe(232)
    bench.advance(300_000)
    expect(bench.values()['variable:dome_target']!.value).toBe(233)
    bench.rig.panel.touchUp(x, y)
    bench.advance(2_000_000)
    expect(bench.values()['variable:dome_target']!.value).toBe(233)
  })
  test('held long comes once, beside the release', () => {
    const bench = started(withRules([does('held', 'send event'), does('lifted', 'send event')], { holdMs: 500 }))
    const before = bench.rig.conversation.lastId
    const [x, y] = centre('Open shutter')
    bench.rig.panel.touchDown(x, y)
    bench.advance(contactUs)
    bench.advance(2_000_000)
    bench.rig.panel.touchUp(x, y)
    bench.advance(200_000)
    expect(spoken(bench, before).map((e) => (e.message as { what?: string }).what)).toEqual(['held', 'lifted'])
  })
  test('every completed touch reports, also when the value did not change; a host write never does', () => {
    const bench = started()
    const before = bench.rig.conversation.lastId
    const [x, y] = centre('Open shutter')
    for (let i = 0; i < 2; i++) {
      bench.rig.panel.touchDown(x, y)
      bench.advance(contactUs)
      bench.rig.panel.touchUp(x, y)
      bench.advance(300_000)
    }
    expect(spoken(bench, before).length).toBe(2)
    const then = bench.rig.conversation.lastId
    bench.hostWrites('variable:dome_target', 12)
    bench.advance(300_000)
    expect(spoken(bench, then)).toEqual([])
  })
  test('a button out of use, or hidden, does nothing', () => {
    for (const values of [{ enabled: false }, { visible: false }, { enabled: { follows: 'variable:shutter_state' } }]) {
      const bench = started(edited(project, 'set widgets', { ids: [widgetNamed(project, 'Open shutter').id], values }))
      const before = bench.rig.conversation.lastId
      const [x, y] = centre('Open shutter')
      bench.rig.panel.touchDown(x, y)
      bench.advance(contactUs)
      bench.rig.panel.touchUp(x, y)
      bench.advance(200_000)
      expect(spoken(bench, before)).toEqual([])
    }
  })
})

describe('what a host may write', () => {
  const send = (hex: string) => {
    const bench = started()
    const before = bench.rig.conversation.lastId
    const memory = bench.rig.panel.memory.words.slice()
    bench.rig.host.silent = true
    bench.sendRaw('to panel', mustHold(fromHex(hex)))
    bench.advance(200_000)
    const entries = bench.rig.conversation.since(before).filter((e) => e.verdict !== null || e.kind === 'bad')
    return {
      bench,
      memory,
      entries,
      heard: bench.rig.conversation
        .since(before)
        .find((e) => e.direction === 'to panel' && e.bytes.length > 2 && (e.message?.sequence === 5 || e.kind === 'bad'))!,
    }
  }
  const frame = (bench: Workbench, message: object) => {
    const bytes = bench.rig.panel['protocol'].encode('to panel', { sequence: 5, ...message } as never)
    return Array.from(mustHold(bytes), (b) => b.toString(16).padStart(2, '0')).join(' ')
  }
  const plain = started()
  test.each([
    ['the version, which is the panel’s', { operation: 'write', address: 0xff06, payload: Uint8Array.of(1, 0) }, 'not writable'],
    ['a page there is not', { operation: 'write', address: 0xff00, payload: Uint8Array.of(9, 0) }, 'value'],
    ['a backlight of 0', { operation: 'write', address: 0xff01, payload: Uint8Array.of(0, 0) }, 'value'],
    ['below memory', { operation: 'write', address: 0x2, payload: Uint8Array.of(0, 0) }, 'address'],
    ['over the end of memory', { operation: 'write', address: 0xfeff, payload: Uint8Array.of(0, 0, 0, 0) }, 'address'],
    ['past the last address', { operation: 'ask', address: 0xffff, words: 100 }, 'address'],
    ['half a word', { operation: 'write', address: 0x12, payload: Uint8Array.of(1, 2, 3) }, 'length'],
    ['nothing', { operation: 'write', address: 0x12, payload: new Uint8Array(0) }, 'length'],
    ['no words', { operation: 'ask', address: 0x12, words: 0 }, 'length'],
    ['bits of the version', { operation: 'set bits', address: 0xff06, mask: 1, bits: 1 }, 'not writable'],
  ])('%s is refused with a reason, and nothing is written', (_, message, reason) => {
    const { bench, heard, memory } = send(frame(plain, message))
    expect([heard.verdict, heard.reason]).toEqual(['refused', reason])
    const answer = bench.rig.conversation.get(heard.answeredBy!)!
    expect(answer.message).toMatchObject({ operation: 'refused', sequence: 5, reason })
    for (const { cell } of bench.build.header.cells)
      expect(bench.rig.panel.memory.words.slice(cell.address, cell.address + cell.words)).toEqual(
        memory.slice(cell.address, cell.address + cell.words),
      )
  })
  test('a value out of range is stored as sent, shown as it is, and marked in the conversation', () => {
    const { bench, heard } = send(frame(plain, { operation: 'write', address: 0x12, payload: Uint8Array.of(0x10, 0x27) }))
    expect(heard.verdict).toBe('out of range')
    expect(bench.values()['variable:dome_target']).toMatchObject({ value: 1000, inRange: false })
    expect(bench.rig.panel.shows(widgetNamed(project, 'Target').number)).toBe('1000.0°')
  })
  test('set bits touches only its mask', () => {
    const { bench } = send(frame(plain, { operation: 'set bits', address: 0x30, mask: 0b110, bits: 0b011 }))
    expect(bench.values()['variable:weather_flags']!.value).toBe(0b010)
  })
  test('no bytes whatever stop the panel', () => {
    const random = seededRandom(Number(process.env['SEED'] ?? 4600))
    const bench = started()
    for (let i = 0; i < 400; i++) {
      const bytes = Uint8Array.from({ length: 1 + random.below(60) }, () => (random.below(4) ? random.below(256) : 0x7e))
      bench.sendRaw(random.below(2) ? 'to panel' : 'to host', bytes)
      bench.advance(random.below(80_000))
    }
    bench.advance(3_000_000)
    bench.paint()
    const before = bench.rig.conversation.lastId
    bench.hostWrites('variable:dome_target', 10)
    bench.advance(100_000)
    expect(bench.rig.conversation.since(before).some((e) => e.verdict === 'ok')).toBe(true)
  })
})

describe('reports', () => {
  test('are repeated until the tries are used up, with the same sequence, and then given up', () => {
    const bench = started()
    bench.rig.line.trouble.lose['to host'] = 99
    const before = bench.rig.conversation.lastId
    const [x, y] = centre('Open shutter')
    bench.rig.panel.touchDown(x, y)
    bench.advance(contactUs)
    bench.rig.panel.touchUp(x, y)
    bench.advance(2_000_000)
    const lost = bench.rig.conversation
      .since(before)
      .filter((e) => e.kind === 'lost' && e.bytes[1] !== undefined && (e.bytes[1] & 15) === 5)
    expect(lost.map((e) => e.attempt)).toEqual([1, 2, 3])
    expect(new Set(lost.map((e) => e.bytes.join())).size).toBe(1)
    expect(bench.rig.panel.talk.lost).toBe(1)
  })
  test('a repeat whose answer was lost is recognised and not acted on twice', () => {
    const bench = started()
    const before = bench.rig.conversation.lastId
    bench.rig.host.silent = false
    const [x, y] = centre('Open shutter')
    bench.rig.panel.touchDown(x, y)
    bench.advance(contactUs)
    bench.rig.panel.touchUp(x, y)
    bench.advance(6_000)
    bench.rig.line.trouble.lose['to panel'] = 4
    bench.advance(1_000_000)
    expect(bench.rig.conversation.since(before).filter((e) => e.verdict === 'repeated').length).toBeGreaterThan(0)
    bench.advance(6_000_000)
    expect(bench.values()['variable:shutter_state']!.value).toBe(2)
  })
})

describe('exchanges that fail say why', () => {
  const failing = (kind: string, settings: Record<string, unknown>, first: [string, Record<string, unknown>][] = []) => {
    let p = edited(project, 'add exchange', { id: 'exchange:x', after: '', name: 'x' })
    ;[...first, [kind, settings] as const].forEach(
      ([k, s], i) => (p = edited(p, 'add step', { exchange: 'exchange:x', id: `step:x${i}`, kind: k, after: '', settings: s })),
    )
    const bench = new Workbench(p, assets)
    return runExchange(bench.build, bench.hostBuild, compileExchange(p, p.exchanges['exchange:x']!))
  }
  const open = widgetNamed(project, 'Open shutter').id
  const touch: [string, Record<string, unknown>] = ['touch', { widget: open }]
  test.each([
    ['expect report', { variable: 'variable:shutter_order', value: 'close' }, [touch], 'exchange.other-value'],
    ['expect report', { variable: 'variable:dome_target', value: '231.0' }, [touch], 'exchange.something-else'],
    ['expect report', { variable: 'variable:shutter_order', value: 'open', withinMs: 200 }, [], 'exchange.nothing-came'],
    ['expect report', { variable: 'variable:shutter_order', value: 'ajar' }, [touch], 'exchange.value'],
    ['expect report', { variable: '' }, [touch], 'exchange.no-variable'],
    ['expect nothing', { ms: 100 }, [touch], 'exchange.something-came'],
    ['expect memory', { variable: 'variable:dome_target', value: '100.0', withinMs: 50 }, [], 'exchange.other-memory'],
    ['expect shown', { widget: widgetNamed(project, 'Target').id, text: '0', withinMs: 50 }, [], 'exchange.other-shown'],
    ['expect page', { page: 'page:setup', withinMs: 50 }, [], 'exchange.other-page'],
    ['expect answer', { from: 'host', answer: 'refused', withinMs: 100 }, [touch], 'exchange.other-answer'],
    ['touch', { widget: widgetNamed(project, 'Flat slider').id }, [], 'exchange.touch.not on this page'],
    ['touch', { widget: open, gesture: 'release' }, [], 'exchange.touch.no-finger'],
    ['host sends bytes', { bytes: '7E xx' }, [], 'bytes.digit'],
  ] as const)('%s %j', (kind, settings, first, code) => {
    const result = failing(kind, settings, first as never)
    expect(result.passed).toBe(false)
    expect(result.steps.at(-1)!.problem?.code).toBe(code)
  })
  test('bytes stand side by side, and differ', () => {
    const step = failing('expect report', { variable: 'variable:shutter_order', value: 'close' }, [touch]).steps.at(-1)!
    expect(step.expectedBytes!.length).toBe(step.cameBytes!.length)
    expect(step.expectedBytes).not.toEqual(step.cameBytes)
    expect([step.expected, step.came]).toEqual(['close', 'open'])
  })
  test('a report no step expected fails at the end, unless others are allowed', () => {
    const result = failing('wait', { ms: 200 }, [touch])
    expect([result.passed, result.leftOver?.message?.operation]).toEqual([false, 'report'])
  })
  test('a widget covered by another fails the step by name', () => {
    const p = edited(project, 'add widgets', {
      page: dome,
      after: '',
      widgets: [{ id: 'widget:lid', kind: 'button', name: 'lid', place: widgetNamed(project, 'Open shutter').place }],
    })
    const bench = started(p)
    expect(bench.rig.panel.pointOn(widgetNamed(p, 'Open shutter').number)).toMatchObject({
      why: 'covered',
      by: p.widgets['widget:lid']!.number,
    })
  })
})
