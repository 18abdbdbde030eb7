import { bad, type Problem } from '../base/index.ts'

/** Levels of lists and objects inside the arguments of one edit, at most. */
const deepest = 40
/** Largest size of one edit, in characters of text and eight for every other value. */
export const mostChangeSize = 2 * 1024 * 1024

const loneSurrogate = /\p{Surrogate}/u

/**
 * Why arguments could not be kept by every place a change goes to (JSON text, PostgreSQL's jsonb, IndexedDB, another
 * engine), or null: text with NUL or half of a character pair, a number that is none, a key that reaches a prototype, too
 * deep, too large. Problems: `gate.text` (path, what), `gate.number` (path), `gate.key` (path), `gate.deep` (most),
 * `gate.large` (most).
 */
export function unkeepable(value: unknown, mostSize = mostChangeSize): Problem | null {
  let size = 0
  const textProblem = (text: string, path: string): Problem | null => {
    size += text.length
    if (text.includes('\0')) return problem('gate.text', { path, what: 'the character NUL' })
    return loneSurrogate.test(text) ? problem('gate.text', { path, what: 'half of a character pair' }) : null
  }
  const walk = (at: unknown, path: string, depth: number): Problem | null => {
    if (typeof at === 'string') return textProblem(at, path)
    size += 8
    if (size > mostSize) return problem('gate.large', { most: mostSize })
    if (typeof at === 'number') return Number.isFinite(at) ? null : problem('gate.number', { path })
    if (typeof at !== 'object' || at === null) return null
    if (depth >= deepest) return problem('gate.deep', { most: deepest })
    for (const key of Object.keys(at)) {
      const inside = `${path}/${key.slice(0, 60)}`
      if (key === '__proto__') return problem('gate.key', { path: inside })
      const wrong = textProblem(key, inside) ?? walk((at as Record<string, unknown>)[key], inside, depth + 1)
      if (wrong) return wrong
    }
    return null
  }
  return walk(value, '', 0) ?? (size > mostSize ? problem('gate.large', { most: mostSize }) : null)
}

const problem = (code: string, facts: Problem['facts']): Problem => bad(code, facts).problem
