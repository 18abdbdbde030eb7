import type { KeyInput } from 'puppeteer-core'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Project } from '@moth-lamp/core/project'
import type { FlagsHolds } from '@moth-lamp/core/variables'
import { Hand } from './browser.ts'
import { begin } from './counted.ts'
import { stage } from './stage.ts'

// Whole jobs as someone does them, gestures counted.

const { server, chromium } = stage()
let hand: Hand

beforeAll(async () => void (hand = new Hand(await chromium.page())))

const variables = (project: Project) => project.variableOrder.map((id) => project.variables[id]!)
const widgets = (project: Project, kind: string) => Object.values(project.widgets).filter((w) => w.kind === kind)
const rulesOf = (w: Project['widgets'][string & keyof Project['widgets']]) =>
  w.settings['rules'] as { lines: { action: string; with: Record<string, unknown> }[] }[]

describe('five pumps in one flags word, not side by side, each a lamp and a button, all on and all off by mask', () => {
  const bits = [0, 3, 5, 9, 12]
  const names = ['oak', 'ash', 'elm', 'fir', 'yew']

  const holds = (project: Project) => {
    const [pumps] = variables(project)
    expect(pumps!.holds).toMatchObject({ type: 'flags' })
    const flags = (pumps!.holds as FlagsHolds).names
    expect(bits.map((bit) => flags[bit])).toEqual(names)
    expect(variables(project).length).toBe(1)
    const lamps = widgets(project, 'indicator')
    expect(lamps.map((w) => (w.settings['states'] as { when: { bit: number } }[])[0]!.when.bit)).toEqual(bits)
    const buttons = widgets(project, 'button')
    expect(buttons.map((w) => w.settings['text'])).toEqual([...names, 'all on', 'all off'])
    const masks = buttons.map((w) => rulesOf(w)[0]!.lines[0]!)
    expect(masks.slice(0, 5).map((line) => [line.action, line.with['mask']])).toEqual(
      bits.map((bit) => ['toggle bits', 1 << bit]),
    )
    const all = bits.reduce((mask, bit) => mask | (1 << bit), 0)
    expect(masks.slice(5).map((line) => [line.action, line.with['mask']])).toEqual([
      ['set bits', all],
      ['clear bits', all],
    ])
  }

  test('by pointer and keys, in 35 gestures at most', async () => {
    const job = await begin(hand, server)
    // The lamp, and its variable as flags with five names.
    await job.keys('a', 'i')
    await job.press(60, 60)
    await job.choose('Data type of the variable', 'flags')
    await job.click('Scale of indicator: 16 bits', 'button')
    const tabs = (n: number) => Array.from({ length: n }, () => 'Tab')
    await job.keys('=oak', ...tabs(3), '=ash', ...tabs(2), '=elm', ...tabs(4), '=fir', ...tabs(3), '=yew', 'Enter', 'Escape')
    await job.click('Create states from a bit', 'button')
    // The button beside it.
    await job.keys('a', 'b')
    await job.press(180, 60)
    await job.acts('toggles bits of', 'indicator')
    // Both, five times.
    await job.drag([20, 20], [300, 120])
    await job.keys('r')
    await job.click('Create 8', 'button')
    // All on, and all off.
    await job.keys('a', 'b')
    await job.press(500, 60)
    await job.acts('sets bits of', 'indicator')
    await job.click('all', 'button')
    await job.fill('Text', 'all on')
    await job.keys('Control+d')
    await job.choose('Action 1: does', 'clears bits of')
    await job.fill('Text', 'all off')
    holds(await job.saved())
    console.log(`five pumps: ${job.gestures} gestures`)
    expect(job.gestures).toBeLessThanOrEqual(35)
  })

  test('without a mouse', async () => {
    const job = await begin(hand, server)
    const tabs = (n: number) => Array.from({ length: n }, () => 'Tab')
    // The lamp: from the glass to its column and to the fields by Tab alone.
    await job.keys('a', 'i', 'Enter')
    await job.sees('On the wire')
    await job.keys('Enter')
    await job.tabTo('Data type of the variable')
    await job.pick('flags')
    await job.tabTo('Scale of indicator: 16 bits')
    await job.keys(
      'Enter',
      '=oak',
      ...tabs(3),
      '=ash',
      ...tabs(2),
      '=elm',
      ...tabs(4),
      '=fir',
      ...tabs(3),
      '=yew',
      'Enter',
      'Escape',
    )
    await job.tabTo('Create states from a bit', 'back')
    await job.keys('Enter', 'Escape')
    // The button beside it, and what it does.
    await job.keys('a', 'b', 'Enter')
    await job.keys('Enter')
    await job.act('toggles bits of', 'indicator')
    await job.keys('Escape')
    // Both, five times.
    await job.keys('Control+a', 'r')
    await job.sees('Create 8')
    await job.tabTo('Create 8')
    await job.keys('Enter')
    // All on, and all off beside it.
    await job.keys('a', 'b', 'Enter')
    await job.keys('Enter')
    await job.tabTo('Text')
    await job.keys('Control+a', '=all on', 'Enter', 'Enter')
    await job.act('sets bits of', 'indicator')
    await job.tabTo('all')
    await job.keys('Enter', 'Escape')
    await job.keys('Control+d')
    await job.keys('Enter')
    await job.tabTo('Text')
    await job.keys('Control+a', '=all off', 'Enter', 'Enter')
    await job.tabTo('Action 1: does')
    await job.pick('clears bits of')
    holds(await job.saved())
    expect(job.pointed).toBe(0)
  })
})

