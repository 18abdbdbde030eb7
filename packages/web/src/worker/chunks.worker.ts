import {
  decodePicture,
  factsOf,
  fontDamage,
  makeSheet,
  plainly,
  readTypeface,
  makeChunk,
  pictureFormat,
  pictureCodecs,
  seesThrough,
  type ChunkRequest,
  type TypefaceFacts,
} from '@moth-lamp/core/artwork'
import { bad, good, type Result } from '@moth-lamp/core/base'
import { readPictures } from './codecs.ts'
import type { FromChunks, LookedPicture, ToChunks } from './messages.ts'

// Makes what builds want and do not make themselves, away from the panel: whatever a damaged file does here, the panel runs on.

const assets = new Map<string, Uint8Array>()

const ready = (bytes: Uint8Array | undefined): Promise<void> => readPictures(bytes ? pictureFormat(bytes) : null)

function answer(data: Extract<ToChunks, { type: 'make' | 'look' }>): void {
  if (data.type === 'look') return void self.postMessage({ key: data.key, looked: lookAt(data.bytes) } satisfies FromChunks)
  const made = makeChunk<ChunkRequest>(data.request, (sha) => assets.get(sha) ?? null)
  self.postMessage({ key: data.key, made } satisfies FromChunks)
}

/** Whether a file is a picture that can be shown, and what of it: it is decoded to know. */
function lookAt(bytes: Uint8Array): Result<LookedPicture> {
  const made = decodePicture(bytes, pictureCodecs())
  return made.ok ? good({ ...made.value.info, seesThrough: seesThrough(made.value) }) : made
}

/** Facts that a font file states, if it can be drawn: its letters are drawn to know. */
function lookAtFont(bytes: Uint8Array): Result<TypefaceFacts> {
  const damage = fontDamage(bytes)
  if (damage) return { ok: false, problem: damage }
  const typeface = readTypeface(bytes)
  if (!typeface.ok) return bad('font.damaged', { what: String(typeface.problem.facts['reason']) })
  for (const size of [12, 200]) makeSheet(plainly(typeface.value), size)
  return good(factsOf(typeface.value))
}

self.onmessage = ({ data }: MessageEvent<ToChunks>) => {
  if (data.type === 'asset') return void assets.set(data.sha, data.bytes)
  if (data.type === 'look at font')
    return void self.postMessage({ key: data.key, font: lookAtFont(data.bytes) } satisfies FromChunks)
  void ready(data.type === 'look' ? data.bytes : assets.get(data.request.asset)).then(() => answer(data))
}
