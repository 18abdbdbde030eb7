/** Why a text is no name of a variable; null when it is one. */
export const nameProblem = (name: string): string | null =>
  /^[a-z][a-z0-9_]{0,31}$/.test(name) ? null : 'a–z, 0–9 and _, starting with a letter, up to 32 characters.'
