import Joi from 'joi'
import { describe, expect, test } from 'vitest'
import { newId, seededRandom } from '../base/index.ts'
import { keyed } from '../describe/index.ts'
import { EditMaker } from '../testing/edits.ts'
import { testTypefaces } from '../testing/fonts.ts'
import { widgetKind } from '../widgets/index.ts'
import { clean, cleanedWhole, keysOf } from './clean.ts'
import { freshProject } from './fresh.ts'
import { passGate } from './gate.ts'
import { plainPanel } from './profile.ts'
import { collections, recordsOf } from './collections.ts'
import { singleSchemas } from './schema.ts'
import type { Project } from './types.ts'

type Values = Record<string, unknown>
const topmost = collections().filter(({ path }) => path.length === 1)

/** A document that many edits have gone through. */
function lived(): Project {
  const random = seededRandom(4613)
  const maker = new EditMaker(random)
  let project = freshProject('Test', plainPanel, testTypefaces)
  // Chance makes of each sort one sooner or later.
  const lacks = () =>
    topmost.some((collection) => !Object.keys(recordsOf(project, collection)).length) ||
    new Set(Object.values(project.widgets).map(({ kind }) => kind)).size < 8
  for (let k = 0; k < 200 || (lacks() && k < 4000); k++) {
    const request = maker.request(project)
    const done = request && !request.edit.startsWith('delete') && passGate(project, request)
    if (done && done.ok) project = done.value.project
  }
  return project
}

const project = lived()
const random = seededRandom(4601)
const odd = [null, '', -1, 0, 1, 100, 65_535, 1e12, 0.5, true, 'words', [], {}, [1, 2], { kind: 'none' }, newId('widget', random)]

/** All there is with a schema of keys: what stands there, and others of the same sort. */
const kept: [string, Joi.Schema, Values[]][] = [
  ...topmost.map((collection): [string, Joi.Schema, Values[]] => [
    collection.path[0],
    collection.schema!,
    Object.values(recordsOf(project, collection) as unknown as Record<string, Values>),
  ]),
  ...Object.entries(singleSchemas)
    .filter(([key]) => typeof project[key as keyof Project] === 'object' && !Array.isArray(project[key as keyof Project]))
    .map(([key, schema]): [string, Joi.Schema, Values[]] => [key, schema, [project[key as keyof Project] as unknown as Values]]),
  ...[...new Set(Object.values(project.widgets).map(({ kind }) => kind))].map((kind): [string, Joi.Schema, Values[]] => [
    `settings of ${kind}`,
    widgetKind(kind)!.settings.schema,
    Object.values(project.widgets)
      .filter((w) => w.kind === kind && w.like === '')
      .map((w) => w.settings),
  ]),
]

test('a list that is no JSON is told from one with the same text', () => {
  const schema = Joi.object({ list: Joi.array().items(Joi.number().unsafe(), null) })
  for (const list of [
    [1, null],
    [1, Number.NaN],
    [1, undefined],
    [1, null],
  ])
    for (const _ of [0, 1]) expect(clean(schema, { list }, 'here')).toEqual(cleanedWhole(schema, { list }, 'here'))
})

describe('what changed in a record is looked at alone', () => {
  test('but where something is asked of it as a whole', () => {
    expect(kept.filter(([, schema]) => !keysOf(schema)).map(([where]) => where)).toEqual(['panel'])
    // The notes of a schema are complete.
    for (const [, schema] of kept) {
      const { type, flags, keys, ...more } = schema.describe() as Joi.Description & { keys?: object }
      const plain = type === 'object' && keys && !('unknown' in (flags ?? {})) && !Object.keys(more).length
      expect(keysOf(schema) && [...keysOf(schema)!.all]).toEqual(plain ? Object.keys(keys) : null)
    }
    const pair = { x: Joi.number(), y: Joi.number() }
    for (const across of [
      keyed(pair).and('x', 'y'),
      keyed(pair).max(1),
      keyed(pair).unknown(),
      keyed(pair).rename('a', 'x'),
      keyed(pair).custom((value: unknown) => value),
      keyed(pair).when('.x', { is: 1, then: Joi.object({ y: Joi.required() }) }),
      keyed(pair).valid(null),
      keyed(pair).invalid({ x: 1 }),
      keyed(pair).external(() => undefined),
      keyed(pair).required(),
      Joi.object(pair),
      Joi.object().pattern(/^x/, Joi.number()),
      Joi.object(),
      Joi.any(),
    ])
      expect(keysOf(across)).toBe(null)
    expect(keysOf(keyed({ ...pair, z: Joi.any().required(), w: Joi.number().default(1) }))?.needed).toEqual(['z', 'w'])
  })
  test('there is some of everything', () => {
    expect(kept.filter(([, , records]) => !records.length).map(([where]) => where)).toEqual([])
    expect(kept.length).toBeGreaterThan(20)
  })
  test.each(kept)('and found as if all were: %s', (_, schema, records) => {
    let refused = 0
    for (const before of records.slice(0, 2))
      for (const key of [...Object.keys(before), 'more'])
        for (const value of [...odd, ...records.slice(0, 5).map((other) => other[key]), undefined]) {
          const { [key]: _gone, ...rest } = before
          const after = value === undefined ? rest : { ...before, [key]: value }
          const wanted = cleanedWhole(schema, after, 'here')
          expect(clean(schema, after, 'here', before)).toEqual(wanted)
          // With nothing that stood there before; and once more, when it has been let through.
          expect(clean(schema, after, 'here')).toEqual(wanted)
          expect(clean(schema, structuredClone(after), 'here')).toEqual(wanted)
          if (!wanted.ok) refused++
        }
    expect(refused).toBeGreaterThan(0)
  })
})
