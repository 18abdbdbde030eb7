import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { initWasm, Resvg } from '@resvg/resvg-wasm'
import { givePictureCodecs, wasmCodecs, type DrawsSvg, type Instantiate } from '@moth-lamp/core/artwork'

const here = createRequire(import.meta.url)

/** The code of a decoder is read when the first picture needs it. */
function codeOf(name: string): Instantiate {
  let module: WebAssembly.Module | null = null
  return (imports) => {
    module ??= new WebAssembly.Module(readFileSync(here.resolve(name)))
    return new WebAssembly.Instance(module, imports as WebAssembly.Imports)
  }
}

let ready: Promise<void> | null = null

/** Once it has come true JPEG, WebP and SVG are read here. */
export const readAllPictures = (): Promise<void> => (ready ??= begin())

async function begin(): Promise<void> {
  await initWasm(readFileSync(here.resolve('@resvg/resvg-wasm/index_bg.wasm')))
  givePictureCodecs(
    wasmCodecs({
      jpeg: codeOf('@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm'),
      webp: codeOf('@jsquash/webp/codec/dec/webp_dec.wasm'),
      svg: Resvg as unknown as DrawsSvg,
    }),
  )
}
