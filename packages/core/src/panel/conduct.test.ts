import { describe, expect, test } from 'vitest'
import { noFace } from '../faces/index.ts'
import { Job, flags, tenths, whole, words } from '../testing/job.ts'
import type { Holds, NumberHolds } from '../variables/index.ts'

const line = (action: string, values: Record<string, unknown> = {}) => ({ action, with: values })
const at = (moment: string, ...lines: unknown[]) => ({ on: { moment, everyMs: 0 }, lines })
const every = (everyMs: number, ...lines: unknown[]) => ({ on: { moment: 'time', everyMs }, lines })
const press = (...lines: unknown[]) => ({ rules: [at('pressed', ...lines)] })
const light = (job: Job) => job.panel.memory.own('backlight')

describe('nobody touches it', () => {
  const dims = () =>
    new Job()
      .edit('set conduct', { values: { dimAfterS: 10, dimTo: 2 } })
      .variable('count', whole(0, 99))
      .widget('button', 'more', [20, 20, 100, 60], press(line('step', { variable: 'variable:count', by: 1, atEnd: 'stop' })))

  test('the glass dims, no further than anybody reads; the touch that wakes it does nothing else', () => {
    const job = dims().wait(9_900)
    expect(light(job)).toBe(100)
    // The profile says 5 %.
    expect(light(job.wait(200))).toBe(5)
    job.press('more')
    expect([light(job), job.value('count')]).toEqual([100, 0])
    job.press('more')
    expect(job.value('count')).toBe(1)
    expect(light(job.wait(10_100))).toBe(5)
  })
  test('a light that the host has set meanwhile is the light', () => {
    const job = dims().wait(10_100)
    job.host('own-backlight', 60)
    expect(light(job.press('more'))).toBe(60)
    expect(job.value('count')).toBe(1)
  })
  test('it goes to the page it is to wait on', () => {
    const job = new Job().page('menu').edit('set conduct', { values: { homeAfterS: 5 } })
    job.wait(100).panel.memory.setOwn('page', 2)
    expect(job.wait(4_000).page_).toBe('menu')
    expect(job.wait(6_000).page_).toBe('Page 1')
    job.edit('set conduct', { values: { homePage: 'page:menu' } })
    expect(job.wait(6_000).page_).toBe('menu')
  })
})

test('no touch and no rule makes the glass darker than anybody reads; a host may', () => {
  const job = new Job()
    .widget('slider', 'light', [20, 20, 300, 40], { variable: 'variable:own-backlight' })
    .widget('button', 'off', [20, 100, 100, 60], press(line('set', { variable: 'variable:own-backlight', to: 1 })))
    .wait(300)
  job.down('light').move('light', -50, 50).up('light', -50, 50)
  expect(light(job)).toBe(5)
  expect(light(job.press('off'))).toBe(5)
  expect(light(job.host('own-backlight', 1))).toBe(1)
})

