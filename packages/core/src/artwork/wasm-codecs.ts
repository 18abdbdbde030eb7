import jpegFactory from '@jsquash/jpeg/codec/dec/mozjpeg_dec.js'
import webpFactory from '@jsquash/webp/codec/dec/webp_dec.js'
import type { PictureCodecs, Pixels } from './picture-decode.ts'

/** Makes an instance of a module's code with what it imports: where the code comes from is known outside. */
export type Instantiate = (imports: object) => { exports: object }

interface Decoder {
  decode(bytes: Uint8Array, turns?: boolean): { width: number; height: number; data: ArrayLike<number> } | null
}
type Factory = (options: object) => Promise<Decoder>

/** What the decoders make their result of, where the platform has none. */
class PlainImage {
  constructor(
    readonly data: Uint8ClampedArray,
    readonly width: number,
    readonly height: number,
  ) {}
}

/**
 * The decoders of JPEG and WebP, ready to be called. Their code is WebAssembly, so that they give the same bytes in Node and in a
 * browser; a call that cannot go on throws.
 */
export async function loadCodecs(code: { jpeg: Instantiate; webp: Instantiate }): Promise<PictureCodecs> {
  const world = globalThis as { ImageData?: unknown }
  world.ImageData ??= PlainImage
  const load = (factory: unknown, instantiate: Instantiate) =>
    (factory as Factory)({
      noInitialRun: true,
      print: () => undefined,
      printErr: () => undefined,
      instantiateWasm(imports: object, done: (instance: object) => void) {
        const instance = instantiate(imports)
        done(instance)
        return instance.exports
      },
    })
  const [jpeg, webp] = await Promise.all([load(jpegFactory, code.jpeg), load(webpFactory, code.webp)])
  const pixels = (made: ReturnType<Decoder['decode']>): Pixels => {
    if (!made) throw new Error('it cannot be decoded')
    return { width: made.width, height: made.height, rgba: Uint8Array.from(made.data) }
  }
  return { jpeg: (bytes) => pixels(jpeg.decode(bytes, false)), webp: (bytes) => pixels(webp.decode(bytes)) }
}
