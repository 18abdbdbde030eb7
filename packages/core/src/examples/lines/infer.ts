import { toHex, wordsToPayload } from '../../base/index.ts'
import {
  eventKinds,
  identified,
  reasons,
  type Direction,
  type LineForm,
  type LinePart,
  type LinesWay,
  type NameStyle,
  type Operation,
} from '../../frames/index.ts'
import { freshLinePart, spell, spellingSettings, type Spelling } from '../../protocols/index.ts'
import { encodeValue, isNumber, wordsOf, type Cell, type Holds } from '../../variables/index.ts'
import type { Sample } from '../example.ts'
import type { Explains, Guess, Inferred, Slot, Taken, WaySamples } from '../guess.ts'
import type { Meaning } from '../meaning.ts'

type Numbered = WaySamples['samples'][number]

const textOf = (wire: ArrayLike<number>): string => Array.from(wire, (byte) => String.fromCharCode(byte)).join('')
const isPrintable = (c: string): boolean => (c >= ' ' && c <= '~') || (c >= '\u00a0' && c < '\u00fe')
const hasName = (text: string, name: string): boolean => name !== '' && text.toLowerCase().includes(name.toLowerCase())

/** Whether frames are lines: characters but for a few bytes at their ends, with the names of what they are about in most of them. */
export function areLines(samples: readonly Sample[]): boolean {
  if (!samples.length) return false
  const named = samples.filter(({ wire, meaning }) => hasName(textOf(wire), nameIn(meaning)))
  const isText = samples.every(({ wire }) => {
    const text = textOf(wire)
    return [...text.slice(4, -4)].every(isPrintable) && [...text].filter((c) => !isPrintable(c)).length <= 8
  })
  return isText && named.length * 2 > samples.length
}

const nameIn = ({ place, widget }: Meaning): string => place?.name ?? widget?.name ?? ''

/** A line with what stands in it; `at` counts from the first byte on the wire. */
interface Line {
  sample: Numbered
  /** Without start and end. */
  text: string
  offset: number
  name: { from: number; to: number } | null
  value: { from: number; to: number } | null
}

/** Guesses at a way of lines from lines that go that way. */
export function inferLines({ samples, directions }: WaySamples, taken: Taken): Inferred<LinesWay> {
  const slots: Slot[] = []
  const take = <G extends Guess>(key: string, label: string, guesses: readonly G[]): G => {
    const bare = guesses.map(({ key: own, says, fits, of, explains }) => ({ key: own, says, fits, of, explains }))
    slots.push({ key, label, guesses: bare })
    return guesses.find((guess) => guess.key === taken[key]) ?? guesses[0]!
  }
  const ends = take('ends', 'Ends of a line', endGuesses(samples))
  const lines = samples.map((sample): Line => {
    const whole = textOf(sample.wire)
    const text = whole.slice(ends.start.length, whole.length - ends.end.length)
    return { sample, text, offset: ends.start.length, name: null, value: null }
  })
  const styles = nameGuesses(lines)
  const style = styles.length ? take('names', 'Names', styles) : null
  if (style) lines.forEach((line, k) => (line.name = style.spans[k]!))
  const spellings = spellingGuesses(lines)
  const spelling = spellings.length ? take('values', 'Values', spellings) : null
  if (spelling) lines.forEach((line, k) => (line.value = spelling.spans[k]!))
  const { forms, open, explains, says } = formsOf(lines)
  if (says) take('forms', 'Words and gaps', [{ key: 'forms', says, fits: samples.length, of: samples.length, explains }])
  const way: LinesWay | null =
    open.length || !forms.length
      ? null
      : identified({
          kind: 'lines',
          start: ends.start,
          end: ends.end,
          ignored: [],
          longest: 200,
          gapUs: 100_000,
          names: style?.style ?? { template: '{name}', letters: 'as they are' },
          spelling: { ...spellingSettings.defaults, ...spelling?.spelling },
          forms: forms.filter((form) => form.directions.some((one) => directions.includes(one))),
        })
  return { slots, notes: notesOf(lines), open, way }
}

