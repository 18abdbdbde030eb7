import { describe, expect, test } from 'vitest'

import { Hand } from './browser.ts'
import { oneWidget } from './one-widget.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
const { project, saved, place, opened, select, lastName } = oneWidget({ server, chromium })

describe('what was shown is there', () => {
  test('renamed, clicked away to the shelf at once, opened again: in the same window and by a new load', async () => {
    const { id } = await project()
    const page = await opened(id)
    const hand = new Hand(page)
    const field = await hand.find('Name of the page')
    await field.click({ count: 3 })
    await field.type('Harbour')
    // The click takes the focus, which commits the name, and leaves in the same moment.
    await page.click('header a')
    await hand.sees(lastName())
    await page.goBack()
    await hand.find('Name of the page')
    expect(await page.$eval('[aria-label="Name of the page"]', (e) => (e as HTMLInputElement).value)).toBe('Harbour')
    await hand.sees('Saved · revision 2')
    await page.reload()
    await hand.find('Name of the page')
    expect(await page.$eval('[aria-label="Name of the page"]', (e) => (e as HTMLInputElement).value)).toBe('Harbour')
    expect((await saved(id)).revision).toBe(2)
    await page.close()
  })
  test('a tab killed while it saves: the next window has it, once', async () => {
    const { id } = await project()
    const page = await opened(id)
    await select(page)
    // The request reaches the server, and the answer never the page.
    await page.setRequestInterception(true)
    page.on('request', (request) => {
      if (!request.url().endsWith('/changes') || request.method() !== 'POST') return void request.continue()
      void fetch(request.url(), { method: 'POST', headers: { 'content-type': 'application/json' }, body: request.postData()! })
    })
    await page.keyboard.press('ArrowDown')
    await expect.poll(async () => (await place(id)).place.y).toBe(41)
    await page.close()
    const next = await opened(id)
    await new Hand(next).sees('Saved · revision 2')
    expect((await place(id)).place).toMatchObject({ x: 40, y: 41 })
    expect(await next.evaluate(async () => (await indexedDB.databases()).map((d) => d.name))).toContain('moth-lamp-edits')
    const left = await next.evaluate(async () => {
      const db = await new Promise<IDBDatabase>((resolve) => {
        const request = indexedDB.open('moth-lamp-edits')
        request.onsuccess = () => resolve(request.result)
      })
      const all = db.transaction('edits').objectStore('edits').count()
      await new Promise((resolve) => (all.onsuccess = resolve))
      db.close()
      return all.result
    })
    expect(left).toBe(0)
    await next.close()
  })
  test('two windows move one widget, one right, one down: both, in both', async () => {
    const { id } = await project()
    const [one, two] = [await opened(id), await opened(id)]
    await select(two)
    await select(one)
    await Promise.all([
      ...Array.from({ length: 10 }, () => one.keyboard.press('ArrowRight')),
      ...Array.from({ length: 10 }, () => two.keyboard.press('ArrowDown')),
    ])
    await expect.poll(async () => (await place(id)).place).toMatchObject({ x: 50, y: 50 })
    for (const page of [one, two]) {
      await page.bringToFront()
      await new Hand(page).sees('Saved · revision')
      expect(await page.evaluate(() => document.body.innerText.includes('conflict'))).toBe(false)
      await page.close()
    }
  })
  test('an edit the server never takes is set aside and listed, after a reload too, and the rest is saved', async () => {
    const { id } = await project()
    const page = await opened(id, 'panel')
    await page.setRequestInterception(true)
    page.on('request', (request) => {
      const spoilt = request.url().endsWith('/changes') && request.postData()?.includes('Spoilt')
      if (!spoilt) return void request.continue()
      void request.respond({
        status: 400,
        contentType: 'application/json',
        body: '{"code":"api.request","facts":{},"message":"Not this one."}',
      })
    })
    const hand = new Hand(page)
    chromium.serverAway = true
    await hand.fill('Project name', 'Spoilt')
    await hand.sees('1 conflict')
    await hand.fill('Project name', 'Good again')
    await hand.sees('Saved · revision 2')
    chromium.serverAway = false
    await page.reload()
    await hand.click('1 conflict', 'button')
    await hand.sees('Not this one.')
    await hand.click('Discard', 'button')
    await page.waitForFunction(() => !document.body.innerText.includes('conflict'))
    expect((await saved(id)).project.name).toBe('Good again')
    await page.close()
  })
  test('a window of another form loads itself again, and its edit comes along', async () => {
    const { id } = await project()
    const page = await opened(id, 'panel')
    await page.setRequestInterception(true)
    let asOlder = true
    page.on('request', (request) => {
      const body = request.postData()
      if (!asOlder || !request.url().endsWith('/changes') || !body) return void request.continue()
      asOlder = false
      void request.continue({ postData: body.replace(/"form":\d+/, '"form":2') })
    })
    chromium.serverAway = true
    const loaded = page.waitForNavigation()
    await new Hand(page).fill('Project name', 'Comes along')
    await loaded
    await new Hand(page).sees('Saved · revision 2')
    chromium.serverAway = false
    expect((await saved(id)).project.name).toBe('Comes along')
    await page.close()
  })
})

describe('a project file', () => {
  test('that cannot be read says why on the shelf; one whose picture cannot be made says so in its place', async () => {
    const { id } = await project()
    const page = await chromium.page()
    chromium.serverAway = true
    await page.setRequestInterception(true)
    page.on('request', (request) => {
      if (!request.url().includes(`${id}/picture`)) return void request.continue()
      void request.respond({
        status: 422,
        contentType: 'application/json',
        body: '{"code":"api.no-picture","facts":{},"message":"No picture: made to fail."}',
      })
    })
    await page.goto(server.url)
    const hand = new Hand(page)
    await hand.sees('No picture: made to fail.')
    const input = (await page.$('input[type=file]'))! as import('puppeteer-core').ElementHandle<HTMLInputElement>
    await input.uploadFile(new URL(import.meta.url).pathname)
    await hand.sees('Not a project file')
    chromium.serverAway = false
    await page.close()
  })
})

describe('what leaves a project', () => {
  test('a panel is kept as a profile by name and put into another project; undo takes it out again', async () => {
    const [a, b] = [await project(), await project()]
    const page = await chromium.page()
    const hand = new Hand(page)
    await page.goto(`${server.url}/project/${a.id}/panel`)
    await hand.fill('Width', '470')
    await hand.click('Hardware presets', 'button')
    await hand.fill('Name of the preset', 'Bench glass')
    await hand.sees('470 × 320')
    await page.goto(`${server.url}/project/${b.id}/panel`)
    await hand.click('Hardware presets', 'button')
    await hand.clickOn('button', 'Bench glass')
    const width = async () => (await saved(b.id)).project.panel.width
    await expect.poll(width).toBe(470)
    await hand.click('Undo', 'button')
    await expect.poll(width).not.toBe(470)
    await page.close()
  })
  test('a file that is saved spends its addresses first', async () => {
    const { id } = await project()
    const { name } = (await saved(id)).project
    const page = await chromium.page()
    const hand = new Hand(page)
    await page.goto(`${server.url}/project/${id}/variables`)
    await hand.click('+ Variable N', 'button')
    const spent = async () => Object.keys((await saved(id)).project.spent.addresses).length
    await hand.sees('addresses reserved')
    await hand.sees('Saved · revision 2')
    expect(await spent()).toBe(0)
    await page.goto(server.url)
    await hand.click(`More for ${name}`, 'button')
    await hand.clickOn('[role=menuitem]', 'Save as a project file')
    await expect.poll(spent).toBe(1)
    await page.close()
  })
})
