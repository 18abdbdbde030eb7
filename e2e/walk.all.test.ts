import { beforeAll, describe, expect, test } from 'vitest'
import { rolldown } from 'rolldown'
import { expand565 } from '@moth-lamp/core/raster'
import { packProject, type Project } from '@moth-lamp/core/project'
import { Workbench } from '@moth-lamp/core/workbench'
import { lengthLedStart } from '@moth-lamp/core/frames'
import { demo, otherDemo } from '../packages/core/src/testing/demo.ts'
import { testAssets } from '../packages/core/src/testing/fonts.ts'
import { Hand, root } from './browser.ts'
import { stage } from './stage.ts'
import { run } from './same-bits.ts'

const { server, chromium } = stage()
let hand: Hand

beforeAll(async () => void (hand = new Hand(await chromium.page())))

const projects = () => server.projects()
const saved = async (name: string): Promise<Project> => {
  const { id } = (await projects()).find((p) => p.name === name)!
  return (await server.opened(id)).project
}
const rgbaOf = (pixels: Uint16Array): Uint8Array => {
  const out = new Uint8Array(pixels.length * 4)
  pixels.forEach((p, i) => {
    const { red, green, blue } = expand565(p)
    out.set([red, green, blue, 255], i * 4)
  })
  return out
}
const widget = (project: Project, name: string) => Object.values(project.widgets).find((w) => w.name === name)!
const middle = (project: Project, name: string) => {
  const { x, y, width, height } = widget(project, name).place
  return [Math.floor(x + width / 2), Math.floor(y + height / 2)] as const
}
const station = (name: string) => hand.station(name)
const holdAtZero = async () => {
  await hand.click('Pause', 'button')
  await hand.find('Run', 'button')
  await hand.click('Power cycle both', 'button')
  await hand.sees('0.000 s')
}
const step = async (ms: number, shows: string) => {
  await hand.fill('Step length', String(ms))
  await hand.click('Step', 'button')
  await hand.sees(shows)
}

/** The same inputs to a workbench without a browser. */
function headless(project: Project) {
  const bench = new Workbench(project, testAssets)
  bench.advance(1_500_000)
  const [x, y] = middle(project, 'button')
  bench.rig.panel.touchDown(x, y)
  bench.rig.panel.touchUp(x, y)
  bench.advance(300_000)
  bench.hostWrites(Object.values(project.variables).find((v) => v.name === 'level')!.id, 42)
  bench.advance(200_000)
  bench.paint()
  return rgbaOf(bench.rig.panel.glass.surface.pixels)
}

/** Hold, power cycle, press the button, send 42 as the host: and what the glass then shows, byte for byte. */
async function pressAndSend() {
  await station('Bench')
  await holdAtZero()
  await step(1500, '1.500 s')
  const project = await saved('Tide gauge')
  await hand.press(...middle(project, 'button'))
  await step(300, '1.800 s')
  await hand.sees('level = 5')
  await hand.choose('Variable to send', 'level')
  await hand.fill('Value to send', '42')
  await step(200, '2.000 s')
  await hand.sees('level = 42')
  expect(Buffer.compare(Buffer.from(await hand.glass()), Buffer.from(headless(project)))).toBe(0)
}

