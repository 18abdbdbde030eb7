import Joi from 'joi'
import { idPattern } from '../base/index.ts'
import {
  colourInstead,
  colourRefs,
  colourText,
  idOrNone,
  number,
  plain,
  reference,
  text,
  whole,
  yesNo,
  type ColourText,
  type Type,
} from '../describe/index.ts'
import { colourToRgb565, smoothings, type Rgb565 } from '../raster/index.ts'
import type { Cell } from '../variables/index.ts'
import type { CompileContext, FontChoice, FontSetting } from './setting.ts'

const colour: Type<ColourText, Rgb565, CompileContext> = {
  name: 'colour',
  schema: colourText,
  refs: colourRefs,
  unbind: colourInstead,
  compile: (raw, context) => colourToRgb565(context.colour(raw)),
}

const mask: Type<number> = plain('mask', Joi.number().integer().min(1).max(0xffff))

const font: Type<FontSetting, string | null, CompileContext> = {
  name: 'font',
  schema: Joi.alternatives().conditional(Joi.object(), {
    then: Joi.object<FontChoice>({
      typeface: idOrNone('typeface').required(),
      size: Joi.number().integer().min(6).max(200).required(),
      weight: Joi.number().integer().min(1).max(1000),
      bits: Joi.valid(...smoothings),
    }),
    otherwise: Joi.string().pattern(idPattern('style'), 'a type style'),
  }),
  refs: (raw) => [{ to: typeof raw === 'string' ? raw : raw.typeface, use: 'names' }],
  unbind: (raw, gone, instead) =>
    raw === gone ? instead || 'style:caption' : typeof raw !== 'string' && raw.typeface === gone ? { ...raw, typeface: '' } : raw,
  compile: (raw, context) => context.sheet(raw),
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
  command: reference('command', 'names', (id, context: CompileContext) => context.commandNumber(id)),
  /** A picture that is not in the build: to look at while one builds. */
  picture: reference('picture', 'names', () => null),
  widget: reference('widget', 'names', (id, context: CompileContext) => context.widgetNumber(id)),
}
