import { expect, test } from 'vitest'
import { demo, edited } from '../testing/demo.ts'
import { framesOfVariable, loadOf, shareAt } from './index.ts'

const { project } = demo

test('the load of the line is what is sent by itself, with its answers', () => {
  const load = loadOf(project)
  const expected = project.host.quantityOrder.reduce((sum, id) => {
    const { variable, everyMs } = project.host.quantities[id]!.settings
    const [write] = framesOfVariable(project, project.variables[variable as keyof typeof project.variables]!)
    return sum + (everyMs ? (write!.bytes.length * 1000) / everyMs : 0)
  }, 0)
  expect(load.toPanel).toBeCloseTo(expected)
  expect(load.toHost).toBeGreaterThan(0)
  expect(loadOf(edited(project, 'set link', { values: { answers: 'never' } })).toHost).toBe(0)
  // Ten bits a byte: half the speed is twice the share.
  expect(shareAt(load, project, 9600)).toBeCloseTo(2 * shareAt(load, project, 19_200))
  expect(shareAt(load, project, 19_200)).toBeCloseTo((Math.max(load.toPanel, load.toHost) * 10) / 19_200)
})
