import { oneOf } from '../../describe/index.ts'
import { described, settingTypes as t } from '../../settings/index.ts'
import { actionOf, isEvent, named } from '../action.ts'

/** No touch counts for so long: while somebody cleans the glass. */
export const lockTouch = actionOf({
  action: 'lock touch',
  label: 'disables touch for',
  settings: described({
    seconds: { label: 'seconds', before: '', type: t.whole, default: 20, min: 1, max: 600, unit: 's', group: 'Action' },
  }),
  words: ({ seconds }) => `disables touch for ${seconds} s`,
  run: ({ seconds }, world) => world.do({ do: 'lock', ms: seconds * 1000 }),
})

/** Sounds, and 0 ms is silence. */
export const beep = actionOf({
  action: 'beep',
  label: 'beeps for',
  settings: described({
    ms: {
      label: 'duration',
      before: '',
      type: t.whole,
      default: 200,
      min: 0,
      max: 5000,
      unit: 'ms',
      group: 'Action',
      zero: 'no beep',
    },
  }),
  words: ({ ms }) => (ms ? `beeps for ${ms} ms` : 'no beep'),
  run: ({ ms }, world) => world.do({ do: 'beep', ms }),
})

/** Discards the samples of a trend. */
export const clear = actionOf({
  action: 'clear',
  label: 'clears trend',
  settings: described({ widget: { label: 'widget', before: '', type: t.widget, default: '', group: 'Action' } }),
  words: (raw, nameOf) => `clears trend ${named(raw.widget, nameOf)}`,
  run({ widget }, world) {
    if (widget !== null) world.do({ do: 'clear', widget })
  },
})

/** The values of a page are told now: all that its widgets may report, or what was changed and not told yet. */
export const sendValues = actionOf({
  action: 'send values',
  label: 'sends page values',
  settings: described({
    which: {
      label: 'values',
      before: '',
      type: oneOf({ 'what changed': 'changed values', 'all of them': 'all values' }),
      default: 'what changed',
      group: 'Action',
    },
  }),
  // A key that sends means all values, the second time too; a closing page sends only changes.
  fresh: (moment) => ({ which: isEvent(moment) ? 'all of them' : 'what changed' }),
  words: ({ which }) => (which === 'what changed' ? 'sends changed values of the page' : 'sends all values of the page'),
  run: ({ which }, world) => world.do({ do: 'send values', all: which === 'all of them' }),
})
