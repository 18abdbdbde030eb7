import { beforeAll, describe, expect, test } from 'vitest'
import type { Project, Widget } from '@moth-lamp/core/project'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

// One law for every field: what was typed is taken for the record it was typed for, when the caret leaves it, whatever the reason;
// Escape puts back.

const { server, chromium } = stage()
let hand: Hand
let id = ''
let page = ''

const places = {
  a: { x: 20, y: 20, width: 100, height: 50 },
  b: { x: 20, y: 120, width: 100, height: 50 },
  n: { x: 220, y: 20, width: 100, height: 50 },
}
const centre = (name: keyof typeof places) => {
  const { x, y, width, height } = places[name]
  return [x + width / 2, y + height / 2] as const
}
beforeAll(async () => {
  ;({ id } = await server.post<{ id: string }>('/projects', { name: 'Typed', width: 480, height: 320, diagonalInches: 4 }))
  const { project } = await server.opened(id)
  page = project.startPage
  const holds = { type: 'u16', factor: 0.1, offset: 0, decimals: 1, unit: 'm', min: 0, max: 900 }
  const does = { on: { moment: 'pressed', everyMs: 0 }, lines: [{ action: 'step', with: { variable: 'variable:v', by: 5 } }] }
  const edits: [string, object][] = [
    ['add variable', { id: 'variable:v', name: 'v', values: { holds, travels: 'both', stale: null } }],
    ['add variable', { id: 'variable:w', name: 'w', values: { holds, travels: 'both', stale: null } }],
    ['add page', { id: 'page:two', after: page, name: 'two', kind: 'page' }],
    [
      'add widgets',
      {
        page,
        after: '',
        widgets: [
          { id: 'widget:a', kind: 'button', name: 'a', place: places.a, settings: { text: 'A', rules: [does] } },
          { id: 'widget:b', kind: 'button', name: 'b', place: places.b, settings: { text: 'B', rules: [does] } },
          { id: 'widget:n', kind: 'number', name: 'n', place: places.n, settings: { variable: 'variable:w' } },
        ],
      },
    ],
  ]
  const changes = edits.map(([edit, args], n) => ({ changeId: `change:t${n}`, edit, args }))
  await server.post(`/projects/${id}/changes`, { form: project.format, base: 0, changes })
  hand = new Hand(await chromium.page('stays'))
})

const saved = async (): Promise<Project> => {
  await hand.isSaved()
  return (await server.opened(id)).project
}
const widget = (project: Project, name: string) => project.widgets[`widget:${name}`] as Widget
const face = (project: Project, name: string) => widget(project, name).settings['face'] as Record<string, unknown>

/** A field: how it is come to, and what of the document it is; `other`, the same of another record, stays as it is. */
interface Field {
  name: string
  /** Comes to the station and selects. */
  to(): Promise<void>
  /** Opens what it stands in, if anything. */
  open?(): Promise<void>
  label: string
  is(project: Project): unknown
  other?(project: Project): unknown
  /** A value that it has not been given before, as it is typed and as it is stored. */
  next(n: number): [string, unknown]
}

const onPages = async (name?: keyof typeof places) => {
  const path = `/project/${id}/pages`
  if (hand.page.url() !== server.url + path) await hand.opens(server.url + path)
  await hand.clickOn('nav[aria-label="Pages"] button', '1 ·')
  await hand.page.waitForSelector('[data-glass="edit"]')
  // A popover that is open goes with a click beside it.
  await hand.press(400, 280)
  if (!name) return
  await hand.press(...centre(name))
  await hand.find('Name of the widget', 'textbox')
}
const word = (n: number): [string, unknown] => [`word ${n}`, `word ${n}`]
const whole = (n: number): [string, unknown] => [String(10 + n), 10 + n]
const variable = (project: Project, name: string) => project.variables[`variable:${name}`]!

