import Joi from 'joi'
import { idPattern, sameJson, type PageId, type Rect, type VariableId, type WidgetId } from '../../base/index.ts'
import type { FontSetting } from '../../settings/index.ts'
import { widgetKind } from '../../widgets/index.ts'
import { copiesOf, settingsOf } from '../linked.ts'
import { unbindAll, usersOf } from '../references.ts'
import { idSchema, rectSchema } from '../schema.ts'
import { heldWith } from '../together.ts'
import { type Project, type Widget } from '../types.ts'
import {
  assign,
  freeName,
  keyOf,
  mustBeNew,
  mustFind,
  narrowValues,
  placed,
  refuse,
  valuesFor,
  type Edit,
  type Values,
  nextNumber,
} from './edit.ts'
import { newVariableSchema, putVariables, type NewVariable } from './variables.ts'

const page = idSchema('page').required()
/** Behind which one something is put: '' at the end, null at the beginning. */
export const anchor = Joi.string().allow('', null).required()
const widgetIds = Joi.array().items(idSchema('widget')).min(1).max(5000).unique().required()

/** The first of its linked copies becomes the original of the others: none of them loses what it looks like. */
function handOn(draft: Project, id: WidgetId): void {
  const [heir, ...others] = copiesOf(draft.widgets, id)
  if (!heir) return
  heir.settings = { ...draft.widgets[id]!.settings, ...heir.settings }
  heir.like = ''
  for (const other of others) {
    // Overrides of the heir were not those of the others.
    other.settings = { ...draft.widgets[id]!.settings, ...other.settings }
    for (const [key, value] of Object.entries(other.settings)) if (sameJson(value, heir.settings[key])) delete other.settings[key]
    other.like = heir.id
  }
}

/** Takes it away, and out of all that names it. */
export function removeWidget(draft: Project, before: Project, id: WidgetId): number {
  const unbound = unbindAll(draft, id, usersOf(before, id))
  // A group that lost its first member is led by the next.
  const { page } = before.widgets[id]!
  const [heir, ...rest] = (before.pages[page]?.widgets ?? []).flatMap((other) =>
    draft.widgets[other]?.parent === id ? [draft.widgets[other]] : [],
  )
  if (heir) heir.parent = ''
  for (const other of rest) other.parent = heir!.id
  handOn(draft, id)
  delete draft.widgets[id]
  return unbound
}

export interface NewWidget {
  id: WidgetId
  kind: string
  name?: string
  place: Rect
  settings?: Values
  /** It is a linked copy of this one, and `settings` are what is its own. */
  like?: WidgetId
  /** It is held together with this one, which comes before it in the list. */
  parent?: WidgetId | ''
}

interface AddedWidgets {
  page: PageId
  after: string | null
  widgets: NewWidget[]
  variables?: NewVariable[]
}

/** Arguments for each of several new widgets. */
export const newWidgets = Joi.array()
  .min(1)
  .max(500)
  .items({
    id: idSchema('widget').required(),
    kind: Joi.string().max(40).required(),
    name: Joi.string().max(60),
    place: rectSchema.required(),
    settings: Joi.object(),
    like: idSchema('widget'),
    parent: idSchema('widget').allow(''),
  })
  .required()

export const addWidgets: Edit<AddedWidgets> = {
  name: 'add widgets',
  args: Joi.object({
    page,
    after: anchor,
    variables: Joi.array().items(Joi.object(newVariableSchema)).max(500),
    widgets: newWidgets,
  }),
  apply(draft, { page, after, widgets, variables = [] }, before) {
    const onto = mustFind(draft.pages, page)
    putVariables(draft, before, variables)
    const names = new Set(Object.values(before.widgets).map((w) => w.name))
    for (const { id, kind, name, place, settings, like, parent = '' } of widgets) {
      mustBeNew(draft.widgets, id)
      const found = widgetKind(kind) ?? refuse('kind', { kind })
      const given = freeName(name ?? found.label.toLowerCase(), names)
      names.add(given)
      draft.widgets[id] = {
        id,
        number: nextNumber(draft, 'widgets'),
        kind,
        name: given,
        page,
        parent,
        like: '',
        locked: false,
        place,
        settings: like ? {} : withTypeface(draft, { ...found.settings.defaults, ...settings }),
      }
      if (like) link(draft, draft.widgets[id], like, settings ?? {})
    }
    onto.widgets = placed(
      onto.widgets,
      widgets.map((w) => w.id),
      after,
    )
  },
}

