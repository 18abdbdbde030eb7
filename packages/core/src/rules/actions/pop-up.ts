import { described, settingTypes as t } from '../../settings/index.ts'
import { actionOf, named } from '../action.ts'

export const openPopUp = actionOf({
  action: 'open pop-up',
  label: 'opens pop-up',
  settings: described({
    popUp: { label: 'pop-up', before: '', type: t.page, default: '', accepts: ['pop-up', 'keypad'], group: 'Action' },
  }),
  words: (raw, nameOf) => `opens pop-up ${named(raw.popUp, nameOf)}`,
  facts: ({ popUp }) => ({ opens: popUp }),
  run({ popUp }, world) {
    if (popUp !== null) world.do({ do: 'pop-up', number: popUp })
  },
})

export const closePopUp = actionOf({
  action: 'close pop-up',
  label: 'closes the pop-up',
  settings: described({}),
  words: () => 'closes the pop-up',
  run: (_, world) => world.do({ do: 'pop-up', number: null }),
})
