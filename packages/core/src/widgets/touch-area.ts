import { rulesType } from '../rules/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { holdsAfter } from './fields.ts'
import { kindOf } from './kind.ts'
import { commonFields, paintWords, textFields, touchFields } from './text-box.ts'

const dash = 6

export const touchArea = kindOf({
  kind: 'area',
  label: 'Touch area',
  meaning: 'invisible touch target',
  purpose: 'touch',
  size: { width: 116, height: 116 },
  touchable: true,
  words: 'note',
  settings: described({
    rules: { label: 'When touched', type: rulesType, default: [], group: 'When touched', essential: true },
    holdMs: holdsAfter,
    note: {
      label: 'Note',
      type: t.text,
      default: '',
      group: 'Shows',
      essential: true,
      hint: 'edit mode only',
    },
    ...touchFields(true),
    ...textFields('caption', 'centre', 'muted'),
    outline: { label: 'Outline in Edit', type: t.colour, default: 'colour:accent', group: 'Looks' },
    ...commonFields,
  }),
  picture: () => ({ settings: { note: 'touch' } }),
  paint(surface, place, s, live) {
    if (!live.onDesk) return
    const { x, y, width, height } = place
    for (let at = 0; at < width; at += 2 * dash)
      for (const row of [y, y + height - 1])
        surface.fill({ x: x + at, y: row, width: Math.min(dash, width - at), height: 1 }, s.outline)
    for (let at = 0; at < height; at += 2 * dash)
      for (const column of [x, x + width - 1])
        surface.fill({ x: column, y: y + at, width: 1, height: Math.min(dash, height - at) }, s.outline)
    paintWords(surface, place, s, live, s.note, false, s.colour, { wraps: true })
  },
  shows: () => '',
  letters: (s) => s.note,
  findings: (raw) => (raw.rules.length ? [] : [{ code: 'no-action', facts: {}, says: 'no action' }]),
})
