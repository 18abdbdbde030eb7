import type { Workbench } from '@moth-lamp/core/workbench'
import type { RunGlass } from './messages.ts'
import { paintedRect, wholeOf } from './painted.ts'

/** After a splash, so long is waited for something that can be touched, ms. */
const splashMs = 20_000

/**
 * Runs an exchange once more, up to a moment, be it after its end: it goes the same way every time. Null: after the end, as soon as
 * something can be touched. An exchange of no id has no steps.
 */
export function* glassOfExchange(bench: Workbench, id: string | null, atUs: number | null): Generator<unknown, RunGlass | null> {
  const runner = bench.exchange(id)
  if (!runner) return null
  let seen: RunGlass | null = null
  const look = () => {
    const { rig } = runner
    rig.paint()
    const { surface } = rig.panel.glass
    const page = rig.panel.build.symbols.pages.find((p) => p.number === rig.panel.pageNumber)
    const shows = Object.fromEntries((page?.widgets ?? []).map((w) => [w.id, rig.panel.shows(w.number) ?? '']))
    seen = { painted: paintedRect(surface, wholeOf(surface)), page: page?.id ?? null, shows, atUs: rig.nowUs }
  }
  if (atUs !== null) runner.whenAt(atUs, look)
  for (const _ of runner.slices()) {
    if (seen) return seen
    yield
  }
  if (seen) return seen
  if (atUs !== null) yield* runner.pass(Math.max(0, atUs - runner.rig.nowUs))
  look()
  if (atUs === null && (yield* runner.waitForTouch(splashMs))) look()
  return seen
}
