import Joi from 'joi'
import { embeddings } from '../../artwork/index.ts'
import type { TypefaceId } from '../../base/index.ts'
import { typefaceDefaults } from '../fresh.ts'
import { assetSchema, idSchema } from '../schema.ts'
import type { TypefaceRecord } from '../types.ts'
import { freeName, mustBeNew, mustFind, setsValues, takeOut, valuesFor, type Edit, type Values } from './edit.ts'

type Added = Pick<TypefaceRecord, 'id' | 'name' | 'asset'> & Partial<TypefaceRecord>

const addTypeface: Edit<Added> = {
  name: 'add typeface',
  args: Joi.object({
    id: idSchema('typeface').required(),
    name: Joi.string().trim().min(1).max(60).required(),
    asset: assetSchema.required(),
    embedding: Joi.valid(...embeddings),
    weightFrom: Joi.number(),
    weightTo: Joi.number(),
  }),
  apply(draft, { id, name, ...rest }) {
    mustBeNew(draft.typefaces, id)
    const names = Object.values(draft.typefaces).map((t) => t.name)
    draft.typefaces[id] = { ...typefaceDefaults, ...rest, id, name: freeName(name, names) }
    draft.typefaceOrder = [...draft.typefaceOrder, id]
  },
}

/** `fallback`: the typeface that letters are taken from which this one lacks. */
const setTypeface = setsValues<{ id: TypefaceId; values: Values }>({
  name: 'set typeface',
  args: Joi.object({ id: idSchema('typeface').required(), values: valuesFor('name', 'fallback') }),
  targets: (project, { id }) => [mustFind(project.typefaces, id)],
})

const deleteTypeface: Edit<{ id: TypefaceId }> = {
  name: 'delete typeface',
  args: Joi.object({ id: idSchema('typeface').required() }),
  apply(draft, { id }, before) {
    const unbound = takeOut(draft, before, draft.typefaces, id)
    draft.typefaceOrder = draft.typefaceOrder.filter((other) => other !== id)
    return { unbound }
  },
}

export const typefaceEdits = [addTypeface, setTypeface, deleteTypeface] as Edit[]
