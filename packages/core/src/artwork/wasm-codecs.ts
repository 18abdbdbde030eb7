import jpegFactory from '@jsquash/jpeg/codec/dec/mozjpeg_dec.js'
import webpFactory from '@jsquash/webp/codec/dec/webp_dec.js'
import type { PictureCodecs } from './picture-decode.ts'

/** Renderer of SVG, once its code is loaded. */
export type DrawsSvg = new (
  bytes: Uint8Array,
  options: object,
) => { render(): { width: number; height: number; pixels: Uint8Array; free(): void }; free(): void }

/** Colours that were multiplied by their alpha, as they were before. */
function straight(pixels: Uint8Array): Uint8Array {
  const out = Uint8Array.from(pixels)
  for (let at = 0; at < out.length; at += 4) {
    const alpha = out[at + 3]!
    if (alpha === 0 || alpha === 255) continue
    for (let k = 0; k < 3; k++) out[at + k] = Math.min(255, Math.floor((out[at + k]! * 255) / alpha + 0.5))
  }
  return out
}

/** Makes an instance of a module's code with what it imports: where the code comes from is known outside. */
export type Instantiate = (imports: object) => { exports: object }

interface Decoder {
  decode(bytes: Uint8Array, ...more: unknown[]): { width: number; height: number; data: ArrayLike<number> } | null
}

/** Image data for the decoders where the platform has none. */
class PlainImage {
  constructor(
    readonly data: Uint8ClampedArray,
    readonly width: number,
    readonly height: number,
  ) {}
}

/** A decoder that is ready at once: its code is there, and what its maker is given becomes the decoder itself. */
/** `complains` hears what the decoder warns of. */
function decoderOf(factory: unknown, instantiate: Instantiate, complains: (words: string) => void): Decoder {
  const made = {
    noInitialRun: true,
    print: () => undefined,
    printErr: complains,
    instantiateWasm(imports: object, done: (instance: object) => void) {
      const instance = instantiate(imports)
      done(instance)
      return instance.exports
    },
  }
  // Its promise says the same a moment later, and fails where the decoder gives up: that is told where it is used.
  ;(factory as (options: object) => Promise<unknown>)(made).catch(() => undefined)
  return made as unknown as Decoder
}

/** One decoder that is taken out, used, and put back unless it failed. */
function kept(factory: unknown, instantiate: Instantiate, ...more: unknown[]): PictureCodecs['jpeg'] {
  let decoder: Decoder | null = null
  let endsEarly = false
  return (bytes) => {
    const used = decoder ?? decoderOf(factory, instantiate, (words) => (endsEarly ||= /premature end/i.test(words)))
    decoder = null
    endsEarly = false
    const made = used.decode(bytes, ...more)
    if (!made) throw new Error('decoding failed')
    // The decoder fills what is not there with grey.
    if (endsEarly) throw new Error('fewer pixels than the size in the header')
    decoder = used
    return { width: made.width, height: made.height, rgba: Uint8Array.from(made.data) }
  }
}

const drawnBy =
  (Drawing: DrawsSvg): PictureCodecs['svg'] =>
  (bytes, width) => {
    const drawing = new Drawing(bytes, { fitTo: { mode: 'width', value: width } })
    try {
      const image = drawing.render()
      const made = { width: image.width, height: image.height, rgba: straight(image.pixels) }
      image.free()
      return made
    } finally {
      drawing.free()
    }
  }

/** The code of decoders, each in WebAssembly. */
export interface CodecCode {
  jpeg: Instantiate
  webp: Instantiate
  svg: DrawsSvg
}

/**
 * The decoders of which there is code. It is WebAssembly, so that they give the same bytes in Node and in a browser; a call that
 * cannot go on throws. One that has failed is in no state to be used again: the next picture gets a new one.
 */
export function wasmCodecs(code: CodecCode): PictureCodecs
export function wasmCodecs(code: Partial<CodecCode>): Partial<PictureCodecs>
export function wasmCodecs({ jpeg, webp, svg }: Partial<CodecCode>): Partial<PictureCodecs> {
  const world = globalThis as { ImageData?: unknown }
  world.ImageData ??= PlainImage
  return {
    ...(jpeg && { jpeg: kept(jpegFactory, jpeg, /* turns it itself: */ false) }),
    ...(webp && { webp: kept(webpFactory, webp) }),
    ...(svg && { svg: drawnBy(svg) }),
  }
}
