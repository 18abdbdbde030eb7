import { describe, expect, test } from 'vitest'
import type { Project, Widget } from '@moth-lamp/core/project'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

// Whole jobs from an empty project, tried on the panel before any hardware is there.

const { server, chromium } = stage()

class Job {
  gestures = 0
  constructor(
    readonly hand: Hand,
    readonly id: string,
  ) {}

  async saved(): Promise<Project> {
    await this.hand.isSaved()
    return (await server.opened(this.id)).project
  }
  async named(name: string): Promise<Widget> {
    return Object.values((await this.saved()).widgets).find((w) => w.name === name)!
  }
  async keys(...keys: string[]): Promise<void> {
    this.gestures++
    await this.hand.keys(...keys)
  }
  /** A kind by the letter it has in the menu, put where there is room. */
  async add(label: string): Promise<void> {
    this.gestures += 2
    await this.hand.keys('a')
    await (await this.hand.page.waitForSelector(`[role="menuitem"]::-p-text(${label})`, { visible: true }))!.click()
    await this.hand.keys('Enter')
    await this.hand.sees('On the glass')
  }
  async choose(name: string, label: string): Promise<void> {
    this.gestures += 2
    await this.hand.choose(name, label)
  }
  async click(name: string): Promise<void> {
    this.gestures++
    await this.hand.click(name, 'button')
  }
  async fill(name: string, text: string): Promise<void> {
    this.gestures += 2
    await this.hand.fill(name, text)
  }
  /** The panel itself, and its log. */
  async onBench(): Promise<void> {
    await this.hand.isSaved()
    await (await this.hand.page.waitForSelector('nav[aria-label="Stations"] a::-p-text(Bench)'))!.click()
    await this.hand.sees('Conversation')
    await new Promise((resolve) => setTimeout(resolve, 400))
  }
  async press(name: string, px = 50, py = 50): Promise<void> {
    const { x, y, width, height } = (await this.named(name)).place
    await this.hand.press(Math.floor(x + (width * px) / 100), Math.floor(y + (height * py) / 100))
    await new Promise((resolve) => setTimeout(resolve, 250))
  }
  sees = (text: string) => this.hand.sees(text)
}

let count = 0
async function begin(): Promise<Job> {
  const made = { name: `Scenario ${++count}`, width: 800, height: 480, diagonalInches: 7 }
  const { id } = await server.post<{ id: string }>('/projects', made)
  const hand = new Hand(await chromium.page())
  await hand.page.goto(`${server.url}/project/${id}/pages`)
  await hand.sees('A adds, or drag a rectangle')
  return new Job(hand, id)
}

describe('a job of its own', () => {
  test('a brightness that never blacks out the glass, in 8 gestures', async () => {
    const job = await begin()
    await job.add('Slider')
    await job.choose('Variable', 'backlight')
    expect(job.gestures).toBeLessThanOrEqual(8)
    await job.onBench()
    // To its very end, and beyond.
    const { x, y, width, height } = (await job.named('slider')).place
    await job.hand.drag([x + width - 14, y + height / 2], [x - 15, y + height / 2])
    await job.hand.choose('Variable to send', 'backlight')
    await job.click('Ask for it')
    // The profile says that 5 % is the darkest that is read.
    await job.sees('backlight = 5 %')
    expect((await job.saved()).variableOrder.length).toBe(0)
  })

  test('a latching switch of one object; its report is decoded', async () => {
    const job = await begin()
    await job.add('Indicator')
    await job.add('Button')
    await job.choose('Works', 'switches')
    await job.choose('Variable', 'indicator')
    expect((await job.named('button')).settings).toMatchObject({
      works: 'switches',
      variable: expect.stringMatching(/^variable:/) as never,
    })
    await job.sees('“button” changes indicator, which the panel never reports')
    await job.click('Let it travel both ways')
    await job.onBench()
    await job.press('button')
    await job.sees('← indicator = on')
    await job.press('button')
    await job.sees('← indicator = off')
  })

  test('a splash that ends on the start page', async () => {
    const job = await begin()
    await job.click('+ Page')
    await job.hand.find('Name of the page')
    await job.fill('Name of the page', 'Hello')
    await job.click('With it, and as time goes on')
    await job.fill('Shown for', '700')
    await job.choose('Then', 'page 1')
    await job.click('Show at power-on')
    const project = await job.saved()
    const splash = Object.values(project.pages).find((p) => p.name === 'Hello')!
    expect([splash.showsForMs, project.pages[splash.thenPage as keyof typeof project.pages]?.name, project.startPage]).toEqual([
      700,
      'page 1',
      splash.id,
    ])
    await job.onBench()
    await job.click('Power cycle both')
    await job.sees('page “page 1” opens')
  })

  test('a limit typed on a keypad: refused, corrected, accepted', async () => {
    const job = await begin()
    await job.add('Entry')
    await job.onBench()
    await job.press('entry')
    await job.sees('layer “Number keypad” opens')
    for (const key of ['Key 1', 'Key 2', 'Key 0', 'Key OK']) await job.press(key)
    // 120 is more than 100: nothing has been reported, and the keypad is still there.
    expect(await job.hand.reads()).not.toContain('← entry')
    await job.press('Key Del')
    await job.press('Key OK')
    await job.sees('← entry = 12')
    await job.sees('the layer closes')
  })

  test('an alarm that comes, beeps, is seen, and goes', async () => {
    const job = await begin()
    await job.add('Indicator')
    await job.choose('Type of the variable', 'flags')
    await job.add('Alarm list')
    await job.hand.click('Alarms: no alarms yet …', 'button')
    await job.hand.click('+ Alarm', 'button')
    await job.hand.fill('alarm 1: Text', 'Door open')
    await job.hand.choose('alarm 1: Variable', 'indicator')
    await job.hand.keys('Escape')
    const alarms = (await job.named('alarm list')).settings['alarms'] as { text: string; variable: string }[]
    expect(alarms).toMatchObject([{ text: 'Door open', variable: expect.stringMatching(/^variable:/) as never }])
    await job.onBench()
    const calm = await job.hand.quiet()
    await job.hand.choose('Variable to send', 'indicator')
    await (await job.hand.page.waitForSelector('[aria-label="Value to send"] [title="bit 0"]'))!.click()
    await (await job.hand.page.waitForSelector('[aria-label="Send"] button::-p-text(Send)'))!.click()
    await job.sees('beeps 200 ms')
    await expect.poll(async () => Buffer.compare(await job.hand.glass(), calm)).not.toBe(0)
    const { x, y } = (await job.named('alarm list')).place
    const unseen = await job.hand.quiet()
    await job.hand.press(x + 60, y + 18)
    await expect.poll(async () => Buffer.compare(await job.hand.glass(), unseen)).not.toBe(0)
  })

  test('three setpoints as digits, a dial and a list, tried by touch', async () => {
    const job = await begin()
    for (const kind of ['Digits', 'Dial', 'List']) await job.add(kind)
    await job.onBench()
    await job.press('digits', 93, 10)
    await job.sees('← digits = 0.1')
    await job.press('list', 40, 40)
    await job.sees('← list = second')
    const { x, y, width } = (await job.named('dial')).place
    await job.hand.drag([x + width / 2, y + 12], [x + width - 12, y + width / 2])
    await job.sees('← dial = ')
  })
})