test('three setpoints with − and + keys, in 40 gestures at most', async () => {
  const job = await begin(hand, server)
  await job.keys('a', 'n')
  await job.press(300, 60)
  await job.choose('Direction', 'both')
  await job.fill('Name of the variable', 'setpoint_1')
  await job.keys('a', 'b')
  await job.press(120, 60)
  await job.fill('Text', '−')
  await job.click('+ Action', 'button')
  await job.fill('Action 1: amount', '-5')
  await job.choose('Action 1: variable', 'setpoint_1')
  await job.keys('Control+d')
  await job.fill('Left', '400')
  await job.fill('Text', '+')
  await job.fill('Action 1: amount', '5')
  await job.keys('Control+a')
  await job.keys('r')
  await job.click('Create 6', 'button')
  const project = await job.saved()
  expect(variables(project).map((v) => v.name)).toEqual(['setpoint_1', 'setpoint_2', 'setpoint_3'])
  expect(new Set(variables(project).map((v) => v.address)).size).toBe(3)
  const keys = widgets(project, 'button').map((w) => rulesOf(w)[0]!.lines[0]!.with)
  expect(keys.map((line) => [variables(project).findIndex((v) => v.id === line['variable']), line['by']])).toEqual(
    [0, 1, 2].flatMap((k) => [
      [k, -5],
      [k, 5],
    ]),
  )
  console.log(`three setpoints: ${job.gestures} gestures`)
  expect(job.gestures).toBeLessThanOrEqual(40)
})

