import type { ColourText } from '../describe/index.ts'
import { colourIn, type Look, type StyleId } from '../palette/index.ts'
import type { FontChoice, FontSetting } from '../settings/index.ts'
import type { TypefaceId } from '../base/index.ts'
import type { Project, TypefaceRecord } from './types.ts'

/** `#rrggbb` of a stored colour; '' for none. `look`: the one the project has, by night where it has both. */
export const colourOf = (project: Project, colour: ColourText, look: Look = firstLook(project)): string =>
  colourIn(project.colours, look, colour)

/** The look that a panel begins with. */
export const firstLook = ({ looks }: Pick<Project, 'looks'>): Look => (looks === 'day' ? 'day' : 'night')

/** What a stored font comes to: that of its style, or itself. A style without a typeface has the first of the project. */
export function fontOf(project: Project, font: FontSetting): FontChoice {
  if (typeof font !== 'string') return font
  const style = project.styles[font as StyleId]
  return style ? { typeface: style.typeface || (project.typefaceOrder[0] ?? ''), size: style.size } : { typeface: '', size: 16 }
}

/** The typeface that a stored font is set in; undefined where there is none. */
export const typefaceOf = (project: Project, font: FontSetting): TypefaceRecord | undefined =>
  project.typefaces[fontOf(project, font).typeface as TypefaceId]
