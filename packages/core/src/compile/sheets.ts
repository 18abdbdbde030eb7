import { LRUCache } from 'lru-cache'
import type { Chunks, LetterChunk, LetterRequest, LetterSpec } from '../artwork/index.ts'
import { sortedLetters } from '../artwork/index.ts'
import { isProblem, type Problem } from '../base/index.ts'
import type { Build } from './build.ts'
import { letterBytes, OutlineRoom, type FontPart } from './plan.ts'

/** The letters that some text needs, and how they are made. */
export interface FontUse {
  spec: LetterSpec
  letters: string
}

const keys = new WeakMap<LetterSpec, string>()

/** By which a widget names the sheet it writes with: the same for whatever letters are in it. */
export function sheetKey(spec: LetterSpec): string {
  let key = keys.get(spec)
  if (key === undefined) {
    const { asset, px, weight, bits, fallbacks, kerns } = spec
    key = [
      `${asset.slice(0, 16)}/${px}`,
      ...(weight ? [`weight ${weight}`] : []),
      ...(bits === 8 ? [] : [`${bits} bit`]),
      ...fallbacks.map((sha) => `else ${sha.slice(0, 16)}`),
      ...(kerns ? ['pairs'] : []),
    ].join('/')
    keys.set(spec, key)
  }
  return key
}

const unions = new LRUCache<string, string>({ max: 500 })

/** The letters of some texts, each once, in order of code points. The same texts are looked through once. */
function lettersIn(texts: ReadonlySet<string>): string {
  const all = [...texts].join('\0')
  let letters = unions.get(all)
  if (letters === undefined) {
    letters = sortedLetters(texts.size > 1 ? [...texts].join('') : all)
    unions.set(all, letters)
  }
  return letters
}

/** Uses by the sheet they are of, each with its texts. */
function bySheet(uses: Iterable<FontUse>): Map<string, { spec: LetterSpec; texts: Set<string> }> {
  const found = new Map<string, { spec: LetterSpec; texts: Set<string> }>()
  for (const { spec, letters } of uses) {
    const key = sheetKey(spec)
    const known = found.get(key)
    if (known) known.texts.add(letters)
    else found.set(key, { spec, texts: new Set([letters]) })
  }
  return found
}

/** Of each font at each size one use, with the letters of all. */
export const joinedUses = (uses: Iterable<FontUse>): FontUse[] =>
  [...bySheet(uses).values()].map(({ spec, texts }) => ({ spec, letters: lettersIn(texts) }))

const sheetsOf = new WeakMap<LetterChunk, Build['header']['sheets'][string]>()

/** Entry of a build for a sheet; the same object for the same chunk. */
function sheetOf(chunk: LetterChunk): Build['header']['sheets'][string] {
  let sheet = sheetsOf.get(chunk)
  if (!sheet) sheetsOf.set(chunk, (sheet = { ...chunk.header, ...chunk.names }))
  return sheet
}

/** Asks for the sheets of a build. While a new one is being made, the last of its key is shown. */
export class SheetCollector {
  private last = new Map<string, LetterChunk>()
  private requests = new Map<string, LetterRequest>()

  constructor(private source: Chunks) {}

  /** The request of the collect before, where it asks for the same: what it is known by need not be made anew. */
  private request(key: string, spec: LetterSpec, letters: string): LetterRequest {
    const before = this.requests.get(key)
    const sameSpec = before?.asset === spec.asset && before.fallbacks.join() === spec.fallbacks.join()
    return sameSpec && before.letters === letters ? before : { make: 'letters', ...spec, letters }
  }

  /** `drawsLetters`: the panel keeps outlines, once for all sizes of a typeface. */
  collect(
    uses: Iterable<FontUse>,
    drawsLetters: boolean,
  ): Pick<Build['header'], 'sheets'> & Pick<Build, 'chunks' | 'problems'> & { parts: FontPart[] } {
    const outlines = new OutlineRoom()
    const parts: FontPart[] = []
    const wanted = bySheet(uses)
    const requests = new Map<string, LetterRequest>()
    const sheets: Build['header']['sheets'] = {}
    const chunks: Build['chunks'] = {}
    const problems = new Map<string, Problem>()
    const last = new Map<string, LetterChunk>()
    for (const key of [...wanted.keys()].sort()) {
      const { spec, texts } = wanted.get(key)!
      const request = this.request(key, spec, lettersIn(texts))
      requests.set(key, request)
      const got = this.source.get(request)
      if (isProblem(got)) problems.set(spec.asset, got)
      const chunk = got === 'wanted' ? this.last.get(key) : isProblem(got) ? undefined : got
      if (!chunk) continue
      last.set(key, chunk)
      const { names } = chunk
      const { metrics, coverage, kerning } = chunk.parts
      sheets[key] = sheetOf(chunk)
      chunks[names.metrics] = metrics
      chunks[names.coverage] = coverage
      if (kerning) chunks[names.kerning!] = kerning
      const pairs = (kerning?.length ?? 0) / 3
      const room = drawsLetters
        ? outlines.add(sheetKey({ ...spec, px: 0, bits: 8 }), key, metrics, chunk.parts.outlines, pairs)
        : { bytes: letterBytes(metrics, pairs, spec.bits), shares: '' }
      parts.push({ key, spec, letters: request.letters, pairs, ...room })
    }
    // Characters that no text uses any more are dropped.
    this.last = last
    this.requests = requests
    return { sheets, chunks, parts, problems: [...problems].map(([asset, problem]) => ({ asset, problem })) }
  }
}
