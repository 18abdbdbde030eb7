import Joi from 'joi'
import type { FaceId, PageId, WidgetId } from '../../base/index.ts'
import { mapFaces, type Face } from '../../faces/index.ts'
import { usersOf } from '../references.ts'
import { idSchema } from '../schema.ts'
import type { Project } from '../types.ts'
import { freeName, mustBeNew, mustFind, placed, setsValues, takeOut, valuesFor, type Edit, type Values } from './edit.ts'
import { setIn } from './widgets.ts'

const id = idSchema('face').required()

/** A face gets a name. `widgets`: settings of widgets that have it from now on. */
const addFace: Edit<{ id: FaceId; name: string; face: Face; widgets?: Record<WidgetId, readonly string[]> }> = {
  name: 'add face',
  args: Joi.object({
    id,
    name: Joi.string().trim().min(1).max(60).required(),
    face: Joi.object().required(),
    widgets: Joi.object().pattern(/^widget:/, Joi.array().items(Joi.string().max(60)).max(20)),
  }),
  apply(draft, { id: made, name, face, widgets = {} }) {
    mustBeNew(draft.faces, made)
    const names = Object.values(draft.faces).map((one) => one.name)
    draft.faces[made] = { id: made, name: freeName(name, names), face: { ...face, named: '' } }
    draft.faceOrder = placed(draft.faceOrder, [made], '')
    for (const [widget, keys] of Object.entries(widgets))
      setIn(draft, mustFind(draft.widgets, widget), Object.fromEntries(keys.map((key) => [key, { ...face, named: made }])))
  },
}

const setFace = setsValues<{ id: FaceId; values: Values }>({
  name: 'set face',
  args: Joi.object({ id, values: valuesFor('name', 'face') }),
  targets: (project, args) => [mustFind(project.faces, args.id)],
})

/** Changes the faces of some users of something: of widgets, of pages, and of faces with a name. */
export function changeFaces(draft: Project, users: readonly { from: string }[], change: (face: Face) => Face): void {
  for (const from of new Set(users.map((user) => user.from))) {
    const widget = draft.widgets[from as WidgetId]
    if (widget) widget.settings = mapFaces(widget.settings, change)
    const page = draft.pages[from as PageId]
    if (page) draft.pages[from as PageId] = { ...page, background: mapFaces(page.background, change) }
    const named = draft.faces[from as FaceId]
    if (named) named.face = change(named.face)
  }
}

/** The name goes; whatever had it looks as before. */
const deleteFace: Edit<{ id: FaceId }> = {
  name: 'delete face',
  args: Joi.object({ id }),
  apply(draft, { id: gone }, before) {
    const { face } = mustFind(draft.faces, gone)
    changeFaces(draft, usersOf(before, gone), (one) => (one.named === gone ? { ...face, named: '' } : one))
    const unbound = takeOut(draft, before, draft.faces, gone)
    draft.faceOrder = draft.faceOrder.filter((other) => other !== gone)
    return { unbound }
  },
}

export const faceEdits = [addFace, setFace, deleteFace] as Edit[]
