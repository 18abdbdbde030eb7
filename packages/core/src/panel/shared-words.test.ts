import { describe, expect, test } from 'vitest'
import { Job } from '../testing/job.ts'
import { does } from '../testing/actions.ts'

const whole = (max = 65_535) => ({ type: 'u16' as const, factor: 1, offset: 0, decimals: 0, unit: '', min: 0, max })
const flags = { type: 'flags' as const, names: ['rain', 'wind', 'dew', ''] }

/** Two variables of one word, as two names for what a module packs into it. */
const shared = () =>
  new Job()
    .variable('all', whole(), { address: 32 })
    .variable('bits', flags, { address: 32 })
    .variable('far', whole(), { address: 40 })

describe('two variables at one address', () => {
  test('each has its own value, in its own words', () => {
    const job = shared().wait(200).host('bits', 5).wait(100)
    expect([job.value('all'), job.value('bits')]).toEqual([5, 5])
    job.host('all', 3).wait(100)
    expect(job.bench.rig.host.values().map(({ name, value }) => `${name} ${value}`)).toEqual(['all 3', 'bits 3', 'far 0'])
  })
  test('keep their values when one of them moves, is renamed, or goes', () => {
    const job = shared().wait(200).host('all', 9).wait(100)
    job.edit('set variable', { id: 'variable:bits', values: { address: 36 } })
    expect([job.value('all'), job.value('bits')]).toEqual([9, 9])
    job.edit('set variable', { id: 'variable:all', values: { name: 'whole_word' } })
    expect(job.value('all')).toBe(9)
    expect(job.bench.rig.host.values().find(({ name }) => name === 'whole_word')!.value).toBe(9)
    job.edit('delete variable', { id: 'variable:bits' })
    expect([job.value('all'), Object.keys(job.bench.values())]).toEqual([9, ['variable:all', 'variable:far']])
  })
  test('one that is told is told once, whichever of them was written', () => {
    const job = shared().page('set', { sends: 'on leaving' })
    const sets = [
      does('pressed', 'set', { variable: 'variable:all', to: 6 }),
      does('lifted', 'set bits', { variable: 'variable:bits', mask: 1 }),
    ]
    job.widget('button', 'both', [0, 0, 120, 60], { rules: sets }, 'page:set').edit('set start page', { id: 'page:set' })
    job.widget('button', 'go', [150, 0, 120, 60], { rules: [does('pressed', 'go to page', { page: job.first })] }, 'page:set')
    job.wait(300)
    const since = job.bench.rig.conversation.all().at(-1)?.id ?? 0
    job.press('both').wait(100).press('go').wait(300)
    expect(job.reports(since)).toEqual([[32, 7]])
  })
  test('are pretended and begun anew one by one', () => {
    const job = shared().wait(200).host('all', 9).wait(100)
    job.bench.resetVariable('variable:bits')
    expect([job.value('all'), job.value('bits')]).toEqual([0, 0])
  })
})

test('a report that waits is dropped only where a newer one says all that it says', () => {
  const job = new Job()
    .variable('low', whole(), { address: 32 })
    .variable('wide', { ...whole(4_000_000_000), type: 'u32' }, { address: 32 })
  job.edit('set link', { values: { confirm: false } })
  const rules = [
    does('pressed', 'set', { variable: 'variable:wide', to: 70_000 }),
    does('pressed', 'set', { variable: 'variable:low', to: 5 }),
  ]
  job.widget('button', 'b', [0, 0, 120, 60], { rules }).wait(300)
  const since = job.bench.rig.conversation.all().at(-1)?.id ?? 0
  job.press('b').wait(400)
  expect(job.value('wide')).toBe(65_541)
  expect(job.reports(since).map(([address, ...words]) => [address, words.length])).toContainEqual([32, 2])
})
