import { placesOf, type Direction, type PlacedBytes } from '../frames/index.ts'
import type { Entry } from '../rig/index.ts'
import { encodeContent, parseValues, readContent, valuesInWords } from '../protocols/index.ts'
import type { CompiledStepOf, StepKind } from '../scripts/index.ts'
import { bytesOfCell, encodeValue, formatValue, type Cell, type Value } from '../variables/index.ts'
import { fail, withValue, type Outcome, type Slices, type Watch } from './watch.ts'

// How the steps that expect something look for it.

type Of<K extends StepKind> = CompiledStepOf<K>['settings']

const close = (a: Value | null, b: Value, tolerance: number): boolean =>
  typeof a === 'number' && typeof b === 'number' ? Math.abs(a - b) <= tolerance + 1e-9 : a === b

/** The bytes of a variable in one of several places; null: it is in none. */
function bytesAmong(cell: Cell, places: readonly PlacedBytes[]): readonly number[] | null {
  for (const { address, payload } of places) {
    const bytes = bytesOfCell(cell, address, payload)
    if (bytes) return bytes
  }
  return null
}

function* expectReport(w: Watch, s: Of<'expect report'>, cell: Cell, value: Value): Slices<Outcome> {
  const words = encodeValue(cell.holds, value, cell.order)
  const payload = words.ok ? w.payloadOf(words.value) : []
  // It may be one of several that travel in one frame.
  const bytesIn = ({ message }: Entry) => (message!.operation === 'report' ? bytesAmong(cell, placesOf(message!)) : null)
  const isReport = (entry: Entry) => bytesIn(entry) !== null
  const valueIn = (entry: Entry) => w.valueOf(cell, bytesIn(entry) ?? [])
  const attempt = s.attempt
  const isIt = (e: Entry) => isReport(e) && close(valueIn(e), value, s.tolerance) && (attempt === 0 || e.attempt === attempt)
  const found = w.alsoIn(cell, isReport, isIt) ?? (yield* w.nextSpoken(s.withinMs, isIt))
  if (found?.fits) w.asked(cell, found.entry)
  const expected = formatValue(cell.holds, value) + (attempt ? `, try ${attempt}` : '')
  const frame = (sequence: number) => w.frame('to host', { operation: 'report', sequence, address: cell.address, payload })
  if (!found) return { ...fail('nothing-came', { ms: s.withinMs }), expected, expectedBytes: frame(1) }
  const { entry, fits } = found
  const sameValue = isReport(entry) && close(valueIn(entry), value, s.tolerance)
  const came = isReport(entry) ? formatValue(cell.holds, valueIn(entry) ?? '') + (attempt ? `, try ${entry.attempt}` : '') : ''
  const seen = { expected, came, expectedBytes: frame(entry.message!.sequence), cameBytes: entry.bytes, entry: entry.id }
  return fits ? seen : { ...fail(isReport(entry) ? (sameValue ? 'other-try' : 'other-value') : 'something-else', {}), ...seen }
}

function* expectEvent(w: Watch, s: Of<'expect event'>): Slices<Outcome> {
  const widget = s.widget!
  const isIt = ({ message }: Entry) => message!.operation === 'event' && message!.address === widget && message!.what === s.what
  const found = yield* w.nextSpoken(s.withinMs, isIt)
  const frame = (sequence: number) => w.frame('to host', { operation: 'event', sequence, address: widget, what: s.what })
  const expected = s.what
  if (!found) return { ...fail('nothing-came', { ms: s.withinMs }), expected, expectedBytes: frame(1) }
  const seen = {
    expected,
    expectedBytes: frame(found.entry.message!.sequence),
    cameBytes: found.entry.bytes,
    entry: found.entry.id,
  }
  return found.fits ? seen : { ...fail('something-else', {}), ...seen }
}

function* expectCommand(w: Watch, s: Of<'expect command'>): Slices<Outcome> {
  const command = w.command(s.command!)
  if (!command) return fail('command.gone', {})
  const wanted = parseValues(command, s.values)
  if (!wanted.ok) return fail('value', { value: s.values, why: wanted.problem.code })
  const direction: Direction = s.from === 'host' ? 'to panel' : 'to host'
  const isCommand = ({ message }: Entry) => message?.operation === 'message' && message.address === command.number
  const valuesIn = ({ message }: Entry) =>
    message?.operation === 'message' && message.address === command.number ? readContent(command, message.payload) : null
  const isIt = (entry: Entry) =>
    isCommand(entry) && wanted.value.every((value, k) => value === null || close(valuesIn(entry)?.[k] ?? null, value, 0))
  const found = s.from === 'panel' ? yield* w.nextSpoken(s.withinMs, isIt) : yield* nextFromHost(w, s.withinMs, isIt, isCommand)
  const expected = command.name + (s.values ? ` (${s.values})` : '')
  const content = encodeContent(command, wanted.value)
  const frame = (sequence: number) =>
    content.ok ? w.frame(direction, { operation: 'message', sequence, address: command.number, payload: content.value }) : null
  if (!found) return { ...fail('nothing-came', { ms: s.withinMs }), expected, expectedBytes: frame(1), direction }
  const { entry, fits } = found
  const values = valuesIn(entry)
  const seen = {
    expected,
    came: values ? valuesInWords(command, values) : '',
    expectedBytes: frame(entry.message!.sequence),
    cameBytes: entry.bytes,
    entry: entry.id,
    direction,
  }
  return fits ? seen : { ...fail(isCommand(entry) ? 'other-value' : 'something-else', {}), ...seen }
}

