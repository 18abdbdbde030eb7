import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { tmpdir } from 'node:os'
import { PNG } from 'pngjs'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Page } from 'puppeteer-core'
import { hashOfWords, mustHold } from '@moth-lamp/core/base'
import { zipSync } from 'fflate'
import { pictureUse } from '@moth-lamp/core/compile'
import { decodePicture, fitted, makeChunk, toPanel } from '@moth-lamp/core/artwork'
import type { Project } from '@moth-lamp/core/project'
import { testCodecs } from '../packages/core/src/testing/codecs.ts'
import { pictureSet, softPicture } from '../packages/core/src/testing/pictures.ts'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
let hand: Hand

beforeAll(async () => void (hand = new Hand(await chromium.page())))
const folder = mkdtempSync(join(tmpdir(), 'moth-lamp-pictures-'))
let jpeg: Uint8Array

/** A file of that name; its path. */
const file = (name: string, bytes: Uint8Array | string): string => {
  const path = join(folder, name)
  writeFileSync(path, bytes)
  return path
}
const png = (name: string, width: number, height: number): string => {
  const made = new PNG({ width, height })
  made.data = Buffer.from(softPicture(width, height).rgba)
  return file(name, PNG.sync.write(made))
}

beforeAll(async () => void (jpeg = (await pictureSet()).find((one) => one.name === 'JPEG')!.bytes))

async function begin(name: string): Promise<{ hand: Hand; id: string; saved(): Promise<Project> }> {
  const { id } = await server.post<{ id: string }>('/projects', { name, width: 320, height: 240, diagonalInches: 3.5 })
  await hand.opens(`${server.url}/project/${id}/artwork`)
  await hand.sees('Drop pictures here')
  const saved = async () => {
    await hand.isSaved()
    return (await server.opened(id)).project
  }
  return { hand, id, saved }
}
const give = async (page: Page, ...paths: string[]) =>
  (await page.waitForSelector('input[type=file][multiple]') as unknown as { uploadFile(...p: string[]): Promise<void> }).uploadFile(...paths) // prettier-ignore
const isMade = (hand: Hand, label: string) =>
  hand.page.waitForSelector(`canvas[data-made][aria-label="${label}"]`, { visible: true })

