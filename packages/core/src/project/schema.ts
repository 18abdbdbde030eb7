import Joi from 'joi'
import { embeddings, pictureFormats } from '../artwork/index.ts'
import { idPattern, type IdKind } from '../base/index.ts'
import { faceSchema } from '../faces/index.ts'
import { asKeyed, itemId, itemList, keyed, keysIn } from '../describe/index.ts'
import {
  framingKind,
  mostExamples,
  linkSettings,
  plainLink,
  operations,
  partKind,
  payloadOrders,
  textTravels,
} from '../frames/index.ts'
import {
  emptyHostScript,
  outputSettings,
  quantityKinds,
  reactionSettings,
  sendingSettings,
  isStepKind,
  stepKind,
  type QuantityKind,
} from '../scripts/index.ts'
import { lookChoices } from '../palette/index.ts'
import { smoothings } from '../raster/index.ts'
import { commandSettings, linePartKind, ownWireName, spellingSettings } from '../protocols/index.ts'
import { holdsTypes, travelKinds } from '../variables/index.ts'
import { panelSchema, plainPanel } from './profile.ts'
import { pictureSettings } from './picture.ts'
import { conductSettings, currentForm, pageKinds, pageSettings } from './types.ts'

/** The name of a file of a project: its SHA-256, 64 lower-case hex digits. */
export const assetSchema = Joi.string().pattern(/^[0-9a-f]{64}$/, 'SHA-256')

export const idSchema = (kind: IdKind): Joi.StringSchema => Joi.string().pattern(idPattern(kind), `${kind} id`)
/** Ids, each once. They may be thousands: what is wrong is found out only where something is. */
export const order = (kind: IdKind) => {
  const pattern = idPattern(kind)
  const isRight = (list: readonly unknown[]) =>
    new Set(list).size === list.length && list.every((id) => typeof id === 'string' && pattern.test(id))
  return Joi.alternatives().conditional(
    Joi.array().custom((list: unknown[], helpers) => (isRight(list) ? list : helpers.error('any.invalid'))),
    { then: Joi.any(), otherwise: Joi.array().items(idSchema(kind)).unique() },
  )
}
const records = (kind: IdKind, record: Joi.Schema) => Joi.object().pattern(idPattern(kind), record).default({})
const name = Joi.string().trim().min(1).max(60)
const word = Joi.number().integer().min(0).max(0xffff)
/** By which a host knows a record. What is made before its kind had numbers gets one when it is read. */
const ownNumber = Joi.number().integer().min(0).max(0xffff)
const insideNumber = Joi.number().integer().min(1).max(0x7fffffff)
const byte = Joi.number().integer().min(0).max(255)

/** A record that names its kind under `key`, with the settings of the kind beside it, as its description says them. */
const ofKind = (
  key: 'part' | 'kind',
  kindOf: (name: string) => { settings: { schema: Joi.ObjectSchema } } | undefined,
  noun: string,
  ids: Joi.SchemaMap = {},
) =>
  Joi.object({ [key]: Joi.string().max(40).required() })
    .unknown()
    .custom((given: Record<string, unknown>, helpers) => {
      const kind = kindOf(String(given[key]))
      if (!kind) return helpers.message({ custom: `{{#label}} is no ${noun}: ${String(given[key])}` })
      const schema = kind.settings.schema.keys({ ...ids, [key]: Joi.string() })
      const { error, value } = schema.validate(given, { convert: false })
      return error ? helpers.message({ custom: error.message.slice(0, 300) }) : (value as Record<string, unknown>)
    })
const part = ofKind('part', partKind, 'part of a frame', itemId('part'))
const framing = ofKind('kind', framingKind, 'framing')
const linePart = ofKind('part', linePartKind, 'part of a line', itemId('part'))
const parts = itemList('part', part).max(24).required()

