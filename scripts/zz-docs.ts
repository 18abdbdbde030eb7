import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Hand, launchChromium } from '../e2e/browser.ts'
const base = 'http://127.0.0.1:4610'
const browser = await launchChromium(mkdtempSync(join(tmpdir(), 'zz-')))
const list = (await (await fetch(`${base}/api/projects`)).json()) as { id: string; name: string }[]
const idOf = (name: string) => list.find((p) => p.name.startsWith(name))!.id
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms))
const only = process.argv.slice(2)
async function shot(file: string, project: string, station: string, act: (h: Hand) => Promise<unknown>) {
  if (only.length && !only.includes(file)) return
  const page = await browser.newPage()
  const hand = new Hand(page)
  await page.goto(project ? `${base}/project/${idOf(project)}/${station}` : base)
  await pause(1500)
  await act(hand)
  await page.screenshot({ path: `docs/screenshots/${file}.png` as `${string}.png` })
  await page.close()
}
const text = async (h: Hand, words: string) => (await h.page.waitForSelector(`::-p-text(${words})`, { visible: true }))!.click()
await shot('bench', 'Heron', 'bench', async (h) => { await pause(3500); await h.press(505, 213); await pause(900); await text(h, 'shutter_order = open'); await pause(1500) })
await shot('quay-ramp', 'Quay', 'bench', () => pause(4500))
await shot('variables', 'Heron', 'variables', async (h) => { await h.click('Address of weather_flags'); await pause(800); await h.page.keyboard.press('Escape'); await pause(300) })
await shot('table', 'Heron', 'pages', async (h) => { await h.keys('t'); await pause(400); await h.keys('ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowRight'); await pause(600) })
await shot('adding', 'Heron', 'pages', async (h) => { await h.keys('a'); await pause(2500) })
await shot('frames', 'Heron', 'frames', async (h) => { const row = await h.page.waitForSelector('main tr ::-p-text(shutter_state)'); await row!.click(); await (await h.find('Bytes to explain')).type('7E 51 12 00 06 09 82 97 7E'); await pause(900) })
await shot('panel', 'Heron', 'panel', () => pause(800))
await shot('pages', 'Heron', 'pages', async (h) => { await h.press(736, 213); await pause(800) })
await shot('shelf', '', '', () => pause(1500))
await shot('exchanges', 'Heron', 'exchanges', async (h) => {
  await text(h, 'Target stepped')
  await h.page.click('[data-step="3"] button'); await pause(400)
  await h.fill('Value', '232.6'); await pause(300)
  await h.click('Run all', 'button'); await pause(6000)
  await text(h, 'Target stepped'); await pause(600)
})
await browser.close()
