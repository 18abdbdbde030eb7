import type { EventKind } from '../frames/index.ts'
import { plainPanel } from '../project/index.ts'

/** After so long a finger on the glass counts, on a plain panel. */
export const contactUs = plainPanel.contactMs * 1000

/** A rule of one line, as an edit takes it: at a moment, one action. */
export const does = (moment: EventKind, action: string, values: Record<string, unknown> = {}, everyMs = 0) => ({
  on: { moment, everyMs },
  lines: [{ action, with: values }],
})
