import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { roundHalfAway } from '../base/index.ts'
import { Job, flags, tenths, whole, words } from '../testing/job.ts'

const wide = [20, 20, 324, 40] as const

describe('a slider', () => {
  const slider = (holds = whole(0, 100), more: Record<string, unknown> = {}) =>
    new Job()
      .variable('v', holds)
      .widget('slider', 's', wide, { variable: 'variable:v', knob: 24, ...more })
      .wait(300)

  test('at any place is from + (finger − half the knob) / (length − knob) × (to − from), rounded half away to its step', () => {
    const job = slider(tenths(-40, 60))
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 323 }), (finger) => {
        job.panel.touchDown(20 + finger, 40)
        job.wait(40)
        job.panel.touchUp(20 + finger, 40)
        job.wait(5)
        const share = Math.min(1, Math.max(0, (finger - 12) / 300))
        expect(job.value('v')).toBeCloseTo(roundHalfAway(share * 1000) / 10 - 40, 6)
      }),
      { numRuns: 60 },
    )
    expect(job.down('s').move('s', 200, 50).up('s', 200, 50).value('v')).toBe(60)
    expect(job.down('s').move('s', -50, 50).up('s', -50, 50).value('v')).toBe(-40)
  })
  test('goes either way, between ends of its own, in steps of its own', () => {
    expect(slider(whole(0, 100), { way: 'left' }).press('s', 60, 3).value('v')).toBe(100)
    const own = { ends: 'its own', from: 20, to: 80, step: 15 }
    const job = slider(whole(0, 100), own)
    expect([0, 30, 60, 99].map((px) => job.press('s', 60, px).value('v'))).toEqual([20, 35, 50, 80])
  })
  test('stops at detents only, and ignores a touch beside its knob, where it is told to', () => {
    const detents = slider(whole(0, 100), { detents: 5, onlyDetents: true })
    expect([2, 30, 45, 97].map((px) => detents.press('s', 60, px).value('v'))).toEqual([0, 25, 50, 100])
    const job = slider(whole(0, 100), { beside: 'is ignored' })
    expect(job.press('s', 60, 80).value('v')).toBe(0)
    job.down('s', 2).move('s', 50, 50).up('s', 50, 50)
    expect(job.value('v')).toBe(50)
  })
  test('reports as often as it is told to, the last value always', () => {
    const pulled = (everyMs: number) => {
      const job = slider(whole(0, 100), { everyMs })
      const since = job.mark
      job.down('s', 2)
      for (let k = 0; k <= 40; k++) job.move('s', 2 + k * 2, 50).wait(20)
      job.up('s', 82, 50).wait(500)
      return job.reports(since).map(([, value]) => value)
    }
    const [often, seldom, once] = [pulled(50), pulled(300), pulled(0)]
    expect(often.length).toBeGreaterThan(seldom.length)
    expect(seldom.length).toBeLessThanOrEqual(6)
    expect(once.length).toBe(1)
    for (const all of [often, seldom, once]) expect(all.at(-1)).toBe(once[0])
  })
  test('shows what the host has sent beyond its end as it is', () => {
    const job = slider(whole(0, 50)).host('v', 70)
    expect([job.shows('s'), job.value('v')]).toEqual(['70', 70])
  })
})

