import Joi from 'joi'
import { itemId, itemList, listOf, oneOf, plain, type Type } from '../../describe/index.ts'
import { described, settingTypes as t, type CompileContext } from '../../settings/index.ts'
import type { Direction } from '../../frames/index.ts'
import type { Cell } from '../../variables/index.ts'
import { ownWireName } from '../own-wire-name.ts'
import type { CommandField, CompiledField } from './field.ts'
import { fieldKind } from './fields/table.ts'

const fieldSchema = Joi.object({ ...itemId('field'), field: Joi.string().max(40).required() })
  .unknown()
  .custom((given: CommandField, helpers) => {
    const kind = fieldKind(given.field)
    if (!kind) return helpers.message({ custom: `{{#label}} is no field of a command: ${given.field}` })
    const { id, field, ...values } = given
    const filled = kind.settings.fill(values)
    return filled.ok
      ? { ...(id === undefined ? {} : { id }), field, ...filled.value }
      : helpers.message({ custom: String(filled.problem.facts['message']).slice(0, 300) })
  })

/** Fields one behind the other, each of its kind. */
const fieldsType: Type<readonly CommandField[], readonly CompiledField[], CompileContext> = {
  name: 'command fields',
  schema: itemList('field', fieldSchema).max(24),
  refs: (fields) =>
    fields.flatMap(
      (one) =>
        fieldKind(one.field)
          ?.settings.refs(one)
          .map(({ ref }) => ref) ?? [],
    ),
  unbind: (fields, id, instead) =>
    fields.map((one) => ({ ...one, ...fieldKind(one.field)?.settings.without(one, id, instead) }) as CommandField),
  compile: (fields, context) =>
    fields.flatMap((one) => {
      const kind = fieldKind(one.field)
      return kind ? [{ field: one.field, with: kind.settings.compile(one, context) }] : []
    }),
}

const group = 'Command'

/** A variable that a command gives a value which always is the same. */
const setting = described({
  variable: { label: 'Variable', type: t.written, default: '', group },
  value: { label: 'Value', type: t.text, default: '', group, of: { variable: 'variable', as: 'words' } },
})

/** How the frame of a command is made. */
const frames = oneOf({
  message: 'in the layout’s message frame',
  layout: 'in the layout’s header and trailer',
  bare: 'framing only',
})
const senders = oneOf({ host: 'host', panel: 'panel', both: 'both' })
const operationCode = plain<number>('whole', Joi.number().integer().min(0).max(0xffff))

/** All of a command but its id, its number and its name. */
export const commandSettings = described({
  sender: { label: 'Sender', type: senders, default: 'host', group, essential: true },
  frame: { label: 'Frame', type: frames, default: 'message', group, essential: true },
  code: { label: 'Operation code', type: operationCode, default: 0, min: 0, max: 0xffff, group },
  address: {
    label: 'Address in the header',
    type: plain<number>('whole', Joi.number().integer().min(-1).max(0xffff)),
    default: -1,
    min: -1,
    max: 0xffff,
    group,
    hint: '−1: the number of the command',
  },
  wireName: {
    label: 'Name on the wire',
    type: plain<string>('text', ownWireName),
    default: '',
    group,
    hint: 'in acknowledges; empty: as the layout makes it',
  },
  fields: { label: 'Content', type: fieldsType, default: [], group, essential: true },
  answer: {
    label: 'Reply',
    type: oneOf({ none: 'none', done: 'acknowledge', command: 'another command' }),
    default: 'none',
    group,
    essential: true,
  },
  answerBy: { label: 'Replying command', type: t.command, default: '', group },
  waitMs: {
    label: 'Wait for the reply',
    type: t.whole,
    default: 0,
    min: 0,
    max: 60_000,
    unit: 'ms',
    zero: 'as the link',
    group,
  },
  sets: {
    label: 'Also sets',
    type: listOf('values', 'item', setting, 16),
    default: [],
    group,
    hint: 'variables of fields are set by themselves',
  },
})

/** A command in a build, as a protocol needs it. */
export interface BuildCommand {
  number: number
  name: string
  sender: 'host' | 'panel' | 'both'
  frame: 'message' | 'layout' | 'bare'
  code: number
  /** −1: its number. */
  address: number
  /** '': as the layout makes it of its name. */
  wireName: string
  fields: readonly CompiledField[]
  answer: 'none' | 'done' | 'command'
  /** The number of the command that answers it. */
  answerBy: number | null
  waitMs: number
  sets: readonly { variable: Cell | null; value: string }[]
}

/** Whether a command travels in a direction. */
export const goes = ({ sender }: Pick<BuildCommand, 'sender'>, direction: Direction): boolean =>
  sender === 'both' || (sender === 'host') === (direction === 'to panel')