/** Makes a widget a linked copy: of what the other is a copy of, where that is one itself. */
function link(draft: Project, widget: Widget, to: WidgetId, own: Values): void {
  const other = mustFind(draft.widgets, to)
  widget.like = other.like || other.id
  widget.settings = { ...(other.like ? other.settings : {}), ...own }
}

/** Every text has a font: the first typeface of the project where one of its own was chosen without. */
function withTypeface(draft: Project, settings: Values): Values {
  const font = settings['font'] as FontSetting | undefined
  return font && typeof font !== 'string' && font.typeface === ''
    ? { ...settings, font: { ...font, typeface: draft.typefaceOrder[0] ?? '' } }
    : settings
}

const deleteWidgets: Edit<{ ids: WidgetId[] }> = {
  name: 'delete widgets',
  args: Joi.object({ ids: widgetIds }),
  apply(draft, { ids }, before) {
    let unbound = 0
    const pages = new Set(ids.map((id) => mustFind(draft.widgets, id).page))
    for (const id of ids) unbound += removeWidget(draft, before, id)
    for (const page of pages) draft.pages[page]!.widgets = draft.pages[page]!.widgets.filter((id) => !ids.includes(id))
    return { unbound }
  },
}

const somePlace = rectSchema.fork(['x', 'y', 'width', 'height'], (side) => side.optional()).min(1)

/** Of each place, the sides and corners that are another now. */
const placeWidgets: Edit<{ places: Record<WidgetId, Partial<Rect>> }> = {
  name: 'place widgets',
  args: Joi.object({
    places: Joi.object().pattern(idPattern('widget'), somePlace).min(1).required(),
  }),
  apply(draft, { places }) {
    for (const [id, place] of Object.entries(places)) Object.assign(mustFind(draft.widgets, id).place, place)
  },
  narrow(project, { places }) {
    const out: Record<WidgetId, Partial<Rect>> = {}
    for (const [id, place] of Object.entries(places) as [WidgetId, Partial<Rect>][]) {
      const now = project.widgets[id]
      const changed = now ? narrowValues([now.place], place) : place
      if (Object.keys(changed).length) out[id] = changed
    }
    return Object.keys(out).length ? { places: out } : null
  },
}

interface Repeated {
  add: AddedWidgets
  originals: { id: WidgetId; settings: Values }[]
  /** The start values of texts that the originals show. */
  initials?: { id: VariableId; initial: string }[]
}

/** Copies of some widgets, and what the originals become as the first of their row. */
const repeatWidgets: Edit<Repeated> = {
  name: 'repeat widgets',
  args: Joi.object({
    add: addWidgets.args.required(),
    originals: Joi.array()
      .items(Joi.object({ id: idSchema('widget').required(), settings: Joi.object().required() }))
      .max(500)
      .required(),
    initials: Joi.array()
      .items(Joi.object({ id: idSchema('variable').required(), initial: Joi.string().allow('').required() }))
      .max(500),
  }),
  apply(draft, { add, originals, initials = [] }, before) {
    for (const { id, settings } of originals) {
      setIn(draft, mustFind(draft.widgets, id), settings)
    }
    for (const { id, initial } of initials) mustFind(draft.variables, id).initial = initial
    return addWidgets.apply(draft, add, before)
  },
}

/** Of the values, each widget takes those that its kind has. `letGo`: variables that go as well when nobody is left who uses them, as one that came with the widget and was never used else. */
const setWidgets: Edit<{ ids: WidgetId[]; values: Values; letGo?: VariableId[] }> = {
  name: 'set widgets',
  args: Joi.object({ ids: widgetIds, values: valuesFor(), letGo: Joi.array().items(idSchema('variable')).max(10) }),
  apply(draft, { ids, values, letGo = [] }, before) {
    const names = new Names(before)
    for (const id of ids) {
      const widget = mustFind(draft.widgets, id)
      const words = settingsOf(draft.widgets, widget)['text']
      setIn(draft, widget, values)
      nameAfterWords(draft, widget, words, names)
    }
    for (const id of letGo) {
      const uses = (from: string) => {
        const user = draft.widgets[from as WidgetId]
        const refs = user && widgetKind(user.kind)?.settings.refs(settingsOf(draft.widgets, user))
        return refs?.some(({ ref }) => ref.to === id) === true
      }
      const left = usersOf(before, id).some(({ from }) => !ids.includes(from as WidgetId) || uses(from))
      if (left || !(id in draft.variables)) continue
      delete draft.variables[id]
      draft.variableOrder = draft.variableOrder.filter((other) => other !== id)
    }
  },
  narrow(project, { ids, values, letGo }) {
    const widgets = ids.flatMap((id) => project.widgets[id] ?? [])
    const others = letGo ? { letGo } : {}
    if (widgets.length < ids.length) return { ids, values, ...others }
    const out: Values = {}
    for (const [path, value] of Object.entries(values)) {
      const having = widgets.filter((w) => path in valuesOfKind(w, { [path]: value }))
      Object.assign(
        out,
        narrowValues(
          having.map((w) => settingsOf(project.widgets, w)),
          { [path]: value },
        ),
      )
    }
    return Object.keys(out).length ? { ids, values: out, ...others } : null
  },
}

