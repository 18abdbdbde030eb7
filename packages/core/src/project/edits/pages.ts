import Joi from 'joi'
import type { PageId, WidgetId } from '../../base/index.ts'
import { noFace } from '../../faces/index.ts'
import { pageGround } from '../fresh.ts'
import { unbindAll, usersOf } from '../references.ts'
import { idSchema } from '../schema.ts'
import { pageKinds, pageSettings, type Page, type PageKind } from '../types.ts'
import {
  freeName,
  mustBeNew,
  mustFind,
  nextNumber,
  mustHaveNumber,
  placed,
  refuse,
  setsValues,
  valuesFor,
  type Edit,
  type Values,
} from './edit.ts'
import type { KeypadPage } from '../keypad.ts'
import { addWidgets, anchor, newWidgets, removeWidget, setIn, type NewWidget } from './widgets.ts'

/** How much a keypad lets the page below fade, %. */
const keypadVeil = 70

const page = idSchema('page').required()

export const addPage: Edit<{ id: PageId; after: string | null; name?: string; kind?: PageKind }> = {
  name: 'add page',
  args: Joi.object({ id: page, after: anchor, name: Joi.string().max(60), kind: Joi.valid(...pageKinds) }),
  apply(draft, { id, after, name, kind = 'page' }) {
    mustBeNew(draft.pages, id)
    const number = nextNumber(draft, 'pages')
    const made: Page = {
      id,
      kind,
      number,
      name: freeName(
        name ?? `${kind.charAt(0).toUpperCase()}${kind.slice(1)} ${number}`,
        Object.values(draft.pages).map((p) => p.name),
      ),
      note: '',
      ...pageSettings.defaults,
      background: kind === 'page' ? pageGround : noFace,
      veil: kind === 'keypad' ? keypadVeil : 0,
      widgets: [],
    }
    draft.pages[id] = made
    draft.pageOrder = placed(draft.pageOrder, [id], after)
    if (!draft.startPage && kind === 'page') draft.startPage = id
  },
}

/** A keypad of one page or several, with its keys: the pages first, since keys open them. `opens`: entries that are typed on it. */
const addKeypad: Edit<{ after: string | null; pages: KeypadPage[]; opens?: WidgetId[] }> = {
  name: 'add keypad',
  args: Joi.object({
    after: anchor,
    pages: Joi.array()
      .min(1)
      .max(10)
      .items(Joi.object({ id: page, name: Joi.string().max(60).required(), widgets: newWidgets }))
      .required(),
    opens: Joi.array().items(idSchema('widget')).max(500).unique(),
  }),
  apply(draft, { after, pages, opens = [] }, before) {
    let last: string | null = after
    for (const { id, name } of pages as (KeypadPage & { id: PageId })[]) {
      addPage.apply(draft, { id, after: last, name, kind: 'keypad' }, before)
      last = id
    }
    for (const { id, widgets } of pages as (KeypadPage & { id: PageId })[])
      addWidgets.apply(draft, { page: id, after: '', widgets: widgets as NewWidget[] }, before)
    for (const id of opens) setIn(draft, mustFind(draft.widgets, id), { keypad: pages[0]!.id })
  },
}

const setPage = setsValues<{ id: PageId; values: Values }>({
  name: 'set page',
  args: Joi.object({
    id: page,
    values: valuesFor('name', 'note', 'number', 'kind', ...pageSettings.list.map(({ key }) => key)),
  }),
  targets: (project, { id }) => [mustFind(project.pages, id)],
  last(draft, { id, values }) {
    const { kind, number } = mustFind(draft.pages, id)
    if ('number' in values) mustHaveNumber(draft, 'pages', id, number)
    if (kind !== 'page' && draft.startPage === id) refuse('start-layer')
    // The word that says which pop-up is open is 0 while none is.
    if (kind !== 'page' && number === 0) refuse('number-zero', { kind })
  },
})

/** Pages are shown one after another for so long each, then another, as a splash is. */
const playPages: Edit<{ ids: PageId[]; showsForMs: number; then: PageId | ''; starts?: boolean }> = {
  name: 'play pages',
  args: Joi.object({
    ids: Joi.array().items(page).min(1).max(200).unique().required(),
    showsForMs: Joi.number().required(),
    then: idSchema('page').allow('').required(),
    /** The first of them is shown at power-on. */
    starts: Joi.boolean(),
  }),
  apply(draft, { ids, showsForMs, then, starts }) {
    if (starts) draft.startPage = ids[0]!
    ids.forEach((id, k) => {
      draft.pages[id] = { ...mustFind(draft.pages, id), showsForMs, thenPage: ids[k + 1] ?? then }
    })
  },
}

const movePage: Edit<{ id: PageId; after: string | null }> = {
  name: 'move page',
  args: Joi.object({ id: page, after: anchor }),
  apply(draft, { id, after }) {
    mustFind(draft.pages, id)
    draft.pageOrder = placed(draft.pageOrder, [id], after)
  },
}

const setStartPage: Edit<{ id: PageId }> = {
  name: 'set start page',
  args: Joi.object({ id: page }),
  apply(draft, { id }) {
    if (mustFind(draft.pages, id).kind !== 'page') refuse('start-layer')
    draft.startPage = id
  },
}

const deletePage: Edit<{ id: PageId }> = {
  name: 'delete page',
  args: Joi.object({ id: page }),
  apply(draft, { id }, before) {
    const gone = mustFind(draft.pages, id)
    if (draft.pageOrder.length === 1) refuse('last-page')
    let unbound = unbindAll(draft, id, usersOf(before, id))
    for (const widget of gone.widgets) unbound += removeWidget(draft, before, widget)
    delete draft.pages[id]
    draft.pageOrder = draft.pageOrder.filter((other) => other !== id)
    if (draft.startPage === id) draft.startPage = draft.pageOrder.find((other) => draft.pages[other]!.kind === 'page') ?? ''
    return { unbound }
  },
}

export const pageEdits = [addPage, addKeypad, setPage, playPages, movePage, setStartPage, deletePage] as Edit[]
