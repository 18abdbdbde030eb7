import type { Direction, Layout, Message, Reason } from '@moth-lamp/core/frames'
import type { Finding } from '@moth-lamp/core/findings'
import type { Patch, Project, Request } from '@moth-lamp/core/project'
import type { Book } from '@moth-lamp/core/protocols'
import type { ArtworkPlan } from '@moth-lamp/core/compile'
import type { Chunk, ChunkRequest, PictureInfo, TypefaceFacts } from '@moth-lamp/core/artwork'
import type { Rect, Result } from '@moth-lamp/core/base'
import type { PanelEvent, Entry } from '@moth-lamp/core/rig'
import type { JudgedLog } from '@moth-lamp/core/exchanges'
import type { LogFilter, LogPart, Said } from '@moth-lamp/core/explain'
import type { Progress, StepResult } from '@moth-lamp/core/exchanges'
import type { TextExtent } from '@moth-lamp/core/host'
import type { Look } from '@moth-lamp/core/palette'
import type { Value } from '@moth-lamp/core/variables'
import type { LiveValue } from '@moth-lamp/core/workbench'

/** Messages of the page to the worker. */
export type ToWorker =
  /** `count`: changes that the project has in it; `conversation`: above every number of one that an earlier worker has told. */
  | { type: 'open'; project: Project; count: number; assets: Map<string, Uint8Array>; conversation: number }
  /** Nothing of the project is needed any more: answered by `closed`. */
  | { type: 'close' }
  | { type: 'change'; patches: Patch[]; count: number }
  | { type: 'take'; project: Project; count: number }
  /** A font file that a change names, or will. */
  | { type: 'asset'; sha: string; bytes: Uint8Array }
  | { type: 'preview'; request: Request }
  | { type: 'cancel preview' }
  | { type: 'touch'; phase: 'down' | 'move' | 'up'; x: number; y: number }
  | { type: 'send bytes'; direction: Direction; bytes: Uint8Array }
  | { type: 'host writes'; id: string; value: Value; extent?: TextExtent }
  | { type: 'host asks'; id: string }
  | { type: 'host commands'; id: string; values: readonly (Value | null)[] }
  | { type: 'host silent'; silent: boolean }
  | { type: 'clock'; run: boolean; speed: number }
  /** Lets so much of the panel's time pass, in slices, after what is still to pass of a step before. */
  | { type: 'step'; us: number }
  /** The rest of the time that was still to pass does not pass. */
  | { type: 'stop step' }
  | { type: 'power'; which: 'panel' | 'host' | 'both' }
  | { type: 'restart' }
  /** Which page the desk draws; null: the glass shows the live panel. */
  | { type: 'look at'; page: string | null }
  /** Values for the desk to show instead of what is stored, by variable; null: what is stored. */
  | { type: 'pretend'; values: Record<string, Value> | null; stale: boolean }
  /** Which of two looks the panel shows, as if its own word had been written. */
  | { type: 'show look'; look: Look }
  | { type: 'taken' }
  | { type: 'are you there'; ask: number }
  /** Frames after `since`, and what happened beside them after `beside`. */
  | { type: 'conversation'; since: number; events: number; ask: number }
  | { type: 'thumbnail'; page: string; width: number; ask: number }
  /** A kind of widget, untouched, as this project's panel would draw it. */
  | { type: 'kind picture'; kind: string; width: number; ask: number }
  /** How wide a widget must be to show a text, px. */
  | { type: 'width for'; widget: string; text: string; ask: number }
  | { type: 'preview write'; id: string; value: Value; extent?: TextExtent; ask: number }
  | { type: 'preview command'; id: string; values: readonly (Value | null)[]; ask: number }
  | { type: 'frames of'; widget: string; ask: number }
  | { type: 'reset variable'; id: string }
  | { type: 'run exchange'; id: string; ask: number }
  | { type: 'stop exchange'; ask: number }
  /** The glass of a run of an exchange as it was at a moment. */
  | { type: 'glass of exchange'; id: string | null; atUs: number | null; ask: number }

/** The part of a log that is looked at: so many of the stretches that pass the filter. */
export interface LogView {
  from: number
  count: number
  filter: LogFilter
}

/** Questions to the worker that explains logs. `next wrong`: the first that is wrong behind a place among those that pass. */
export type ToLog =
  | { type: 'read'; ask: number; project: Project; text: string | Blob; as: Direction | null; view: LogView }
  | { type: 'look'; view: LogView }
  | { type: 'next wrong'; from: number }
  /** An exchange is looked for in it, once it is read. */
  | { type: 'judge'; project: Project; exchange: string }
  /** The rest of the log stays unread. */
  | { type: 'stop' }

