import { beforeAll, describe, expect, test } from 'vitest'
import type { Project, Widget } from '@moth-lamp/core/project'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

// Whole jobs from an empty project, tried on the panel before any hardware is there.

const { server, chromium } = stage()
let hand: Hand

beforeAll(async () => void (hand = new Hand(await chromium.page())))

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
    await this.hand.clickOn('[role="option"]', label)
    await this.hand.keys('Enter')
    await this.hand.sees('On the glass')
  }
  /** A compound on a variable that is made for it. */
  async addSeveral(label: string): Promise<void> {
    this.gestures += 3
    await this.hand.keys('a')
    await this.hand.clickOn('[role="option"]', label)
    await this.hand.keys('Enter')
    await this.hand.sees('(group)')
  }
  /** Lets the panel's clock go on by minutes, ten at a time. */
  async minutes(count: number): Promise<void> {
    for (let left = count; left > 0; left -= 10) {
      const before = await this.clock()
      await this.click('Step')
      await expect.poll(() => this.clock()).toBeGreaterThan(before + 599)
    }
  }
  clock = () => this.hand.secondsOn()
  /** The host sends a value over the line. */
  async send(variable: string, value: string): Promise<void> {
    await this.hand.choose('Variable to send', variable)
    await this.hand.fill('Value to send', value)
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
    await this.hand.station('Bench')
    await this.hand.sees('Conversation')
    // A touch counts once its page has been there for a moment of the panel's own time.
    await expect.poll(() => this.clock()).toBeGreaterThan(0.4)
  }
  async press(name: string, px = 50, py = 50): Promise<void> {
    const { x, y, width, height } = (await this.named(name)).place
    await this.hand.press(Math.floor(x + (width * px) / 100), Math.floor(y + (height * py) / 100))
    // A page that it opened counts touches only after a moment of the panel's time.
    const now = await this.clock()
    await expect.poll(() => this.clock(), { interval: 50 }).toBeGreaterThan(now + 0.2)
  }
  sees = (text: string) => this.hand.sees(text)
}