describe('from an empty project to a checked exchange', () => {
  test('a demo panel is alive and talks to its host', async () => {
    await hand.page.goto(server.url)
    await hand.sees('Heron Hill dome')
    await hand.click('Open Heron Hill dome on the Bench')
    await hand.sees('dome_azimuth')
    await hand.sees('ACK')
    const early = await hand.glass()
    await hand.page.waitForFunction(() => Number(document.querySelector('output')?.textContent?.split(' ')[0]) > 2.2, {
      timeout: 300_000,
    })
    expect(Buffer.compare(Buffer.from(await hand.glass()), Buffer.from(early))).not.toBe(0)
  })

  test('a project of one’s own, with a number, an indicator and two buttons, without an address typed', async () => {
    await hand.click('All projects')
    await hand.sees('New project')
    await hand.page.keyboard.press('n')
    await hand.find('Name', 'textbox')
    await hand.page.keyboard.type('Tide gauge')
    await hand.page.keyboard.press('Enter')
    await hand.sees('Press A to add a widget')
    for (const kind of ['Number', 'Indicator', 'Button', 'Button']) {
      await hand.page.keyboard.press('a')
      await hand.clickOn('[role="option"]', kind)
      await hand.sees('click to place')
      await hand.page.keyboard.press('Enter')
      await hand.page.waitForFunction(() => !document.body.innerText.includes('click to place'))
    }
    await hand.sees('button 4')
    // The second button opens nothing yet: it says so in an event. The first adds five to the number.
    await hand.fill('Name of the widget', 'second button')
    await hand.click('+ Action', 'button')
    await hand.choose('Action 1: does', 'sends an event')
    await hand.page.keyboard.press('Escape')
    await hand.press(60, 40)
    await hand.sees('number 1')
    await hand.fill('Name of the variable', 'level')
    await hand.choose('Direction', 'both')
    const project = await savedWhenQuiet('Tide gauge')
    await hand.press(...middle(project, 'button'))
    await hand.sees('button 3')
    await hand.click('+ Action', 'button')
    await hand.choose('Action 1: variable', 'level')
    await hand.fill('Action 1: amount', '5')
    expect(await hand.page.$eval('[aria-label="Action 1: amount"]', (e) => (e as HTMLInputElement).value)).toBe('5')
    await station('Variables')
    await hand.find('Address of level')
    const fields = await hand.page.$$eval('td input', (inputs) => inputs.map((i) => i.value))
    expect(fields).toEqual(expect.arrayContaining(['level', '0x0010', 'indicator', '0x0011']))
  })

  test('the exact frames each will use', async () => {
    await station('Frames')
    await hand.sees('✓ Layout valid')
    await hand.sees('second button')
    const row = (await hand.reads()).replaceAll('\n', ' ')
    expect(row).toMatch(/second button\s+event/)
    expect(row).toMatch(/level\s+0x0010\s+(?:write\s+)?7E\s*51\s*10\s*00\s*00\s*00\s*[0-9A-F]{2}\s*[0-9A-F]{2}\s*7E/)
    await (await hand.find('Bytes to explain')).type('7E 51 10 00 05 00 00 00 7E')
    await hand.sees('Checksum error.')
    await hand.sees('Contents as received: write level = 5, sequence 5.')
  })

  test('a press on the glass reports, a value from the host is shown, and the pixels are those of a panel without a browser', async () => {
    await pressAndSend()
    await hand.page.keyboard.press('3')
    await hand.sees('start page')
    await hand.page.keyboard.press('l')
    await hand.sees('Panel running.')
    await hand.page.keyboard.press('l')
    await hand.sees('panel paused')
  })

  test('a check of that exchange passes; broken, it says why it fails', async () => {
    await station('Exchanges')
    await hand.click('+ Exchange', 'button')
    await hand.fill('Name of the exchange', 'Five more')
    await addStep('touch')
    await hand.choose('Widget', 'button')
    await addStep('expect report')
    await hand.choose('Variable', 'level')
    await hand.fill('Value', '5')
    await hand.click('Run', 'button')
    await hand.sees('Passed (')
    await hand.fill('Value', '6')
    await hand.click('Run', 'button')
    await hand.sees('Failed')
    await hand.sees('The variable was reported with another value.')
    await hand.sees('expected')
    expect(await hand.page.$$eval('[data-byte~="differs"]', (bytes) => bytes.map((b) => b.textContent))).toContain('05')
    await hand.fill('Value', '5')
    await hand.click('Run', 'button')
    await hand.sees('Passed (')
  })

  test('closed and started again, it is all there', async () => {
    await savedWhenQuiet('Tide gauge')
    await hand.page.close()
    await server.stop()
    await server.start()
    hand = new Hand(await chromium.page('stays'))
    await hand.page.goto(server.url)
    await hand.sees('1 exchange passed')
    await hand.clickOn('article a', 'Tide gauge')
    await station('Exchanges')
    await hand.sees('Five more')
    await hand.click('Run all', 'button')
    await hand.sees('Passed (')
    await pressAndSend()
  })

  test('another layout, set up without code: the same press, send and exchange pass on it', async () => {
    await station('Frames')
    await hand.click('Template ▾', 'button')
    await hand.clickOn('[role="menuitem"]', 'length-prefixed')
    await hand.page.waitForSelector('[role="menuitem"]', { hidden: true })
    await hand.fill('Name of the layout', 'ours')
    await hand.fill('Start bytes', 'A1 B2')
    await hand.choose('Payload byte order', 'big-endian')
    await hand.click('checksum CRC-16 Kermit', 'button')
    await hand.click('Remove', 'button')
    await hand.page.keyboard.press('Escape')
    await hand.sees('✓ Layout valid')
    const project = await savedWhenQuiet('Tide gauge')
    const framing = { kind: 'length-led', start: [0xa1, 0xb2] }
    expect(project.layout).toMatchObject({
      ...lengthLedStart,
      name: 'ours',
      toPanel: { ...lengthLedStart.toPanel, framing, payload: 'high', end: [] },
    })
    expect((await hand.reads()).replaceAll('\n', ' ')).toMatch(
      /level\s+0x0010\s+(?:write\s+)?A1\s*B2\s*51\s*09\s*00\s*10\s*00\s*00\s*00/,
    )
    await station('Exchanges')
    await hand.click('Run all', 'button')
    await hand.sees('Passed (')
    await pressAndSend()
  })
})

