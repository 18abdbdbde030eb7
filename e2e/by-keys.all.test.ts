import type { KeyInput } from 'puppeteer-core'
import { beforeAll, expect, test } from 'vitest'
import { Hand } from './browser.ts'
import { begin } from './counted.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
let hand: Hand
beforeAll(async () => void (hand = new Hand(await chromium.page())))

/** Name of the focused element, or of its glass. */
const focused = () =>
  hand.page.evaluate(() => {
    const e = document.activeElement as HTMLElement
    return e.dataset['glass'] ?? e.getAttribute('aria-label') ?? e.textContent ?? ''
  })

test('a page with a number and a button, its run and its exchange, by keys alone, every stroke counted', async () => {
  const job = await begin(hand, server)
  let strokes = 0
  const press = async (...keys: KeyInput[]) => {
    for (const key of keys) {
      strokes++
      await hand.page.keyboard.press(key)
    }
  }
  const tabTo = async (name: string) => {
    for (let k = 0; k < 40 && (await focused()) !== name; k++) await press('Tab')
    expect(await focused()).toBe(name)
  }
  // From load to the glass in two Tabs.
  await press('Tab', 'Tab')
  expect(await focused()).toBe('edit')
  await press('a', 'n', 'Enter')
  await job.sees('On the wire')
  await press('a', 'b', 'Enter')
  await job.sees('When touched')
  expect(await focused()).toBe('edit')
  // A new action has the focus on its first word.
  await press('Enter')
  await tabTo('+ Action')
  await press('Enter')
  await hand.find('Action 1: when', 'combobox')
  await expect.poll(focused).toBe('Action 1: when')
  await tabTo('Action 1: variable')
  await press('Enter')
  await hand.find('number', 'option')
  await press('Enter')
  await expect.poll(focused).toBe('Action 1: variable')
  const made = await job.saved()
  expect(Object.values(made.widgets).map(({ kind }) => kind)).toEqual(['number', 'button'])
  // The glass keeps the focus into the run and out of it.
  await press('Escape')
  expect(await focused()).toBe('edit')
  await press('l')
  await expect.poll(focused).toBe('touch')
  await hand.sees('Panel running.')
  await press('Tab')
  await expect
    .poll(() => hand.page.evaluate(() => document.activeElement?.getAttribute('aria-label')))
    .toContain('Space presses it')
  await press('Space', 'l')
  await expect.poll(focused).toBe('edit')
  // A new exchange has the focus on its glass: a tap, then what is shown.
  await press('7')
  await hand.sees('An exchange is a script')
  await press('n')
  await expect.poll(focused).toBe('run')
  const onGlass = () => hand.page.evaluate(() => document.querySelector('[data-glass="run"]')!.getAttribute('aria-label')!)
  for (const [n, adds] of ['tap', 'check'].entries()) {
    // The glass is drawn first; a key before that selects nothing.
    await expect
      .poll(async () => {
        if (!(await onGlass()).endsWith(`adds a ${adds}`)) await hand.page.keyboard.press(']')
        return onGlass()
      })
      .toMatch(new RegExp(`: Enter adds a ${adds}$`))
    strokes++
    await press('Enter')
    await expect
      .poll(async () => Object.values((await job.saved()).exchanges)[0]?.stepOrder.length ?? 0)
      .toBeGreaterThanOrEqual(n + 1)
  }
  await press('r')
  await hand.sees('Passed (')
  // Arrows walk the steps at once.
  await hand.page.evaluate(() => (document.activeElement as HTMLElement).blur())
  await press('ArrowDown')
  await hand.page.waitForSelector('[data-picked]')
  console.log(`page, run and exchange by keys: ${strokes} strokes`)
  expect(strokes).toBeLessThanOrEqual(60)
})
