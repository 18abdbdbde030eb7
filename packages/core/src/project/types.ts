import type { Embedding } from '../artwork/index.ts'
import type { PictureRecord } from './picture.ts'
import type {
  CommandId,
  ExchangeId,
  FaceId,
  Order,
  PageId,
  Rect,
  PictureId,
  TypefaceId,
  VariableId,
  WidgetId,
} from '../base/index.ts'
import { listOf, oneOf, type RawOf, type Values } from '../describe/index.ts'
import { noFace, type Face } from '../faces/index.ts'
import type { ColourId, Looks, NamedColour, StyleId, TypeStyle } from '../palette/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { pageRulesType, panelRulesType } from '../rules/index.ts'
import { faceType } from '../widgets/index.ts'
import type { Layout, LinkSettings } from '../frames/index.ts'
import type { Exchange, HostScript } from '../scripts/index.ts'
import type { commandSettings } from '../protocols/index.ts'
import type { PanelProfile } from './profile.ts'
import type { Holds, Staleness, Travels, Value } from '../variables/index.ts'

/** Settings of a page, described like those of widgets: so that references in it are known, and compile, like theirs. */
export const pageSettings = described({
  background: { label: 'Background', type: faceType, default: noFace, group: 'Looks' },
  layer: {
    label: 'Shared layer',
    type: t.page,
    default: '',
    accepts: ['layer'],
    group: 'Layers',
    hint: 'shown with this page',
  },
  veil: {
    label: 'Dim page behind pop-up',
    type: t.whole,
    default: 0,
    min: 0,
    max: 100,
    unit: '%',
    group: 'Layers',
    zero: 'off',
    hint: 'the page below fades to its background',
  },
  sends: {
    label: 'Send changes',
    type: oneOf({ 'at once': 'immediately', 'on leaving': 'when the page closes' }),
    default: 'at once',
    group: 'Reporting',
    hint: 'when it closes: adjacent values in one frame',
  },
  showsForMs: {
    label: 'Auto-advance after',
    type: t.whole,
    default: 0,
    min: 0,
    max: 3_600_000,
    unit: 'ms',
    zero: 'never',
    group: 'Timing',
  },
  thenPage: {
    label: 'Auto-advance to',
    type: t.page,
    default: '',
    accepts: ['page'],
    group: 'Timing',
    hint: 'the page that follows',
  },
  skips: { label: 'Touch advances', type: t.yesNo, default: false, group: 'Timing' },
  rules: { label: 'Actions', type: pageRulesType, default: [], group: 'Actions' },
  reference: {
    label: 'Tracing image',
    type: t.picture,
    default: '',
    group: 'Tracing image',
    hint: 'shown over the page in Edit only',
  },
  referenceSeen: {
    label: 'Tracing image opacity',
    type: t.whole,
    default: 40,
    min: 0,
    max: 100,
    unit: '%',
    group: 'Tracing image',
    zero: 'off',
  },
})
export type PageSettings = RawOf<typeof pageSettings.fields>

/** °C and °F: what is 0 °C is 32 °F, and a step of 1 °C is one of 1.8 °F. */
const unitPair = described({
  unit: { label: 'unit', type: t.text, default: '°C', group: 'Formats' },
  other: { label: 'alternative unit', type: t.text, default: '°F', group: 'Formats' },
  factor: { label: 'factor', type: t.number, default: 1.8, group: 'Formats' },
  offset: { label: 'offset', type: t.number, default: 32, group: 'Formats' },
  decimals: { label: 'decimals', type: t.whole, default: 0, min: 0, max: 6, group: 'Formats' },
})

/** How the panel behaves whatever page it shows, and how values are written on the glass. */
export const conductSettings = described({
  comma: { label: 'Decimal comma', type: t.yesNo, default: false, group: 'Formats' },
  twelve: { label: '12-hour clock', type: t.yesNo, default: false, group: 'Formats' },
  date: {
    label: 'Date format',
    type: oneOf({
      'day month year': 'day month year',
      'month day year': 'month day year',
      'year month day': 'year month day',
    }),
    default: 'day month year',
    group: 'Formats',
  },
  units: {
    label: 'Alternative units',
    type: listOf('unit pairs', 'item', unitPair, 12),
    default: [],
    group: 'Formats',
    hint: 'display only; the wire keeps the unit',
  },
  otherUnits: {
    label: 'Use alternative units when',
    type: t.variable,
    default: '',
    group: 'Formats',
    accepts: ['u16', 'choice', 'flags'],
    hint: '≠ 0',
  },
  beepMs: { label: 'Touch beep', type: t.whole, default: 30, min: 0, max: 1000, unit: 'ms', zero: 'off', group: 'Touch' },
  dimAfterS: {
    label: 'Dim after',
    type: t.whole,
    default: 0,
    min: 0,
    max: 86_400,
    unit: 's',
    zero: 'never',
    group: 'Idle',
  },
  dimTo: { label: 'Dim to', type: t.whole, default: 10, min: 1, max: 100, unit: '%', group: 'Idle' },
  homeAfterS: {
    label: 'Return after',
    type: t.whole,
    default: 0,
    min: 0,
    max: 86_400,
    unit: 's',
    zero: 'never',
    group: 'Idle',
  },
  homePage: {
    label: 'Return to page',
    type: t.page,
    default: '',
    accepts: ['page'],
    group: 'Idle',
    hint: 'empty: the start page',
  },
  code1: { label: 'Code, level 1', type: t.whole, default: 0, min: 0, max: 65_535, group: 'Access levels', zero: 'none' },
  code2: { label: 'Code, level 2', type: t.whole, default: 0, min: 0, max: 65_535, group: 'Access levels', zero: 'none' },
  code3: { label: 'Code, level 3', type: t.whole, default: 0, min: 0, max: 65_535, group: 'Access levels', zero: 'none' },
  levelAfterS: {
    label: 'Log out after',
    type: t.whole,
    default: 0,
    min: 0,
    max: 86_400,
    unit: 's',
    group: 'Access levels',
    zero: 'never',
    hint: 'without a touch',
  },
  rules: { label: 'Panel actions', type: panelRulesType, default: [], group: 'Actions' },
})
export type Conduct = RawOf<typeof conductSettings.fields>

