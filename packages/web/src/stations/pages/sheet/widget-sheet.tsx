import { ActionIcon, Button, Group, Kbd, Table } from '@mantine/core'
import { X } from 'lucide-react'
import { useEffect, useState, type ClipboardEvent, type KeyboardEvent } from 'react'
import type { WidgetId } from '@moth-lamp/core/base'
import type { Page, Project, Widget } from '@moth-lamp/core/project'
import { TableRows } from '../../../parts/table-rows.tsx'
import type { Session } from '../../../session/session.ts'
import { useStore } from '../../../session/store.ts'
import { useSession } from '../../../shell/context.tsx'
import { blockOf, columnsOf, firstColumns, written, type Column } from './columns.ts'
import { ColumnChoice } from './column-choice.tsx'
import { SheetCell } from './sheet-cell.tsx'
import styles from './sheet.module.css'

/** Which columns are shown, by key; null: those that come first. */
const chosen = new WeakMap<Session, string[]>()

interface Place {
  row: number
  column: number
}

/** The widgets of a page, or those that are selected, as a table of chosen settings: typed into, filled down, pasted into. */
export function WidgetSheet({ project, page, onClose }: { project: Project; page: Page; onClose(): void }) {
  const session = useSession()
  const picked = useStore(session.view, (v) => v.widgets)
  // Rows stay what and where they were when it opened: neither selecting in it nor what is written may move them away.
  const [only] = useState(() => (picked.length > 1 ? [...picked] : null))
  const [order] = useState(() => inReadingOrder(project, page).filter((id) => !only || only.includes(id)))
  const later = only ? [] : page.widgets.filter((id) => !order.includes(id))
  const widgets = [...order, ...later].flatMap((id) => (project.widgets[id]?.page === page.id ? [project.widgets[id]] : []))
  const [keys, setKeys] = useState(() => chosen.get(session) ?? firstColumns(widgets))
  const [scroller, setScroller] = useState<HTMLDivElement | null>(null)
  const [at, setAt] = useState<Place>({ row: 0, column: 0 })
  const [end, setEnd] = useState<number | null>(null)
  const [typing, setTyping] = useState<string | null>(null)
  useEffect(() => scroller?.focus({ preventScroll: true }), [scroller])
  const all = columnsOf(widgets)
  const columns = all.filter((c) => keys.includes(c.key))
  const row = Math.min(at.row, widgets.length - 1)
  const column = Math.min(at.column, columns.length - 1)
  const last = Math.max(row, Math.min(end ?? row, widgets.length - 1))
  const textAt = (r: number) => columns[column]!.read(project, widgets[r]!) ?? ''
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
  const fillDown = () =>
    last > row &&
    write(
      Array.from({ length: last - row }, () => [textAt(row)]),
      { row: row + 1, column },
    )
  const onKey = (e: KeyboardEvent) => {
    if (typing !== null || !widgets.length) return
    const way = ways[e.key]
    const control = e.ctrlKey || e.metaKey
    if (way) go({ row: (e.shiftKey ? last : row) + way[0], column: column + way[1] }, e.shiftKey && way[1] === 0)
    else if (e.key === 'Tab') go({ row, column: column + (e.shiftKey ? -1 : 1) })
    else if (e.key === 'Enter' || e.key === 'F2') setTyping(textAt(row))
    else if (e.key === 'Escape') onClose()
    else if (control && e.key.toLowerCase() === 'd') fillDown()
    else if (e.key === 'Delete' || e.key === 'Backspace') write(Array.from({ length: last - row + 1 }, () => ['']))
    else if (!control && !e.altKey && e.key.length === 1) setTyping(e.key)
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  const clip = (e: ClipboardEvent) => {
    if (typing !== null || !widgets.length) return
    e.preventDefault()
    e.stopPropagation()
    if (e.type === 'copy')
      e.clipboardData.setData(
        'text/plain',
        widgets
          .slice(row, last + 1)
          .map((_, i) => textAt(row + i))
          .join('\n'),
      )
    else write(blockOf(e.clipboardData.getData('text/plain')))
  }
  return (
    <section className={styles.sheet} aria-label="Table of widgets">
      <Group gap={8} px={12} py={8}>
        <h2 className="grow">{only ? `${widgets.length} selected` : `${widgets.length} widgets of ${page.name}`}, as a table</h2>
        <Button disabled={last === row} onClick={fillDown}>
          Fill down <Kbd size="xs">Ctrl D</Kbd>
        </Button>
        <ColumnChoice
          all={all}
          keys={keys}
          onChange={(next) => {
            chosen.set(session, next)
            setKeys(next)
          }}
        />
        <ActionIcon aria-label="Close the table" title="back to the glass (Esc)" onClick={onClose}>
          <X size={15} />
        </ActionIcon>
      </Group>
      <div
        ref={setScroller}
        className={styles.scroller}
        tabIndex={0}
        role="grid"
        aria-label="Widgets by settings: arrows walk, typing writes, Ctrl D fills down, Ctrl V pastes"
        aria-rowcount={widgets.length}
        data-station-home
        onKeyDown={onKey}
        onCopy={clip}
        onPaste={clip}
      >
        <Table stickyHeader className={styles.table} role="presentation">
          <Table.Thead role="rowgroup">
            <Table.Tr role="row">
              {columns.map((c) => (
                <Table.Th key={c.key} role="columnheader">
                  {c.label}
                </Table.Th>
              ))}
            </Table.Tr>
          </Table.Thead>
          <TableRows
            items={widgets.map((widget, index) => ({ widget, index }))}
            columns={columns.length}
            height={27}
            scroller={scroller}
            row={({ widget, index }) => (
              <Table.Tr key={widget.id} role="row" aria-rowindex={index + 1} data-row={index}>
                {columns.map((c, k) => (
                  <SheetCell
                    key={c.key}
                    text={c.read(project, widget)}
                    label={`${c.label} of ${widget.name}`}
                    isColour={/^#[0-9a-f]{6}$/i.test(c.read(project, widget) ?? '')}
                    here={k === column && index === row}
                    within={k === column && index >= row && index <= last}
                    typing={k === column && index === row ? typing : null}
                    onPick={(extend) => (go({ row: index, column: k }, extend), scroller?.focus({ preventScroll: true }))}
                    onType={() => setTyping(c.read(project, widget) ?? '')}
                    onDone={(text, move) => {
                      setTyping(null)
                      if (text !== null && !write([[text]])) return
                      if (move) go({ row: row + move, column })
                      scroller?.focus({ preventScroll: true })
                    }}
                  />
                ))}
              </Table.Tr>
            )}
          />
        </Table>
      </div>
      <p className={`small muted ${styles.foot}`}>
        Arrows walk · typing writes, Enter takes it and goes down · Shift with the arrows takes more, Ctrl D fills them · Ctrl C,
        Ctrl V also from and to a spreadsheet
      </p>
    </section>
  )
}

const inReadingOrder = ({ widgets }: Project, page: Page): WidgetId[] =>
  [...page.widgets].sort((a, b) => widgets[a]!.place.y - widgets[b]!.place.y || widgets[a]!.place.x - widgets[b]!.place.x)

const ways: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
}

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
    const others = count > 1 ? ` So are ${count - 1} other cells.` : ''
    session.say(`Nothing was written: ${column} of “${widgets[row]!.name}” cannot be, ${why}.${others}`, 'bad')
    return false
  }
  if (!found.ok) return false
  const { each, cells, rowsLeft, columnsLeft } = found.value
  const ids = Object.keys(each) as WidgetId[]
  if (ids.length && !session.edit('set each widget', { each })) return false
  const left = [
    ...(rowsLeft ? [`${rowsLeft} rows for which there is no widget`] : []),
    ...(columnsLeft ? [`${columnsLeft} columns for which there is none here`] : []),
  ]
  if (left.length) session.say(`${cells} cells were written; left away: ${left.join(', ')}.`, 'info', ids.length > 0)
  else if (cells > 1) session.say(`${cells} cells were written.`, 'info', true)
  return true
}
