import { bad, good, tenTo, type Order, type Problem, type Result } from '../base/index.ts'
import {
  directionsOf,
  eventKinds,
  eventTexts,
  operationTexts,
  reasons,
  reasonTexts,
  type Direction,
  type EventKind,
  type Operation,
  type Reason,
} from '../frames/index.ts'
import { freshHolds, isNumber, type Holds, type NumberHolds, type Value } from '../variables/index.ts'

/** The place that a frame speaks of, with all that its bytes depend on: an example needs no project beside it. */
export interface Place {
  /** '' where the example names none. */
  name: string
  address: number | null
  holds: Holds
  /** Which word of a long value comes first; null: as in memory. */
  order: Order | null
  page: string
}

/** The meaning of one example. */
export interface Meaning {
  direction: Direction
  operation: Operation
  place: Place | null
  /** Of an event. */
  widget: { name: string; number: number } | null
  value: Value | null
  mask: number
  bits: number
  what: EventKind | null
  reason: Reason | null
  /** The number of the frame, where it is said. */
  sequence: number | null
}

/** Names that a meaning may use. */
export interface Known {
  places: readonly Place[]
  widgets: readonly { name: string; number: number }[]
}
export const nothingKnown: Known = { places: [], widgets: [] }

/** Words that begin a meaning; each may have several. */
const operationWords: readonly (readonly [string, Operation])[] = [
  ['set bits', 'set bits'],
  ['read request', 'ask'],
  ['read response', 'value'],
  ['write', 'write'],
  ['set', 'write'],
  ['store', 'write'],
  ['read', 'ask'],
  ['ask', 'ask'],
  ['get', 'ask'],
  ['response', 'value'],
  ['answer', 'value'],
  ['value', 'value'],
  ['report', 'report'],
  ['acknowledge', 'done'],
  ['ack', 'done'],
  ['done', 'done'],
  ['reject', 'refused'],
  ['nak', 'refused'],
  ['event', 'event'],
]

/** A meaning as it is typed, before its place is known from all examples together. */
interface Typed {
  direction: Direction
  operation: Operation
  place: TypedPlace | null
  widget: { name: string; number: number } | null
  value: Spoken | null
  mask: number
  bits: number
  what: EventKind | null
  reason: Reason | null
  sequence: number | null
}
interface TypedPlace {
  name: string
  address: number | null
  holds: Holds | null
  order: Order | null
  page: string
}
/** A value as it is typed. `decimals`: digits behind its point. */
type Spoken = { text: string } | { number: number; decimals: number } | { word: string }

const integer = /^(?:0x[0-9a-f]+|\d+)$/i

/**
 * Meanings as they are typed: `write 20 to 0x1200`, `write level = 200.0`, `read request level`, `report mode (0x1201, off|fill) = fill`,
 * `event 5 pressed`, `acknowledge level, sequence 3`. What an example does not say of its place, another may: a data type that nobody
 * has said is the narrowest that holds all its values. Problems: `meaning.empty`, `meaning.operation` (text), `meaning.place` (text),
 * `meaning.value` (text), `meaning.clause` (text), `meaning.word` (word), `meaning.what` (text), `meaning.reason` (text).
 */
export function parseMeanings(texts: readonly string[], known: Known = nothingKnown): Result<Meaning>[] {
  const typed = texts.map((text) => typedMeaning(text, known))
  const held = holdsOfAll(typed.flatMap((one) => (one.ok ? [one.value] : [])))
  return typed.map((one) => (one.ok ? settled(one.value, held) : one))
}

/** One meaning by itself. Problems as of `parseMeanings`. */
export const parseMeaning = (text: string, known: Known = nothingKnown): Result<Meaning> => parseMeanings([text], known)[0]!

const keyOf = ({ name, address }: { name: string; address: number | null }): string => (address === null ? name : `@${address}`)

