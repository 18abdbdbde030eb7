import { beforeAll, beforeEach, describe, expect, test } from 'vitest'
import type { BinaryWay } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

// The purpose of each station, by pointer, keyboard and what is on the screen only, on a copy of the demo.

const { server, chromium } = stage()
let hand: Hand
let id = ''

const saved = async (): Promise<Project> => {
  await hand.isSaved()
  return (await server.opened(id)).project
}
const open = async (station: string, sees: string) => {
  await hand.opens(`${server.url}/project/${id}/${station}`)
  await hand.sees(sees)
  await hand.sees('Saved · revision')
}
const middleOf = async (selector: string): Promise<[number, number]> => {
  const found = await hand.page.waitForSelector(selector, { visible: true })
  const box = (await found!.boundingBox())!
  return [box.x + box.width / 2, box.y + box.height / 2]
}
const dragTo = async (from: [number, number], to: [number, number]) => {
  await hand.page.mouse.move(...from)
  await hand.page.mouse.down()
  await hand.page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 4 })
  await hand.page.mouse.move(...to, { steps: 4 })
}

beforeAll(async () => void (hand = new Hand(await chromium.page())))
beforeEach(async () => {
  const demo = (await server.projects()).find((p) => p.name === 'Heron Hill dome')!.id
  ;({ id } = await server.post<{ id: string }>(`/projects/${demo}/duplicate`, {}))
})

describe('Variables', () => {
  const address = async (name: string) => Object.values((await saved()).variables).find((v) => v.name === name)!.address

  test('a block is dragged to a free address, its bytes told on the way; where another stands it stays', async () => {
    await open('variables', 'dome_azimuth')
    await dragTo(await middleOf('[data-block="humidity"]'), await middleOf('[data-word="58"]'))
    await hand.sees('0x0033 → 0x003A')
    expect(await hand.page.$$eval('[data-byte~="changed"]', (bytes) => bytes.map((b) => b.textContent))).toContain('3A')
    await hand.page.mouse.up()
    expect(await address('humidity')).toBe(0x3a)
    await dragTo(await middleOf('[data-block="humidity"]'), await middleOf('[data-block="wind_speed"]'))
    await hand.sees('wind_speed stands there: it stays where it is')
    await hand.page.mouse.up()
    expect(await address('humidity')).toBe(0x3a)
    await hand.keys('Control+z')
    await expect.poll(() => address('humidity')).toBe(0x33)
  })
  test('by keys alone: brackets walk the blocks, arrows move one to the next free word', async () => {
    await open('variables', 'dome_azimuth')
    await hand.page.focus('[aria-label^="Memory: "]')
    await hand.keys(']')
    await hand.sees('dome_target at 0x0012, 1 word')
    await hand.keys('ArrowLeft')
    await hand.sees('dome_target at 0x0011, 1 word')
    expect(await address('dome_target')).toBe(0x11)
    // The word before it is taken: there is none to the left.
    await hand.keys('ArrowLeft', 'ArrowDown')
    expect(await address('dome_target')).toBe(0x21 + 0x20)
  })
  test('a flags word unfolds into its bits, which are named there', async () => {
    await open('variables', 'dome_azimuth')
    await hand.click('Address of weather_flags')
    await hand.fill('Name of bit 5', 'hail')
    const { holds } = Object.values((await saved()).variables).find((v) => v.name === 'weather_flags')!
    expect(holds).toMatchObject({ names: ['rain', 'wind', 'dew', 'mains_lost', '', 'hail'] })
  })
})