describe('pages', () => {
  const go = (page: string) => press(line('go to page', { page }))
  test('go back, eight deep, and to the start', () => {
    const job = new Job().page('b').page('c')
    job.widget('button', 'ab', [0, 0, 90, 60], go('page:b'))
    job.widget('button', 'bc', [0, 0, 90, 60], go('page:c'), 'page:b')
    job.widget('button', 'back', [0, 100, 90, 60], press(line('go back')), 'page:c')
    job.widget('button', 'back-b', [0, 100, 90, 60], press(line('go back')), 'page:b')
    job.widget('button', 'start', [0, 200, 90, 60], press(line('open start page')), 'page:c')
    job.wait(300).press('ab').wait(300).press('bc').wait(300)
    expect(job.page_).toBe('c')
    expect(job.press('back').wait(300).page_).toBe('b')
    expect(job.press('back-b').wait(300).page_).toBe('Page 1')
    job.press('ab').wait(300).press('bc').wait(300)
    expect(job.press('start').page_).toBe('Page 1')
  })
  test('are shown for a while, and a touch skips them where it may', () => {
    const job = new Job().page('second').page('third')
    job.edit('set page', { id: job.first, values: { showsForMs: 700, thenPage: 'page:second' } })
    job.edit('set page', { id: 'page:second', values: { showsForMs: 5000, thenPage: 'page:third', skips: true } })
    expect(job.wait(600).page_).toBe('Page 1')
    expect(job.wait(200).page_).toBe('second')
    job.panel.touchDown(5, 5)
    expect(job.page_).toBe('third')
    job.panel.touchUp(5, 5)
  })
  test('do what they do when opened, left, and as time goes on; the panel when it starts', () => {
    const count = (name: string) => line('step', { variable: `variable:${name}`, by: 1, atEnd: 'stop' })
    const job = new Job()
    for (const name of ['opened', 'left', 'ticks', 'started', 'own']) job.variable(name, whole(0, 999))
    job.page('other', { rules: [at('opened', count('opened')), at('left', count('left')), every(100, count('ticks'))] })
    job.edit('set conduct', { values: { rules: [at('started', count('started')), every(1000, count('own'))] } })
    job.wait(2_500)
    job.panel.memory.setOwn('page', 2)
    job.wait(1_050)
    job.panel.memory.setOwn('page', 1)
    job.wait(1_000)
    expect(['opened', 'left', 'ticks', 'started', 'own'].map((name) => job.value(name))).toEqual([1, 1, 10, 1, 4])
  })
  test('that open each other without end stop, and the log says so', () => {
    const job = new Job().page('ping').page('pong', { rules: [at('opened', line('go to page', { page: 'page:ping' }))] })
    job.edit('set page', { id: 'page:ping', values: { rules: [at('opened', line('go to page', { page: 'page:pong' }))] } })
    job.wait(100).panel.memory.setOwn('page', 2)
    job.wait(100)
    expect(job.bench.rig.events.since(0).map((e) => e.what)).toContain('loop')
    expect(['ping', 'pong']).toContain(job.page_)
  })
  test('share a layer, that is drawn and touched on each of them', () => {
    const job = new Job().page('frame', {}, 'layer').page('b', { layer: 'page:frame' })
    job.edit('set page', { id: job.first, values: { layer: 'page:frame' } }).variable('n', whole(0, 9))
    job.widget(
      'button',
      'step',
      [10, 10, 90, 60],
      press(line('step', { variable: 'variable:n', by: 1, atEnd: 'stop' })),
      'page:frame',
    )
    job.wait(300).press('step').panel.memory.setOwn('page', 3)
    job.wait(300).press('step')
    expect([job.page_, job.value('n')]).toEqual(['b', 2])
  })
})

test('while the glass is cleaned no touch counts', () => {
  const job = new Job()
    .variable('n', whole(0, 9))
    .widget('button', 'lock', [0, 0, 90, 60], press(line('lock touch', { seconds: 3 })))
    .widget('button', 'step', [100, 0, 90, 60], press(line('step', { variable: 'variable:n', by: 1, atEnd: 'stop' })))
  job.wait(300).press('lock').press('step').wait(2_000).press('step')
  expect(job.value('n')).toBe(0)
  expect(job.wait(1_500).press('step').value('n')).toBe(1)
})

test('four values of a page travel as one set when it is left: those side by side in one frame', () => {
  const job = new Job().page('menu').edit('set page', { id: 'page:menu', values: { sends: 'on leaving' } })
  const places: [string, number][] = [['a', 0x20], ['b', 0x21], ['c', 0x22], ['d', 0x30]] // prettier-ignore
  places.forEach(([name, address], k) => {
    job.variable(name, whole(0, 99), { address })
    job.widget(
      'button',
      `set-${name}`,
      [k * 95, 0, 90, 60],
      press(line('set', { variable: `variable:${name}`, to: 10 + k })),
      'page:menu',
    )
  })
  job.widget('button', 'done', [0, 100, 90, 60], press(line('go to page', { page: job.first })), 'page:menu')
  job.wait(300).panel.memory.setOwn('page', 2)
  job.wait(300)
  const since = job.mark
  for (const [name] of places) job.press(`set-${name}`)
  job.wait(500)
  expect(job.reports(since)).toEqual([])
  job.press('done').wait(500)
  expect(job.reports(since)).toEqual([
    [0x20, 10, 11, 12],
    [0x30, 13],
  ])
})

