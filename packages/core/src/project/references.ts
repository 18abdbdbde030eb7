import { faceInstead, faceRefs } from '../faces/index.ts'
import { kindOfId } from '../base/index.ts'
import { outputSettings, quantityKinds, reactionSettings, stepKind, type Exchange } from '../scripts/index.ts'
import type { NamedField, Ref, Values } from '../describe/index.ts'
import type { TypeStyle } from '../palette/index.ts'
import { ownWordById } from '../variables/index.ts'
import { widgetKind } from '../widgets/index.ts'
import { pictureSettings, type PictureRecord } from './picture.ts'
import {
  conductSettings,
  pageSettings,
  type FaceRecord,
  type Page,
  type Project,
  type TypefaceRecord,
  type Widget,
} from './types.ts'

/** Where a reference stands: the record that holds it and the setting that makes it. */
export interface Reference {
  to: string
  /** Id of the widget, exchange, quantity, reaction or output. */
  from: string
  label: string
  use: Ref['use']
}

const known = new WeakMap<object, Reference[]>()

/** Everything with settings in a project, as (owner, list of settings, values). */
function remembered(owner: object, find: () => Reference[]): Reference[] {
  let refs = known.get(owner)
  if (!refs) {
    refs = find()
    known.set(owner, refs)
  }
  return refs
}

/** Whatever has settings: a description that finds references in them. */
interface Describes {
  refs(raw: Values): { ref: Ref; field: Pick<NamedField, 'label'> }[]
  without(raw: Values, id: string, instead?: string): Values
}

const collect = (from: string, settings: Describes | undefined, values: Values): Reference[] =>
  settings?.refs(values).map(({ ref: { to, use }, field }) => ({ to, use, from, label: field.label })) ?? []

export const refsOfWidget = (widget: Widget): Reference[] =>
  remembered(widget, () => collect(widget.id, widgetKind(widget.kind)?.settings, widget.settings))

export const refsOfPage = (page: Page): Reference[] =>
  remembered(page, () => collect(page.id, pageSettings, settingsOfPage(page)))

const settingsOfPage = (page: Page): Values =>
  Object.fromEntries(pageSettings.list.map(({ key }) => [key, page[key as keyof Page]]))

/** References of the panel's conduct are those of the project itself. */
const conductOwner = 'project:conduct'
const refsOfConduct = (project: Project): Reference[] =>
  remembered(project.conduct, () => collect(conductOwner, conductSettings, project.conduct))

export const refsOfStyle = (style: TypeStyle): Reference[] =>
  remembered(style, () => (style.typeface ? [{ to: style.typeface, use: 'names', from: style.id, label: 'Typeface' }] : []))

export const refsOfTypeface = (typeface: TypefaceRecord): Reference[] =>
  remembered(typeface, () =>
    typeface.fallback ? [{ to: typeface.fallback, use: 'names', from: typeface.id, label: 'Lacking letters' }] : [],
  )

export const refsOfFace = (record: FaceRecord): Reference[] =>
  remembered(record, () => faceRefs(record.face).map((ref) => ({ ...ref, from: record.id, label: 'Face' })))

export const refsOfPicture = (picture: PictureRecord): Reference[] =>
  remembered(picture, () => collect(picture.id, pictureSettings, settingsOfPicture(picture)))

const settingsOfPicture = (picture: PictureRecord): Values =>
  Object.fromEntries(pictureSettings.list.map(({ key }) => [key, picture[key as keyof PictureRecord]]))

export const refsOfExchange = (exchange: Exchange): Reference[] =>
  remembered(exchange, () =>
    exchange.stepOrder.flatMap((id) => {
      const step = exchange.steps[id]
      return step ? collect(exchange.id, stepKind(step.kind).settings, step.settings) : []
    }),
  )

const refsOfHost = (project: Project): Reference[] =>
  remembered(project.host, () => [
    ...Object.values(project.host.quantities).flatMap((q) => collect(q.id, quantityKinds[q.kind].settings, q.settings)),
    ...Object.values(project.host.reactions).flatMap((r) => collect(r.id, reactionSettings, r.settings)),
    ...Object.values(project.host.outputs).flatMap((o) => collect(o.id, outputSettings, o.settings)),
  ])

