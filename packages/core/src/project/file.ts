import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate'
import { bad, canonicalJson, good, sha256Hex, type Result } from '../base/index.ts'
import { migrate } from './migrate.ts'
import type { Project } from './types.ts'
import { validateProject } from './validate.ts'

/** Files that belong to a project, by the SHA-256 of their bytes. */
export type Assets = ReadonlyMap<string, Uint8Array>

/** A project file is at most so large, packed and unpacked. */
export const mostFileBytes = 32 * 1024 * 1024
export const mostUnpackedBytes = 128 * 1024 * 1024

/** The assets a project refers to. */
export const assetsOf = (project: Project): string[] => [...new Set(Object.values(project.typefaces).map((t) => t.asset))].sort()

/** The document as the text that is kept: canonical key order, two blanks of indent. */
export const projectText = (project: Project): string => canonicalJson(project, 2) + '\n'

/** ZIP: `project.json` and `assets/<sha256>`, always in the same order and without times: equal projects, equal bytes. */
export function packProject(project: Project, assets: Assets): Uint8Array {
  const entries: Zippable = { 'project.json': [strToU8(projectText(project)), { mtime: '1980-01-01T00:00:00' }] }
  for (const sha of assetsOf(project)) {
    const bytes = assets.get(sha)
    if (bytes) entries[`assets/${sha}`] = [bytes, { mtime: '1980-01-01T00:00:00', level: 0 }]
  }
  return zipSync(entries)
}

/**
 * A project file, whatever it holds. Problems: `file.large`, `file.zip`, `file.no-project`, `file.json` (message),
 * `file.form`, `file.asset` (name: missing or not what its name says), and those of the gate.
 */
export function unpackProject(bytes: Uint8Array): Result<{ project: Project; assets: Map<string, Uint8Array> }> {
  if (bytes.length > mostFileBytes) return bad('file.large', { bytes: bytes.length, most: mostFileBytes })
  const files = unzip(bytes)
  if (!files.ok) return files
  const source = files.value['project.json']
  if (!source) return bad('file.no-project')
  const parsed = parse(strFromU8(source))
  if (!parsed.ok) return parsed
  const migrated = migrate(parsed.value)
  if (!migrated.ok) return migrated
  const project = validateProject(migrated.value)
  if (!project.ok) return project
  const assets = new Map<string, Uint8Array>()
  for (const sha of assetsOf(project.value)) {
    const asset = files.value[`assets/${sha}`]
    if (!asset || sha256Hex(asset) !== sha) return bad('file.asset', { name: sha.slice(0, 12), missing: !asset })
    assets.set(sha, asset)
  }
  return good({ project: project.value, assets })
}

function unzip(bytes: Uint8Array): Result<Record<string, Uint8Array>> {
  let total = 0
  let tooLarge = false
  try {
    const files = unzipSync(bytes, {
      filter: (file) => {
        const wanted = file.name === 'project.json' || /^assets\/[0-9a-f]{64}$/.test(file.name)
        if (wanted) total += file.originalSize
        tooLarge ||= total > mostUnpackedBytes
        return wanted && !tooLarge
      },
    })
    return tooLarge ? bad('file.large', { bytes: total, most: mostUnpackedBytes }) : good(files)
  } catch (error) {
    return bad('file.zip', { message: error instanceof Error ? error.message : 'unreadable' })
  }
}

function parse(text: string): Result<unknown> {
  try {
    return good(JSON.parse(text))
  } catch (error) {
    return bad('file.json', { message: error instanceof Error ? error.message : 'unreadable' })
  }
}

export const fileSentences: Record<string, string> = {
  'file.large': 'The file has {bytes} bytes; {most} are allowed.',
  'file.zip': 'This is not a project file: it is no ZIP that can be read ({message}).',
  'file.no-project': 'This ZIP holds no project.json: it is not a project file.',
  'file.json': 'project.json in the file is no JSON: {message}.',
  'file.form': 'The project has form {found}, and this Moth Lamp knows forms 1 to {known}: it was kept by a later version.',
  'file.damaged': 'The project in the file is damaged: its parts are not where they belong.',
  'file.asset': 'The file lacks the asset {name}…, or holds other bytes under its name.',
}
