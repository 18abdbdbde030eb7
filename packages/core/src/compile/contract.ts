import { canonicalJson, checksumOf, sameJson } from '../base/index.ts'
import { isCompiledFollow, type Values } from '../describe/index.ts'
import { framingKind, linkSettings, partKind, waysOf, type Part, type Way } from '../frames/index.ts'
import { conductSettings, pageSettings, type BuildCell } from '../project/index.ts'
import type { Book, BuildCommand } from '../protocols/index.ts'
import type { CompiledRule } from '../rules/index.ts'
import type { Cell, Holds, NumberHolds } from '../variables/index.ts'
import { widgetKind } from '../widgets/index.ts'
import type { BuildHeader, BuildPage, BuildWidget } from './build.ts'

/** A setting as a description lists it: as much as is asked here. */
interface Field {
  key: string
  group: string
  type: { name: string }
  default: unknown
}

/** Types of settings that only an eye can tell, and groups of them. */
const seenTypes: ReadonlySet<string> = new Set(['face', 'colour', 'font', 'picture', 'text', 'icon'])
const seenGroups: ReadonlySet<string> = new Set(['Looks', 'Formats', 'Tracing image'])

/** Bytes of a JSON text for a checksum; letters beyond Latin-1 keep both their bytes. */
export function bytesOfText(text: string): Uint8Array {
  const out = new Uint8Array(text.length * 2)
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i)
    out[2 * i] = code & 0xff
    out[2 * i + 1] = code >> 8
  }
  return out
}

const crc = (value: unknown): number => checksumOf('crc-32', bytesOfText(canonicalJson(value)))

/** A stamp of 32 bits as the 16 of the version word, never 0. */
export const folded = (stamp: number): number => (stamp >>> 16) ^ (stamp & 0xffff) || 1

const isCell = (value: unknown): value is Cell =>
  typeof value === 'object' && value !== null && 'holds' in value && 'travels' in value

/** A compiled value with the place of each variable instead of all that is known of it. */
function placesOf(value: unknown): unknown {
  if (isCompiledFollow<Cell>(value)) return { follow: placesOf(value.follow) }
  if (isCell(value)) return `${value.address}/${value.words}`
  if (Array.isArray(value)) return value.map(placesOf)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([key, inside]) => [key, placesOf(inside)]))
}

/** The values of a record that a host can tell and that are not what they are by default: one that is added later changes nothing. */
function told(fields: readonly Field[], values: Values): Values {
  const out: Values = {}
  for (const { key, group, type, default: plain } of fields) {
    const value = values[key]
    const isPlain = sameJson(value, plain) || (value === null && plain === '')
    if (value === undefined || isPlain || seenTypes.has(type.name) || seenGroups.has(group)) continue
    out[key] = type.name.endsWith('rules') ? rulesTold(value as readonly CompiledRule[]) : placesOf(value)
  }
  return out
}

const rulesTold = (rules: readonly CompiledRule[]): unknown => rules.filter(({ lines }) => lines.length).map(placesOf)

/** A value as a host can tell it: how its words are read, whatever they are called and however many digits are shown. */
function holdsTold(holds: Holds): unknown {
  if (holds.type === 'choice') return { type: holds.type, values: holds.choices.map(({ value }) => value) }
  if (holds.type === 'text') return { type: holds.type, bytes: holds.bytes, encoding: holds.encoding }
  if (holds.type === 'flags' || holds.type === 'colour' || holds.type === 'time') return { type: holds.type }
  const { type, factor, offset, min, max, none } = holds as NumberHolds
  return { type, factor, offset, min, max, ...(none ? { none: none.raw } : {}) }
}

const cellTold = ({ cell, initial }: BuildCell): unknown => [
  cell.address,
  holdsTold(cell.holds),
  cell.order,
  cell.travels,
  initial.some((word) => word !== 0) ? initial : 0,
]

