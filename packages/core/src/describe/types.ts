import Joi from 'joi'
import { idPattern, type IdKind } from '../base/index.ts'
import { itemId, itemList, type Item } from './items.ts'
import type { Described, Fields, RawOf, Ref, CompiledOf, Type, FollowContext } from './describe.ts'

const same = <T>(raw: T): T => raw

/** A value that a build holds as it is stored. */
export const plain = <R>(name: string, schema: Joi.Schema): Type<R> => ({ name, schema, compile: same })

/** An id of a kind, or '' for none. */
export const idOrNone = (kind: IdKind): Joi.StringSchema => Joi.string().pattern(idPattern(kind), `${kind} id`).allow('')

/** A colour as it is stored: `#rrggbb` or the id of a named one, either with ` tint` after it for a share of it. */
export type ColourText = string

const colourPattern = /^(#[0-9a-fA-F]{6}|colour:[0-9a-z_-]{1,40})( tint)?$/

export const colourText = Joi.string().pattern(colourPattern, 'a colour as #rrggbb, or one of the project')

/** Parts of a stored colour; the base is `#rrggbb`, the id of a named colour, or '' for none. */
export function colourParts(colour: ColourText): { base: string; tint: boolean } {
  const found = colourPattern.exec(colour)
  return found ? { base: found[1]!, tint: found[2] !== undefined } : { base: '', tint: false }
}

/** The named colours that a stored one refers to. */
export const colourRefs = (colour: ColourText): Ref[] => {
  const { base } = colourParts(colour)
  return base.startsWith('colour:') ? [{ to: base, use: 'names' }] : []
}

/** The colour with another in the place of a named one; a tint stays a tint. */
export const colourInstead = (colour: ColourText, gone: string, instead = ''): ColourText => {
  const { base, tint } = colourParts(colour)
  return base === gone ? `${instead || '#000000'}${tint ? ' tint' : ''}` : colour
}

/** The kinds of value that refer to nothing. */
export const text: Type<string> = plain('text', Joi.string().allow('').max(400))
export const number: Type<number> = plain('number', Joi.number())
export const whole: Type<number> = plain('whole', Joi.number().integer())
export const yesNo: Type<boolean> = plain('yesNo', Joi.boolean())

/** One of a few: each as it is stored, with the text that is displayed for it. The text may change without a new form. */
export function oneOf<const W extends string>(labels: Readonly<Record<W, string>>): Type<W> {
  const stored = Object.keys(labels) as W[]
  return { ...plain<W>('choice', Joi.string().valid(...stored)), choices: stored, labels }
}

/** The text that is displayed for a stored choice. */
export const choiceText = (type: Pick<Type<unknown>, 'labels'>, stored: string): string => type.labels?.[stored] ?? stored

/** A reference by id. `read` or written by whoever holds it, or only named; compiled to what the context finds. */
export const reference = <C, X>(
  kind: IdKind,
  use: Ref['use'],
  find: (id: string, context: X) => C | null,
): Type<string, C | null, X> => ({
  name: kind,
  schema: idOrNone(kind),
  refs: (to) => [{ to, use }],
  unbind: (to, id) => (to === id ? '' : to),
  compile: (to, context) => find(to, context),
})

/** Records of one description in a list, each with an id of its own in that list. */
export const listOf = <X extends FollowContext, F extends Fields<X>>(
  name: string,
  kind: IdKind,
  item: Described<X, F>,
  most: number,
): Type<readonly (Item & RawOf<F>)[], readonly CompiledOf<F>[], X> => ({
  name,
  items: { fields: item.list as never, fresh: item.defaults, most },
  get schema() {
    return itemList(kind, item.schema.keys(itemId(kind))).max(most)
  },
  refs: (items) => items.flatMap((one) => item.refs(one).map(({ ref }) => ref)),
  unbind: (items, id, instead) => items.map((one) => item.without(one, id, instead) as Item & RawOf<F>),
  compile: (items, context) => items.map((one) => item.compile(one, context)),
})