describe('Artwork', () => {
  test('many pictures at once: what is damaged or none is told by its name, the others are in, in one step', async () => {
    const { hand, saved } = await begin('Many')
    await give(
      hand.page,
      png('dusk.png', 640, 427),
      file('photo.jpg', jpeg),
      file('cut.jpg', jpeg.slice(0, jpeg.length - 30)),
      file('notes.png', 'only notes'),
      file('again.jpg', jpeg),
    )
    await hand.sees('Rejected “cut.jpg”: Damaged file: missing end marker.')
    await hand.sees('Rejected “notes.png”: Unsupported format')
    await hand.sees('“again.jpg” is already imported as “photo”.')
    expect(Object.values((await saved()).pictures).map((p) => [p.name, p.width, p.height, p.way])).toEqual([
      ['dusk', 320, 240, 'crop'],
      ['photo', 21, 13, 'exact'],
    ])
    await isMade(hand, '“photo” as it is on the glass')
    await hand.click('Undo', 'button')
    expect(Object.keys((await saved()).pictures)).toEqual([])
    await hand.click('Redo', 'button')
    expect(Object.keys((await saved()).pictures).length).toBe(2)
  })

  test('a ZIP of pictures, drawings in SVG among them: each is in, drawn as Node draws it, and what is none is told', async () => {
    const { hand, saved } = await begin('Zipped')
    const text = (words: string) => new TextEncoder().encode(words)
    const moon = text(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 40"><circle cx="30" cy="20" r="18" fill="#e8c27a"/></svg>',
    )
    const dusk = new PNG({ width: 30, height: 20 })
    dusk.data = Buffer.from(softPicture(30, 20).rgba)
    const zip = zipSync({
      'set/moon.svg': moon,
      'set/dusk.png': PNG.sync.write(dusk),
      'set/notes.txt': text('only notes'),
      'set/scripted.svg': text('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>1</script></svg>'),
      '__MACOSX/set/moon.svg': text('nothing'),
    })
    await give(hand.page, file('set.zip', zip))
    await hand.sees('Rejected “notes.txt”: Unsupported format')
    await hand.sees('Rejected “scripted.svg”: SVG rejected: scripts not allowed.')
    expect(Object.values((await saved()).pictures).map((p) => [p.name, p.format, p.width, p.height])).toEqual([
      ['dusk', 'png', 30, 20],
      ['moon', 'svg', 60, 40],
    ])
    await hand.clickOn('section[aria-label="Pictures"] button', 'moon')
    await hand.fill('Width of the picture', '240')
    await hand.fill('Height of the picture', '160')
    await hand.clickOn('[role="radio"]', 'stretch')
    await hand.click('Keep alpha', 'checkbox')
    await isMade(hand, 'Output')
    const record = Object.values((await saved()).pictures).find((p) => p.name === 'moon')!
    const wanted = mustHold(makeChunk(pictureUse(record, '#080c18').request, () => moon)).parts.pixels
    const shown = () =>
      hand.page.$eval('canvas[aria-label="Output"]', (c) => {
        const { width, height } = c as HTMLCanvasElement
        return [...(c as HTMLCanvasElement).getContext('2d')!.getImageData(0, 0, width, height).data]
      })
    const asPanel = async () => {
      const rgba = await shown()
      return hashOfWords(
        Uint16Array.from(
          { length: rgba.length / 4 },
          (_, i) => ((rgba[4 * i]! >> 3) << 11) | ((rgba[4 * i + 1]! >> 2) << 5) | (rgba[4 * i + 2]! >> 3),
        ),
      )
    }
    await expect.poll(asPanel).toBe(hashOfWords(wanted))
  })

  test('a photo is fitted, its part moved by keys, and lies behind a page with a text over it, as Node has it', async () => {
    const { hand, saved } = await begin('Dusk')
    await give(hand.page, file('photo.jpg', jpeg))
    await hand.find('Name of the picture')
    await hand.fill('Width of the picture', '320')
    await hand.fill('Height of the picture', '240')
    await hand.clickOn('[role="radio"]:nth-child(2)', 'crop')
    await hand.page.$eval('[aria-label="Cropped part"]', (e) => (e as SVGElement).focus())
    await hand.keys('ArrowRight', 'ArrowRight')
    await hand.clickOn('[aria-label="Dithering"] label', 'ordered')
    await isMade(hand, 'Output')
    await hand.sees('upscaled')
    const picture = Object.values((await saved()).pictures)[0]!
    expect(picture).toMatchObject({ way: 'crop', dither: 'ordered', width: 320, height: 240 })
    expect(picture.partX).toBeGreaterThan(1)
    await hand.station('Pages')
    await hand.clickOn('button[aria-label^="Background:"]')
    await hand.choose('Background: picture', 'photo')
    await hand.keys('Escape')
    const { width, height } = picture
    const part = { x: picture.partX, y: picture.partY, width: picture.partWidth, height: picture.partHeight }
    const original = mustHold(decodePicture(jpeg, testCodecs))
    const wanted = toPanel(
      fitted(original, { width, height }, { turn: 0, trims: false, way: 'crop', part }),
      'ordered',
      '#000000',
      false,
    )
    const onScreen = async () => {
      const rgba = await hand.glass()
      const pixels = new Uint16Array(width * height)
      for (let i = 0; i < pixels.length; i++)
        pixels[i] = ((rgba[4 * i]! >> 3) << 11) | ((rgba[4 * i + 1]! >> 2) << 5) | (rgba[4 * i + 2]! >> 3)
      return hashOfWords(pixels)
    }
    await expect.poll(onScreen).toBe(hashOfWords(wanted.pixels))
    await hand.keys('a')
    await hand.clickOn('[role="option"]', 'Label')
    await hand.keys('Enter')
    await hand.fill('Text', 'Good night')
    await expect.poll(onScreen).not.toBe(hashOfWords(wanted.pixels))
    expect((await saved()).pages[(await saved()).pageOrder[0]!]!.background.picture).toBe(picture.id)
  })

  test('another original in its place keeps whoever shows it, and comes back with undo; what shows it is told before it goes', async () => {
    const { hand, saved } = await begin('Replaced')
    await give(hand.page, png('one.png', 60, 40))
    await hand.find('Name of the picture')
    const before = Object.values((await saved()).pictures)[0]!
    const other = png('two.png', 90, 30)
    const input = await hand.page.$('input[type=file]:not([multiple])')
    await (input as unknown as { uploadFile(path: string): Promise<void> }).uploadFile(other)
    await hand.sees('from two.png')
    expect(Object.values((await saved()).pictures)[0]).toMatchObject({
      id: before.id,
      file: 'two.png',
      fromWidth: 90,
      fromHeight: 30,
    })
    await hand.click('Undo', 'button')
    await hand.sees('from one.png')
    expect(Object.values((await saved()).pictures)[0]).toEqual(before)
    await hand.click('Delete', 'button')
    await hand.sees('Drop pictures here')
    expect((await saved()).pictureOrder).toEqual([])
  })

  test('what one window takes in the other shows; too much for the module is told with the sum', async () => {
    const { hand, id } = await begin('Two windows')
    const other = new Hand(await chromium.page())
    await other.page.goto(`${server.url}/project/${id}/artwork`)
    await other.sees('Drop pictures here')
    const path = png('moon.png', 200, 150)
    await give(hand.page, path)
    await isMade(other, '“moon” as it is on the glass')
    // An unused picture is not on the panel.
    await other.page.goto(`${server.url}/project/${id}/pages`)
    await other.clickOn('button[aria-label^="Background:"]')
    await other.choose('Background: picture', 'moon')
    await other.keys('Escape')
    await other.station('Artwork')
    await other.fill('Flash for images and fonts', '50')
    await other.sees('Artwork needs 59 KiB; the panel has 50 KiB (9 KiB over).')
    await other.sees('8.9 KiB over')
    // A used record is deleted only after its users were shown.
    await other.click('Delete …', 'button')
    await other.sees('“moon” is used in 1 place')
    await other.click('Delete', 'button')
    await other.sees('Drop pictures here')
  })

  test('pasted and dropped anywhere they are taken; an intake is stopped, and what is in stays; a part is drawn by the pointer', async () => {
    const { hand, saved } = await begin('Given')
    const given = async (kind: 'paste' | 'drop', where: string, path: string) => {
      const bytes = readFileSync(path).toString('base64')
      await hand.page.evaluate(
        (how, selector, name, text) => {
          const data = new DataTransfer()
          data.items.add(new File([Uint8Array.from(atob(text), (c) => c.charCodeAt(0))], name, { type: 'image/png' }))
          const init = { bubbles: true, cancelable: true }
          document
            .querySelector(selector)!
            .dispatchEvent(
              how === 'drop'
                ? new DragEvent('drop', { ...init, dataTransfer: data })
                : new ClipboardEvent('paste', { ...init, clipboardData: data }),
            )
        },
        kind,
        where,
        path.split('/').at(-1)!,
        bytes,
      )
    }
    await given('paste', 'body', png('pasted.png', 400, 300))
    await isMade(hand, '“pasted” as it is on the glass')
    await given('drop', '[aria-label="Storage"]', png('dropped.png', 40, 30))
    await isMade(hand, '“dropped” as it is on the glass')
    expect(Object.values((await saved()).pictures).map(({ name }) => name)).toEqual(['pasted', 'dropped'])

    // Of 400 × 300 the part is made half as wide, and then drawn to the lower right.
    await hand.clickOn('button', 'pasted')
    await hand.clickOn('[role="radio"]:nth-child(2)', 'crop')
    const part = '[aria-label="Cropped part"]'
    const boxOf = async (selector: string) =>
      (await (await hand.page.waitForSelector(selector, { visible: true }))!.boundingBox())!
    const pull = async (selector: string, dx: number, dy: number) => {
      const { x, y, width, height } = await boxOf(selector)
      await hand.page.mouse.move(x + width / 2, y + height / 2)
      await hand.page.mouse.down()
      await hand.page.mouse.move(x + width / 2 + dx, y + height / 2 + dy, { steps: 6 })
      await hand.page.mouse.up()
    }
    const whole = await boxOf(part)
    await pull('[data-grip="size"]', -whole.width / 2, -whole.height / 2)
    await pull(part, whole.width, whole.height)
    const { partX, partY, partWidth, partHeight } = Object.values((await saved()).pictures)[0]!
    expect([partX + partWidth, partY + partHeight]).toEqual([400, 300])
    expect(Math.abs(partWidth - 200)).toBeLessThan(12)
    await hand.click('Undo', 'button')
    await hand.click('Undo', 'button')

    await give(hand.page, ...Array.from({ length: 60 }, (_, k) => png(`many ${k}.png`, 100 + k, 80)))
    await hand.click('Stop', 'button')
    await hand.page.waitForFunction(() => !document.querySelector('[aria-label="Import progress"]'))
    const taken = Object.keys((await saved()).pictures).length
    expect([taken > 2, taken < 62]).toEqual([true, true])
  })

  test('pictures dropped on the pages become pages, on a level its states, in the order of their numbers; one undo takes each back', async () => {
    const { hand, saved } = await begin('Dropped')
    await hand.station('Pages')
    await hand.sees('Press A to add a widget, or drag a rectangle')
    const drop = async (
      selector: string,
      at: [number, number] | null,
      names: readonly string[],
      width: number,
      height: number,
    ) => {
      const files = names.map((name) => {
        const made = new PNG({ width, height })
        made.data = Buffer.from(softPicture(width, height).rgba)
        made.data[0] = name.length + Number(name.replaceAll(/\D/g, ''))
        return { name, bytes: PNG.sync.write(made).toString('base64') }
      })
      await hand.page.evaluate(
        (where, point, list) => {
          const data = new DataTransfer()
          for (const { name, bytes } of list)
            data.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], name, { type: 'image/png' }))
          const target = document.querySelector(where)!
          const [clientX, clientY] = point ?? [0, 0]
          target.dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: data, clientX, clientY }))
        },
        selector,
        at,
        files,
      )
    }
    await drop('nav[aria-label="Pages"]', null, ['look 10.png', 'look 2.png', 'look 1.png'], 320, 240)
    await hand.sees('4 · look 10')
    const pages = Object.values((await saved()).pages).sort((a, b) => a.number - b.number)
    expect(pages.map((p) => p.name).slice(1)).toEqual(['look 1', 'look 2', 'look 10'])
    expect(new Set(pages.slice(1).map((p) => p.background.picture)).size).toBe(3)
    await hand.click('Undo', 'button')
    expect([(await saved()).pageOrder.length, (await saved()).pictureOrder.length]).toEqual([1, 0])

    await hand.page.$eval('[data-glass="edit"]', (e) => (e as HTMLElement).focus())
    await hand.keys('a')
    await hand.clickOn('[role="option"]', 'Picture by value')
    await hand.keys('Enter')
    await hand.find('Name of the widget')
    const level = Object.values((await saved()).widgets)[0]!
    const { x, y, width, height } = level.place
    const names = [1, 2, 3, 4, 5, 6].map((k) => `moon ${k}.png`)
    await drop('[data-glass="edit"]', await hand.at(x + width / 2, y + height / 2), names, width, height)
    await expect.poll(async () => (await saved()).pictureOrder.length).toBe(6)
    const project = await saved()
    const states = project.widgets[level.id]!.settings['levels'] as { face: { picture: string } }[]
    expect(states.map(({ face }) => project.pictures[face.picture as keyof typeof project.pictures]!.name)).toEqual(
      names.map((name) => name.replace('.png', '')),
    )
    await hand.click('Undo', 'button')
    expect((await saved()).pictureOrder.length).toBe(0)
  })
})

