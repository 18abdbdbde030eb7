import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { initWasm, Resvg } from '@resvg/resvg-wasm'
import { wasmCodecs, givePictureCodecs, type DrawsSvg, type Instantiate } from '../artwork/index.ts'

const here = createRequire(import.meta.url)
const code = (name: string): Instantiate => {
  const module = new WebAssembly.Module(readFileSync(here.resolve(name)))
  return (imports) => new WebAssembly.Instance(module, imports as WebAssembly.Imports)
}

await initWasm(readFileSync(here.resolve('@resvg/resvg-wasm/index_bg.wasm')))

/** The decoders of JPEG, WebP and SVG, also for whatever is compiled from now on. */
export const testCodecs = wasmCodecs({
  jpeg: code('@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm'),
  webp: code('@jsquash/webp/codec/dec/webp_dec.wasm'),
  svg: Resvg as unknown as DrawsSvg,
})
givePictureCodecs(testCodecs)
