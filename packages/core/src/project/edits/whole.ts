import Joi from 'joi'
import { idPattern } from '../../base/index.ts'
import { numberAll } from '../numbers.ts'
import { collectionAt } from '../collections.ts'
import { applyPatches, isRecord, pathOf, pointer, staysSpent, stillStands, type Patch } from '../patches.ts'
import { isInRecord, recordDepth } from '../record-paths.ts'
import { linkSettings } from '../../frames/index.ts'
import { panelSettings } from '../profile.ts'
import { conductSettings, type Project } from '../types.ts'
import { refuse, setsValues, valuesFor, type Edit, type Values } from './edit.ts'

type Setting = { values: Values }

const setProject = setsValues<Setting>({
  name: 'set project',
  args: Joi.object({ values: valuesFor('name', 'note') }),
  targets: (project) => [project],
})

const setPanel = setsValues<Setting>({
  name: 'set panel',
  args: Joi.object({ values: valuesFor(...Object.keys(panelSettings.fields)) }),
  targets: (project) => [project.panel],
})

const setConduct = setsValues<Setting>({
  name: 'set conduct',
  args: Joi.object({ values: valuesFor(...Object.keys(conductSettings.fields)) }),
  targets: (project) => [project.conduct],
})

const setLink = setsValues<Setting>({
  name: 'set link',
  args: Joi.object({
    values: valuesFor(...Object.keys(linkSettings.fields)),
  }),
  targets: (project) => [project.link],
})

/** The layout is replaced part by part (`toPanel/head`) or whole; a layout with two readings is a finding, not a refusal. */
const setLayout = setsValues<Setting>({
  name: 'set layout',
  args: Joi.object({
    values: valuesFor('name', 'toPanel', 'toHost', 'examples'),
  }),
  targets: (project) => [project.layout],
})

const patch = Joi.object({
  op: Joi.valid('add', 'remove', 'replace').required(),
  path: Joi.string()
    .pattern(/^(\/[^/]+)+$/)
    .max(300)
    .required(),
  value: Joi.any(),
})

/** A record that a patch left before its kind had numbers, with the number it has now. */
function withNumber(before: Project, patch: Patch): Patch {
  const [map = '', id = '', ...deeper] = pathOf(patch.path)
  if (patch.op === 'remove' || deeper.length || !collectionAt(map)?.numbers || !isRecord(patch.value)) return patch
  const now = (before as unknown as Record<string, Record<string, { number?: number }>>)[map]?.[id]
  return 'number' in patch.value || !now ? patch : { ...patch, value: { ...patch.value, number: now.number } }
}

/** Takes a change back: `patches` bring the old state, and only while everything is still as the change left it. */
const undo: Edit<{ of: string; patches: Patch[]; left: Patch[] }> = {
  name: 'undo',
  args: Joi.object({
    of: Joi.string().pattern(idPattern('change')).required(),
    patches: Joi.array().items(patch).min(1).max(20_000).required(),
    left: Joi.array().items(patch).max(20_000).required(),
  }),
  apply(draft, { patches, left }, before) {
    if (!patches.every(staysSpent)) refuse('spent')
    const outside = [...patches, ...left].find((p) => !isInRecord(p.path))
    if (outside) refuse('path', { path: outside.path })
    if (
      !stillStands(
        before,
        left.map((p) => withNumber(before, p)),
      )
    )
      refuse('changed-since')
    const after = applyPatches(before, patches) ?? refuse('changed-since')
    // Record by record, so that the gate sees which were touched, and validates them like any other edit's.
    const records = new Set(patches.map((p) => pointer(pathOf(p.path).slice(0, recordDepth(pathOf(p.path))))))
    for (const record of records) putBack(draft, after, pathOf(record))
    numberAll(draft)
  },
}

/** Makes a draft have at a path what another document has there. */
function putBack(draft: Project, from: Project, path: string[]): void {
  const last = path.at(-1)!
  const step = (at: unknown, key: string): unknown => (at as Record<string, unknown> | undefined)?.[key]
  const into = path.slice(0, -1).reduce<unknown>(step, draft) as Record<string, unknown> | undefined
  const value = path.reduce<unknown>(step, from)
  if (!into) refuse('changed-since')
  else if (value === undefined) delete into[last]
  else into[last] = value
}

export const wholeEdits = [setProject, setPanel, setConduct, setLink, setLayout, undo] as Edit[]
