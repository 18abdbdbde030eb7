import Joi from 'joi'
import { checksumNames, idPattern, type IdKind } from '../base/index.ts'
import { itemId, itemList } from '../describe/index.ts'
import { faceSchema, noFace } from '../faces/index.ts'
import {
  countsKinds,
  coversKinds,
  eventKinds,
  operations,
  plainEventCodes,
  plainLink,
  plainReasonCodes,
  reasons,
} from '../frames/index.ts'
import {
  emptyHostScript,
  outputSettings,
  quantityKinds,
  reactionSettings,
  stepKinds,
  type QuantityKind,
  type StepKind,
} from '../scripts/index.ts'
import { travelKinds } from '../variables/index.ts'
import { plainPanel } from './fresh.ts'
import { currentForm, pageKinds } from './types.ts'

export const idSchema = (kind: IdKind): Joi.StringSchema => Joi.string().pattern(idPattern(kind), `${kind} id`)
const order = (kind: IdKind) => Joi.array().items(idSchema(kind)).unique()
/** A record whose keys are filled, where they are missing, from what is plain. */
const filled = (keys: Record<string, Joi.Schema>, plain: object): Joi.ObjectSchema =>
  Joi.object(
    Object.fromEntries(Object.entries(keys).map(([key, schema]) => [key, schema.default(plain[key as keyof typeof plain])])),
  ).default()
const records = (kind: IdKind, record: Joi.Schema) => Joi.object().pattern(idPattern(kind), record).default({})
const name = Joi.string().trim().min(1).max(60)
const word = Joi.number().integer().min(0).max(0xffff)
const byte = Joi.number().integer().min(0).max(255)
const byteOrder = Joi.string().valid('low', 'high').required()

const panel = filled(
  {
    width: Joi.number().integer().min(16).max(2048),
    height: Joi.number().integer().min(16).max(2048),
    diagonalInches: Joi.number().min(0.5).max(40),
    memoryFrom: word,
    memoryTo: Joi.number().integer().min(Joi.ref('memoryFrom')).max(0x10000),
    ownFrom: Joi.number().integer().min(0).max(0xfff0),
  },
  plainPanel,
)

const link = filled(
  {
    baud: Joi.number().integer().min(300).max(4_000_000),
    parity: Joi.string().valid('none', 'even', 'odd'),
    stopBits: Joi.number().valid(1, 2),
    answers: Joi.string().valid('never', 'on refusal', 'always'),
    confirm: Joi.boolean(),
    confirmTimeoutMs: Joi.number().integer().min(1).max(60_000),
    tries: Joi.number().integer().min(1).max(20),
    latencyMs: Joi.number().integer().min(0).max(5_000),
    aliveMs: Joi.number().integer().min(10).max(3_600_000),
  },
  plainLink,
)

/** A byte for each kind. A kind that is new gets its plain code, or the lowest that no other has. */
const codes = (kinds: readonly string[], plain: Record<string, number>) =>
  Joi.object(Object.fromEntries(kinds.map((k) => [k, byte])))
    .required()
    .custom((given: Record<string, number>) => {
      if (kinds.every((kind) => kind in given)) return given
      const taken = new Set(Object.values(given))
      const all: Record<string, number> = {}
      for (const kind of kinds) {
        let code = given[kind] ?? plain[kind]!
        if (!(kind in given)) for (let free = 0; taken.has(code); free++) code = free
        taken.add(code)
        all[kind] = code
      }
      return all
    })
const partShapes: Record<string, Joi.SchemaMap> = {
  constant: { bytes: Joi.array().items(byte).min(1).max(32).required() },
  length: {
    size: Joi.valid(1, 2).required(),
    order: byteOrder,
    counts: Joi.valid(...countsKinds).required(),
    adds: Joi.number().integer().min(-255).max(255).required(),
  },
  operation: {},
  'sequence and operation': {},
  sequence: {},
  address: { size: Joi.valid(1, 2).required(), order: byteOrder },
  words: { size: Joi.valid(1, 2).required(), order: byteOrder },
  payload: {},
  mask: { order: byteOrder },
  bits: { order: byteOrder },
  what: { codes: codes(eventKinds, plainEventCodes) },
  reason: { codes: codes(reasons, plainReasonCodes) },
  checksum: { algorithm: Joi.valid(...checksumNames).required(), order: byteOrder, covers: Joi.valid(...coversKinds).required() },
}
const part = Joi.alternatives().conditional('.part', {
  switch: Object.entries(partShapes).map(([kind, keys]) => ({
    is: kind,
    then: Joi.object({ ...itemId('part'), part: Joi.valid(kind), ...keys }),
  })),
  otherwise: Joi.forbidden(),
})
const parts = itemList('part', part).max(24).required()
const startBytes = Joi.array().items(byte).max(8).required()

