import Joi from 'joi'
import type { TypefaceId } from '../../base/index.ts'
import { idSchema } from '../schema.ts'
import { freeName, mustBeNew, takeOut, type Edit } from './edit.ts'

const addTypeface: Edit<{ id: TypefaceId; name: string; asset: string }> = {
  name: 'add typeface',
  args: Joi.object({
    id: idSchema('typeface').required(),
    name: Joi.string().trim().min(1).max(60).required(),
    asset: Joi.string()
      .pattern(/^[0-9a-f]{64}$/)
      .required(),
  }),
  apply(draft, { id, name, asset }) {
    mustBeNew(draft.typefaces, id)
    const names = Object.values(draft.typefaces).map((t) => t.name)
    draft.typefaces[id] = { id, name: freeName(name, names), asset }
    draft.typefaceOrder = [...draft.typefaceOrder, id]
  },
}

const deleteTypeface: Edit<{ id: TypefaceId }> = {
  name: 'delete typeface',
  args: Joi.object({ id: idSchema('typeface').required() }),
  apply(draft, { id }, before) {
    const unbound = takeOut(draft, before, draft.typefaces, id)
    draft.typefaceOrder = draft.typefaceOrder.filter((other) => other !== id)
    return { unbound }
  },
}

export const typefaceEdits = [addTypeface, deleteTypeface] as Edit[]
