import { Buffer } from 'node:buffer'
import fc from 'fast-check'
import { expect } from 'vitest'

// Property tests run with one seed, so that a failure is everyone's failure; `npm run soak` passes new ones.
fc.configureGlobal({ seed: Number(process.env['SEED'] ?? 4600), numRuns: Number(process.env['RUNS'] ?? 100) })

const bytesOf = (view: ArrayBufferView) => Buffer.from(view.buffer, view.byteOffset, view.byteLength)

/** Pixels and bytes that are the same are found so at once; of others the words of the usual comparison say where. */
function areSameBytes(a: unknown, b: unknown): boolean | undefined {
  const isPlain = (view: unknown) => view instanceof Uint8Array || view instanceof Uint16Array
  if (!isPlain(a) || !isPlain(b) || a.constructor !== b.constructor) return undefined
  return bytesOf(a).equals(bytesOf(b)) || undefined
}
const known = globalThis as { comparesBytes?: true }
if (!known.comparesBytes) expect.addEqualityTesters([areSameBytes])
known.comparesBytes = true