const layout = Joi.object({
  name: name.required(),
  framing: Joi.alternatives()
    .conditional('.kind', {
      switch: [
        {
          is: 'delimited',
          then: Joi.object({
            kind: Joi.valid('delimited'),
            flag: byte.required(),
            escape: byte.required(),
            xor: byte.required(),
          }),
        },
        { is: 'length-led', then: Joi.object({ kind: Joi.valid('length-led'), start: startBytes }) },
      ],
      otherwise: Joi.object({
        kind: Joi.valid('fixed').required(),
        start: startBytes,
        length: Joi.number().integer().min(2).max(1100).required(),
      }),
    })
    .required(),
  payloadOrder: byteOrder,
  wordOrder: byteOrder,
  mostPayload: Joi.number().integer().min(2).max(1024).required(),
  gapUs: Joi.number().integer().min(1000).max(10_000_000).required(),
  head: parts,
  forms: itemList('form', {
    operation: Joi.valid(...operations).required(),
    directions: Joi.array().items(Joi.valid('to panel', 'to host')).unique().min(1).required(),
    code: byte.required(),
    parts,
  })
    .max(18)
    .required(),
  end: parts,
}).required()

const number = Joi.number()
const holds = Joi.alternatives().conditional('.type', {
  switch: [
    {
      is: 'choice',
      then: Joi.object({
        type: Joi.valid('choice'),
        choices: itemList('choice', { value: word.required(), word: Joi.string().trim().min(1).max(30).required() })
          .min(1)
          .max(64)
          .unique('value')
          .required(),
      }),
    },
    {
      is: 'flags',
      then: Joi.object({ type: Joi.valid('flags'), names: Joi.array().max(16).items(Joi.string().allow('').max(30)).required() }),
    },
    {
      is: 'text',
      then: Joi.object({
        type: Joi.valid('text'),
        bytes: Joi.number().integer().min(1).max(240).required(),
        encoding: Joi.valid('ascii', 'latin-1', 'utf-8').required(),
      }),
    },
    { is: Joi.valid('colour', 'time'), then: Joi.object({ type: Joi.string() }) },
  ],
  otherwise: Joi.object({
    type: Joi.valid('u16', 'i16', 'u32', 'i32', 'f32').required(),
    factor: number.invalid(0).required(),
    offset: number.required(),
    decimals: number.integer().min(0).max(9).required(),
    unit: Joi.string().allow('').max(12).required(),
    min: number.required(),
    max: number.min(Joi.ref('min')).required(),
  }),
})

const variable = Joi.object({
  id: idSchema('variable').required(),
  name: Joi.string()
    .pattern(/^[a-z][a-z0-9_]{0,31}$/, 'lower case letters, digits and _')
    .required(),
  meaning: Joi.string().allow('').max(200).default(''),
  holds: holds.required(),
  address: word.required(),
  travels: Joi.valid(...travelKinds).required(),
  initial: Joi.alternatives(Joi.number(), Joi.string().allow('').max(240)).required(),
  stale: Joi.object({
    afterMs: Joi.number().integer().min(10).max(3_600_000).required(),
    shows: Joi.valid('dim', 'dashes').required(),
  })
    .allow(null)
    .default(null),
})

const page = Joi.object({
  id: idSchema('page').required(),
  number: Joi.number().integer().min(1).max(65535).required(),
  kind: Joi.valid(...pageKinds).default('page'),
  name: name.required(),
  note: Joi.string().allow('').max(2000).default(''),
  background: faceSchema.default(noFace),
  widgets: order('widget').required(),
})

