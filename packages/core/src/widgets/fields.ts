import { oneOf } from '../describe/index.ts'
import { noFace } from '../faces/index.ts'
import { settingTypes as t } from '../settings/index.ts'
import { faceType } from './setting-types.ts'

/** Settings that several kinds of widget have, told once. */

/** Types of data that are numbers without words. */
export const numberTypes = ['u8', 'i8', 'u16', 'i16', 'u32', 'i32', 'f32'] as const

/** The variable that a widget shows, of one of these types. */
export const shownVariable = (...accepts: readonly string[]) => ({
  label: 'Variable',
  type: t.variable,
  default: '',
  group: 'Shows',
  essential: true,
  accepts,
})

/** The variable that a finger changes. */
export const touchedVariable = (...accepts: readonly string[]) => ({ ...shownVariable(...accepts), type: t.touched })

/** The side to which a length grows. */
export type Way = 'right' | 'left' | 'up' | 'down'
export const growsTo = {
  label: 'Direction',
  type: oneOf({ right: 'right', left: 'left', up: 'up', down: 'down' }),
  default: 'right' as Way,
  group: 'Shows',
  essential: true,
}

/** The face of a widget that is a surface of its own, with a line around it. */
export const framedFace = {
  label: 'Face',
  type: faceType,
  default: { ...noFace, fill: 'colour:surface', border: 'colour:line', borderWidth: 1, radius: 8 },
  group: 'Looks',
}

/** How long a finger must stay to have held. */
export const holdsAfter = {
  label: 'Long-press time',
  type: t.whole,
  default: 800,
  unit: 'ms',
  min: 100,
  max: 10_000,
  group: 'When touched',
}
