import { beforeAll, describe, expect, test } from 'vitest'
import { codecOf, compileLayout, encodeFrame, lampBinary } from '@moth-lamp/core/frames'
import { mustHold, toHex, type Rect } from '@moth-lamp/core/base'
import { expand565 } from '@moth-lamp/core/raster'
import type { Project, Widget } from '@moth-lamp/core/project'
import { Workbench } from '@moth-lamp/core/workbench'
import { demo } from '../packages/core/src/testing/demo.ts'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
let hand: Hand
let id = ''

beforeAll(async () => {
  hand = new Hand(await chromium.page())
  id = (await server.projects())[0]!.id
  await hand.page.goto(`${server.url}/project/${id}/pages`)
  await hand.sees('Start-up sequence')
})

const saved = async (): Promise<Project> => {
  await hand.isSaved()
  return (await server.opened(id)).project
}
const named = (project: Project, name: string): Widget => Object.values(project.widgets).find((w) => w.name === name)!
const centre = ({ x, y, width, height }: Rect) => [x + width / 2, y + height / 2] as const
const withKey = async (key: 'Control' | 'Shift' | 'Alt', act: () => Promise<unknown>) => {
  await hand.page.keyboard.down(key)
  await act()
  await hand.page.keyboard.up(key)
}
/** The desk as a workbench without a browser paints it. */
const desk = (project: Project) => {
  const { pixels } = new Workbench(project, demo.assets).paintPage(project.pageOrder[0]!)!
  const out = new Uint8Array(pixels.length * 4)
  pixels.forEach((p, i) => {
    const c = expand565(p)
    out.set([c.red, c.green, c.blue, 255], i * 4)
  })
  return Buffer.from(out)
}
/** How many pixels of two glasses differ, and between which; '' where none does. */
const difference = (seen: Uint8Array, wanted: Uint8Array, width: number): string => {
  const at = Array.from({ length: wanted.length / 4 }, (_, i) => i).filter((i) =>
    [0, 1, 2].some((k) => seen[4 * i + k] !== wanted[4 * i + k]),
  )
  const [x, y] = [at.map((i) => i % width), at.map((i) => Math.floor(i / width))]
  const span = (of: number[]) => `${of.reduce((a, b) => Math.min(a, b))} to ${of.reduce((a, b) => Math.max(a, b))}`
  return at.length ? `${at.length} pixels, x ${span(x)}, y ${span(y)}` : ''
}
const seesDesk = async (project: Project) => {
  const wanted = desk(project)
  // Letters may still be on their way.
  await expect.poll(async () => difference(await hand.glass(), wanted, project.panel.width)).toBe('')
}

