import { strFromU8, strToU8, zipSync, type Zippable } from 'fflate'
import { bad, canonicalJson, good, readArchive, sha256Hex, unpackEntry, type ArchiveEntry, type Result } from '../base/index.ts'
import { unkeepable } from './keepable.ts'
import { migrate } from './migrate.ts'
import type { Project } from './types.ts'
import { validateProject } from './validate.ts'

/** Files that belong to a project, by the SHA-256 of their bytes. */
export type Assets = ReadonlyMap<string, Uint8Array>

/** A project file is at most so large; its document unpacked; one asset in it; all of them. */
export const mostFileBytes = 144 * 1024 * 1024
export const mostDocumentBytes = 16 * 1024 * 1024
export const mostAssetBytes = 20 * 1024 * 1024
export const mostAssetsBytes = 128 * 1024 * 1024
/** The list of assets that a file lacks, unpacked. */
const mostMissingBytes = 1024 * 1024
/** Values in a document (every number, text, list and object), and levels of lists and objects. */
const mostValues = 2_000_000
const mostLevels = 60

/** The assets a project refers to. */
export const assetsOf = ({ typefaces, pictures }: Project): string[] =>
  [...new Set([...Object.values(typefaces), ...Object.values(pictures)].map(({ asset }) => asset))].sort()

/** The records of a project that are made of some assets, by the names of their files where they had one. */
export function assetNames({ typefaces, pictures }: Project, which: (sha: string) => boolean): string[] {
  const fonts = Object.values(typefaces).filter(({ asset }) => which(asset))
  const files = Object.values(pictures).filter(({ asset }) => which(asset))
  return [...fonts.map(({ name }) => name), ...files.map(({ name, file }) => file || name)]
}

/** The document as the text that is kept: canonical key order, two blanks of indent. */
export const projectText = (project: Project): string => canonicalJson(project, 2) + '\n'

/** ZIP: `project.json` and `assets/<sha256>`, always in the same order and without times: equal projects, equal bytes. */
export function packProject(project: Project, assets: Assets): Uint8Array {
  const entries: Zippable = { 'project.json': [strToU8(projectText(project)), { mtime: '1980-01-01T00:00:00' }] }
  const lacking = assetsOf(project).filter((sha) => !assets.has(sha))
  for (const sha of assetsOf(project)) {
    const bytes = assets.get(sha)
    if (bytes) entries[`assets/${sha}`] = [bytes, { mtime: '1980-01-01T00:00:00', level: 0 }]
  }
  // It says so itself: then it opens without them, where one that lost them on its way does not.
  if (lacking.length) entries['missing.json'] = [strToU8(JSON.stringify(lacking)), { mtime: '1980-01-01T00:00:00' }]
  return zipSync(entries)
}

/** A project file that has been looked into: its document, and its assets still packed. */
export interface OpenFile {
  project: Project
  /** Names of the assets that the document refers to and the file holds: see `unpackAsset`. It may say that it lacks others. */
  assets: readonly string[]
}

/**
 * A project file, whatever it holds: sizes are looked at before anything is set aside for them, and assets are unpacked
 * one by one when they are asked for. Problems: `file.large` (bytes, most), `file.zip` (message), `file.no-project`,
 * `file.many` (most), `file.json` (message), `file.form`, `file.asset` (name, missing), and those of the gate.
 */
export function openFile(bytes: Uint8Array): Result<OpenFile> {
  if (bytes.length > mostFileBytes) return bad('file.large', { bytes: bytes.length, most: mostFileBytes })
  const archive = readArchive(bytes)
  if (!archive.ok) return archive
  const entries = archive.value
  const entry = entries.get('project.json')
  if (!entry) return bad('file.no-project')
  const source = unpackEntry(bytes, entry, mostDocumentBytes)
  if (!source.ok) return source
  const project = readDocument(source.value)
  if (!project.ok) return project
  const assets = assetsOf(project.value)
  const found = assets.map((sha) => entries.get(`assets/${sha}`))
  const known = lackingOf(bytes, entries)
  const missing = found.findIndex((e, i) => !e && !known.has(assets[i]!))
  if (missing >= 0) return bad('file.asset', { name: assets[missing]!.slice(0, 12), missing: true })
  const total = found.reduce((sum, e) => sum + (e?.size ?? 0), 0)
  if (total > mostAssetsBytes) return bad('file.large', { bytes: total, most: mostAssetsBytes })
  return good({ project: project.value, assets: assets.filter((_, i) => found[i]) })
}

