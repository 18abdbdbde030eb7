import { described, settingTypes as t } from '../../settings/index.ts'
import { deedOf, named } from '../deed.ts'

export const openLayer = deedOf({
  deed: 'open layer',
  label: 'opens layer',
  settings: described({
    layer: { label: 'layer', before: '', type: t.page, default: '', accepts: ['layer', 'keypad'], group: 'Deed' },
  }),
  words: (raw, nameOf) => `opens ${named(raw.layer, nameOf)} over the page`,
  facts: ({ layer }) => ({ opens: layer }),
  run({ layer }, world) {
    if (layer !== null) world.do({ do: 'layer', number: layer })
  },
})

export const closeLayer = deedOf({
  deed: 'close layer',
  label: 'closes the layer',
  settings: described({}),
  words: () => 'closes the layer',
  run: (_, world) => world.do({ do: 'layer', number: null }),
})
