import Joi from 'joi'
import { colourInstead, colourRefs, colourText, itemList, type Item } from '../describe/index.ts'
import { compileFace, faceInstead, faceRefs, faceSchema, iconName, noFace, type CompiledFace, type Face } from '../faces/index.ts'
import { iconPath } from '../artwork/index.ts'
import { colourToRgb565, type Rgb565 } from '../raster/index.ts'
import type { Type } from '../describe/index.ts'
import type { CompileContext } from '../settings/index.ts'
import { sameJson } from '../base/index.ts'
import { isNumber, type Holds } from '../variables/index.ts'

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

/** An icon by its name, or '' for none; a build holds its outline, so that it has only those it shows. */
export const iconType: Type<string, string | null> = {
  name: 'icon',
  schema: iconName,
  compile: iconPath,
}

/** Face behind a value. */
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

/** Whether a state holds for a value. */
export const holdsFor = (when: StateWhen, value: number): boolean =>
  when.by === 'value'
    ? value === when.value
    : when.by === 'range'
      ? value >= when.from && value <= when.to
      : ((value >> when.bit) & 1) === (when.set ? 1 : 0)

/** The first state that holds for a value. */
export const stateThatHolds = <S extends { when: StateWhen }>(states: readonly S[], value: number): S | null =>
  states.find((state) => holdsFor(state.when, value)) ?? null

/** Faults of a list of states: one that no value brings, one behind another for the same, words that none covers. */
export function statesFindings(
  states: readonly State[],
  holds: Holds | null,
): { code: string; facts: Record<string, string>; says: string }[] {
  const found: { code: string; facts: Record<string, string>; says: string }[] = []
  if (!holds || holds.type === 'text') return found
  const values = holds.type === 'choice' ? holds.choices.map((c) => c.value) : null
  const reached = (when: StateWhen): boolean => {
    if (when.by === 'bit') return holds.type !== 'flags' || !holds.names.some(Boolean) || Boolean(holds.names[when.bit])
    const [low, high] = when.by === 'value' ? [when.value, when.value] : [when.from, when.to]
    if (values) return values.some((v) => v >= low && v <= high)
    return !isNumber(holds) || (high >= holds.min && low <= holds.max && low <= high)
  }
  const hidden = (k: number): boolean =>
    states.slice(0, k).some(({ when }) => {
      const mine = states[k]!.when
      if (when.by === 'bit' || mine.by === 'bit') return sameJson(when, mine)
      const [a, b] = when.by === 'value' ? [when.value, when.value] : [when.from, when.to]
      const [c, d] = mine.by === 'value' ? [mine.value, mine.value] : [mine.from, mine.to]
      return c >= a && d <= b
    })
  states.forEach((state, k) => {
    const word = state.meaning || `state ${k + 1}`
    if (!reached(state.when)) found.push({ code: 'state-never', facts: { word }, says: `state “${word}” can never be reached` })
    else if (hidden(k)) found.push({ code: 'state-twice', facts: { word }, says: `state “${word}” is hidden by an earlier one` })
  })
  const open = values?.filter((v) => !stateThatHolds(states, v)) ?? []
  if (states.length && open.length && holds.type === 'choice') {
    const words = holds.choices
      .filter((c) => open.includes(c.value))
      .map((c) => c.word)
      .join(', ')
    found.push({ code: 'state-open', facts: { words }, says: `no state for ${words}` })
  }
  return found
}