let count = 0
async function begin(): Promise<Job> {
  const made = { name: `Scenario ${++count}`, width: 800, height: 480, diagonalInches: 7 }
  const { id } = await server.post<{ id: string }>('/projects', made)
  await hand.opens(`${server.url}/project/${id}/pages`)
  await hand.sees('Press A to add a widget, or drag a rectangle')
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
    await job.click('Read')
    // The profile says that 5 % is the darkest that is read.
    await job.sees('backlight = 5 %')
    expect((await job.saved()).variableOrder.length).toBe(0)
  })

  test('a latching switch of one object; its report is decoded', async () => {
    const job = await begin()
    await job.add('Indicator')
    await job.add('Button')
    await job.choose('Behaviour', 'toggle')
    await job.choose('Variable', 'indicator')
    expect((await job.named('button')).settings).toMatchObject({
      works: 'switches',
      variable: expect.stringMatching(/^variable:/) as never,
    })
    await job.sees('“button” changes indicator, but it is host → panel only')
    await job.click('Set direction to both')
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
    await job.click('Timing')
    await job.fill('Auto-advance after', '700')
    await job.choose('Auto-advance to', 'Page 1')
    await job.click('Set as start page')
    const project = await job.saved()
    const splash = Object.values(project.pages).find((p) => p.name === 'Hello')!
    expect([splash.showsForMs, project.pages[splash.thenPage as keyof typeof project.pages]?.name, project.startPage]).toEqual([
      700,
      'Page 1',
      splash.id,
    ])
    await job.onBench()
    await job.click('Power cycle both')
    await job.sees('page “Page 1” opens')
  })

  test('a limit typed on a keypad: refused, corrected, accepted', async () => {
    const job = await begin()
    await job.add('Entry')
    await job.onBench()
    await job.press('entry')
    await job.sees('pop-up “Number keypad” opens')
    for (const key of ['Key 1', 'Key 2', 'Key 0', 'Key OK']) await job.press(key)
    // 120 is more than 100: nothing has been reported, and the keypad is still there.
    expect(await job.hand.reads()).not.toContain('← entry =')
    await job.press('Key Del')
    await job.press('Key OK')
    await job.sees('← entry = 12')
    await job.sees('the pop-up closes')
  })

  test('an alarm that comes, beeps, is seen, and goes', async () => {
    const job = await begin()
    await job.add('Indicator')
    await job.choose('Data type of the variable', 'flags')
    await job.add('Alarm list')
    await job.hand.click('Alarms: none', 'button')
    await job.hand.click('+ Alarm', 'button')
    await job.hand.fill('alarm 1: Text', 'Door open')
    await job.hand.choose('alarm 1: Variable', 'indicator')
    await job.hand.keys('Escape')
    const alarms = (await job.named('alarm list')).settings['alarms'] as { text: string; variable: string }[]
    expect(alarms).toMatchObject([{ text: 'Door open', variable: expect.stringMatching(/^variable:/) as never }])
    await job.onBench()
    const calm = await job.hand.quiet()
    await job.hand.choose('Variable to send', 'indicator')
    await job.hand.clickOn('[aria-label="Value to send"] [title="bit 0"]')
    await job.hand.clickOn('[aria-label="Send"] button', 'Send')
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

  test('several are held together: moved as one, taken apart, and undone', async () => {
    const job = await begin()
    await job.addSeveral('Slider with value')
    const [slider, value] = [await job.named('slider_value slider'), await job.named('slider_value value')]
    expect([slider.parent, value.parent]).toEqual(['', slider.id])
    const middle = [slider.place.x + 40, slider.place.y + 20] as const
    await job.hand.drag(middle, [middle[0] + 100, middle[1] + 60])
    const moved = [await job.named(slider.name), await job.named(value.name)]
    const by = moved.map(({ place }, k) => [place.x - [slider, value][k]!.place.x, place.y - [slider, value][k]!.place.y])
    expect(by[0]![0]).toBeGreaterThan(80)
    expect(by[1]).toEqual(by[0])
    // A second click takes one of them; G lets them apart, and undo holds them together again.
    await job.hand.press(moved[1]!.place.x + 60, moved[1]!.place.y + 20)
    await expect
      .poll(() => job.hand.page.$eval('[aria-label="Name of the widget"]', (e) => (e as HTMLInputElement).value))
      .toBe(value.name)
    await job.keys('Control+a', 'g')
    await expect.poll(async () => (await job.named(value.name)).parent).toBe('')
    await job.keys('Control+z')
    await expect.poll(async () => (await job.named(value.name)).parent).toBe(slider.id)
    await job.onBench()
    await job.press(slider.name, 99)
    await job.sees('← slider_value = 100 %')
  })

  test('a text typed on a keypad of letters, over its pages', async () => {
    const job = await begin()
    await job.add('Entry')
    await job.choose('Data type of the variable', 'text')
    await job.hand.click('New keypad', 'button')
    await job.hand.clickOn('[role="menuitem"]', 'Text keypad, QWERTZ')
    await expect
      .poll(async () => {
        const { pages } = await job.saved()
        return pages[(await job.named('entry')).settings['keypad'] as keyof typeof pages]?.name
      })
      .toBe('Text keypad')
    await job.onBench()
    await job.press('entry')
    await job.sees('pop-up “Text keypad” opens')
    await job.press('Key Z')
    await job.press('Key abc')
    await job.sees('pop-up “Text keypad, small letters” opens')
    await job.press('Key u')
    await job.press('Key OK 2')
    await job.sees('← entry = Zu')
  })

  test('a text that changes its words and its colour with a state', async () => {
    const job = await begin()
    await job.add('Text')
    await job.choose('Data type of the variable', 'choice')
    await job.click('Create states from value labels')
    const states = (await job.named('text')).settings['states'] as { meaning: string; textColour: string }[]
    expect(states.length).toBeGreaterThan(1)
    await job.hand.click(`State 2: ${states[1]!.meaning}`, 'button')
    await job.hand.click('State 2: text colour, picked', 'button')
    await job.hand.fill('State 2: text colour', '#ff0000')
    // The picker, then what it stands in.
    await job.hand.keys('Escape', 'Escape')
    await job.onBench()
    const { x, y, width, height } = (await job.named('text')).place
    const red = async () => {
      const pixels = await job.hand.glass()
      let count = 0
      for (let row = y; row < y + height; row++)
        for (let column = x; column < x + width; column++) {
          const at = 4 * (row * 800 + column)
          if (pixels[at]! > 200 && pixels[at + 1]! < 40 && pixels[at + 2]! < 40) count++
        }
      return count
    }
    expect(await red()).toBe(0)
    await job.hand.choose('Variable to send', 'text')
    await job.hand.choose('Value to send', states[1]!.meaning)
    await job.hand.clickOn('[aria-label="Send"] button', 'Send')
    await expect.poll(red).toBeGreaterThan(10)
  })

  test('a set of four values travels when their page is left, side by side in one frame', async () => {
    const job = await begin()
    for (let k = 0; k < 4; k++) await job.addSeveral('Value with − and +')
    await job.keys('Escape')
    await job.click('Reporting')
    await job.choose('Send changes', 'when the page closes')
    await job.click('+ Page')
    await job.hand.find('Name of the page')
    await job.fill('Name of the page', 'Away')
    await job.onBench()
    const more = ['step_value more', 'step_value_2 more', 'step_value_3 more', 'step_value_4 more']
    for (const [k, name] of more.entries()) for (let n = 0; n <= k; n++) await job.press(name)
    expect(await job.hand.reads()).not.toMatch(/← step_value.* =/)
    await job.send('page', '2')
    await job.sees('page “Away” opens')
    await job.sees('← step_value … step_value_4 = 1 %, 2 %, 3 %, 4 %')
    const project = await job.saved()
    const first = Math.min(...Object.values(project.variables).map((v) => v.address))
    const bytes = [1, 2, 3, 4].map((v) => `0${v} 00`).join(' ')
    const lines = (await job.hand.reads()).split('\n').filter((line) => line.includes(bytes))
    expect(lines.length).toBe(1)
    expect(lines[0]).toContain((first & 0xff).toString(16).toUpperCase().padStart(2, '0'))
  })

  test('a trend of two traces over an hour, half of it while another page shows', async () => {
    const job = await begin()
    await job.add('Slider')
    await job.add('Slider')
    await job.add('Trend')
    await job.hand.click('Traces: none', 'button')
    for (const [k, variable] of ['slider', 'slider_2'].entries()) {
      await job.hand.click('+ Trace', 'button')
      await job.hand.choose(`trace ${k + 1}: Variable`, variable)
    }
    await job.hand.fill('trace 1: Colour', '#ff0000')
    await job.hand.keys('Escape')
    await job.hand.keys('/')
    await job.hand.fill('Sample interval', '30000')
    await job.hand.fill('Buffer length', '120')
    await job.hand.click('+ Page', 'button')
    await job.hand.find('Name of the page')
    await job.fill('Name of the page', 'Away')
    await job.onBench()
    await job.press('slider', 30)
    await job.sees('← slider = ')
    await job.press('slider 2', 60)
    await job.sees('← slider_2 = ')
    await job.click('Pause')
    await job.fill('Step length', '600000')
    await job.minutes(30)
    // While another page shows, the host changes one of them; the trend goes on all the same.
    await job.send('slider', '90')
    await job.send('page', '2')
    await job.minutes(30)
    await job.sees('page “Away” opens')
    await job.send('page', '1')
    await job.hand.click('Run', 'button')
    await job.sees('page “Page 1” opens')
    await job.click('Pause')
    const { place } = await job.named('trend')
    const heights = async () => {
      const pixels = await job.hand.quiet()
      return [0.3, 0.85].map((share) => {
        const column = Math.floor(place.x + place.width * share)
        const rows = Array.from({ length: place.height }, (_, k) => place.y + k)
        return rows.find((row) => {
          const at = 4 * (row * 800 + column)
          return pixels[at]! > 200 && pixels[at + 1]! < 60 && pixels[at + 2]! < 60
        })
      })
    }
    await expect.poll(async () => (await heights()).every((at) => at !== undefined)).toBe(true)
    const [early, late] = await heights()
    expect(early! - late!).toBeGreaterThan(place.height / 4)
  })
})
