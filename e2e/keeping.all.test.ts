import { describe, expect, test } from 'vitest'
import type { Page } from 'puppeteer-core'
import { Hand } from './browser.ts'
import { oneWidget } from './one-widget.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
const { project, place, opened, select, lastName } = oneWidget({ server, chromium })

test('a burst of 25 moves and the tab closed at once: 25', async () => {
  for (let round = 0; round < 3; round++) {
    const { id } = await project()
    const page = await opened(id)
    await select(page)
    await page.evaluate(() => {
      for (let i = 0; i < 25; i++) window.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }))
    })
    await page.close({ runBeforeUnload: false })
    const next = await opened(id)
    await expect.poll(async () => (await place(id)).place.x).toBe(65)
    await next.close()
  }
})

test('ten windows of one project: all save, all hear', async () => {
  const { id } = await project()
  const pages: Page[] = []
  for (let i = 0; i < 10; i++) pages.push(await opened(id, 'panel'))
  for (const [i, page] of pages.entries()) {
    await page.bringToFront()
    await new Hand(page).fill('Project name', `By ${i}`)
    await new Hand(page).sees(`Saved · revision ${i + 2}`)
  }
  for (const page of pages) {
    await page.bringToFront()
    await new Hand(page).sees('By 9')
    await new Hand(page).sees('Saved · revision 11')
  }
  for (const page of pages) await page.close()
})

/** A worker says so and hangs by it, without work for the machine. */
const hangs = `new BroadcastChannel('hangs').postMessage('')
Atomics.wait(new Int32Array(new WebAssembly.Memory({ initial: 1, maximum: 1, shared: true }).buffer), 0, 0)`

/** Starts the panel once more: what the glass said of it is gone, and nothing is offered any more. */
async function goesOnAgain(hand: Hand): Promise<void> {
  await hand.click('Restart', 'button')
  await hand.page.waitForFunction(
    () => ![...document.querySelectorAll('button')].some((button) => button.textContent.includes('Restart')),
    { polling: 50 },
  )
}

describe('a worker that does not go on', () => {
  test('sticks: one is told on the glass, and starts it again', async () => {
    const { id } = await project()
    const page = await opened(id)
    const hand = new Hand(page)
    await select(page)
    chromium.serverAway = true
    void page
      .workers()[0]!
      .evaluate(hangs)
      .catch(() => undefined)
    await hand.sees('Simulator not responding')
    await page.keyboard.press('ArrowRight')
    await hand.sees('Saved · revision 2')
    await goesOnAgain(hand)
    // It has what was changed meanwhile, and says so.
    await hand.quiet()
    await page.keyboard.press('ArrowRight')
    await hand.sees('Saved · revision 3')
    chromium.serverAway = false
    await page.close()
  })
  test('is well: it stays for the next project, and has nothing of the one before', async () => {
    const [first, next] = [await project(), await project()]
    const page = await opened(next.id, 'bench')
    const hand = new Hand(page)
    const alone = await hand.quiet()
    await hand.opens(`${server.url}/project/${first.id}/pages`)
    await select(page)
    for (let k = 0; k < 30; k++) await page.keyboard.press('ArrowRight')
    await hand.isSaved()
    await hand.station('Bench')
    const clock = () => hand.secondsOn()
    await hand.clickOn('[aria-label="Speed"] div:last-child > label')
    await expect.poll(clock).toBeGreaterThan(20)
    const mine = page.workers()
    await hand.opens(`${server.url}/project/${next.id}/bench`)
    await hand.sees(lastName())
    await expect.poll(clock).toBeGreaterThan(0.1)
    expect(await clock()).toBeLessThan(15)
    expect(Buffer.compare(await hand.quiet(), alone)).toBe(0)
    expect(mine.filter((worker) => page.workers().includes(worker)).map((worker) => /bench/.test(worker.url()))).toContain(true)
    await page.close()
  })
  test('is stuck when its project is left: it goes with it, and the next has one that works', async () => {
    const [first, next] = [await project(), await project()]
    const page = await opened(first.id)
    const hand = new Hand(page)
    await select(page)
    const stuck = page.workers().find((worker) => /bench/.test(worker.url()))!
    const hung = page.evaluate(() => new Promise((resolve) => (new BroadcastChannel('hangs').onmessage = () => resolve(null))))
    void stuck.evaluate(hangs).catch(() => undefined)
    await hung
    await hand.opens(`${server.url}/project/${next.id}/pages`)
    await hand.sees(lastName())
    await select(page)
    await page.keyboard.press('ArrowRight')
    await hand.sees('Saved · revision 2')
    await hand.quiet()
    expect(await hand.reads()).not.toMatch(/The simulated panel|Simulator/)
    expect(page.workers().some((worker) => worker !== stuck && /bench/.test(worker.url()))).toBe(true)
    await page.close()
  })
  test('breaks again and again: it is given up, and says why', async () => {
    const { id } = await project()
    const page = await chromium.page()
    chromium.serverAway = true
    await page.evaluateOnNewDocument(() => {
      const Whole = window.Worker
      window.Worker = class extends Whole {
        constructor(...args: ConstructorParameters<typeof Worker>) {
          super(...args)
          const told = { data: { type: 'fault', message: 'made to break' } } as MessageEvent
          setTimeout(() => (window as { mended?: boolean }).mended || this.onmessage?.call(this, told), 100)
        }
      }
    })
    await page.goto(`${server.url}/project/${id}/pages`)
    const hand = new Hand(page)
    await hand.sees('Simulator stopped')
    await hand.sees('made to break')
    await page.evaluate(() => void ((window as { mended?: boolean }).mended = true))
    await goesOnAgain(hand)
    chromium.serverAway = false
    await page.close()
  })
})
