import { describe, type Described, type Fields } from '../describe/index.ts'
import type { Cell } from '../variables/index.ts'

/** What compiling a value may ask for. Null: what is referred to is not there (a finding says so). */
export interface CompileContext {
  cell(variable: string): Cell | null
  pageNumber(page: string): number | null
  widgetNumber(widget: string): number | null
  /** The key of a sheet of letters. */
  sheet(typeface: string, size: number): string | null
}

/** A description whose values are compiled against a project. */
export const described = <const F extends Fields<CompileContext>>(fields: F): Described<CompileContext, F> => describe(fields)
