import { describe, expect, test } from 'vitest'
import { hashOfWords, newId, seededRandom, type Rect } from '../base/index.ts'
import { Compiler } from '../compile/index.ts'
import { type Project } from '../project/index.ts'
import { demo, otherDemo, dome, edited, widgetNamed } from '../testing/demo.ts'

import { bigEndianPlain, layoutsForLaws } from '../testing/layouts.ts'
import { lampLines } from '../protocols/index.ts'
import { oneMoreKind } from '../testing/one-more.ts'
import { Workbench } from './index.ts'
import { MadeChunks } from '../artwork/index.ts'

const { project, assets } = demo

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

test.each(
  [lampLines, ...layoutsForLaws.slice(8).filter(({ name }) => !name.startsWith('ended by CR LF'))].map(
    (layout) => [layout.name, layout] as const,
  ),
)('the frames of another framing pass the same exchanges: %s', (_, { toPanel }) => {
  const bench = new Workbench(edited(project, 'set layout', { values: { toPanel } }), assets)
  expect(project.exchangeOrder.filter((id) => !bench.runExchange(id)!.passed)).toEqual([])
})

test('a second layout, without a checksum and big-endian, passes the same exchanges', () => {
  const bench = new Workbench(edited(project, 'set layout', { values: { toPanel: bigEndianPlain.toPanel } }), assets)
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

test('a kind of widget registered by a test is compiled, painted and checked like any other', () => {
  const remove = oneMoreKind()
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
