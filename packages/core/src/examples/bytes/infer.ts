import type { Order } from '../../base/index.ts'
import { toHex } from '../../base/index.ts'
import {
  checkLayout,
  eventKinds,
  identified,
  part,
  plainEventCodes,
  plainReasonCodes,
  reasons,
  sizeOfPart,
  type BinaryWay,
  type Direction,
  type Form,
  type Operation,
  type Part,
} from '../../frames/index.ts'
import type { Explains, Guess, Inferred, Slot, Taken, WaySamples } from '../guess.ts'
import { checkGuesses, type CheckFit } from './check.ts'
import { dataGuesses, type DataShape } from './data.ts'
import { addressGuesses, operationGuesses, sequenceGuesses, wordsGuesses, type FieldGuess } from './fields.ts'
import { framingGuesses } from './framings.ts'
import { lengthFits, type LengthFit } from './length.ts'
import { explainedBy, groupsOf, isFree, type Claim, type Framed, type Row } from './rows.ts'

/** All that is held of the examples of one way of bytes. */
interface Held {
  framed: Framed
  rows: Row[]
  fields: FieldGuess[]
  shape: DataShape | null
  check: CheckFit | null
  length: LengthFit | null
  slots: Slot[]
}

/**
 * Guesses at a way of bytes from frames that go that way. A slot that is not taken is held for its first guess while the others are
 * looked for. `way`: what the first or the taken guesses make together; null where they make none.
 */
export function inferBytes({ samples, directions }: WaySamples, taken: Taken): Inferred<BinaryWay> & { words: Order | null } {
  const framing = choose('framing', 'How a frame is found', framingGuesses(samples), taken)
  const { framed, length } = framing.chosen!
  const held: Held = { framed, rows: framed.rows, fields: [], shape: null, check: null, length, slots: [framing.slot] }
  if (length)
    claim(
      held,
      held.rows.map(() => ({ from: length.at, to: length.at + length.size, kind: 'length' })),
    )
  takeField(held, 'address', 'Address', addressGuesses(held.rows).filter(isMost), taken)
  held.shape = take(held, 'data', 'Data', dataGuesses(held.rows, addressEnd(held)), taken)?.shape ?? null
  held.check = take(held, 'check', 'Checksum', checkGuesses(held.rows), taken)?.fit ?? null
  takeField(held, 'operation', 'Operation', operationGuesses(held.rows, dataFrom), taken)
  takeField(held, 'sequence', 'Sequence', sequenceGuesses(held.rows), taken)
  if (!length) takeLength(held, taken)
  takeField(held, 'words', 'Word count', wordsGuesses(held.rows).sort(nearTheAddress(held)), taken)
  takeCodes(held, taken)
  const start = takeStart(held, taken)
  const open = takeConstants(held, taken)
  const way = open.length ? null : wayOf(held, directions, start)
  return { slots: held.slots, notes: notesOf(held), open, way, words: held.shape?.words ?? null }
}

/** An address that most frames have: a field that fits a single operation by chance is none. */
const isMost = ({ fits, of }: Guess): boolean => fits * 2 >= of

function choose<G extends Guess>(
  key: string,
  label: string,
  guesses: readonly G[],
  taken: Taken,
): { slot: Slot; chosen: G | null } {
  const bare = guesses.map(({ key: own, says, fits, of, explains }) => ({ key: own, says, fits, of, explains }))
  return { slot: { key, label, guesses: bare }, chosen: guesses.find((guess) => guess.key === taken[key]) ?? guesses[0] ?? null }
}

function claim({ rows }: Held, claims: readonly (Claim | null)[]): void {
  rows.forEach((row, k) => claims[k] && row.claims.push(claims[k]))
}

/** So many readings of one slot are offered. */
const mostOffered = 6

type Claiming = Guess & { spans: readonly (Claim | null)[] }

/** Offers guesses, and claims the bytes of the one that is held; null: there is none. */
function take<G extends Claiming>(held: Held, key: string, label: string, guesses: readonly G[], taken: Taken): G | null {
  if (!guesses.length) return null
  const { slot, chosen } = choose(key, label, guesses.slice(0, mostOffered), taken)
  held.slots.push(slot)
  claim(held, chosen!.spans)
  return chosen
}

