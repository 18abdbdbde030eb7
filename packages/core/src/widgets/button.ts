import { faceCovers, noFace, paintFace, type CompiledFace } from '../faces/index.ts'
import { actionsType } from '../rules/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { kindOf } from './kind.ts'
import { faceType } from './setting-types.ts'
import { usualLetters } from '../artwork/index.ts'
import { commonFields, paintWords, textFields, touchFields } from './text-box.ts'

export const button = kindOf({
  kind: 'button',
  label: 'Button',
  meaning: 'does something when touched',
  size: { width: 140, height: 56 },
  touchable: true,
  settings: described({
    text: { label: 'Text', type: t.text, default: 'Button', group: 'Shows', essential: true, follows: true },
    actions: { label: 'When touched', type: actionsType, default: [], group: 'When touched', essential: true },
    holdMs: {
      label: 'Counts as held after',
      type: t.whole,
      default: 800,
      unit: 'ms',
      min: 100,
      max: 10_000,
      group: 'When touched',
    },
    ...touchFields(true),
    ...textFields('button', 'centre'),
    face: {
      label: 'Face',
      type: faceType,
      default: { ...noFace, fill: 'colour:surface', border: 'colour:line', borderWidth: 1, radius: 8 },
      group: 'Looks',
    },
    pressedFace: {
      label: 'Face when pressed',
      type: faceType,
      default: { ...noFace, fill: 'colour:accent tint', border: 'colour:accent', borderWidth: 2, radius: 8 },
      group: 'Looks',
    },
    ...commonFields,
  }),
  paint(surface, place, s, live) {
    paintFace(surface, place, (live.pressed ? s.pressedFace : s.face) as CompiledFace)
    paintWords(surface, place, s, live, s.text, !live.enabled)
  },
  shows: (s) => s.text,
  covers: (place, s, area) => faceCovers(s.face, place, area) && faceCovers(s.pressedFace, place, area),
  letters: (s) => (typeof s.text === 'string' ? s.text : usualLetters),
  widest: (s) => (typeof s.text === 'string' ? [s.text] : []),
})