/** The data type of each place, from all that is said of it. */
function holdsOfAll(all: readonly Typed[]): Map<string, TypedPlace & { holds: Holds }> {
  const values = new Map<string, { place: TypedPlace; spoken: Spoken[] }>()
  const addressOf = new Map<string, number>()
  for (const { place } of all) if (place?.name && place.address !== null) addressOf.set(place.name, place.address)
  for (const { place, value } of all) {
    if (!place) continue
    const address = place.address ?? addressOf.get(place.name) ?? null
    const key = keyOf({ name: place.name, address })
    const found = values.get(key) ?? { place: { ...place, address }, spoken: [] }
    const { name, holds, order, page } = found.place
    found.place = {
      name: name || place.name,
      address,
      holds: holds ?? place.holds,
      order: order ?? place.order,
      page: page || place.page,
    }
    if (value) found.spoken.push(value)
    values.set(key, found)
    if (place.name) values.set(place.name, found)
  }
  return new Map([...values].map(([key, { place, spoken }]) => [key, { ...place, holds: place.holds ?? narrowest(spoken) }]))
}

/** The narrowest data type that holds values as they are typed. */
function narrowest(spoken: readonly Spoken[]): Holds {
  const texts = spoken.flatMap((one) => ('text' in one ? [one.text.length] : []))
  if (texts.length) {
    const most = Math.max(2, ...texts)
    return { type: 'text', bytes: most + (most % 2), encoding: 'latin-1' }
  }
  const numbers = spoken.flatMap((one) => ('number' in one ? [one] : []))
  const decimals = Math.max(0, ...numbers.map((one) => one.decimals))
  const raw = numbers.map(({ number }) => Math.round(number * tenTo(decimals)))
  const [least, most] = [Math.min(0, ...raw), Math.max(0, ...raw)]
  const type = least < 0 ? (least < -0x8000 || most > 0x7fff ? 'i32' : 'i16') : most > 0xffff ? 'u32' : 'u16'
  return scaled(type, decimals)
}

function scaled(type: NumberHolds['type'], decimals: number): Holds {
  const fresh = freshHolds(type) as NumberHolds
  const step = 1 / tenTo(decimals)
  return { ...fresh, factor: step, decimals, min: fresh.min * step, max: fresh.max * step }
}

function settled(one: Typed, held: ReturnType<typeof holdsOfAll>): Result<Meaning> {
  const { place: said, value, ...rest } = one
  const place = said && (held.get(keyOf(said)) ?? held.get(said.name) ?? null)
  if (!value || !place) return good({ ...rest, place, value: null })
  const meant = valueOf(place.holds, value)
  return meant.ok ? good({ ...rest, place, value: meant.value }) : meant
}

function valueOf(holds: Holds, spoken: Spoken): Result<Value> {
  if ('text' in spoken) return holds.type === 'text' ? good(spoken.text) : bad('meaning.value', { text: `"${spoken.text}"` })
  if ('number' in spoken) return holds.type === 'text' ? good(String(spoken.number)) : good(spoken.number)
  const { word } = spoken
  if (holds.type === 'text') return good(word)
  if (holds.type === 'choice') {
    const found = holds.choices.find((choice) => choice.word === word)
    return found ? good(found.value) : bad('meaning.word', { word })
  }
  if (holds.type === 'flags') return bitsOf(holds.names, word)
  return bad('meaning.word', { word })
}

/** `rain+dew`: the word of those bits; `-`: none. */
function bitsOf(names: readonly string[], word: string): Result<number> {
  let bits = 0
  for (const name of word === '-' ? [] : word.split('+')) {
    const bit = names.indexOf(name)
    if (bit < 0) return bad('meaning.word', { word: name })
    bits |= 1 << bit
  }
  return good(bits)
}