function takeField(held: Held, key: string, label: string, guesses: readonly FieldGuess[], taken: Taken): void {
  const chosen = take(held, key, label, guesses, taken)
  if (chosen) held.fields.push(chosen)
}

const addressEnd = ({ fields }: Held): number =>
  fields.find(({ part: one }) => one.part === 'address')?.spans.find((span) => span)?.to ?? 1

function takeLength(held: Held, taken: Taken): void {
  const guesses = lengthFits(held.rows, held.check?.size ?? null).map((fit) => {
    const spans = held.rows.map(() => ({ from: fit.at, to: fit.at + fit.size, kind: 'length' }))
    return {
      key: `length ${fit.at} ${fit.size} ${fit.order}`,
      says: `byte ${fit.at + 1} counts: ${fit.says}`,
      fits: held.rows.length,
      of: held.rows.length,
      explains: explainedBy(held.rows, spans),
      fit,
      spans,
    }
  })
  held.length = take(held, 'length', 'Length', guesses, taken)?.fit ?? null
}

const dataFrom = (row: Row): number => row.claims.find(({ kind }) => kind === 'payload')?.from ?? row.body.length

/** Of counts that fit, one in more operations first, then one right behind the address. */
const nearTheAddress =
  (held: Held) =>
  (a: FieldGuess, b: FieldGuess): number => {
    const from = ({ spans }: FieldGuess) => spans.find((span) => span)!.from
    return b.fits - a.fits || Math.abs(from(a) - addressEnd(held)) - Math.abs(from(b) - addressEnd(held))
  }

/** The byte that tells what happened to a widget, or why a frame was refused: the one that nothing else explains. */
function takeCodes(held: Held, taken: Taken): void {
  for (const [operation, kind, label] of [
    ['event', 'what', 'Event code'],
    ['refused', 'reason', 'Reason code'],
  ] as const) {
    const rows = held.rows.filter(({ meaning }) => meaning.operation === operation)
    if (!rows.length) continue
    const guesses: FieldGuess[] = []
    for (let at = 0; at < Math.min(...rows.map(({ body }) => body.length)); at++) {
      const codes = new Map<string, number>()
      const isFit = rows.every(({ body, meaning, ...row }) => {
        const said = (operation === 'event' ? meaning.what : meaning.reason)!
        const isOwn = (codes.get(said) ?? body[at]) === body[at]
        codes.set(said, body[at]!)
        return isOwn && isFree({ body, meaning, ...row }, at, at + 1)
      })
      if (!isFit || new Set(codes.values()).size < codes.size) continue
      const spans = held.rows.map((row) => (rows.includes(row) ? { from: at, to: at + 1, kind } : null))
      guesses.push({
        key: `${kind} ${at}`,
        says: `byte ${at + 1}: ${label.toLowerCase()}, ${[...codes].map(([said, code]) => `${toHex([code])} ${said}`).join(', ')}`,
        fits: rows.length,
        of: rows.length,
        explains: explainedBy(held.rows, spans),
        part:
          kind === 'what'
            ? part('what', { codes: filled(eventKinds, plainEventCodes, codes) })
            : part('reason', { codes: filled(reasons, plainReasonCodes, codes) }),
        spans,
      })
    }
    // A code stands behind the address.
    const behind = addressEnd(held)
    guesses.sort((a, b) => Number(fromOf(a) < behind) - Number(fromOf(b) < behind) || fromOf(b) - fromOf(a))
    takeField(held, kind, label, guesses, taken)
  }
}
const fromOf = ({ spans }: FieldGuess): number => spans.find((span) => span)!.from

/** A code for each kind: those that examples show, and for the others their plain code or the lowest that is free. */
function filled<K extends string>(
  kinds: readonly K[],
  plain: Record<K, number>,
  said: ReadonlyMap<string, number>,
): Record<K, number> {
  const used = new Set(said.values())
  const out = {} as Record<K, number>
  for (const kind of kinds) {
    let code = said.get(kind) ?? plain[kind]
    if (!said.has(kind)) for (let free = 0; used.has(code); free++) code = free
    used.add(code)
    out[kind] = code
  }
  return out
}

