import Joi from 'joi'
import type { PageId, PictureId, WidgetId } from '../../base/index.ts'
import { pictureSettings, type NewPicture, type PictureRecord } from '../picture.ts'
import { usersOf } from '../references.ts'
import { changeFaces } from './faces.ts'
import { assetSchema, idSchema, recordSchemas } from '../schema.ts'
import { addPage } from './pages.ts'
import { newVariableSchema, putVariables, type NewVariable } from './variables.ts'
import { addWidgets, newWidgets, setIn, type NewWidget } from './widgets.ts'
import {
  freeName,
  mustBeNew,
  mustFind,
  mustHaveNumber,
  namesOf,
  nextNumber,
  placed,
  setsValues,
  takeOut,
  valuesFor,
  type Edit,
  type Values,
} from './edit.ts'

const id = idSchema('picture').required()

interface AddPictures {
  pictures: readonly NewPicture[]
  after: string
  /** Pages that are made of them, each with a picture as its background, one after another after `afterPage`. */
  pages?: readonly { id: PageId; name: string; picture: PictureId }[]
  afterPage?: string | null
  /** Settings of the widgets that show them. */
  widgets?: Record<WidgetId, Values>
  /** A page that one of them lies behind. */
  background?: { page: PageId; picture: PictureId }
  /** Variables of widgets that are set, or new. */
  variables?: readonly NewVariable[]
  /** New widgets that show them, above all that is on a page. */
  add?: { page: PageId; widgets: NewWidget[] }
}

/**
 * Pictures whose originals are among the assets, or will be, and where they are shown at once: one edit, however many there are. A
 * picture that is there already may be shown as well.
 */
const addPictures: Edit<AddPictures> = {
  name: 'add pictures',
  args: Joi.object({
    pictures: Joi.array().items(recordSchemas.picture).max(500).required(),
    after: Joi.string().allow('').required(),
    pages: Joi.array()
      .items(Joi.object({ id: idSchema('page').required(), name: Joi.string().max(60).required(), picture: id }))
      .max(200),
    afterPage: Joi.string().allow('', null),
    widgets: Joi.object().pattern(/^widget:/, Joi.object().max(40)),
    background: Joi.object({ page: idSchema('page').required(), picture: id }),
    variables: Joi.array().items(Joi.object(newVariableSchema)).max(500),
    add: Joi.object({ page: idSchema('page').required(), widgets: newWidgets }),
  }),
  apply(draft, { pictures, after, pages = [], afterPage = '', widgets = {}, background, variables = [], add }, before) {
    for (const picture of pictures) {
      mustBeNew(draft.pictures, picture.id)
      draft.pictures[picture.id] = {
        ...pictureSettings.defaults,
        ...picture,
        number: nextNumber(draft, 'pictures'),
        name: freeName(picture.name, namesOf(draft.pictures)),
      }
    }
    const ids = pictures.map((picture) => picture.id)
    draft.pictureOrder = placed(draft.pictureOrder, ids, after)
    let last = afterPage
    for (const { id: page, name, picture } of pages) {
      addPage.apply(draft, { id: page, after: last, name }, before)
      const made = draft.pages[page]!
      draft.pages[page] = { ...made, background: { ...made.background, picture } }
      last = page
    }
    if (background) {
      const made = mustFind(draft.pages, background.page)
      draft.pages[background.page] = { ...made, background: { ...made.background, picture: background.picture } }
    }
    putVariables(draft, before, variables)
    if (add) addWidgets.apply(draft, { ...add, after: '' }, before)
    for (const [widget, values] of Object.entries(widgets)) setIn(draft, mustFind(draft.widgets, widget), values)
  },
}

const setPicture = setsValues<{ id: PictureId; values: Values }>({
  name: 'set picture',
  args: Joi.object({ id, values: valuesFor('name', 'number', ...pictureSettings.list.map(({ key }) => key)) }),
  targets: (project, args) => [mustFind(project.pictures, args.id)],
  last(draft, { id: which, values }) {
    if ('number' in values) mustHaveNumber(draft, 'pictures', which, mustFind(draft.pictures, which).number)
  },
})

/** The same for many at once. A picture keeps its name. */
const setPictures = setsValues<{ ids: PictureId[]; values: Values }>({
  name: 'set pictures',
  args: Joi.object({
    ids: Joi.array().items(id).min(1).max(500).unique().required(),
    values: valuesFor(...pictureSettings.list.map(({ key }) => key)),
  }),
  targets: (project, { ids }) => ids.map((which) => mustFind(project.pictures, which)),
})

/** Another original in the place of one: whoever shows it shows that; the part that was taken is chosen anew. */
const replacePicture: Edit<{ id: PictureId } & Pick<PictureRecord, 'asset' | 'format' | 'file' | 'fromWidth' | 'fromHeight'>> = {
  name: 'replace picture',
  args: Joi.object({
    id,
    asset: assetSchema.required(),
    format: Joi.string().required(),
    file: Joi.string().allow('').max(200).required(),
    fromWidth: Joi.number().integer().required(),
    fromHeight: Joi.number().integer().required(),
  }),
  apply(draft, { id: which, ...original }) {
    const picture = mustFind(draft.pictures, which)
    Object.assign(picture, original, { partX: 0, partY: 0, partWidth: 0, partHeight: 0 })
  },
}

const deletePicture: Edit<{ id: PictureId }> = {
  name: 'delete picture',
  args: Joi.object({ id }),
  apply(draft, { id: which }, before) {
    const unbound = takeOut(draft, before, draft.pictures, which)
    draft.pictureOrder = draft.pictureOrder.filter((other) => other !== which)
    return { unbound }
  },
}

/** A picture of one colour goes, and whatever showed it is filled with that. */
const drawPicture: Edit<{ id: PictureId; fill: string }> = {
  name: 'draw picture',
  args: Joi.object({
    id,
    fill: Joi.string()
      .pattern(/^#[0-9a-f]{6}$/)
      .required(),
  }),
  apply(draft, { id: which, fill }, before) {
    mustFind(draft.pictures, which)
    changeFaces(draft, usersOf(before, which), (face) => (face.picture === which ? { ...face, picture: '', fill } : face))
    takeOut(draft, before, draft.pictures, which)
    draft.pictureOrder = draft.pictureOrder.filter((other) => other !== which)
  },
}

export const pictureEdits = [addPictures, setPicture, setPictures, replacePicture, deletePicture, drawPicture] as Edit[]
