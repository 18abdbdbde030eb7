import { noFace, type Face } from '@moth-lamp/core/faces'
import {
  byStem,
  keyPictures,
  pictureStem,
  shownSize,
  type KeyPictures,
  type NewVariable,
  type NewWidget,
  type Page,
  type NewPicture,
  type Project,
  type Widget,
} from '@moth-lamp/core/project'
import { freshHolds, type Holds } from '@moth-lamp/core/variables'
import { boundTo, nextState, widgetKind, type State } from '@moth-lamp/core/widgets'
import { holdsOf } from '../parts/lookups.ts'
import { dropIn } from '../session/intake.ts'
import { freshId } from '../session/chance.ts'
import type { Session } from '../session/session.ts'

/** Each picture becomes the background of a page of its own, after that page. */
export const dropAsPages = (session: Session, files: readonly File[], after: string): Promise<void> =>
  dropIn(session, files, {
    size: () => session.project.panel,
    where: (all) => ({ pages: all.map(({ id, name }) => ({ id: freshId('page'), name, picture: id })), afterPage: after }),
  })

/** Pixels between keys that are dropped together. */
const between = 8

/**
 * Pictures become what stands on the glass, each at its own size, around where they were dropped: one of a thing a picture, an off
 * and an on of it a key that switches, by their names or their order. One as large as the glass lies behind the page.
 */
export async function dropOnGlass(
  session: Session,
  files: readonly File[],
  page: Page,
  at: { x: number; y: number },
): Promise<void> {
  let ids: string[] = []
  await dropIn(session, files, {
    size: () => null,
    where: (all, fileOf) => {
      const { width, height } = session.project.panel
      const [first] = all
      if (first && all.length === 1 && first.width === width && first.height === height && !page.background.picture)
        return { background: { page: page.id, picture: first.id } }
      const made = placedPictures(session.project, all, (picture) => fileOf(picture)?.name ?? picture.name, at)
      ids = made.widgets.map(({ id }) => id)
      return { variables: made.variables, add: { page: page.id, widgets: made.widgets } }
    },
  })
  if (ids.length && ids.every((id) => id in session.project.widgets)) session.view.set({ widgets: ids, variable: null })
}

/** Widgets that show pictures, side by side from a point on, and the variables of those that are keys. */
export function placedPictures(
  project: Project,
  pictures: readonly NewPicture[],
  nameOf: (picture: NewPicture) => string,
  at: { x: number; y: number },
): { widgets: NewWidget[]; variables: NewVariable[] } {
  const widgets: NewWidget[] = []
  const variables: NewVariable[] = []
  let left: number | null = null
  for (const [stem, group] of byStem(pictures, nameOf)) {
    const key = keyPictures(group, nameOf)
    const first = key.off!
    const { width, height } = shownSize(first)
    const inside = (from: number, length: number, whole: number) => Math.round(Math.max(0, Math.min(from, whole - length)))
    const x: number = inside(left ?? at.x - width / 2, width, project.panel.width)
    left = x + width + between
    const place = { x, y: inside(at.y - height / 2, height, project.panel.height), width, height }
    const name = stem || first.name
    const look = keyLook(key)
    if (look) {
      const id = freshId('variable')
      if (look.holds) variables.push({ id, name: variableName(name), values: { holds: look.holds, travels: 'both' } })
      const settings = { ...look.settings, text: '', sill: false, ...(look.holds ? { works: 'switches', variable: id } : {}) }
      widgets.push({ id: freshId('widget'), kind: 'button', name, place, settings })
    } else widgets.push({ id: freshId('widget'), kind: 'shape', name, place, settings: { face: showing(first) } })
  }
  return { widgets, variables }
}

const showing = ({ id }: NewPicture): Face => ({ ...noFace, picture: id })

/** `Main pump` → `main_pump`, as variables are called. */
const variableName = (words: string): string =>
  words
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '_')
    .replace(/^[^a-z]+|_+$/g, '')
    .slice(0, 32) || 'key'

/** How a key shows its pictures, and what its variable holds where it switches; null where there is one picture alone. */
function keyLook({
  off,
  on,
  pressed,
  more,
}: KeyPictures<NewPicture>): { settings: Record<string, unknown>; holds: Holds | null } | null {
  if (!off || (!on && !pressed)) return null
  const settings = { face: showing(off), ...(pressed ? { pressedFace: showing(pressed) } : {}) }
  if (!on) return { settings, holds: null }
  if (!more.length) return { settings: { ...settings, onFace: showing(on) }, holds: freshHolds('choice') }
  const all = [off, on, ...more]
  const states = all.map((picture, value) => ({
    id: `state:${value + 1}`,
    when: { by: 'value', value },
    meaning: '',
    face: showing(picture),
    textColour: 'colour:ink',
  }))
  const choices = all.map((_, value) => ({ id: `choice:${value + 1}`, value, word: String(value) }))
  return { settings: { ...settings, states }, holds: { type: 'choice', choices } as Holds }
}

