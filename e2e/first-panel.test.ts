import { beforeAll, expect, test } from 'vitest'
import type { Project, Widget } from '@moth-lamp/core/project'
import { Hand } from './browser.ts'
import { stage } from './stage.ts'

const { server, chromium } = stage()
let hand: Hand
beforeAll(async () => void (hand = new Hand(await chromium.page())))

test('from the shelf to a number and a button that talk, seen on the Bench, in eight gestures', async () => {
  let gestures = 0
  const does = async (what: Promise<unknown>, count = 1) => {
    await what
    gestures += count
  }
  await hand.page.goto(server.url)
  await hand.sees('New project')
  await does(hand.keys('n'))
  await hand.find('Name', 'textbox')
  await does(hand.keys('=Kiln room', 'Enter'), 2)
  await hand.sees('Each of these comes with its variable, address and frames.')
  await does(hand.keys('v'))
  await hand.isSaved()
  const { id } = (await server.projects()).find((p) => p.name === 'Kiln room')!
  const { project } = (await server.opened(id)) as { project: Project }
  const widgets: Widget[] = Object.values(project.widgets)
  expect(widgets.map(({ kind }) => kind).sort()).toEqual(['button', 'button', 'number'])
  const more = widgets.find(({ settings }) => settings['text'] === '+')!.place
  await does(hand.keys('6'))
  await hand.sees('page “Page 1” opens')
  // The panel needs its time before a touch counts.
  await hand.sees('version =')
  await does(hand.press(more.x + more.width / 2, more.y + more.height / 2))
  await hand.sees('step_value = 1 %')
  await hand.sees('ACK')
  expect(gestures).toBeLessThanOrEqual(8)
})
