import Joi from 'joi'
import type { ExchangeId, IdKind } from '../../base/index.ts'
import {
  outputSettings,
  quantityKinds,
  reactionSettings,
  sendingSettings,
  isStepKind,
  stepKind,
  type Quantity,
  type QuantityKind,
  type Step,
  type StepKind,
} from '../../scripts/index.ts'
import { idSchema } from '../schema.ts'
import type { Project } from '../types.ts'
import { freeName, mustBeNew, mustFind, placed, refuse, setsValues, valuesFor, type Edit, type Values } from './edit.ts'

const exchange = idSchema('exchange').required()
const step = idSchema('step').required()
const anchor = Joi.string().allow('', null).required()

interface NewStep {
  id: string
  kind: StepKind
  settings?: Values
}
const newStep = {
  id: step,
  kind: Joi.string()
    .custom((kind: string, helpers) => (isStepKind(kind) ? kind : helpers.message({ custom: `{{#label}} is no step: ${kind}` })))
    .required(),
  settings: Joi.object(),
}
const newSteps = Joi.array().items(Joi.object(newStep)).max(200)

function putSteps(draft: Project, exchange: ExchangeId, steps: readonly NewStep[], after: string | null): void {
  const into = mustFind(draft.exchanges, exchange)
  for (const { id, kind, settings } of steps) {
    mustBeNew(into.steps, id)
    into.steps[id] = { id, kind, settings: { ...stepKind(kind).settings.defaults, ...settings } } as Step
  }
  const ids = steps.map(({ id }) => id)
  into.stepOrder = placed(into.stepOrder, ids, after)
}

interface AddExchange {
  id: ExchangeId
  after: string | null
  name?: string
  seed?: number
  /** The steps that it begins with. */
  steps?: readonly NewStep[]
}

const addExchange: Edit<AddExchange> = {
  name: 'add exchange',
  args: Joi.object({ id: exchange, after: anchor, name: Joi.string().max(60), seed: Joi.number(), steps: newSteps }),
  apply(draft, { id, after, name, seed, steps = [] }) {
    mustBeNew(draft.exchanges, id)
    draft.exchanges[id] = {
      id,
      name: freeName(
        name ?? 'exchange',
        Object.values(draft.exchanges).map((e) => e.name),
      ),
      seed: seed ?? 1,
      allowsOthers: false,
      steps: {},
      stepOrder: [],
    }
    draft.exchangeOrder = placed(draft.exchangeOrder, [id], after)
    putSteps(draft, id, steps, '')
  },
}

const setExchange = setsValues<{ id: ExchangeId; values: Values }>({
  name: 'set exchange',
  args: Joi.object({ id: exchange, values: valuesFor('name', 'seed', 'allowsOthers') }),
  targets: (project, { id }) => [mustFind(project.exchanges, id)],
})

const deleteExchange: Edit<{ id: ExchangeId }> = {
  name: 'delete exchange',
  args: Joi.object({ id: exchange }),
  apply(draft, { id }) {
    mustFind(draft.exchanges, id)
    delete draft.exchanges[id]
    draft.exchangeOrder = draft.exchangeOrder.filter((other) => other !== id)
  },
}

const moveExchange: Edit<{ id: ExchangeId; after: string | null }> = {
  name: 'move exchange',
  args: Joi.object({ id: exchange, after: anchor }),
  apply(draft, { id, after }) {
    mustFind(draft.exchanges, id)
    draft.exchangeOrder = placed(draft.exchangeOrder, [id], after)
  },
}

/** Several steps, one after another. */
const addSteps: Edit<{ exchange: ExchangeId; steps: readonly NewStep[]; after: string | null }> = {
  name: 'add steps',
  args: Joi.object({ exchange, steps: newSteps.min(1).required(), after: anchor }),
  apply(draft, { exchange, steps, after }) {
    putSteps(draft, exchange, steps, after)
  },
}

const addStep: Edit<{ exchange: ExchangeId; id: string; kind: StepKind; after: string | null; settings?: Values }> = {
  name: 'add step',
  args: Joi.object({
    exchange,
    ...newStep,
    after: anchor,
  }),
  apply(draft, { exchange, id, kind, after, settings }) {
    putSteps(draft, exchange, [{ id, kind, ...(settings ? { settings } : {}) }], after)
  },
}

const setStep = setsValues<{ exchange: ExchangeId; id: string; values: Values }>({
  name: 'set step',
  args: Joi.object({ exchange, id: step, values: valuesFor() }),
  targets: (project, { exchange, id }) => [mustFind(mustFind(project.exchanges, exchange).steps, id).settings],
})

