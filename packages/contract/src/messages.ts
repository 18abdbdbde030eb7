import Joi from 'joi'
import { idPattern, type ChangeId, type Problem } from '@moth-lamp/core/base'
import type { Patch, Project, Request } from '@moth-lamp/core/project'

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
  /** Of the exchanges, how many passed when last run; null when none was. */
  passed: number | null
  updatedAt: string
  deletedAt: string | null
}

export interface OpenedProject {
  id: string
  revision: number
  project: Project
}

/** A change that has been saved: enough for another window to take it. */
export interface SavedChange {
  revision: number
  changeId: ChangeId
  edit: string
  patches: Patch[]
}

/** A batch on a base revision: all of it is saved, or none. Sent again, it is recognised by its change ids. */
export interface SaveRequest {
  /** The form of the document that the edits were made on: 409 `api.older-window` for another than the server's. */
  form: number
  base: number
  changes: Request[]
}

/**
 * `saved`: committed, up to `revision`. `behind`: others were first; take `changes` (from the base on) and send again.
 * `refused`: the change does not pass the gate here; set it aside and send the rest again.
 */
export type SaveAnswer =
  | { outcome: 'saved'; revision: number }
  | { outcome: 'behind'; revision: number; changes: SavedChange[] }
  | { outcome: 'refused'; changeId: ChangeId; problem: Problem }

/** How an exchange went when it was last run. */
export interface ExchangeRecord {
  exchange: string
  revision: number
  passed: boolean
  failedStep: string | null
  ranAt: string
}

/** Every answer that is not 2xx. `message` is a sentence for people. */
export interface ApiProblem {
  code: string
  facts: Problem['facts']
  message: string
}

/** What a window is told at once. */
export interface LiveNote {
  revision: number
}

/** Changes in one batch, at most. */
export const mostChanges = 200

/** Revisions are counted in a 32-bit column. */
const revision = Joi.number().integer().min(0).max(2_147_483_647)
const name = Joi.string().trim().min(1).max(60).required()

export const createSchema = Joi.object({
  name,
  width: Joi.number().integer().min(16).max(2048).required(),
  height: Joi.number().integer().min(16).max(2048).required(),
  diagonalInches: Joi.number().min(0.5).max(40).required(),
})

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

export const changesQuery = Joi.object({ since: revision.required() })
export const idParams = Joi.object({ id: Joi.string().pattern(idPattern('project')).required() })
export const assetParams = Joi.object({
  sha: Joi.string()
    .pattern(/^[0-9a-f]{64}$/)
    .required(),
})

/** Sentences of the server's own problems; those of files and gate stand with their modules. */
export const apiSentences: Record<string, string> = {
  'api.request': 'The request is not understood: {why}.',
  'api.unknown': 'There is nothing at this address.',
  'api.no-project': 'There is no such project. It may have been deleted.',
  'api.newer-form':
    'The project was kept by a later version of Moth Lamp (form {found}; this one knows forms up to {known}). Start the later version to open it.',
  'api.older-window':
    'This window is of an older version than the server. Load it again: what it has not saved is kept in the browser and comes along.',
  'api.other-history':
    'The server has the project up to revision {newest}, this window has revision {revision}. Load it again: what it has not saved is kept in the browser and comes along.',
  'api.damaged':
    'The project cannot be read as it is stored ({where}: {why}). Nothing has been changed; restore a backup or import its file.',
  'api.disk-full': 'The disk of the database is full. What you have done is kept here and saved when there is room again.',
  'api.no-asset': 'There is no such asset.',
  'api.large': 'That is too large: {most} bytes are allowed.',
  'api.origin': 'The request comes from another site, and is not served.',
  'api.database-away': 'The database cannot be reached. What you have done is kept here and saved when it is back.',
  'api.fault': 'Something went wrong in the server. It has been written to the log.',
}
