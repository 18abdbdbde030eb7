import type { WidgetId } from '@moth-lamp/core/base'
import { colourOf, isThere, parentsOfCopies, type Page, type Project, type Variable, type Widget } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { freshId } from '../../session/chance.ts'
import type { Session } from '../../session/session.ts'
import { ownCopy, renamed, variablesIn } from './copies.ts'

/** Widgets as they lie on the clipboard, with the variables that they name: text, so that other projects can take it. */
interface Copied {
  'moth-lamp': 'widgets'
  /** `parent`: the one of them, by its `id`, that it is held together with. */
  widgets: (Pick<Widget, 'kind' | 'name' | 'place' | 'settings'> & { id?: string; parent?: string })[]
  variables: Variable[]
  /** Colours that they have by name, as they look here: where they go, nobody may know the name. */
  colours?: Record<string, string>
}

/** Selection as text; null where nothing is selected. */
export function copiedText(project: Project, page: Page, picked: readonly string[]): string | null {
  const widgets = page.widgets.filter((id) => picked.includes(id)).map((id) => project.widgets[id]!)
  if (!widgets.length) return null
  const named = new Set(widgets.flatMap((w) => variablesIn(w.kind, w.settings)))
  const parents = parentsOfCopies(widgets, (id) => id)
  const copied: Copied = {
    'moth-lamp': 'widgets',
    widgets: widgets.map(({ id, kind, name, place, settings }, k) => ({
      id,
      parent: parents[k] ?? '',
      kind,
      name,
      place,
      settings,
    })),
    variables: Object.values(project.variables).filter((v) => named.has(v.id)),
    colours: Object.fromEntries(project.colourOrder.map((id) => [id, colourOf(project, id)])),
  }
  return JSON.stringify(copied)
}

const isRecord = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null

/** Widgets of a text that `copiedText` wrote, settings complete; null for any other text. The gate validates them. */
export function readCopied(text: string): Copied | null {
  let found: unknown
  try {
    found = JSON.parse(text)
  } catch {
    return null
  }
  if (!isRecord(found) || found['moth-lamp'] !== 'widgets') return null
  const { widgets, variables } = found
  if (!Array.isArray(widgets) || !Array.isArray(variables) || !widgets.length) return null
  const filled = widgets.map((w: unknown) => {
    const settings = isRecord(w) ? widgetKind(String(w['kind']))?.settings.fill(w['settings']) : undefined
    if (!settings?.ok || !isRecord(w) || !isRecord(w['place'])) return null
    // A record that no schema lets through is no widget: nothing else here could read it.
    const checked = widgetKind(String(w['kind']))!.settings.schema.validate(settings.value, { convert: false })
    return checked.error ? null : { ...w, settings: settings.value }
  })
  if (filled.includes(null) || !variables.every((v) => isRecord(v) && isRecord(v['holds']))) return null
  return { ...found, widgets: filled, variables } as unknown as Copied
}

/**
 * Puts widgets of the clipboard on a page; false where it holds none. Variables that this project has stay the same ones, and
 * a word offers own ones; those of another project come along.
 */
export function pasteText(session: Session, page: Page, text: string): boolean {
  const found = readCopied(text)
  if (!found) return false
  const shared = found.variables.filter((v) => v.id in session.project.variables)
  const foreign = found.variables.filter((v) => !shared.includes(v))
  if (paste(session, page, found, foreign) && shared.length)
    session.say(`Copies use the same variables (${shared.map((v) => v.name).join(', ')}).`, 'info', false, {
      label: 'Create new variables',
      run: () => void paste(session, page, found, found.variables),
    })
  return true
}

function paste(session: Session, page: Page, { widgets, colours }: Copied, own: readonly Variable[]): boolean {
  const { project } = session
  const copies = own.map((v) => ownCopy(v, v.name))
  const ids = new Map(own.map((v, i) => [v.id as string, copies[i]!.id as string]))
  const taken = new Set(page.widgets.map((id) => JSON.stringify(project.widgets[id]!.place)))
  const shift = widgets.some((w) => taken.has(JSON.stringify(w.place))) ? 16 : 0
  const newIds = widgets.map(() => freshId('widget'))
  const made = widgets.map(({ kind, name, place, settings, parent }, k) => ({
    id: newIds[k]!,
    parent: parent ? (newIds[widgets.findIndex((w) => w.id === parent)] ?? '') : '',
    kind,
    name,
    place: { ...place, x: place.x + shift, y: place.y + shift },
    settings: renamed(withoutForeign(project, kind, settings, ids, isRecord(colours) ? colours : {}), ids),
  }))
  const done = session.edit('add widgets', { page: page.id, after: '', widgets: made, variables: copies })
  if (done) session.view.set({ widgets: made.map((w) => w.id as WidgetId), variable: null })
  return done
}

/** Pages, widgets and typefaces of another project are not here: what named them names nothing. Its colours stay as they were. */
function withoutForeign(
  project: Project,
  kind: string,
  settings: Widget['settings'],
  coming: ReadonlyMap<string, string>,
  colours: Record<string, unknown>,
) {
  const instead = (id: string) => (/^#[0-9a-f]{6}$/i.test(String(colours[id])) ? String(colours[id]) : '')
  const described = widgetKind(kind)!.settings
  const gone = described.refs(settings).filter(({ ref }) => ref.to && !coming.has(ref.to) && !isThere(project, ref.to))
  return gone.reduce((left, { ref }) => described.without(left, ref.to, instead(ref.to)) as Widget['settings'], settings)
}