describe('a dial', () => {
  const dial = (more: Record<string, unknown> = {}, holds = whole(0, 100)) =>
    new Job()
      .variable('v', holds)
      .widget('dial', 'd', [100, 50, 200, 200], { variable: 'variable:v', writes: false, ticks: 0, ...more })
      .wait(300)
  const around = (job: Job, ...bearings: [number, number][]) => {
    job.down('d', ...bearings[0]!)
    for (const [px, py] of bearings.slice(1)) job.move('d', px, py)
    return job.up('d', ...bearings.at(-1)!)
  }
  const [top, right, bottom, left] = [[50, 10], [90, 50], [50, 90], [10, 50]] as const // prettier-ignore
  test('turns with the finger: a quarter of its sweep is a quarter of its range', () => {
    const job = dial({ sweep: 180 })
    expect(around(job, [...top], [...right]).value('v')).toBe(50)
    expect(around(job, [...top], [...right], [...bottom], [...left]).value('v')).toBe(100)
    expect(around(job, [...right], [...top]).value('v')).toBe(50)
  })
  test('without end it begins again', () => {
    const job = dial({ endless: true }, tenths(0, 359.9))
    around(job, [...top], [...right], [...bottom], [...left], [...top], [...right])
    expect(Number(job.value('v'))).toBeCloseTo(90, 0)
    around(job, [...right], [...top], [...left])
    // The middle of a pixel is not that of the dial.
    expect(Math.abs(Number(job.value('v')) - 270)).toBeLessThan(1)
  })
  test('takes no touch outside of its round', () => {
    expect(dial().press('d', 60, 2, 2).value('v')).toBe(0)
  })
})

test('digits are stepped one by one: above up, below down; they carry, and stop at the range', () => {
  const job = new Job()
    .variable('v', tenths(0, 359.9), { initial: 199.9 })
    .widget('digits', 'd', [20, 20, 240, 120], { variable: 'variable:v' })
    .wait(300)
  // Three digits, the point, one digit: 4.45 widths.
  expect(job.press('d', 60, 95, 10).value('v')).toBe(200)
  expect(job.press('d', 60, 10, 10).value('v')).toBe(300)
  expect(job.press('d', 60, 10, 10).value('v')).toBe(359.9)
  expect(job.press('d', 60, 30, 90).value('v')).toBe(349.9)
  expect(job.press('d', 60, 10, 90).press('d', 60, 10, 90).press('d', 60, 10, 90).press('d', 60, 10, 90).value('v')).toBe(0)
  const since = job.mark
  job.press('d', 60, 55, 10).wait(200)
  expect(job.reports(since).map(([, value]) => value)).toEqual([10])
})

