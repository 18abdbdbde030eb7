import { bad, good, sentence, type PageId, type Problem, type Result, type VariableId, type WidgetId } from '@moth-lamp/core/base'
import { choiceText, doesFollow, type FormField } from '@moth-lamp/core/describe'
import type { Face } from '@moth-lamp/core/faces'
import { fontOf, typefaceOf, type Project, type Widget } from '@moth-lamp/core/project'
import type { StyleId } from '@moth-lamp/core/palette'
import type { FontSetting } from '@moth-lamp/core/settings'
import { systemVariables } from '@moth-lamp/core/variables'
import { widgetKind } from '@moth-lamp/core/widgets'
import { arithmetic } from '../../../controls/arithmetic.ts'
import { colourWords, readColour } from '../../../controls/colours.ts'

/** Change of a widget by a written cell: as the edit `set each widget` takes it. */
export interface Cell {
  name?: string
  place?: Partial<Widget['place']>
  values?: Record<string, unknown>
}

/** A column of the table of widgets. Whatever stands in a cell has one spelling as text: that is typed, copied and pasted. */
export interface Column {
  key: string
  label: string
  /** Text of the cell; null where the widget lacks the setting. */
  read(project: Project, widget: Widget): string | null
  write(project: Project, widget: Widget, text: string): Result<Cell>
}

const sentences: Record<string, string> = {
  'cell.number': '“{text}” is not a number',
  'cell.least': '{text} is below the minimum {least}',
  'cell.most': '{text} is above the maximum {most}',
  'cell.colour': '“{text}” is not a colour name, #rrggbb or RGB565 (4 hex digits)',
  'cell.yes-no': 'enter yes or no instead of “{text}”',
  'cell.word': 'unknown: “{text}”; use {words}',
  'cell.unknown': 'unknown {what} “{text}”',
  'cell.name': 'a name of 1 to 60 characters',
  'cell.none': 'not applicable to a {kind}',
}
export const cellWords = ({ code, facts }: Problem): string => sentence(sentences[code] ?? code, facts)

function numberIn(text: string, whole: boolean, min = -Infinity, max = Infinity): Result<number> {
  const found = arithmetic(text)
  if (found === null) return bad('cell.number', { text })
  const value = whole ? Math.round(found) : found
  if (value < min) return bad('cell.least', { text, least: min })
  return value > max ? bad('cell.most', { text, most: max }) : good(value)
}

const colourIn = (text: string, project: Project, optional: boolean): Result<string> => {
  if (optional && text.trim() === '') return good('')
  const read = readColour(project, text)
  return read === null ? bad('cell.colour', { text }) : good(read)
}

const oneOf = (text: string, words: readonly string[]): Result<string> => {
  const found = words.find((word) => word.toLowerCase() === text.trim().toLowerCase())
  return found === undefined ? bad('cell.word', { text, words: words.join(', ') }) : good(found)
}

/** A stored choice by the text that is displayed for it, or by its stored spelling, as tables from elsewhere may have it. */
function choiceIn(text: string, type: FormField['type']): Result<string> {
  const choices = type.choices ?? []
  const shown = choices.map((stored) => choiceText(type, stored))
  const found = oneOf(text, shown)
  return found.ok ? good(choices[shown.indexOf(found.value)]!) : oneOf(text, choices).ok ? oneOf(text, choices) : found
}

/** The id of what is called so; nothing is called ''. */
function named(what: string, text: string, all: readonly { id: string; name: string }[]): Result<string> {
  if (text.trim() === '') return good('')
  const found = all.find(({ name }) => name === text.trim())
  return found ? good(found.id) : bad('cell.unknown', { what, text })
}

interface Spelling {
  read(value: unknown, project: Project, field: FormField): string
  write(text: string, project: Project, field: FormField): Result<unknown>
}

const numeral = (whole: boolean): Spelling => ({
  read: String,
  write: (text, _, { min, max }) => numberIn(text, whole, min, max),
})

const reference = (what: string, all: (project: Project) => readonly { id: string; name: string }[]): Spelling => ({
  read: (id, project) => all(project).find((one) => one.id === id)?.name ?? '',
  write: (text, project) => named(what, text, all(project)),
})

const variables = (project: Project) => [
  ...project.variableOrder.map((id: VariableId) => project.variables[id]!),
  ...systemVariables(),
]
const pages = (project: Project) => project.pageOrder.map((id: PageId) => project.pages[id]!)
const typefaces = (project: Project) => project.typefaceOrder.map((id) => project.typefaces[id]!)

const spelledColour = (optional: boolean): Spelling => ({
  read: (value, project) => colourWords(project, String(value)),
  write: (text, project) => colourIn(text, project, optional),
})
const maybeColour = spelledColour(true)

