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

/** By which a widget names the sheet it writes with: the same for whatever letters are in it. */
export const sheetKey = ({ asset, px, weight, bits, fallbacks, kerns }: LetterSpec): string =>
  [
    `${asset.slice(0, 16)}/${px}`,
    ...(weight ? [`weight ${weight}`] : []),
    ...(bits === 8 ? [] : [`${bits} bit`]),
    ...fallbacks.map((sha) => `else ${sha.slice(0, 16)}`),
    ...(kerns ? ['pairs'] : []),
  ].join('/')

/** Asks for the sheets of a build. While a new one is being made, the last of its key is shown. */
export class SheetCollector {
  private last = new Map<string, LetterChunk>()

  constructor(private source: Chunks) {}

  /** `drawsLetters`: the panel keeps outlines, once for all sizes of a typeface. */
  collect(
    uses: Iterable<FontUse>,
    drawsLetters: boolean,
  ): Pick<Build['header'], 'sheets'> & Pick<Build, 'chunks' | 'problems'> & { parts: FontPart[] } {
    const outlines = new OutlineRoom()
    const parts: FontPart[] = []
    const wanted = new Map<string, { spec: LetterSpec; letters: Set<string> }>()
    for (const { spec, letters } of uses) {
      const key = sheetKey(spec)
      const known = wanted.get(key)
      if (!known) wanted.set(key, { spec, letters: new Set(letters) })
      else for (const letter of letters) known.letters.add(letter)
    }
    const sheets: Build['header']['sheets'] = {}
    const chunks: Build['chunks'] = {}
    const problems = new Map<string, Problem>()
    const last = new Map<string, LetterChunk>()
    for (const key of [...wanted.keys()].sort()) {
      const { spec, letters } = wanted.get(key)!
      const request: LetterRequest = { make: 'letters', ...spec, letters: sortedLetters(letters) }
      const got = this.source.get(request)
      if (isProblem(got)) problems.set(spec.asset, got)
      const chunk = got === 'wanted' ? this.last.get(key) : isProblem(got) ? undefined : got
      if (!chunk) continue
      last.set(key, chunk)
      const { header, names } = chunk
      const { metrics, coverage, kerning } = chunk.parts
      sheets[key] = { ...header, ...names }
      chunks[names.metrics] = metrics
      chunks[names.coverage] = coverage
      if (kerning) chunks[names.kerning!] = kerning
      const pairs = (kerning?.length ?? 0) / 3
      const room = drawsLetters
        ? outlines.add(sheetKey({ ...spec, px: 0, bits: 8 }), key, metrics, chunk.parts.outlines, pairs)
        : { bytes: letterBytes(metrics, pairs, spec.bits), shares: '' }
      parts.push({ key, spec, letters: request.letters, pairs, ...room })
    }
    // What no text uses any more is not kept for its own sake.
    this.last = last
    return { sheets, chunks, parts, problems: [...problems].map(([asset, problem]) => ({ asset, problem })) }
  }
}
