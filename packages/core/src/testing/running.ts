import { Workbench } from '../workbench/index.ts'
import { demo } from './demo.ts'

/** The demo, running for two seconds. */
export function bench(): Workbench {
  const made = new Workbench(demo.project, demo.assets)
  made.advance(2_000_000)
  return made
}

/** A widget that shows what nobody writes. */
export const label = Object.values(demo.project.widgets).find((w) => w.kind === 'label')!

/** A preview in which it is drawn somewhere else for each number. */
export const moved = (n: number) => ({
  changeId: 'change:preview' as const,
  edit: 'place widgets',
  args: { places: { [label.id]: { x: label.place.x + (n % 50) } } },
})
