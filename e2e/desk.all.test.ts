import { beforeAll, beforeEach, describe, expect, test } from 'vitest'
import { withSettings, type Project, type Widget } from '@moth-lamp/core/project'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

// The desk besides moving and typing: by pointer, keyboard and what is on the screen only, on a copy of the demo.

const { server, chromium } = stage()
let hand: Hand
let id = ''

/** The document as it is stored, once all is saved. */
const stored = async (): Promise<Project> => {
  await hand.isSaved()
  return (await server.opened(id)).project
}
const widget = async (name: string): Promise<Widget> => {
  const found = Object.values(withSettings(await stored()).widgets).find((w) => w.name === name)
  if (!found) throw new Error(`no widget is called ${name}`)
  return found
}
const middle = ({ place }: Widget): [number, number] => [place.x + place.width / 2, place.y + place.height / 2]
const select = async (name: string) => hand.press(...middle(await widget(name)))
const differs = (a: Uint8Array, b: Uint8Array) => Buffer.compare(Buffer.from(a), Buffer.from(b)) !== 0
const radiusOf = (w: Widget, face = 'face') => (w.settings[face] as { radius: number }).radius
/** A name so that nothing of an earlier test is waited for. */
const copied = async (text: string) => {
  await hand.page.evaluate((words) => {
    const data = new DataTransfer()
    data.setData('text/plain', words)
    document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  }, text)
}

beforeAll(async () => void (hand = new Hand(await chromium.page())))
const openCopy = async () => {
  const demo = (await server.projects()).find((p) => p.name === 'Heron Hill dome')!.id
  ;({ id } = await server.post<{ id: string }>(`/projects/${demo}/duplicate`, {}))
  await hand.opens(`${server.url}/project/${id}/pages`)
  await hand.sees('Start-up sequence')
}
beforeEach(openCopy)

describe('a locked widget', () => {
  test('is left where it is by pointer, arrows and Delete, is reached by a right click, and unlocked by the same key', async () => {
    const before = await widget('Open shutter')
    const [x, y] = middle(before)
    await select('Open shutter')
    await hand.keys('k')
    await hand.sees('One widget is locked')
    await hand.keys('ArrowRight')
    await hand.sees('Locked. Press K to unlock.')
    await hand.keys('Delete')
    await hand.drag([x, y], [x + 40, y])
    expect((await widget('Open shutter')).place).toEqual(before.place)
    await hand.keys('Escape')
    await hand.press(x, y)
    await hand.sees('Start-up sequence')
    await hand.press(x, y, 'right')
    await hand.clickOn('[role="menuitem"]', 'Open shutter')
    await hand.sees('On the wire')
    await hand.keys('k', 'ArrowRight')
    expect((await widget('Open shutter')).place.x).toBe(before.place.x + 1)
  })
})

describe('the thumb under what is selected', () => {
  test('sweeps its value on the desk, and neither panel nor wire hears of it', async () => {
    await hand.page.waitForFunction(() => document.querySelector('[data-bezel] canvas'))
    await select('Target')
    const thumb = await hand.page.waitForSelector('[role="slider"][aria-label^="Sweep dome_target"]')
    await hand.quiet()
    const before = await hand.glass()
    await thumb!.focus()
    await hand.keys('End')
    await hand.quiet()
    expect(differs(before, await hand.glass())).toBe(true)
    await hand.page.focus('[data-glass="edit"]')
    await hand.keys('Escape')
    await hand.quiet()
    await select('Target')
    await hand.quiet()
    expect(differs(before, await hand.glass())).toBe(false)
    expect(await hand.page.$eval('[aria-label^="Sweep dome_target"]', (e) => e.getAttribute('aria-valuenow'))).toBe('231')
  })
})

describe('on the face', () => {
  test('a handle draws the radius, at rest and pressed alike, as one change', async () => {
    const before = await widget('Open shutter')
    await select('Open shutter')
    const grip = (await (await hand.page.waitForSelector('[data-grip="radius"]'))!.boundingBox())!
    const { page } = hand
    await page.mouse.move(grip.x + 5, grip.y + 5)
    await page.mouse.down()
    await page.mouse.move(grip.x + 19, grip.y + 5, { steps: 4 })
    await page.mouse.up()
    const after = await widget('Open shutter')
    expect([radiusOf(after), radiusOf(after, 'pressedFace')]).toEqual([radiusOf(before) + 14, radiusOf(before) + 14])
    expect(after.place).toEqual(before.place)
    await hand.keys('Control+z')
    expect(radiusOf(await widget('Open shutter'))).toBe(radiusOf(before))
  })
})

