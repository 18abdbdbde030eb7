import { described } from '../../settings/index.ts'
import { actionOf } from '../action.ts'

/** The page before this one; the panel remembers eight. */
export const goBack = actionOf({
  action: 'go back',
  label: 'back to previous page',
  settings: described({}),
  words: () => 'back to previous page',
  facts: () => ({ leaves: true }),
  run: (_, world) => world.do({ do: 'back' }),
})

export const openStartPage = actionOf({
  action: 'open start page',
  label: 'opens the start page',
  settings: described({}),
  words: () => 'opens the start page',
  facts: () => ({ leaves: true }),
  run: (_, world) => world.do({ do: 'start page' }),
})
