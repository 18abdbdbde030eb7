import { describe, expect, test } from 'vitest'
import { Workbench } from '../workbench/index.ts'
import { demo, edited, widgetNamed } from '../testing/demo.ts'
import { contactUs, does } from '../testing/actions.ts'
import type { Project } from '../project/index.ts'

const { project, assets } = demo
const level = 'variable:flat_level'
const started = (p: Project = project) => {
  const bench = new Workbench(p, assets)
  bench.advance(1_500_000)
  return bench
}
const of = (p: Project, name: string) => {
  const { x, y, width, height } = widgetNamed(p, name).place
  return [Math.floor(x + width / 2), Math.floor(y + height / 2)] as const
}
const openWith = (rules: unknown, more: Record<string, unknown> = {}) =>
  edited(project, 'set widgets', { ids: [widgetNamed(project, 'Open shutter').id], values: { rules, ...more } })
const press = (bench: Workbench, [x, y]: readonly [number, number], ms = 60) => {
  bench.rig.panel.touchDown(x, y)
  bench.advance(ms * 1000)
  bench.rig.panel.touchUp(x, y)
}
const valueOf = (bench: Workbench, id = level) => bench.values()[id]!.value
const reports = (bench: Workbench, since: number) =>
  bench.rig.conversation
    .since(since)
    .filter((e) => e.direction === 'to host' && e.message?.operation === 'report' && e.attempt === 1)
const sets = (to: number) => does('pressed', 'set', { variable: level, to })

describe('what counts as a touch', () => {
  test('a contact shorter than 30 ms does not; the panel may be told otherwise', () => {
    const p = openWith([sets(7)])
    const bench = started(p)
    press(bench, of(p, 'Open shutter'), 29)
    expect(valueOf(bench)).not.toBe(7)
    press(bench, of(p, 'Open shutter'), 30)
    expect(valueOf(bench)).toBe(7)
    const at = started(edited(p, 'set panel', { values: { contactMs: 0 } }))
    press(at, of(p, 'Open shutter'), 0)
    expect(valueOf(at)).toBe(7)
  })
  test('a touch within 150 ms of a page’s opening does not', () => {
    const p = openWith([sets(7)])
    for (const [afterUs, value] of [
      [149_000, 58],
      [150_000, 7],
    ] as const) {
      const bench = started(edited(p, 'set variable', { id: level, values: { initial: 58 } }))
      bench.rig.panel.memory.setOwn('page', 2)
      bench.rig.panel.memory.setOwn('page', 1)
      bench.advance(afterUs)
      press(bench, of(p, 'Open shutter'))
      expect(valueOf(bench)).toBe(value)
    }
  })
})

describe('what lasts while it is held', () => {
  const p = openWith([does('pressed', 'while held', { variable: level, everyMs: 0 })], {
    enabled: { follows: 'variable:shutter_order' },
  })
  const held = edited(p, 'set variable', { id: 'variable:shutter_order', values: { initial: 1 } })
  const down = () => {
    const bench = started(held)
    bench.rig.panel.touchDown(...of(held, 'Open shutter'))
    bench.advance(contactUs)
    expect(valueOf(bench)).toBe(1)
    return bench
  }
  test.each<[string, (bench: Workbench) => void]>([
    ['lifting', (b) => b.rig.panel.touchUp(...of(held, 'Open shutter'))],
    ['sliding off', (b) => b.rig.panel.touchMove(5, 5)],
    ['another page', (b) => b.rig.panel.memory.setOwn('page', 3)],
    ['disabling', (b) => void b.rig.panel.memory.hostWrite(held.variables['variable:shutter_order' as never]['address'], [0, 0])],
    ['dimming', (b) => void b.rig.panel.memory.setOwn('backlight', 20)],
    [
      'an edit that takes its widget away',
      (b) => b.take(edited(held, 'delete widgets', { ids: [widgetNamed(held, 'Open shutter').id] })),
    ],
  ])('ends by %s, and stays ended', (_what, end) => {
    const bench = down()
    end(bench)
    expect(valueOf(bench)).toBe(0)
    bench.advance(1_000_000)
    expect(valueOf(bench)).toBe(0)
  })
  test('is said again and again, so that a host can stop on silence, at most every 100 ms', () => {
    const again = started(openWith([does('pressed', 'while held', { variable: level, everyMs: 40 })]))
    const before = again.rig.conversation.lastId
    again.rig.panel.touchDown(...of(project, 'Open shutter'))
    again.advance(contactUs + 1_000_000)
    const count = reports(again, before).length
    expect(count).toBeGreaterThanOrEqual(9)
    expect(count).toBeLessThanOrEqual(11)
    again.rig.panel.touchUp(...of(project, 'Open shutter'))
    again.advance(300_000)
    expect(reports(again, before).at(-1)!.message).toMatchObject({ payload: [0, 0] })
  })
})

