import type { EventKind } from '../frames/index.ts'
import { plainPanel } from '../project/index.ts'

/** After so long a finger on the glass counts, on a plain panel. */
export const contactUs = plainPanel.contactMs * 1000

/** An action of one line, as an edit takes it: at a moment, one deed. */
export const does = (moment: EventKind, deed: string, values: Record<string, unknown> = {}, everyMs = 0) => ({
  on: { moment, everyMs },
  lines: [{ deed, with: values }],
})