/** Pictures become what widgets show: of each, one its face, two at rest and pressed, several its states in order. */
export const dropOnWidgets = (session: Session, files: readonly File[], widgets: readonly Widget[]): Promise<void> => {
  const shares = shared(files, widgets)
  const of = (file: File) => widgets.find((w) => shares.get(w)?.includes(file))
  const left = files.filter((file) => !of(file))
  for (const { name } of left) session.say(`“${name}” skipped: no selected widget matches its name.`, 'bad')
  return dropIn(
    session,
    files.filter((file) => !left.includes(file)),
    {
      size: (file) => of(file)?.place ?? session.project.panel,
      where: (all, fileOf) => {
        const variables: NewVariable[] = []
        const nameOf = (picture: NewPicture) => fileOf(picture)?.name ?? picture.name
        const values = widgets.flatMap((w) => {
          const own = all.filter((picture) => shares.get(w)?.includes(fileOf(picture)!))
          return own.length ? [[w.id, valuesFor(session.project, w, own, nameOf, variables)]] : []
        })
        return { variables, widgets: Object.fromEntries(values) }
      },
    },
  )
}

/** Which files belong to which widget: all to one; to several by what their names have in common with theirs, the rest by how many they are. */
export function shared(files: readonly File[], widgets: readonly Widget[]): Map<Widget, File[]> {
  if (widgets.length === 1) return new Map([[widgets[0]!, [...files]]])
  const groups = new Map<string, File[]>()
  for (const file of files) groups.set(pictureStem(file.name), [...(groups.get(pictureStem(file.name)) ?? []), file])
  const shares = new Map<Widget, File[]>()
  for (const [stem, group] of [...groups]) {
    const named = widgets.find((w) => {
      const own = pictureStem(w.name)
      return !shares.has(w) && own && stem && (own.includes(stem) || stem.includes(own))
    })
    if (!named) continue
    shares.set(named, group)
    groups.delete(stem)
  }
  // A widget made for states takes the largest set.
  const hungry = (w: Widget) => (widgetKind(w.kind)?.settings.list.some(({ key }) => key === 'pressedFace') ? 1 : 0)
  const rest = widgets.filter((w) => !shares.has(w)).sort((a, b) => hungry(a) - hungry(b))
  ;[...groups.values()]
    .sort((a, b) => b.length - a.length)
    .forEach((group, k) => {
      const widget = rest[k]
      if (widget) shares.set(widget, group)
    })
  return shares
}

const withPicture = (face: Face, { id }: NewPicture): Face => ({ ...noFace, radius: face.radius, picture: id })

/** Whether it does nothing yet when it is touched. */
const isIdle = ({ settings }: Widget): boolean =>
  settings['works'] === 'by its actions' && !(settings['rules'] as unknown[]).length

/** Whether it can be a key: it switches a variable, and looks otherwise pressed and in each of its states. */
const isKey = ({ kind }: Widget): boolean =>
  ['works', 'pressedFace', 'states'].every((setting) => setting in (widgetKind(kind)?.settings.fields ?? {}))

/** A button becomes a key of its pictures: off and on switch, where it does nothing else and has no states of its own. */
function keyValues(widget: Widget, pictures: KeyPictures<NewPicture>, variables: NewVariable[]): Record<string, unknown> | null {
  const look = keyLook(pictures)
  if (!look || (widget.settings['states'] as State[]).length) return null
  const text = widget.settings['text']
  const plain = { ...look.settings, ...(text === 'Button' || text === '' ? { text: '' } : {}), sill: false }
  if (!look.holds || !isIdle(widget)) return plain
  if (widget.settings['variable']) return { ...plain, works: 'switches' }
  const id = freshId('variable')
  variables.push({ id, name: variableName(widget.name), values: { holds: look.holds, travels: 'both' } })
  return { ...plain, works: 'switches', variable: id }
}

function valuesFor(
  project: Project,
  widget: Widget,
  given: readonly NewPicture[],
  nameOf: (picture: NewPicture) => string,
  variables: NewVariable[],
): Record<string, unknown> {
  const fields = widgetKind(widget.kind)?.settings.list ?? []
  const states = fields.find(({ type }) => type.name === 'states')
  const faces = fields.filter(({ type }) => type.name === 'face')
  const stands = states ? (widget.settings[states.key] as State[]) : []
  const key = keyPictures(given, nameOf)
  const asKey = isKey(widget) ? keyValues(widget, key, variables) : null
  if (asKey) return asKey
  const all = [key.off, key.on, ...key.more, key.pressed].filter((picture) => picture !== null)
  const isPair = all.length === 2 && key.pressed !== null && !stands.length && faces.some(({ key }) => key === 'pressedFace')
  if (states && !isPair && (all.length > 1 || !faces.length)) {
    const list = [...stands]
    all.forEach((picture, k) => {
      list[k] ??= nextState(list, holdsOf(project, boundTo(widget)))
      list[k] = { ...list[k]!, face: withPicture(list[k]!.face, picture) }
    })
    return { [states.key]: list }
  }
  return Object.fromEntries(
    faces.slice(0, all.length).map(({ key }, k) => [key, withPicture(widget.settings[key] as Face, all[k]!)]),
  )
}
