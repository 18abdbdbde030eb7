import Joi from 'joi'
import { colourInstead, colourRefs, colourText, itemList, type Item } from '../describe/index.ts'
import { compileFace, faceInstead, faceRefs, faceSchema, noFace, type CompiledFace, type Face } from '../faces/index.ts'
import { colourToRgb565, type Rgb565 } from '../raster/index.ts'
import type { Type } from '../describe/index.ts'
import type { CompileContext } from '../settings/index.ts'

/** When a state holds: a value, a range with both ends, or a bit that is set or clear. */
export type StateWhen =
  { by: 'value'; value: number } | { by: 'range'; from: number; to: number } | { by: 'bit'; bit: number; set: boolean }

/** One state of an indicator: the first that holds is shown. `meaning` is what it says in words. */
export interface State extends Item {
  when: StateWhen
  meaning: string
  face: Face
  textColour: string
}

export interface CompiledState {
  when: StateWhen
  meaning: string
  face: CompiledFace
  textColour: Rgb565
}

const whenSchema = Joi.alternatives().conditional('.by', {
  switch: [
    { is: 'value', then: Joi.object({ by: Joi.valid('value'), value: Joi.number().required() }) },
    { is: 'range', then: Joi.object({ by: Joi.valid('range'), from: Joi.number().required(), to: Joi.number().required() }) },
  ],
  otherwise: Joi.object({
    by: Joi.valid('bit').required(),
    bit: Joi.number().integer().min(0).max(15).required(),
    set: Joi.boolean().required(),
  }),
})

const stateList = itemList('state', {
  when: whenSchema.required(),
  meaning: Joi.string().allow('').max(60).required(),
  face: faceSchema.required(),
  textColour: colourText.required(),
}).max(32)

export const faceType: Type<Face, CompiledFace, CompileContext> = {
  name: 'face',
  schema: faceSchema,
  refs: faceRefs,
  unbind: faceInstead,
  compile: compileFace,
}

/** What a value stands on. */
export const valueFace = {
  label: 'Face',
  type: faceType,
  default: noFace,
  group: 'Looks',
}

export const statesType: Type<readonly State[], readonly CompiledState[], CompileContext> = {
  name: 'states',
  schema: stateList,
  refs: (states) => states.flatMap(({ face, textColour }) => [...faceRefs(face), ...colourRefs(textColour)]),
  unbind: (states, gone, instead) =>
    states.map((state) => ({
      ...state,
      face: faceInstead(state.face, gone, instead),
      textColour: colourInstead(state.textColour, gone, instead),
    })),
  compile: (states, context) =>
    states.map(({ when, meaning, face, textColour }) => ({
      when,
      meaning,
      face: compileFace(face, context),
      textColour: colourToRgb565(context.colour(textColour)),
    })),
}
