import Joi from 'joi'
import { colourText, type ColourText } from '../../describe/index.ts'
import {
  coloursOf,
  isRole,
  isStyleRole,
  lookChoices,
  palettes,
  type ColourId,
  type Looks,
  type StyleId,
  type TypeStyle,
} from '../../palette/index.ts'
import type { WidgetId } from '../../base/index.ts'
import type { FontChoice } from '../../settings/index.ts'
import { idSchema } from '../schema.ts'
import { setIn } from './widgets.ts'
import {
  freeName,
  mustBeNew,
  mustFind,
  mustHaveNumber,
  namesOf,
  nextNumber,
  placed,
  refuse,
  setsValues,
  takeOut,
  valuesFor,
  type Edit,
  type Values,
} from './edit.ts'

const colour = idSchema('colour').required()
const style = idSchema('style').required()

const addColour: Edit<{ id: ColourId; name: string; night: string; day: string }> = {
  name: 'add colour',
  args: Joi.object({
    id: colour,
    name: Joi.string().trim().min(1).max(60).required(),
    night: Joi.string().required(),
    day: Joi.string().required(),
  }),
  apply(draft, { id, name, night, day }) {
    mustBeNew(draft.colours, id)
    draft.colours[id] = { id, name: freeName(name, namesOf(draft.colours)), night, day }
    draft.colourOrder = placed(draft.colourOrder, [id], '')
  },
}

const setColour = setsValues<{ id: ColourId; values: Values }>({
  name: 'set colour',
  args: Joi.object({ id: colour, values: valuesFor('name', 'night', 'day') }),
  targets: (project, { id }) => [mustFind(project.colours, id)],
})

/** A colour that is deleted leaves another in its place wherever it is used: `instead`, or what it was by night. */
const deleteColour: Edit<{ id: ColourId; instead?: ColourText }> = {
  name: 'delete colour',
  args: Joi.object({ id: colour, instead: colourText }),
  apply(draft, { id, instead }, before) {
    const gone = mustFind(draft.colours, id)
    if (isRole(id)) refuse('role', { name: gone.name })
    const unbound = takeOut(draft, before, draft.colours, id, instead && !instead.startsWith(id) ? instead : gone.night)
    draft.colourOrder = draft.colourOrder.filter((other) => other !== id)
    return { unbound }
  },
}

/** The ten colours become those of a palette; colours of one's own stay. */
const takePalette: Edit<{ palette: string }> = {
  name: 'use palette',
  args: Joi.object({ palette: Joi.valid(...palettes.map((p) => p.name)).required() }),
  apply(draft, { palette }) {
    for (const { id, name, night, day } of coloursOf(palettes.find((p) => p.name === palette)!)) {
      const known = draft.colours[id]
      if (known) Object.assign(known, { night, day })
      else {
        draft.colours[id] = { id, name, night, day }
        draft.colourOrder = [...draft.colourOrder, id]
      }
    }
  },
}

const setLooks: Edit<{ looks: Looks }> = {
  name: 'set looks',
  args: Joi.object({ looks: Joi.valid(...lookChoices).required() }),
  apply(draft, { looks }) {
    draft.looks = looks
  },
}

const addStyle: Edit<Pick<TypeStyle, 'id' | 'name' | 'typeface' | 'size'> & Partial<TypeStyle>> = {
  name: 'add style',
  args: Joi.object({
    id: style,
    name: Joi.string().trim().min(1).max(60).required(),
    typeface: idSchema('typeface').allow('').required(),
    size: Joi.number().required(),
    weight: Joi.number(),
    bits: Joi.number(),
    more: Joi.string().allow(''),
  }),
  apply(draft, { id, name, ...rest }) {
    mustBeNew(draft.styles, id)
    draft.styles[id] = {
      weight: 0,
      bits: 8,
      more: '',
      ...rest,
      id,
      number: nextNumber(draft, 'styles'),
      name: freeName(name, namesOf(draft.styles)),
    }
    draft.styleOrder = placed(draft.styleOrder, [id], '')
  },
}

/** Texts with a custom font get a font of the project instead. */
const nameFont: Edit<{ id: StyleId; name: string; font: FontChoice; widgets: Record<WidgetId, readonly string[]> }> = {
  name: 'name font',
  args: Joi.object({
    id: style,
    name: Joi.string().trim().min(1).max(60).required(),
    font: Joi.object({
      typeface: idSchema('typeface').required(),
      size: Joi.number().required(),
      weight: Joi.number(),
      bits: Joi.number(),
    }).required(),
    widgets: Joi.object()
      .pattern(/^widget:/, Joi.array().items(Joi.string().max(60)).max(20))
      .required(),
  }),
  apply(draft, { id, name, font, widgets }, before) {
    addStyle.apply(draft, { id, name, ...font }, before)
    for (const [widget, keys] of Object.entries(widgets))
      setIn(draft, mustFind(draft.widgets, widget), Object.fromEntries(keys.map((key) => [key, id])))
  },
}

const setStyle = setsValues<{ id: StyleId; values: Values }>({
  name: 'set style',
  args: Joi.object({ id: style, values: valuesFor('name', 'number', 'typeface', 'size', 'weight', 'bits', 'more') }),
  targets: (project, { id }) => [mustFind(project.styles, id)],
  last(draft, { id, values }) {
    if ('number' in values) mustHaveNumber(draft, 'styles', id, mustFind(draft.styles, id).number)
  },
})

const deleteStyle: Edit<{ id: StyleId }> = {
  name: 'delete style',
  args: Joi.object({ id: style }),
  apply(draft, { id }, before) {
    const gone = mustFind(draft.styles, id)
    if (isStyleRole(id)) refuse('role', { name: gone.name })
    const unbound = takeOut(draft, before, draft.styles, id, 'style:caption')
    draft.styleOrder = draft.styleOrder.filter((other) => other !== id)
    return { unbound }
  },
}

export const paletteEdits = [
  addColour,
  setColour,
  deleteColour,
  takePalette,
  setLooks,
  addStyle,
  nameFont,
  setStyle,
  deleteStyle,
] as Edit[]
