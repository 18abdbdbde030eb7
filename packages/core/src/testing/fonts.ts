import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { sha256Hex } from '../base/index.ts'
import type { BundledTypeface } from '../project/index.ts'

const file = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(createRequire(import.meta.url).resolve(`@fontsource/${name}`)))

const next = file('atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff')
const bold = file('atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff')
const mono = file('atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff')

/** The bundled typefaces, read from the packages they come in. */
export const testTypefaces: BundledTypeface[] = [
  { id: 'typeface:next', name: 'Atkinson Hyperlegible Next', asset: sha256Hex(next) },
  { id: 'typeface:next-bold', name: 'Atkinson Hyperlegible Next Bold', asset: sha256Hex(bold) },
  { id: 'typeface:mono', name: 'Atkinson Hyperlegible Mono', asset: sha256Hex(mono) },
]
export const testAssets = new Map([next, bold, mono].map((bytes) => [sha256Hex(bytes), bytes]))
