import Joi from 'joi'
import { idPattern, type Problem } from '@moth-lamp/core/base'
import { assetSchema, panelSchema, type PanelProfile, type Project } from '@moth-lamp/core/project'
import { mostAsked, mostChanges, type SaveRequest } from '@moth-lamp/core/saver'

/** A project on the shelf. */
export interface ProjectSummary {
  id: string
  name: string
  revision: number
  width: number
  height: number
  /** `lamp binary 19 200 Bd 8N1` */
  link: string
  exchanges: number
  /** Of the exchanges, how many passed when last run, and how many failed; null when none was. */
  passed: number | null
  failed: number | null
  updatedAt: string
  deletedAt: string | null
}

export interface OpenedProject {
  id: string
  revision: number
  project: Project
}

/** A line of the answer to a project file: how many of its assets are in, and at the end what became of it. */
export type ImportNote = { done: number; of: number } | { id: string } | { problem: ApiProblem }

/** How an exchange went when it was last run. */
export interface ExchangeRecord {
  exchange: string
  revision: number
  passed: boolean
  failedStep: string | null
  ranAt: string
}

/** A panel profile that projects share. */
export interface KeptProfile {
  name: string
  panel: PanelProfile
}

/** Every answer that is not 2xx. `message` is a sentence for people. */
export interface ApiProblem {
  code: string
  facts: Problem['facts']
  message: string
}

/** Message of a window over its socket: the projects that it watches. */
export type LiveRequest = { watch: string } | { unwatch: string }

/** Message to a window over its socket: the newest revision of a project it watches, at once and with every commit. */
export interface LiveNote {
  project: string
  revision: number
  form: number
}

/** A window that has heard nothing for so long, not even that nothing is new, makes its socket anew, ms. */
export const liveSilenceMs = 40_000
/** How often the server says that it is still there, ms. */
export const liveBeatMs = 15_000

/** Revisions are counted in a 32-bit column. */
const revision = Joi.number().integer().min(0).max(2_147_483_647)
const name = Joi.string()
  .trim()
  .min(1)
  .max(60)
  .pattern(/^[^\0]*$/, 'text without NUL')
  .required()

export const createSchema = Joi.object({
  name,
  width: Joi.number().integer().min(16).max(2048).required(),
  height: Joi.number().integer().min(16).max(2048).required(),
  diagonalInches: Joi.number().min(0.5).max(40).required(),
})

export const profileSchema = Joi.object<KeptProfile>({ name, panel: panelSchema.required() })
export const profileParams = Joi.object({ name })

export const saveSchema = Joi.object<SaveRequest>({
  // A window of the time before forms were told is of form 2.
  form: Joi.number().integer().min(1).max(1_000_000).default(2),
  base: revision.required(),
  changes: Joi.array()
    .min(1)
    .max(mostChanges)
    .items(
      Joi.object({
        changeId: Joi.string().pattern(idPattern('change')).required(),
        edit: Joi.string().max(60).required(),
        args: Joi.object().required(),
      }),
    )
    .unique('changeId')
    .required(),
})

export const resultSchema = Joi.object<Omit<ExchangeRecord, 'ranAt'>>({
  exchange: Joi.string().pattern(idPattern('exchange')).required(),
  revision: revision.required(),
  passed: Joi.boolean().required(),
  failedStep: Joi.string()
    .max(200)
    .pattern(/^[^\0]*$/, 'text without NUL')
    .allow(null)
    .required(),
})

/** Which of these changes are saved. */
export const knownSchema = Joi.object<{ ids: string[] }>({
  ids: Joi.array()
    .max(mostAsked)
    .items(Joi.string().pattern(idPattern('change')))
    .required(),
})

const projectId = Joi.string().pattern(idPattern('project'))
export const liveSchema = Joi.object<LiveRequest>({ watch: projectId, unwatch: projectId }).xor('watch', 'unwatch').required()
export const noteSchema = Joi.object<LiveNote>({
  project: projectId.required(),
  revision: revision.required(),
  form: Joi.number().integer().required(),
}).required()

export const changesQuery = Joi.object({ since: revision.required() })
export const idParams = Joi.object({ id: projectId.required() })
export const assetParams = Joi.object({
  sha: assetSchema.required(),
})

/** Sentences of the server's own problems; those of files and gate stand with their modules. */
export const apiSentences: Record<string, string> = {
  'api.request': 'Invalid request: {why}.',
  'api.unknown': 'Not found.',
  'api.method': 'Method {method} is not allowed here; use {allowed}.',
  'api.not-json': 'The body must be JSON (application/json), and is {type}.',
  'api.no-project': 'No such project. It may have been deleted.',
  'api.newer-form':
    'This project was saved by a newer version (format {found}; supported up to {known}). Open it with that version.',
  'api.older-window': 'The server was updated. Reload this window; unsaved changes are kept.',
  'api.other-history':
    'This window (revision {revision}) does not match the server (revision {newest}). Reload; unsaved changes are kept.',
  'api.damaged': 'The stored project cannot be read ({where}: {why}). Nothing was changed; restore a backup or import its file.',
  'api.no-picture': 'No preview: {why}.',
  'api.disk-full': 'The server’s disk is full. Changes are stored in this browser until there is space.',
  'api.many-profiles': 'There are {most} presets already. Remove one first.',
  'api.no-asset': 'No such asset.',
  'api.bad-asset': 'File rejected: {why}.',
  'api.large': 'Too large (maximum {most} bytes).',
  'api.origin': 'Requests from other sites are not served.',
  'api.database-away': 'Database unavailable. Changes are stored in this browser and saved later.',
  'api.fault': 'Server error. See the server log.',
}
