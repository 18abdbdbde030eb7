import {
  decodePicture,
  factsOf,
  fontDamage,
  isWoff2,
  makeSheet,
  plainly,
  readTypeface,
  woff2Damage,
  makeChunk,
  pictureFormat,
  pictureCodecs,
  type ChunkRequest,
  type PictureInfo,
} from '@moth-lamp/core/artwork'
import { bad, good, type Result } from '@moth-lamp/core/base'
import { readAllPictures } from './codecs.ts'
import type { FontLook, FromChunks, ToChunks } from './messages.ts'

// Makes what builds want and do not make themselves, away from the panel: whatever a damaged file does here, the panel runs on.

const assets = new Map<string, Uint8Array>()
let codecs: Promise<void> | null = null

/** The decoders that a file needs, if it is a picture that needs some. */
async function ready(bytes: Uint8Array | undefined): Promise<void> {
  const format = bytes && pictureFormat(bytes)
  if (format === 'jpeg' || format === 'webp') await (codecs ??= readAllPictures())
}

function answer(data: Extract<ToChunks, { type: 'make' | 'look' }>): void {
  if (data.type === 'look') return void self.postMessage({ key: data.key, looked: lookAt(data.bytes) } satisfies FromChunks)
  const made = makeChunk<ChunkRequest>(data.request, (sha) => assets.get(sha) ?? null)
  self.postMessage({ key: data.key, made } satisfies FromChunks)
}

/** Whether a file is a picture that can be shown, and what of it: it is decoded to know. */
function lookAt(bytes: Uint8Array): Result<PictureInfo> {
  const made = decodePicture(bytes, pictureCodecs())
  return made.ok ? good(made.value.info) : made
}

/** Whether a file is a font that can be drawn, unpacked where it is packed: its letters are drawn to know. */
async function lookAtFont(packed: Uint8Array): Promise<Result<FontLook>> {
  const damage = isWoff2(packed) ? woff2Damage(packed) : null
  if (damage) return { ok: false, problem: damage }
  try {
    const bytes = isWoff2(packed) ? new Uint8Array(await (await unpacking()).default(packed)) : packed
    const whole = fontDamage(bytes)
    if (whole) return { ok: false, problem: whole }
    const typeface = readTypeface(bytes)
    if (!typeface.ok) return bad('font.damaged', { what: String(typeface.problem.facts['reason']) })
    for (const size of [12, 200]) makeSheet(plainly(typeface.value), size)
    return good({ bytes, facts: factsOf(typeface.value) })
  } catch {
    return bad('font.damaged', { what: 'it cannot be unpacked' })
  }
}

const unpacking = () => import('woff2-encoder/decompress')

self.onmessage = ({ data }: MessageEvent<ToChunks>) => {
  if (data.type === 'asset') return void assets.set(data.sha, data.bytes)
  if (data.type === 'look at font')
    return void lookAtFont(data.bytes).then((font) => self.postMessage({ key: data.key, font } satisfies FromChunks))
  void ready(data.type === 'look' ? data.bytes : assets.get(data.request.asset)).then(() => answer(data))
}