describe('what the host owns', () => {
  const seen = () =>
    new Job()
      .variable('wind', tenths(0, 60, 'm/s'), { travels: 'host to panel', stale: { afterMs: 0, shows: 'dashes' } })
      .widget('number', 'wind', [0, 0, 150, 50], {
        variable: 'variable:wind',
        digits: 2,
      })
  test('shows nothing before it was said, and nothing when the host is gone', () => {
    const job = seen().wait(300)
    expect(job.shows('wind')).toBe('---')
    expect(job.host('wind', 4.2).shows('wind')).toBe('4.2 m/s')
    expect(job.wait(2_000).shows('wind')).toBe('4.2 m/s')
    job.bench.rig.host.silent = true
    expect(job.wait(5_000).shows('wind')).toBe('---')
    job.bench.rig.host.silent = false
    expect(job.host('wind', 4.2).shows('wind')).toBe('4.2 m/s')
  })
  test('shows what was said, though it be what stood there to begin with', () => {
    const job = seen().wait(300)
    job.bench.paint()
    const before = [...job.panel.glass.surface.pixels]
    expect(job.host('wind', 0).shows('wind')).toBe('0.0 m/s')
    job.bench.paint()
    expect([...job.panel.glass.surface.pixels]).not.toEqual(before)
  })
  test('shows the start value that somebody chose until it is said, as whoever edits sees it', () => {
    const time = { type: 'time' } as const
    const starts = { travels: 'host to panel', stale: { afterMs: 0, shows: 'dashes' } }
    const job = new Job()
      .variable('opens', time, { ...starts, initial: 45_007 })
      .variable('shuts', time, starts)
      .widget('number', 'opens', [0, 0, 150, 50], { variable: 'variable:opens' })
      .widget('clock', 'closing', [0, 60, 150, 50], { time: 'variable:opens' })
      .widget('clock', 'shuts', [0, 120, 150, 50], { time: 'variable:shuts' })
      .wait(300)
    const shown = () => ['opens', 'closing', 'shuts'].map((name) => job.shows(name))
    expect(shown()).toEqual(['12:30:07', '12:30:07', '--:--:--'])
    job.host('opens', 0).host('shuts', 60)
    expect(shown()).toEqual(['00:00:00', '00:00:00', '00:01:00'])
  })
  test('has its start value for whoever edits', () => {
    const job = seen()
    const { desk } = job.panel
    desk.show([job.bench.build.header.pages[0]!])
    expect(desk.shows(job.bench.build.header.pages[0]!.widgets[0]!)).toBe('0.0 m/s')
  })
})

describe('alarms', () => {
  const listed = () =>
    new Job()
      .page('weather')
      .variable('weather', flags('rain', 'wind'), { travels: 'host to panel' })
      .variable('active', flags('rain', 'wind'), { travels: 'panel to host' })
      .variable('seen', flags('rain', 'wind'))
      .edit('set conduct', { values: { dimAfterS: 10, dimTo: 10 } })
      .widget(
        'alarms',
        'list',
        [0, 0, 300, 120],
        {
          alarms: [
            { text: 'Rain', variable: 'variable:weather', bit: 0, weight: 'middle' },
            { text: 'Wind', variable: 'variable:weather', bit: 1, weight: 'heavy' },
          ],
          activeIn: 'variable:active',
          seenIn: 'variable:seen',
        },
        'page:weather',
      )
  test('come, wake the glass, are seen by a touch, and go: on whatever page; the host is told', () => {
    const job = listed().wait(11_000)
    expect(light(job)).toBe(10)
    const since = job.mark
    job.host('weather', 1).wait(100)
    expect([light(job), job.value('active'), job.shows('list')]).toEqual([100, 1, 'Rain'])
    expect(job.bench.rig.events.since(0).some((e) => e.what === 'beep')).toBe(true)
    job.host('weather', 3).panel.memory.setOwn('page', 2)
    expect(job.wait(300).shows('list')).toBe('Wind, Rain')
    // The newest is the first row.
    job.press('list', 60, 50, 15)
    expect(job.value('seen')).toBe(2)
    job.host('weather', 0).wait(200)
    // The one nobody has seen stays until somebody has.
    expect([job.value('active'), job.shows('list')]).toEqual([0, 'Rain'])
    expect(job.reports(since).length).toBeGreaterThanOrEqual(4)
    job.press('list', 60, 50, 15)
    expect(job.shows('list')).toBe('No alarms')
  })
  test('are seen by the host, too, and come again as new ones', () => {
    const job = listed().wait(300).host('weather', 1).wait(100)
    job.host('seen', 1).host('weather', 0).wait(100)
    expect(job.shows('list')).toBe('No alarms')
    job.host('weather', 1).wait(200)
    expect([job.shows('list'), job.value('seen')]).toEqual(['Rain', 0])
  })
})

