import { described } from '../../settings/index.ts'
import { actionOf, isEvent } from '../action.ts'

/** Says what happened to the widget; it needs no variable. */
export const sendEvent = actionOf({
  action: 'send event',
  label: 'sends an event',
  settings: described({}),
  words: () => 'sends an event',
  facts: () => ({ says: true }),
  run(_, world) {
    const { moment } = world
    if (isEvent(moment)) world.do({ do: 'event', what: moment })
  },
})