test('what keys open takes the keys after it however fast they come', async () => {
  const job = await begin(hand, server)
  const pressed = (...keys: KeyInput[]) => Promise.all(keys.map((key) => hand.page.keyboard.press(key)))
  for (let k = 1; k <= 3; k++) {
    // The keys of one go reach the page one behind the other, before it has drawn what the first of them opens.
    await pressed('a', 'n', 'Enter')
    await job.sees(k === 1 ? '1 widget' : `${k} widgets`)
    await job.sees('On the wire')
    await pressed('Escape')
  }
  // A list that is found in by typing takes what is typed as it opens.
  await pressed('[')
  await job.sees('On the wire')
  for (const name of ['number_3', 'number_2']) {
    await hand.page.focus('[aria-label="Variable"]')
    await pressed('Enter', ...([...name] as KeyInput[]), 'Enter')
    await hand.page.waitForFunction(
      // And gives the focus back.
      (shown) => document.activeElement?.ariaLabel === 'Variable' && document.activeElement.textContent === shown,
      { polling: 50 },
      name,
    )
  }
  // A form is filled in from the moment it opens.
  await hand.page.focus('[aria-label^="Scale of"]')
  await pressed('Enter', '2', '5', 'Tab', 'Tab', 'Tab', 'V', 'Enter')
  await expect
    .poll(async () => variables(await job.saved()).map(({ holds }) => holds))
    .toContainEqual(expect.objectContaining({ factor: 25, unit: 'V' }))
  // Tab goes round in it.
  await pressed(...Array<KeyInput>(20).fill('Tab'))
  expect(await hand.page.evaluate(() => document.activeElement?.closest('[role="dialog"]')?.textContent)).toContain('Factor')
  await pressed('Escape')
  await hand.page.focus('[data-glass="edit"]')
  // The first answer of what is asked is taken: what is repeated is made, and a compound gets a variable of its own.
  await pressed('[', 'r', 'Enter')
  await job.sees('5 widgets')
  await pressed('Escape', 'a', '2', 'Enter')
  await job.sees('3 widgets are selected (group)')
  expect(widgets(await job.saved(), 'number').length).toBe(6)
  // A list is walked from the moment it opens.
  await pressed('Escape', 'a', 'ArrowDown', 'ArrowDown', 'Enter')
  await job.sees('On the glass')
  expect(widgets(await job.saved(), 'text').length).toBe(1)
})

test('a page of nine touch areas with one action that counts up, in 25 gestures at most', async () => {
  const job = await begin(hand, server)
  await job.keys('a', 'b')
  await job.drag([40, 40], [240, 140])
  await job.fill('Text', 'zone 1')
  await job.click('+ Action', 'button')
  await job.choose('Action 1: does', 'sets')
  await job.click('Action 1: variable: a new variable', 'button')
  await job.click('Repeat R', 'button')
  await job.click('Columns')
  await job.keys('Control+a', '=3', 'Tab', 'Control+a', '=3', 'Tab', 'Tab', 'Tab', 'Tab', 'Tab', 'Tab')
  await job.clickWords('label', 'same')
  // Enter takes the value, and with it what the form makes.
  await job.fill('Value increment', '1')
  const project = await job.saved()
  const areas = widgets(project, 'button')
  expect(areas.map((w) => w.settings['text'])).toEqual(Array.from({ length: 9 }, (_, k) => `zone ${k + 1}`))
  expect(areas.map((w) => rulesOf(w)[0]!.lines[0]!.with['to'])).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9])
  expect(variables(project).length).toBe(1)
  console.log(`nine areas: ${job.gestures} gestures`)
  expect(job.gestures).toBeLessThanOrEqual(25)
})

