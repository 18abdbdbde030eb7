import type Joi from 'joi'
import { faceInstead } from '../faces/index.ts'
import { good, kindOfId, type IdKind, type Result } from '../base/index.ts'
import { startingColours, startingStyles, type NamedColour, type TypeStyle } from '../palette/index.ts'
import {
  outputSettings,
  quantityKinds,
  reactionSettings,
  sendingSettings,
  stepKind,
  type Exchange,
  type HostOutput,
  type Quantity,
  type Reaction,
  type Sending,
} from '../scripts/index.ts'
import { commandSettings } from '../protocols/index.ts'
import { systemVariablesById } from '../variables/index.ts'
import { widgetKind } from '../widgets/index.ts'
import type { Values } from '../describe/index.ts'
import { pictureSettings, type PictureRecord } from './picture.ts'
import { cleanWidget, pastMemory, stepsAgree } from './record-checks.ts'
import {
  collect,
  refsOfCommand,
  refsOfExchange,
  refsOfFace,
  refsOfPage,
  refsOfPicture,
  refsOfStyle,
  refsOfTypeface,
  refsOfWidget,
  remembered,
  settingsOfCommand,
  settingsOfPage,
  settingsOfPicture,
  type Describes,
  type Reference,
} from './record-refs.ts'
import { recordSchemas } from './schema.ts'
import {
  pageSettings,
  type Command,
  type FaceRecord,
  type Page,
  type Project,
  type TypefaceRecord,
  type Variable,
  type Widget,
} from './types.ts'

/** A record of a collection. */
export interface Kept {
  id: string
}

/**
 * A sort of records in a document, each under its id. All that is known of the sort stands here: what may stand in the document,
 * what refers to what, how a reference is taken out, and what a path of a patch leads to, derive from this table.
 */
export interface CollectionOf<R extends Kept> {
  /** Where its records stand: `pages`, `host/quantities`. */
  path: readonly [string] | readonly [string, string]
  kind: IdKind
  /** One of it, for people. */
  one: string
  /** Null: its records are read with the part of the document in which they stand. */
  schema: Joi.Schema | null
  /** Rules that the schema does not state. */
  check?(record: R, path: string, before: R | undefined): Result<R>
  /** The list beside it with all its ids; null: they are in order elsewhere. */
  order: string | null
  /** Records at most. */
  most: number
  /** Records of a document that was made before there were any. */
  before?: readonly R[]
  /** Ids of its kind that name something without a record. */
  others?(): ReadonlyMap<string, unknown>
  /**
   * Its records have a number each: one by which a host knows them, given by the project or by hand as well; or one that tells
   * them apart in a build, which nobody outside ever sees.
   */
  numbers?: 'by the project' | 'by hand too' | 'inside'
  /** References that a record makes by its settings. */
  refs(record: R): Reference[]
  /** Takes every reference to an id out of a record of a draft, `instead` in its place where one must be. */
  without(record: R, id: string, instead: string): void
  /** How a record is called; without this, by its name. */
  name?(record: R): string
}

/** A collection in the table, where each has its own records. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- what stands in a record is the collection's own business
export type Collection = CollectionOf<any>

/** Records of a simulated host of one sort, at most; so many steps an exchange has. */
export const mostParts = 2000

const checked = <R>(problem: Result<never> | null, record: R): Result<R> => problem ?? good(record)

const withoutIn = (described: Describes | undefined, record: { settings: unknown }, id: string, instead: string): void => {
  if (described) record.settings = described.without(record.settings as Values, id, instead)
}

const pages: CollectionOf<Page> = {
  path: ['pages'],
  kind: 'page',
  one: 'page',
  schema: recordSchemas.page,
  order: 'pageOrder',
  most: 1000,
  numbers: 'by hand too',
  refs: refsOfPage,
  without: (page, id, instead) => void Object.assign(page, pageSettings.without(settingsOfPage(page), id, instead)),
}

const widgets: CollectionOf<Widget> = {
  path: ['widgets'],
  kind: 'widget',
  one: 'widget',
  schema: recordSchemas.widget,
  check: cleanWidget,
  // Each page has its own, from bottom to top.
  order: null,
  most: 10_000,
  numbers: 'by the project',
  refs: refsOfWidget,
  without: (widget, id, instead) => withoutIn(widgetKind(widget.kind)?.settings, widget, id, instead),
}

const variables: CollectionOf<Variable> = {
  path: ['variables'],
  kind: 'variable',
  one: 'variable',
  schema: recordSchemas.variable,
  check: (variable) => checked(pastMemory(variable), variable),
  order: 'variableOrder',
  most: 10_000,
  numbers: 'inside',
  others: systemVariablesById,
  refs: () => [],
  without: () => undefined,
}

