import { described } from '../../settings/index.ts'
import { deedOf, isEvent } from '../deed.ts'

/** Says what happened to the widget; it needs no variable. */
export const sendEvent = deedOf({
  deed: 'send event',
  label: 'sends an event',
  settings: described({}),
  words: () => 'sends an event',
  facts: () => ({ says: true }),
  run(_, world) {
    const { moment } = world
    if (isEvent(moment)) world.do({ do: 'event', what: moment })
  },
})
