import Joi from 'joi'
import { bad, good } from '../../../base/index.ts'
import { plain, record, whole, type Type } from '../../../describe/index.ts'
import { eventKinds, reasons, type EventKind, type Message, type Reason } from '../../../frames/index.ts'
import { faultAt, linePart, type LinePartKindOf } from '../part.ts'

const word = Joi.string()
  .pattern(/^[\x21-\x7e]{1,24}$/)
  .required()
const wordsOf = <K extends string>(kinds: readonly K[]): Type<Record<K, string>> =>
  plain<Record<K, string>>('words of kinds', Joi.object(Object.fromEntries(kinds.map((kind) => [kind, word]))))

const eventWords: Record<EventKind, string> = { pressed: 'pressed', lifted: 'released', held: 'held', 'slid off': 'left' }
const reasonWords: Record<Reason, string> = {
  operation: 'operation',
  address: 'name',
  'not writable': 'read-only',
  length: 'length',
  value: 'value',
  busy: 'busy',
}

/** A word for each kind of event or reason. */
function kindPart<K extends string>(
  part: string,
  label: string,
  operation: 'event' | 'refused',
  kinds: readonly K[],
  plainWords: Record<K, string>,
  of: (message: Message) => K | null,
  put: (into: { what: EventKind | null; reason: Reason | null }, kind: K) => void,
): LinePartKindOf<{ words: { label: string; type: Type<Record<K, string>>; default: Record<K, string>; group: string } }> {
  return linePart({
    part,
    label,
    tint: part,
    isOpen: true,
    settings: record({ words: { label: 'Words', type: wordsOf(kinds), default: plainWords, group: 'Part' } }),
    neededBy: [operation],
    onlyIn: [operation],
    made: () => 'a word',
    put: ({ words }, message) => {
      const kind = of(message)
      return kind ? good((words as Record<K, string>)[kind]) : bad('line.value', { value: '' })
    },
    read: ({ words }, line, at, into, { until }) => {
      const to = until(line, at)
      const said = line.slice(at, to)
      const kind = kinds.find((one) => (words as Record<K, string>)[one] === said)
      if (kind === undefined) return faultAt(part, at, to, { word: said })
      put(into, kind)
      return to
    },
  })
}

export const what = kindPart(
  'what',
  'event',
  'event',
  eventKinds,
  eventWords,
  (message) => (message.operation === 'event' ? message.what : null),
  (into, kind) => void (into.what = kind),
)

export const reason = kindPart(
  'reason',
  'reason',
  'refused',
  reasons,
  reasonWords,
  (message) => (message.operation === 'refused' ? message.reason : null),
  (into, kind) => void (into.reason = kind),
)

/** The number of a frame in decimal figures, from 0 to the most and round again. */
export const sequence = linePart({
  part: 'sequence',
  label: 'sequence',
  tint: 'sequence',
  isOpen: true,
  settings: record({ most: { label: 'Last number', type: whole, default: 99, min: 1, max: 65_535, group: 'Part' } }),
  made: ({ most }) => `0 to ${most}`,
  put: ({ most }, message) => good(String(message.sequence % (most + 1))),
  read: ({ most }, line, at, into, { until }) => {
    const to = until(line, at)
    const figures = line.slice(at, to)
    if (!/^\d{1,5}$/.test(figures) || Number(figures) > most) return faultAt('number', at, to, { value: figures })
    into.sequence = Number(figures)
    return to
  },
})
