import { expect, test } from 'vitest'
import type { Page } from 'puppeteer-core'
import { Hand } from './browser.ts'
import { oneWidget } from './one-widget.ts'
import { stage } from './stage.ts'

const { project, place, opened, select } = oneWidget(stage())

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