describe('Frames', () => {
  test('a part is moved by Alt with the arrows, and the bytes follow', async () => {
    await open('frames', '✓ Layout valid')
    await hand.page.focus('[role="tabpanel"] [data-tint="address"]')
    await hand.keys('Alt+ArrowLeft')
    await hand.sees('Saved · revision 1')
    expect(((await saved()).layout.toPanel as BinaryWay).head.map((p) => p.part)).toEqual(['address', 'sequence and operation'])
    expect(await hand.page.$$eval('[role="tabpanel"] [data-tint] strong', (all) => all.map((e) => e.textContent))).toEqual([
      'flag',
      'flag',
      'address',
      'sequence · operation',
      'data',
      'checksum',
    ])
  })
  test('six frames with what they mean become a layout that says them, by as many clicks as there are guesses', async () => {
    await open('frames', '✓ Layout valid')
    await hand.click('From examples …', 'button')
    const frames = [
      '3C 05 20 12 00 07 D0 | write level (0x1200, u16, step 0.1) = 200.0',
      '3C 04 21 12 00 01 | read request level',
      '3C 05 21 12 00 07 D0 | read response level = 200.0',
      '3C 05 20 12 01 00 01 | report mode (0x1201, off|drain|fill) = drain',
      '3C 05 20 12 01 00 02 | write mode = fill',
      '3C 05 20 12 00 00 00 | report level = 0.0',
      'no frame at all',
    ]
    await (
      await hand.find('Frames to add')
    ).evaluate((field, text) => {
      Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value')!.set!.call(field, text)
      field.dispatchEvent(new Event('input', { bubbles: true }))
    }, frames.join('\n'))
    await hand.click('Add frames', 'button')
    // A line that is not understood stays, with why.
    await hand.sees('Enter what the frame means')
    await hand.sees('6 of 6')
    await hand.clickOn('button', 'without a rival')
    await hand.clickOn('button', 'byte 2 counts: the bytes behind')
    await hand.clickOn('button', 'Make the layout')
    await hand.sees('✓ 6 examples')
    await hand.sees('✓ Layout valid')
    const { layout, panel } = await saved()
    expect(layout.toPanel).toMatchObject({ framing: { kind: 'length-led', start: [0x3c] }, payload: 'high' })
    expect([layout.examples!.length, panel.order]).toEqual([6, 'high'])
  })
  test('a pasted log is read line by line, each frame in its own direction', async () => {
    await open('frames', '✓ Layout valid')
    const field = await hand.find('Bytes to explain')
    await field.type(
      '21:47:06.512 TX 7E 51 12 00 06 09 97 82 7E\n21:47:07.140 RX 7E 35 12 00 06 09 34 0E 7E\nsomething else\n21:47:08 TX 7E 51 12 00 06 09 97 83 7E',
    )
    await hand.sees('2 frames · 1 wrong')
    await hand.sees('report dome_target = 231.0°, sequence 3')
    await hand.sees('One bit is wrong: byte 8, bit 0.')
    await hand.sees('1 line without bytes.')
  })
})

describe('Bench', () => {
  test('what is no frame has its own lane; held, the glass says since when; F finds the fault', async () => {
    await open('bench', 'page “Dome” opens')
    await hand.sees('dome_azimuth = 220')
    await hand.press(520, 215)
    await hand.sees('press “Open shutter”')
    await hand.sees('shutter_state = moving')
    await hand.keys('h')
    await hand.sees('paused at')
    await hand.clickOn('label', '→ bytes')
    await (await hand.find('Bytes to send')).type('51 12 00 06 09 00 00')
    await hand.click('Fix length and checksum, send', 'button')
    await hand.fill('Step length', '200')
    await hand.click('Step', 'button')
    await hand.sees('dome_target = 231.0°')
    const field = await hand.find('Bytes to send')
    await field.click({ count: 3 })
    await field.type('7E 51 12 00 06 09 00 00 7E')
    await hand.click('Send 9 bytes to the panel', 'button')
    await hand.click('Step', 'button')
    await hand.sees('checksum error')
    await hand.page.focus('[role="log"]')
    await hand.keys('f')
    await hand.page.waitForSelector('[data-entry~="wrong"][data-entry~="picked"]')
    await hand.click('Send again', 'button')
    await hand.click('Step', 'button')
    await hand.page.waitForFunction(() => document.querySelectorAll('[data-entry~="wrong"]').length === 2)
  })
  test('scrolled up, the log stays and counts what is newer', async () => {
    await open('bench', 'wind_speed = ')
    await hand.page.waitForFunction(() => document.querySelectorAll('[data-entry]').length > 30, { timeout: 300_000 })
    await hand.page.$eval('[role="log"]', (log) => (log.scrollTop = 40))
    await hand.sees('newer ↓')
    await hand.clickOn('button', 'newer')
    await hand.page.waitForFunction(() => !document.body.innerText.includes('newer ↓'))
  })
  test('a value is taken by the hand: the host writes it', async () => {
    await open('bench', 'wind_speed = ')
    await hand.page.$eval('[aria-label="outside_temp by hand"]', (e) => (e as SVGElement).focus())
    await hand.keys('PageUp', 'PageUp', 'PageUp')
    await hand.page.waitForFunction(
      () => Number(document.querySelector('[aria-label="outside_temp by hand"]')?.getAttribute('aria-valuenow')) > 6,
    )
  })
  test('the glass darkens with its backlight, written by its name', async () => {
    await open('bench', 'wind_speed = ')
    await hand.choose('Variable to send', 'backlight')
    await hand.fill('Value to send', '30')
    await hand.page.waitForSelector('[title="backlight 30 %"]')
    await hand.sees('backlight 30 %')
  })
})

