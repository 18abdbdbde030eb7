import type { ArtworkPlan } from './plan.ts'
import type { Problem, Rect } from '../base/index.ts'
import type { CompiledFace } from '../faces/index.ts'
import type { Layout, LinkSettings } from '../frames/index.ts'
import type { Looks } from '../palette/index.ts'
import type { BuildCell, conductSettings, PageKind } from '../project/index.ts'
import type { Book } from '../protocols/index.ts'
import type { Bitmap, GlyphSheet } from '../raster/index.ts'
import type { SettledOf, Values } from '../describe/index.ts'
import type { CompiledRule } from '../rules/index.ts'
import type { Cell, MemoryPlan } from '../variables/index.ts'

/** A widget with every reference resolved. `cells` are what it reads: when one changes, it may look different. */
export interface BuildWidget {
  number: number
  kind: string
  place: Rect
  settings: Values
  /** Of a project with two looks: those settings that are others by day. */
  day?: Values
  cells: Cell[]
  /** Those of `cells` by which more than the moving part may change. */
  followed: Cell[]
}

export interface BuildPage {
  number: number
  kind: PageKind
  background: CompiledFace
  /** By day, where that is another. */
  dayBackground?: CompiledFace
  widgets: BuildWidget[]
  /** When what is changed on it is reported. */
  sends: 'at once' | 'on leaving'
  /** Of a pop-up: how much of what lies below fades to its ground, %. */
  veil: number
  /** How long it is shown, ms, before the page of that number comes; 0: until it is left. */
  showsForMs: number
  then: number | null
  /** A touch anywhere brings what comes after it. */
  skips: boolean
  rules: readonly CompiledRule[]
}

export type CompiledConduct = SettledOf<typeof conductSettings.fields> & {
  /** The darkest backlight that is read: nothing on the panel makes it darker. */
  darkest: number
}

/** Plain data: no ids of the project, no functions. Sheets name their chunks by hash. */
export interface BuildHeader {
  format: 1
  /** 1–65535: `contract` folded, for the word that a host asks. */
  version: number
  /** 32 bits: a stamp of what a host can tell by behaviour and bytes, names on the wire included. */
  contract: number
  /** 32 bits: a stamp of everything else here, for whoever hands a build over. */
  content: number
  width: number
  height: number
  memory: MemoryPlan
  touch: { contactMs: number; deafMs: number }
  link: LinkSettings
  layout: Layout
  /** Number of the page shown at power-on; null: there is none. */
  startPage: number | null
  looks: Looks
  conduct: CompiledConduct
  pages: BuildPage[]
  cells: BuildCell[]
  sheets: Record<
    string,
    { ascent: number; descent: number; capHeight: number; metrics: string; coverage: string; kerning?: string }
  >
  /** Pictures in the colours of the glass; no alpha: they cover all of their place. */
  pictures: Record<string, { width: number; height: number; pixels: string; alpha: string }>
}

/** For tools only: what the numbers of the build are called in the project. */
export interface Symbols {
  pages: { number: number; id: string; name: string; widgets: { number: number; id: string; name: string }[] }[]
  variables: { index: number; id: string; name: string }[]
}

export interface Build {
  header: BuildHeader
  /** Meanings of the names on the wire. Part of a version only where the wire has names. */
  book: Book
  chunks: Record<string, Int32Array | Uint8Array | Uint16Array>
  /** Chunks that cannot be made, by the asset they need. */
  problems: readonly { asset: string; problem: Problem }[]
  symbols: Symbols
  /** Flash that it takes on the panel: for tools only. */
  plan: ArtworkPlan
}

/** The sheets of a build as the panel draws from them. */
export function sheetsOf(build: Build): Map<string, GlyphSheet> {
  const out = new Map<string, GlyphSheet>()
  for (const [key, { metrics, coverage, kerning, ...sizes }] of Object.entries(build.header.sheets))
    out.set(key, {
      ...sizes,
      metrics: build.chunks[metrics] as Int32Array,
      coverage: build.chunks[coverage] as Uint8Array,
      ...(kerning ? { kerning: build.chunks[kerning] as Int32Array } : {}),
    })
  return out
}

/** The pictures of a build as the panel draws them. */
export function bitmapsOf(build: Build): Map<string, Bitmap> {
  const out = new Map<string, Bitmap>()
  for (const [key, { pixels, alpha, ...sizes }] of Object.entries(build.header.pictures))
    out.set(key, {
      ...sizes,
      pixels: build.chunks[pixels] as Uint16Array,
      alpha: alpha ? (build.chunks[alpha] as Uint8Array) : null,
    })
  return out
}
