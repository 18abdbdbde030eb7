import { useEffect, useState, type ClipboardEvent, type KeyboardEvent } from 'react'
import type { WidgetId } from '@moth-lamp/core/base'
import type { Page, Project, Widget } from '@moth-lamp/core/project'
import type { Session } from '../../../session/session.ts'
import { useSession } from '../../../session/context.tsx'
import { blockOf, columnsOf, firstColumns, written, type Column } from './columns.ts'

/** Which columns are shown, by key; null: those that come first. */
const chosen = new WeakMap<Session, string[]>()

interface Place {
  row: number
  column: number
}

const ways: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
}

const inReadingOrder = ({ widgets }: Project, page: Page): WidgetId[] =>
  [...page.widgets].sort((a, b) => widgets[a]!.place.y - widgets[b]!.place.y || widgets[a]!.place.x - widgets[b]!.place.x)

/** Rows stay what and where they were when the table opened: neither selecting in it nor what is written may move them away. */
function useRows(project: Project, page: Page): { widgets: Widget[]; ofSelection: boolean } {
  const { view } = useSession()
  const [only] = useState(() => (view.value.widgets.length > 1 ? [...view.value.widgets] : null))
  const [order] = useState(() => inReadingOrder(project, page).filter((id) => !only || only.includes(id)))
  const later = only ? [] : page.widgets.filter((id) => !order.includes(id))
  const widgets = [...order, ...later].flatMap((id) => (project.widgets[id]?.page === page.id ? [project.widgets[id]] : []))
  return { widgets, ofSelection: only !== null }
}

/** State of the table of widgets: its rows and columns, where one is in it, and what keys and clipboard do there. */
export function useSheet(project: Project, page: Page, onClose: () => void) {
  const session = useSession()
  const { widgets, ofSelection } = useRows(project, page)
  const all = columnsOf(widgets)
  const [keys, setKeys] = useState(() => chosen.get(session) ?? firstColumns(widgets))
  const columns = all.filter((c) => keys.includes(c.key))
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null)
  useEffect(() => scroller?.focus({ preventScroll: true }), [scroller])
  const [at, setAt] = useState<Place>({ row: 0, column: 0 })
  const [end, setEnd] = useState<number | null>(null)
  const [typing, setTyping] = useState<string | null>(null)
  const row = Math.max(0, Math.min(at.row, widgets.length - 1))
  const column = Math.max(0, Math.min(at.column, columns.length - 1))
  const last = Math.max(row, Math.min(end ?? row, widgets.length - 1))
  const textAt = (r: number) => columns[column]?.read(project, widgets[r]!) ?? ''
  const home = () => scroller?.focus({ preventScroll: true })

  const go = (to: Place, extend = false) => {
    const next = {
      row: Math.max(0, Math.min(widgets.length - 1, to.row)),
      column: Math.max(0, Math.min(columns.length - 1, to.column)),
    }
    setTyping(null)
    if (extend) return setEnd(next.row)
    setEnd(null)
    setAt(next)
    session.view.set({ widgets: widgets[next.row] ? [widgets[next.row]!.id] : [] })
    const cells = scroller?.querySelectorAll<HTMLElement>(`[data-row="${next.row}"] td`)
    cells?.item(next.column)?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }
  const write = (block: string[][], from: Place = { row, column }) => writeBlock(session, project, widgets, columns, from, block)
  const rowsOf = (text: string, count: number) => Array.from({ length: count }, () => [text])
  const fillDown = () => last > row && write(rowsOf(textAt(row), last - row), { row: row + 1, column })

  /** Action of a key; false where the table has none. */
  const key = (e: KeyboardEvent): boolean => {
    const way = ways[e.key]
    const control = e.ctrlKey || e.metaKey
    if (way) go({ row: (e.shiftKey ? last : row) + way[0], column: column + way[1] }, e.shiftKey && way[1] === 0)
    else if (e.key === 'Tab') go({ row, column: column + (e.shiftKey ? -1 : 1) })
    else if (e.key === 'Enter' || e.key === 'F2') setTyping(textAt(row))
    else if (e.key === 'Escape') onClose()
    else if (control && e.key.toLowerCase() === 'd') fillDown()
    else if (e.key === 'Delete' || e.key === 'Backspace') write(rowsOf('', last - row + 1))
    else if (!control && !e.altKey && e.key.length === 1) setTyping(e.key)
    else return false
    return true
  }
  const isFree = typing === null && widgets.length > 0
  return {
    widgets,
    ofSelection,
    all,
    columns,
    keys,
    row,
    column,
    last,
    typing,
    scroller,
    setScroller,
    setTyping,
    go,
    home,
    fillDown,
    choose: (next: string[]) => {
      chosen.set(session, next)
      setKeys(next)
    },
    /** Commits the draft of the current cell, or null to give up; then moves so many rows on. */
    done: (text: string | null, move: number) => {
      setTyping(null)
      if (text !== null && !write([[text]])) return
      if (move) go({ row: row + move, column })
      home()
    },
    onKey: (e: KeyboardEvent) => {
      if (!isFree || !key(e)) return
      e.preventDefault()
      e.stopPropagation()
    },
    onClip: (e: ClipboardEvent) => {
      if (!isFree) return
      e.preventDefault()
      e.stopPropagation()
      const text = widgets.slice(row, last + 1).map((_, i) => textAt(row + i))
      if (e.type === 'copy') e.clipboardData.setData('text/plain', text.join('\n'))
      else write(blockOf(e.clipboardData.getData('text/plain')))
    },
  }
}

export type Sheet = ReturnType<typeof useSheet>

/** One change, or a word why not. */
function writeBlock(
  session: Session,
  project: Project,
  widgets: readonly Widget[],
  columns: readonly Column[],
  from: Place,
  block: string[][],
): boolean {
  const found = written(project, widgets, columns, from, block)
  if ('refused' in found) {
    const { row, column, why, count } = found.refused
    const others = count > 1 ? ` (and ${count - 1} more)` : ''
    session.say(`Not pasted: ${column} of “${widgets[row]!.name}”: ${why}${others}.`, 'bad')
    return false
  }
  if (!found.ok) return false
  const { each, cells, rowsLeft, columnsLeft } = found.value
  const ids = Object.keys(each) as WidgetId[]
  if (ids.length && !session.edit('set each widget', { each })) return false
  const left = [
    ...(rowsLeft ? [`${rowsLeft} rows without a widget`] : []),
    ...(columnsLeft ? [`${columnsLeft} columns without a setting`] : []),
  ]
  if (left.length) session.say(`${cells} cells changed; skipped: ${left.join(', ')}.`, 'info', ids.length > 0)
  else if (cells > 1) session.say(`${cells} cells changed.`, 'info', true)
  return true
}