interface EndGuess extends Guess {
  start: number[]
  end: number[]
}

/** The bytes with which all lines begin and end: control characters, or else signs that are no part of a value. */
function endGuesses(samples: readonly Numbered[]): EndGuess[] {
  const common = (at: (wire: Uint8Array, k: number) => number | undefined, isPart: (byte: number) => boolean): number[] => {
    const out: number[] = []
    for (let k = 0; k < 4; k++) {
      const byte = at(samples[0]!.wire, k)
      if (byte === undefined || !isPart(byte) || !samples.every(({ wire }) => at(wire, k) === byte)) break
      out.push(byte)
    }
    return out
  }
  const isControl = (byte: number) => byte < 0x20 || byte >= 0x7f
  const isSign = (byte: number) => byte > 0x20 && byte < 0x7f && !/[A-Za-z0-9"'+\-?.]/.test(String.fromCharCode(byte))
  const last = (wire: Uint8Array, k: number) => wire.at(-1 - k)
  const first = (wire: Uint8Array, k: number) => wire[k]
  const controls = common(last, isControl).reverse()
  const end = controls.length ? controls : common(last, isSign).reverse()
  const leading = common(first, isControl)
  const starts = leading.length ? [leading] : controls.length ? [[], common(first, isSign)] : [common(first, isSign), []]
  const seen = new Set<string>()
  return starts.flatMap((start) => {
    const key = `ends ${toHex(start)} ${toHex(end)}`
    if (seen.has(key)) return []
    seen.add(key)
    const words = [
      ...(start.length ? [`begins with ${shown(start)}`] : []),
      `ends with ${end.length ? shown(end) : 'nothing that all have'}`,
    ]
    const explains = samples.flatMap(({ wire, index }): Explains[] => [
      ...(start.length ? [{ example: index, from: 0, to: start.length, kind: 'start' }] : []),
      ...(end.length ? [{ example: index, from: wire.length - end.length, to: wire.length, kind: 'end' }] : []),
    ])
    return [{ key, says: `each ${words.join(' and ')}`, fits: samples.length, of: samples.length, explains, start, end }]
  })
}

const names: Readonly<Record<number, string>> = { 0: 'NUL', 2: 'STX', 3: 'ETX', 9: 'TAB', 10: 'LF', 13: 'CR' }
const shown = (bytes: readonly number[]): string =>
  bytes.map((byte) => names[byte] ?? (byte > 0x20 && byte < 0x7f ? String.fromCharCode(byte) : toHex([byte]))).join(' ')

interface NameGuess extends Guess {
  style: NameStyle
  spans: readonly ({ from: number; to: number } | null)[]
}

const inWord = /[A-Za-z0-9_.\-/]/

/** How names of the project become those of the wire: what stands before and behind every one of them. */
function nameGuesses(lines: readonly Line[]): NameGuess[] {
  const named = lines.filter(({ sample }) => nameIn(sample.meaning))
  const out: NameGuess[] = []
  for (const letters of ['as they are', 'capitals', 'small'] as const) {
    const spelt = (text: string) =>
      letters === 'capitals' ? text.toUpperCase() : letters === 'small' ? text.toLowerCase() : text
    const found = new Map(
      named.flatMap((line) => {
        const from = line.text.indexOf(spelt(nameIn(line.sample.meaning)))
        return from < 0 ? [] : [[line, from] as const]
      }),
    )
    if (!found.size || found.size < named.length) continue
    const sides = [...found].map(([line, from]) => {
      const to = from + nameIn(line.sample.meaning).length
      return { before: line.text.slice(0, from), behind: line.text.slice(to), page: line.sample.meaning.place?.page ?? '' }
    })
    const behind = commonStart(sides.map((side) => side.behind))
    const suffix = wordsAtStart(behind)
    for (const [template, prefixOf] of templates(sides, spelt)) {
      const spans = lines.map((line) => {
        const from = found.get(line)
        if (from === undefined) return null
        const own = prefixOf(line.sample.meaning.place?.page ?? '').length
        return { from: from - own, to: from + nameIn(line.sample.meaning).length + suffix.length }
      })
      out.push({
        key: `names ${template}${suffix} ${letters}`,
        says: `names are ${template}${suffix}${letters === 'as they are' ? '' : `, in ${letters === 'capitals' ? 'capitals' : 'small letters'}`}`,
        fits: named.length,
        of: named.length,
        explains: explained(lines, spans, 'address'),
        style: { template: template + suffix, letters },
        spans,
      })
    }
  }
  return out
}

/** Templates for what stands before every name: the page, or characters that are always the same. */
function templates(
  sides: readonly { before: string; page: string }[],
  spelt: (text: string) => string,
): (readonly [string, (page: string) => string])[] {
  const out: (readonly [string, (page: string) => string])[] = []
  for (const gap of ['.', '_', '/'])
    if (sides.every(({ before, page }) => page && before.endsWith(spelt(page) + gap)))
      out.push([`{page}${gap}{name}`, (page) => spelt(page) + gap])
  const common = commonEnd(sides.map(({ before }) => before))
  const prefix = /[A-Za-z0-9_.\-/]*$/.exec(common)?.[0] ?? ''
  // Letters that stand there alone are a word of the line.
  const own = /[_.\-/]$/.test(prefix) ? prefix : ''
  return out.length ? out : [[`${own}{name}`, () => own]]
}

const wordsAtStart = (text: string): string => {
  const run = /^[A-Za-z0-9_.\-/]*/.exec(text)![0]
  return /^[_.\-/]/.test(run) ? run : ''
}

function commonStart(texts: readonly string[]): string {
  let k = 0
  while (k < texts[0]!.length && inWord.test(texts[0]![k]!) && texts.every((text) => text[k] === texts[0]![k])) k++
  return texts[0]!.slice(0, k)
}
const reversed = (text: string): string => [...text].reverse().join('')
const commonEnd = (texts: readonly string[]): string => reversed(commonStart(texts.map(reversed)))

const explained = (lines: readonly Line[], spans: readonly ({ from: number; to: number } | null)[], kind: string): Explains[] =>
  lines.flatMap(({ sample, offset }, k) => {
    const span = spans[k]
    return span ? [{ example: sample.index, from: span.from + offset, to: span.to + offset, kind }] : []
  })

interface SpellingGuess extends Guess {
  spelling: Partial<Spelling>
  spans: readonly ({ from: number; to: number } | null)[]
}

/** The settings of a spelling that one data type asks for. */
function choicesFor(holds: Holds): Partial<Spelling>[] {
  if (isNumber(holds)) return [{ numbers: 'shown' }, { numbers: 'raw' }]
  if (holds.type === 'choice') return [{ choices: 'words' }, { choices: 'numbers' }]
  if (holds.type === 'flags') return [{ flags: 'names' }, { flags: 'number' }]
  if (holds.type === 'text') return [{ text: 'quoted' }, { text: 'bare' }]
  return holds.type === 'time' ? [{ times: 'clock' }, { times: 'seconds' }] : [{ colours: 'hex' }, { colours: 'number' }]
}

/** Every spelling in which each value stands in its line; where two fit, the first is as people write. */
function spellingGuesses(lines: readonly Line[]): SpellingGuess[] {
  const valued = lines.filter(({ sample }) => sample.meaning.value !== null)
  if (!valued.length) return []
  let spellings: Partial<Spelling>[] = [{}]
  const asked = new Map(
    valued.map(({ sample }) => [
      isNumber(sample.meaning.place!.holds) ? 'number' : sample.meaning.place!.holds.type,
      sample.meaning.place!.holds,
    ]),
  )
  for (const holds of asked.values())
    spellings = spellings.flatMap((one) => choicesFor(holds).map((more) => ({ ...one, ...more })))
  return spellings.flatMap((spelling): SpellingGuess[] => {
    const spans = lines.map((line) => valueIn(line, { ...spellingSettings.defaults, ...spelling }))
    if (valued.some((line) => !spans[lines.indexOf(line)])) return []
    const words = Object.values(spelling).map((value) => spellingTexts[value] ?? value)
    return [
      {
        key: `values ${Object.values(spelling).join(' ')}`,
        says: words.join('; '),
        fits: valued.length,
        of: valued.length,
        explains: explained(lines, spans, 'payload'),
        spelling,
        spans,
      },
    ]
  })
}

const spellingTexts: Readonly<Record<string, string>> = {
  shown: 'numbers as shown, 23.50',
  raw: 'numbers raw, 2350',
  words: 'choices as words',
  numbers: 'choices as numbers',
  names: 'flags as names',
  number: 'as a number',
  quoted: 'texts in double quotes',
  bare: 'texts bare',
}

/** Where the value of a line stands in a spelling: behind its name, or else before it. */
function valueIn({ sample, text, name }: Line, spelling: Spelling): { from: number; to: number } | null {
  const { place, value } = sample.meaning
  if (!place || value === null) return null
  const words = encodeValue(place.holds, value, 'low')
  if (!words.ok) return null
  const cell: Cell = {
    index: 0,
    address: 0,
    words: wordsOf(place.holds),
    holds: place.holds,
    order: 'low',
    travels: 'both',
    stale: null,
  }
  const said = spell(spelling, cell, wordsToPayload(words.value, 'low'), 'low')
  if (!said.ok) return null
  const isQuoted = place.holds.type === 'text' && spelling.text === 'quoted'
  const wanted = isQuoted ? `"${said.value.replaceAll(/["\\]/g, (c) => `\\${c}`)}"` : said.value
  const behind = text.indexOf(wanted, name?.to ?? 0)
  const at = behind >= 0 ? behind : text.slice(0, name?.from ?? 0).indexOf(wanted)
  if (at < 0) return null
  const span = { from: at, to: at + wanted.length }
  // A figure more on either side, and it is another number.
  const isPart = (c: string | undefined) => c !== undefined && /[0-9.]/.test(c)
  if (/^[-+0-9.]/.test(wanted) && (isPart(text[span.to]) || (isPart(text[at - 1]) && /^[0-9]/.test(wanted)))) return null
  return span
}

/** The parts of each operation: name and value where they stand, and the characters between, which must be the same in all its lines. */
function formsOf(lines: readonly Line[]): { forms: LineForm[]; open: Explains[]; explains: Explains[]; says: string } {
  const groups = new Map<string, Line[]>()
  for (const line of lines) {
    const { operation, direction } = line.sample.meaning
    groups.set(`${operation} ${direction}`, [...(groups.get(`${operation} ${direction}`) ?? []), line])
  }
  const forms: (Omit<LineForm, 'directions'> & { directions: Direction[] })[] = []
  const open: Explains[] = []
  const explains: Explains[] = []
  const said = new Set<string>()
  for (const group of groups.values()) {
    const all = group.map(partsOfLine)
    const first = JSON.stringify(all[0]!.parts)
    group.forEach((line, k) => {
      const from = line.offset
      const isSame = JSON.stringify(all[k]!.parts) === first
      const stretches = isSame ? explains : open
      for (const free of all[k]!.constants)
        stretches.push({
          example: line.sample.index,
          from: from + free.from,
          to: from + free.to,
          kind: isSame ? 'constant' : 'unknown',
        })
    })
    for (const part of all[0]!.parts) if (typeof part['text'] === 'string') said.add(`“${part['text']}”`)
    const { operation, direction } = group[0]!.sample.meaning
    const same = forms.find((form) => form.operation === operation && JSON.stringify(form.parts) === first)
    if (same) same.directions.push(direction)
    else
      forms.push({
        operation: operation as Operation,
        directions: [direction],
        types: [],
        parts: withCodes(all[0]!.parts, group, all),
      })
  }
  return { forms, open, explains, says: said.size ? `always the same: ${[...said].join(' ')}` : '' }
}

interface LineParts {
  parts: LinePart[]
  constants: { from: number; to: number }[]
  /** The word that tells the kind of an event, or a reason. */
  code: string | null
}

/** A line as parts, from left to right. */
function partsOfLine({ sample, text, name, value }: Line): LineParts {
  const { operation, sequence } = sample.meaning
  const spans = [...(name ? [{ ...name, part: 'name' }] : []), ...(value ? [{ ...value, part: 'value' }] : [])].sort(
    (a, b) => a.from - b.from,
  )
  const out: LineParts = { parts: [], constants: [], code: null }
  const wantsCode = operation === 'event' ? 'what' : operation === 'refused' ? 'reason' : null
  let at = 0
  for (const span of [...spans, { from: text.length, to: text.length, part: '' }]) {
    const isBetween = out.parts.length > 0 && span.part !== ''
    for (const token of text.slice(at, span.from).match(/\s+|[^\s]+/g) ?? []) {
      const from = text.indexOf(token, at)
      at = from + token.length
      if (wantsCode && out.code === null && /^\w+$/.test(token) && name && from >= name.to) {
        out.code = token
        out.parts.push(freshLinePart(wantsCode))
        continue
      }
      if (sequence !== null && token === String(sequence)) {
        out.parts.push(freshLinePart('sequence'))
        continue
      }
      out.constants.push({ from, to: at })
      const isGap = /^\s+$/.test(token) || (isBetween && !/\w/.test(token))
      const last = out.parts.at(-1)
      if (isBetween && last?.part === 'gap' && isGap)
        out.parts[out.parts.length - 1] = { ...last, text: String(last['text']) + token }
      else out.parts.push(isGap ? { ...freshLinePart('gap'), text: token } : { part: 'words', text: token })
    }
    if (span.part) out.parts.push(freshLinePart(span.part))
    at = span.to
  }
  return out
}

/** The words of events or reasons as the lines have them, in the part that tells them. */
function withCodes(parts: readonly LinePart[], group: readonly Line[], all: readonly LineParts[]): LinePart[] {
  return parts.map((part) => {
    if (part.part !== 'what' && part.part !== 'reason') return part
    const kinds: readonly string[] = part.part === 'what' ? eventKinds : reasons
    const words = { ...(part['words'] as Record<string, string>) }
    group.forEach(({ sample }, k) => {
      const kind = part.part === 'what' ? sample.meaning.what : sample.meaning.reason
      if (kind && all[k]!.code) words[kind] = all[k]!.code
    })
    const said = new Set<string>()
    for (const kind of kinds) {
      while (said.has(words[kind]!)) words[kind] = `${words[kind]}_`
      said.add(words[kind]!)
    }
    return { ...part, words }
  })
}

function notesOf(lines: readonly Line[]): string[] {
  const notes: string[] = []
  const lost = lines.filter(({ sample, name }) => nameIn(sample.meaning) && !name)
  if (lost.length) notes.push(`The name stands in no known spelling in “${lost[0]!.text}”.`)
  const valueless = lines.filter(({ sample, value }) => sample.meaning.value !== null && !value)
  if (valueless.length) notes.push(`The value stands in no known spelling in “${valueless[0]!.text}”: check what it means.`)
  const types = new Set(lines.flatMap(({ sample }) => (sample.meaning.place ? [sample.meaning.place.holds.type] : [])))
  if (!types.has('text')) notes.push('No line has a text: whether texts are quoted, a line with one would tell.')
  if (!types.has('choice')) notes.push('No line has a choice: whether it is a word or a number, a line with one would tell.')
  return notes
}