describe('Exchanges', () => {
  test('by showing: a touch on the glass, a frame of the run, a value; each is a step at once, and the run says whether it holds', async () => {
    await open('exchanges', '6 exchanges')
    await hand.click('+ Exchange', 'button')
    await hand.sees('No steps.')
    await hand.page.waitForSelector('canvas[aria-label^="The glass of the run"]')
    const steps = async () => {
      const { exchanges, exchangeOrder } = await saved()
      const made = exchanges[exchangeOrder.at(-1)!]!
      return made.stepOrder.map((step) => made.steps[step]!)
    }
    const onGlass = async (x: number, y: number): Promise<[number, number]> => {
      const box = (await (await hand.page.$('canvas[aria-label^="The glass of the run"]'))!.boundingBox())!
      return [box.x + (x * box.width) / 800, box.y + (y * box.height) / 480]
    }
    // The glass is there once its pixels are.
    await hand.page.waitForFunction(
      () => {
        const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label^="The glass of the run"]')
        return canvas?.getContext('2d')?.getImageData(520, 215, 1, 1).data[3] === 255
      },
      { polling: 50 },
    )
    await hand.page.mouse.click(...(await onGlass(520, 215)))
    await hand.sees('shutter_order = open')
    expect((await steps()).map((s) => s.kind)).toEqual(['touch'])
    await hand.clickOn('svg text', 'shutter_order = open')
    await hand.click('Expect', 'button')
    await expect.poll(async () => (await steps()).map((s) => s.kind)).toEqual(['touch', 'expect report'])
    await hand.sees('Passed (')
    expect((await steps())[1]!.settings).toMatchObject({ value: 'open' })
    // The time line, with the glass of that instant, by keys.
    await hand.page.focus('[aria-label="Moment of the run"]')
    await hand.keys('Home')
    await hand.sees('1.500 s')
  })
  test('a failure says what came, and that it came too late; one click allows it', async () => {
    await open('exchanges', '6 exchanges')
    await hand.clickOn('button', 'Target stepped')
    await hand.page.click('[data-step="6"] button')
    await hand.fill('Within', '5000')
    await hand.keys('r')
    await hand.sees('ms late.')
    await hand.click('Change limit to 5300 ms', 'button')
    await hand.keys('r')
    await hand.sees('Passed (')
    // The verdict stays while another station is looked at.
    await hand.keys('3')
    await hand.sees('Page')
    await hand.keys('7')
    await hand.page.waitForSelector('[aria-label="passed"]')
  })
  test('a report that is never sent is told with its reason, and mended from there', async () => {
    await open('exchanges', '6 exchanges')
    await hand.click('+ Exchange', 'button')
    await hand.click('+ Step', 'button')
    await hand.clickOn('[role="menuitem"]', 'expect report')
    await hand.choose('Variable', 'humidity')
    await hand.fill('Value', '50')
    await hand.keys('r')
    await hand.sees('humidity is host → panel only and is never reported.')
    await hand.click('Set direction to both', 'button')
    expect((await saved()).variables['variable:humidity']!.travels).toBe('both')
  })
})

describe('Panel', () => {
  test('the corner of the glass is dragged, an edge stepped by keys, a speed taken from the scale', async () => {
    await open('panel', 'Report and acknowledge')
    const from = await middleOf('[aria-label="Corner, diagonal"]')
    await dragTo(from, [from[0] + 60, from[1] + 34])
    await hand.page.mouse.up()
    const { panel } = await saved()
    expect(panel.diagonalInches).toBeGreaterThan(7.5)
    expect([panel.width, panel.height]).toEqual([800, 480])
    await hand.page.focus('[aria-label="Right edge, width"]')
    await hand.keys('Shift+ArrowLeft')
    await expect.poll(async () => (await saved()).panel.width).toBe(790)
    await hand.clickOn('[aria-label="Common baud rates"] button', '115.2 k')
    await expect.poll(async () => (await saved()).link.baud).toBe(115_200)
    await hand.sees('86.8 µs/byte')
  })
})
