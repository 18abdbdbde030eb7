import Joi from 'joi'
import { colourText, idOrNone, number, plain, reference, text, whole, yesNo, type Type } from '../describe/index.ts'
import { colourToRgb565, type Rgb565 } from '../raster/index.ts'
import type { Cell } from '../variables/index.ts'
import type { CompileContext } from './setting.ts'

/** Which typeface, and how many pixels to the em. */
export interface FontChoice {
  typeface: string
  size: number
}

const colour: Type<string, Rgb565> = { name: 'colour', schema: colourText, compile: colourToRgb565 }

const mask: Type<number> = plain('mask', Joi.number().integer().min(1).max(0xffff))

const font: Type<FontChoice, string | null, CompileContext> = {
  name: 'font',
  schema: Joi.object<FontChoice>({
    typeface: idOrNone('typeface').required(),
    size: Joi.number().integer().min(6).max(200).required(),
  }),
  refs: ({ typeface }) => [{ to: typeface, use: 'names' }],
  unbind: (raw, gone) => (raw.typeface === gone ? { ...raw, typeface: '' } : raw),
  compile: ({ typeface, size }, context) => context.sheet(typeface, size),
}

const cell = (id: string, context: CompileContext): Cell | null => context.cell(id)

/** The kinds of value that need nothing but what stands below. Others are made by those who know more. */
export const settingTypes = {
  text,
  number,
  whole,
  yesNo,
  colour,
  /** Some of sixteen bits, at least one. */
  mask,
  font,
  /** A variable that is read, and one that is written. */
  variable: reference('variable', 'reads', cell),
  written: reference('variable', 'writes', cell),
  /** One that is shown and that a finger changes. */
  touched: {
    ...reference('variable', 'reads', cell),
    refs: (to: string) => [
      { to, use: 'reads' as const },
      { to, use: 'writes' as const },
    ],
  },
  page: reference('page', 'names', (id, context: CompileContext) => context.pageNumber(id)),
  widget: reference('widget', 'names', (id, context: CompileContext) => context.widgetNumber(id)),
}
