import { fromHex, mustHold } from '../base/index.ts'
import { commandSettings, fieldKind, type BuildCommand, type CompiledField } from '../protocols/index.ts'

/** A field of a command in a build: what is not said is as it is by default. */
export const field = (kind: string, values: object = {}): CompiledField => ({
  field: kind,
  with: { ...fieldKind(kind)!.settings.compile(fieldKind(kind)!.settings.defaults, { cell: () => null } as never), ...values },
})
/** A constant, in hex or in characters. */
export const hexField = (hex: string): CompiledField => field('constant', { bytes: [...mustHold(fromHex(hex))] })
export const textField = (text: string): CompiledField => field('constant', { bytes: [...text].map((c) => c.charCodeAt(0)) })

/** A command in a build. */
export const commandOf = (fields: readonly CompiledField[], values: Partial<BuildCommand> = {}): BuildCommand => ({
  ...(commandSettings.compile(commandSettings.defaults, { commandNumber: () => null } as never) as unknown as BuildCommand),
  number: 7,
  name: 'start',
  fields,
  ...values,
})