async function addStep(kind: string) {
  await hand.click('+ Step', 'button')
  await hand.clickOn('[role="menuitem"]', kind)
  await hand.page.waitForSelector('[role="menuitem"]', { hidden: true })
}

/** Waits until the bar says that all is saved, then reads what the server has. */
async function savedWhenQuiet(name: string): Promise<Project> {
  await hand.isSaved()
  return saved(name)
}

describe('what goes wrong', () => {
  test('a server that goes away while editing: said, kept, saved when it is back; also when the window is closed meanwhile', async () => {
    await station('Panel')
    chromium.serverAway = true
    await server.stop()
    await hand.fill('Panel response time', '9')
    await hand.sees('Offline: changes are stored in this browser')
    await server.start()
    await hand.sees('Saved · revision')
    expect((await saved('Tide gauge')).link.latencyMs).toBe(9)
    await server.stop()
    await hand.fill('Panel response time', '11')
    await hand.sees('Offline: changes are stored in this browser')
    const url = hand.page.url()
    await hand.page.close()
    await server.start()
    chromium.serverAway = false
    hand = new Hand(await chromium.page('stays'))
    await hand.page.goto(url)
    await hand.sees('from this browser')
    expect((await savedWhenQuiet('Tide gauge')).link.latencyMs).toBe(11)
  })

  test('two windows: each hears of the other at once', async () => {
    const other = new Hand(await chromium.page())
    await other.page.goto(hand.page.url())
    await other.find('Panel response time')
    await hand.page.bringToFront()
    await hand.fill('Panel response time', '13')
    await other.page.bringToFront()
    await other.page.waitForFunction(
      () => (document.querySelector('[aria-label="Panel response time"]') as HTMLInputElement)?.value === '13',
      { timeout: 300_000 },
    )
    await other.page.close()
    await hand.page.bringToFront()
  })

  test('values that mean nothing are answered at the field, and nothing is lost', async () => {
    await hand.fill('Panel response time', 'soon')
    await hand.sees('Not a number.')
    await hand.page.keyboard.press('Escape')
    await hand.fill('Attempts', '99')
    await hand.sees('Maximum 20.')
    await hand.page.keyboard.press('Escape')
    await hand.fill('Width', '3*200+40')
    expect((await savedWhenQuiet('Tide gauge')).panel.width).toBe(640)
    await hand.page.keyboard.press('Tab')
    await hand.click('Undo', 'button')
    await hand.page.waitForFunction(() => (document.querySelector('[aria-label="Width"]') as HTMLInputElement)?.value === '800')
  })

  test('a file that is no project file', async () => {
    await hand.page.goto(server.url)
    chromium.serverAway = true
    const input = await hand.page.waitForSelector('input[type="file"]')
    // The message of the console comes a little later.
    const said = new Promise((resolve) => hand.page.once('console', resolve))
    await (input as unknown as { uploadFile(path: string): Promise<void> }).uploadFile(`${root}/LICENSE`)
    await hand.sees('Not a project file')
    await said
    chromium.serverAway = false
    await (input as unknown as { uploadFile(path: string): Promise<void> }).uploadFile(
      `${root}/packages/server/demo/heron-hill-dome.mothlamp`,
    )
    await hand.page.waitForFunction(() => document.querySelectorAll('main article').length === 3)
  })
})

test.each([demo, otherDemo])('an hour of a demo has the same pixels and conversation in Chromium as in Node', async (one) => {
  const bundle = await rolldown({ input: `${root}/e2e/same-bits.ts`, platform: 'browser', logLevel: 'silent' })
  const { output } = await bundle.generate({ format: 'iife', name: 'sameBits' })
  const page = await chromium.page()
  await page.setContent('<p>same bits</p>')
  await page.addScriptTag({ content: output[0].code })
  const file = Buffer.from(packProject(one.project, one.assets)).toString('base64')
  const there = await page.evaluate(
    (text) => (globalThis as unknown as { sameBits: { run(text: string): string[] } }).sameBits.run(text),
    file,
  )
  expect(there).toEqual(run(file))
  expect(new Set(there).size).toBe(there.length)
  await page.close()
})