describe('on the desk', () => {
  test('a widget is dragged: one change, and the glass shows it to the pixel', async () => {
    const before = await saved()
    const target = named(before, 'Open shutter')
    await hand.press(...centre(target.place))
    await hand.find('Action 1: to', 'combobox')
    expect(await hand.page.$eval('[aria-label="Action 1: to"]', (at) => at.textContent)).toBe('open')
    await withKey('Control', () => hand.drag(centre(target.place), [centre(target.place)[0] - 40, centre(target.place)[1] + 13]))
    const after = await saved()
    expect(named(after, 'Open shutter').place).toEqual({ ...target.place, x: target.place.x - 40, y: target.place.y + 13 })
    await seesDesk(after)
    await hand.click('Undo', 'button')
    expect(await saved()).toEqual({ ...before, spent: expect.anything() as never })
    await seesDesk(before)
  })
  test('a drag given up with Escape leaves no trace', async () => {
    const before = await saved()
    const [x, y] = centre(named(before, 'Close shutter').place)
    await hand.page.mouse.move(...(await hand.at(x, y)))
    await hand.page.mouse.down()
    await hand.page.mouse.move(...(await hand.at(x + 60, y + 60)))
    await hand.page.keyboard.press('Escape')
    await hand.page.mouse.up()
    await seesDesk(before)
    expect(await saved()).toEqual(before)
  })
  test('snaps onto its neighbours’ edges', async () => {
    const before = await saved()
    const stop = named(before, 'Stop shutter').place
    await hand.press(...centre(stop))
    await hand.drag(centre(stop), [centre(stop)[0] + 3, centre(stop)[1] - 60])
    const after = named(await saved(), 'Stop shutter').place
    const edges = Object.values(before.widgets)
      .filter((w) => w.page === before.pageOrder[0] && w.name !== 'Stop shutter')
      .flatMap((w) => [w.place.x, w.place.x + w.place.width / 2, w.place.x + w.place.width])
    expect(
      [after.x, after.x + after.width / 2, after.x + after.width].some((line) => edges.some((e) => Math.abs(e - line) <= 0.5)),
    ).toBe(true)
    await hand.click('Undo', 'button')
    await seesDesk(before)
  })
  test('sized by a handle, then by numbers with arithmetic', async () => {
    const place = named(await saved(), 'Stop shutter').place
    await hand.press(...centre(place))
    await hand.find('Width of the widget')
    await withKey('Control', () =>
      hand.drag(
        [place.x + place.width + 1, place.y + place.height + 1],
        [place.x + place.width - 19, place.y + place.height + 11],
      ),
    )
    expect(named(await saved(), 'Stop shutter').place).toEqual({ ...place, width: place.width - 20, height: place.height + 10 })
    await hand.fill('Width of the widget', '168/2')
    await hand.fill('Height of the widget', '70')
    expect(named(await saved(), 'Stop shutter').place).toEqual({ ...place, width: 84, height: 70 })
  })
  test('nudged by arrows, duplicated, aligned, deleted, and all of it undone', async () => {
    const before = await saved()
    const close = named(before, 'Close shutter').place
    const stop = named(before, 'Stop shutter').place
    await hand.press(...centre(stop))
    await hand.page.keyboard.press('ArrowDown')
    await withKey('Shift', () => hand.page.keyboard.press('ArrowRight'))
    expect(named(await saved(), 'Stop shutter').place).toEqual({ ...stop, x: stop.x + 10, y: stop.y + 1 })
    await withKey('Shift', async () => hand.press(...centre(close)))
    await hand.sees('2 selected')
    await hand.click('Top edges', 'button')
    expect(named(await saved(), 'Stop shutter').place.y).toBe(close.y)
    await withKey('Control', () => hand.page.keyboard.press('d'))
    const doubled = await saved()
    expect(Object.keys(doubled.widgets).length).toBe(Object.keys(before.widgets).length + 2)
    expect(new Set(Object.values(doubled.widgets).map((w) => w.number)).size).toBe(Object.keys(doubled.widgets).length)
    await hand.page.keyboard.press('Delete')
    expect(Object.keys((await saved()).widgets).length).toBe(Object.keys(before.widgets).length)
    for (let k = 0; k < 5; k++) await withKey('Control', () => hand.page.keyboard.press('z'))
    expect(await saved()).toEqual({ ...before, spent: expect.anything() as never })
  })
  test('one setting for several, mixed values shown as such', async () => {
    const before = await saved()
    await hand.page.keyboard.press('Escape')
    await hand.press(...centre(named(before, 'Close shutter').place))
    await withKey('Shift', async () => hand.press(...centre(named(before, 'Stop shutter').place)))
    await hand.sees('2 selected')
    expect(await (await hand.find('Text')).evaluate((e) => (e as HTMLInputElement).placeholder)).toBe('mixed')
    await hand.fill('Text', 'Halt')
    const after = await saved()
    expect([named(after, 'Close shutter'), named(after, 'Stop shutter')].map((w) => w.settings['text'])).toEqual(['Halt', 'Halt'])
    await withKey('Control', () => hand.page.keyboard.press('z'))
    await hand.page.keyboard.press('Escape')
  })
  test('Alt held is Touch for as long: the finger reports, the desk comes back', async () => {
    const project = await saved()
    await hand.page.keyboard.press('Escape')
    await hand.page.keyboard.down('Alt')
    await hand.sees('Panel running.')
    // It begins with its splash.
    await hand.page.waitForFunction(() =>
      document.querySelector('nav[aria-label="Pages"] [aria-current]')?.textContent?.includes('Dome'),
    )
    const current = () => hand.page.$eval('nav[aria-label="Pages"] [aria-current]', (page) => page.textContent)
    // A page that has just opened does not count what touches it: one touches it again.
    await expect
      .poll(async () => (await hand.press(...centre(named(project, 'Pages').place)), current()), { interval: 300 })
      .toContain('Weather')
    await hand.page.keyboard.up('Alt')
    await hand.sees('panel paused')
    expect(await saved()).toEqual(project)
  })
})