/** Whether anything that a widget does reaches further than an eye: it is touched, or changes something by itself. */
function isTold(widget: BuildWidget): boolean {
  const kind = widgetKind(widget.kind)
  return (
    kind !== undefined &&
    (kind.touchable || kind.settings.list.some(({ type }) => type.name === 'page' || type.name.endsWith('rules')))
  )
}

/**
 * The stamp of what a host can tell of a build by its behaviour and its bytes: link, layout, memory, the places and types of
 * values, numbers, what touches and time bring. Names, looks and places on the glass are left out, and whatever is as it is by
 * default, so that a setting that is added later changes the stamp of no project. Parts that stay the same are written once.
 */
export class ContractStamp {
  private known = new WeakMap<object, number>()

  of(header: Pick<BuildHeader, 'link' | 'layout' | 'memory' | 'pages' | 'cells' | 'conduct' | 'startPage'>, book: Book): number {
    const { link, layout, memory, pages, cells, conduct, startPage } = header
    const { name: _, ...ways } = layout
    return crc([
      told(linkSettings.list as readonly Field[], link as unknown as Values),
      this.once(ways.toPanel, () => wayTold(ways.toPanel)),
      ways.toHost === 'same' ? 0 : this.once(ways.toHost, () => wayTold(ways.toHost as Way)),
      { from: memory.from, to: memory.to, ownFrom: memory.ownFrom, order: memory.order },
      startPage,
      told(conductSettings.list as readonly Field[], conduct),
      conduct.darkest,
      pages.map((page) => this.once(page, () => this.pageTold(page))),
      this.once(cells, () => cells.map(cellTold)),
      ...(waysOf(layout).some(({ way }) => way.kind === 'lines') ? [this.once(book, () => namesTold(book))] : []),
      ...(book.commands.length ? [this.once(book.commands, () => book.commands.map(commandTold))] : []),
    ])
  }

  private pageTold(page: BuildPage): unknown {
    const { number, kind, sends, showsForMs, then, skips, rules, widgets } = page
    const values = { sends, showsForMs, skips, rules, ...(then === null ? {} : { thenPage: then }) }
    const settings = told(pageSettings.list as readonly Field[], values)
    return [number, kind, settings, widgets.filter(isTold).map((widget) => this.once(widget, () => widgetTold(widget)))]
  }

  private once(part: object, told: () => unknown): number {
    let stamp = this.known.get(part)
    if (stamp === undefined) this.known.set(part, (stamp = crc(told())))
    return stamp
  }
}

const settingsTold = (kind: { settings: { list: readonly unknown[] } } | undefined, values: object): Values =>
  told((kind?.settings.list ?? []) as readonly Field[], values as Values)

const partsTold = (parts: readonly Part[]): unknown => parts.map((part) => [part.part, settingsTold(partKind(part.part), part)])

/** A way as a host can tell it: framing and parts by what is not as it is by default. */
function wayTold(way: Way): unknown {
  if (way.kind === 'lines') return way
  const { framing, head, forms, end, ...others } = way
  return {
    ...others,
    framing: [framing.kind, settingsTold(framingKind(framing.kind), framing)],
    head: partsTold(head),
    forms: forms.map(({ parts, ...form }) => ({ ...form, parts: partsTold(parts) })),
    end: partsTold(end),
  }
}

/** The names of a build, for a layout that puts them on the wire. */
const namesTold = ({ variables, widgets }: Book): unknown => [
  variables.map(({ name, page, wire, cell }) => [wire ?? [name, page ?? ''], cell.address]),
  widgets.map(({ name, page, number }) => [name, page ?? '', number]),
]

/** A command as the other end can tell it: without its name and those of its fields. */
const commandTold = ({ name: _, fields, wireName, ...command }: BuildCommand): unknown =>
  placesOf({
    ...command,
    ...(wireName ? { wireName } : {}),
    fields: fields.map((one) => ({ field: one.field, ...one.with, label: '' })),
  })

const widgetTold = ({ number, kind, settings }: BuildWidget): unknown => [
  number,
  kind,
  told((widgetKind(kind)?.settings.list ?? []) as readonly Field[], settings),
]
