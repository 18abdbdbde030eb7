import { beforeAll, expect, test } from 'vitest'
import type { Project } from '@moth-lamp/core/project'
import { Hand } from './browser.ts'
import { begin, type Counted } from './counted.ts'
import { dropDrawings, type Drawn } from './drawn.ts'
import { stage } from './stage.ts'

// Jobs that begin with pictures that are made already, or with a host that speaks: gestures counted.

const { server, chromium } = stage()
let hand: Hand
beforeAll(async () => void (hand = new Hand(await chromium.page('stays'))))

const variables = (project: Project) => project.variableOrder.map((id) => project.variables[id]!)
const widgets = (project: Project, kind: string) => Object.values(project.widgets).filter((w) => w.kind === kind)
/** One gesture: files dropped on the glass at one of its pixels. */
async function drops(job: Counted, x: number, y: number, ...drawings: Drawn[]): Promise<void> {
  job.gestures++
  await dropDrawings(hand, '[data-glass="edit"]', await hand.at(x, y), drawings)
}
const key = { width: 90, height: 90, round: true }
const pair = [
  { ...key, name: 'pump-off.png', shade: 20 },
  { ...key, name: 'pump-on.png', shade: 140 },
]
const revision = (n: number) => hand.sees(`Saved · revision ${n}`)
const said = async (words: string) => hand.sees(words)

test('a pictured toggle key over a background, live, in 12 gestures', async () => {
  const job = await begin(hand, server, 480, 320)
  await drops(job, 100, 100, { name: 'sky.png', width: 480, height: 320 })
  await revision(1)
  await drops(job, 200, 150, ...pair)
  await revision(2)
  await job.keys('l')
  await hand.page.waitForSelector('[data-glass="touch"]')
  await job.press(200, 150)
  await hand.page.waitForFunction(() => document.body.innerText.includes('Reset to off'))
  const project = await job.saved()
  const [made] = widgets(project, 'button')
  expect(made!.place).toEqual({ x: 155, y: 105, width: 90, height: 90 })
  expect(Object.values(project.pictures).map(({ name, keepsAlpha }) => [name, keepsAlpha])).toEqual([
    ['sky', false],
    ['pump-off', true],
    ['pump-on', true],
  ])
  expect(Object.values(project.pages)[0]!.background.picture).not.toBe('')
  expect(job.gestures).toBeLessThanOrEqual(12)
})

test('four pictured switches with addresses of their own, in 30 gestures', async () => {
  const job = await begin(hand, server)
  await drops(job, 100, 100, ...pair)
  await revision(1)
  await job.keys('r')
  // Enter takes the number, and makes them.
  await job.fill('Rows', '4')
  await revision(2)
  const project = await job.saved()
  const keys = widgets(project, 'button')
  expect(keys.map((w) => [w.settings['works'], (w.settings['onFace'] as { picture: string }).picture !== ''])).toEqual(
    Array(4).fill(['switches', true]),
  )
  expect(new Set(keys.map((w) => w.settings['variable'])).size).toBe(4)
  expect(new Set(variables(project).map(({ address }) => address)).size).toBe(4)
  expect(variables(project).map(({ name }) => name)).toEqual(['pump', 'pump_2', 'pump_3', 'pump_4'])
  expect(job.gestures).toBeLessThanOrEqual(30)
})

test('four lamps on the bits of a word, with all on and all off, in 35 gestures', async () => {
  const job = await begin(hand, server)
  await job.keys('a', '6', 'Enter')
  await revision(1)
  await job.keys('a', '5')
  await job.choose('Variable to show', variables(await job.saved())[0]!.name)
  await job.keys('Enter')
  await revision(2)
  const project = await job.saved()
  expect([variables(project).length, widgets(project, 'indicator').length]).toEqual([1, 4])
  expect(widgets(project, 'button').map((w) => JSON.stringify(w.settings['rules']).match(/"action":"(\w+ bits)"/)![1])).toEqual([
    'set bits',
    'clear bits',
  ])
  expect(job.gestures).toBeLessThanOrEqual(35)
})

/** A value of the host card: a click into it, what is typed, Enter. */
async function sends(job: Counted, variable: string, text: string): Promise<void> {
  const label = `${variable}: value of the host`
  // One that was never heard is given a value first.
  const field = await hand.find(label, 'textbox', 1500).catch(() => null)
  if (!field) {
    await hand.page.$$eval(
      'section[aria-label="Host"] span',
      (all, name) =>
        (all.find((e) => e.textContent.trim().endsWith(name))!.parentElement!.querySelector('button') as HTMLElement).click(),
      variable,
    )
    job.gestures++
  }
  await job.fill(label, text)
}

test('three values sent to a running panel from the host card, in 9 gestures', async () => {
  const job = await begin(hand, server)
  for (const [n, letter] of ['n', 'n', 'n'].entries()) {
    await hand.keys('a', letter, 'Enter')
    await revision(n + 1)
  }
  const names = variables(await job.saved()).map(({ name }) => name)
  await hand.station('Bench')
  await hand.find('Time since power-on')
  for (const [n, name] of names.entries()) {
    await sends(job, name, String(11 * (n + 1)))
    await said(`${name} = ${11 * (n + 1)}`)
  }
  expect(job.gestures).toBeLessThanOrEqual(9)
})

test('six text fields filled by the host with texts of different length, in 30 gestures', async () => {
  const job = await begin(hand, server)
  await job.keys('a', 't', 'Enter')
  await revision(1)
  await job.keys('r')
  await job.fill('Rows', '6')
  await revision(2)
  const names = variables(await job.saved()).map(({ name }) => name)
  expect(names.length).toBe(6)
  await hand.station('Bench')
  job.gestures++
  await hand.find('Time since power-on')
  const texts = ['a', 'ash', 'alder', 'hornbeam', 'wild service', 'seven letters so']
  for (const [n, name] of names.entries()) {
    await sends(job, name, texts[n]!)
    await said(texts[n]!)
  }
  expect(job.gestures).toBeLessThanOrEqual(30)
})
