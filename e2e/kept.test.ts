import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { keptDatabase, keptFolder } from '../packages/server/src/testing.ts'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

const kept = JSON.parse(readFileSync(`${keptFolder}/2/unsaved.json`, 'utf8')) as {
  version: number
  rows: { store: string; key: string; value: unknown }[]
}
const project = kept.rows[0]!.key.split(' ')[0]!
const { server, chromium } = stage(() => keptDatabase('2'))

describe('a browser as an earlier version left it', () => {
  test('the undo and the moves of two windows that died are taken up and saved', async () => {
    const page = await chromium.page()
    await page.goto(server.url)
    await page.evaluate(async ({ version, rows }) => {
      const request = indexedDB.open('moth-lamp', version)
      request.onupgradeneeded = () => request.result.createObjectStore('unsaved')
      const db = await new Promise<IDBDatabase>((resolve) => (request.onsuccess = () => resolve(request.result)))
      const transaction = db.transaction('unsaved', 'readwrite')
      for (const { key, value } of rows) transaction.objectStore('unsaved').put(value, key)
      await new Promise<void>((resolve) => (transaction.oncomplete = () => resolve()))
      db.close()
    }, kept)
    await page.goto(`${server.url}/project/${project}/pages`)
    await new Hand(page).sees('Saved · revision')
    const place = async () => {
      const { project: now } = await server.opened(project)
      return now.widgets['widget:azimuth-58' as never] as { place: unknown }
    }
    await expect.poll(async () => (await place()).place, { interval: 100 }).toEqual({ x: 122, y: 242, width: 172, height: 60 })
    await new Hand(page).sees('Saved · revision')
    await page.close()
  })
})
