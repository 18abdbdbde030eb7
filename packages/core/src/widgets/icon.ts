import { iconGrid } from '../artwork/index.ts'
import { fillPath } from '../raster/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { kindOf } from './kind.ts'
import { iconType } from './setting-types.ts'
import { commonFields } from './text-box.ts'

export const icon = kindOf({
  kind: 'icon',
  label: 'Icon',
  meaning: 'single-colour symbol',
  purpose: 'decorate',
  size: { width: 40, height: 40 },
  touchable: false,
  settings: described({
    icon: { label: 'Icon', type: iconType, default: 'star', group: 'Looks', essential: true },
    colour: { label: 'Colour', type: t.colour, default: 'colour:ink', group: 'Looks', essential: true, follows: true },
    ...commonFields,
  }),
  fresh: () => ({ settings: { icon: 'bell' } }),
  paint(surface, place, s) {
    if (s.icon !== null) fillPath(surface, place, s.icon, iconGrid, s.colour)
  },
  shows: () => '',
  findings: (raw) => (raw.icon === '' ? [{ code: 'no-icon', facts: {}, says: 'no icon chosen' }] : []),
})
