import { noRect } from '../base/index.ts'
import { noFace, paintFace, solidOf } from '../faces/index.ts'
import { described, settingTypes as t } from '../settings/index.ts'
import { freshHolds, type Cell } from '../variables/index.ts'
import { shownVariable, numberTypes } from './fields.ts'
import { seenOf } from './figures.ts'
import { kindOf, type Live } from './kind.ts'
import { faceType, statesFindings, statesType, stateThatHolds, type CompiledState, type State } from './setting-types.ts'
import { commonFields, dimmed, paintWords, textFields } from './text-box.ts'

function stateOf(
  s: { variable: Cell | null; states: readonly CompiledState[] },
  live: Live,
): { state: CompiledState | null; stale: boolean } {
  const cell = s.variable
  if (!cell) return { state: null, stale: false }
  const { value, stale, unknown } = seenOf(cell, live)
  return { state: unknown ? null : stateThatHolds(s.states, Number(value)), stale }
}

const lamp = { ...noFace, shape: 'ellipse' as const }
const offState: State = {
  id: 'state:1',
  when: { by: 'value', value: 0 },
  meaning: 'off',
  face: { ...lamp, fill: 'colour:off', border: 'colour:line', borderWidth: 2 },
  textColour: 'colour:ink',
}
const onState: State = {
  id: 'state:2',
  when: { by: 'range', from: 1, to: 65535 },
  meaning: 'on',
  face: { ...lamp, fill: 'colour:good', border: 'colour:good tint', borderWidth: 4 },
  textColour: 'colour:ground',
}

export const indicator = kindOf({
  kind: 'indicator',
  label: 'Indicator',
  meaning: 'a face and label for each state',
  purpose: 'show',
  size: { width: 28, height: 28 },
  touchable: false,
  settings: described({
    variable: shownVariable(...numberTypes, 'choice', 'flags'),
    states: { label: 'States', type: statesType, default: [offState, onState], group: 'Shows', essential: true },
    writes: { label: 'Show value label', type: t.yesNo, default: false, group: 'Shows', essential: true },
    otherwise: {
      label: 'Default face',
      type: faceType,
      default: { ...lamp, border: 'colour:line', borderWidth: 2 },
      group: 'Looks',
    },
    otherwiseText: { label: 'Default text', type: t.text, default: '?', group: 'Shows' },
    ...textFields('caption', 'centre'),
    ...commonFields,
  }),
  fresh: () => ({ variable: freshHolds('choice') }),
  solid(place, s, live) {
    const { state, stale } = stateOf(s, live)
    return stale ? noRect : solidOf(state ? state.face : s.otherwise, place)
  },
  paint(surface, place, s, live) {
    const { state, stale } = stateOf(s, live)
    dimmed(surface, stale, () => paintFace(surface, place, state ? state.face : s.otherwise))
    const words = state ? state.meaning : s.otherwiseText
    if (s.writes) paintWords(surface, place, s, live, words, stale, state ? state.textColour : undefined)
  },
  shows(s, live) {
    const { state } = stateOf(s, live)
    return state ? state.meaning : s.otherwiseText
  },
  letters: (s) => s.states.map((state) => state.meaning).join('') + s.otherwiseText,
  widest: (s) => (s.writes ? s.states.map((state) => state.meaning) : []),
  findings: (raw, holdsOf) => statesFindings(raw.states, holdsOf(raw.variable)),
})
