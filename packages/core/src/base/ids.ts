import type { Random } from './random.ts'

/** An id carries its kind in front: `variable:3k9f0c2m1x`. Its randomness comes from the caller. */
export type IdKind =
  | 'project'
  | 'page'
  | 'widget'
  | 'variable'
  | 'typeface'
  | 'picture'
  | 'face'
  | 'colour'
  | 'style'
  | 'exchange'
  | 'step'
  | 'quantity'
  | 'reaction'
  | 'output'
  | 'sending'
  | 'command'
  | 'change'
  // Items of a list inside a record: once in their list.
  | 'rule'
  | 'line'
  | 'trace'
  | 'zone'
  | 'item'
  | 'state'
  | 'choice'
  | 'effect'
  | 'form'
  | 'part'
  | 'pin'
  | 'field'
  | 'example'
export type Id<K extends IdKind = IdKind> = `${K}:${string}`

export type ProjectId = Id<'project'>
export type PageId = Id<'page'>
export type WidgetId = Id<'widget'>
export type VariableId = Id<'variable'>
export type TypefaceId = Id<'typeface'>
export type PictureId = Id<'picture'>
export type FaceId = Id<'face'>
export type ExchangeId = Id<'exchange'>
export type CommandId = Id<'command'>
export type StepId = Id<'step'>
export type ChangeId = Id<'change'>

const letters = '0123456789abcdefghjkmnpqrstvwxyz'

/** A new id: twenty letters of 5 bits each, so 100 bits of whatever chance is passed in. */
export function newId<K extends IdKind>(kind: K, random: Random): Id<K> {
  let tail = ''
  for (let i = 0; i < 20; i++) tail += letters[random.below(32)]
  return `${kind}:${tail}`
}

export const kindOfId = (id: string): string => id.slice(0, id.indexOf(':'))

/** Pattern of an id that may come from outside. `__proto__` and the like do not. */
export const idPattern = (kind: IdKind): RegExp => new RegExp(`^${kind}:[0-9a-z_-]{1,40}$`)
