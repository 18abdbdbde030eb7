import { withoutItemIds } from '../describe/index.ts'
import type { Layout } from '../frames/index.ts'

const made = new WeakMap<Layout, Layout>()

/** A layout as a build holds it: its parts and forms without their ids. The same layout gives the same object. */
export function builtLayout(layout: Layout): Layout {
  let built = made.get(layout)
  if (!built) {
    built = {
      ...layout,
      head: withoutItemIds(layout.head) as Layout['head'],
      forms: withoutItemIds(layout.forms).map((form) => ({ ...form, parts: withoutItemIds(form.parts) as Layout['head'] })),
      end: withoutItemIds(layout.end) as Layout['head'],
    }
    made.set(layout, built)
  }
  return built
}
