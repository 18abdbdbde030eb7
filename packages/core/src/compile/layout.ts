import { withoutItemIds } from '../describe/index.ts'
import type { Layout, Way } from '../frames/index.ts'

const made = new WeakMap<Layout, Layout>()

/** A layout as a build holds it: its parts and forms without their ids. The same layout gives the same object. */
export function builtLayout(layout: Layout): Layout {
  let built = made.get(layout)
  if (!built) {
    const { toPanel, toHost } = layout
    built = { ...layout, toPanel: builtWay(toPanel), toHost: toHost === 'same' ? toHost : builtWay(toHost) }
    made.set(layout, built)
  }
  return built
}

const builtWay = (way: Way): Way => ({
  ...way,
  head: withoutItemIds(way.head) as Way['head'],
  forms: withoutItemIds(way.forms).map((form) => ({ ...form, parts: withoutItemIds(form.parts) as Way['head'] })),
  end: withoutItemIds(way.end) as Way['head'],
})
