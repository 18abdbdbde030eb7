/** Why a text is no name of a variable; null when it is one. */
export const nameProblem = (name: string): string | null =>
  /^[a-z][a-z0-9_]{0,31}$/.test(name) ? null : 'Lower case letters, digits and _; a letter first; 32 at most.'