/** Every reference in the document that settings make; parents and orders are not among them. */
export function allReferences(project: Project): Reference[] {
  return [
    ...Object.values(project.pages).flatMap(refsOfPage),
    ...Object.values(project.widgets).flatMap(refsOfWidget),
    ...Object.values(project.styles).flatMap(refsOfStyle),
    ...Object.values(project.typefaces).flatMap(refsOfTypeface),
    ...Object.values(project.faces).flatMap(refsOfFace),
    ...Object.values(project.pictures).flatMap(refsOfPicture),
    ...Object.values(project.exchanges).flatMap(refsOfExchange),
    ...refsOfConduct(project),
    ...refsOfHost(project),
  ]
}

const indexes = new WeakMap<Project, Map<string, Reference[]>>()

/** Who refers to an id. */
export function usersOf(project: Project, id: string): Reference[] {
  let index = indexes.get(project)
  if (!index) {
    index = new Map()
    for (const ref of allReferences(project)) {
      const list = index.get(ref.to)
      if (list) list.push(ref)
      else index.set(ref.to, [ref])
    }
    indexes.set(project, index)
  }
  return index.get(id) ?? []
}

/** Whether what an id names is there: own words count as variables. */
export function isThere(project: Project, id: string): boolean {
  switch (kindOfId(id)) {
    case 'variable':
      return Object.hasOwn(project.variables, id) || ownWordById.has(id)
    case 'page':
      return Object.hasOwn(project.pages, id)
    case 'widget':
      return Object.hasOwn(project.widgets, id)
    case 'typeface':
      return Object.hasOwn(project.typefaces, id)
    case 'face':
      return Object.hasOwn(project.faces, id)
    case 'picture':
      return Object.hasOwn(project.pictures, id)
    case 'colour':
      return Object.hasOwn(project.colours, id)
    case 'style':
      return Object.hasOwn(project.styles, id)
    default:
      return false
  }
}

/** Takes every reference to `id` out of a draft of the document, `instead` in its place where one must be; says how many records changed. */
export function unbindAll(draft: Project, id: string, users: readonly Reference[], instead = ''): number {
  const owners = new Set(users.map((u) => u.from))
  for (const owner of owners) unbindIn(draft, owner, id, instead)
  return owners.size
}

function unbindIn(draft: Project, owner: string, id: string, instead: string): void {
  const without = (settings: Describes | undefined, record: { settings: Values }) => {
    if (settings) record.settings = settings.without(record.settings, id, instead)
  }
  switch (kindOfId(owner)) {
    case 'widget': {
      const widget = draft.widgets[owner as keyof typeof draft.widgets]
      if (widget) without(widgetKind(widget.kind)?.settings, widget)
      break
    }
    case 'page': {
      const page = draft.pages[owner as keyof typeof draft.pages]
      if (page) Object.assign(page, pageSettings.without(settingsOfPage(page), id, instead))
      break
    }
    case 'project':
      Object.assign(draft.conduct, conductSettings.without(draft.conduct, id, instead))
      break
    case 'picture': {
      const picture = draft.pictures[owner as keyof typeof draft.pictures]
      if (picture) Object.assign(picture, pictureSettings.without(settingsOfPicture(picture), id, instead))
      break
    }
    case 'style': {
      const style = draft.styles[owner as keyof typeof draft.styles]
      if (style) style.typeface = ''
      break
    }
    case 'face': {
      const record = draft.faces[owner as keyof typeof draft.faces]
      if (record) record.face = faceInstead(record.face, id, instead)
      break
    }
    case 'typeface': {
      const typeface = draft.typefaces[owner as keyof typeof draft.typefaces]
      if (typeface) typeface.fallback = ''
      break
    }
    case 'exchange':
      for (const step of Object.values(draft.exchanges[owner as keyof typeof draft.exchanges]?.steps ?? {}))
        without(stepKind(step.kind).settings, step)
      break
    case 'quantity': {
      const quantity = draft.host.quantities[owner]
      if (quantity) without(quantityKinds[quantity.kind].settings, quantity)
      break
    }
    case 'reaction':
      if (draft.host.reactions[owner]) without(reactionSettings, draft.host.reactions[owner])
      break
    case 'output':
      if (draft.host.outputs[owner]) without(outputSettings, draft.host.outputs[owner])
  }
}