/** How far a log is read, and the stretches that are looked at. */
export interface LogReading {
  /** From 0 to 1. */
  share: number
  /** It goes no further. */
  isDone: boolean
  lines: number
  good: number
  bad: number
  /** Lines in which no bytes were found, though something stood there. */
  passedOver: number
  /** Characters between bytes that are no bytes. */
  wrong: readonly { line: number; token: string }[]
  /** Stretches that pass the filter. */
  passing: number
  /** The place among them of the first that is given. */
  from: number
  /** Null: those that were given before are seen still. */
  parts: readonly LogPart[] | null
}

export type FromLog =
  /** Null: the layout cannot be used. */
  | { type: 'reading'; ask: number; reading: LogReading | null }
  | { type: 'next wrong'; ask: number; at: number | null }
  | { type: 'judged'; ask: number; exchange: string; judged: JudgedLog | null }
  | { type: 'too long'; ask: number; characters: number }
  /** The file could not be read. */
  | { type: 'unread'; ask: number; why: string }

/** The facts that a picture file says of itself, and whether anything is seen through it. */
export type LookedPicture = PictureInfo & { seesThrough: boolean }

/** Messages to and from the worker that makes chunks. */
export type ToChunks =
  | { type: 'asset'; sha: string; bytes: Uint8Array }
  | { type: 'make'; key: string; request: ChunkRequest }
  | { type: 'look'; key: string; bytes: Uint8Array }
  | { type: 'look at font'; key: string; bytes: Uint8Array }
export type FromChunks =
  | { key: string; made: Result<Chunk> }
  | { key: string; looked: Result<LookedPicture> }
  | { key: string; font: Result<TypefaceFacts> }

/** Pixels of a rectangle of the glass, RGBA. */
export interface PaintedRect {
  rect: Rect
  rgba: Uint8ClampedArray<ArrayBuffer>
}

export interface HostValue {
  id: string
  name: string
  value: Value | null
  owned: boolean
}

/** Update of the page, at most one per screen refresh and only after the last was taken. */
export interface PanelUpdate {
  type: 'update'
  width: number
  height: number
  painted: PaintedRect[]
  nowUs: number
  lastEntry: number
  lastEvent: number
  /** How bright the panel's glass is, 0–100 %. */
  light: number
  /** Counts the conversations: a power cycle of both begins another. */
  conversation: number
  /** Id of the page the panel shows. */
  page: string | null
  /** Share of the line's time in use over the last second, by direction, 0–1. */
  busy: Record<Direction, number>
  /** Of the panel's values those that are others now, by variable; `all`: every one. */
  values: { all: boolean; of: Record<string, LiveValue> } | null
  /** The panel's own words, by id. */
  own: Record<string, Value> | null
  /** Of the host's values those that are others now; `all`: every one, in the order of the variables. */
  host: { all: boolean; of: HostValue[] } | null
  outputs: { name: string; on: boolean; level: 'high' | 'low' }[] | null
  findings: Finding[] | null
  /** Flash layout of the build. */
  plan: ArtworkPlan | null
  /** Layout and names of the running build. `lastGood`: the project's layout cannot be used. */
  wire: { layout: Layout; book: Book; lastGood: boolean } | null
  /** Grows when letters have come that were still being made: whatever was painted without them may be painted again. */
  letters: number
  /** Letters or pictures are being made which the panel goes without meanwhile. */
  making: boolean
  /** Changes the build has taken in: the page knows by it that an edit is on the glass. */
  count: number
  /** Names of variables that the last change reset, and of those that started at something else than they have. */
  reset: string[]
  startsAt: string[]
  silent: boolean
  /** A step that is under way: how much of it has passed. */
  stepping: { doneUs: number; ofUs: number } | null
}

export type WireEntry = Pick<
  Entry,
  'id' | 'kind' | 'direction' | 'fromUs' | 'toUs' | 'bytes' | 'code' | 'verdict' | 'attempt' | 'answers' | 'answeredBy' | 'note'
> & {
  message: Message | null
  reason: Reason | null
  /** Its text, in the names of the build that was running then. */
  said: Said | null
}

export interface Heard {
  entries: WireEntry[]
  events: PanelEvent[]
}

/** Frames that a press of a widget and its release would send now. */
export interface PressFrames {
  pressed: Uint8Array[]
  lifted: Uint8Array[]
}

export interface ExchangeRun {
  id: string
  passed: boolean
  steps: StepResult[]
  leftOver: WireEntry | null
  endUs: number
  entries: WireEntry[]
  events: PanelEvent[]
}

/** The glass of a run at a moment: its pixels, the page it shows and what a person would read off each widget of it. */
export interface RunGlass {
  /** The moment that it shows, µs since power-on. */
  atUs: number
  painted: PaintedRect
  page: string | null
  shows: Record<string, string>
}

export type FromWorker =
  | PanelUpdate
  /** Nothing more comes of the project that was open. */
  | { type: 'closed' }
  | { type: 'answer'; ask: number; value: unknown }
  | { type: 'progress'; ask: number; progress: Progress }
  | { type: 'lost step'; count: number }
  | { type: 'fault'; message: string }