const deleteStep: Edit<{ exchange: ExchangeId; id: string }> = {
  name: 'delete step',
  args: Joi.object({ exchange, id: step }),
  apply(draft, { exchange, id }) {
    const from = mustFind(draft.exchanges, exchange)
    mustFind(from.steps, id)
    delete from.steps[id]
    from.stepOrder = from.stepOrder.filter((other) => other !== id)
  },
}

const moveStep: Edit<{ exchange: ExchangeId; id: string; after: string | null }> = {
  name: 'move step',
  args: Joi.object({ exchange, id: step, after: anchor }),
  apply(draft, { exchange, id, after }) {
    const within = mustFind(draft.exchanges, exchange)
    mustFind(within.steps, id)
    within.stepOrder = placed(within.stepOrder, [id], after)
  },
}

type HostPart = 'quantities' | 'reactions' | 'outputs' | 'sendings'
const orderKey = {
  quantities: 'quantityOrder',
  reactions: 'reactionOrder',
  outputs: 'outputOrder',
  sendings: 'sendingOrder',
} as const
const part = Joi.valid(...Object.keys(orderKey)).required()
const partId = Joi.alternatives(...(['quantity', 'reaction', 'output', 'sending'] satisfies IdKind[]).map(idSchema)).required()
const kindOf = { quantities: 'quantity', reactions: 'reaction', outputs: 'output', sendings: 'sending' }
const plainSettings = { reactions: reactionSettings, outputs: outputSettings, sendings: sendingSettings }

const setHost = setsValues<{ values: Values }>({
  name: 'set host',
  args: Joi.object({ values: valuesFor('name', 'synchronises') }),
  targets: (project) => [project.host],
})

const addHostPart: Edit<{ part: HostPart; id: string; kind?: QuantityKind; after: string | null; settings?: Values }> = {
  name: 'add to host',
  args: Joi.object({ part, id: partId, kind: Joi.valid(...Object.keys(quantityKinds)), after: anchor, settings: Joi.object() }),
  apply(draft, { part, id, kind = 'constant', after, settings }) {
    if (!id.startsWith(`${kindOf[part]}:`)) refuse('kind', { kind: id })
    mustBeNew(draft.host[part], id)
    const list = part === 'quantities' ? quantityKinds[kind].settings : plainSettings[part]
    const all = { ...list.defaults, ...settings }
    draft.host[part][id] = part === 'quantities' ? ({ id, kind, settings: all } as Quantity) : ({ id, settings: all } as never)
    draft.host[orderKey[part]] = placed(draft.host[orderKey[part]], [id], after)
  },
}

const inHost = (project: Project, { part, id }: { part: HostPart; id: string }) =>
  mustFind(project.host[part] as Record<string, { settings: Values; kind?: QuantityKind }>, id)

const setHostPart = setsValues<{ part: HostPart; id: string; kind?: QuantityKind; values?: Values }>({
  name: 'set in host',
  args: Joi.object({ part, id: partId, kind: Joi.valid(...Object.keys(quantityKinds)), values: valuesFor().optional() }).or(
    'kind',
    'values',
  ),
  targets: (project, args) => [inHost(project, args).settings],
  first(draft, { part, id, kind }) {
    const found = inHost(draft, { part, id })
    if (kind && part === 'quantities' && kind !== found.kind) {
      const kept = Object.entries(found.settings).filter(([key]) => Object.hasOwn(quantityKinds[kind].settings.fields, key))
      found.kind = kind
      found.settings = { ...quantityKinds[kind].settings.defaults, ...Object.fromEntries(kept) }
    }
  },
})

const deleteHostPart: Edit<{ part: HostPart; id: string }> = {
  name: 'delete from host',
  args: Joi.object({ part, id: partId }),
  apply(draft, { part, id }) {
    mustFind(draft.host[part] as Record<string, unknown>, id)
    delete draft.host[part][id]
    draft.host[orderKey[part]] = draft.host[orderKey[part]].filter((other) => other !== id)
  },
}

const moveHostPart: Edit<{ part: HostPart; id: string; after: string | null }> = {
  name: 'move in host',
  args: Joi.object({ part, id: partId, after: anchor }),
  apply(draft, { part, id, after }) {
    mustFind(draft.host[part] as Record<string, unknown>, id)
    draft.host[orderKey[part]] = placed(draft.host[orderKey[part]], [id], after)
  },
}

export const scriptEdits = [
  addExchange,
  setExchange,
  deleteExchange,
  moveExchange,
  addStep,
  addSteps,
  setStep,
  deleteStep,
  moveStep,
  setHost,
  addHostPart,
  setHostPart,
  deleteHostPart,
  moveHostPart,
] as Edit[]
