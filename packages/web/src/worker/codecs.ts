import jpegUrl from '@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm?url'
import { initWasm, Resvg } from '@resvg/resvg-wasm'
import svgUrl from '@resvg/resvg-wasm/index_bg.wasm?url'
import webpUrl from '@jsquash/webp/codec/dec/webp_dec.wasm?url'
import { givePictureCodecs, wasmCodecs, type DrawsSvg, type Instantiate } from '@moth-lamp/core/artwork'

const codeOf = async (url: string): Promise<Instantiate> => {
  const module = await WebAssembly.compile(await (await fetch(url)).arrayBuffer())
  return (imports) => new WebAssembly.Instance(module, imports as WebAssembly.Imports)
}

/** Fetches the decoders of JPEG, WebP and SVG: from then on they are read here. */
export async function readAllPictures(): Promise<void> {
  const [jpeg, webp] = await Promise.all([codeOf(jpegUrl), codeOf(webpUrl), initWasm(fetch(svgUrl))])
  givePictureCodecs(wasmCodecs({ jpeg, webp, svg: Resvg as unknown as DrawsSvg }))
}
