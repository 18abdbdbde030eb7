import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { keptDatabase, keptFolder } from '../packages/server/src/testing.ts'
import type { Page } from 'puppeteer-core'
import type { WidgetId } from '@moth-lamp/core/base'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

interface Kept {
  database?: string
  version: number
  rows: { store: string; key: string; value: unknown }[]
}
const left = (form: string) => JSON.parse(readFileSync(`${keptFolder}/${form}/unsaved.json`, 'utf8')) as Kept

/** Puts into the browser what windows of that form left when they died. */
const putBack = (page: Page, kept: Kept) =>
  page.evaluate(async ({ database, version, rows }) => {
    const request = indexedDB.open(database ?? 'moth-lamp', version)
    request.onupgradeneeded = () => {
      const db = request.result
      if (!database) return void db.createObjectStore('unsaved')
      for (const store of ['edits', 'aside'])
        db.createObjectStore(store, { keyPath: 'changeId' }).createIndex('project', 'project')
      db.createObjectStore('assets', { keyPath: 'sha' })
    }
    const db = await new Promise<IDBDatabase>((resolve) => (request.onsuccess = () => resolve(request.result)))
    for (const { store, key, value } of rows) {
      const transaction = db.transaction(store, 'readwrite')
      if (database) transaction.objectStore(store).put(value)
      else transaction.objectStore(store).put(value, key)
      await new Promise<void>((resolve) => (transaction.oncomplete = () => resolve()))
    }
    db.close()
  }, kept)

describe.each([
  ['2', 'widget:azimuth-58', { x: 122, y: 242, width: 172, height: 60 }],
  ['3', 'widget:-mains--28', { x: 716, y: 360, width: 68, height: 32 }],
])('a browser as form %s left it', (form, id, place) => {
  const { server, chromium } = stage(() => keptDatabase(form))
  test('the undo and the moves of two windows that died are taken up and saved', async () => {
    const kept = left(form)
    const first = kept.rows[0]!
    const project = kept.database ? (first.value as { project: string }).project : first.key.split(' ')[0]!
    const page = await chromium.page()
    await page.goto(server.url)
    await putBack(page, kept)
    await page.goto(`${server.url}/project/${project}/pages`)
    await new Hand(page).sees('Saved · revision')
    const now = async () => (await server.opened(project)).project.widgets[id as WidgetId]!.place
    await expect.poll(now, { interval: 100 }).toEqual(place)
    await new Hand(page).sees('Saved · revision')
    await page.close()
  })
})
