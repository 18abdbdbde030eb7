import { beforeAll, describe, expect, test } from 'vitest'
import type { Project, Widget } from '@moth-lamp/core/project'
import { widgetKinds } from '@moth-lamp/core/widgets'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
let hand: Hand
let id = ''

const saved = async (): Promise<Project> => {
  await hand.isSaved()
  return (await server.opened(id)).project
}
const fresh = async (name: string) => {
  ;({ id } = await server.post<{ id: string }>('/projects', { name, width: 480, height: 320, diagonalInches: 4.3 }))
  await hand.opens(`${server.url}/project/${id}/pages`)
  await hand.sees('Press A to add a widget, or drag a rectangle')
}
const only = (project: Project): Widget =>
  Object.values(project.widgets)
    .filter((w) => w.page === project.pageOrder[0])
    .at(-1)!
const variableOf = (project: Project) => project.variables[project.variableOrder.at(-1)!]!

beforeAll(async () => void (hand = new Hand(await chromium.page())))

/** Writes of a host and touches for each kind; a kind that is not here is placed, and looked at. */
const tried: Record<
  string,
  { host?: number | string; word?: string; touched?: [x: number, y: number]; becomes?: number | string }
> = {
  number: { host: 42 },
  text: { host: 'Rain' },
  indicator: { word: 'on' },
  bar: { host: 80 },
  gauge: { host: 11.5 },
  level: { host: 3 },
  slider: { host: 20, touched: [98, 50], becomes: 100 },
  dial: { host: 30 },
  digits: { host: 12.3, touched: [95, 10], becomes: 12.4 },
  list: { word: 'third', touched: [40, 15], becomes: 'first' },
}

describe('each kind is placed, bound, driven by the host and tried by touch', () => {
  test.each(widgetKinds().map(({ kind, label }) => [label, kind] as const))('%s', async (label, kind) => {
    await fresh(`A ${kind}`)
    await hand.keys('a')
    await hand.clickOn('[role="option"]', label)
    await hand.press(240, 160)
    await hand.sees('On the glass')
    const made = await saved()
    expect(only(made).kind).toBe(kind)
    const { host, word, touched, becomes } = tried[kind] ?? {}
    // Its picture is on the glass of the page, where it was put.
    const glass = await hand.quiet()
    const { x, y, width, height } = only(made).place
    const inked = new Set<number>()
    for (let row = Math.max(0, y); row < Math.min(320, y + height); row++)
      for (let column = Math.max(0, x); column < Math.min(480, x + width); column++) {
        const at = 4 * (row * 480 + column)
        inked.add((glass[at]! << 16) | (glass[at + 1]! << 8) | glass[at + 2]!)
      }
    // A text that nobody has written yet shows nothing.
    if (kind !== 'text') expect(inked.size).toBeGreaterThan(1)
    if (host === undefined && word === undefined) return
    const { name } = variableOf(made)
    await hand.station('Bench')
    await hand.sees('Conversation')
    await hand.choose('Variable to send', name)
    if (word) await hand.choose('Value to send', word)
    else await hand.fill('Value to send', String(host))
    await hand.clickOn('[aria-label="Send"] button', 'Send')
    await hand.sees(`→ ${name} = `)
    if (!touched) return
    await hand.press(x + (width * touched[0]) / 100, y + (height * touched[1]) / 100)
    await hand.sees(`← ${name} = `)
    await expect.poll(() => hand.reads()).toContain(`← ${name} = ${String(becomes)}`)
  })
})
