import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { beforeAll, describe, expect, test } from 'vitest'
import { badBoxes, windows } from './boxes.ts'
import { Hand, root } from './browser.ts'
import { stage } from './stage.ts'
import { projectsFor, states, type State } from './states.ts'

const { server, chromium } = stage()
const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
/** The accessibility tree of each state is kept there where `TREES=1` asks for it, to be read. */
const trees = process.env['TREES'] ? `${root}build/trees` : null
let projects: Record<State['of'], string>
let hand: Hand
/** The project that is open and as it was opened. */
let untouched: State['of'] | null = null

beforeAll(async () => {
  projects = await projectsFor(server)
  hand = new Hand(await chromium.page())
})

/**
 * A few frames on: sizes that follow the room there is have followed, and what opened stays beside what it belongs to, which one
 * would have scrolled to. Runs in the page.
 */
const settled = () =>
  new Promise<void>((resolve) => {
    document.querySelector('main [aria-expanded="true"]')?.scrollIntoView({ block: 'center' })
    let frames = 0
    const next = () => (++frames > 2 ? resolve() : void requestAnimationFrame(next))
    next()
  })

/** Known to a page until it is loaded anew. */
const withAxe = async () => {
  if (!(await hand.page.evaluate(() => 'axe' in window))) await hand.page.evaluate(axe)
}
const rules = `axe.run({ resultTypes: ['violations'] }).then((r) => r.violations.flatMap((v) => v.nodes.map((n) => v.id + ': ' + n.html.slice(0, 170))))`

describe.each(states)('$name', (state) => {
  test('axe finds nothing, and nothing is cut or out of reach in any window', async () => {
    const { page } = hand
    await page.setViewport({ width: windows[0][0], height: windows[0][1] })
    const { of, station, act, sees = 'Saved · revision' } = state
    // Where nothing was done the next station is a click away.
    if (station && of === untouched) await hand.station(station[0]!.toUpperCase() + station.slice(1))
    else if (station) await hand.opens(`${server.url}/project/${projects[of]}/${station}`)
    else await page.goto(server.url)
    untouched = station && !act ? of : null
    await hand.sees(sees)
    await act?.(hand)
    await page.evaluate(settled)
    await withAxe()
    const wrong = (await page.evaluate(rules)) as string[]
    if (trees) {
      mkdirSync(trees, { recursive: true })
      const file = `${trees}/${state.name.replaceAll(/\W+/g, '-')}.json`
      writeFileSync(file, JSON.stringify(await page.accessibility.snapshot(), null, 1))
    }
    for (const [at, [width, height]] of windows.entries()) {
      // In the first it stands already. In the others boxes are looked at, not pixels: nothing is drawn.
      if (at === 1) await page.evaluate(() => (document.documentElement.style.opacity = '0'))
      if (at) {
        await page.setViewport({ width, height })
        await page.evaluate(settled)
      }
      wrong.push(...(await page.evaluate(badBoxes)).map((words) => `${width} × ${height}: ${words}`))
    }
    await page.evaluate(() => (document.documentElement.style.opacity = ''))
    expect(wrong.join('\n')).toBe('')
  })
})

test('with the server away every station says so, keeps working and loses nothing', async () => {
  const { page } = hand
  await page.setViewport({ width: 1280, height: 800 })
  await page.goto(`${server.url}/project/${projects.one}/panel`)
  await hand.sees('Saved · revision')
  chromium.serverAway = true
  await server.stop()
  await hand.fill('Panel response time', '7')
  await hand.sees('Offline: changes are stored in this browser')
  const wrong: string[] = []
  for (const station of ['Pages', 'Variables', 'Frames', 'Bench', 'Exchanges', 'Panel']) {
    await hand.station(station)
    await hand.sees('Offline: changes are stored in this browser')
    await withAxe()
    wrong.push(...((await page.evaluate(rules)) as string[]).map((words) => `${station}: ${words}`))
  }
  expect(wrong.join('\n')).toBe('')
  await server.start()
  await hand.sees('Saved · revision')
  chromium.serverAway = false
})