/** The bytes that begin every frame, as far as nothing else explains them. */
function takeStart(held: Held, taken: Taken): number[] {
  if (!held.framed.hasStart) return []
  const start: number[] = []
  for (let at = 0; at < 8; at++) {
    const byte = held.rows[0]!.body[at]
    if (byte === undefined || !held.rows.every((row) => row.body[at] === byte && isFree(row, at, at + 1))) break
    start.push(byte)
  }
  if (!start.length) return []
  const spans = held.rows.map(() => ({ from: 0, to: start.length, kind: 'start' }))
  const guess = {
    key: `start ${toHex(start)}`,
    says: `each begins with ${toHex(start)}`,
    fits: held.rows.length,
    of: held.rows.length,
    explains: explainedBy(held.rows, spans),
  }
  const { slot } = choose('start', 'Start bytes', [guess], taken)
  held.slots.push(slot)
  claim(held, spans)
  return start
}

/** Stretches of a row that nothing explains yet. */
function freeStretches(row: Row): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = []
  for (let at = 0; at < row.body.length; at++) {
    if (!isFree(row, at, at + 1)) continue
    const last = out.at(-1)
    if (last?.to === at) last.to++
    else out.push({ from: at, to: at + 1 })
  }
  return out
}

/** Bytes that are left and the same in all frames of an operation; what is left and varies stays open. */
function takeConstants(held: Held, taken: Taken): Explains[] {
  const spans: { row: Row; claim: Claim }[] = []
  const open: Explains[] = []
  const values = new Set<string>()
  for (const group of groupsOf(held.rows).values())
    for (const row of group)
      for (const { from, to } of freeStretches(row)) {
        const bytes = row.body.subarray(from, to)
        const isBehind = from >= dataFrom(row)
        const isSame = group.every(({ body }) => {
          const at = isBehind ? body.length - row.body.length + from : from
          return bytes.every((byte, k) => body[at + k] === byte)
        })
        if (isSame) {
          spans.push({ row, claim: { from, to, kind: 'constant' } })
          values.add(toHex(bytes))
        } else open.push({ example: row.index, from: row.places[from]!, to: row.places[to]!, kind: 'unknown' })
      }
  if (spans.length) {
    const guess = {
      key: 'constants',
      says: `always the same: ${[...values].join(' · ')}`,
      fits: spans.length,
      of: spans.length,
      explains: spans.flatMap(({ row, claim: one }) => explainedBy([row], [one])),
    }
    held.slots.push(choose('constants', 'Constants', [guess], taken).slot)
    for (const { row, claim: one } of spans) row.claims.push(one)
  }
  return open
}

/** The parts of a row's form, one behind the other. */
function partsOfRow(held: Held, row: Row, start: number): Part[] {
  const claims = [...row.claims].sort((a, b) => a.from - b.from)
  const k = held.rows.indexOf(row)
  return claims.flatMap(({ from, to, kind }): Part[] => {
    if (kind === 'start') return []
    if (kind === 'payload') return [held.shape!.part]
    if (kind === 'constant') return [part('constant', { bytes: [...row.body.subarray(from, to)] })]
    if (kind === 'length') return [lengthPart(held.length!)]
    if (kind === 'checksum') return [checkPart(held.check!, held, start)]
    return held.fields.filter(({ spans }) => spans[k]?.from === from).map((field) => field.part)
  })
}

const lengthPart = ({ size, order, spelling, counts, adds, unit }: LengthFit): Part =>
  part('length', { size, order, spelling, counts, adds, unit })

function checkPart({ algorithm, order, spelling, from, leaves }: CheckFit, { length }: Held, start: number): Part {
  const covers =
    from === 'data'
      ? 'payload'
      : from === 0
        ? 'everything before'
        : from === start
          ? 'after the start'
          : length && from === length.at + length.size
            ? 'after the length'
            : 'from byte'
  return part('checksum', { algorithm, order, spelling, covers, leaves, first: covers === 'from byte' ? Number(from) : 0 })
}

