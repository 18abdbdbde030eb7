/** Reason of a failed request, in words. */
export const said = (error: unknown): string => (error instanceof Error ? error.message : 'Failed. Try again.')