describe('what is typed on a keypad', () => {
  const letters = (...keys: string[]) =>
    keys.map((key, k) => ({
      id: `widget:key-${k}`,
      kind: 'button',
      name: `Key ${key}`,
      place: { x: (k % 8) * 48, y: 60 + Math.floor(k / 8) * 48, width: 44, height: 44 },
      settings: { text: key, rules: [{ on: { moment: 'pressed' }, lines: [{ action: 'type', with: { key } }] }] },
    }))
  const keys = ['1', '2', '5', '0', '.', 'sign', 'delete', 'clear', 'accept', 'a', 'blank']
  const typing = (holds = tenths(0, 359.9, '°'), more: Record<string, unknown> = {}) => {
    const job = new Job().variable('v', holds, { initial: holds.type === 'text' ? '' : 20 })
    job.page('pad', {}, 'keypad').edit('add widgets', { page: 'page:pad', after: '', widgets: letters(...keys) })
    for (const [k, part] of ['draft', 'name', 'was', 'range', 'wrong'].entries())
      job.widget('typed', part, [200, 160 + 24 * k, 190, 22], { part }, 'page:pad')
    return job
      .widget('entry', 'e', [0, 0, 200, 50], { variable: 'variable:v', keypad: 'page:pad', asksFor: 'Target', ...more })
      .wait(300)
  }
  const type = (job: Job, ...what: string[]) => {
    for (const key of what) job.press(`key-${keys.indexOf(key)}`, 60).wait(60)
    return job
  }
  const open = (job: Job) => job.press('e').wait(250)

  test('says what it is for, what it was and what is taken; is refused, corrected, accepted, and reported once', () => {
    const job = open(typing())
    expect(['name', 'was', 'range', 'draft'].map((part) => job.shows(part))).toEqual(['Target', 'was 20.0°', '0.0 … 359.9', '_'])
    const since = job.mark
    type(job, '5', '2', '0')
    expect([job.shows('draft'), job.shows('wrong')]).toEqual(['520', '160.1 above the range'])
    type(job, 'accept')
    expect([job.value('v'), job.panel.popUpNumber > 0]).toEqual([20, true])
    type(job, 'delete', '.', '5')
    expect([job.shows('draft'), job.shows('wrong')]).toEqual(['52.5', ''])
    type(job, 'accept').wait(200)
    expect([job.value('v'), job.panel.popUpNumber, job.shows('e')]).toEqual([52.5, 0, '52.5°'])
    expect(job.reports(since).length).toBe(1)
  })
  test('becomes the nearest where it is told to, within ends of its own that may follow others', () => {
    const job = typing(whole(0, 100), { ends: 'its own', from: 10, outside: 'becomes the nearest' })
    job.variable('most', whole(0, 100), { initial: 15 })
    job.edit('set widgets', { ids: ['widget:e'], values: { to: { follows: 'variable:most' } } })
    expect(type(open(job), '5', '0', 'accept').value('v')).toBe(15)
    expect(type(open(job.wait(200)), '2', 'accept').value('v')).toBe(10)
  })
  test('a code is shown as dots, and a text holds what it has room for', () => {
    const code = open(typing(whole(0, 9999), { hidden: true }))
    expect([type(code, '1', '2').shows('draft'), code.shows('was')]).toEqual(['••', ''])
    const text = typing({ type: 'text', bytes: 4, encoding: 'latin-1' })
    expect(type(open(text), 'a', 'blank', '1', 'a', 'a', 'accept').value('v')).toBe('a 1a')
  })
  test('what the host writes meanwhile is stored, and the draft stays; nobody typing for half a minute gives up', () => {
    const job = type(open(typing()), '5')
    job.host('v', 77)
    expect([job.value('v'), job.shows('draft')]).toEqual([77, '5'])
    job.wait(20_000)
    type(job, '2')
    job.wait(20_000)
    expect(job.shows('draft')).toBe('52')
    expect(job.wait(11_000).panel.popUpNumber).toBe(0)
    expect(job.value('v')).toBe(77)
  })
  test('with a decimal comma it is typed and shown so', () => {
    const job = open(typing().edit('set conduct', { values: { comma: true } }))
    expect(type(job, '1', '.', '5').shows('draft')).toBe('1,5')
    expect([type(job, 'accept').value('v'), job.shows('e')]).toEqual([1.5, '1,5°'])
  })
})

describe('keys of which one is down', () => {
  const tabs = () =>
    new Job()
      .variable('mode', words('slew', 'track', 'rest'))
      .widget('tabs', 't', [0, 0, 300, 50], { of: 'the words of its variable', variable: 'variable:mode' })
      .wait(300)
  test('set their word when lifted where they were pressed', () => {
    const job = tabs()
    expect([job.press('t', 60, 80).value('mode'), job.shows('t')]).toEqual([2, 'rest'])
    job.down('t', 10).move('t', 50, 50).up('t', 50, 50)
    expect(job.value('mode')).toBe(2)
    expect(job.host('mode', 1).shows('t')).toBe('track')
  })
})

describe('a list', () => {
  test('is scrolled by a drag, which chooses nothing, and chosen from by a touch', () => {
    const job = new Job()
      .variable('star', words('Moon', 'Jupiter', 'Vega', 'Albireo', 'Mizar', 'Deneb'))
      .widget('list', 'l', [0, 0, 200, 104], { variable: 'variable:star', rowHeight: 32 })
      .wait(300)
    expect(job.press('l', 60, 50, 50).value('star')).toBe(1)
    job.down('l', 50, 90).move('l', 50, 40).move('l', 50, 5).up('l', 50, 5)
    expect(job.value('star')).toBe(1)
    // Scrolled by 88 px: the row under the middle is another.
    expect(job.press('l', 60, 50, 50).value('star')).toBe(4)
  })
})