test('clock, date, weekday and minute go on together over midnight', () => {
  const job = new Job()
    .widget('clock', 'time', [0, 0, 200, 40])
    .widget('clock', 'day', [0, 50, 300, 40], { style: 'weekday and date' })
    .wait(300)
  expect([job.shows('time'), job.shows('day')]).toEqual(['--:--:--', '--- -- --- ----'])
  job.host('own-clock', 86_395).host('own-date', 9418)
  expect(job.shows('day')).toBe('Tue 14 Oct 2025')
  expect(job.wait(5_200).shows('day')).toBe('Wed 15 Oct 2025')
  expect([job.panel.memory.own('minute'), job.panel.memory.own('weekday')]).toEqual([0, 3])
  job.edit('set conduct', { values: { twelve: true, date: 'year month day' } })
  expect([job.shows('time'), job.shows('day')]).toEqual([expect.stringMatching(/^12:00:0\d am$/), 'Wed 2025-10-15'])
})

describe('an order and what it leads to', () => {
  const ordered = () =>
    new Job()
      .variable('order', words('stop', 'open'), { travels: 'panel to host' })
      .variable('state', words('closed', 'moving', 'open'), { travels: 'host to panel' })
      .widget('button', 'open', [0, 0, 120, 60], {
        text: 'Open',
        works: 'sets its value',
        variable: 'variable:order',
        value: 1,
        shows: 'variable:state',
        reaches: 2,
        pendingText: 'Opening',
        failedText: 'No answer',
        failAfterMs: 3000,
      })
      .wait(300)
  test('is pending until it has come about', () => {
    const job = ordered()
    expect(job.shows('open')).toBe('Open')
    expect([job.press('open').value('order'), job.shows('open')]).toEqual([1, 'Opening'])
    expect(job.host('state', 1).wait(1_000).shows('open')).toBe('Opening')
    expect(job.host('state', 2).shows('open')).toBe('Open')
  })
  test('has failed after a while, and waits anew when it is given again', () => {
    const job = ordered()
    expect(job.press('open').wait(3_100).shows('open')).toBe('No answer')
    expect(job.press('open').shows('open')).toBe('Opening')
    expect(job.host('state', 2).shows('open')).toBe('Open')
  })
  test('that must be held does nothing before', () => {
    const job = ordered().edit('set widgets', { ids: ['widget:open'], values: { confirms: true, holdMs: 600 } })
    expect(job.press('open', 400).value('order')).toBe(0)
    expect(job.press('open', 700).value('order')).toBe(1)
  })
})

describe('levels', () => {
  const guarded = () =>
    new Job()
      .variable('n', whole(0, 9))
      .edit('set conduct', { values: { code1: 1111, code2: 2222, levelAfterS: 20 } })
      .widget('button', 'free', [0, 0, 90, 60], press(line('step', { variable: 'variable:n', by: 1, atEnd: 'stop' })))
      .widget('button', 'guarded', [100, 0, 90, 60], {
        ...press(line('step', { variable: 'variable:n', by: 3, atEnd: 'stop' })),
        level: 2,
      })
      .widget('button', 'wrong', [0, 100, 90, 60], press(line('set', { variable: 'variable:own-code', to: 1234 })))
      .widget('button', 'one', [100, 100, 90, 60], press(line('set', { variable: 'variable:own-code', to: 1111 })))
      .widget('button', 'two', [200, 100, 90, 60], press(line('set', { variable: 'variable:own-code', to: 2222 })))
      .wait(300)
  test('are given by a code, which nobody reads again, and forgotten when nobody is there', () => {
    const job = guarded()
    const level = () => job.panel.memory.own('level')
    expect(job.press('guarded').press('free').value('n')).toBe(1)
    job.press('wrong')
    expect(level()).toBe(0)
    job.press('one')
    expect([level(), job.panel.memory.own('code'), job.press('guarded').value('n')]).toEqual([1, 0, 1])
    job.press('two')
    expect([level(), job.press('guarded').value('n')]).toEqual([2, 4])
    job.wait(21_000)
    expect([level(), job.press('guarded').value('n')]).toEqual([0, 4])
  })
  test('are given and taken by the host, too', () => {
    const job = guarded().host('own-level', 2)
    expect(job.press('guarded').value('n')).toBe(3)
    expect(job.host('own-level', 0).press('guarded').value('n')).toBe(3)
  })
})

test('a host opens a pop-up, knows which is open, and closes it', () => {
  const job = new Job().page('popup', {}, 'pop-up').wait(300)
  const own = () => job.panel.memory.own('pop_up')
  expect([job.host('own-pop-up', 2).panel.popUpNumber, own()]).toEqual([2, 2])
  job.host('own-pop-up', 9)
  expect([job.panel.popUpNumber, own()]).toEqual([2, 2])
  expect([job.host('own-pop-up', 0).panel.popUpNumber, own()]).toEqual([0, 0])
})

