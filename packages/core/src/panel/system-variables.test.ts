import { afterEach, describe, expect, test } from 'vitest'
import { memoryPlanOf, plainPanel, systemVariablesOf } from '../project/index.ts'
import { Job } from '../testing/job.ts'
import { demo } from '../testing/demo.ts'
import { oneMoreSystemVariable } from '../testing/one-more.ts'
import { registerSystemVariable, systemVariable, systemVariableNamed, systemVariables, systemWords } from '../variables/index.ts'
import { Viewer, checkProject } from '../findings/index.ts'

const back: (() => void)[] = []
const more = (register: () => () => void) => void back.push(register())
afterEach(() => {
  for (const take of back.splice(0)) take()
})
const another = (name: string, holds: { type: 'time' } | null = null) =>
  registerSystemVariable({
    id: `variable:own-${name}`,
    name,
    holds: holds ?? { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 9 },
    writable: true,
    meaning: name,
  })

test('the places that firmware knows are where they always were', () => {
  expect(systemVariables().map(({ name, offset }) => `${offset} ${name}`)).toEqual([
    '0 page',
    '1 backlight',
    '2 clock',
    '4 beep',
    '5 touched',
    '6 version',
    '7 host_alive',
    '8 look',
    '9 date',
    '10 weekday',
    '11 minute',
    '12 level',
    '13 code',
    '14 pop_up',
    '16 contract',
  ])
  expect(systemWords()).toBe(18)
})

describe('one more', () => {
  test('stands behind all others, is offered, begins as it says, is written within its limits, and shown', () => {
    more(oneMoreSystemVariable)
    const job = new Job()
    job.widget('number', 'shown', [0, 0, 120, 40], { variable: 'variable:own-visitors', digits: 2 }).wait(200)
    expect(systemVariableNamed('visitors').offset).toBe(18)
    expect(systemVariablesOf(job.project.panel).at(-1)!.name).toBe('visitors')
    expect([job.shows('shown'), job.panel.memory.own('visitors')]).toEqual(['2', 2])
    expect(job.host('own-visitors', 8).wait(100).shows('shown')).toBe('8')
    expect(job.host('own-visitors', 7).wait(100).shows('shown')).toBe('8')
    expect(job.host('own-visitors', 42).wait(100).shows('shown')).toBe('8')
  })
  test('gone again, what named it is refused like anything that is not there', () => {
    more(oneMoreSystemVariable)
    expect(systemVariable('variable:own-visitors')).toBeDefined()
    back.pop()!()
    expect(systemVariable('variable:own-visitors')).toBeUndefined()
    expect(() => new Job().widget('number', 'n', [0, 0, 9, 9], { variable: 'variable:own-visitors' })).toThrow('gate.dangling')
  })
})

describe('more than the sixteen words that were set aside', () => {
  const three = () => {
    more(() => another('first'))
    more(() => another('second', { type: 'time' }))
    more(() => another('third'))
  }
  test('take as many as they need, a value of two words on an even one', () => {
    three()
    expect(
      systemVariables()
        .slice(-3)
        .map(({ offset }) => offset),
    ).toEqual([18, 20, 22])
    expect(memoryPlanOf(plainPanel)).toMatchObject({ ownFrom: 0xff00, ownTo: 0xff17 })
  })
  test('leave a variable behind them where it is: it is told, and offered a free address', () => {
    const job = new Job().edit('set panel', { values: { ownFrom: 0x0020 } })
    job.variable('near', { type: 'u16', factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max: 9 }, { address: 0x0033 })
    const told = () => checkProject(new Viewer(demo.assets).view(job.project)).filter(({ code }) => code === 'own-words')
    expect(told()).toEqual([])
    three()
    expect(told()).toMatchObject([{ at: 'variable:near', fix: { edit: 'give new address' } }])
    expect(job.project.variables['variable:near']!.address).toBe(0x0033)
  })
  test('are not there where memory ends before them', () => {
    three()
    const panel = { ...plainPanel, ownFrom: 0xfff0 }
    expect(systemVariablesOf(panel).at(-1)!.name).toBe('pop_up')
    expect(memoryPlanOf(panel).ownTo).toBe(0x10000)
    const job = new Job({ ownFrom: 0xfff0 })
      .widget('number', 'shown', [0, 0, 120, 40], { variable: 'variable:own-third' })
      .wait(200)
    expect(job.shows('shown')).toBe('—')
    const told = checkProject(new Viewer(demo.assets).view(job.project)).find(({ code }) => code === 'absent')
    expect(told).toMatchObject({ at: 'widget:shown', facts: { what: 'third' } })
  })
})
