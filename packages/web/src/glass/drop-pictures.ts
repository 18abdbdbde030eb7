import { noFace, type Face } from '@moth-lamp/core/faces'
import type { PictureRecord, Project, Widget } from '@moth-lamp/core/project'
import { widgetKind, type State } from '@moth-lamp/core/widgets'
import { holdsOf } from '../inspector/lookups.ts'
import { nextState } from '../inspector/record-fields.tsx'
import { dropIn } from '../session/intake.ts'
import { freshId, type Session } from '../session/session.ts'

/** Each picture becomes the background of a page of its own, after that page. */
export const dropAsPages = (session: Session, files: readonly File[], after: string): Promise<void> =>
  dropIn(session, files, {
    size: session.project.panel,
    where: (all) => ({ pages: all.map(({ id, name }) => ({ id: freshId('page'), name, picture: id })), afterPage: after }),
  })

/** Pictures become what a widget shows: one its face, several its states in order, or its faces where it has no states. */
export const dropOnWidget = (session: Session, files: readonly File[], widget: Widget): Promise<void> =>
  dropIn(session, files, {
    size: widget.place,
    where: (all) => ({ widgets: { [widget.id]: valuesFor(session.project, widget, all) } }),
  })

const withPicture = (face: Face, { id }: PictureRecord): Face => ({ ...noFace, radius: face.radius, picture: id })

function valuesFor(project: Project, widget: Widget, all: readonly PictureRecord[]): Record<string, unknown> {
  const fields = widgetKind(widget.kind)?.settings.list ?? []
  const states = fields.find(({ type }) => type.name === 'states')
  const faces = fields.filter(({ type }) => type.name === 'face')
  if (states && (all.length > 1 || !faces.length)) {
    const list = [...(widget.settings[states.key] as State[])]
    all.forEach((picture, k) => {
      list[k] ??= nextState(list, holdsOf(project, widget.settings['variable']))
      list[k] = { ...list[k]!, face: withPicture(list[k]!.face, picture) }
    })
    return { [states.key]: list }
  }
  return Object.fromEntries(
    faces.slice(0, all.length).map(({ key }, k) => [key, withPicture(widget.settings[key] as Face, all[k]!)]),
  )
}
