import Joi from 'joi'
import type { CommandId } from '../../base/index.ts'
import { commandSettings } from '../../protocols/index.ts'
import { spentNumber } from '../numbers.ts'
import { idSchema } from '../schema.ts'
import { keptWireName } from '../wire-names.ts'
import {
  freeName,
  mustBeNew,
  mustFind,
  mustHaveNumber,
  namesOf,
  nextNumber,
  placed,
  setsValues,
  takeOut,
  valuesFor,
  type Edit,
  type Values,
} from './edit.ts'

const id = idSchema('command').required()
const after = Joi.string().allow('', null).required()

const addCommand: Edit<{ id: CommandId; after: string | null; name?: string; meaning?: string; values?: Values }> = {
  name: 'add command',
  args: Joi.object({
    id,
    after,
    name: Joi.string().trim().min(1).max(60),
    meaning: Joi.string().allow('').max(200),
    values: Joi.object(),
  }),
  apply(draft, { id: made, after: behind, name, meaning, values }) {
    mustBeNew(draft.commands, made)
    draft.commands[made] = {
      id: made,
      number: nextNumber(draft, 'commands'),
      name: freeName(name ?? 'command', namesOf(draft.commands)),
      meaning: meaning ?? '',
      ...commandSettings.defaults,
      ...values,
    }
    draft.commandOrder = placed(draft.commandOrder, [made], behind)
  },
}

const setCommand = setsValues<{ id: CommandId; values: Values }>({
  name: 'set command',
  args: Joi.object({ id, values: valuesFor('name', 'number', 'meaning', ...Object.keys(commandSettings.fields)) }),
  targets: (project, args) => [mustFind(project.commands, args.id)],
  last(draft, { id: of, values }, before) {
    const was = before.commands[of]!
    const isSpent = Object.hasOwn(before.spent.numbers, spentNumber(was))
    const kept = 'name' in values && !('wireName' in values) ? keptWireName(before, was, isSpent) : null
    if ('number' in values) mustHaveNumber(draft, 'commands', of, draft.commands[of]!.number)
    if (kept === null) return
    draft.commands[of] = { ...draft.commands[of]!, wireName: kept }
    return { keptWire: kept }
  },
})

const deleteCommand: Edit<{ id: CommandId }> = {
  name: 'delete command',
  args: Joi.object({ id }),
  apply(draft, { id: gone }, before) {
    const unbound = takeOut(draft, before, draft.commands, gone)
    draft.commandOrder = draft.commandOrder.filter((other) => other !== gone)
    return { unbound }
  },
}

const moveCommand: Edit<{ id: CommandId; after: string | null }> = {
  name: 'move command',
  args: Joi.object({ id, after }),
  apply(draft, { id: moved, after: behind }) {
    mustFind(draft.commands, moved)
    draft.commandOrder = placed(draft.commandOrder, [moved], behind)
  },
}

export const commandEdits = [addCommand, setCommand, deleteCommand, moveCommand] as Edit[]
