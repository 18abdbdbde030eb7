/**
 * Bad input is a value. `code` is what programs decide by; `facts` are the numbers and names a sentence is made of.
 * Sentences stand apart, one table per module.
 */
export interface Problem {
  code: string
  facts: Record<string, string | number | boolean | null>
}

export type Result<T> = { ok: true; value: T } | { ok: false; problem: Problem }

export const good = <T>(value: T): Result<T> => ({ ok: true, value })

export const bad = (code: string, facts: Problem['facts'] = {}): { ok: false; problem: Problem } => ({
  ok: false,
  problem: { code, facts },
})

/** Whether something is a problem instead of what was wanted. */
export const isProblem = (value: unknown): value is Problem =>
  typeof value === 'object' && value !== null && 'code' in value && 'facts' in value

/** A programmer's mistake: never caused by a user's data or by the line. */
export function mustBe(condition: unknown, what: string): asserts condition {
  if (!condition) throw new Error(`Not possible: ${what}`)
}

/** The value of a result that cannot be bad here; throws when it is, since that is a mistake in the program. */
export const mustHold = <T>(result: Result<T>): T => {
  if (!result.ok) throw new Error(`Not possible: ${result.problem.code} ${JSON.stringify(result.problem.facts)}`)
  return result.value
}

/** Fills `{name}` in a sentence from the facts of a problem; an unknown name stays visible as it is. */
export const sentence = (template: string, facts: Problem['facts']): string =>
  template.replace(/\{(\w+)\}/g, (whole, name: string) => (name in facts ? String(facts[name]) : whole))
