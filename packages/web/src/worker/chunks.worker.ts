import { makeChunk } from '@moth-lamp/core/artwork'
import type { FromChunks, ToChunks } from './messages.ts'

// Makes what builds want and do not make themselves, away from the panel: whatever a damaged file does here, the panel runs on.

const assets = new Map<string, Uint8Array>()

self.onmessage = ({ data }: MessageEvent<ToChunks>) => {
  if (data.type === 'asset') return void assets.set(data.sha, data.bytes)
  const made = makeChunk(data.request, (sha) => assets.get(sha) ?? null)
  self.postMessage({ key: data.key, made } satisfies FromChunks)
}
