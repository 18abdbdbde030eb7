import { describe, expect, test } from 'vitest'
import fc from 'fast-check'
import { mustHold } from '../base/index.ts'
import { bookOf } from '../project/index.ts'
import type { Message } from '../frames/index.ts'
import type { Project } from '../project/index.ts'
import { protocolFor } from '../protocols/index.ts'
import { demo, edited, widgetNamed } from '../testing/demo.ts'
import type { Holds } from '../variables/index.ts'
import { Workbench } from '../workbench/index.ts'
import { approach, type TextExtent } from './index.ts'
import { contactUs, does } from '../testing/actions.ts'
import { Job, whole } from '../testing/job.ts'

const { project, assets } = demo
const level = 'variable:flat_level'

/** The demo without its simulated host's values and reactions, and with these instead. */
function withHost(parts: {
  quantities?: [string, Record<string, unknown>][]
  reactions?: Record<string, unknown>[]
  outputs?: Record<string, unknown>[]
}): Workbench {
  let p: Project = project
  for (const id of p.host.quantityOrder) p = edited(p, 'delete from host', { part: 'quantities', id })
  for (const id of p.host.reactionOrder) p = edited(p, 'delete from host', { part: 'reactions', id })
  for (const id of p.host.outputOrder) p = edited(p, 'delete from host', { part: 'outputs', id })
  parts.quantities?.forEach(
    ([kind, settings], i) =>
      (p = edited(p, 'add to host', {
        part: 'quantities',
        id: `quantity:q${i}`,
        kind,
        after: '',
        settings: { variable: level, ...settings },
      })),
  )
  parts.reactions?.forEach(
    (settings, i) => (p = edited(p, 'add to host', { part: 'reactions', id: `reaction:r${i}`, after: '', settings })),
  )
  parts.outputs?.forEach(
    (settings, i) => (p = edited(p, 'add to host', { part: 'outputs', id: `output:o${i}`, after: '', settings })),
  )
  return new Workbench(p, assets)
}
const now = (bench: Workbench, id = level) => bench.values()[id]!.value
/** The values of a variable at the panel, every so often. */
const course = (bench: Workbench, everyMs: number, times: number) =>
  Array.from({ length: times }, () => {
    bench.advance(everyMs * 1000)
    return now(bench)
  })
const press = (bench: Workbench, name: string) => {
  const { x, y, width, height } = widgetNamed(project, name).place
  bench.rig.panel.touchDown(x + width / 2, y + height / 2)
  bench.advance(contactUs)
  bench.rig.panel.touchUp(x + width / 2, y + height / 2)
}
const entries = (bench: Workbench) => bench.rig.conversation.all()