const fields: Field[] = [
  {
    name: 'a text',
    to: () => onPages('a'),
    label: 'Text',
    is: (p) => widget(p, 'a').settings['text'],
    other: (p) => widget(p, 'b').settings['text'],
    next: word,
  },
  {
    name: 'a name',
    to: () => onPages('a'),
    label: 'Name of the widget',
    is: (p) => widget(p, 'a').name,
    other: (p) => widget(p, 'b').name,
    next: word,
  },
  {
    name: 'a number with arithmetic',
    to: () => onPages('a'),
    label: 'Height of the widget',
    is: (p) => widget(p, 'a').place.height,
    other: (p) => widget(p, 'b').place.height,
    next: (n) => [`30+${n}`, 30 + n],
  },
  {
    name: 'a number in a sentence',
    to: () => onPages('a'),
    label: 'Action 1: amount',
    is: (p) => JSON.stringify(widget(p, 'a').settings['rules']).match(/"by":(\d+)/)![1],
    other: (p) => widget(p, 'b').settings['rules'],
    next: (n) => [String(10 + n), String(10 + n)],
  },
  {
    name: 'a number in a popover',
    to: () => onPages('a'),
    open: () => hand.click('Face: normal', 'button'),
    label: 'Face: radius',
    is: (p) => face(p, 'a')['radius'],
    other: (p) => face(p, 'b')['radius'],
    next: whole,
  },
  {
    name: 'a colour in a popover',
    to: () => onPages('a'),
    open: () => hand.click('Face: normal', 'button'),
    label: 'Face: border',
    is: (p) => face(p, 'a')['border'],
    other: (p) => face(p, 'b')['border'],
    next: (n) => [`#0000${10 + n}`, `#0000${10 + n}`],
  },
  {
    name: 'an address',
    to: () => onPages('n'),
    label: 'Address',
    is: (p) => variable(p, 'w').address,
    other: (p) => variable(p, 'v').address,
    next: (n) => [`0x${(0x200 + n).toString(16)}`, 0x200 + n],
  },
  {
    name: 'a value with a unit',
    to: () => onPages('n'),
    label: 'Initial value',
    is: (p) => variable(p, 'w').initial,
    other: (p) => variable(p, 'v').initial,
    next: (n) => [`${n}.5`, n + 0.5],
  },
  {
    name: 'several lines',
    to: () => onPages(),
    label: 'Notes of the page',
    is: (p) => p.pages[page as never]!['note'],
    other: (p) => p.pages['page:two' as never]!['note'],
    next: word,
  },
  {
    name: 'the name of a page',
    to: () => onPages(),
    label: 'Name of the page',
    is: (p) => p.pages[page as never]!['name'],
    other: (p) => p.pages['page:two' as never]!['name'],
    next: word,
  },
  {
    name: 'words on the glass',
    to: async () => {
      await onPages('b')
      await hand.press(...centre('b'), 'left', 2)
    },
    label: 'Text of b',
    is: (p) => widget(p, 'b').settings['text'],
    other: (p) => widget(p, 'a').settings['text'],
    next: word,
  },
]

/** Ways to leave a field, each of which takes what was typed. */
const ways: Record<string, (field: Field) => Promise<unknown>> = {
  Tab: () => hand.page.keyboard.press('Tab'),
  'another widget': () => hand.press(...(hand.page.url().endsWith('pages') ? centre('n') : centre('a'))),
  'empty ground': () => hand.press(400, 280),
  'another page': () => hand.clickOn('nav[aria-label="Pages"] button', 'two'),
  'another station': () => hand.station('Panel'),
  'all projects': () => hand.page.click('header a'),
}

const isAll = process.env['TESTS'] === 'all'

let count = 0
async function types({ to, open, label, next }: Field): Promise<unknown> {
  await to()
  await open?.()
  const field = await hand.find(label, 'textbox')
  const [text, stored] = next(++count)
  await field.focus()
  await hand.page.keyboard.down('Control')
  await hand.page.keyboard.press('a')
  await hand.page.keyboard.up('Control')
  await hand.page.keyboard.type(text)
  return stored
}

describe.each(Object.keys(ways))('left by %s', (way) => {
  // Every way, and every field by one of them; each by each where everything is tested.
  const tried = fields.filter((_, i) => isAll || (i + Object.keys(ways).indexOf(way)) % 5 === 0)
  test.each(tried.map((field) => [field.name, field] as const))('%s is taken for what it was typed for', async (_, field) => {
    const before = await server.opened(id).then(({ project }) => field.other?.(project))
    const stored = await types(field)
    await ways[way]!(field)
    await expect.poll(async () => field.is((await server.opened(id)).project)).toEqual(stored)
    expect(field.other?.((await server.opened(id)).project)).toEqual(before)
  })
})