describe('what was made of pictures and letters', () => {
  const name = 'moth-lamp-chunks'
  /** Content of the browser's storage after a change. Runs in the page. */
  const kept = (page: Page, then: 'look' | 'spoil' | 'lose') =>
    page.evaluate(
      async ({ name, then }) => {
        // The first to open it makes it: that is the application.
        if (!(await indexedDB.databases()).some((found) => found.name === name)) return []
        const asked = indexedDB.open(name)
        const db = await new Promise<IDBDatabase>((resolve) => (asked.onsuccess = () => resolve(asked.result)))
        const transaction = db.transaction(['chunks', 'uses'], 'readwrite')
        const [chunks, uses] = [transaction.objectStore('chunks'), transaction.objectStore('uses')]
        const keys = uses.getAllKeys()
        await new Promise((resolve) => (keys.onsuccess = resolve))
        if (then === 'spoil') uses.put({ key: 'of-other-code letters', bytes: 7, usedMs: Date.now() })
        if (then === 'lose') chunks.clear()
        await new Promise((resolve) => (transaction.oncomplete = resolve))
        db.close()
        return keys.result.map(String)
      },
      { name, then },
    )

  test('is there at once when a project is opened again; what other code made goes; what is lost is made anew', async () => {
    const [demo] = await server.projects()
    const hand = new Hand(await chromium.page())
    const { page } = hand
    let makers = 0
    page.on('workercreated', (worker) => void (makers += worker.url().includes('chunks.worker') ? 1 : 0))
    const opened = async () => {
      makers = 0
      await page.goto(`${server.url}/project/${demo!.id}/pages`)
      await hand.sees('Saved · revision')
      return hashOfWords(new Uint16Array((await hand.quiet()).buffer))
    }
    const first = await opened()
    await expect.poll(async () => (await kept(page, 'spoil')).length).toBeGreaterThan(4)
    expect([await opened(), makers]).toEqual([first, 0])
    const keys = await kept(page, 'lose')
    expect(keys.filter((key) => key.startsWith('of-other-code'))).toEqual([])
    expect([await opened(), makers]).toEqual([first, 1])
  })
})