describe('values that move by themselves', () => {
  test('a ramp begins again, stops, or goes back', () => {
    const ramp = (atEnd: string) =>
      course(withHost({ quantities: [['ramp', { everyMs: 100, from: 0, to: 10, perSecond: 10, atEnd }]] }), 500, 5).map(Number)
    const stop = ramp('stop')
    expect(stop.slice(2)).toEqual([10, 10, 10])
    expect(stop[0]).toBeGreaterThan(2)
    const again = ramp('begin again')
    expect(Math.max(...again)).toBeLessThanOrEqual(10)
    expect(again.some((v, i) => i > 0 && v < again[i - 1]!)).toBe(true)
    const back = ramp('back')
    expect(back[2]).toBeLessThan(back[1]! + 5)
    expect(back[3]!).toBeLessThan(back[2]!)
  })
  test('a list is stepped through, each value for its time, round and round', () => {
    expect(course(withHost({ quantities: [['list', { everyMs: 50, values: '3, 50, 7', stepMs: 1000 }]] }), 1000, 5)).toEqual([
      3, 50, 7, 3, 50,
    ])
  })
  test('a walk stays between its ends, moves, and is the same for the same seed', () => {
    const walk = () =>
      course(withHost({ quantities: [['walk', { everyMs: 100, low: 20, high: 30, start: 25, step: 4 }]] }), 100, 60).map(Number)
    const seen = walk().slice(2)
    expect(Math.min(...seen)).toBeGreaterThanOrEqual(20)
    expect(Math.max(...seen)).toBeLessThanOrEqual(30)
    expect(new Set(seen).size).toBeGreaterThan(4)
    expect(walk()).toEqual(walk())
  })
  test('one that is sent only when it changes is silent otherwise', () => {
    const bench = withHost({ quantities: [['constant', { everyMs: 0, value: 12 }]] })
    bench.advance(500_000)
    const before = bench.rig.conversation.lastId
    bench.advance(3_000_000)
    expect(bench.rig.conversation.lastId).toBe(before)
    bench.hostWrites(level, 13)
    bench.advance(50_000)
    expect(now(bench)).toBe(13)
  })
  test('what does not fit the range of its variable is sent at its end', () => {
    expect(course(withHost({ quantities: [['constant', { everyMs: 100, value: 4000 }]] }), 300, 1)).toEqual([100])
  })
  test('one that moves only while something holds stands meanwhile, to the moment the host hears it', () => {
    const only = { whenVariable: 'variable:shutter_order', whenCompare: 'is', whenValue: 1 }
    const bench = withHost({
      quantities: [['ramp', { everyMs: 1000, from: 0, to: 100, perSecond: 10, atEnd: 'stop', ...only }]],
      reactions: [{ on: 'report', variable: 'variable:shutter_order' }],
    })
    expect(course(bench, 1000, 3)).toEqual([0, 0, 0])
    press(bench, 'Open shutter')
    bench.advance(500_000)
    press(bench, 'Stop shutter')
    bench.advance(3_000_000)
    // Half a second of moving between two reports, though it is sent only once a second.
    expect(Number(now(bench))).toBeGreaterThanOrEqual(5)
    expect(Number(now(bench))).toBeLessThanOrEqual(7)
    expect(new Set(course(bench, 1000, 3)).size).toBe(1)
  })
  test('an approach never overshoots, and on a circle goes the short way', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3599 }),
        fc.integer({ min: 0, max: 3599 }),
        fc.integer({ min: 1, max: 200 }),
        (a, b, most) => {
          const away = (x: number) => Math.min((((b - x) % 3600) + 3600) % 3600, (((x - b) % 3600) + 3600) % 3600)
          const next = approach(a, b, most, 3600)
          expect(away(next)).toBeLessThanOrEqual(Math.max(0, away(a) - most) + 1e-6)
          expect(next).toBeGreaterThanOrEqual(0)
          expect(next).toBeLessThan(3600)
        },
      ),
    )
    expect([approach(350, 10, 5, 360), approach(10, 350, 5, 360), approach(4, 9, 3, 0), approach(8, 9, 3, 0)]).toEqual([
      355, 5, 7, 9,
    ])
  })
})

const order = { on: 'report', variable: 'variable:shutter_order', compare: 'is', value: 1 }

