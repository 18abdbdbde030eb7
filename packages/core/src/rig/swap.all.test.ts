import { describe, expect, test } from 'vitest'
import { seededRandom } from '../base/index.ts'
import { passGate } from '../project/index.ts'
import { edited } from '../testing/demo.ts'
import { EditMaker } from '../testing/edits.ts'
import { bench, moved } from '../testing/running.ts'

describe('a build put into a running rig', () => {
  test('leaves no timer of the old one: as many are asked for after a thousand previews as before', () => {
    const made = bench()
    const before = made.rig.clock.asked
    for (let n = 0; n < 1000; n++) {
      made.preview(moved(n))
      if (n % 100 === 0) made.advance(10_000)
    }
    made.cancelPreview()
    expect(made.rig.clock.asked).toBeLessThanOrEqual(before + 8)
  })
  test('keeps nothing of the old panel: memory stays flat over thousands of previews', () => {
    const made = bench()
    const { gc } = globalThis as { gc?: () => void }
    if (!gc) throw new Error('the tests run with --expose-gc')
    const sizeNow = () => {
      gc()
      // Surfaces and memories of panels: 0.9 MB for each that is kept.
      return process.memoryUsage().arrayBuffers / 1_000_000
    }
    const previews = (count: number) => {
      for (let n = 0; n < count; n++) made.preview(moved(n))
    }
    previews(200)
    const before = sizeNow()
    previews(1500)
    // All 1 500 kept would be 1 350 MB; `npm run speed` has the figure.
    expect(sizeNow() - before).toBeLessThan(20)
  })
})

describe('a long life', () => {
  test('thousands of edits, previews and changes of the link over every kind: nothing grows, and nothing is left when it ends', () => {
    const random = seededRandom(5)
    const maker = new EditMaker(random)
    const made = bench()
    const { gc } = globalThis as { gc?: () => void }
    if (!gc) throw new Error('the tests run with --expose-gc')
    let edits = 0
    const live = (rounds: number) => {
      for (let k = 0; k < rounds; k++) {
        const request = maker.request(made.project)
        const done = request && request.edit !== 'undo' && passGate(made.project, request)
        if (done && done.ok && Object.keys(done.value.project.widgets).length < 400) {
          made.take(done.value.project)
          edits++
        }
        made.preview({ ...moved(k), changeId: 'change:preview' })
        if (k % 3 === 0) made.cancelPreview()
        if (k % 20 === 0) made.take(edited(made.project, 'set link', { values: { baud: [1200, 9600, 19_200, 115_200][k % 4]! } }))
        if (k % 10 === 0) made.advance(50_000)
        if (k % 25 === 0) made.paint()
      }
      made.cancelPreview()
      gc()
      return process.memoryUsage().arrayBuffers / 1_000_000
    }
    const before = live(300)
    const timers = made.rig.clock.asked
    const after = live(600)
    expect(edits).toBeGreaterThan(300)
    // Letters of sizes that were passed through are kept up to a limit; a panel that is kept would be 0.9 MB each.
    expect(after - before).toBeLessThan(60)
    expect(made.rig.clock.asked).toBeLessThan(timers + 400)
    const { rig } = made
    rig.stop()
    expect(rig.clock.asked).toBe(0)
  })
})
