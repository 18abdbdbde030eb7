import { withoutItemIds, type Item } from '../describe/index.ts'
import type { Layout, Way } from '../frames/index.ts'

const made = new WeakMap<Layout, Layout>()

const madeWays = new WeakMap<Way, Way>()

/** A layout as a build holds it: its parts and forms without their ids, and without examples. The same layout gives the same object. */
export function builtLayout(layout: Layout): Layout {
  let built = made.get(layout)
  if (!built) {
    const { name, toPanel, toHost } = layout
    built = { name, toPanel: wayInBuild(toPanel), toHost: toHost === 'same' ? toHost : wayInBuild(toHost) }
    made.set(layout, built)
  }
  return built
}

/** The same way gives the same object, whatever else of the layout changes. */
function wayInBuild(way: Way): Way {
  let built = madeWays.get(way)
  if (!built) madeWays.set(way, (built = builtWay(way)))
  return built
}

const bare = <I extends Item>(items: readonly I[]): readonly I[] => withoutItemIds(items) as unknown as readonly I[]

const builtWay = (way: Way): Way =>
  way.kind === 'binary'
    ? {
        ...way,
        head: bare(way.head),
        forms: bare(way.forms).map((form) => ({ ...form, parts: bare(form.parts) })),
        end: bare(way.end),
      }
    : { ...way, forms: bare(way.forms).map((form) => ({ ...form, parts: bare(form.parts) })) }