describe('findings', () => {
  test('are counted on their station, lead to their place, and their fix mends them', async () => {
    await hand.page.goto(`${server.url}/project/${id}/variables`)
    await hand.fill('Address of humidity', '0x0031')
    await hand.sees('overlaps')
    expect(await hand.page.$eval('nav[aria-label="Stations"] a [aria-label*="finding"]', (e) => e.textContent)).toBe('1')
    await hand.click('Assign a free address', 'button')
    await hand.page.waitForFunction(
      () => document.querySelector('[aria-label="Findings"] strong') === null || !document.body.innerText.includes('overlaps'),
    )
    const { variables } = await saved()
    expect(variables['variable:humidity']!.address).not.toBe(0x31)
    await hand.sees('Reserved (1)')
    await withKey('Control', () => hand.page.keyboard.press('z'))
    await withKey('Control', () => hand.page.keyboard.press('z'))
    expect((await saved()).variables['variable:humidity']!.address).toBe(0x33)
  })
})

describe('the register of variables', () => {
  test('bad names and addresses are answered where they are typed', async () => {
    await hand.fill('Name of humidity', 'Luft Feuchte')
    await hand.sees('a–z, 0–9 and _')
    await hand.page.keyboard.press('Escape')
    await hand.fill('Address of humidity', 'here')
    await hand.sees('Not an address.')
    await hand.page.keyboard.press('Escape')
    expect((await saved()).variables['variable:humidity']).toMatchObject({ name: 'humidity', address: 0x33 })
  })
  test('a value at power-on must be one the variable can hold', async () => {
    await hand.click('Address of humidity')
    await hand.fill('Initial value', '101')
    await hand.sees('The range is 0 to 100.')
    await hand.fill('Initial value', '99')
    expect((await saved()).variables['variable:humidity']!.initial).toBe(99)
  })
  test('addresses are read in decimal as well', async () => {
    await hand.choose('Addresses', 'decimal')
    expect(await (await hand.find('Address of humidity')).evaluate((e) => (e as HTMLInputElement).value)).toBe('51')
    await hand.choose('Addresses', 'hex')
  })
  test('deleting a used variable says how many users it had', async () => {
    await hand.click('Address of site_note')
    await hand.click('Delete', 'button')
    await hand.sees('widgets lost their variable')
    expect((await saved()).variables['variable:site_note']).toBeUndefined()
    await hand.click('Undo', 'button')
    expect(named(await saved(), 'Site note').settings['variable']).toBe('variable:site_note')
  })
})

