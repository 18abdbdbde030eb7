import type { ArtworkPlan, FontPart } from '../compile/index.ts'
import { sheetKey } from '../compile/index.ts'
import { cutOf, letterSpecOf, usersOf, type PictureRecord, type Project } from '../project/index.ts'
import type { StyleId } from '../palette/index.ts'
import { expand565 } from '../raster/index.ts'

/** An edit after which artwork takes less room. */
export interface Shrinking {
  says: string
  /** Bytes. */
  saves: number
  /** The glass is the same to the pixel. */
  same: boolean
  edit: string
  args: Record<string, unknown>
}

/** Least saving that is worth a line, bytes. */
const least = 512

/** Ways to save flash, the largest saving first. */
export function shrinkings(project: Project, plan: ArtworkPlan): Shrinking[] {
  return [...pictureShrinkings(project, plan), ...fontShrinkings(project, plan)]
    .filter(({ saves }) => saves >= least)
    .sort((a, b) => b.saves - a.saves)
}

const hex = (colour: number): string => {
  const { red, green, blue } = expand565(colour)
  return `#${[red, green, blue].map((part) => part.toString(16).padStart(2, '0')).join('')}`
}

function pictureShrinkings(project: Project, plan: ArtworkPlan): Shrinking[] {
  return project.pictureOrder.flatMap((id) => {
    const picture = project.pictures[id]!
    const parts = plan.pictures.filter((part) => part.id === id)
    const [first] = parts
    if (!first) return []
    const sum = (key: 'bytes' | 'plain' | 'runs') => parts.reduce((all, part) => all + part[key], 0)
    const found: Shrinking[] = []
    if (parts.every(({ flat }) => flat === first.flat) && first.flat >= 0)
      found.push({
        says: `replace “${picture.name}” by a solid face`,
        saves: sum('bytes'),
        same: false,
        edit: 'draw picture',
        args: { id, fill: hex(first.flat) },
      })
    else if (picture.kept === 'plain' && project.panel.readsRuns)
      found.push({
        says: `RLE-compress “${picture.name}”`,
        saves: sum('plain') - sum('runs'),
        same: true,
        edit: 'set picture',
        args: { id, values: { kept: 'runs' } },
      })
    const shown = largestPlace(project, picture)
    if (picture.way === 'exact' && !cutOf(picture) && shown && (shown.width < picture.width || shown.height < picture.height)) {
      const size = { width: Math.min(picture.width, shown.width), height: Math.min(picture.height, shown.height) }
      found.push({
        says: `crop “${picture.name}” to the visible part, ${size.width} × ${size.height}`,
        saves: Math.round(sum('bytes') * (1 - (size.width * size.height) / (picture.width * picture.height))),
        same: false,
        edit: 'set picture',
        args: { id, values: size },
      })
    }
    return found
  })
}

/** The largest place that shows a picture, px; null where nothing does. */
function largestPlace(project: Project, { id }: PictureRecord): { width: number; height: number } | null {
  const places = usersOf(project, id).map(
    ({ from }) => project.widgets[from as keyof typeof project.widgets]?.place ?? project.panel,
  )
  return places.length
    ? { width: Math.max(...places.map((p) => p.width)), height: Math.max(...places.map((p) => p.height)) }
    : null
}

function fontShrinkings(project: Project, plan: ArtworkPlan): Shrinking[] {
  const named = new Map<string, StyleId[]>()
  for (const id of project.styleOrder) {
    const spec = letterSpecOf(project, id)
    if (spec) named.set(sheetKey(spec), [...(named.get(sheetKey(spec)) ?? []), id])
  }
  return plan.fonts.flatMap((part) => {
    // Letters that several fonts share go only when all of them are changed.
    const ids = named.get(part.key) ?? []
    const [id] = ids
    if (!id || ids.length > 1) return []
    const { name, more } = project.styles[id]!
    const set = (says: string, saves: number, values: object): Shrinking => ({
      says,
      saves: Math.round(saves),
      same: false,
      edit: 'set style',
      args: { id, values },
    })
    const found: Shrinking[] = []
    // Outlines are the same for any size and smoothing.
    const isDrawn = project.panel.drawsLetters
    if (!isDrawn && part.spec.bits === 8)
      found.push(set(`“${name}” with 4-bit smoothing (barely visible)`, part.bytes / 2, { bits: 4 }))
    else if (!isDrawn && part.spec.bits === 4) found.push(set(`“${name}” with 2-bit smoothing`, part.bytes / 2, { bits: 2 }))
    const near = isDrawn ? undefined : nearest(plan, part)
    if (near) found.push(set(`“${name}” merged with the ${near.spec.px} px font`, part.bytes, { size: near.spec.px }))
    if (more && part.letters) {
      const extra = [...new Set(more)].filter((letter) => part.letters.includes(letter)).length
      found.push(set(`“${name}” without extra characters`, (part.bytes * extra) / [...part.letters].length, { more: '' }))
    }
    return found
  })
}

/** Other letters of the same typeface that are hardly larger or smaller. */
const nearest = ({ fonts }: ArtworkPlan, { key, spec }: FontPart): FontPart | undefined =>
  fonts.find(
    (other) =>
      other.key !== key &&
      Math.abs(other.spec.px - spec.px) <= 2 &&
      sheetKey({ ...other.spec, px: 0 }) === sheetKey({ ...spec, px: 0 }),
  )
