import type { ExchangeId, PageId, Rect, TypefaceId, VariableId, WidgetId } from '../base/index.ts'
import type { Values } from '../describe/index.ts'
import { noFace, type Face } from '../faces/index.ts'
import { described } from '../settings/index.ts'
import { faceType } from '../widgets/index.ts'
import type { Layout, LinkSettings } from '../frames/index.ts'
import type { Exchange, HostScript } from '../scripts/index.ts'
import type { Holds, MemoryPlan, Orders, Staleness, Travels, Value } from '../variables/index.ts'

/** The module a project is for. Every limit comes from here. */
export interface PanelProfile {
  /** Glass in pixels, as it is mounted. */
  width: number
  height: number
  diagonalInches: number
  /** First and one past the last usable word of memory, and where the panel's own words begin. */
  memoryFrom: number
  memoryTo: number
  ownFrom: number
}

/** What of a page is set as widgets' settings are: so that references in it are known, and compile, like theirs. */
export const pageSettings = described({
  background: { label: 'Background', type: faceType, default: noFace, group: 'Looks' },
})

/** The form of a stored document: one more with every version that keeps something else than the one before. */
export const currentForm = 3

/** A layer lies over pages; a keypad is a layer that an entry opens. */
export const pageKinds = ['page', 'layer', 'keypad'] as const
export type PageKind = (typeof pageKinds)[number]

export interface Page {
  id: PageId
  kind: PageKind
  /** What the page word says; never given again. */
  number: number
  name: string
  note: string
  background: Face
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
  place: Rect
  /** What they may be is the kind's own business. */
  settings: Values
}

export interface Variable {
  id: VariableId
  /** Lower case letters, digits, underscore: it is also the symbol in host code. */
  name: string
  meaning: string
  holds: Holds
  address: number
  travels: Travels
  initial: Value
  stale: Staleness | null
}

export interface TypefaceRecord {
  id: TypefaceId
  name: string
  /** SHA-256 of the font file among the assets. */
  asset: string
}

/** What was handed out once and is never handed out by itself again. */
export interface Spent {
  pageNumber: number
  widgetNumber: number
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
  typefaceOrder: readonly TypefaceId[]
  host: HostScript
  exchanges: Record<ExchangeId, Exchange>
  exchangeOrder: readonly ExchangeId[]
  spent: Spent
}

export const memoryPlanOf = (panel: PanelProfile): MemoryPlan => ({
  from: panel.memoryFrom,
  to: panel.memoryTo,
  ownFrom: panel.ownFrom,
  ownTo: panel.ownFrom + 16,
})

/** Pixels to a millimetre, from the diagonal. */
export const pixelsPerMm = (panel: PanelProfile): number =>
  Math.sqrt(panel.width * panel.width + panel.height * panel.height) / (panel.diagonalInches * 25.4)

/** The order of bytes and words on the link, which is also that of values in memory. */
export const ordersOf = (project: Project): Orders => ({ bytes: project.layout.payloadOrder, words: project.layout.wordOrder })