describe('reactions', () => {
  test('the first that fits counts', () => {
    const effect = (value: number) => [{ afterMs: 0, variable: level, value }]
    const bench = withHost({
      quantities: [['constant', { everyMs: 0, value: 1 }]],
      reactions: [
        { ...order, whenVariable: level, whenCompare: 'above', whenValue: 50, effects: effect(77) },
        { ...order, effects: effect(33) },
        { ...order, effects: effect(11) },
      ],
    })
    bench.advance(1_500_000)
    press(bench, 'Open shutter')
    bench.advance(300_000)
    expect(now(bench)).toBe(33)
    bench.hostWrites(level, 60)
    bench.advance(100_000)
    press(bench, 'Open shutter')
    bench.advance(300_000)
    expect(now(bench)).toBe(77)
  })
  test('a later effect on a value cancels those still waiting for it', () => {
    const bench = withHost({
      quantities: [['constant', { everyMs: 0, value: 1 }]],
      reactions: [
        { ...order, effects: [{ afterMs: 2000, variable: level, value: 90 }] },
        { ...order, value: 2, effects: [{ afterMs: 0, variable: level, value: 5 }] },
      ],
    })
    bench.advance(1_500_000)
    press(bench, 'Open shutter')
    bench.advance(1_000_000)
    press(bench, 'Close shutter')
    bench.advance(4_000_000)
    expect(now(bench)).toBe(5)
  })
  test('effects of one reaction at different times all happen', () => {
    const bench = withHost({
      quantities: [['constant', { everyMs: 0, value: 1 }]],
      reactions: [
        {
          ...order,
          effects: [
            { afterMs: 0, variable: level, value: 20 },
            { afterMs: 1000, variable: level, value: 40 },
          ],
        },
      ],
    })
    bench.advance(1_500_000)
    press(bench, 'Open shutter')
    bench.advance(200_000)
    expect(now(bench)).toBe(20)
    bench.advance(1_200_000)
    expect(now(bench)).toBe(40)
  })
  test.each([
    ['done', 'done', undefined],
    ['refused', 'refused', 'value'],
  ])('answers %s after its time', (answer, operation, reason) => {
    const bench = withHost({ reactions: [{ ...order, answer, reason: 'value', answerAfterMs: 50 }] })
    bench.advance(1_500_000)
    const before = bench.rig.conversation.lastId
    press(bench, 'Open shutter')
    bench.advance(300_000)
    const report = bench.rig.conversation.since(before).find((e) => e.message?.operation === 'report')!
    const reply = bench.rig.conversation.get(report.answeredBy!)!
    expect(reply.message).toMatchObject({ operation, ...(reason ? { reason } : {}) })
    expect(reply.fromUs - report.toUs).toBeGreaterThanOrEqual(50_000)
    expect(reply.fromUs - report.toUs).toBeLessThan(52_000)
  })
  test('answers nothing when told so: the panel tries again, then gives up', () => {
    const bench = withHost({ reactions: [{ ...order, answer: 'nothing' }] })
    bench.advance(1_500_000)
    const before = bench.rig.conversation.lastId
    press(bench, 'Open shutter')
    bench.advance(2_000_000)
    expect(
      bench.rig.conversation
        .since(before)
        .filter((e) => e.message?.operation === 'report')
        .map((e) => [e.attempt, e.verdict]),
    ).toEqual([
      [1, 'ok'],
      [2, 'repeated'],
      [3, 'repeated'],
    ])
  })
  test('an event is reacted to by its widget and what happened to it', () => {
    const open = widgetNamed(project, 'Open shutter')
    let p = edited(project, 'set widgets', {
      ids: [open.id],
      values: { rules: [does('pressed', 'send event')] },
    })
    p = edited(p, 'add to host', {
      part: 'reactions',
      id: 'reaction:e',
      after: null,
      settings: {
        on: 'event',
        widget: open.id,
        what: 'pressed',
        effects: [{ afterMs: 0, variable: 'variable:shutter_state', value: 2 }],
      },
    })
    const bench = new Workbench(p, assets)
    bench.advance(1_500_000)
    press(bench, 'Open shutter')
    bench.advance(200_000)
    expect(now(bench, 'variable:shutter_state')).toBe(2)
  })
})

describe('starting and synchronising', () => {
  test('asks for the version, then writes what it owns and asks for what only the panel knows', () => {
    const bench = withHost({ quantities: [['constant', { everyMs: 0, value: 9 }]] })
    bench.advance(1_000_000)
    const said = entries(bench)
      .filter((e) => e.direction === 'to panel' && e.message?.operation !== 'done')
      .map((e) => `${e.message!.operation} ${e.message!.address.toString(16)}`)
    expect(said[0]).toBe('ask ff06')
    expect(said).toContain('write 40')
    expect(said).toEqual(expect.arrayContaining(['ask 12', 'ask 20', 'ask 60']))
    expect(said).not.toContain('ask 21')
  })
  test('a host that was restarted learns what the panel holds, and does not change it', () => {
    const bench = new Workbench(project, assets)
    bench.advance(1_500_000)
    press(bench, 'Target more')
    bench.advance(300_000)
    bench.rig.powerCycle('host')
    bench.advance(2_000_000)
    expect(now(bench, 'variable:dome_target')).toBe(231.5)
    expect(bench.rig.host.values().find((v) => v.name === 'dome_target')!.value).toBe(231.5)
  })
  test('one that does not synchronise stays silent', () => {
    let p = edited(project, 'set host', { values: { synchronises: false } })
    for (const id of p.host.quantityOrder) p = edited(p, 'delete from host', { part: 'quantities', id })
    p = edited(p, 'delete from host', { part: 'reactions', id: 'reaction:clock' })
    const bench = new Workbench(p, assets)
    bench.advance(3_000_000)
    expect(
      entries(bench)
        .filter((e) => e.direction === 'to panel')
        .map((e) => e.message!.operation),
    ).toEqual(['done'])
  })
})

