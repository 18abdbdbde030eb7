import { beforeAll, beforeEach, describe, expect, test } from 'vitest'
import type { Project, Widget } from '@moth-lamp/core/project'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

// Gestures of hands, each on a copy of the demo: by pointer, keyboard and what is on the screen only.

const { server, chromium } = stage()
let hand: Hand
let id = ''

const saved = async (): Promise<Project> => {
  await hand.isSaved()
  return (await server.opened(id)).project
}
const named = (project: Project, name: string): Widget => Object.values(project.widgets).find((w) => w.name === name)!
const middle = (w: Widget): [number, number] => [w.place.x + w.place.width / 2, w.place.y + w.place.height / 2]
const select = async (name: string) => hand.press(...middle(named(await saved(), name)))
const shows = (label: string) => hand.page.$eval(`[aria-label="${label}"]`, (e) => (e as HTMLInputElement).value || e.textContent)
const focused = () =>
  hand.page.evaluate(() => (document.activeElement as HTMLElement | null)?.dataset['glass'] ?? document.activeElement?.tagName)

beforeAll(async () => void (hand = new Hand(await chromium.page())))
beforeEach(async () => {
  const demo = (await server.projects()).find((p) => p.name === 'Heron Hill dome')!.id
  ;({ id } = await server.post<{ id: string }>(`/projects/${demo}/duplicate`, {}))
  await hand.opens(`${server.url}/project/${id}/pages`)
  await hand.sees('Start-up sequence')
})

describe('keys and fields', () => {
  test('Enter takes and Escape puts back, and both give the focus back to the glass', async () => {
    await select('Open shutter')
    await hand.fill('Name of the widget', 'Opener')
    expect([await focused(), named(await saved(), 'Opener').kind]).toEqual(['edit', 'button'])
    await hand.click('Name of the widget')
    await hand.keys('=Firing', 'Escape')
    expect([await focused(), await shows('Name of the widget')]).toEqual(['edit', 'Opener'])
    // So that a key after Enter is a key of the desk, and no letter of the name.
    await hand.keys('a')
    await hand.page.waitForSelector('[role="option"]', { visible: true })
  })
  test('a closed list takes neither letters nor arrows; an open one keeps its keys, and only Enter takes', async () => {
    await select('Target')
    const before = await saved()
    const list = await hand.find('Direction', 'combobox')
    await list.focus()
    await hand.keys('p', 'h', 'ArrowDown', 'ArrowUp')
    expect([await shows('Direction'), (await server.opened(id)).revision]).toEqual(['both', 0])
    await hand.keys('Enter', 'ArrowDown', 'l', 'Escape')
    expect(await saved()).toEqual(before)
    await hand.sees('panel paused')
    await hand.keys('Enter', 'ArrowDown', 'Enter')
    expect((await saved()).variables['variable:dome_target']!.travels).not.toBe('both')
  })
  test('what is pressed in a popover is no key of the desk', async () => {
    await select('Open shutter')
    await hand.click('Face: normal', 'button')
    await hand.find('Face: radius')
    await (await hand.find('Face: shape', 'combobox')).focus()
    await hand.keys('Delete', 'l')
    await hand.keys('Escape')
    expect(named(await saved(), 'Open shutter')).toBeDefined()
    await hand.sees('panel paused')
  })
})

