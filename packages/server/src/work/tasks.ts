import { readFileSync } from 'node:fs'
import decompress from 'woff2-encoder/decompress'
import {
  fontDamage,
  fontSentences,
  makeSheet,
  originalOf,
  pictureFormat,
  pictureSentences,
  plainly,
  readTypeface,
  woff2Damage,
} from '@moth-lamp/core/artwork'
import { bad, good, sha256Hex, type Problem, type Result } from '@moth-lamp/core/base'
import { openFile, packProject, unpackAsset, type Project } from '@moth-lamp/core/project'
import { written, type Written } from '../summary.ts'
import { sentence } from '@moth-lamp/core/base'
import { readAllPictures } from './codecs.ts'
import { pictureOf } from './picture.ts'

/**
 * Work on data from outside: in a process of its own, which is killed when it takes too long or too
 * much. A file is named by its path, documents travel as JSON text.
 */
export type Task =
  | { do: 'ready' }
  | { do: 'document'; file: string }
  | { do: 'asset'; file: string; sha: string }
  | { do: 'upload'; bytes: Uint8Array; sha: string }
  | { do: 'unpack'; bytes: Uint8Array }
  | { do: 'picture'; document: string; assets: Map<string, Uint8Array> }
  | { do: 'pack'; document: string; assets: Map<string, Uint8Array> }

export interface DocumentOfFile extends Written {
  assets: readonly string[]
}

/** Sizes at which a typeface must be able to draw all its usual letters before it is let in, px. */
const triedSizes = [12, 200]

export default async function run(task: Task): Promise<Result<unknown>> {
  await readAllPictures()
  switch (task.do) {
    case 'ready':
      return good(process.pid)
    case 'document':
      return documentOf(bytesOf(task.file))
    case 'asset':
      return assetOf(bytesOf(task.file), task.sha)
    case 'upload':
      return uploadOf(new Uint8Array(task.bytes), task.sha)
    case 'unpack':
      return unpacked(new Uint8Array(task.bytes))
    case 'picture':
      return good(pictureOf(JSON.parse(task.document) as Project, task.assets))
    case 'pack':
      return good(packProject(JSON.parse(task.document) as Project, task.assets))
  }
}

/** The file that was read last: its assets are asked for one by one. */
let last = { path: '', bytes: new Uint8Array() }

function bytesOf(path: string): Uint8Array {
  if (last.path !== path) last = { path, bytes: new Uint8Array(readFileSync(path)) }
  return last.bytes
}

function documentOf(bytes: Uint8Array): Result<DocumentOfFile> {
  const file = openFile(bytes)
  return file.ok ? good({ ...written(file.value.project), assets: file.value.assets }) : file
}

/** A typeface or a picture that cannot be read, or not be drawn, does not come in. */
function assetOf(bytes: Uint8Array, sha: string): Result<Uint8Array> {
  const asset = unpackAsset(bytes, sha)
  return asset.ok ? drawable(asset.value, sha) : asset
}

/** A file that comes by itself: it must be what its name says, too. */
const uploadOf = (bytes: Uint8Array, sha: string): Result<Uint8Array> =>
  sha256Hex(bytes) === sha ? drawable(bytes, sha) : bad('file.asset', { name: sha.slice(0, 12) })

/** A font file that is packed as WOFF2, as the one that it was made of; it must be whole. */
async function unpacked(bytes: Uint8Array): Promise<Result<Uint8Array>> {
  const refused = (problem: Problem) =>
    bad('file.font', { name: 'it', reason: sentence(fontSentences[problem.code] ?? problem.code, problem.facts) })
  const before = woff2Damage(bytes)
  if (before) return refused(before)
  try {
    const plain = new Uint8Array(await decompress(bytes))
    const after = fontDamage(plain)
    return after ? refused(after) : good(plain)
  } catch {
    return refused({ code: 'font.damaged', facts: { what: 'decompression failed' } })
  }
}

function drawable(bytes: Uint8Array, sha: string): Result<Uint8Array> {
  if (pictureFormat(bytes)) {
    const picture = originalOf(sha, bytes)
    if (picture.ok) return good(bytes)
    const { code, facts } = picture.problem
    return bad('file.picture', { name: sha.slice(0, 12), reason: sentence(pictureSentences[code] ?? code, facts) })
  }
  const typeface = readTypeface(bytes)
  if (!typeface.ok) return bad('file.font', { name: sha.slice(0, 12), reason: String(typeface.problem.facts['reason']) })
  for (const size of triedSizes) makeSheet(plainly(typeface.value), size)
  return good(bytes)
}
