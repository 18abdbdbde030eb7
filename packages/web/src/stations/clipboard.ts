import type { VariableId, WidgetId } from '@moth-lamp/core/base'
import type { Page, Variable, Widget } from '@moth-lamp/core/project'
import { widgetKind } from '@moth-lamp/core/widgets'
import { freshId, type Session } from '../session/session.ts'

/** Widgets as they lie on the clipboard, with the variables that they name: text, so that other projects can take it. */
interface Copied {
  'moth-lamp': 'widgets'
  widgets: { kind: string; name: string; place: Widget['place']; settings: Widget['settings'] }[]
  variables: Variable[]
}

/** The ids of variables that something names, wherever they stand in it. */
const namedIn = (text: string): Set<string> => new Set(text.match(/variable:[0-9a-z_-]{1,40}/g))

/** What is picked, as text; null where nothing is. */
export function copiedText(session: Session, page: Page): string | null {
  const { widgets, variables } = session.project
  const picked = page.widgets.filter((id) => session.view.value.widgets.includes(id)).map((id) => widgets[id]!)
  if (!picked.length) return null
  const named = namedIn(JSON.stringify(picked.map((w) => w.settings)))
  const copied: Copied = {
    'moth-lamp': 'widgets',
    widgets: picked.map(({ kind, name, place, settings }) => ({ kind, name, place, settings })),
    variables: [...named].flatMap((id) => variables[id as VariableId] ?? []),
  }
  return JSON.stringify(copied)
}

function read(text: string): Copied | null {
  try {
    const found = JSON.parse(text) as Partial<Copied> | null
    const fits = found?.['moth-lamp'] === 'widgets' && Array.isArray(found.widgets) && Array.isArray(found.variables)
    return fits && found.widgets!.every((w) => widgetKind(w.kind)) ? (found as Copied) : null
  } catch {
    return null
  }
}

/** Everything that names a variable of the map names the other one instead. */
const renamed = <T>(value: T, ids: ReadonlyMap<string, string>): T =>
  JSON.parse(JSON.stringify(value).replaceAll(/variable:[0-9a-z_-]{1,40}/g, (id) => ids.get(id) ?? id)) as T

/** A variable of the same type, range and way, under a new id, with the next free address. */
function ownCopy(v: Variable): { id: VariableId; name: string; values: object } {
  const { holds, travels, initial, meaning, stale, order } = v
  return { id: freshId('variable'), name: v.name, values: { holds, travels, initial, meaning, stale, order } }
}

/**
 * Puts widgets of the clipboard on a page; false where it holds none. Variables that this project has stay the same ones, and
 * a word offers own ones; those of another project come along.
 */
export function pasteText(session: Session, page: Page, text: string): boolean {
  const found = read(text)
  if (!found) return false
  const here = found.variables.filter((v) => v.id in session.project.variables)
  const made = paste(
    session,
    page,
    found,
    found.variables.filter((v) => !here.includes(v)),
  )
  if (made && here.length)
    session.say(`They act on the same variables (${here.map((v) => v.name).join(', ')}).`, 'info', false, {
      label: 'Own variables',
      run: () => {
        session.undo()
        paste(session, page, found, found.variables)
      },
    })
  return true
}

function paste(session: Session, page: Page, { widgets }: Copied, own: readonly Variable[]): boolean {
  const copies = own.map(ownCopy)
  const ids = new Map(own.map((v, i) => [v.id as string, copies[i]!.id as string]))
  const taken = new Set(page.widgets.map((id) => JSON.stringify(session.project.widgets[id]!.place)))
  const shift = widgets.some((w) => taken.has(JSON.stringify(w.place))) ? 16 : 0
  const made = widgets.map(({ kind, name, place, settings }) => ({
    id: freshId('widget'),
    kind,
    name,
    place: { ...place, x: place.x + shift, y: place.y + shift },
    settings: renamed(withoutForeign(session, settings), ids),
  }))
  const done = session.edit('add widgets', { page: page.id, after: '', widgets: made, variables: copies })
  if (done) session.view.set({ widgets: made.map((w) => w.id as WidgetId), variable: null })
  return done
}

/** Pages, widgets and typefaces of another project are not here: what named them names nothing. */
const withoutForeign = (session: Session, settings: Widget['settings']): Widget['settings'] =>
  JSON.parse(JSON.stringify(settings), (_key, value: unknown) => {
    if (typeof value !== 'string') return value
    const { project } = session
    const gone =
      (/^page:/.test(value) && !(value in project.pages)) ||
      (/^widget:/.test(value) && !(value in project.widgets)) ||
      (/^typeface:/.test(value) && !(value in project.typefaces))
    return gone ? (value.startsWith('typeface:') ? (project.typefaceOrder[0] ?? '') : '') : value
  }) as Widget['settings']
