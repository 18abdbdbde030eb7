import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { givePictureCodecs, wasmCodecs, type Instantiate } from '@moth-lamp/core/artwork'

const here = createRequire(import.meta.url)

/** The code of a decoder is read when the first picture needs it. */
function codeOf(name: string): Instantiate {
  let module: WebAssembly.Module | null = null
  return (imports) => {
    module ??= new WebAssembly.Module(readFileSync(here.resolve(name)))
    return new WebAssembly.Instance(module, imports as WebAssembly.Imports)
  }
}

/** From now on JPEG and WebP are read here. */
export const readAllPictures = (): void =>
  givePictureCodecs(
    wasmCodecs({
      jpeg: codeOf('@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm'),
      webp: codeOf('@jsquash/webp/codec/dec/webp_dec.wasm'),
    }),
  )
