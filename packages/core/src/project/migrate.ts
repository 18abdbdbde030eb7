import { bad, good, type Result } from '../base/index.ts'

/** The format that is written. */
export const currentFormat = 2

type Loose = Record<string, unknown>

/** One step from each older format to the next. Works on loose data: the whole is validated afterwards. */
const steps: Record<number, (old: Loose) => Loose> = {
  // Format 1 kept the link settings in the panel, and of staleness only the milliseconds (0 for never).
  1: (old) => {
    const { link, ...panel } = old['panel'] as Loose
    const variables = Object.fromEntries(
      Object.entries((old['variables'] ?? {}) as Record<string, Loose>).map(([id, { staleAfterMs, ...rest }]) => [
        id,
        { ...rest, stale: staleAfterMs ? { afterMs: staleAfterMs, shows: 'dim' } : null },
      ]),
    )
    return { ...old, format: 2, panel, link, variables }
  },
}

/** A document of any known format as the current one. Problems: `file.format` (found, known), `file.damaged`. */
export function migrate(document: unknown): Result<unknown> {
  let at = document as Loose
  if (typeof at !== 'object' || at === null) return bad('file.damaged', {})
  while (at['format'] !== currentFormat) {
    const step = steps[Number(at['format'])]
    if (!step) return bad('file.format', { found: String(at['format'] ?? 'none'), known: currentFormat })
    try {
      at = step(at)
    } catch {
      return bad('file.damaged', {})
    }
  }
  return good(at)
}
