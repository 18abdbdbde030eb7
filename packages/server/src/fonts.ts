import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { factsOf, readTypeface } from '@moth-lamp/core/artwork'
import { sha256Hex } from '@moth-lamp/core/base'
import type { BundledTypeface } from '@moth-lamp/core/project'

const read = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(createRequire(import.meta.url).resolve(`@fontsource/${name}`)))

const embeddingOf = (bytes: Uint8Array) => {
  const typeface = readTypeface(bytes)
  return typeface.ok ? factsOf(typeface.value).embedding : 'unsaid'
}

/** The typefaces a new project begins with, out of the packages they come in. */
export function bundledFonts(): { typefaces: BundledTypeface[]; assets: Map<string, Uint8Array> } {
  const files: [BundledTypeface['id'], string, Uint8Array][] = [
    [
      'typeface:next',
      'Atkinson Hyperlegible Next',
      read('atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff'),
    ],
    [
      'typeface:next-bold',
      'Atkinson Hyperlegible Next Bold',
      read('atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff'),
    ],
    [
      'typeface:mono',
      'Atkinson Hyperlegible Mono',
      read('atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff'),
    ],
  ]
  return {
    typefaces: files.map(([id, name, bytes]) => ({ id, name, asset: sha256Hex(bytes), embedding: embeddingOf(bytes) })),
    assets: new Map(files.map(([, , bytes]) => [sha256Hex(bytes), bytes])),
  }
}
