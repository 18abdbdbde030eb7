// Takes the pictures of docs/screenshots from a running Moth Lamp with the demo:
//   npx tsx scripts/pictures.ts http://127.0.0.1:4600
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Page } from 'puppeteer-core'
import { launchChromium } from '../e2e/browser.ts'

const base = process.argv[2] ?? 'http://127.0.0.1:4600'
const folder = fileURLToPath(new URL('../docs/screenshots/', import.meta.url))
const browser = await launchChromium(mkdtempSync(join(tmpdir(), 'moth-lamp-pictures-')))
const page = await browser.newPage()
const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))
const list = (await (await fetch(`${base}/api/projects`)).json()) as { id: string; name: string }[]
const called = (name: string) => list.find((p) => p.name === name)!.id
const id = called('Heron Hill dome')

/** Nothing is being made any more that would be seen: fonts, images, and a picture in each canvas in sight. */
const drawn = () =>
  page.waitForFunction(
    () =>
      !document.querySelector('[aria-busy="true"]') &&
      [...document.images].every((image) => image.naturalWidth > 0) &&
      [...document.querySelectorAll('canvas')].every((canvas) => {
        const { width, height, top } = canvas.getBoundingClientRect()
        if (!width || !height || top > innerHeight) return true
        const middle = canvas.getContext('2d')?.getImageData(canvas.width >> 1, canvas.height >> 1, 1, 1).data
        return middle === undefined || middle[3]! > 0
      }),
    { polling: 100 },
  )

async function picture(name: string, path: string, act: (page: Page) => Promise<void> = async () => undefined) {
  await page.goto(base + path)
  await page.waitForFunction(() => document.fonts.status === 'loaded')
  await drawn()
  await pause(4000)
  await act(page)
  await pause(900)
  await drawn()
  await page.screenshot({ path: `${folder}${name}.png` as `${string}.png` })
}

const glass = async (x: number, y: number) => {
  const box = (await (await page.$('[data-bezel] canvas'))!.boundingBox())!
  await page.mouse.click(box.x + x, box.y + y)
}
const click = async (text: string) => (await page.waitForSelector(`button::-p-text(${text})`))!.click()

await picture('shelf', '/')
await picture('panel', `/project/${id}/panel`)
await picture('pages', `/project/${id}/pages`, () => glass(500, 138))
await picture('table', `/project/${id}/pages`, async () => {
  await page.keyboard.press('t')
  await pause(500)
  for (const key of ['ArrowRight', 'ArrowDown', 'ArrowDown', 'ArrowDown'] as const) await page.keyboard.press(key)
})
await picture('variables', `/project/${id}/variables`, async () => {
  await (await page.$('tbody tr:nth-child(5) td:last-child'))!.click()
})
await picture('frames', `/project/${id}/frames`, async () => {
  await (await page.$('tbody tr:nth-child(4) td'))!.click()
  await page.type('[aria-label="Bytes to explain"]', '7E 51 12 00 06 09 82 97 7E')
})
await picture('bench', `/project/${id}/bench`, async () => {
  await pause(1200)
  await glass(500, 215)
  await pause(1400)
  await page.$$eval('[data-entry~="to-host"]', (rows) => (rows.at(-1) as HTMLElement).click())
})
await picture('quay-ramp', `/project/${called('Quay ramp remote')}/bench`, () => pause(3000))
await picture('lines', `/project/${called('Quay ramp remote')}/frames`, async () => {
  await page.type('[aria-label="Bytes to explain"]', 'TX angle = +4.25\nRX ok angl')
})
await picture('command', `/project/${called('Quay ramp remote')}/frames`, async () => {
  await (await page.waitForSelector('tbody button::-p-text(seen)'))!.click()
})
// Samples are drawn once more when their letters are there.
await picture('adding', `/project/${id}/pages`, async () => {
  await page.keyboard.press('a')
  await pause(3000)
})
await picture('artwork', `/project/${id}/artwork`)
await picture('letters', `/project/${id}/artwork`, async () => {
  await (await page.waitForSelector('[aria-label="Fonts"] button::-p-text(caption)'))!.click()
})
// A check that fails, made by an edit that is taken back at once.
await picture('exchanges', `/project/${id}/exchanges`, async () => {
  await click('Run all')
  await pause(2500)
  await click('Target stepped and reached')
  await page.click('[data-step="4"] button')
  const value = (await page.waitForSelector('[aria-label="Value"]'))!
  await value.click({ count: 3 })
  await value.type('232.6')
  await page.keyboard.press('Enter')
  await page.click('[data-step="4"] button')
  await (await page.waitForSelector('button::-p-text(Run)'))!.click()
})
await page.click('[aria-label="Undo"]')
await pause(1200)
await browser.close()
