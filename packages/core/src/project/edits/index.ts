import { commandEdits } from './commands.ts'
import { faceEdits } from './faces.ts'
import type { Edit } from './edit.ts'
import { pageEdits } from './pages.ts'
import { widgetEdits } from './widgets.ts'
import { paletteEdits } from './palette.ts'
import { pictureEdits } from './pictures.ts'
import { typefaceEdits } from './typefaces.ts'
import { scriptEdits } from './scripts.ts'
import { variableEdits } from './variables.ts'
import { wholeEdits } from './whole.ts'

/** Every edit there is, by name. */
export const edits: ReadonlyMap<string, Edit> = new Map(
  [
    ...wholeEdits,
    ...pageEdits,
    ...widgetEdits,
    ...typefaceEdits,
    ...faceEdits,
    ...pictureEdits,
    ...paletteEdits,
    ...variableEdits,
    ...scriptEdits,
    ...commandEdits,
  ].map((edit) => [edit.name, edit]),
)

export { EditRefused, freeName, type EditNote } from './edit.ts'
export { retiredAddresses, takenSpans, unspentAddresses } from './variables.ts'
