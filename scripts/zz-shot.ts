// usage: tsx scripts/zz-shot.ts OUT PATH steps...  steps: glass:x,y  click:text  key:K  css:sel  wait:ms  type:text
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { launchChromium } from '../e2e/browser.ts'
const base = process.env.BASE ?? 'http://127.0.0.1:4600'
const [out, path, ...steps] = process.argv.slice(2)
const browser = await launchChromium(mkdtempSync(join(tmpdir(), 'zz-')))
const page = await browser.newPage()
page.on('pageerror', (e) => console.log('PAGEERROR', String(e)))
page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text().slice(0, 300)))
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms))
const list = (await (await fetch(`${base}/api/projects`)).json()) as { id: string; name: string }[]
const { id } = list.find((p) => p.name === (process.env.PROJECT ?? 'Heron Hill dome'))!
await page.goto(base + path.replace('ID', id))
await pause(2000)
for (const step of steps) {
  const [what, ...rest] = step.split(':')
  const arg = rest.join(':')
  if (what === 'glass') {
    const [x, y] = arg.split(',').map(Number)
    const box = (await (await page.$('[data-bezel] canvas'))!.boundingBox())!
    await page.mouse.click(box.x + x, box.y + y)
  }
  if (what === 'at') {
    const [x, y] = arg.split(',').map(Number)
    await page.mouse.click(x, y)
  }
  if (what === 'click') await (await page.waitForSelector(`::-p-text(${arg})`))!.click()
  if (what === 'aria') await (await page.waitForSelector(`::-p-aria(${arg})`))!.click()
  if (what === 'css') await page.click(arg)
  if (what === 'key') await page.keyboard.press(arg as never)
  if (what === 'type') await page.keyboard.type(arg)
  if (what === 'files') { const input = await page.waitForSelector('section[aria-label="Pictures"] ~ input[type=file], input[type=file]'); await (input as any).uploadFile(...arg.split('|')) }
  if (what === 'wait') await pause(Number(arg))
  await pause(500)
}
await page.screenshot({ path: out as `${string}.png` })
await browser.close()
