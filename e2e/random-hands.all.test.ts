import { expect, test } from 'vitest'
import { RandomHands } from './random-hands.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()

/** `HANDS`: so many gestures, where more are wanted than in a run of all tests. */
const gestures = Number(process.env['HANDS'] ?? 150)

test(
  'hands that do whatever comes: no error, and nothing typed is lost',
  async () => {
    const projects = (await server.projects()).map(({ id }) => id)
    const seed = Number(process.env['SEED'] ?? 1)
    const hands = new RandomHands(server, await chromium.page(), projects, seed)
    await hands.begin()
    for (let k = 0; k < gestures; k++) {
      await hands.gesture()
      expect(chromium.faults, `seed ${seed}, gesture ${k}`).toEqual([])
    }
    const { done } = hands
    console.log(`${done.gestures} gestures, ${done.typed} texts into ${done.fields.size} fields`)
    expect(done.lost).toEqual([])
    expect(done.typed).toBeGreaterThan(gestures / 10)
  },
  600_000 + gestures * 1000,
)
