import type { Chunks, PictureChunk, PictureRequest } from '../artwork/index.ts'
import { isProblem, sha256Hex, type Problem } from '../base/index.ts'
import { cutOf, fittingOf, type PictureRecord } from '../project/index.ts'
import type { Build } from './build.ts'
import type { PicturePart } from './plan.ts'

/** A picture as something shows it: the key it is named by, and how it is made. */
export interface PictureUse {
  key: string
  id: string
  /** In runs of one colour. */
  inRuns: boolean
  request: PictureRequest
}

const ascii = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0))

/**
 * By which whatever shows a picture names it: the same for whatever it is made of, so that it can change under them. `ground` is
 * `#rrggbb`; a picture that does not keep its transparency is another on another ground.
 */
export function pictureUse(picture: PictureRecord, ground: string): PictureUse {
  const { id, asset, width, height, dither, keepsAlpha, kept } = picture
  const under = keepsAlpha ? '#000000' : ground.toLowerCase()
  return {
    id,
    inRuns: kept === 'runs',
    key: `${sha256Hex(ascii(id)).slice(0, 16)}/${under}`,
    request: {
      make: 'picture',
      asset,
      width,
      height,
      fitting: fittingOf(picture),
      dither,
      ground: under,
      keepsAlpha,
      cut: cutOf(picture),
    },
  }
}

/** Asks for the pictures of a build. While a new one is being made, the last of its key is shown. */
export class PictureCollector {
  private last = new Map<string, PictureChunk>()

  constructor(private source: Chunks) {}

  /** `readsRuns`: whether the panel can. */
  collect(
    uses: Iterable<PictureUse>,
    readsRuns: boolean,
  ): Pick<Build['header'], 'pictures'> & Pick<Build, 'chunks' | 'problems'> & { parts: PicturePart[] } {
    const wanted = new Map<string, PictureUse>()
    for (const use of uses) wanted.set(use.key, use)
    const parts: PicturePart[] = []
    const laid = new Set<string>()
    const pictures: Build['header']['pictures'] = {}
    const chunks: Build['chunks'] = {}
    const problems = new Map<string, Problem>()
    const last = new Map<string, PictureChunk>()
    for (const key of [...wanted.keys()].sort()) {
      const { request, id, inRuns } = wanted.get(key)!
      const got = this.source.get(request)
      if (isProblem(got)) problems.set(request.asset, got)
      const chunk = got === 'wanted' ? this.last.get(key) : isProblem(got) ? undefined : got
      if (!chunk) continue
      last.set(key, chunk)
      const { names } = chunk
      const { pixels, alpha } = chunk.parts
      const { width, height, runs, flat, margin } = chunk.header
      pictures[key] = { width, height, ...names }
      // The same pixels on several grounds are kept once.
      const kept = `${names.pixels}${names.alpha}`
      if (laid.has(kept)) continue
      laid.add(kept)
      const plain = pixels.byteLength + (alpha?.byteLength ?? 0)
      parts.push({ key, id, bytes: inRuns && readsRuns ? runs : plain, plain, runs, flat, margin })
      chunks[names.pixels] = pixels
      if (alpha) chunks[names.alpha] = alpha
    }
    this.last = last
    return { pictures, chunks, parts, problems: [...problems].map(([asset, problem]) => ({ asset, problem })) }
  }
}