const put = fields.filter((_, i) => isAll || i % 4 === 0)
test.each(put.map((field) => [field.name, field] as const))('Escape puts %s back', async (_, field) => {
  await field.to()
  const before = field.is(await saved())
  await types(field)
  await hand.page.keyboard.press('Escape')
  await hand.press(400, 280)
  expect(field.is(await saved())).toEqual(before)
})

test('a tab that is closed in the middle of a word keeps it; what cannot be taken is said by its name', async () => {
  await types({ ...fields[2]!, next: () => ['no number', 0] })
  await hand.press(...centre('n'))
  await hand.sees('“no number” was not applied to Height of the widget')
  const other = new Hand(await chromium.page())
  await other.page.goto(`${server.url}/project/${id}/pages`)
  const was = hand
  hand = other
  const stored = await types({
    ...fields[0]!,
    to: async () => void (await other.press(...centre('a')), await other.find('Text', 'textbox')),
  })
  hand = was
  await other.page.close({ runBeforeUnload: false })
  await hand.page.bringToFront()
  await hand.opens(`${server.url}/project/${id}/variables`)
  await expect.poll(async () => fields[0]!.is((await server.opened(id)).project)).toEqual(stored)
})

test('Escape closes what is innermost: a list, then its popover, then nothing is selected any more', async () => {
  await onPages('a')
  await hand.click('Face: normal', 'button')
  // By a key: what has just opened may still find its place.
  await (await hand.find('Face: shape', 'combobox')).focus()
  await hand.keys('Enter')
  await hand.find('ellipse', 'option')
  const open = () =>
    hand.page.evaluate(() => [
      document.querySelectorAll('[role="option"]').length > 0,
      document.querySelectorAll('[role="dialog"]').length > 0,
      document.querySelector('[aria-label="Name of the widget"]') !== null,
    ])
  const seen: boolean[][] = []
  for (let n = 0; n < 3; n++) {
    await hand.page.keyboard.press('Escape')
    await hand.page.evaluate(() => new Promise(requestAnimationFrame))
    seen.push(await open())
  }
  expect(seen[0]).toEqual([false, true, true])
  expect(seen[1]).toEqual([false, false, true])
})

test('letters find in a short list; a unit beside a field is a part of it; “none” is a colour where there may be none', async () => {
  await onPages('a')
  await hand.click('Face: normal', 'button')
  await (await hand.find('Face: shape', 'combobox')).focus()
  await hand.keys('Enter')
  await hand.find('ellipse', 'option')
  await hand.keys('=ell', 'Enter')
  await expect.poll(async () => face(await saved(), 'a')['shape']).toBe('ellipse')
  await hand.fill('Face: border', 'none', 'textbox')
  await expect.poll(async () => face(await saved(), 'a')['border']).toBe('')
  // The last pixels of the field, where its unit stands.
  await hand.page.keyboard.press('Escape')
  const field = await hand.find('Font: size', 'textbox')
  const [x, y] = await field.evaluate((e) => {
    const box = e.getBoundingClientRect()
    return [box.right - 6, (box.top + box.bottom) / 2]
  })
  await hand.page.mouse.click(x!, y!)
  expect(await field.evaluate((e) => e === document.activeElement)).toBe(true)
})

test('what is typed after / is sought; Enter on a size that is picked makes the panel', async () => {
  await onPages('a')
  await hand.keys('/', '=zzq')
  await hand.sees('No match')
  await hand.page.keyboard.press('Escape')
  await hand.page.click('header a')
  await hand.sees('New project')
  await hand.keys('n')
  await hand.clickOn('[aria-label="Glass size"] button', '480 × 272')
  await hand.page.keyboard.press('Enter')
  await hand.page.waitForFunction(() => location.pathname.endsWith('/pages'))
  const { project } = await server.opened(new URL(hand.page.url()).pathname.split('/')[2]!)
  expect([project.panel.width, project.panel.height]).toEqual([480, 272])
})

test.each([
  ['words on the glass', 'b', 'the text of b'],
  ['a text', 'a', 'Text'],
])('of %s, whose widget another window deletes, it is said what is lost', async (name, of, label) => {
  await types({ ...fields.find((field) => field.name === name)!, next: () => ['Ajar', 0] })
  const { project, revision } = await server.opened(id)
  const changes = [{ changeId: `change:gone${of}`, edit: 'delete widgets', args: { ids: [`widget:${of}`] } }]
  await server.post(`/projects/${id}/changes`, { form: project.format, base: revision, changes })
  await hand.sees(`“Ajar” was not applied to ${label}`)
})