/** How the values of a type are spelled in a cell. Types that are not here have no columns. */
const spellings: Record<string, Spelling> = {
  text: { read: String, write: (text) => good(text) },
  number: numeral(false),
  whole: numeral(true),
  colour: spelledColour(false),
  yesNo: {
    read: (value) => (value === true ? 'yes' : 'no'),
    write: (text) => {
      const word = oneOf(text, ['yes', 'no'])
      return word.ok ? good(word.value === 'yes') : bad('cell.yes-no', { text })
    },
  },
  choice: {
    read: (value, _, { type }) => choiceText(type, String(value)),
    write: (text, _, { type }) => choiceIn(text, type),
  },
  variable: reference('variable', variables),
  page: reference('page', pages),
  widget: reference('widget', (project) => Object.values(project.widgets)),
}

/** The parts of a type that is a record, each a column. */
const parts: Record<string, { part: string; label: string; spelling: Spelling; min?: number; max?: number }[]> = {
  face: [
    { part: 'fill', label: 'fill', spelling: maybeColour },
    { part: 'fillTo', label: 'gradient to', spelling: maybeColour },
    { part: 'border', label: 'border', spelling: maybeColour },
    { part: 'borderWidth', label: 'border width', spelling: numeral(true), min: 0, max: 40 },
    { part: 'radius', label: 'radius', spelling: numeral(true), min: 0, max: 400 },
  ] satisfies { part: keyof Face; label: string; spelling: Spelling; min?: number; max?: number }[],
}

const fieldOf = (widget: Widget, key: string): FormField | undefined =>
  widgetKind(widget.kind)?.settings.list.find((field) => field.key === key)

function settingColumn(field: FormField, part?: (typeof parts)[string][number]): Column {
  const path = part ? `${field.key}/${part.part}` : field.key
  const spelling = part?.spelling ?? spellings[field.type.name]!
  const limits = part ? ({ ...field, ...part } as FormField) : field
  return {
    key: path,
    label: part ? `${field.label}: ${part.label}` : field.label,
    read(project, widget) {
      if (fieldOf(widget, field.key)?.type !== field.type) return null
      const whole = widget.settings[field.key]
      if (!part && doesFollow(whole)) return `follows ${spellings['variable']!.read(whole.follows, project, field)}`
      return spelling.read(part ? (whole as Record<string, unknown>)[part.part] : whole, project, field)
    },
    write(project, widget, text) {
      const own = fieldOf(widget, field.key)
      if (own?.type !== field.type) return bad('cell.none', { kind: widget.kind })
      const follows = own.follows && !part ? /^follows (\S+)$/.exec(text.trim()) : null
      if (follows) {
        const id = named('variable', follows[1]!, variables(project))
        return id.ok ? good({ values: { [path]: { follows: id.value } } }) : id
      }
      const value = spelling.write(text, project, part ? limits : own)
      return value.ok ? good({ values: { [path]: value.value } }) : value
    },
  }
}

/** A font is one value in two columns: a type of the project or a typeface, and its size. Either makes it one of its own. */
function fontColumns(field: FormField): Column[] {
  const whole = (widget: Widget): FontSetting | null =>
    fieldOf(widget, field.key)?.type === field.type ? (widget.settings[field.key] as FontSetting) : null
  const column = (
    part: string,
    read: (project: Project, font: FontSetting) => string,
    write: (project: Project, font: FontSetting, text: string) => Result<FontSetting>,
  ): Column => ({
    key: `${field.key}/${part}`,
    label: `${field.label}: ${part}`,
    read(project, widget) {
      const font = whole(widget)
      return font === null ? null : read(project, font)
    },
    write(project, widget, text) {
      const font = whole(widget)
      if (font === null) return bad('cell.none', { kind: widget.kind })
      const value = write(project, font, text)
      return value.ok ? good({ values: { [field.key]: value.value } }) : value
    },
  })
  return [
    column(
      'typeface',
      (project, font) =>
        (typeof font === 'string' ? project.styles[font as StyleId]?.name : typefaceOf(project, font)?.name) ?? '',
      (project, font, text) => {
        const style = Object.values(project.styles).find(({ name }) => name === text.trim())
        if (style) return good(style.id)
        const typeface = named('typeface', text, typefaces(project))
        return typeface.ok ? good({ typeface: typeface.value, size: fontOf(project, font).size }) : typeface
      },
    ),
    column(
      'size',
      (project, font) => String(fontOf(project, font).size),
      (project, font, text) => {
        if (text.trim() === String(fontOf(project, font).size)) return good(font)
        const size = numberIn(text, true, 6, 200)
        return size.ok ? good({ typeface: fontOf(project, font).typeface, size: size.value }) : size
      },
    ),
  ]
}

