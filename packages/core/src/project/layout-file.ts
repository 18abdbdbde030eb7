import { bad, good, type Result } from '../base/index.ts'
import { withoutItemIds } from '../describe/index.ts'
import { identified, type BinaryWay, type Layout, type LinesWay, type Way } from '../frames/index.ts'
import { layoutSchema } from './schema.ts'

/** The first words of a file that holds a layout, and the form of what follows. */
const format = 'moth lamp layout'
const form = 1

/** A longer file is none of a layout. */
export const longestLayoutFile = 1_000_000

/** A layout as a file of its own, so that several projects share it: JSON, without the ids of its items. */
export const layoutFile = (layout: Layout): string => {
  const { name, toPanel, toHost, examples } = layout
  const ways = { toPanel: bare(toPanel), toHost: toHost === 'same' ? toHost : bare(toHost) }
  const checks = examples?.length ? { examples: withoutItemIds(examples) } : {}
  return `${JSON.stringify({ format, form, layout: { name, ...ways, ...checks } }, null, 2)}\n`
}

const bare = (way: Way) => ({
  ...way,
  forms: withoutItemIds(way.forms as BinaryWay['forms']).map((one) => ({ ...one, parts: withoutItemIds(one.parts) })),
  ...(way.kind === 'binary' ? { head: withoutItemIds(way.head), end: withoutItemIds(way.end) } : {}),
})

/**
 * The layout of a file. Problems: `layout-file.long` (most), `layout-file.json`, `layout-file.other` (another sort of file),
 * `layout-file.form` (form: of a later version), `layout-file.wrong` (why).
 */
export function readLayoutFile(text: string): Result<Layout> {
  if (text.length > longestLayoutFile) return bad('layout-file.long', { most: longestLayoutFile })
  let read: unknown
  try {
    read = JSON.parse(text)
  } catch {
    return bad('layout-file.json')
  }
  const file = (typeof read === 'object' && read !== null ? read : {}) as { format?: unknown; form?: unknown; layout?: unknown }
  if (file.format !== format) return bad('layout-file.other')
  if (file.form !== form) return bad('layout-file.form', { form: String(file.form) })
  const given = withIds(file.layout)
  const { error, value } = layoutSchema.validate(given, { convert: false })
  return error ? bad('layout-file.wrong', { why: error.message.slice(0, 300) }) : good(value as Layout)
}

/** A value that looks like a layout, with the ids that its items have in a project; any other as it is. */
function withIds(layout: unknown): unknown {
  const isWay = (way: unknown): way is BinaryWay | LinesWay =>
    typeof way === 'object' &&
    way !== null &&
    Array.isArray((way as Way).forms) &&
    (way as Way).forms.every((f) => Array.isArray(f?.parts))
  if (typeof layout !== 'object' || layout === null) return layout
  const { toPanel, toHost } = layout as Partial<Layout>
  const filled = (way: unknown) =>
    isWay(way) && (way.kind !== 'binary' || (Array.isArray(way.head) && Array.isArray(way.end))) ? identified(way) : way
  return { ...layout, toPanel: filled(toPanel), toHost: filled(toHost) }
}

/** The sentences of `readLayoutFile`. */
export const layoutFileSentences: Readonly<Record<string, string>> = {
  'layout-file.long': 'The file is too long for a layout.',
  'layout-file.json': 'The file is damaged or is no layout.',
  'layout-file.other': 'The file is no layout.',
  'layout-file.form': 'The layout is of a later version ({form}).',
  'layout-file.wrong': 'The layout cannot be used: {why}.',
}