describe('what the host does not get', () => {
  test('a host that was away gets none of twenty presses that it missed, and the glass goes back to what both knew', () => {
    const p = openWith([does('pressed', 'step', { variable: level, by: 1, atEnd: 'stop' })])
    const bench = started(p)
    const agreed = valueOf(bench)
    bench.rig.host.silent = true
    bench.rig.line.trouble.lose['to host'] = 10_000
    for (let k = 0; k < 20; k++) {
      press(bench, of(p, 'Open shutter'))
      bench.advance(40_000)
    }
    expect(valueOf(bench)).not.toBe(agreed)
    bench.advance(2_000_000)
    expect(valueOf(bench)).toBe(agreed)
    bench.rig.line.trouble.lose['to host'] = 0
    bench.rig.host.silent = false
    const { lastId } = bench.rig.conversation
    bench.advance(3_000_000)
    const level0 = project.variables[level as never]['address']
    expect(
      bench.rig.conversation.since(lastId).filter((e) => e.direction === 'to host' && e.message?.address === level0),
    ).toEqual([])
  })
  test('what it refuses goes back, and the widget shows that it failed for two seconds', () => {
    let p = openWith([sets(99)])
    p = edited(p, 'add to host', {
      part: 'reactions',
      id: 'reaction:no',
      after: null,
      settings: { on: 'report', variable: level, answer: 'refused', reason: 'busy' },
    })
    const bench = started(p)
    const agreed = valueOf(bench)
    const widget = widgetNamed(p, 'Open shutter')
    press(bench, of(p, 'Open shutter'), 35)
    expect(valueOf(bench)).toBe(99)
    bench.paint()
    bench.advance(300_000)
    expect([valueOf(bench), bench.rig.panel.hasFailed(widget.number)]).toEqual([agreed, true])
    const red = () => {
      bench.paint()
      return bench.rig.panel.glass.surface.pixels[(widget.place.y + 1) * 800 + widget.place.x + 40]
    }
    const marked = red()
    bench.advance(2_000_000)
    expect(bench.rig.panel.hasFailed(widget.number)).toBe(false)
    expect(red()).not.toBe(marked)
  })
  test('a newer report takes the place of one that waits', () => {
    const bench = started()
    bench.rig.host.silent = true
    const { talk } = bench.rig.panel
    const before = bench.rig.conversation.lastId
    for (const value of [1, 2, 3, 4]) talk.say({ operation: 'report', address: 0x40, payload: [value, 0] })
    talk.say({ operation: 'report', address: 0x41, payload: [9, 0] })
    bench.rig.host.silent = false
    bench.advance(1_000_000)
    const said = bench.rig.conversation.since(before).filter((e) => e.message?.operation === 'report' && e.verdict === 'ok')
    expect(said.map((e) => (e.message as unknown as { payload: number[] }).payload[0])).toEqual([1, 4, 9])
  })
})

describe('limits bind touches as they bind hosts', () => {
  test.each([
    ['a page there is not', 'variable:own-page', 77],
    ['no backlight', 'variable:own-backlight', 0],
    ['the stamp of the build', 'variable:own-version', 5],
  ])('%s is not set by a button', (_what, variable, to) => {
    const p = openWith([does('pressed', 'set', { variable, to })])
    const bench = started(p)
    press(bench, of(p, 'Open shutter'))
    const { memory } = bench.rig.panel
    expect([memory.own('page'), memory.own('backlight') > 0, memory.own('version')]).toEqual([
      1,
      true,
      bench.build.header.version,
    ])
  })
  test('a number is kept in its range, and a run reads its own writes', () => {
    const lines = [
      { action: 'set', with: { variable: level, to: 5000 } },
      { action: 'step', with: { variable: level, by: -1, atEnd: 'stop' } },
    ]
    const p = openWith([{ on: { moment: 'pressed', everyMs: 0 }, lines }])
    const bench = started(p)
    press(bench, of(p, 'Open shutter'))
    expect(valueOf(bench)).toBe(99)
  })
  test('so are bits: two actions on one word leave both, and the press is known to send them in one report', () => {
    const bits = (mask: number) => ({ action: 'set bits', with: { variable: level, mask } })
    const p = edited(openWith([{ on: { moment: 'pressed', everyMs: 0 }, lines: [bits(1), bits(4)] }]), 'set variable', {
      id: level,
      values: { initial: 0 },
    })
    const bench = started(p)
    const frames = bench.framesOf(widgetNamed(p, 'Open shutter').id, 'pressed')
    expect(frames.map(({ message }) => (message as unknown as { payload: number[] }).payload[0])).toEqual([5])
    press(bench, of(p, 'Open shutter'))
    expect(valueOf(bench)).toBe(5)
  })
  test('what a press would send is known before it is pressed, and nothing is done by asking', () => {
    const bench = started()
    const open = widgetNamed(project, 'Open shutter')
    const before = [valueOf(bench, 'variable:shutter_order'), bench.rig.conversation.lastId]
    const [frame] = bench.framesOf(open.id, 'pressed')
    expect([valueOf(bench, 'variable:shutter_order'), bench.rig.conversation.lastId]).toEqual(before)
    press(bench, of(project, 'Open shutter'))
    bench.advance(300_000)
    const [report] = reports(bench, before[1] as number)
    expect(Array.from(report!.bytes)).toEqual(Array.from(frame!.bytes))
  })
})

