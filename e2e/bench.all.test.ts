import { beforeAll, describe, expect, test } from 'vitest'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
let hand: Hand
let id = ''

beforeAll(async () => {
  hand = new Hand(await chromium.page())
  id = (await server.projects()).find((p) => p.name === 'Heron Hill dome')!.id
})

describe('Bench', () => {
  test('of a long log a screenful is kept going; scrolled up, all of it is there and stays under the eye', async () => {
    await hand.opens(`${server.url}/project/${id}/bench`)
    await hand.sees('wind_speed = ')
    await hand.clickOn('[aria-label="Speed"] div:last-child > label')
    const rows = () => hand.page.$$eval('[data-row]', (found) => found.length)
    const shown = async () => Number(/(\d+) shown/.exec(await hand.reads())?.[1])
    await expect.poll(shown).toBeGreaterThan(200)
    await hand.clickOn('[aria-label="Speed"] div:nth-child(3) > label')
    expect(await rows()).toBe(60)
    await hand.page.$eval('[role="log"]', (log) => (log.scrollTop = (log.scrollHeight * 3) / 4))
    await expect.poll(rows).toBeGreaterThan(200)
    const atTop = () =>
      hand.page.$eval('[role="log"]', (log) => {
        const { left, top, width } = log.getBoundingClientRect()
        const row = document.elementFromPoint(left + width / 2, top + 20)!.closest('[data-row]')!
        return `${row.getAttribute('data-row')} ${Math.round(row.getBoundingClientRect().top)}`
      })
    const before = await atTop()
    const first = () => hand.page.$eval('[data-row]', (row) => row.getAttribute('data-row'))
    const oldest = await first()
    // As many go as come: what is looked at stays where it is.
    await expect.poll(first).not.toBe(oldest)
    expect(await atTop()).toBe(before)
    await hand.clickOn('button', 'newer')
    await expect.poll(rows).toBe(60)
    expect(await hand.page.$eval('[role="log"]', (log) => log.scrollHeight - log.clientHeight - log.scrollTop)).toBeLessThan(30)
  })
  test('how fast the clock goes is chosen before the page has heard that it goes: it goes on', async () => {
    const page = await chromium.page()
    // The worker is heard late, as on a machine with much to do.
    await page.evaluateOnNewDocument(() => {
      const Prompt = window.Worker
      window.Worker = class extends Prompt {
        override set onmessage(hear: (event: MessageEvent) => void) {
          this.addEventListener('message', (event) =>
            setTimeout(() => {
              hear(event)
              document.documentElement.dataset['heard'] = event.data.type
            }, 1000),
          )
        }
      }
    })
    const slow = new Hand(page)
    await page.goto(`${server.url}/project/${id}/pages`)
    await slow.sees('Saved · revision')
    await slow.quiet()
    await page.evaluate(() => (document.documentElement.dataset['heard'] = ''))
    await slow.station('Bench')
    // It hears of the glass as it was a moment before the clock went.
    await page.waitForSelector('[data-heard="update"]')
    await slow.clickOn('[aria-label="Speed"] div:last-child > label')
    await expect.poll(() => slow.secondsOn()).toBeGreaterThan(10)
    await page.bringToFront()
    await page.keyboard.press('h')
    await slow.sees('paused at')
  })
})