test('a touch that does not count says why', () => {
  const job = new Job({ contactMs: 20, deafMs: 200 })
    .edit('set conduct', { values: { dimAfterS: 10, dimTo: 5 } })
    .page('away')
    .widget('button', 'go', [0, 0, 90, 60], press(line('go to page', { page: 'page:away' })))
    .widget('button', 'wash', [0, 100, 90, 60], press(line('lock touch', { seconds: 3 })))
    .widget('button', 'closed', [100, 0, 90, 60], { enabled: false })
    .widget('button', 'there', [0, 0, 90, 60], {}, 'page:away')
  const why = () => job.bench.rig.events.since(0).filter((e) => e.what === 'not counted').map((e) => e.words) // prettier-ignore
  job.wait(300).press('closed')
  job.panel.touchDown(40, 30)
  job.wait(5).panel.touchUp(40, 30)
  job.press('wash').press('go').wait(3_000).press('go')
  job.panel.touchDown(40, 30)
  job.panel.touchUp(40, 30)
  job.wait(11_000).press('there')
  expect(why()).toEqual([
    'ignored: widget disabled',
    'ignored: contact too short',
    'ignored: touch disabled',
    'ignored: page just opened',
    'ignored: wake-up touch',
  ])
})

describe('states that are shown one after another', () => {
  const frames = (plays: string) => {
    const job = new Job().page('other').page('over', {}, 'pop-up')
    const face = { ...noFace, fill: '#ff0000' }
    const levels = ['one', 'two', 'three'].map((meaning, k) => ({
      id: `state:${k}`,
      when: { by: 'value', value: k },
      meaning,
      face,
      textColour: '#ffffff',
    }))
    const settings = { plays, everyMs: 100, levels }
    job.widget('level', 'here', [10, 10, 80, 40], settings).widget('level', 'above', [10, 60, 80, 40], settings, 'page:over')
    const at = (ms: number, name = 'here') => {
      job.wait(ms)
      job.bench.paint()
      return job.shows(name)
    }
    return { job, at }
  }
  test('begin when their page opens, and stand each for so long, again and again', () => {
    const { job, at } = frames('again and again')
    expect([at(50), at(100), at(100), at(100), at(100)]).toEqual(['one', 'two', 'three', 'one', 'two'])
    job.panel.memory.setOwn('page', 2)
    at(70)
    job.panel.memory.setOwn('page', 1)
    expect([at(50), at(100)]).toEqual(['one', 'two'])
  })
  test('once: the last one stays, and nothing is painted again for it', () => {
    const { job, at } = frames('once')
    expect([at(50), at(300), at(900)]).toEqual(['one', 'three', 'three'])
    job.bench.paint()
    expect(job.wait(5000).bench.paint()).toEqual([])
  })
  test('on a pop-up they begin when it opens', () => {
    const { job, at } = frames('once')
    at(1000)
    job.panel.memory.setOwn('pop_up', 3)
    expect([at(50, 'above'), at(100, 'above'), job.shows('here')]).toEqual(['one', 'two', 'three'])
  })
})

test('what means no value is not sampled, and a step from there begins where the range does', () => {
  const holds: Holds = { ...(tenths(-40, 60) as NumberHolds), none: { raw: -32768, word: 'open' } }
  const job = new Job().variable('t', holds)
  job.widget('trend', 'trace', [0, 0, 200, 100], { everyMs: 100, traces: [{ id: 'trace:a', variable: 'variable:t', colour: '#ffffff', ends: 'of its variable', low: 0, high: 1 }] }) // prettier-ignore
  job.widget('button', 'more', [210, 0, 80, 60], press(line('step', { variable: 'variable:t', by: 0.5, atEnd: 'stop' })))
  const samples = () => {
    const { values, taken } = job.panel['states'].of(job.panel['widgets'].of(job.project.widgets['widget:trace']!.number)!) as { values: Float64Array; taken: number } // prettier-ignore
    return [...values.slice(0, taken)]
  }
  job.host('t', 12).wait(300).host('t', -3276.8).wait(300)
  const seen = samples()
  expect([seen.includes(12), seen.some(Number.isNaN), seen.some((v) => v < -40)]).toEqual([true, true, false])
  expect(job.press('more').value('t')).toBe(-40)
})