describe('a slider', () => {
  const place = widgetNamed(project, 'Flat slider').place
  const at = (part: number) => [Math.round(place.x + 12 + (place.width - 24) * part), place.y + 10] as const
  const onSetup = () => {
    const bench = started()
    bench.rig.panel.memory.setOwn('page', 3)
    bench.advance(200_000)
    return bench
  }
  test('sets its variable as it is pulled, reports at most every 100 ms, and the last value always', () => {
    const bench = onSetup()
    const before = bench.rig.conversation.lastId
    bench.rig.panel.touchDown(...at(0))
    bench.advance(contactUs)
    expect(valueOf(bench)).toBe(0)
    for (let k = 1; k <= 50; k++) {
      bench.rig.panel.touchMove(...at(k / 50))
      bench.advance(10_000)
    }
    bench.rig.panel.touchUp(...at(1))
    bench.advance(500_000)
    const sent = reports(bench, before).map((e) => (e.message as unknown as { payload: number[] }).payload[0])
    expect(sent.length).toBeLessThanOrEqual(8)
    expect([sent[0], sent.at(-1), valueOf(bench)]).toEqual([0, 100, 100])
  })
  test('is not moved by the host while a finger holds it; the last value counts', () => {
    const bench = onSetup()
    const slider = widgetNamed(project, 'Flat slider')
    bench.rig.panel.touchDown(...at(0.5))
    bench.advance(contactUs)
    const shown = bench.rig.panel.shows(slider.number)
    bench.hostWrites(level, 3)
    bench.advance(200_000)
    expect([bench.rig.panel.shows(slider.number), valueOf(bench)]).toEqual([shown, 3])
    bench.rig.panel.touchUp(...at(0.5))
    bench.advance(200_000)
    expect(valueOf(bench)).toBe(50)
  })
})

test('a trend samples while another page shows, goes on under edits, and begins anew at power-on', () => {
  const bench = started()
  const trend = widgetNamed(project, 'Wind trend')
  const samples = () => (bench.rig.panel['states'].of(bench.rig.panel['widgets'].of(trend.number)!) as { taken: number }).taken
  bench.advance(60_000_000)
  const taken = samples()
  expect(taken).toBeGreaterThanOrEqual(12)
  bench.take(edited(project, 'place widgets', { places: { [trend.id]: { x: trend.place.x + 1 } } }))
  bench.advance(10_000_000)
  expect(samples()).toBe(taken + 2)
  bench.rig.powerCycle('panel')
  expect(samples()).toBe(0)
})

describe('an entry and its keypad', () => {
  const keyAt = (name: string) => of(project, `Key ${name}`)
  const open = () => {
    const bench = started()
    bench.rig.panel.memory.setOwn('page', 3)
    bench.advance(200_000)
    press(bench, of(project, 'Typed level'))
    bench.advance(200_000)
    expect(bench.rig.panel.popUpNumber).toBe(4)
    return bench
  }
  const typed = (bench: Workbench, ...names: string[]) => {
    for (const name of names) {
      press(bench, keyAt(name))
      bench.advance(50_000)
    }
  }
  const shows = (bench: Workbench, name: string) => bench.rig.panel.shows(widgetNamed(project, name).number)
  test('what is typed is shown there and on the keypad, and written when it is accepted', () => {
    const bench = open()
    typed(bench, '4', '2', '7', 'Del')
    expect([shows(bench, 'Typed level'), shows(bench, 'What is typed')]).toEqual(['42', '42'])
    expect(valueOf(bench)).toBe(58)
    const before = bench.rig.conversation.lastId
    typed(bench, 'OK')
    expect([valueOf(bench), bench.rig.panel.popUpNumber]).toEqual([42, 0])
    bench.advance(200_000)
    expect(reports(bench, before).length).toBe(1)
  })
  test('what the variable cannot hold is not accepted, and stays to be mended', () => {
    const bench = open()
    typed(bench, '9', '9', '9', 'OK')
    expect([valueOf(bench), bench.rig.panel.popUpNumber, shows(bench, 'What is typed')]).toEqual([58, 4, '999'])
    typed(bench, 'Clear', '7', 'OK')
    expect([valueOf(bench), bench.rig.panel.popUpNumber]).toEqual([7, 0])
  })
  test('Cancel, another page and an edit that takes the keypad away close it, and nothing was written', () => {
    const ways: ((bench: Workbench) => void)[] = [
      (bench) => typed(bench, 'Cancel'),
      (bench) => bench.rig.panel.memory.setOwn('page', 1),
      (bench) => bench.take(edited(project, 'delete page', { id: 'page:keypad' })),
    ]
    for (const close of ways) {
      const bench = open()
      typed(bench, '5')
      close(bench)
      expect([valueOf(bench), bench.rig.panel.popUpNumber]).toEqual([58, 0])
    }
  })
  test('while it is open, what lies below takes no touch', () => {
    const bench = open()
    press(bench, of(project, 'Pages'))
    expect([bench.rig.panel.pageNumber, bench.rig.panel.popUpNumber]).toEqual([3, 4])
  })
})