describe('on the glass', () => {
  test('a click takes the uppermost, the next one what lies under it, and a right click lists all', async () => {
    await select('Azimuth')
    expect(await shows('Name of the widget')).toBe('Azimuth')
    await select('Azimuth')
    const under = await shows('Name of the widget')
    expect(under).toBe('Hub')
    await hand.press(...middle(named(await saved(), 'Azimuth')), 'right')
    await hand.sees('Widgets at this point')
    // Its keys are its own: none locks what is selected, or leads out of it.
    await hand.keys('k', 'Tab')
    expect(await hand.page.evaluate(() => document.activeElement?.closest('[role="menu"]') !== null)).toBe(true)
    expect(named(await saved(), 'Hub').locked).toBe(false)
    await hand.clickOn('[role="menuitem"]', 'Azimuth')
    expect(await shows('Name of the widget')).toBe('Azimuth')
  })
  test('words are edited where they stand by a double click', async () => {
    await hand.press(...middle(named(await saved(), 'Open shutter')), 'left', 2)
    await hand.find('Text of Open shutter')
    await hand.keys('=Open it', 'Enter')
    expect(named(await saved(), 'Open it').settings['text']).toBe('Open it')
    expect(await focused()).toBe('edit')
    // A label is as wide as its words.
    const title = named(await saved(), '“Dome”')
    await hand.press(...middle(title), 'left', 2)
    await hand.keys('=Dome of the west observatory', 'Enter')
    await expect.poll(async () => (await saved()).widgets[title.id]!.settings['text']).toMatch(/west/)
    const width = async () => (await saved()).widgets[title.id]!.place.width
    await expect.poll(width).toBeGreaterThan(title.place.width)
    // Also where Enter comes before it is known how wide they are.
    const wide = (await saved()).widgets[title.id]!
    await hand.press(...middle(wide), 'left', 2)
    await hand.find('Text of “Dome”')
    await hand.page.evaluate(async () => {
      const field = document.activeElement as HTMLTextAreaElement
      const put = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value')!.set!
      put.call(field, 'Dome of the western observatory, the upper')
      field.dispatchEvent(new Event('input', { bubbles: true }))
      await null
      field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))
    })
    await expect.poll(width).toBeGreaterThan(wide.place.width)
    // It was called by its words, and still is.
    await hand.press(...middle(named(await saved(), 'Open it')), 'left', 2)
    await hand.find('Text of Open it')
    await hand.keys('=Never', 'Escape')
    expect(named(await saved(), 'Open it').settings['text']).toBe('Open it')
  })
  test('by keys alone: walked, moved, sized, and to the column and back', async () => {
    const start = await saved()
    const before = start.pages[start.pageOrder[0]!]!
    await (await hand.page.waitForSelector('[data-glass="edit"]'))!.focus()
    await hand.keys(']', ']', '[')
    const first = start.widgets[before.widgets[0]!]!
    expect(await shows('Name of the widget')).toBe(first.name)
    await hand.keys('ArrowRight', 'Shift+ArrowDown', 'Control+ArrowRight')
    expect(named(await saved(), first.name).place).toEqual({
      ...first.place,
      x: first.place.x + 1,
      y: first.place.y + 10,
      width: first.place.width + 1,
    })
    await hand.keys('Enter')
    expect(await hand.page.evaluate(() => document.activeElement?.getAttribute('aria-label'))).toBe('Name of the widget')
    await hand.keys('Escape')
    expect(await focused()).toBe('edit')
  })
  test('least, most and longest are shown on the desk, and never on the wire', async () => {
    const stored = await hand.quiet()
    await hand.keys('>')
    await expect.poll(async () => Buffer.compare(await hand.glass(), stored)).not.toBe(0)
    await hand.keys('<')
    await expect.poll(async () => Buffer.compare(await hand.glass(), stored)).toBe(0)
    expect((await server.opened(id)).revision).toBe(0)
  })
})

describe('copies', () => {
  test('go to another page and another project; the same variables or own ones', async () => {
    await select('Target')
    await hand.keys('Control+c')
    await hand.click('2 · Weather', 'button')
    await hand.page.keyboard.down('Control')
    await hand.page.keyboard.press('v', { commands: ['Paste'] })
    await hand.page.keyboard.up('Control')
    await hand.sees('Copies use the same variables (dome_target).')
    const pasted = (p: Project) => Object.values(p.widgets).find((w) => w.name === 'Target 2')!
    const once = await saved()
    expect([pasted(once).settings['variable'], once.pages[pasted(once).page]!.name]).toEqual(['variable:dome_target', 'Weather'])
    await hand.click('Create new variables', 'button')
    await hand.sees('dome_target_2')
    const twice = await saved()
    const own = twice.variables[pasted(twice).settings['variable'] as never] as { name: string; holds: object }
    expect([own.name, own.holds, Object.keys(twice.widgets).length]).toEqual([
      'dome_target_2',
      twice.variables['variable:dome_target']!.holds,
      Object.keys(once.widgets).length,
    ])
    // Another project has neither the variable nor the typeface: the one comes along, the other is its own.
    ;({ id } = await server.post<{ id: string }>('/projects', { name: 'Other', width: 480, height: 320, diagonalInches: 4 }))
    await hand.opens(`${server.url}/project/${id}/pages`)
    await hand.sees('Press A to add a widget, or drag a rectangle')
    await hand.page.keyboard.down('Control')
    await hand.page.keyboard.press('v', { commands: ['Paste'] })
    await hand.page.keyboard.up('Control')
    await hand.sees('dome_target')
    const other = await saved()
    const [widget] = Object.values(other.widgets)
    expect((other.variables[widget!.settings['variable'] as never] as { name: string }).name).toBe('dome_target')
    expect(other.typefaceOrder).toContain((widget!.settings['font'] as { typeface: string }).typeface)
  })
  test('Ctrl D repeats the offset by which the last copy was moved', async () => {
    await select('Stop shutter')
    const from = named(await saved(), 'Stop shutter').place
    await hand.keys('Control+d', 'Shift+ArrowDown', 'Shift+ArrowDown', 'Control+d')
    const places = Object.values((await saved()).widgets).map((w) => w.place)
    expect(places).toContainEqual({ ...from, x: from.x + 16, y: from.y + 36 })
    expect(places).toContainEqual({ ...from, x: from.x + 32, y: from.y + 72 })
  })
})