const binaryWay = Joi.object({
  kind: Joi.valid('binary').required(),
  framing: framing.required(),
  payload: Joi.valid(...payloadOrders).required(),
  texts: Joi.valid(...textTravels),
  textByte: byte,
  mostPayload: Joi.number().integer().min(2).max(1024).required(),
  gapUs: Joi.number().integer().min(100).max(10_000_000).required(),
  checks: Joi.valid('on', 'off'),
  head: parts,
  forms: itemList('form', {
    operation: Joi.valid(...operations).required(),
    directions: Joi.array().items(Joi.valid('to panel', 'to host')).unique().min(1).required(),
    code: ownNumber.required(),
    types: Joi.array()
      .items(Joi.valid(...holdsTypes))
      .unique(),
    size: Joi.number().integer().min(0).max(1100),
    parts,
  })
    .max(64)
    .required(),
  end: parts,
})
const fewBytes = Joi.array().items(byte).max(4).required()
const linesWay = Joi.object({
  kind: Joi.valid('lines').required(),
  start: fewBytes,
  end: fewBytes,
  ignored: fewBytes,
  longest: Joi.number().integer().min(16).max(1024).required(),
  gapUs: Joi.number().integer().min(1000).max(10_000_000).required(),
  checks: Joi.valid('on', 'off'),
  names: Joi.object({
    template: Joi.string()
      .max(64)
      .pattern(/^[\x21-\x7e]+$/)
      .required(),
    letters: Joi.valid('as they are', 'capitals', 'small').required(),
  }).required(),
  spelling: spellingSettings.schema.required(),
  forms: itemList('form', {
    operation: Joi.valid(...operations).required(),
    directions: Joi.array().items(Joi.valid('to panel', 'to host')).unique().min(1).required(),
    types: Joi.array()
      .items(Joi.valid(...holdsTypes))
      .unique()
      .required(),
    parts: itemList('part', linePart).max(24).required(),
  })
    .max(64)
    .required(),
})
const way = Joi.alternatives().conditional('.kind', { is: 'lines', then: linesWay, otherwise: binaryWay })
const layoutKeys = keyed({
  name: name.required(),
  toPanel: way.required(),
  toHost: Joi.alternatives()
    .conditional(Joi.object(), { then: way, otherwise: Joi.valid('same') })
    .required(),
  examples: itemList('example', {
    bytes: Joi.string()
      .pattern(/^[0-9A-F]{2}( [0-9A-F]{2})*$/)
      .max(3300)
      .required(),
    means: Joi.string().trim().min(1).max(400).required(),
  }).max(mostExamples),
})
const layout = asKeyed(layoutKeys.required(), layoutKeys)
/** A layout by itself. */
export const layoutSchema = layout

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
        letters: Joi.string().allow('').max(2000),
      }),
    },
    { is: Joi.valid('colour', 'time'), then: Joi.object({ type: Joi.string() }) },
  ],
  otherwise: Joi.object({
    type: Joi.valid('u8', 'i8', 'u16', 'i16', 'u32', 'i32', 'f32').required(),
    factor: number.invalid(0).required(),
    offset: number.required(),
    decimals: number.integer().min(0).max(9).required(),
    unit: Joi.string().allow('').max(12).required(),
    min: number.required(),
    max: number.min(Joi.ref('min')).required(),
    none: Joi.object({ raw: number.required(), word: Joi.string().trim().min(1).max(12).required() }),
  }),
})

const variable = keyed({
  id: idSchema('variable').required(),
  number: insideNumber,
  name: Joi.string()
    .pattern(/^[a-z][a-z0-9_]{0,31}$/, 'lower case letters, digits and _')
    .required(),
  meaning: Joi.string().allow('').max(200).default(''),
  holds: holds.required(),
  address: word.required(),
  travels: Joi.valid(...travelKinds).required(),
  initial: Joi.alternatives(Joi.number(), Joi.string().allow('').max(240)).required(),
  stale: Joi.object({
    afterMs: Joi.alternatives(Joi.valid(0), Joi.number().integer().min(10).max(3_600_000)).required(),
    shows: Joi.valid('dim', 'dashes').required(),
  })
    .allow(null)
    .default(null),
  order: Joi.valid('as panel', 'low', 'high').default('as panel'),
  wireName: ownWireName,
})

const page = keyed({
  id: idSchema('page').required(),
  number: ownNumber.required(),
  kind: Joi.valid(...pageKinds).default('page'),
  name: name.required(),
  note: Joi.string().allow('').max(2000).default(''),
  widgets: order('widget').required(),
  ...keysIn(pageSettings.schema),
})

const rect = keyed({
  x: Joi.number().integer().min(-2048).max(4096).required(),
  y: Joi.number().integer().min(-2048).max(4096).required(),
  width: Joi.number().integer().min(1).max(2048).required(),
  height: Joi.number().integer().min(1).max(2048).required(),
})
export const rectSchema = rect

const widget = keyed({
  id: idSchema('widget').required(),
  number: Joi.number().integer().min(1).max(65535).required(),
  kind: Joi.string().max(40).required(),
  name: name.required(),
  page: idSchema('page').required(),
  parent: idSchema('widget').allow('').default(''),
  like: idSchema('widget').allow('').default(''),
  locked: Joi.boolean().default(false),
  place: rect.required(),
  settings: Joi.object().required(),
})

