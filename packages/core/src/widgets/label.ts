import { described, settingTypes as t } from '../settings/index.ts'
import { kindOf } from './kind.ts'
import { commonFields, lettersOfWords, paintWords, paragraphFields, textFields, widestOfWords } from './text-box.ts'

export const label = kindOf({
  kind: 'label',
  label: 'Label',
  meaning: 'static text',
  purpose: 'decorate',
  size: { width: 140, height: 32 },
  touchable: false,
  grows: true,
  words: 'text',
  settings: described({
    text: { label: 'Text', type: t.text, default: 'Label', group: 'Shows', essential: true, follows: true },
    ...textFields('caption', 'left'),
    ...paragraphFields,
    ...commonFields,
  }),
  paint: (surface, place, s, live) =>
    paintWords(surface, place, s, live, s.text, false, s.colour, { upright: s.upright, wraps: s.wraps }),
  shows: (s) => s.text,
  letters: (s, holdsOf) => lettersOfWords(s.text, holdsOf),
  widest: (s, holdsOf) => (s.wraps ? [] : widestOfWords(s.text, holdsOf)),
})