describe('while one tries', () => {
  test('what nobody has written yet is counted, framed where one asks, and no longer once a touch has written it', async () => {
    await hand.keys('l')
    await hand.sees('not yet received')
    await hand.clickOn('button', 'not yet received')
    const framed = () => hand.page.$$eval('[data-starts]', (all) => all.map((e) => e.getAttribute('data-starts')))
    await expect.poll(framed).toContain('Open shutter')
    const shutter = middle(named(await saved(), 'Open shutter'))
    // A page that has just opened does not count what touches it: one touches it again.
    await expect.poll(async () => (await hand.press(...shutter), framed()), { interval: 300 }).not.toContain('Open shutter')
  })
  test('a page clicked in the strip opens on the panel, by keys its buttons are pressed', async () => {
    await hand.quiet()
    await hand.keys('l')
    await hand.sees('Panel running.')
    await hand.click('3 · Setup', 'button')
    await hand.page.waitForFunction(() =>
      document.querySelector('nav[aria-label="Pages"] [aria-current]')?.textContent?.includes('Setup'),
    )
    await hand.click('1 · Dome', 'button')
    await hand.page.waitForFunction(() =>
      document.querySelector('nav[aria-label="Pages"] [aria-current]')?.textContent?.includes('Dome'),
    )
    await (await hand.page.waitForSelector('[data-glass="touch"]'))!.focus()
    const to = 'Pages: Space presses it'
    const seen: string[] = []
    while (!seen.includes(to) && seen.length < 20) {
      await hand.keys('Tab')
      seen.push(await hand.page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? ''))
    }
    expect(seen).toContain(to)
    await hand.page.keyboard.down('Space')
    await new Promise((resolve) => setTimeout(resolve, 120))
    await hand.page.keyboard.up('Space')
    await hand.page.waitForFunction(() =>
      document.querySelector('nav[aria-label="Pages"] [aria-current]')?.textContent?.includes('Weather'),
    )
  })
  test('a notice takes back what it speaks of, and nothing that was done since', async () => {
    await select('Stop shutter')
    await hand.keys('Delete')
    await hand.sees('One widget was deleted.')
    await select('Close shutter')
    await hand.keys('ArrowDown')
    const moved = named(await saved(), 'Close shutter').place
    const buttons = await hand.page.$$('.mantine-Notifications-notification button::-p-text(Undo)')
    await buttons[0]!.click()
    await hand.sees('This can no longer be reverted')
    expect(named(await saved(), 'Close shutter').place).toEqual(moved)
    await select('Close shutter')
    await hand.keys('Delete')
    await hand.sees('One widget was deleted.')
    await hand.clickOn('.mantine-Notifications-notification button', 'Undo')
    await expect.poll(async () => named(await saved(), 'Close shutter')?.place).toEqual(moved)
  })
  test('pages are moved in the strip by Alt with the arrows', async () => {
    await (await hand.find('3 · Setup', 'button')).focus()
    await hand.keys('Alt+ArrowUp')
    const { pageOrder, pages } = await saved()
    expect(pageOrder.map((page) => pages[page]!.name).slice(0, 3)).toEqual(['Dome', 'Setup', 'Weather'])
  })
})
