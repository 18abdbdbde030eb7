import { expect, test } from 'vitest'
import type { LiveNote } from '@moth-lamp/contract'
import { Newest } from './newest.ts'

const note = (project: string, revision: number): LiveNote => ({ project, revision, form: 4 })

test('a thousand who ask are answered by two reads, one at a time; nobody hears of a moment before he asked', async () => {
  const reads: string[][] = []
  let running = 0
  const newest = new Newest(async (ids) => {
    expect(++running).toBe(1)
    reads.push([...ids])
    const revision = reads.length
    await new Promise((resolve) => setImmediate(resolve))
    running--
    return ids.filter((id) => id !== 'project:none').map((id) => note(id, revision))
  })
  const first = newest.of('project:a')
  await new Promise((resolve) => queueMicrotask(() => resolve(null)))
  const others = Array.from({ length: 1000 }, (_, i) => newest.of(`project:${i % 10}`))
  const none = newest.of('project:none')
  expect(await first).toEqual(note('project:a', 1))
  expect(await Promise.all(others)).toEqual(Array.from({ length: 1000 }, (_, i) => note(`project:${i % 10}`, 2)))
  expect(await none).toBeNull()
  expect(reads.map((ids) => ids.length)).toEqual([1, 11])
})

test('a read that fails fails whoever waited for it, and the next works', async () => {
  let fails = true
  const newest = new Newest(async (ids) => {
    if (fails) throw new Error('away')
    return ids.map((id) => note(id, 1))
  })
  await expect(newest.of('project:a')).rejects.toThrow('away')
  fails = false
  expect(await newest.of('project:a')).toEqual(note('project:a', 1))
})