const typeface = keyed({
  id: idSchema('typeface').required(),
  name: name.required(),
  fallback: idSchema('typeface').allow('').default(''),
  embedding: Joi.valid(...embeddings).default('unsaid'),
  weightFrom: Joi.number().integer().min(0).max(1000).default(0),
  weightTo: Joi.number().integer().min(0).max(1000).default(0),
  asset: assetSchema.required(),
})

const picture = keyed({
  id: idSchema('picture').required(),
  number: ownNumber,
  name: name.required(),
  file: Joi.string().allow('').max(200).default(''),
  format: Joi.valid(...pictureFormats).required(),
  asset: assetSchema.required(),
  fromWidth: Joi.number().integer().min(1).max(16_384).required(),
  fromHeight: Joi.number().integer().min(1).max(16_384).required(),
  ...keysIn(pictureSettings.schema),
})

const face = keyed({
  id: idSchema('face').required(),
  name: name.required(),
  face: faceSchema.keys({ named: Joi.string().valid('').default('') }).required(),
})

const plainColour = Joi.string().pattern(/^#[0-9a-fA-F]{6}$/, 'a colour as #rrggbb')
const colour = keyed({
  id: idSchema('colour').required(),
  name: name.required(),
  night: plainColour.required(),
  day: plainColour.required(),
})

const style = keyed({
  id: idSchema('style').required(),
  number: ownNumber,
  name: name.required(),
  typeface: idSchema('typeface').allow('').required(),
  size: Joi.number().integer().min(6).max(200).required(),
  weight: Joi.number().integer().min(0).max(1000).default(0),
  bits: Joi.valid(...smoothings).default(8),
  more: Joi.string().allow('').max(2000).default(''),
})

const command = keyed({
  id: idSchema('command').required(),
  number: ownNumber,
  name: name.required(),
  meaning: Joi.string().allow('').max(200).default(''),
  ...keysIn(commandSettings.schema),
})

const step = keyed({
  id: idSchema('step').required(),
  kind: Joi.string().max(40).required(),
  settings: Joi.object().required(),
}).custom((value: { kind: string; settings: unknown }, helpers) => {
  if (!isStepKind(value.kind)) return helpers.message({ custom: `{{#label}} is no step: ${value.kind}` })
  return { ...value, settings: Joi.attempt(value.settings, stepKind(value.kind).settings.schema, { convert: false }) }
})

const exchange = keyed({
  id: idSchema('exchange').required(),
  name: name.required(),
  seed: Joi.number().integer().min(0).max(4294967295).default(1),
  allowsOthers: Joi.boolean().default(false),
  steps: records('step', step),
  stepOrder: order('step').default([]),
})

const quantitySchemas = new Map(Object.entries(quantityKinds).map(([kind, { settings }]) => [kind, settings.schema]))
const quantity = keyed({
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

const hostKeys = keyed({
  name: name.default(emptyHostScript.name),
  synchronises: Joi.boolean().default(emptyHostScript.synchronises),
  quantities: records('quantity', quantity),
  quantityOrder: order('quantity').default([]),
  reactions: withSettings('reaction', reactionSettings),
  reactionOrder: order('reaction').default([]),
  outputs: withSettings('output', outputSettings),
  outputOrder: order('output').default([]),
  sendings: withSettings('sending', sendingSettings),
  sendingOrder: order('sending').default([]),
})
const host = asKeyed(hostKeys.default(), hostKeys)

const spent = keyed({
  lastNumbers: Joi.object()
    .pattern(/^[A-Za-z]{1,40}(\/[A-Za-z]{1,40})?$/, Joi.number().integer().min(0).max(0x7fffffff))
    .required(),
  numbers: Joi.object()
    .pattern(/^[a-z]+:[0-9a-z_-]{1,40}@\d{1,5}$/, Joi.string().max(60))
    .default({}),
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

/** The schema of one record of each collection. */
export const recordSchemas = { page, widget, variable, typeface, picture, face, colour, style, exchange, command }

/** The schema of each part of the document that is no collection and no list of one. */
export const singleSchemas: Record<string, Joi.Schema> = {
  format: Joi.valid(currentForm).required(),
  name: name.required(),
  note: Joi.string().allow('').max(4000).default(''),
  panel: panelSchema.default(plainPanel),
  link: asKeyed(linkSettings.schema.default(plainLink), linkSettings.schema),
  layout,
  host,
  spent: asKeyed(spent.required(), spent),
  looks: Joi.valid(...lookChoices).default('night'),
  conduct: asKeyed(conductSettings.schema.default(conductSettings.defaults), conductSettings.schema),
  startPage: idSchema('page').allow('').default(''),
}
