import type { EventKind } from '../frames/index.ts'

/** An action of one line, as an edit takes it: at a moment, one deed. */
export const does = (moment: EventKind, deed: string, values: Record<string, unknown> = {}, everyMs = 0) => ({
  on: { moment, everyMs },
  lines: [{ deed, with: values }],
})