/** The form of a stored document: one more with every version that keeps something else than the one before. */
export const currentForm = 4

/** A layer is shown with the pages that share it; a pop-up opens above a page; a keypad is one that an entry opens. */
export const pageKinds = ['page', 'layer', 'pop-up', 'keypad'] as const
export type PageKind = (typeof pageKinds)[number]

export interface Page extends PageSettings {
  id: PageId
  kind: PageKind
  /** The number that the page word says, from 0; that of a pop-up from 1. Once handed off it is never another's. */
  number: number
  name: string
  note: string
  /** Bottom to top. */
  widgets: readonly WidgetId[]
}

export interface Widget {
  id: WidgetId
  /** By which a host knows it in events; never given again. */
  number: number
  kind: string
  name: string
  page: PageId
  /** The widget of the same page that it belongs to; '' for the page itself. */
  parent: WidgetId | ''
  /** The widget that it is a linked copy of; '' for one of its own. */
  like: WidgetId | ''
  /** Held where it is while others are edited: neither pointer nor arrows take it. Nothing to the panel. */
  locked: boolean
  place: Rect
  /** The kind decides what they may be. Of a linked copy only those that are its own. */
  settings: Values
}

export interface Variable {
  id: VariableId
  /** Tells it from all others that the project has or had, in a build; nobody outside is told. */
  number: number
  /** Lower case letters, digits, underscore: it is also the symbol in host code. */
  name: string
  meaning: string
  holds: Holds
  address: number
  travels: Travels
  initial: Value
  stale: Staleness | null
  /** Which word of a longer value, and which letter of a text, comes first. */
  order: 'as panel' | Order
  /** Its name in lines of text; missing or '': as the layout makes it. */
  wireName?: string
}

/** A frame that the project assigns: `number` tells it from all others, on the wire too where the layout has messages by number. */
export interface Command extends RawOf<typeof commandSettings.fields> {
  id: CommandId
  number: number
  name: string
  meaning: string
}

export interface TypefaceRecord {
  id: TypefaceId
  name: string
  /** The typeface that letters are taken from which this one lacks; '' for none. */
  fallback: string
  /** Embedding rights as its file states them. */
  embedding: Embedding
  /** Lightest and boldest that its file has; 0 and 0: it has one weight. */
  weightFrom: number
  weightTo: number
  /** SHA-256 of the font file among the assets. */
  asset: string
}

/** A face with a name: a change reaches whatever has it. */
export interface FaceRecord {
  id: FaceId
  name: string
  face: Face
}

/** Addresses and numbers that were used and are not reassigned. */
export interface Spent {
  /** The highest number that a collection gave by itself: by `pages`, `widgets`, `pictures`, `styles`, `variables`. */
  lastNumbers: Record<string, number>
  /** `page:…@number` → the name of what had the number when it was handed off. */
  numbers: Record<string, string>
  /** `variable:…@address` → the span and the name it had. */
  addresses: Record<string, { address: number; words: number; name: string }>
}

export interface Project {
  /** The form of this document. */
  format: typeof currentForm
  name: string
  note: string
  panel: PanelProfile
  link: LinkSettings
  layout: Layout
  pages: Record<PageId, Page>
  pageOrder: readonly PageId[]
  startPage: PageId | ''
  widgets: Record<WidgetId, Widget>
  variables: Record<VariableId, Variable>
  variableOrder: readonly VariableId[]
  typefaces: Record<TypefaceId, TypefaceRecord>
  pictures: Record<PictureId, PictureRecord>
  pictureOrder: readonly PictureId[]
  typefaceOrder: readonly TypefaceId[]
  faces: Record<FaceId, FaceRecord>
  faceOrder: readonly FaceId[]
  colours: Record<ColourId, NamedColour>
  colourOrder: readonly ColourId[]
  styles: Record<StyleId, TypeStyle>
  styleOrder: readonly StyleId[]
  /** Which looks its colours are made for. */
  looks: Looks
  conduct: Conduct
  host: HostScript
  exchanges: Record<ExchangeId, Exchange>
  exchangeOrder: readonly ExchangeId[]
  commands: Record<CommandId, Command>
  commandOrder: readonly CommandId[]
  spent: Spent
}

/** Which word of a variable's value comes first: as the panel has it, unless it says otherwise. */
export const orderOf = (panel: PanelProfile, variable: Pick<Variable, 'order'>): Order =>
  variable.order === 'as panel' ? panel.order : variable.order
