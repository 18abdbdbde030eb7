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

/** What a window says over its socket: which projects it wants to hear of. */
export type LiveRequest = { watch: string } | { unwatch: string }

/** What a window is told over its socket: the newest revision of a project it watches, at once and with every commit. */
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
  'api.request': 'The request is not understood: {why}.',
  'api.unknown': 'There is nothing at this address.',
  'api.method': 'This address does not take {method}; it takes {allowed}.',
  'api.not-json': 'The body must be JSON (application/json), and is {type}.',
  'api.no-project': 'There is no such project. It may have been deleted.',
  'api.newer-form':
    'The project was kept by a later version of Moth Lamp (form {found}; this one knows forms up to {known}). Start the later version to open it.',
  'api.older-window':
    'This window is of an older version than the server. Load it again: what it has not saved is kept in the browser and comes along.',
  'api.other-history':
    'The server has the project up to revision {newest}, this window has revision {revision}. Load it again: what it has not saved is kept in the browser and comes along.',
  'api.damaged':
    'The project cannot be read as it is stored ({where}: {why}). Nothing has been changed; restore a backup or import its file.',
  'api.no-picture': 'There is no picture of its start page: {why}.',
  'api.disk-full': 'The disk of the database is full. What you have done is kept here and saved when there is room again.',
  'api.many-profiles': 'There are {most} profiles already. Remove one first.',
  'api.no-asset': 'There is no such asset.',
  'api.bad-asset': 'The file was not taken: {why}.',
  'api.large': 'That is too large: {most} bytes are allowed.',
  'api.origin': 'The request comes from another site, and is not served.',
  'api.database-away': 'The database cannot be reached. What you have done is kept here and saved when it is back.',
  'api.fault': 'Something went wrong in the server. It has been written to the log.',
}