/** The first command of the host that fits; else the last of that name, with other values. */
function* nextFromHost(
  w: Watch,
  withinMs: number,
  isIt: (entry: Entry) => boolean,
  isCommand: (entry: Entry) => boolean,
): Slices<{ entry: Entry; fits: boolean } | null> {
  let other: Entry | null = null
  const isFrame = (e: Entry) => e.direction === 'to panel' && e.kind === 'frame' && isCommand(e)
  const next = w.after(w.commandCursor, isFrame)
  const found = yield* w.await(withinMs, () => {
    for (let entry = next(); entry; entry = next()) {
      if (isIt(entry)) return entry
      other = entry
    }
    return null
  })
  const entry = found ?? (other as Entry | null)
  if (entry) w.commandCursor = entry.id
  return entry && { entry, fits: found !== null }
}

function* expectAnswer(w: Watch, s: Of<'expect answer'>): Slices<Outcome> {
  const direction: Direction = s.from === 'host' ? 'to panel' : 'to host'
  const isAnswer = (e: Entry) =>
    e.direction === direction && e.kind === 'frame' && ['done', 'refused', 'value'].includes(e.message!.operation)
  const found = yield* w.await(s.withinMs, w.after(w.answerCursor[direction], isAnswer))
  const expected = s.answer + (s.answer === 'refused' && s.reason !== 'any' ? `: ${s.reason}` : '')
  if (!found) return { ...fail('no-answer', { ms: s.withinMs }), expected, direction }
  w.answerCursor[direction] = found.id
  const message = found.message!
  const came = message.operation + (message.operation === 'refused' ? `: ${message.reason}` : '')
  const fits =
    message.operation === s.answer && (message.operation !== 'refused' || s.reason === 'any' || message.reason === s.reason)
  const seen = { expected, came, cameBytes: found.bytes, entry: found.id, direction }
  return fits ? seen : { ...fail('other-answer', {}), ...seen }
}

function* expectShown(w: Watch, s: Of<'expect shown'>): Slices<Outcome> {
  const widget = s.widget!
  const expected = s.text
  // A blank before a degree sign is no difference.
  const plain = (text: string | null) => text?.replaceAll(/\s+(?=°)/g, '')
  const { panel } = w.rig
  const seen = () => {
    const on = panel.build.symbols.pages.find((p) => p.widgets.some((w) => w.number === widget))?.number
    return on === panel.pageNumber ? w.rig.panel.shows(widget) : null
  }
  const found = yield* w.await(s.withinMs, () => (plain(seen()) === plain(expected) ? true : null))
  if (found) return { expected, came: expected }
  const came = seen()
  return { ...fail(came === null ? 'touch.not on this page' : 'other-shown', {}), expected, came: came ?? '' }
}

function* expectPage(w: Watch, s: Of<'expect page'>): Slices<Outcome> {
  const page = s.page
  const nameOf = (number: number | null) => w.nameOfPage(number)
  const found = yield* w.await(s.withinMs, () => (w.rig.panel.pageNumber === page ? true : null))
  const seen = { expected: nameOf(page), came: nameOf(w.rig.panel.pageNumber) }
  return found ? seen : { ...fail('other-page', {}), ...seen }
}

function* expectMemory(w: Watch, s: Of<'expect memory'>, cell: Cell, value: Value): Slices<Outcome> {
  const tolerance = s.tolerance
  const read = () => w.rig.panel.memory.read(cell).value
  const found = yield* w.await(s.withinMs, () => (close(read(), value, tolerance) ? true : null))
  const expected = formatValue(cell.holds, value) + (tolerance ? ` ± ${tolerance}` : '')
  const came = formatValue(cell.holds, read())
  if (found) return { expected, came }
  const last = [...w.rig.conversation.all()]
    .reverse()
    .find((e) => e.direction === 'to panel' && e.message?.operation === 'write' && e.message.address === cell.address)
  const words = encodeValue(cell.holds, value, cell.order)
  const bytes =
    last && words.ok
      ? w.frame('to panel', {
          operation: 'write',
          sequence: last.message!.sequence,
          address: cell.address,
          payload: w.payloadOf(words.value),
        })
      : null
  return {
    ...fail('other-memory', { lastWriteUs: last?.toUs ?? null }),
    expected,
    came,
    expectedBytes: bytes,
    cameBytes: last?.bytes ?? null,
    entry: last?.id ?? null,
    direction: 'to panel',
  }
}

function* expectNothing(w: Watch, ms: number): Slices<Outcome> {
  const found = yield* w.await(ms, w.spoken())
  return found ? { ...fail('something-came', {}), cameBytes: found.bytes, entry: found.id } : null
}

/** By the kind of step. */
export const expecting = {
  'expect report': (w: Watch, s: Of<'expect report'>) => withValue(s, (cell, value) => expectReport(w, s, cell, value)),
  'expect event': expectEvent,
  'expect command': expectCommand,
  'expect answer': expectAnswer,
  'expect shown': expectShown,
  'expect page': expectPage,
  'expect memory': (w: Watch, s: Of<'expect memory'>) => withValue(s, (cell, value) => expectMemory(w, s, cell, value)),
  'expect nothing': (w: Watch, { ms }: Of<'expect nothing'>) => expectNothing(w, ms),
}