describe('several at once', () => {
  test('+10 moves each from where it is; = and a number alone put all at one place', async () => {
    const names = ['Open shutter', 'Close shutter', 'Stop shutter']
    const before = await Promise.all(names.map(widget))
    await select(names[0]!)
    for (const w of before.slice(1)) {
      await hand.page.keyboard.down('Shift')
      await hand.press(...middle(w))
      await hand.page.keyboard.up('Shift')
    }
    await hand.sees('3 selected')
    await hand.fill('Left', '+10')
    expect((await Promise.all(names.map(widget))).map((w) => w.place.x)).toEqual(before.map((w) => w.place.x + 10))
    await hand.fill('Top', '=200')
    expect((await Promise.all(names.map(widget))).map((w) => w.place.y)).toEqual([200, 200, 200])
    await hand.fill('Width of the widget', '/2')
    expect((await Promise.all(names.map(widget))).map((w) => w.place.width)).toEqual(
      before.map((w) => Math.round(w.place.width / 2)),
    )
  })
})

describe('something new', () => {
  test('is chosen by its picture or its letter, and called by its words until it is named', async () => {
    await hand.keys('a')
    await hand.page.waitForFunction(() =>
      [...document.querySelectorAll<HTMLCanvasElement>('[role="option"] canvas')].some((c) =>
        c
          .getContext('2d')!
          .getImageData(0, 0, c.width, c.height)
          .data.some((byte, i) => i % 4 === 1 && byte > 120),
      ),
    )
    await hand.keys('b', 'Enter')
    await hand.sees(`button ${(await stored()).spent.lastNumbers['widgets']}`)
    await hand.fill('Text', 'Park now')
    expect((await widget('Park now')).kind).toBe('button')
    await hand.fill('Text', 'Park')
    await hand.fill('Name of the widget', 'Parker')
    await hand.fill('Text', 'Home')
    expect((await widget('Parker')).settings['text']).toBe('Home')
  })
})

describe('repeated and linked', () => {
  test('copies take the look of their original, keep what is their own, and list it', async () => {
    await select('Stop shutter')
    await hand.keys('r')
    await hand.sees('keep copies linked')
    await hand.click('Create 2', 'button')
    const made = Object.values((await stored()).widgets).filter((w) => w.like !== '')
    expect(made.length).toBe(2)
    expect(made.every((w) => !('face' in w.settings))).toBe(true)
    await select('Stop shutter')
    await hand.sees('Linked copies')
    await (await hand.page.waitForSelector('[title="Edit “Face”"]', { visible: true }))!.click()
    await hand.fill('Face: radius', '1')
    await hand.keys('Escape')
    const looks = Object.values(withSettings(await stored()).widgets).filter((w) => w.like !== '')
    expect(looks.map((w) => radiusOf(w))).toEqual([1, 1])
    await select(looks[0]!.name)
    await hand.sees('Linked to')
    await hand.fill('Text', 'Halt')
    await hand.click('Text: reset to original', 'button')
    await expect.poll(async () => (await stored()).widgets[looks[0]!.id]!.settings).not.toHaveProperty('text')
    await hand.click('Unlink', 'button')
    await expect.poll(async () => (await stored()).widgets[looks[0]!.id]!.like).toBe('')
  })
})

describe('table view', () => {
  test('are walked, written, filled down; what is pasted is taken wholly or not at all', async () => {
    await hand.keys('t')
    await hand.sees('24 widgets of Dome, as a table')
    await hand.keys('ArrowRight', 'ArrowDown', '=60*10+25', 'Enter')
    expect((await widget('“Target azimuth”')).place.x).toBe(625)
    await hand.keys('ArrowUp', 'Shift+ArrowDown', 'Shift+ArrowDown', 'Control+d')
    await hand.sees('2 cells changed')
    expect([(await widget('Azimuth')).place.x, (await widget('Target')).place.x]).toEqual([625, 625])
    await hand.keys('Control+z')
    expect((await widget('Target')).place.x).not.toBe(625)
    // The first cell on; of five thousand rows only those that have a widget, and that is said.
    await hand.keys('ArrowUp', 'ArrowUp')
    await copied(Array.from({ length: 5000 }, (_, k) => String(k % 700)).join('\n'))
    await hand.sees('4976 rows without a widget')
    await hand.keys('Control+z')
    const before = await stored()
    await copied('12\nnonsense\n14')
    await hand.sees('Not pasted: x of ')
    expect((await stored()).widgets).toEqual(before.widgets)
    await hand.keys('Escape')
    await hand.page.waitForSelector('[data-glass="edit"]')
  })
  test('has the columns one chooses', async () => {
    await hand.keys('t')
    await hand.click('Columns …', 'button')
    await (await hand.find('Find a column')).type('radius')
    await hand.clickOn('label', 'Face: radius')
    await hand.keys('Escape')
    await hand.page.waitForSelector('[role="columnheader"]::-p-text(Face: radius)')
  })
})