function typedMeaning(text: string, known: Known): Result<Typed> {
  let rest = text.trim()
  if (!rest) return bad('meaning.empty')
  const number = /,?\s*(?:sequence|#)\s*(\d{1,5})\s*$/i.exec(rest)
  if (number) rest = rest.slice(0, number.index).trim()
  const way = /^(→|←|to panel:?|to host:?)\s*/i.exec(rest)
  if (way) rest = rest.slice(way[0].length)
  const said = operationOf(rest)
  if (!said) return bad('meaning.operation', { text })
  const { operation } = said
  const senders = directionsOf[operation]
  const given = way && (/→|panel/i.test(way[1]!) ? 'to panel' : 'to host')
  const base: Typed = {
    direction:
      given ?? (senders.includes('to host') && (senders.length > 1 || senders[0] === 'to host') ? 'to host' : 'to panel'),
    operation,
    place: null,
    widget: null,
    value: null,
    mask: 0,
    bits: 0,
    what: null,
    reason: null,
    sequence: number ? Number(number[1]) : null,
  }
  const about = aboutOf(operation, said.rest, known)
  return about.ok ? good({ ...base, ...about.value }) : about
}

function operationOf(text: string): { operation: Operation; rest: string } | null {
  const lower = text.toLowerCase()
  for (const [words, operation] of operationWords)
    if (lower === words || lower.startsWith(`${words} `)) return { operation, rest: text.slice(words.length).trim() }
  return kindIn(lower, eventKinds, eventTexts) ? { operation: 'event', rest: text } : null
}

/** The kind whose words stand at the beginning or at the end of a text, and what is left of it. */
function kindIn<K extends string>(
  text: string,
  kinds: readonly K[],
  texts: Readonly<Record<K, string>>,
): { kind: K; rest: string } | null {
  for (const kind of kinds)
    for (const words of [texts[kind], kind]) {
      const lower = text.toLowerCase()
      if (lower.startsWith(`${words} `)) return { kind, rest: text.slice(words.length).trim() }
      if (lower.endsWith(` ${words}`)) return { kind, rest: text.slice(0, -words.length).trim() }
    }
  return null
}

/** All that a meaning says besides its operation. */
function aboutOf(operation: Operation, text: string, known: Known): Result<Partial<Typed>> {
  if (operation === 'event') {
    const said = kindIn(text, eventKinds, eventTexts)
    if (!said) return bad('meaning.what', { text })
    const widget = widgetOf(said.rest, known)
    return widget ? good({ what: said.kind, widget }) : bad('meaning.place', { text: said.rest })
  }
  if (operation === 'refused') {
    const said = kindIn(text, reasons, reasonTexts)
    if (!said) return bad('meaning.reason', { text })
    const place = placeOf(said.rest, known)
    return place.ok ? good({ reason: said.kind, place: place.value }) : place
  }
  if (operation === 'ask' || operation === 'done') {
    const place = placeOf(text.replace(/^(\d+ words? )?(of|from|for) /i, ''), known)
    return place.ok ? good({ place: place.value }) : place
  }
  if (operation === 'set bits') return maskedOf(text, known)
  const said = /^(.+?)\s+(?:to|of|from|at|in)\s+(.+)$/i.exec(text.startsWith('"') || !/=/.test(outside(text)) ? text : '')
  const cut = said ? -1 : equalsIn(text)
  if (!said && cut < 0) return bad('meaning.value', { text })
  const place = placeOf(said ? said[2]! : text.slice(0, cut), known)
  if (!place.ok) return place
  const value = spokenOf((said ? said[1]! : text.slice(cut + 1)).trim())
  return value ? good({ place: place.value, value }) : bad('meaning.value', { text })
}

/** A text with its quoted stretches and its brackets left out. */
const outside = (text: string): string => text.replaceAll(/"[^"]*"|\([^)]*\)/g, (part) => ' '.repeat(part.length))
const equalsIn = (text: string): number => outside(text).indexOf('=')

function maskedOf(text: string, known: Known): Result<Partial<Typed>> {
  const said = /^(.+?)\s+mask\s+(0x[0-9a-f]+|\d+)\s*=\s*(0x[0-9a-f]+|\d+)$/i.exec(text)
  if (!said) return bad('meaning.value', { text })
  const place = placeOf(said[1]!, known)
  return place.ok ? good({ place: place.value, mask: Number(said[2]), bits: Number(said[3]) }) : place
}

function widgetOf(text: string, known: Known): Typed['widget'] {
  const said = /^(.*?)\s*\((\d{1,5})\)$/.exec(text)
  if (said) return { name: said[1]!, number: Number(said[2]) }
  const found = known.widgets.find(({ name, number }) => name === text || String(number) === text)
  if (found) return found
  return integer.test(text) ? { name: `widget ${Number(text)}`, number: Number(text) } : null
}

function spokenOf(text: string): Spoken | null {
  const quoted = /^"(.*)"$/s.exec(text)
  if (quoted) return { text: quoted[1]! }
  if (/^0x[0-9a-f]{1,8}$/i.test(text)) return { number: Number(text), decimals: 0 }
  const number = /^[+-]?\d+(?:\.(\d{1,9}))?$/.exec(text)
  if (number) return { number: Number(text), decimals: number[1]?.length ?? 0 }
  return /^[^\s"(),=]{1,60}$/.test(text) ? { word: text } : null
}

/** `0x1200`, `level`, `level (0x1200, u16, step 0.1)`, `0x1200 as i16`. */
function placeOf(text: string, known: Known): Result<TypedPlace> {
  const trimmed = text.trim()
  const as = /^(.+?)\s+as\s+([a-z]\w*(?:\s+\d+)?)$/i.exec(trimmed)
  const bracket = as ? null : /^(.*?)\s*\(([^()]*)\)$/.exec(trimmed)
  const head = (as?.[1] ?? bracket?.[1] ?? trimmed).trim()
  const clauses = as ? [as[2]!] : (bracket?.[2]?.split(',') ?? [])
  const isAddress = integer.test(head)
  if (!isAddress && !/^[^\s"=,()]{1,64}$/.test(head)) return bad('meaning.place', { text: trimmed })
  const same = known.places.find(({ name, address }) => (isAddress ? address === Number(head) : name === head))
  const place: TypedPlace = {
    name: same?.name ?? (isAddress ? '' : head),
    address: isAddress ? Number(head) : (same?.address ?? null),
    holds: same?.holds ?? null,
    order: same?.order ?? null,
    page: same?.page ?? '',
  }
  for (const clause of clauses) {
    const problem = takeClause(place, clause.trim())
    if (problem) return { ok: false, problem }
  }
  return place.address !== null && place.address > 0xffff ? bad('meaning.place', { text: trimmed }) : good(place)
}

const numberTypes: readonly string[] = ['u8', 'i8', 'u16', 'i16', 'u32', 'i32', 'f32']

/** One thing that brackets behind a place say of it. */
function takeClause(place: TypedPlace, clause: string): Problem | null {
  const [word = '', ...more] = clause.split(/\s+/)
  const rest = more.join(' ')
  if (integer.test(clause)) place.address = Number(clause)
  else if (numberTypes.includes(clause)) place.holds = { ...scaled(clause as NumberHolds['type'], 0) }
  else if (word === 'step' && Number(rest) > 0) place.holds = stepped(place.holds, Number(rest))
  else if (word === 'text' && Number(rest) >= 1 && Number(rest) <= 2000)
    place.holds = { type: 'text', bytes: Number(rest), encoding: 'latin-1' }
  else if (word === 'flags') place.holds = { type: 'flags', names: rest.split('|') }
  else if (clause === 'time' || clause === 'colour') place.holds = { type: clause }
  else if (word === 'page' && rest) place.page = rest
  else if (clause === 'high word first') place.order = 'high'
  else if (clause === 'low word first') place.order = 'low'
  else if (clause.includes('|')) place.holds = { type: 'choice', choices: clause.split('|').map(choiceAt) }
  else return { code: 'meaning.clause', facts: { text: clause } }
  return null
}

/** `fill`, or `fill 7` where its number is not its place. */
function choiceAt(text: string, at: number): { value: number; word: string } {
  const said = /^(\S+)\s+(\d{1,5})$/.exec(text.trim())
  return said ? { word: said[1]!, value: Number(said[2]) } : { word: text.trim(), value: at }
}

function stepped(holds: Holds | null, step: number): Holds {
  const number = holds && isNumber(holds) ? holds : (freshHolds('u16') as NumberHolds)
  const decimals = /\.(\d+)$/.exec(String(step))?.[1]?.length ?? 0
  return { ...number, factor: step, decimals, min: number.min * step, max: number.max * step }
}

const hex = (n: number): string => `0x${n.toString(16).toUpperCase().padStart(4, '0')}`

/** A meaning with all that it depends on: `write level (0x1200, u16, step 0.1) = 200.0`. `parseMeaning` reads it back. */
export function meaningWords(meaning: Meaning): string {
  const { operation, direction, place, widget, value, sequence } = meaning
  const senders = directionsOf[operation]
  const way = senders.length > 1 && direction === 'to panel' ? '→ ' : ''
  const tail = sequence === null ? '' : `, sequence ${sequence}`
  const begin = `${way}${operationTexts[operation]}`
  if (widget && meaning.what) return `${begin} ${widget.name} (${widget.number}) ${eventTexts[meaning.what]}${tail}`
  if (!place) return begin + tail
  const said = placeWords(place)
  if (operation === 'set bits') return `${begin} ${said} mask ${hex(meaning.mask)} = ${hex(meaning.bits)}${tail}`
  if (operation === 'refused') return `${begin} ${said} ${reasonTexts[meaning.reason ?? 'value']}${tail}`
  return `${begin} ${said}${value === null ? '' : ` = ${valueWords(place.holds, value)}`}${tail}`
}

function placeWords({ name, address, holds, order, page }: Place): string {
  const clauses = [
    ...(name && address !== null ? [hex(address)] : []),
    ...holdsWords(holds),
    ...(page ? [`page ${page}`] : []),
    ...(order ? [`${order} word first`] : []),
  ]
  return `${name || hex(address ?? 0)} (${clauses.join(', ')})`
}

function holdsWords(holds: Holds): string[] {
  if (isNumber(holds)) return [holds.type, ...(holds.factor === 1 ? [] : [`step ${holds.factor}`])]
  if (holds.type === 'text') return [`text ${holds.bytes}`]
  if (holds.type === 'flags') return [`flags ${holds.names.join('|')}`]
  if (holds.type !== 'choice') return [holds.type]
  const inOrder = holds.choices.every(({ value }, at) => value === at)
  return [holds.choices.map(({ word, value }) => (inOrder ? word : `${word} ${value}`)).join('|')]
}

function valueWords(holds: Holds, value: Value): string {
  if (holds.type === 'text') return `"${value}"`
  if (holds.type === 'choice') return holds.choices.find((choice) => choice.value === value)?.word ?? String(value)
  return isNumber(holds) && typeof value === 'number' ? value.toFixed(Math.min(9, holds.decimals)) : String(value)
}

/** The sentences of `parseMeanings`. */
export const meaningSentences: Readonly<Record<string, string>> = {
  'meaning.empty': 'Enter what the frame means, such as “write 20 to 0x1200”.',
  'meaning.operation':
    '“{text}” begins with no operation: write, read request, read response, report, event, acknowledge, reject.',
  'meaning.place': '“{text}” is no variable and no address.',
  'meaning.value': '“{text}” has no value: write it as “write 20 to 0x1200”, a text in quotes.',
  'meaning.clause': '“{text}” is not understood. In brackets: address, data type, step 0.1, text 8, off|on, page.',
  'meaning.word': '“{word}” is no number. Give a number, or the words in brackets: mode (off|fill) = fill.',
  'meaning.what': '“{text}” says no event: pressed, released, long press, slid off.',
  'meaning.reason': '“{text}” says no reason.',
}
