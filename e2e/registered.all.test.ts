import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Project } from '@moth-lamp/core/project'
import { freshDatabase } from '../packages/server/src/testing.ts'
import { Hand, root } from './browser.ts'
import { stage } from './stage.ts'

// One more kind of widget, part of a frame, action, step and check, each a file and a line (registered.ts): they are wherever the
// others are, from the list in which they are offered to the glass, the wire and the verdict.

const folder = join(root, 'build/registered')
beforeAll(() => void execFileSync(process.execPath, [join(root, 'e2e/registered-build.mjs'), folder]), 180_000)
const { server, chromium } = stage(freshDatabase, folder)
let hand: Hand
let id = ''

beforeAll(async () => {
  hand = new Hand(await chromium.page())
  const made = { name: 'One more of each', width: 480, height: 320, diagonalInches: 4.3 }
  ;({ id } = await server.post<{ id: string }>('/projects', made))
})

const saved = async (): Promise<Project> => {
  await hand.isSaved()
  return (await server.opened(id)).project
}
const station = async (name: string, sees: string) => {
  await hand.page.goto(`${server.url}/project/${id}/${name}`)
  await hand.sees('Saved · revision')
  await hand.sees(sees)
  // All that comes a little after a page that was loaded has come.
  if (name === 'pages') await hand.quiet()
  // A touch within 150 ms of a page's opening does not count.
  if (name === 'bench') await expect.poll(() => hand.secondsOn()).toBeGreaterThan(0.3)
}
const widgetOf = (project: Project, kind: string) => Object.values(project.widgets).find((w) => w.kind === kind)!
const menuItem = async (label: string) => hand.clickOn('[role="menuitem"]', label)
const changed = async (edit: string, args: unknown) => {
  const { project, revision } = await server.opened(id)
  const changes = [{ changeId: `change:registered${revision}`, edit, args }]
  await server.post(`/projects/${id}/changes`, { form: project.format, base: revision, changes })
}

describe('one more of each is wherever the others are', () => {
  test('a kind of widget: in the menu, on the glass, in the form, with a variable of its own', async () => {
    await station('pages', 'Press A to add a widget, or drag a rectangle')
    await hand.keys('a')
    await hand.clickOn('[role="option"]', 'Stripe')
    await hand.press(240, 160)
    await hand.sees('On the glass')
    await hand.keys('/')
    await hand.sees('Ink of the stripe')
    const project = await saved()
    const { place, settings } = widgetOf(project, 'stripe')
    const variable = project.variables[settings['shows' as never] as never] as unknown as { name: string }
    expect(place).toMatchObject({ width: 120, height: 24 })
    await station('bench', 'Conversation')
    await hand.choose('Variable to send', variable.name)
    await hand.fill('Value to send', '50')
    await hand.sees(`${variable.name} = 50`)
    const glass = await hand.quiet()
    const inked = Array.from({ length: place.width }, (_, k) => 4 * ((place.y + 12) * 480 + place.x + k)).filter(
      (at) => glass[at] === 255 && glass[at + 1] === 0 && glass[at + 2] === 0,
    )
    expect(inked.length).toBe(60)
  })

  test('a check: its finding is said at its place, and its button mends it', async () => {
    const stripe = widgetOf(await saved(), 'stripe')
    await changed('place widgets', { places: { [stripe.id]: { height: 80 } } })
    await station('pages', 'is thicker than 50 px')
    await hand.click('Make it 50 px high', 'button')
    await expect.poll(async () => widgetOf(await saved(), 'stripe').place.height).toBe(50)
    expect(await hand.reads()).not.toContain('is thicker than')
  })

  test('an action: in the list of a button, in its sentence, done by a finger on the panel', async () => {
    const stripe = widgetOf(await saved(), 'stripe')
    const variable = stripe.settings['shows' as never] as string
    const { name } = (await saved()).variables[variable as never] as unknown as { name: string }
    const { startPage } = await saved()
    const place = { x: 20, y: 20, width: 120, height: 60 }
    await changed('add widgets', { page: startPage, after: '', widgets: [{ id: 'widget:b', kind: 'button', name: 'b', place }] })
    await changed('set variable', { id: variable, values: { initial: 40, travels: 'both' } })
    await station('pages', 'b')
    await hand.press(40, 40)
    await hand.click('+ Action', 'button')
    await hand.choose('Action 1: does', 'halves')
    await hand.choose('Action 1: variable', name)
    await hand.fill('Action 1: by', '4')
    const [action] = widgetOf(await saved(), 'button').settings['rules' as never] as { lines: unknown[] }[]
    expect(action).toMatchObject({ lines: [{ action: 'halve', with: { variable, by: 4 } }] })
    await station('bench', 'Conversation')
    await hand.press(40, 40)
    await hand.sees(`${name} = 10`)
  })

  test('a part of a frame: offered, on the wire, said of the bytes', async () => {
    await station('frames', 'b')
    await hand.page.click('[aria-label^="Add Header field"]')
    await menuItem('unit')
    await expect.poll(async () => JSON.stringify((await saved()).layout)).toContain('"part":"unit","unit":17')
    await hand.sees('unit 17')
    await station('bench', 'Conversation')
    await hand.sees('ACK')
    await hand.keys('h')
    await hand.clickOn('[data-entry]', 'read request version')
    await hand.sees('ours')
  })

  test('a system variable: beside the others, picked, written by the host', async () => {
    await station('panel', 'visitors')
    await station('bench', 'Conversation')
    await hand.choose('Variable to send', 'visitors')
    await hand.fill('Value to send', '6')
    await hand.clickOn('[aria-label="Send"] button', 'Send')
    await hand.sees('visitors = 6')
  })

  test('a step: offered, in words, run, passed and failed', async () => {
    await station('exchanges', 'An exchange is a script')
    await hand.click('+ Exchange', 'button')
    await hand.click('+ Step', 'button')
    await menuItem('is even')
    const project = await saved()
    const stripe = widgetOf(project, 'stripe').settings['shows' as never] as string
    const { name } = project.variables[stripe as never] as unknown as { name: string }
    await hand.choose('Variable', name)
    await saved()
    await hand.click('Run', 'button')
    await hand.sees('Passed (')
    await changed('set variable', { id: stripe, values: { initial: 41 } })
    await hand.page.reload()
    await hand.sees(`${name} is even`)
    await hand.click('Run', 'button')
    await hand.sees('Failed')
    const [exchange] = Object.values((await saved()).exchanges)
    expect(Object.values(exchange!.steps)).toMatchObject([{ kind: 'is even', settings: { variable: stripe } }])
  })
})