interface Each {
  name?: string
  place?: Partial<Rect>
  values?: Values
}

/** Several widgets, each in its own way: a column of a table that was filled, or what was pasted into it. */
const setEachWidget: Edit<{ each: Record<WidgetId, Each> }> = {
  name: 'set each widget',
  args: Joi.object({
    each: Joi.object()
      .pattern(
        idPattern('widget'),
        Joi.object({ name: Joi.string().max(60), place: somePlace, values: valuesFor().optional() }).min(1),
      )
      .min(1)
      .max(5000)
      .required(),
  }),
  apply(draft, { each }, before) {
    const names = new Names(before)
    for (const [id, { name, place, values }] of Object.entries(each)) {
      const widget = mustFind(draft.widgets, id)
      const words = settingsOf(draft.widgets, widget)['text']
      if (place) Object.assign(widget.place, place)
      if (values) setIn(draft, widget, values)
      if (name !== undefined) names.call(widget, name)
      else nameAfterWords(draft, widget, words, names)
    }
  },
  narrow(project, { each }) {
    const out: Record<WidgetId, Each> = {}
    for (const [id, { name, place, values }] of Object.entries(each) as [WidgetId, Each][]) {
      const now = project.widgets[id]
      const left: Each = {
        ...(name !== undefined && name !== now?.name ? { name } : {}),
        ...whereAny('place', place && (now ? narrowValues([now.place], place) : place)),
        ...whereAny(
          'values',
          values && (now ? narrowValues([settingsOf(project.widgets, now)], valuesOfKind(now, values)) : values),
        ),
      }
      if (Object.keys(left).length) out[id] = left
    }
    return Object.keys(out).length ? { each: out } : null
  },
}

/** Under its key, or nothing where it has nothing in it. */
const whereAny = (key: string, values: Values | undefined): Values =>
  values && Object.keys(values).length ? { [key]: values } : {}

/**
 * Sets values of its kind in a widget. A linked copy first takes what it had of its original, which is its own from now on; what
 * it has from there already, it goes on having from there.
 */
export function setIn(draft: Project, widget: Widget, values: Values): void {
  let own = valuesOfKind(widget, values)
  if (widget.like !== '') {
    const all = settingsOf(draft.widgets, widget)
    own = narrowValues([all], own)
    for (const path of Object.keys(own)) {
      const key = keyOf(path)
      if (!Object.hasOwn(widget.settings, key)) widget.settings[key] = JSON.parse(JSON.stringify(all[key])) as unknown
    }
  }
  assign(widget.settings, own)
}

/** Linked copies that stand for themselves from now on, with what they look like. */
const unlinkWidgets: Edit<{ ids: WidgetId[] }> = {
  name: 'unlink widgets',
  args: Joi.object({ ids: widgetIds }),
  apply(draft, { ids }) {
    for (const id of ids) {
      const widget = mustFind(draft.widgets, id)
      widget.settings = JSON.parse(JSON.stringify(settingsOf(draft.widgets, widget))) as Values
      widget.like = ''
    }
  },
}

/** Settings of a linked copy that are as its original's again. */
const asOriginal: Edit<{ id: WidgetId; keys: string[] }> = {
  name: 'set as original',
  args: Joi.object({
    id: idSchema('widget').required(),
    keys: Joi.array()
      .items(Joi.string().pattern(/^[A-Za-z]{1,40}$/))
      .min(1)
      .max(100)
      .unique()
      .required(),
  }),
  apply(draft, { id, keys }) {
    const widget = mustFind(draft.widgets, id)
    if (widget.like === '') refuse('no-copy', { name: widget.name })
    for (const key of keys) if (Object.hasOwn(widget.settings, key)) delete widget.settings[key]
  },
}

