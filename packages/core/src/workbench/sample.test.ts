import { expect, test } from 'vitest'
import { compounds } from '../compounds/index.ts'
import { testAssets } from '../testing/fonts.ts'
import { Job } from '../testing/job.ts'
import { widgetKinds } from '../widgets/index.ts'
import { sampleBench } from './index.ts'

test('every kind and compound has its picture, also on a module without room for a variable', () => {
  const { project } = new Job({ memoryFrom: 0x10, memoryTo: 0x10 })
  for (const name of [...widgetKinds().map(({ kind }) => kind), ...compounds.map(({ compound }) => compound)]) {
    const bench = sampleBench(project, name, testAssets)
    expect(bench?.paint().length, name).toBeGreaterThan(0)
  }
  expect(sampleBench(project, 'no such kind', testAssets)).toBe(null)
})