describe('on the Bench', () => {
  const sendAs = async (what: string) => hand.clickOn('label', what)
  const frame = (payload: number[]) =>
    toHex(
      mustHold(
        encodeFrame(codecOf(mustHold(compileLayout(lampBinary)), 'to panel'), {
          operation: 'write',
          sequence: 9,
          address: 0x12,
          payload,
        }),
      ),
    )
  test('a typed frame changes the panel; a damaged one is told; one out of range is marked', async () => {
    await hand.page.goto(`${server.url}/project/${id}/bench`)
    await hand.sees('dome_azimuth')
    await hand.click('Disconnect host')
    await sendAs('→ bytes')
    const send = async (hex: string) => {
      const field = await hand.find('Bytes to send')
      await field.click({ count: 3 })
      await field.type(hex)
      await hand.clickOn('button', 'to the panel')
    }
    await send(frame([0xd2, 0x04]))
    await hand.sees('dome_target = 123.4°')
    await send(frame([0xd2, 0x04]).replace('D2', 'D3'))
    await hand.sees('checksum error')
    await send(frame([0x10, 0x27]))
    await hand.sees('out of range')
    await send('7E 7E 12')
    await hand.sees('unfinished')
    const field = await hand.find('Bytes to send')
    await field.click({ count: 3 })
    await field.type('7E zz')
    await hand.sees('is not a hex digit')
  })
  test('bytes as the panel reach the host', async () => {
    await sendAs('← bytes')
    await (await hand.find('Bytes to send')).type('7E 35 12 00 06 09 34 0E 7E')
    await hand.clickOn('button', 'to the host')
    await hand.sees('← dome_target = 231.0°')
  })
  test('a frame is found, chosen and shown part by part', async () => {
    await hand.click('Pause', 'button')
    await (await hand.find('Find in the conversation')).type('check')
    await hand.clickOn('[data-entry~="wrong"]')
    await hand.sees('sequence · operation')
    expect(await hand.page.$$eval('[data-piece]', (pieces) => pieces.length)).toBe(6)
  })
  test('power cycle begins the conversation anew', async () => {
    await hand.click('Power cycle both', 'button')
    await hand.sees('0.000 s')
    await hand.sees('No traffic yet')
  })
})

test('anything is found by its name, and the keys are listed', async () => {
  await hand.page.focus('nav[aria-label="Stations"] a')
  // Typed on at once: no letter is lost, and Escape gives the focus back.
  const typedAtOnce = async () => {
    await withKey('Control', () => hand.page.keyboard.press('k'))
    await hand.page.keyboard.type('zebra')
    await hand.sees('No match')
  }
  for (let k = 0; k < 4; k++) {
    await typedAtOnce()
    await hand.page.keyboard.press('Escape')
    await hand.page.waitForFunction(() => document.activeElement?.matches('nav[aria-label="Stations"] a'))
  }
  await typedAtOnce()
  for (let k = 0; k < 5; k++) await hand.page.keyboard.press('Backspace')
  await hand.page.keyboard.type('wind_sp')
  await hand.find('address 0x0031')
  await hand.page.keyboard.press('Enter')
  await hand.sees('Drag a block to move it')
  await hand.page.keyboard.press('?')
  await hand.sees('Ctrl K')
  await hand.page.keyboard.press('Escape')
})

test('a change that no longer applies after someone else’s is set aside by name, and can be tried again', async () => {
  // Both are open before: a window that opens takes up what any other has left unsaved.
  await hand.page.goto(`${server.url}/project/${id}/variables`)
  await hand.find('Address of park_time')
  const other = new Hand(await chromium.page())
  await other.page.goto(`${server.url}/project/${id}/variables`)
  await other.find('Name of park_time')
  // The other window loses its server; meanwhile the variable it edits is deleted.
  chromium.serverAway = true
  await other.page.setOfflineMode(true)
  await other.fill('Name of park_time', 'park_at')
  await other.sees('Offline: changes are stored in this browser')
  await hand.page.bringToFront()
  await hand.click('Address of park_time')
  await hand.click('Delete', 'button')
  await saved()
  await other.page.bringToFront()
  await other.page.setOfflineMode(false)
  await other.sees('1 conflict')
  await other.click('1 conflict', 'button')
  await other.sees('Set variable a deleted variable: name “park_at”')
  await other.sees('was deleted.')
  chromium.serverAway = false
  await other.click('Discard', 'button')
  await other.page.waitForFunction(
    () => ![...document.querySelectorAll('button')].some((button) => button.textContent.includes('conflict')),
    { polling: 50 },
  )
  await other.page.close()
  await hand.page.bringToFront()
})
