import Joi from 'joi'
import { colourToRgb565 } from '../raster/index.ts'
import type { SettingType } from './setting.ts'

const id = (kind: string) =>
  Joi.string()
    .pattern(new RegExp(`^${kind}:[0-9a-z_-]{1,40}$`))
    .allow('')

const reference = (kind: 'variable' | 'page' | 'widget', compile?: SettingType['compile']): SettingType => ({
  name: kind,
  schema: id(kind),
  refs: (value) => [String(value)],
  unbind: (value, gone) => (value === gone ? '' : value),
  ...(compile ? { compile } : {}),
})

/** Which typeface, and how many pixels to the em. */
export interface FontChoice {
  typeface: string
  size: number
}

/** The kinds of value that need nothing but what stands below. Others are made by those who know more. */
export const settingTypes = {
  text: { name: 'text', schema: Joi.string().allow('').max(400) },
  number: { name: 'number', schema: Joi.number() },
  whole: { name: 'whole', schema: Joi.number().integer() },
  yesNo: { name: 'yesNo', schema: Joi.boolean() },
  choice: { name: 'choice', schema: Joi.string() },
  colour: {
    name: 'colour',
    schema: Joi.string().pattern(/^#[0-9a-fA-F]{6}$/),
    compile: (value) => colourToRgb565(String(value)),
  },
  font: {
    name: 'font',
    schema: Joi.object<FontChoice>({
      typeface: id('typeface').required(),
      size: Joi.number().integer().min(6).max(200).required(),
    }),
    refs: (value) => [(value as FontChoice).typeface],
    unbind: (value, gone) => ((value as FontChoice).typeface === gone ? { ...(value as FontChoice), typeface: '' } : value),
    compile: (value, context) => context.sheet((value as FontChoice).typeface, (value as FontChoice).size),
  },
  variable: reference('variable', (value, context) => context.cell(String(value))),
  page: reference('page', (value, context) => context.pageNumber(String(value))),
  widget: reference('widget', (value, context) => context.widgetNumber(String(value))),
} satisfies Record<string, SettingType>