/** For as long as nobody has named it, a widget is called by its words: `Open shutter`, once `button 3`. */
function nameAfterWords(draft: Project, widget: Widget, before: unknown, names: Names): void {
  const words = settingsOf(draft.widgets, widget)['text']
  if (typeof words !== 'string' || words === before) return
  const called = (base: unknown) => typeof base === 'string' && base !== '' && widget.name.replace(/ \d+$/, '') === nameOf(base)
  if (!called(widgetKind(widget.kind)?.label.toLowerCase()) && !called(before)) return
  const name = nameOf(words)
  if (!name) return
  names.call(widget, freeName(name, names.but(widget.id)))
}

/** The names of all widgets while some are given others. */
class Names {
  private all: Map<string, string> | null = null

  constructor(private before: Project) {}

  private get names(): Map<string, string> {
    return (this.all ??= new Map(Object.values(this.before.widgets).map((w) => [w.id, w.name])))
  }

  but(id: WidgetId): string[] {
    return [...this.names].flatMap(([of, name]) => (of === id ? [] : [name]))
  }

  call(widget: Widget, name: string): void {
    widget.name = name
    this.names.set(widget.id, name)
  }
}

/** Words as a name: their first line, no longer than a name may be with a number after it. */
const nameOf = (words: string): string => words.trim().split('\n', 1)[0]!.trim().slice(0, 50).trim()

function valuesOfKind(widget: Widget, values: Values): Values {
  const keys = new Set(widgetKind(widget.kind)?.settings.list.map((field) => field.key))
  return Object.fromEntries(Object.entries(values).filter(([path]) => keys.has(keyOf(path))))
}

const nameWidget: Edit<{ id: WidgetId; name: string }> = {
  name: 'name widget',
  args: Joi.object({ id: idSchema('widget').required(), name: Joi.string().max(60).required() }),
  apply: (draft, { id, name }) => void (mustFind(draft.widgets, id).name = name),
}

const lockWidgets: Edit<{ ids: WidgetId[]; locked: boolean }> = {
  name: 'lock widgets',
  args: Joi.object({ ids: widgetIds, locked: Joi.boolean().required() }),
  apply(draft, { ids, locked }) {
    for (const id of ids) mustFind(draft.widgets, id).locked = locked
  },
}

/** Some widgets of a page as one thing, or each by itself again; what one of them was held together with stays behind. */
const holdTogether: Edit<{ ids: WidgetId[]; together: boolean }> = {
  name: 'hold together',
  args: Joi.object({ ids: widgetIds, together: Joi.boolean().required() }),
  apply(draft, { ids, together }, before) {
    const { page } = mustFind(draft.widgets, ids[0]!)
    for (const id of ids) if (mustFind(draft.widgets, id).page !== page) refuse('other-page', { name: draft.widgets[id]!.name })
    const moved = new Set(ids)
    // Groups that lose some of theirs go on without them.
    for (const id of ids) {
      const left = heldWith(before, id).filter((other) => !moved.has(other))
      for (const other of left) draft.widgets[other]!.parent = other === left[0] ? '' : left[0]!
    }
    const [first, ...rest] = draft.pages[page]!.widgets.filter((id) => moved.has(id))
    draft.widgets[first!]!.parent = ''
    for (const id of rest) draft.widgets[id]!.parent = together ? first! : ''
  },
}

const orderWidgets: Edit<{ page: PageId; ids: WidgetId[]; after: string | null }> = {
  name: 'order widgets',
  args: Joi.object({ page, ids: widgetIds, after: anchor }),
  apply(draft, { page, ids, after }) {
    const on = mustFind(draft.pages, page)
    const here = ids.filter((id) => on.widgets.includes(id))
    if (!here.length) refuse('gone', { id: ids[0]! })
    on.widgets = placed(on.widgets, here, after)
  },
}

export const widgetEdits = [
  addWidgets,
  repeatWidgets,
  deleteWidgets,
  placeWidgets,
  setWidgets,
  setEachWidget,
  unlinkWidgets,
  asOriginal,
  nameWidget,
  lockWidgets,
  holdTogether,
  orderWidgets,
] as Edit[]