const typefaces: CollectionOf<TypefaceRecord> = {
  path: ['typefaces'],
  kind: 'typeface',
  one: 'typeface',
  schema: recordSchemas.typeface,
  order: 'typefaceOrder',
  most: 100,
  refs: refsOfTypeface,
  without: (typeface) => void (typeface.fallback = ''),
}

const pictures: CollectionOf<PictureRecord> = {
  path: ['pictures'],
  kind: 'picture',
  one: 'picture',
  schema: recordSchemas.picture,
  order: 'pictureOrder',
  most: 2000,
  numbers: 'by hand too',
  refs: refsOfPicture,
  without: (picture, id, instead) =>
    void Object.assign(picture, pictureSettings.without(settingsOfPicture(picture), id, instead)),
}

const commands: CollectionOf<Command> = {
  path: ['commands'],
  kind: 'command',
  one: 'command',
  schema: recordSchemas.command,
  order: 'commandOrder',
  most: 500,
  numbers: 'by hand too',
  refs: refsOfCommand,
  without: (command, id, instead) =>
    void Object.assign(command, commandSettings.without(settingsOfCommand(command), id, instead)),
}

const faces: CollectionOf<FaceRecord> = {
  path: ['faces'],
  kind: 'face',
  one: 'face',
  schema: recordSchemas.face,
  order: 'faceOrder',
  most: 500,
  refs: refsOfFace,
  without: (record, id, instead) => void (record.face = faceInstead(record.face, id, instead)),
}

const colours: CollectionOf<NamedColour> = {
  path: ['colours'],
  kind: 'colour',
  one: 'colour',
  schema: recordSchemas.colour,
  order: 'colourOrder',
  most: 200,
  before: startingColours,
  refs: () => [],
  without: () => undefined,
}

const styles: CollectionOf<TypeStyle> = {
  path: ['styles'],
  kind: 'style',
  one: 'type',
  schema: recordSchemas.style,
  order: 'styleOrder',
  most: 100,
  numbers: 'by hand too',
  before: startingStyles(),
  refs: refsOfStyle,
  without: (style) => void (style.typeface = ''),
}

const exchanges: CollectionOf<Exchange> = {
  path: ['exchanges'],
  kind: 'exchange',
  one: 'exchange',
  schema: recordSchemas.exchange,
  check: (exchange, path) => checked(stepsAgree(exchange, path), exchange),
  order: 'exchangeOrder',
  most: 1000,
  refs: refsOfExchange,
  without(exchange, id, instead) {
    for (const step of Object.values(exchange.steps)) withoutIn(stepKind(step.kind).settings, step, id, instead)
  },
}

/** A part of the simulated host. */
const partOfHost = <R extends { id: string; settings: object }>(
  map: string,
  kind: IdKind,
  describes: (record: R) => Describes,
): CollectionOf<R> => ({
  path: ['host', map],
  kind,
  one: kind,
  schema: null,
  order: `${kind}Order`,
  most: mostParts,
  refs: (record) => remembered(record, () => collect(record.id, describes(record), record.settings as Values)),
  without: (record, id, instead) => withoutIn(describes(record), record, id, instead),
  name: () => 'simulated host',
})

const table: Collection[] = [
  pages,
  widgets,
  variables,
  typefaces,
  pictures,
  faces,
  colours,
  styles,
  exchanges,
  commands,
  partOfHost<Quantity>('quantities', 'quantity', ({ kind }) => quantityKinds[kind].settings),
  partOfHost<Reaction>('reactions', 'reaction', () => reactionSettings),
  partOfHost<HostOutput>('outputs', 'output', () => outputSettings),
  partOfHost<Sending>('sendings', 'sending', () => sendingSettings),
]

/** Indexes that every step of an edit asks: made anew when there is one more collection. */
let byPath: ReadonlyMap<string, Collection>
let byKind: ReadonlyMap<string, Collection>
function index(): void {
  byPath = new Map(table.map((collection) => [collection.path.join('/'), collection]))
  byKind = new Map(table.map((collection) => [collection.kind, collection]))
}
index()

/** All there are. */
export const collections = (): readonly Collection[] => table

/** The collection at a place of the document; undefined where there is none. */
export const collectionAt = (...path: readonly string[]): Collection | undefined => byPath.get(path.join('/'))

/** The collection that an id is of; undefined where it is of none. */
export const collectionOfId = (id: string): Collection | undefined => byKind.get(kindOfId(id))

/** The records of a collection in a document or a draft of one. */
export function recordsOf(project: Pick<Project, never>, { path: [first, second] }: Collection): Record<string, Kept> {
  const part = (project as Record<string, unknown>)[first]
  return (second === undefined ? part : (part as Record<string, unknown>)[second]) as Record<string, Kept>
}

/** Adds a collection, with its records at the top of the document; it is taken out again with the function that comes back. */
export function registerCollection<R extends Kept>(collection: CollectionOf<R>): () => void {
  table.push(collection)
  index()
  return () => {
    table.splice(table.indexOf(collection), 1)
    index()
  }
}
