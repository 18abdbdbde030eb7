import { readFileSync } from 'node:fs'
import { makeSheet, readTypeface } from '@moth-lamp/core/artwork'
import { bad, good, type Result } from '@moth-lamp/core/base'
import { openFile, packProject, unpackAsset, type Project } from '@moth-lamp/core/project'
import { written, type Written } from '../summary.ts'
import { pictureOf } from './picture.ts'

/**
 * What is done with things that came from outside: in a process of its own, which is killed when it takes too long or too
 * much. A file is named by its path, documents travel as JSON text.
 */
export type Task =
  | { do: 'ready' }
  | { do: 'document'; file: string }
  | { do: 'asset'; file: string; sha: string }
  | { do: 'picture'; document: string; assets: Map<string, Uint8Array> }
  | { do: 'pack'; document: string; assets: Map<string, Uint8Array> }

export interface DocumentOfFile extends Written {
  assets: readonly string[]
}

/** Sizes at which a typeface must be able to draw all its usual letters before it is let in, px. */
const triedSizes = [12, 200]

export default function run(task: Task): Result<unknown> {
  switch (task.do) {
    case 'ready':
      return good(true)
    case 'document':
      return documentOf(bytesOf(task.file))
    case 'asset':
      return assetOf(bytesOf(task.file), task.sha)
    case 'picture':
      return good(pictureOf(JSON.parse(task.document) as Project, task.assets))
    case 'pack':
      return good(packProject(JSON.parse(task.document) as Project, task.assets))
  }
}

const bytesOf = (path: string): Uint8Array => new Uint8Array(readFileSync(path))

function documentOf(bytes: Uint8Array): Result<DocumentOfFile> {
  const file = openFile(bytes)
  return file.ok ? good({ ...written(file.value.project), assets: file.value.assets }) : file
}

/** Every asset is a typeface so far: one that cannot be read, or not be drawn, does not come in. */
function assetOf(bytes: Uint8Array, sha: string): Result<Uint8Array> {
  const asset = unpackAsset(bytes, sha)
  if (!asset.ok) return asset
  const typeface = readTypeface(asset.value)
  if (!typeface.ok) return bad('file.font', { name: sha.slice(0, 12), reason: String(typeface.problem.facts['reason']) })
  for (const size of triedSizes) makeSheet(typeface.value, size)
  return asset
}
