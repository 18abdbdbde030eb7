import { oneOf } from '../../describe/index.ts'
import { described, settingTypes as t } from '../../settings/index.ts'
import { actionOf, isEvent, named } from '../action.ts'

/** No touch counts for so long: while somebody cleans the glass. */
export const lockTouch = actionOf({
  action: 'lock touch',
  label: 'locks touch for',
  settings: described({
    seconds: { label: 'seconds', before: '', type: t.whole, default: 20, min: 1, max: 600, unit: 's', group: 'Action' },
  }),
  words: ({ seconds }) => `locks touch for ${seconds} s`,
  run: ({ seconds }, world) => world.do({ do: 'lock', ms: seconds * 1000 }),
})

/** Sounds, and 0 ms is silence. */
export const beep = actionOf({
  action: 'beep',
  label: 'beeps for',
  settings: described({
    ms: {
      label: 'so long',
      before: '',
      type: t.whole,
      default: 200,
      min: 0,
      max: 5000,
      unit: 'ms',
      group: 'Action',
      zero: 'is silent',
    },
  }),
  words: ({ ms }) => (ms ? `beeps for ${ms} ms` : 'is silent'),
  run: ({ ms }, world) => world.do({ do: 'beep', ms }),
})

/** What a trend has gathered is thrown away. */
export const clear = actionOf({
  action: 'clear',
  label: 'clears',
  settings: described({ widget: { label: 'widget', before: '', type: t.widget, default: '', group: 'Action' } }),
  words: (raw, nameOf) => `clears ${named(raw.widget, nameOf)}`,
  run({ widget }, world) {
    if (widget !== null) world.do({ do: 'clear', widget })
  },
})

/** The values of a page are told now: all that its widgets may report, or what was changed and not told yet. */
export const sendValues = actionOf({
  action: 'send values',
  label: 'sends the values of the page',
  settings: described({
    which: { label: 'which', before: '', type: oneOf('what changed', 'all of them'), default: 'what changed', group: 'Action' },
  }),
  // Whoever presses a key that sends means all, the second time too; a page that is left says what has become another.
  fresh: (moment) => ({ which: isEvent(moment) ? 'all of them' : 'what changed' }),
  words: ({ which }) => (which === 'what changed' ? 'sends what changed on the page' : 'sends all values of the page'),
  run: ({ which }, world) => world.do({ do: 'send values', all: which === 'all of them' }),
})
