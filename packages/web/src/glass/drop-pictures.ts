import { noFace, type Face } from '@moth-lamp/core/faces'
import type { Page, PictureRecord, Project, Widget } from '@moth-lamp/core/project'
import { boundTo, widgetKind, type State } from '@moth-lamp/core/widgets'
import { holdsOf } from '../inspector/lookups.ts'
import { nextState } from '../inspector/record-fields.tsx'
import { dropIn } from '../session/intake.ts'
import { freshId, type Session } from '../session/session.ts'

/** Each picture becomes the background of a page of its own, after that page. */
export const dropAsPages = (session: Session, files: readonly File[], after: string): Promise<void> =>
  dropIn(session, files, {
    size: () => session.project.panel,
    where: (all) => ({ pages: all.map(({ id, name }) => ({ id: freshId('page'), name, picture: id })), afterPage: after }),
  })

/** A picture lies behind the page, as large as the glass. */
export const dropBehind = (session: Session, file: File, page: Page): Promise<void> =>
  dropIn(session, [file], {
    size: () => session.project.panel,
    where: ([picture]) => (picture ? { background: { page: page.id, picture: picture.id } } : {}),
  })

/** Pictures become what widgets show: of each, one its face, two at rest and pressed, several its states in order. */
export const dropOnWidgets = (session: Session, files: readonly File[], widgets: readonly Widget[]): Promise<void> => {
  const shares = shared(files, widgets)
  const of = (file: File) => widgets.find((w) => shares.get(w)?.includes(file))
  const left = files.filter((file) => !of(file))
  for (const { name } of left) session.say(`“${name}” was not taken: by its name it belongs to none of what is selected.`, 'bad')
  return dropIn(
    session,
    files.filter((file) => !left.includes(file)),
    {
      size: (file) => of(file)?.place ?? session.project.panel,
      where: (all, fileOf) => ({
        widgets: Object.fromEntries(
          widgets.flatMap((w) => {
            const own = inTheirOrder(
              all.filter((picture) => shares.get(w)?.includes(fileOf(picture)!)),
              fileOf,
            )
            return own.length ? [[w.id, valuesFor(session.project, w, own)]] : []
          }),
        ),
      }),
    },
  )
}

const wordsOf = (name: string): string[] =>
  name
    .toLowerCase()
    .replace(/\.[a-z0-9]+$/, '')
    .match(/[\p{L}]+|\d+/gu) ?? []
const second = new Set(['pressed', 'down', 'on', 'active', 'lit'])
const first = new Set(['rest', 'normal', 'up', 'off', 'plain'])
/** What a name says besides a number and a state: the same for all pictures of one thing. */
const stemOf = (name: string): string =>
  wordsOf(name)
    .filter((word) => !/^\d+$/.test(word) && !second.has(word) && !first.has(word))
    .join(' ')

/** At rest before pressed, whatever their letters say. */
function inTheirOrder(pictures: readonly PictureRecord[], fileOf: (picture: PictureRecord) => File | undefined): PictureRecord[] {
  const rank = (picture: PictureRecord) => {
    const words = wordsOf(fileOf(picture)?.name ?? picture.name)
    return words.some((word) => second.has(word)) ? 1 : words.some((word) => first.has(word)) ? -1 : 0
  }
  return [...pictures].sort((a, b) => rank(a) - rank(b))
}

/** Which files belong to which widget: all to one; to several by what their names have in common with theirs, the rest by how many they are. */
export function shared(files: readonly File[], widgets: readonly Widget[]): Map<Widget, File[]> {
  if (widgets.length === 1) return new Map([[widgets[0]!, [...files]]])
  const groups = new Map<string, File[]>()
  for (const file of files) groups.set(stemOf(file.name), [...(groups.get(stemOf(file.name)) ?? []), file])
  const shares = new Map<Widget, File[]>()
  for (const [stem, group] of [...groups]) {
    const named = widgets.find((w) => {
      const own = stemOf(w.name)
      return !shares.has(w) && own && stem && (own.includes(stem) || stem.includes(own))
    })
    if (!named) continue
    shares.set(named, group)
    groups.delete(stem)
  }
  // What has states by nature takes the largest set.
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

const withPicture = (face: Face, { id }: PictureRecord): Face => ({ ...noFace, radius: face.radius, picture: id })

function valuesFor(project: Project, widget: Widget, all: readonly PictureRecord[]): Record<string, unknown> {
  const fields = widgetKind(widget.kind)?.settings.list ?? []
  const states = fields.find(({ type }) => type.name === 'states')
  const faces = fields.filter(({ type }) => type.name === 'face')
  const stands = states ? (widget.settings[states.key] as State[]) : []
  const isPair = all.length === 2 && !stands.length && faces.some(({ key }) => key === 'pressedFace')
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