const rect = Joi.object({
  x: Joi.number().integer().min(-2048).max(4096).required(),
  y: Joi.number().integer().min(-2048).max(4096).required(),
  width: Joi.number().integer().min(1).max(2048).required(),
  height: Joi.number().integer().min(1).max(2048).required(),
})
export const rectSchema = rect

const widget = Joi.object({
  id: idSchema('widget').required(),
  number: Joi.number().integer().min(1).max(65535).required(),
  kind: Joi.string().max(40).required(),
  name: name.required(),
  page: idSchema('page').required(),
  parent: idSchema('widget').allow('').default(''),
  place: rect.required(),
  settings: Joi.object().required(),
})

const typeface = Joi.object({
  id: idSchema('typeface').required(),
  name: name.required(),
  asset: Joi.string()
    .pattern(/^[0-9a-f]{64}$/, 'SHA-256')
    .required(),
})

const stepSchemas = new Map(Object.entries(stepKinds).map(([kind, { settings }]) => [kind, settings.schema]))
const step = Joi.object({
  id: idSchema('step').required(),
  kind: Joi.string()
    .valid(...Object.keys(stepKinds))
    .required(),
  settings: Joi.object().required(),
}).custom((value: { kind: StepKind; settings: unknown }) => ({
  ...value,
  settings: Joi.attempt(value.settings, stepSchemas.get(value.kind)!, { convert: false }),
}))

const exchange = Joi.object({
  id: idSchema('exchange').required(),
  name: name.required(),
  seed: Joi.number().integer().min(0).max(4294967295).default(1),
  allowsOthers: Joi.boolean().default(false),
  steps: records('step', step),
  stepOrder: order('step').default([]),
})

const quantitySchemas = new Map(Object.entries(quantityKinds).map(([kind, { settings }]) => [kind, settings.schema]))
const quantity = Joi.object({
  id: idSchema('quantity').required(),
  kind: Joi.string()
    .valid(...Object.keys(quantityKinds))
    .required(),
  settings: Joi.object().required(),
}).custom((value: { kind: QuantityKind; settings: unknown }) => ({
  ...value,
  settings: Joi.attempt(value.settings, quantitySchemas.get(value.kind)!, { convert: false }),
}))

const withSettings = (kind: IdKind, settings: { schema: Joi.ObjectSchema }) =>
  records(kind, Joi.object({ id: idSchema(kind).required(), settings: settings.schema.required() }))

const host = Joi.object({
  name: name.default(emptyHostScript.name),
  synchronises: Joi.boolean().default(emptyHostScript.synchronises),
  quantities: records('quantity', quantity),
  quantityOrder: order('quantity').default([]),
  reactions: withSettings('reaction', reactionSettings),
  reactionOrder: order('reaction').default([]),
  outputs: withSettings('output', outputSettings),
  outputOrder: order('output').default([]),
}).default()

const spent = Joi.object({
  pageNumber: Joi.number().integer().min(0).max(65535).required(),
  widgetNumber: Joi.number().integer().min(0).max(65535).required(),
  addresses: Joi.object()
    .pattern(
      /^variable:[0-9a-z_-]{1,40}@\d{1,5}$/,
      Joi.object({
        address: word.required(),
        words: Joi.number().integer().min(1).max(1024).required(),
        name: Joi.string().max(60).required(),
      }),
    )
    .required(),
})

/** The schema of one record of each map, and of each single part of the document. */
export const recordSchemas: Record<'pages' | 'widgets' | 'variables' | 'typefaces' | 'exchanges', Joi.ObjectSchema> = {
  pages: page,
  widgets: widget,
  variables: variable,
  typefaces: typeface,
  exchanges: exchange,
}
export const singleSchemas: Record<string, Joi.Schema> = {
  format: Joi.valid(currentForm).required(),
  name: name.required(),
  note: Joi.string().allow('').max(4000).default(''),
  panel,
  link,
  layout,
  host,
  spent: spent.required(),
  pageOrder: order('page').default([]),
  variableOrder: order('variable').default([]),
  typefaceOrder: order('typeface').default([]),
  exchangeOrder: order('exchange').default([]),
  startPage: idSchema('page').allow('').default(''),
}
