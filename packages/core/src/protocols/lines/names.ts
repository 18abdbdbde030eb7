import { bad } from '../../base/index.ts'
import { payloadOf, type Message, type NameStyle, type Numbered } from '../../frames/index.ts'
import { systemVariables, wordsOf, type Cell } from '../../variables/index.ts'
import type { Book, Entry } from '../protocol.ts'

/** A name on the wire with what it means: a variable by its cell, a widget by its number. */
export interface NamedCell {
  wire: string
  name: string
  cell: Cell
}
export interface NamedWidget {
  wire: string
  name: string
  number: number
}

export interface NamedTwice {
  wire: string
  name: string
  other: string
}

/** The names of a build as a way spells them. */
export interface WireNames {
  cells: ReadonlyMap<string, NamedCell>
  /** By the address of their first word; where several begin there, the longest one comes last. */
  cellsAt: ReadonlyMap<number, readonly NamedCell[]>
  widgets: ReadonlyMap<string, NamedWidget>
  widgetOf: ReadonlyMap<number, NamedWidget>
  commands: ReadonlyMap<string, NamedWidget>
  commandOf: ReadonlyMap<number, NamedWidget>
  /** Names that a variable has which another had before: the name on the wire, and both names in the project. */
  twice: readonly NamedTwice[]
}

/** A name as the template makes it: characters that no name has on the wire become `_`. */
export function wireName({ template, letters }: NameStyle, name: string, page: string): string {
  const plain = (text: string) => text.replaceAll(/[^\x21-\x7e]|["'\\]/g, '_')
  const whole = template.replaceAll('{name}', plain(name)).replaceAll('{page}', plain(page))
  return letters === 'capitals' ? whole.toUpperCase() : letters === 'small' ? whole.toLowerCase() : whole
}

export function wireNames(style: NameStyle, book: Book): WireNames {
  const cells = new Map<string, NamedCell>()
  const cellsAt = new Map<number, NamedCell[]>()
  const twice: NamedTwice[] = []
  const add = (name: string, page: string, cell: Cell, wire = wireName(style, name, page)) => {
    const named = { wire, name, cell }
    const other = cells.get(named.wire)
    if (other) twice.push({ wire, name, other: other.name })
    else cells.set(named.wire, named)
    const there = cellsAt.get(cell.address) ?? []
    there.push(named)
    there.sort((a, b) => a.cell.words - b.cell.words)
    cellsAt.set(cell.address, there)
  }
  const usesPage = style.template.includes('{page}')
  for (const entry of book.variables) add(entry.name, (usesPage && entry.page) || '', entry.cell, entry.wire)
  for (const { name, holds, offset } of systemVariables())
    add(name, 'panel', {
      index: -1,
      address: book.ownFrom + offset,
      words: wordsOf(holds),
      holds,
      order: book.memory,
      travels: 'both',
      stale: null,
    })
  const [widgets, widgetOf] = numberedNames(style, book.widgets)
  const [commands, commandOf] = numberedNames(
    style,
    book.commands.map(({ name, number, wireName: wire }) => ({ name, number, ...(wire ? { wire } : {}) })),
  )
  return { cells, cellsAt, widgets, widgetOf, commands, commandOf, twice }
}

function numberedNames(style: NameStyle, entries: readonly Entry[]): [Map<string, NamedWidget>, Map<number, NamedWidget>] {
  const byName = new Map<string, NamedWidget>()
  const byNumber = new Map<number, NamedWidget>()
  for (const { name, number, page, wire } of entries) {
    const named = { wire: wire ?? wireName(style, name, page ?? ''), name, number }
    if (!byName.has(named.wire)) byName.set(named.wire, named)
    byNumber.set(number, named)
  }
  return [byName, byNumber]
}

/** The name of a widget or a command that is answered; null where it has none of its own. */
export function nameOfNumbered(names: WireNames, to: Numbered, number: number): string | null {
  const [named, all] =
    to === 'event' ? [names.widgetOf.get(number), names.widgets] : [names.commandOf.get(number), names.commands]
  const isOwn = named && all.get(named.wire) === named && !names.cells.has(named.wire)
  return isOwn && (to === 'event' || !names.widgets.has(named.wire)) ? named.wire : null
}

/** The variable that a message is about, by its address and the bytes it carries; null where it has no name of its own. */
export function namedFor(names: WireNames, message: Message): NamedCell | null {
  const there = (names.cellsAt.get(message.address) ?? []).filter((named) => names.cells.get(named.wire) === named)
  const bytes = payloadOf(message)?.length ?? ('words' in message ? message.words * 2 : null)
  if (bytes === null) return there.at(-1) ?? null
  // A text may be shorter than its place.
  return there.find(({ cell }) => cell.words * 2 === bytes) ?? there.find(({ cell }) => cell.holds.type === 'text') ?? null
}

/** The problem of a message whose variable has no name of its own. */
export const noName = (message: Message): ReturnType<typeof bad> =>
  bad('line.no-name', { address: message.address, bytes: payloadOf(message)?.length ?? 0 })

/** The name most like a word: by the fewest letters put in, left out or changed, at most a third of them. Null: none is like it. */
export function nearest(names: Iterable<string>, word: string): string | null {
  let best: { name: string; far: number } | null = null
  for (const name of names) {
    if (Math.abs(name.length - word.length) > 4) continue
    const far = distance(name.toLowerCase(), word.toLowerCase())
    if (far <= Math.max(1, Math.floor(name.length / 3)) && far < (best?.far ?? Infinity)) best = { name, far }
  }
  return best?.name ?? null
}

/** Letters put in, left out or changed between two words (Levenshtein, 1966). */
function distance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, k) => k)
  for (let i = 0; i < a.length; i++) {
    const next = [i + 1]
    for (let k = 0; k < b.length; k++) next.push(Math.min(row[k + 1]! + 1, next[k]! + 1, row[k]! + (a[i] === b[k] ? 0 : 1)))
    row = next
  }
  return row[b.length]!
}