test('four pages with one menu, three values that differ in scale and digits, six switches, in 60 gestures at most', async () => {
  const job = await begin(hand, server)
  const tabs = (n: number) => Array.from({ length: n }, () => 'Tab')
  // One key of the menu, and from it four: their words in a list, the page they open counted up.
  await job.keys('a', 'b')
  await job.drag([10, 420], [196, 470])
  await job.click('+ Action', 'button')
  await job.choose('Action 1: does', 'sets')
  await job.choose('Action 1: variable', 'page')
  await job.fill('Action 1: to', '1')
  await job.click('Repeat R', 'button')
  await job.click('Columns')
  const words = ['=Rooms', 'Enter', '=Air', 'Enter', '=Light', 'Enter', '=Set up']
  await job.keys('Control+a', '=4', 'Tab', 'Control+a', '=1', ...tabs(5), ...words, 'Tab', 'Control+a', '=1', 'Enter')
  // Three pages more, and the menu on each.
  for (let k = 0; k < 3; k++) await job.click('+ Page', 'button')
  await job.clickWords('nav button', '1 ·')
  await job.keys('Control+a', 'Control+c')
  for (const k of [2, 3, 4]) {
    await job.clickWords('nav button', `${k} ·`)
    await job.keys('Control+v')
  }
  // Three values on the second page: degrees in tenths, parts per million, volts in hundredths.
  await job.clickWords('nav button', '2 ·')
  const values = [
    ['air_temp', '0.1', '1', '°C', '-40', '60'],
    ['air_co2', '1', '0', 'ppm', '0', '5000'],
    ['battery', '0.01', '2', 'V', '0', '30'],
  ]
  for (const [k, [name, factor, decimals, unit, from, to]] of values.entries()) {
    await job.keys('a', 'n')
    await job.press(60 + 250 * k, 80)
    await job.fill('Name of the variable', name!)
    await job.click(`Scale of ${name}: 0 to 65535`, 'button')
    await job.keys(
      ...['Control+a', `=${factor}`, 'Tab', 'Tab', 'Control+a', `=${decimals}`, 'Tab', `=${unit}`],
      ...['Tab', 'Control+a', `=${from}`, 'Tab', 'Control+a', `=${to}`, 'Enter', 'Escape'],
    )
  }
  // Six switches on the third, each a bit of one word.
  await job.clickWords('nav button', '3 ·')
  await job.keys('a', 'b')
  await job.press(60, 60)
  await job.click('+ Action', 'button')
  await job.choose('Action 1: does', 'toggles bits of')
  await job.click('Action 1: variable: a new variable', 'button')
  await job.click('Repeat R', 'button')
  await job.click('Columns')
  const rooms = ['hall', 'stair', 'cellar', 'porch', 'yard', 'shed'].flatMap((room) => [`=${room}`, 'Enter']).slice(0, -1)
  await job.keys(
    'Control+a',
    '=2',
    'Tab',
    'Control+a',
    '=3',
    ...tabs(3),
    'ArrowLeft',
    'Tab',
    '=0, 1, 2, 3, 4, 5',
    'Tab',
    ...rooms,
    'Tab',
    'Enter',
  )
  const project = await job.saved()
  expect(project.pageOrder.length).toBe(4)
  const on = (page: number) => project.pages[project.pageOrder[page]!]!.widgets.map((id) => project.widgets[id]!)
  const first = (w: (typeof project.widgets)[keyof typeof project.widgets]) => rulesOf(w)[0]!.lines[0]!
  for (const page of [0, 1, 2, 3]) {
    const menu = on(page)
      .filter((w) => w.kind === 'button')
      .slice(0, 4)
    expect(menu.map((w) => [w.settings['text'], first(w).with['variable'], first(w).with['to']])).toEqual(
      ['Rooms', 'Air', 'Light', 'Set up'].map((text, k) => [text, 'variable:own-page', k + 1]),
    )
  }
  expect(
    variables(project)
      .slice(0, 3)
      .map((v) => [v.name, v.holds]),
  ).toMatchObject(
    values.map(([name, factor, decimals, unit, min, max]) => [
      name,
      { factor: Number(factor), decimals: Number(decimals), unit, min: Number(min), max: Number(max) },
    ]),
  )
  const switches = on(2).filter((w) => first(w)?.action === 'toggle bits')
  expect(switches.map((w) => [w.settings['text'], first(w).with['mask']])).toEqual(
    ['hall', 'stair', 'cellar', 'porch', 'yard', 'shed'].map((room, bit) => [room, 1 << bit]),
  )
  expect(new Set(switches.map((w) => first(w).with['variable'])).size).toBe(1)
  console.log(`four pages with a menu: ${job.gestures} gestures`)
  expect(job.gestures).toBeLessThanOrEqual(60)
})