describe('room', () => {
  test('C puts the columns away and brings them back', async () => {
    const column = () => hand.page.$eval('[aria-label="Selection"]', (e) => e.checkVisibility())
    expect(await column()).toBe(true)
    await hand.keys('c')
    await expect.poll(column).toBe(false)
    await hand.keys('c')
    await expect.poll(column).toBe(true)
  })
  test('the glass in a window of its own is the same panel: pressed there, it reports here', async () => {
    await hand.station('Bench')
    await hand.sees('page “Dome” opens')
    const opened = new Promise<Awaited<ReturnType<typeof chromium.page>>>((resolve) =>
      hand.page.once('popup', (page) => resolve(page!)),
    )
    await hand.click('Glass in a separate window', 'button')
    const beside = new Hand(await opened)
    await hand.sees('The glass is in a separate window.')
    await beside.page.waitForFunction(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-bezel] canvas')
      return canvas
        ?.getContext('2d')!
        .getImageData(0, 0, canvas.width, canvas.height)
        .data.some((b, i) => i % 4 === 0 && b > 150)
    })
    await beside.press(...middle(await widget('Open shutter')))
    await hand.page.bringToFront()
    await hand.sees('shutter_order = open')
    await hand.click('Return', 'button')
    await hand.page.waitForSelector('[data-glass="touch"]')
    await expect.poll(() => beside.page.isClosed()).toBe(true)
  })
})

describe('what goes wrong', () => {
  test('a drag that leaves the window ends where it is let go, and nothing hangs on the pointer', async () => {
    const w = await widget('Stop shutter')
    const [x, y] = await hand.at(...middle(w))
    const { page } = hand
    await page.mouse.move(x, y)
    await page.mouse.down()
    await page.mouse.move(x + 60, y + 40, { steps: 3 })
    await page.mouse.move(1400, 900, { steps: 3 })
    await page.mouse.move(x + 30, y, { steps: 3 })
    await page.mouse.up()
    const after = await widget('Stop shutter')
    expect(Math.abs(after.place.x - w.place.x - 30)).toBeLessThanOrEqual(4)
    await page.mouse.move(x - 200, y)
    expect((await widget('Stop shutter')).place).toEqual(after.place)
  })
  test('what was said of one project, and its Undo, is gone in the next', async () => {
    await select('Stop shutter')
    await hand.keys('Delete')
    await hand.sees('One widget was deleted.')
    const first = id
    await openCopy()
    await hand.isSaved()
    expect(await hand.reads()).not.toContain('One widget was deleted.')
    expect(await hand.page.$('#overlays button')).toBe(null)
    // A deletion right before leaving is on its way.
    const count = async (project: string) => Object.keys((await server.opened(project)).project.widgets).length
    const here = await count(id)
    await expect.poll(() => count(first)).toBe(here - 1)
  })
  test('undo of what another window has deleted since says so, and does nothing', async () => {
    const w = await widget('Stop shutter')
    await select('Stop shutter')
    await hand.keys('ArrowRight')
    await hand.isSaved()
    const { project, revision } = await server.opened(id)
    await server.post(`/projects/${id}/changes`, {
      form: project.format,
      base: revision,
      changes: [{ changeId: 'change:another', edit: 'delete widgets', args: { ids: [w.id] } }],
    })
    await hand.page.waitForFunction(() => !document.body.innerText.includes('On the wire'))
    await hand.keys('Control+z')
    await hand.page.waitForFunction(() => /Cannot undo|was deleted/.test(document.body.innerText))
    expect((await stored()).widgets[w.id]).toBeUndefined()
  })
})