const side = (key: keyof Widget['place'], label: string): Column => ({
  key: `place/${key}`,
  label,
  read: (_, widget) => String(widget.place[key]),
  write(_, __, text) {
    const isSize = key === 'width' || key === 'height'
    const value = numberIn(text, true, isSize ? 1 : -2048, isSize ? 2048 : 4096)
    return value.ok ? good({ place: { [key]: value.value } }) : value
  },
})

const name: Column = {
  key: 'name',
  label: 'Name',
  read: (_, widget) => widget.name,
  write: (_, __, text) => {
    const words = text.trim()
    return words && words.length <= 60 ? good({ name: words }) : bad('cell.name', {})
  },
}

const sides = [side('x', 'x'), side('y', 'y'), side('width', 'w'), side('height', 'h')]

/** Every column that some of these widgets have something in. */
export function columnsOf(widgets: readonly Widget[]): Column[] {
  const fields = new Map<string, FormField>()
  for (const kind of new Set(widgets.map((w) => w.kind)))
    for (const field of widgetKind(kind)?.settings.list ?? []) if (!fields.has(field.key)) fields.set(field.key, field)
  const settings = [...fields.values()].flatMap((field) => {
    if (field.type.name === 'font') return fontColumns(field)
    const inside = parts[field.type.name]
    if (inside) return inside.map((part) => settingColumn(field, part))
    return Object.hasOwn(spellings, field.type.name) ? [settingColumn(field)] : []
  })
  return [name, ...sides, ...settings]
}

/** The columns one sees first: name, place, and the essential settings. */
export const firstColumns = (widgets: readonly Widget[]): string[] => {
  const essential = new Set(
    widgets.flatMap((w) => (widgetKind(w.kind)?.settings.list ?? []).filter((f) => f.essential).map((f) => f.key)),
  )
  return columnsOf(widgets)
    .filter((c) => c.key === 'name' || c.key.startsWith('place/') || essential.has(c.key) || c.key === 'font/size')
    .map((c) => c.key)
}

/** Fault of a paste: the first of its cells that cannot be taken, and how many there are. */
export interface Refused {
  row: number
  column: string
  why: string
  count: number
}
export interface Written {
  each: Record<WidgetId, Cell>
  cells: number
  /** Rows and columns of what was pasted for which there was no widget, or no column. */
  rowsLeft: number
  columnsLeft: number
}

const merged = (a: Cell, b: Cell): Cell => ({
  ...a,
  ...b,
  ...(a.place || b.place ? { place: { ...a.place, ...b.place } } : {}),
  ...(a.values || b.values ? { values: { ...a.values, ...b.values } } : {}),
})

/** The widget with what cells before have written of a value that more than one column has a part of. */
const withWritten = (widget: Widget, cell: Cell | undefined): Widget =>
  cell?.values ? { ...widget, settings: { ...widget.settings, ...cell.values } } : widget

/** A block of texts written over the table from one of its cells on: all of it, or nothing. */
export function written(
  project: Project,
  widgets: readonly Widget[],
  columns: readonly Column[],
  at: { row: number; column: number },
  block: readonly (readonly string[])[],
): Result<Written> | { ok: false; refused: Refused } {
  const each: Record<WidgetId, Cell> = {}
  let cells = 0
  let refused: Refused | null = null
  const rows = block.slice(0, Math.max(0, widgets.length - at.row))
  const widest = rows.reduce((most, row) => Math.max(most, row.length), 0)
  rows.forEach((texts, r) => {
    const widget = widgets[at.row + r]!
    texts.slice(0, columns.length - at.column).forEach((text, c) => {
      const column = columns[at.column + c]!
      if (column.read(project, widget) === text || (text === '' && column.read(project, widget) === null)) return
      const made = column.write(project, withWritten(widget, each[widget.id]), text)
      if (made.ok) {
        each[widget.id] = merged(each[widget.id] ?? {}, made.value)
        cells++
      } else
        refused = {
          ...(refused ?? { row: at.row + r, column: column.label, why: cellWords(made.problem) }),
          count: (refused?.count ?? 0) + 1,
        }
    })
  })
  if (refused) return { ok: false, refused }
  return good({
    each,
    cells,
    rowsLeft: block.length - rows.length,
    columnsLeft: Math.max(0, widest - (columns.length - at.column)),
  })
}

/** Rows and cells of a text as sheets put it on the clipboard: lines, and tabs between the cells. */
export const blockOf = (text: string): string[][] =>
  text
    .replace(/\r\n?/g, '\n')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t'))