describe('a switch of one object', () => {
  test('latches by a touch, shows it, and its report is decoded by the host', () => {
    const job = new Job()
      .variable('lamp', words('off', 'on'))
      .widget('button', 'b', [0, 0, 120, 60], { works: 'switches', variable: 'variable:lamp' })
      .wait(300)
    const since = job.mark
    expect(job.press('b').value('lamp')).toBe(1)
    job.wait(200)
    expect(job.reports(since)).toEqual([[job.project.variables['variable:lamp']!.address, 1]])
    expect(job.bench.rig.host.values().find(({ name }) => name === 'lamp')!.value).toBe(1)
    expect(job.press('b').value('lamp')).toBe(0)
  })
  test('of a bit leaves the others as they are; while held it is on and no longer', () => {
    const job = new Job().variable('word', flags('a', 'b', 'c'), { initial: 5 })
    job.widget('button', 'b', [0, 0, 120, 60], { works: 'switches', variable: 'variable:word', bit: 1 })
    job.widget('button', 'held', [0, 100, 120, 60], { works: 'is on while held', variable: 'variable:word', bit: 3 }).wait(300)
    expect(job.press('b').value('word')).toBe(7)
    expect(job.down('held').value('word')).toBe(15)
    expect(job.move('held', 300, 50).value('word')).toBe(7)
    job.up('held', 300, 50)
    expect([job.value('word'), job.press('b').value('word')]).toEqual([7, 5])
  })
  test('steps faster the longer it is held', () => {
    const held = (faster: boolean) => {
      const job = new Job().variable('n', whole(0, 999))
      const rule = {
        on: { moment: 'pressed', everyMs: 100, faster },
        lines: [{ action: 'step', with: { variable: 'variable:n', by: 1, atEnd: 'stop' } }],
      }
      return Number(
        job
          .widget('button', 'b', [0, 0, 120, 60], { rules: [rule] })
          .wait(300)
          .press('b', 4_000)
          .value('n'),
      )
    }
    expect(held(true)).toBeGreaterThan(1.6 * held(false))
  })
})

test('a trend of two traces gathers over an hour, half of it while another page shows; paused and cleared', () => {
  const job = new Job()
    .page('other')
    .variable('a', whole(0, 100))
    .variable('b', whole(0, 10))
    .variable('hold', words('no', 'yes'))
  job.widget('trend', 't', [0, 0, 300, 150], {
    traces: [{ variable: 'variable:a' }, { variable: 'variable:b', ends: 'of its variable' }],
    everyMs: 30_000,
    samples: 120,
    pausedBy: 'variable:hold',
  })
  job.widget('button', 'clear', [0, 200, 90, 60], {
    rules: [{ on: { moment: 'pressed' }, lines: [{ action: 'clear', with: { widget: 'widget:t' } }] }],
  })
  const number = job.project.widgets['widget:t']!.number
  const state = () => job.panel['states'].of(job.panel['widgets'].of(number)!) as { taken: number; values: Float64Array }
  job.wait(1_800_000).panel.memory.setOwn('page', 2)
  job.host('a', 40).wait(1_800_000)
  expect(state().taken).toBe(120)
  expect([state().values[10], state().values[110], state().values[120 + 110]]).toEqual([0, 40, 0])
  job.host('hold', 1).wait(120_000)
  expect(state().taken).toBe(120)
  job.panel.memory.setOwn('page', 1)
  job.wait(300).press('clear')
  expect(state().taken).toBe(0)
})

test('a trend that samples at each write of the host does so also when the value is the same', () => {
  const job = new Job()
    .variable('a', whole(0, 100))
    .widget('trend', 't', [0, 0, 300, 150], { traces: [{ variable: 'variable:a' }], sampled: 'at each write of the host' })
    .wait(300)
  const number = job.project.widgets['widget:t']!.number
  for (const value of [4, 4, 5]) job.host('a', value)
  expect((job.panel['states'].of(job.panel['widgets'].of(number)!) as { taken: number }).taken).toBe(3)
})
