import { describe, type ColourText, type Described, type Fields } from '../describe/index.ts'
import type { Smoothing } from '../raster/index.ts'
import type { Cell } from '../variables/index.ts'

/** Which typeface, and how many pixels to the em. */
export interface FontChoice {
  typeface: string
  size: number
  /** 1 to 1000; none: as the file has it by itself. */
  weight?: number
  /** Bits a pixel; none: 8. */
  bits?: Smoothing
}

/** A font as it is stored: the id of a type style of the project, or one of its own. */
export type FontSetting = FontChoice | string

/** Requests of compiling a value. Null: what is referred to is not there (a finding says so). */
export interface CompileContext {
  cell(variable: string): Cell | null
  pageNumber(page: string): number | null
  widgetNumber(widget: string): number | null
  commandNumber(command: string): number | null
  /** The key of a sheet of letters. */
  sheet(font: FontSetting): string | null
  /** `#rrggbb` of a stored colour, in the look that is compiled. */
  colour(colour: ColourText): string
  /** A face of the project by its id; faces know what is in it. */
  face(id: string): unknown
  /** A picture as the build names it. */
  picture(picture: string): { key: string; width: number; height: number; opaque: boolean } | null
}

/** A description whose values are compiled against a project. */
export const described = <const F extends Fields<CompileContext>>(fields: F): Described<CompileContext, F> => describe(fields)
