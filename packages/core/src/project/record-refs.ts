import { faceRefs } from '../faces/index.ts'
import { stepKind, type Exchange } from '../scripts/index.ts'
import type { NamedField, Ref, Values } from '../describe/index.ts'
import { commandSettings } from '../protocols/index.ts'
import type { TypeStyle } from '../palette/index.ts'
import { widgetKind } from '../widgets/index.ts'
import { pictureSettings, type PictureRecord } from './picture.ts'
import { pageSettings, type Command, type FaceRecord, type Page, type TypefaceRecord, type Widget } from './types.ts'

/** Where a reference stands: the record that holds it and the setting that makes it. */
export interface Reference {
  to: string
  /** Id of the widget, exchange, quantity, reaction or output. */
  from: string
  label: string
  use: Ref['use']
}

const known = new WeakMap<object, Reference[]>()

/** References that were found in a record once: a record that is another is another object. */
export function remembered(owner: object, find: () => Reference[]): Reference[] {
  let refs = known.get(owner)
  if (!refs) {
    refs = find()
    known.set(owner, refs)
  }
  return refs
}

/** Any record with settings: a description that finds references in them. */
export interface Describes {
  refs(raw: Values): { ref: Ref; field: Pick<NamedField, 'label'> }[]
  without(raw: Values, id: string, instead?: string): Values
}

/** The references that described settings make. */
export const collect = (from: string, settings: Describes | undefined, values: Values): Reference[] =>
  settings?.refs(values).map(({ ref: { to, use }, field }) => ({ to, use, from, label: field.label })) ?? []

export const refsOfWidget = (widget: Widget): Reference[] =>
  remembered(widget, () => collect(widget.id, widgetKind(widget.kind)?.settings, widget.settings))

export const refsOfPage = (page: Page): Reference[] =>
  remembered(page, () => collect(page.id, pageSettings, settingsOfPage(page)))

export const settingsOfPage = (page: Page): Values =>
  Object.fromEntries(pageSettings.list.map(({ key }) => [key, page[key as keyof Page]]))

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

export const refsOfCommand = (command: Command): Reference[] =>
  remembered(command, () => collect(command.id, commandSettings, settingsOfCommand(command)))

export const settingsOfCommand = (command: Command): Values =>
  Object.fromEntries(commandSettings.list.map(({ key }) => [key, command[key as keyof Command]]))

export const settingsOfPicture = (picture: PictureRecord): Values =>
  Object.fromEntries(pictureSettings.list.map(({ key }) => [key, picture[key as keyof PictureRecord]]))

export const refsOfExchange = (exchange: Exchange): Reference[] =>
  remembered(exchange, () =>
    exchange.stepOrder.flatMap((id) => {
      const step = exchange.steps[id]
      return step ? collect(exchange.id, stepKind(step.kind).settings, step.settings) : []
    }),
  )
