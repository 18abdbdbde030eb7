import { expect, test } from 'vitest'
import { Workbench } from '../workbench/index.ts'
import { demo, widgetNamed } from '../testing/demo.ts'

test('touches, pages, beeps, light and pins stand beside the conversation, each at its time and in words', () => {
  const bench = new Workbench(demo.project, demo.assets)
  bench.advance(1_500_000)
  const before = bench.rig.events.lastId
  const { x, y, width, height } = widgetNamed(demo.project, 'Open shutter').place
  bench.rig.panel.touchDown(x + width / 2, y + height / 2)
  bench.advance(100_000)
  bench.rig.panel.touchUp(x + width / 2, y + height / 2)
  bench.advance(500_000)
  bench.hostWrites('variable:own-backlight', 40)
  bench.hostWrites('variable:own-page', 2)
  bench.advance(100_000)
  const said = bench.rig.events.since(before)
  expect(said.map((e) => e.words)).toEqual(
    expect.arrayContaining(['press “Open shutter”', 'release “Open shutter”', 'backlight 40 %']),
  )
  expect(said.some((e) => e.what === 'page')).toBe(true)
  expect(said.some((e) => e.what === 'pin' && e.of === 'to panel')).toBe(true)
  expect(said.map((e) => e.atUs)).toEqual([...said.map((e) => e.atUs)].sort((a, b) => a - b))
  expect(bench.rig.panel.light).toBe(40)
})
