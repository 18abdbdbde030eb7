import { ActionIcon, Button, Group, Kbd, Table } from '@mantine/core'
import { X } from 'lucide-react'
import type { Page, Project, Widget } from '@moth-lamp/core/project'
import { TableRows } from '../../../parts/table-rows.tsx'
import { ColumnChoice } from './column-choice.tsx'
import { SheetCell } from './sheet-cell.tsx'
import { useSheet, type Sheet } from './use-sheet.ts'
import styles from './sheet.module.css'

/** The widgets of a page, or those that are selected, as a table of chosen settings: typed into, filled down, pasted into. */
export function WidgetSheet({ project, page, onClose }: { project: Project; page: Page; onClose(): void }) {
  const sheet = useSheet(project, page, onClose)
  const { widgets, ofSelection, all, keys, last, row } = sheet
  return (
    <section className={styles.sheet} aria-label="Table of widgets">
      <Group gap={8} px={12} py={8}>
        <h2 className="grow">
          {ofSelection ? `${widgets.length} selected` : `${widgets.length} widgets of ${page.name}`}, as a table
        </h2>
        <Button disabled={last === row} onClick={sheet.fillDown}>
          Fill down <Kbd size="xs">Ctrl D</Kbd>
        </Button>
        <ColumnChoice all={all} keys={keys} onChange={sheet.choose} />
        <ActionIcon aria-label="Close the table" title="Close (Esc)" onClick={onClose}>
          <X size={15} />
        </ActionIcon>
      </Group>
      <Grid project={project} sheet={sheet} />
      <p className={`small muted ${styles.foot}`}>
        Type to edit, Enter: next row · Shift+arrows extend, Ctrl+D fill down · copy and paste work with spreadsheets
      </p>
    </section>
  )
}

function Grid({ project, sheet }: { project: Project; sheet: Sheet }) {
  const { widgets, columns, scroller, setScroller, onKey, onClip } = sheet
  return (
    <div
      ref={setScroller}
      className={styles.scroller}
      tabIndex={0}
      role="grid"
      aria-label="Widgets by settings: arrows select, typing edits, Ctrl D fills down, Ctrl V pastes"
      aria-rowcount={widgets.length}
      data-station-home
      onKeyDown={onKey}
      onCopy={onClip}
      onPaste={onClip}
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
          row={({ widget, index }) => <WidgetRow key={widget.id} project={project} sheet={sheet} widget={widget} index={index} />}
        />
      </Table>
    </div>
  )
}

interface RowProps {
  project: Project
  sheet: Sheet
  widget: Widget
  index: number
}

function WidgetRow({ project, sheet, widget, index }: RowProps) {
  const { columns, row, column, last, typing } = sheet
  return (
    <Table.Tr role="row" aria-rowindex={index + 1} data-row={index}>
      {columns.map((c, k) => {
        const text = c.read(project, widget)
        const here = k === column && index === row
        return (
          <SheetCell
            key={c.key}
            text={text}
            label={`${c.label} of ${widget.name}`}
            isColour={/^#[0-9a-f]{6}$/i.test(text ?? '')}
            here={here}
            within={k === column && index >= row && index <= last}
            typing={here ? typing : null}
            onPick={(extend) => (sheet.go({ row: index, column: k }, extend), sheet.home())}
            onType={() => sheet.setTyping(text ?? '')}
            onDone={sheet.done}
          />
        )
      })}
    </Table.Tr>
  )
}