/** The assets that a file says it was packed without. */
function lackingOf(bytes: Uint8Array, entries: ReadonlyMap<string, ArchiveEntry>): ReadonlySet<string> {
  const entry = entries.get('missing.json')
  const source = entry && unpackEntry(bytes, entry, mostMissingBytes)
  const list = source?.ok ? parse(strFromU8(source.value)) : null
  return new Set(list?.ok && Array.isArray(list.value) ? list.value.filter((sha) => typeof sha === 'string') : [])
}

/** One asset of a project file alone. Problems: `file.zip`, `file.large`, `file.asset` (name, missing). */
export function unpackAsset(bytes: Uint8Array, sha: string): Result<Uint8Array> {
  const archive = readArchive(bytes)
  if (!archive.ok) return archive
  const entry = archive.value.get(`assets/${sha}`)
  if (!entry) return bad('file.asset', { name: sha.slice(0, 12), missing: true })
  const unpacked = unpackEntry(bytes, entry, mostAssetBytes)
  if (!unpacked.ok || sha256Hex(unpacked.value) === sha) return unpacked
  return bad('file.asset', { name: sha.slice(0, 12), missing: false })
}

/** A document as JSON text in UTF-8, of any known form, counted before it is parsed. */
export function readDocument(source: Uint8Array): Result<Project> {
  if (!isBounded(source)) return bad('file.many', { most: mostValues, levels: mostLevels })
  const parsed = parse(strFromU8(source))
  if (!parsed.ok) return parsed
  // A file brings in nothing that an edit could not.
  const wrong = unkeepable(parsed.value, Infinity)
  if (wrong) return { ok: false, problem: wrong }
  const migrated = migrate(parsed.value)
  return migrated.ok ? validateProject(migrated.value) : migrated
}

/** Whether a JSON text has at most so many values, so deep: told from its bytes, without making any of them. */
function isBounded(source: Uint8Array): boolean {
  let [values, levels, inText] = [1, 0, false]
  for (let at = 0; at < source.length; at++) {
    const byte = source[at]
    if (inText) {
      if (byte === 0x5c) at++
      else if (byte === 0x22) inText = false
    } else if (byte === 0x22) inText = true
    else if (byte === 0x2c) values++
    else if (byte === 0x7b || byte === 0x5b) {
      values++
      if (++levels > mostLevels) return false
    } else if (byte === 0x7d || byte === 0x5d) levels--
    if (values > mostValues) return false
  }
  return true
}

/** A project file with everything in it, at once. Problems as of `openFile`. */
export function unpackProject(bytes: Uint8Array): Result<{ project: Project; assets: Map<string, Uint8Array> }> {
  const file = openFile(bytes)
  if (!file.ok) return file
  const assets = new Map<string, Uint8Array>()
  for (const sha of file.value.assets) {
    const asset = unpackAsset(bytes, sha)
    if (!asset.ok) return asset
    assets.set(sha, asset.value)
  }
  return good({ project: file.value.project, assets })
}

function parse(text: string): Result<unknown> {
  try {
    return good(JSON.parse(text))
  } catch (error) {
    return bad('file.json', { message: (error instanceof Error ? error.message : 'unreadable').slice(0, 200) })
  }
}

export const fileSentences: Record<string, string> = {
  'file.large': 'The file has {bytes} bytes (maximum {most}).',
  'file.many': 'The project is too large or too deeply nested (maximum {most} values, {levels} levels).',
  'file.zip': 'Not a project file (unreadable ZIP: {message}).',
  'file.font': 'The font “{name}” in the file cannot be used: {reason}.',
  'file.picture': 'The image “{name}” in the file cannot be used: {reason}.',
  'file.slow': 'Reading stopped after {seconds} s: the file is damaged or malicious.',
  'file.no-project': 'Not a project file: this ZIP has no project.json.',
  'file.json': 'project.json is not valid JSON: {message}.',
  'file.form': 'Project format {found} is newer than this version supports (1 to {known}).',
  'file.damaged': 'The project file is damaged (invalid structure).',
  'file.asset': 'Asset {name}… is missing or corrupt.',
}
