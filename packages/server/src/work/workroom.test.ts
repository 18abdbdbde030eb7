import { spawn, type ChildProcess } from 'node:child_process'
import { afterEach, describe, expect, test } from 'vitest'
import { watchWork } from './workroom.ts'

const limitMs = 250
let child: ChildProcess
afterEach(() => void child.kill('SIGKILL'))

/** A process that never ends by itself, and what its watch says of it. */
async function watched(code: string): Promise<{ isOver: () => boolean; tookMs: () => number; end: () => void }> {
  child = spawn(process.execPath, ['-e', `console.log('here'); ${code}`], { stdio: ['ignore', 'pipe', 'inherit'] })
  await new Promise((resolve) => child.stdout!.once('data', resolve))
  const from = performance.now()
  let at: number | null = null
  const end = watchWork(child.pid!, limitMs, () => void (at = performance.now()))
  return { isOver: () => at !== null, tookMs: () => at! - from, end }
}
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

describe('a piece of work has so much of a processor’s time', () => {
  test('who works all the time is stopped after it, and not before', async () => {
    const { isOver, tookMs } = await watched('for (;;);')
    await expect.poll(isOver, { timeout: 5 * limitMs + 1000, interval: 10 }).toBe(true)
    expect(tookMs()).toBeGreaterThanOrEqual(limitMs - 5)
  })
  test('who does not get any, as on a machine with much else to do, has longer; once it works, its time runs', async () => {
    const { isOver, tookMs } = await watched('for (;;);')
    child.kill('SIGSTOP')
    await pause(3 * limitMs)
    expect(isOver()).toBe(false)
    child.kill('SIGCONT')
    await expect.poll(isOver, { timeout: 3 * limitMs + 1000, interval: 10 }).toBe(true)
    expect(tookMs()).toBeGreaterThan(3 * limitMs)
  })
  test('who does nothing at all is stopped in the end', async () => {
    const { isOver, tookMs } = await watched('setInterval(() => 0, 100_000)')
    await expect.poll(isOver, { timeout: 6 * limitMs + 2000, interval: 10 }).toBe(true)
    expect(tookMs()).toBeGreaterThanOrEqual(5 * limitMs - 5)
  })
  test('what is done in time is never stopped', async () => {
    const { isOver, end } = await watched('setInterval(() => 0, 100_000)')
    end()
    await pause(6 * limitMs)
    expect(isOver()).toBe(false)
  })
})
