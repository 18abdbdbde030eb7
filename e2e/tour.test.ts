import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Project, Widget } from '@moth-lamp/core/project'
import { Hand, root } from './browser.ts'
import { stage } from './stage.ts'

// The five minutes of the README, sentence by sentence: each is read from there, and then done.

const { server, chromium } = stage()
let hand: Hand
const readme = readFileSync(`${root}README.md`, 'utf8').replaceAll(/\s+/g, ' ')
const tour = readme.slice(readme.indexOf('## Five minutes'), readme.indexOf('## Many at once'))
const done = new Set<string>()

/** Next sentence of the README; a change there changes the test. */
const says = (sentence: string) => {
  expect(tour).toContain(sentence)
  done.add(sentence)
}

const project = async (name: string): Promise<Project> => {
  await hand.isSaved()
  return (await server.opened((await server.projects()).find((p) => p.name === name)!.id)).project
}
const mine = () => project('Tide gauge')
const named = (p: Project, name: string): Widget => Object.values(p.widgets).find((w) => w.name === name)!
const middle = (w: Widget): [number, number] => [w.place.x + w.place.width / 2, w.place.y + w.place.height / 2]
const station = (name: string) => hand.station(name)

beforeAll(async () => void (hand = new Hand(await chromium.page())))

describe('five minutes', () => {
  test('1. a panel that is alive', async () => {
    await hand.page.goto(server.url)
    says('On the shelf, click the picture of _Heron Hill dome_.')
    await hand.click('Open Heron Hill dome on the Bench')
    says('You are on the Bench: the dome turns towards its target and the host writes its values.')
    await hand.page.waitForFunction(() => /dome_azimuth = 2(19|20)/.test(document.body.innerText), { timeout: 300_000 })
    says('The log shows each frame with its time, its bytes and the changed bytes, and its reply below it.')
    await hand.page.waitForFunction(() => {
      return [...document.querySelectorAll('[data-entry~="to-panel"]')].some(
        (e) => /7E/.test(e.textContent) && e.textContent.includes('ACK') && e.querySelector('mark') !== null,
      )
    })
    says('Press _Open shutter_ on the glass.')
    await hand.press(...middle(named(await project('Heron Hill dome'), 'Open shutter')))
    await hand.sees('shutter_order = open')
    says('Click a frame to see it field by field.')
    // The newest, which stands where one looks: older ones are on their way out of sight.
    await hand.page.$$eval('[data-entry~="to-panel"]', (rows) => (rows.at(-1) as HTMLElement).click())
    await hand.page.waitForSelector('[data-piece]')
    says('_Pause_ stops time, _Step_ advances it, _Power cycle_ restarts.')
    await hand.click('Pause', 'button')
    await hand.sees('paused at')
    const at = () => hand.page.$eval('output', (e) => Number(e.textContent!.split(' ')[0]))
    const before = await at()
    await hand.click('Step', 'button')
    await expect.poll(at).toBeGreaterThan(before)
    await hand.click('Power cycle both', 'button')
    await expect.poll(at).toBe(0)
  })

  test('2. a panel of your own', async () => {
    says('Back on the shelf press `N`, enter a name, press Enter.')
    await hand.click('All projects')
    await hand.sees('New project')
    await hand.keys('n')
    await hand.find('Name', 'textbox')
    await hand.keys('=Tide gauge', 'Enter')
    says('On _Pages_ press `A` and add a number, an indicator and two buttons.')
    await hand.sees('Press A to add a widget, or drag a rectangle')
    says('Type the name or the key of the kind, then click to place it, drag its size, or press Enter.')
    await hand.keys('a', 'n')
    await hand.press(100, 60)
    await hand.sees('number 1')
    await hand.keys('a', 'i')
    await hand.drag([220, 30], [290, 90])
    await hand.sees('Indicator “indicator”')
    for (const name of ['button', 'button 2']) {
      await hand.keys('a', 'b', 'Enter')
      await hand.page.waitForFunction(
        (label) => document.querySelector<HTMLInputElement>('[aria-label="Name of the widget"]')?.value === label,
        {},
        name,
      )
    }
    says('Each widget that shows a value already has a variable with an address.')
    const made = await mine()
    expect(made.variableOrder.map((v) => made.variables[v]!.address)).toEqual([0x10, 0x11])
    says('Select the number: the right column shows its **signal path**.')
    await hand.press(...middle(named(made, 'number')))
    says('The path leads from the glass over touch, variable and address to the bytes and the call in the host.')
    for (const stop of ['On the glass', 'Variable', 'On the wire', 'In the host']) await hand.sees(stop)
    await hand.sees('panel_set_number')
    says('Change the address, and the bytes change with it.')
    await hand.fill('Address', '0x0234')
    await hand.page.waitForFunction(() =>
      [...document.querySelectorAll('[aria-label="Signal path"] [data-tint="address"]')]
        .map((e) => e.textContent)
        .join(' ')
        .includes('34 02'),
    )
    says('`<` and `>` preview the page with the minimum, the maximum and the longest values.')
    await hand.quiet()
    const now = await hand.glass()
    await hand.keys('>', '>')
    await hand.quiet()
    expect(Buffer.compare(Buffer.from(now), Buffer.from(await hand.glass()))).not.toBe(0)
    await hand.keys('<', '<')
    says('The thumb below the selection previews a single value.')
    await hand.quiet()
    await hand.page.focus('[role="slider"][aria-label^="Sweep"]')
    await hand.keys('End')
    await hand.quiet()
    expect(Buffer.compare(Buffer.from(now), Buffer.from(await hand.glass()))).not.toBe(0)
  })

  test('3. what a button does', async () => {
    says('select it, add an action, _on press · increments your variable by 5_.')
    await hand.page.focus('[data-glass="edit"]')
    await hand.press(...middle(named(await mine(), 'button')))
    await hand.click('+ Action', 'button')
    await hand.choose('Action 1: variable', 'number')
    await hand.fill('Action 1: amount', '5')
    says('A finding below the glass says that the panel would not report it. One click sets the direction to both.')
    await hand.sees('“button” changes number, but it is host → panel only')
    await hand.click('Set direction to both', 'button')
    says('Press `L` (or hold Alt) and the panel runs: press your button.')
    await hand.keys('l')
    await hand.sees('Panel running.')
    await hand.press(...middle(named(await mine(), 'button')))
    says('Press `L` again to pause.')
    await hand.keys('l')
    await hand.sees('panel paused')
    await expect.poll(async () => (await hand.reads()).includes('this press reports')).toBe(true)
    says('The signal path shows the frames of the next press.')
    // 5 was added once; the next press would report ten.
    await hand.page.waitForFunction(() =>
      [...document.querySelectorAll('[aria-label="Signal path"] [data-tint="payload"]')].some((e) => e.textContent === '0A'),
    )
    says('If the host rejects a value, the widget returns to the old one and shows a red frame for two seconds.')
  })

  test('4. the frames', async () => {
    says('_Frames_ shows the layout as fields, and the frames of each variable in both directions.')
    await station('Frames')
    await hand.sees('✓ Layout valid')
    await hand.sees('variables, events and commands')
    says('Paste bytes from a log: each frame is decoded, and errors are explained.')
    await (await hand.find('Bytes to explain')).type('7E 51 34 02 05 00 00 00 7E')
    await hand.sees('Checksum error.')
    says('Another protocol is another layout: choose _Template_ and change its fields.')
    await hand.clickOn('button', 'Template')
    await hand.clickOn('[role="menuitem"]', 'length-prefixed')
    await hand.page.waitForFunction(() => !document.body.innerText.includes('flag-delimited'))
    await hand.keys('Control+z')
    await hand.sees('flag-delimited')
  })

  test('5. prove it', async () => {
    says('On _Exchanges_ add one, and touch your button on the glass on the right: that is the first step.')
    await station('Exchanges')
    await hand.click('+ Exchange', 'button')
    await hand.sees('No steps.')
    const canvas = (await hand.page.waitForSelector('canvas[aria-label^="The glass of the run"]'))!
    // The glass is there once its pixels are.
    await hand.page.waitForFunction((c) => c.getContext('2d')!.getImageData(0, 0, 1, 1).data[3] === 255, { polling: 50 }, canvas)
    const { panel, ...rest } = await mine()
    const [x, y] = middle(named({ panel, ...rest } as Project, 'button'))
    const box = (await canvas.boundingBox())!
    await hand.page.mouse.click(box.x + (x * box.width) / panel.width, box.y + (y * box.height) / panel.height)
    await hand.sees('ms each')
    says('Click the report of the touch, then _Expect_.')
    await hand.clickOn('svg text', 'number = 5')
    await hand.click('Expect', 'button')
    says('Run it.')
    await hand.sees('Passed (')
    says(
      'Change the expected value and run it again: it shows the expected and the received value, and marks the byte that differs.',
    )
    await hand.page.click('[data-step="2"] button')
    await hand.fill('Value', '6')
    await hand.keys('r')
    await hand.page.waitForSelector('[data-byte~="differs"]')
    expect(await hand.page.$$eval('[data-byte~="differs"]', (all) => all.map((e) => e.textContent))).toContain('05')
  })

  test('nothing of the tour was left out', () => {
    let left = tour.replaceAll(/!\[[^\]]*\]\([^)]*\)/g, '')
    for (const sentence of done) left = left.replace(sentence, '')
    const words = left.match(/[a-z]+/gi) ?? []
    // Headings, and the half sentences that say why.
    expect(words.length).toBeLessThan(60)
  })
})
