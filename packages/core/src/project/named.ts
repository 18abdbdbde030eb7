import type { LetterSpec } from '../artwork/index.ts'
import type { ColourText } from '../describe/index.ts'
import { colourIn, type Look, type StyleId } from '../palette/index.ts'
import type { FontChoice, FontSetting } from '../settings/index.ts'
import type { FaceId, TypefaceId } from '../base/index.ts'
import type { Face } from '../faces/index.ts'
import type { Project, TypefaceRecord } from './types.ts'

/** `#rrggbb` of a stored colour; '' for none. `look`: the one the project has, by night where it has both. */
export const colourOf = (project: Project, colour: ColourText, look: Look = firstLook(project)): string =>
  colourIn(project.colours, look, colour)

/** The look that a panel begins with. */
export const firstLook = ({ looks }: Pick<Project, 'looks'>): Look => (looks === 'day' ? 'day' : 'night')

/** Resolution of a stored font: that of its style, or itself. A style without a typeface has the first of the project. */
export function fontOf(project: Project, font: FontSetting): FontChoice {
  if (typeof font !== 'string') return font
  const style = project.styles[font as StyleId]
  if (!style) return { typeface: '', size: 16 }
  const { typeface, size, weight, bits } = style
  return {
    typeface: typeface || (project.typefaceOrder[0] ?? ''),
    size,
    ...(weight ? { weight } : {}),
    ...(bits !== 8 ? { bits } : {}),
  }
}

/** A face as it is: that of its name, where it has one. */
export const faceOf = ({ faces }: Project, face: Face): Face => (face.named ? (faces[face.named as FaceId]?.face ?? face) : face)

/** Letters that a font has besides those that something needs. */
export const moreLettersOf = (project: Project, font: FontSetting): string =>
  typeof font === 'string' ? (project.styles[font as StyleId]?.more ?? '') : ''

/** Typefaces are looked through for a letter that is lacking so far and no farther. */
const mostFallbacks = 4

/** The typefaces that stand in for letters which one lacks, nearest first, each once. */
export function fallbacksOf(project: Project, typeface: TypefaceRecord): TypefaceRecord[] {
  const found: TypefaceRecord[] = []
  let at = project.typefaces[typeface.fallback as TypefaceId]
  while (at && at !== typeface && !found.includes(at) && found.length < mostFallbacks) {
    found.push(at)
    at = project.typefaces[at.fallback as TypefaceId]
  }
  return found
}

/** How the letters of a font are made; null where it has no typeface. */
export function letterSpecOf(project: Project, font: FontSetting): LetterSpec | null {
  const { typeface, size, weight, bits } = fontOf(project, font)
  const record = project.typefaces[typeface as TypefaceId]
  return record
    ? {
        asset: record.asset,
        px: size,
        weight: record.weightTo ? (weight ?? 0) : 0,
        bits: bits ?? 8,
        fallbacks: fallbacksOf(project, record).map(({ asset }) => asset),
        kerns: project.panel.kerns,
      }
    : null
}

/** The typeface that a stored font is set in; undefined where there is none. */
export const typefaceOf = (project: Project, font: FontSetting): TypefaceRecord | undefined =>
  project.typefaces[fontOf(project, font).typeface as TypefaceId]
