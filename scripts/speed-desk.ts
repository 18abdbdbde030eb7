// Cost of the interface in a browser: run by `npm run speed`.
import { Chromium, Hand, ServerProcess } from '../e2e/browser.ts'
import { freshDatabase } from '../packages/server/src/testing.ts'

const row = (what: string, figure: string, aim: string) => console.log(`${what.padEnd(78)} ${figure.padStart(22)}   ${aim}`)
const server = new ServerProcess(freshDatabase)
const chromium = new Chromium()
await server.start()
await chromium.start()

/** A project with a page of 100 widgets, 60 pages and 300 variables. */
async function crowded(): Promise<string> {
  const made = { name: 'Crowded', width: 800, height: 480, diagonalInches: 7 }
  const { id } = await server.post<{ id: string }>('/projects', made)
  const { project } = await server.opened(id)
  let n = 0
  const change = (edit: string, args: unknown) => ({ changeId: `change:crowd${++n}`, edit, args })
  const variables = Array.from({ length: 300 }, (_, k) => ({ id: `variable:v${k}`, name: `value_${k}` }))
  const widgets = Array.from({ length: 100 }, (_, k) => ({
    id: `widget:w${k}`,
    kind: k % 2 ? 'number' : 'button',
    place: { x: (k % 10) * 79, y: Math.floor(k / 10) * 47, width: 72, height: 40 },
    settings: k % 2 ? { variable: `variable:v${k}` } : { text: `k ${k}` },
  }))
  const changes = [
    change('add widgets', { page: project.startPage, after: '', variables, widgets }),
    ...Array.from({ length: 59 }, (_, k) => change('add page', { id: `page:p${k}`, after: '', name: `page ${k}` })),
  ]
  await server.post(`/projects/${id}/changes`, { form: project.format, base: 0, changes })
  return id
}

/**
 * Work of the page's own thread, ms: script, layout and styles; and its tasks of more than 50 ms, while something is done. What
 * a browser without a graphics card paints is left out: it is the machine's.
 */
async function work(hand: Hand, run: () => Promise<void>): Promise<{ ms: number; long: number }> {
  await hand.page.evaluate(() => {
    const seen = ((window as unknown as { long: number[] }).long = [])
    new PerformanceObserver((list) => seen.push(...(list.getEntries().map((e) => e.duration) as never[]))).observe({
      type: 'longtask',
    })
  })
  const spent = async () => {
    const { ScriptDuration, LayoutDuration, RecalcStyleDuration } = await hand.page.metrics()
    return (ScriptDuration! + LayoutDuration! + RecalcStyleDuration!) * 1000
  }
  const before = await spent()
  await run()
  const ms = (await spent()) - before
  return { ms, long: await hand.page.evaluate(() => (window as unknown as { long: number[] }).long.length) }
}

try {
  const id = await crowded()
  const hand = new Hand(await chromium.page())
  await hand.page.goto(`${server.url}/project/${id}/pages`)
  await hand.sees('100 widgets')
  await hand.quiet()
  await hand.press(36, 20)
  const [x, y] = await hand.at(36, 20)
  const steps = 300
  await hand.page.mouse.move(x, y)
  await hand.page.mouse.down()
  const drag = await work(hand, async () => {
    for (let k = 0; k < steps; k++) await hand.page.mouse.move(x + (k % 300), y + (k % 170))
  })
  await hand.page.mouse.up()
  row('one step of a drag with 100 widgets on the page: the page’s own thread', `${(drag.ms / steps).toFixed(1)} ms`, '8 ms')
  const scrolled = async (station: string, what: string, sees: string, selector: string) => {
    await hand.page.goto(`${server.url}/project/${id}/${station}`)
    await hand.sees(sees)
    await new Promise((resolve) => setTimeout(resolve, 2500))
    const found = await work(hand, async () => {
      for (let k = 0; k < 60; k++)
        await hand.page.evaluate(
          (s, by) => {
            let e = document.querySelector(s)!
            while (e.scrollHeight <= e.clientHeight + 1 && e.parentElement) e = e.parentElement
            e.scrollTop += by
            return new Promise((resolve) => requestAnimationFrame(resolve))
          },
          selector,
          120,
        )
    })
    row(
      `scrolling ${what}: a screenful, and tasks of more than 50 ms`,
      `${(found.ms / 60).toFixed(1)} ms, ${found.long}`,
      '16 ms, 0',
    )
  }
  await scrolled('variables', '300 variables', 'value_0', 'main table')
  await scrolled('pages', '60 pages', '100 widgets', 'nav[aria-label="Pages"]')
} finally {
  await chromium.stop()
  await server.stop()
}
