import type { Rect } from '@moth-lamp/core/base'
import type { ArtworkPlan } from '@moth-lamp/core/compile'
import type { Finding } from '@moth-lamp/core/findings'
import type { Sight } from '@moth-lamp/core/palette'
import { firstPage, withSettings, type Project } from '@moth-lamp/core/project'
import type { SetAside } from '@moth-lamp/core/saver'
import type { Value } from '@moth-lamp/core/variables'
import type { LiveValue } from '@moth-lamp/core/workbench'
import type { WorkerState } from '../worker/client.ts'
import type { PanelUpdate, HostValue } from '../worker/messages.ts'
import type { MissingAsset } from './assets.ts'

export type SaveWords = { kind: 'saved' | 'waiting' | 'saving' } | { kind: 'away' | 'load again'; message: string }

/** A message that is shown once, under the bar: with a way back, or another way on. */
export interface Notice {
  text: string
  tone: 'info' | 'bad'
  undo: boolean
  /** Another way to do what was done: that is taken back first. */
  act: { label: string; run(): void } | null
  /** How many edits, undos and redos this window had made by then: its way back is right for as long as there are no more. */
  at: number
  n: number
}

export interface DocumentState {
  project: Project
  revision: number
  save: SaveWords
  setAside: readonly SetAside[]
  /** Files that it names and that nobody else can have. */
  missing: readonly MissingAsset[]
  canUndo: boolean
  canRedo: boolean
  /** Something to say once: why an edit was refused, how many users were unbound. */
  notice: Notice | null
}

export interface LiveState {
  worker: WorkerState
  nowUs: number
  lastEntry: number
  lastEvent: number
  /** How bright the glass is, %. */
  light: number
  conversation: number
  page: string | null
  busy: PanelUpdate['busy']
  values: Record<string, LiveValue>
  /** The panel's own words, by id. */
  own: Record<string, Value>
  host: HostValue[]
  outputs: NonNullable<PanelUpdate['outputs']>
  findings: Finding[]
  /** Room of the panel that the build takes; null until it is known. */
  plan: ArtworkPlan | null
  /** Layout of the running build, by which its frames are read; null until it is known. */
  wire: PanelUpdate['wire']
  running: boolean
  speed: number
  silent: boolean
  stepping: PanelUpdate['stepping']
  /** Grows when letters have come. */
  letters: number
  /** The glass goes without something yet: a change, or letters and pictures that are being made. */
  making: boolean
  /** Changes on the glass. */
  count: number
  width: number
  height: number
}

export interface ViewState {
  lamp: 'edit' | 'touch'
  /** Alt is held: Touch for as long. */
  alt: boolean
  page: string
  widgets: string[]
  variable: string | null
  /** The command that Frames has open. */
  command: string | null
  /** The record that Artwork has open: a picture, a face, or a font by its id; ''. */
  artwork: string
  addresses: 'hex' | 'decimal'
  /** The kind that the next click or drag on the glass adds. */
  adding: string | null
  /** The variable that it is to show; '': one that is made for it. */
  addingFor: string
  /** Where a drag drew the place of what is added next. */
  addAt: Rect | null
  /** Touch areas are outlined. */
  areas: boolean
  /** Which values the desk shows instead of those that are stored. */
  shown: Shown
  /** Widgets that still show an initial value are framed on the running glass. */
  starts: boolean
  /** Whose eyes, or which light, the glass is shown for. */
  sight: Sight
  /** The widgets are shown as a table instead of on the glass. */
  table: boolean
  /** Content of the column of Pages: the signal path of the selection, all its settings, or a form that needs the glass beside it. */
  column: 'path' | 'settings' | 'add' | 'repeat' | 'slice'
  /** Tab of the column of Pages while nothing is selected. */
  tab: ColumnTab
  /** Search text of all settings as they open. */
  sought: string
  /** The columns beside the middle are shown. */
  columns: boolean
  /** A value that the desk shows of one variable, while its thumb is drawn. */
  swept: { variable: string; value: Value } | null
}

export const columnTabs = ['page', 'theme', 'widgets'] as const
export type ColumnTab = (typeof columnTabs)[number]

export const shownValues = ['now', 'least', 'most', 'longest', 'stale'] as const
export type Shown = (typeof shownValues)[number]
export const shownTexts: Readonly<Record<Shown, string>> = {
  now: 'current',
  least: 'min',
  most: 'max',
  longest: 'longest',
  stale: 'stale',
}

/** A document as it was opened. */
export const documentAtFirst = (project: Project, revision: number): DocumentState => ({
  project: withSettings(project),
  revision,
  save: { kind: 'saved' },
  setAside: [],
  missing: [],
  canUndo: false,
  canRedo: false,
  notice: null,
})

/** The panel before the worker has told of it. */
export const liveAtFirst = (project: Project): LiveState => ({
  worker: { is: 'well' },
  nowUs: 0,
  lastEntry: 0,
  lastEvent: 0,
  light: 100,
  conversation: 0,
  page: null,
  busy: { 'to panel': 0, 'to host': 0 },
  values: {},
  own: {},
  host: [],
  outputs: [],
  findings: [],
  plan: null,
  wire: null,
  running: false,
  speed: 1,
  silent: false,
  stepping: null,
  count: 0,
  letters: 0,
  making: false,
  width: project.panel.width,
  height: project.panel.height,
})

/** The first page, nothing selected. */
export const viewAtFirst = (project: Project): ViewState => ({
  lamp: 'edit',
  alt: false,
  page: firstPage(project),
  widgets: [],
  variable: null,
  command: null,
  artwork: '',
  addresses: 'hex',
  adding: null,
  addingFor: '',
  addAt: null,
  areas: false,
  starts: false,
  sight: 'as it is',
  shown: 'now',
  table: false,
  column: 'path',
  tab: 'page',
  sought: '',
  columns: true,
  swept: null,
})
