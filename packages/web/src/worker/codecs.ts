import jpegUrl from '@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm?url'
import webpUrl from '@jsquash/webp/codec/dec/webp_dec.wasm?url'
import { givePictureCodecs, wasmCodecs, type Instantiate } from '@moth-lamp/core/artwork'

const codeOf = async (url: string): Promise<Instantiate> => {
  const module = await WebAssembly.compile(await (await fetch(url)).arrayBuffer())
  return (imports) => new WebAssembly.Instance(module, imports as WebAssembly.Imports)
}

/** Fetches the decoders of JPEG and WebP: from then on they are read here. */
export async function readAllPictures(): Promise<void> {
  const [jpeg, webp] = await Promise.all([codeOf(jpegUrl), codeOf(webpUrl)])
  givePictureCodecs(wasmCodecs({ jpeg, webp }))
}
