import { expect, test } from 'vitest'
import { linkSettings, partKinds } from '../frames/index.ts'
import { actionKinds } from '../rules/index.ts'
import { conductSettings, pageSettings, panelSettings, pictureSettings } from '../project/index.ts'
import { outputSettings, quantityKinds, reactionSettings, stepKind, stepKindNames } from '../scripts/index.ts'
import { widgetKinds } from '../widgets/index.ts'
import type { FormField } from '../describe/index.ts'

/** Every description of what is stored, with its name. */
const described: [string, readonly FormField[]][] = [
  ...widgetKinds().map(({ kind, settings }): [string, readonly FormField[]] => [kind, settings.list]),
  ...actionKinds().map(({ action, settings }): [string, readonly FormField[]] => [action, settings.list as readonly FormField[]]),
  ...stepKindNames().map((kind): [string, readonly FormField[]] => [kind, stepKind(kind).settings.list as readonly FormField[]]),
  ...partKinds().map((kind): [string, readonly FormField[]] => [kind.part, kind.settings.list as readonly FormField[]]),
  ...Object.entries(quantityKinds).map(([kind, { settings }]): [string, readonly FormField[]] => [
    kind,
    settings.list as readonly FormField[],
  ]),
  ['reaction', reactionSettings.list],
  ['output', outputSettings.list],
  ['link', linkSettings.list as readonly FormField[]],
  ['panel', panelSettings.list as readonly FormField[]],
  ['conduct', conductSettings.list],
  ['page', pageSettings.list],
  ['picture', pictureSettings.list],
]

/** Fields of a description, those of its lists of records too. */
const fieldsOf = (of: string, list: readonly FormField[]): [string, FormField][] =>
  list.flatMap((field): [string, FormField][] => [
    [`${of}/${field.key}`, field],
    ...fieldsOf(`${of}/${field.key}`, (field.type.items?.fields as readonly FormField[] | undefined) ?? []),
  ])
const all = described.flatMap(([of, list]) => fieldsOf(of, list))

test('a stored choice has a text beside it, which is displayed', () => {
  const choices = all.filter(([, { type }]) => type.choices)
  expect(choices.length).toBeGreaterThan(50)
  const without = choices.flatMap(([at, { type }]) =>
    type.choices!.filter((stored) => !type.labels?.[stored]).map((stored) => `${at}: ${stored}`),
  )
  expect(without).toEqual([])
  // Two choices that look the same cannot be told apart.
  expect(choices.filter(([, { type }]) => new Set(Object.values(type.labels!)).size < type.choices!.length)).toEqual([])
})

test('a label is a noun that stands for itself: not a pronoun, no sentence, and alone among those of its kind', () => {
  const labels = all.map(([at, { label }]) => [at, label] as const)
  expect(labels.filter(([, label]) => /^(its|their|they|is|it|which|then)\b/i.test(label))).toEqual([])
  expect(labels.filter(([, label]) => label.split(' ').length > 6)).toEqual([])
  for (const [of, list] of described) {
    const own = list.map(({ label }) => label)
    expect(own.filter((label, k) => own.indexOf(label) !== k).map((label) => `${of}: ${label}`)).toEqual([])
  }
})

test('a text of a setting has at most thirty words', () => {
  const texts = all.flatMap(([at, { hint, zero, label }]) =>
    [hint, zero, label].flatMap((text) => (text ? [[at, text] as const] : [])),
  )
  expect(texts.filter(([, text]) => text.split(/\s+/).length > 30)).toEqual([])
})