function wayOf(held: Held, directions: readonly Direction[], start: readonly number[]): BinaryWay | null {
  const groups = [...groupsOf(held.rows).values()]
  const lists = groups.map((group) => partsOfRow(held, group[0]!, start.length))
  const operation = held.fields.find(({ part: one }) => one.part === 'operation' || one.part === 'sequence and operation')
  const [head, end] = shared(lists)
  const directionsOf = new Map<string, { operation: Operation; code: number; directions: Direction[]; parts: Part[] }>()
  groups.forEach((group, k) => {
    const { operation: of, direction } = group[0]!.meaning
    const at = operation?.spans[0]!.from ?? -1
    const byte = at < 0 ? 0 : group[0]!.body[at]!
    const halves = operation?.part.part === 'sequence and operation' ? operation.part.high : null
    const code = halves === null ? byte : halves === 'sequence' ? byte & 15 : byte >> 4
    const parts = lists[k]!.slice(head, lists[k]!.length - end)
    const key = `${of} ${code} ${JSON.stringify(parts)}`
    const found = directionsOf.get(key)
    if (found) found.directions.push(direction)
    else directionsOf.set(key, { operation: of, code, directions: [direction], parts })
  })
  const forms: Form[] = [...directionsOf.values()].filter(({ directions: own }) => own.some((one) => directions.includes(one)))
  const first = lists[0]!
  const texts = held.shape?.texts ?? 'whole'
  const make = (mostPayload: number): BinaryWay =>
    identified({
      kind: 'binary',
      framing: held.framed.framing(start),
      payload: held.shape?.payload ?? 'as memory',
      ...(texts === 'whole' ? {} : { texts, textByte: held.shape!.textByte }),
      mostPayload,
      gapUs: held.framed.framing(start).kind === 'silent' ? 2000 : 50_000,
      head: first.slice(0, head),
      forms,
      end: first.slice(first.length - end),
    })
  return fitting(make, held)
}

/** The way with as much payload as its counts can hold; null where it cannot be used with any. */
function fitting(make: (mostPayload: number) => BinaryWay, { rows }: Held): BinaryWay | null {
  const fixed = make(240).framing.kind === 'fixed' ? rows.map((row) => row.claims.find(({ kind }) => kind === 'payload')) : []
  const only = fixed.flatMap((one) => (one ? [one.to - one.from] : []))
  for (const most of only.length ? [Math.max(2, ...only)] : [240, 200, 120, 64, 32, 16, 8, 4, 2]) {
    const way = make(most)
    const problems = checkLayout({ name: 'examples', toPanel: way, toHost: 'same' })
    const isSize = problems.every(({ code }) => code === 'layout.length-range' || code === 'layout.words-range')
    if (!problems.length) return way
    if (!isSize) return null
  }
  return null
}

/** How many parts all lists begin with, and how many of the rest they end with. The data of a form stand in neither. */
function shared(lists: readonly (readonly Part[])[]): [number, number] {
  const spans = (one: Part | undefined) => !one || sizeOfPart(one) === 0
  const isSame = (at: (list: readonly Part[]) => Part | undefined) => {
    const [first, ...others] = lists.map((list) => JSON.stringify(at(list) ?? null))
    return first !== 'null' && others.every((other) => other === first) && lists.every((list) => !spans(at(list)))
  }
  let head = 0
  while (isSame((list) => list[head])) head++
  let end = 0
  const room = Math.min(...lists.map((list) => list.length)) - head
  while (end < room && isSame((list) => list[list.length - 1 - end])) end++
  return [head, end]
}

/** Questions that the examples leave open, each with the frame that would tell. */
function notesOf(held: Held): string[] {
  const notes: string[] = []
  const sizes = new Set(held.rows.map(({ body }) => body.length))
  const kinds = new Set(held.slots.map(({ key }) => key))
  if (sizes.size === 1 && !held.length)
    notes.push('All frames have one length: a frame of another length would tell whether a byte counts.')
  if (!held.check) notes.push('No checksum of the catalogue fits the end of all frames.')
  if (!kinds.has('data') && held.rows.some(({ meaning }) => meaning.value !== null))
    notes.push('The values do not stand at one place of their frames in any byte order: check what they mean.')
  if (!kinds.has('address')) notes.push('No number fits the addresses: a frame of another variable would tell.')
  const single = [...groupsOf(held.rows).values()].filter((group) => group.length === 1 && group[0]!.meaning.value !== null)
  for (const [row] of single)
    notes.push(
      `Only one ${row!.meaning.operation === 'value' ? 'read response' : row!.meaning.operation}: a second one would tell its constants from its data.`,
    )
  if (held.shape && !held.rows.some(({ meaning }) => meaning.place && ['u32', 'i32', 'f32'].includes(meaning.place.holds.type)))
    notes.push('No example has 32 bits: the order of its two words is taken from the panel.')
  return notes
}