test('outputs follow what the host knows, with their active level', () => {
  const bench = withHost({
    quantities: [['constant', { everyMs: 0, value: 60 }]],
    outputs: [
      { name: 'lamp', whenVariable: level, whenCompare: 'above', whenValue: 50, activeLow: false },
      { name: 'relay', whenVariable: level, whenCompare: 'above', whenValue: 50, activeLow: true },
      { name: 'fan', whenVariable: level, whenCompare: 'below', whenValue: 50, activeLow: true },
      { name: 'loose', activeLow: false },
    ],
  })
  bench.advance(200_000)
  expect(bench.rig.host.outputs()).toEqual([
    { name: 'lamp', on: true, level: 'high' },
    { name: 'relay', on: true, level: 'low' },
    { name: 'fan', on: false, level: 'high' },
    { name: 'loose', on: false, level: 'low' },
  ])
})

test('what somebody writes in its place it knows as well, also where a frame is damaged beside', () => {
  const bench = withHost({})
  bench.advance(1_000_000)
  const bytes = bench.previewWrite(level, 42)!
  const heard = () => bench.rig.host.values().find(({ name }) => name === 'flat_level')!.value
  bench.sendRaw('to panel', Uint8Array.from([...bytes.slice(0, 4), ...bytes]))
  bench.advance(100_000)
  expect([heard(), now(bench)]).toEqual([42, 42])
})

describe('a text that is shorter than its variable', () => {
  const job = () =>
    new Job()
      .variable('before', whole(0, 9), { address: 0x1f })
      .variable(
        'name',
        { type: 'text', bytes: 9, encoding: 'ascii', letters: '' },
        { address: 0x20, initial: 'OLD NAME', travels: 'host to panel' },
      )
      .variable('total', { ...whole(0, 70_000), type: 'u32' } as Holds, { address: 0x25 })
      .variable('after', whole(0, 9), { address: 0x27 })
      .wait(500)
  const heard = ({ bench }: Job) => Object.fromEntries(bench.rig.host.values().map(({ name, value }) => [name, value]))
  const held = ({ bench }: Job) =>
    Object.fromEntries(Object.entries(bench.values()).map(([id, { value }]) => [id.replace('variable:', ''), value]))
  const says = (j: Job, address: number, payload: readonly number[]) => {
    const message: Message = { operation: 'write', sequence: 3, address, payload }
    j.bench.sendRaw('to panel', mustHold(mustHold(protocolFor(j.project.layout, bookOf(j.project))).encode('to panel', message)))
    j.wait(100)
  }

  test('is sent whole, or as its letters alone, in whole words', () => {
    const j = job()
    const protocol = mustHold(protocolFor(j.project.layout, bookOf(j.project)))
    const sizeOf = (text: string, extent?: TextExtent) => {
      const [frame] = protocol.decoder('to panel').feed(j.bench.previewWrite('variable:name', text, extent)!, 0, 0)
      return frame?.kind === 'frame' && frame.readings[0]?.operation === 'write' ? frame.readings[0].payload.length : 0
    }
    expect([sizeOf('OAK'), sizeOf('OAK', 'whole')]).toEqual([10, 10])
    expect(['OAK', 'OVEN 2', ''].map((text) => sizeOf(text, 'as long as it is'))).toEqual([4, 6, 2])
    for (const text of ['OAK', 'OVEN 2', '', 'A'.repeat(9)]) {
      j.bench.hostWrites('variable:name', text, 'as long as it is')
      j.wait(100)
      expect([held(j)['name'], heard(j)['name']]).toEqual([text, text])
    }
  })
  test('typed as bytes of odd length, it is heard by the host as well', () => {
    const j = job()
    expect(heard(j)['name']).toBe(null)
    says(j, 0x20, [...Buffer.from('OAK')])
    expect([held(j)['name'], heard(j)['name']]).toEqual(['OAK', 'OAK'])
  })
  test('whatever is written over whatever variables, the host believes of each that it has heard what the panel holds', () => {
    const write = fc.record({
      address: fc.integer({ min: 0x1c, max: 0x28 }),
      bytes: fc.array(fc.nat(126), { minLength: 1, maxLength: 24 }),
    })
    fc.assert(
      fc.property(fc.array(write, { minLength: 1, maxLength: 6 }), (writes) => {
        const j = job()
        for (const { address, bytes } of writes) says(j, address, bytes)
        const now = held(j)
        for (const [name, value] of Object.entries(heard(j))) if (value !== null) expect([name, value]).toEqual([name, now[name]])
      }),
      { numRuns: 60 },
    )
  })
})
