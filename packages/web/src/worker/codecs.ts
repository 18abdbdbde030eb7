import jpegUrl from '@jsquash/jpeg/codec/dec/mozjpeg_dec.wasm?url'
import { initWasm, Resvg } from '@resvg/resvg-wasm'
import svgUrl from '@resvg/resvg-wasm/index_bg.wasm?url'
import webpUrl from '@jsquash/webp/codec/dec/webp_dec.wasm?url'
import { givePictureCodecs, pictureCodecs, wasmCodecs, type DrawsSvg, type Instantiate } from '@moth-lamp/core/artwork'

const codeOf = async (url: string): Promise<Instantiate> => {
  const module = await WebAssembly.compile(await (await fetch(url)).arrayBuffer())
  return (imports) => new WebAssembly.Instance(module, imports as WebAssembly.Imports)
}

/** Fetches a decoder; each is large, and few projects need more than one. */
const fetched = {
  jpeg: async () => wasmCodecs({ jpeg: await codeOf(jpegUrl) }),
  webp: async () => wasmCodecs({ webp: await codeOf(webpUrl) }),
  svg: async () => {
    await initWasm(fetch(svgUrl))
    return wasmCodecs({ svg: Resvg as unknown as DrawsSvg })
  },
}
const known = new Map<string, Promise<void>>()

/** Has what a picture of that format is decoded by, if it needs any, ready here. Throws where it cannot be fetched. */
export async function readPictures(format: string | null): Promise<void> {
  if (format === null || !(format in fetched)) return
  let coming = known.get(format)
  if (!coming) {
    coming = fetched[format as keyof typeof fetched]().then((codec) => givePictureCodecs({ ...pictureCodecs(), ...codec }))
    known.set(format, coming)
  }
  await coming
}
