import type { PictureId, Rect, WidgetId } from '../base/index.ts'
import { noFace, pictureRect, type Face } from '../faces/index.ts'
import { widgetKind } from '../widgets/index.ts'
import type { Values } from '../describe/index.ts'
import { cutOf, type PictureRecord } from './picture.ts'
import { withSettings } from './linked.ts'
import type { Project, Widget } from './types.ts'

/** A face of widgets, and the drawing of a whole page that it is cut out of. */
export interface CutOf {
  /** A setting of widgets that is a face. */
  key: string
  label: string
  picture: PictureId
}

/** Cut pieces, as the arguments of `add pictures`; and the widgets that do not lie wholly on a drawing. */
export interface Cuts {
  pictures: PictureRecord[]
  widgets: Record<WidgetId, Values>
  outside: Widget[]
}

/** The faces that widgets have, those of the first kind among them. */
export function facesOf(project: Project, ids: readonly string[]): { key: string; label: string }[] {
  const widgets = ids.flatMap((id) => project.widgets[id as WidgetId] ?? [])
  const faces = new Map<string, string>()
  for (const widget of widgets)
    for (const { key, label, type } of widgetKind(widget.kind)?.settings.list ?? [])
      if (type.name === 'face') faces.set(key, label)
  return [...faces].map(([key, label]) => ({ key, label }))
}

/** Where a drawing of a whole page lies on the glass: where the background of the page has it, or in the middle. */
function placeOf({ pages, panel }: Project, widget: Widget, picture: PictureRecord): Rect {
  const { background } = pages[widget.page]!
  const at = background.picture === picture.id ? background.pictureAt : 'middle'
  return pictureRect({ x: 0, y: 0, width: panel.width, height: panel.height }, { ...picture, at })
}

/**
 * Faces of widgets cut out of drawings of the whole page where they lie, each to the pixel as it is in its drawing. `bare`: their words
 * and signs are in the drawing, and are not drawn again. `newId` gives the ids of pictures. What has been cut before is taken again.
 */
export function cutFaces(
  stored: Project,
  ids: readonly string[],
  cuts: readonly CutOf[],
  bare: boolean,
  newId: () => PictureId,
): Cuts {
  const project = withSettings(stored)
  const made: Cuts = { pictures: [], widgets: {}, outside: [] }
  const widgets = ids.flatMap((id) => project.widgets[id as WidgetId] ?? [])
  for (const widget of widgets) {
    const keys = new Set(widgetKind(widget.kind)?.settings.list.map(({ key }) => key))
    const values: Record<string, unknown> = {}
    for (const { key, label, picture: drawing } of cuts) {
      const whole = project.pictures[drawing]
      if (!whole || !keys.has(key) || cutOf(whole)) continue
      const lies = placeOf(project, widget, whole)
      const { place } = widget
      const [cutX, cutY] = [place.x - lies.x, place.y - lies.y]
      if (cutX < 0 || cutY < 0 || cutX + place.width > whole.width || cutY + place.height > whole.height) {
        if (!made.outside.includes(widget)) made.outside.push(widget)
        continue
      }
      const cut = { cutX, cutY, cutWidth: place.width, cutHeight: place.height }
      const same = [...Object.values(project.pictures), ...made.pictures].find((one) => isSameCut(one, { ...whole, ...cut }))
      const name = `${widget.name}, ${label.toLowerCase()}`.slice(0, 60)
      const picture: PictureRecord = same ?? { ...whole, ...cut, id: newId(), name }
      if (!same) made.pictures.push(picture)
      values[key] = { ...noFace, picture: picture.id, pictureAt: 'middle' } satisfies Face
    }
    if (!Object.keys(values).length) continue
    if ('pressedFace' in values && keys.has('pressedLook')) values['pressedLook'] = 'its own face'
    if (bare) for (const [key, none] of Object.entries({ text: '', icon: '', sill: false })) if (keys.has(key)) values[key] = none
    made.widgets[widget.id] = values
  }
  return made
}

const isSameCut = (a: PictureRecord, b: PictureRecord): boolean =>
  (Object.keys(b) as (keyof PictureRecord)[]).every(
    (key) => key === 'id' || key === 'name' || key === 'number' || a[key] === b[key],
  )
