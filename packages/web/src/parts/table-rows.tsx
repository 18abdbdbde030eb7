import { Table } from '@mantine/core'
import { useVirtualizer } from '@tanstack/react-virtual'
import type { ReactNode } from 'react'

interface Props<T> {
  items: readonly T[]
  /** Columns of the table: what the empty rows above and below span. */
  columns: number
  /** Height of a row, px. */
  height: number
  /** The scrolling element, once it is there: keep it as state, set by its ref. */
  scroller: HTMLElement | null
  row(item: T): ReactNode
}

/** The rows of a table that can be seen, with room for the others above and below: thousands cost what a screenful does. */
export function TableRows<T>({ items, columns, height, scroller, row }: Props<T>) {
  // eslint-disable-next-line react-hooks/incompatible-library -- nothing here is memoised by a compiler
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroller,
    estimateSize: () => height,
    overscan: 4,
  })
  const seen = virtual.getVirtualItems()
  const above = seen[0]?.start ?? 0
  const below = virtual.getTotalSize() - (seen.at(-1)?.end ?? 0)
  const room = (size: number) =>
    size > 0 && (
      <Table.Tr aria-hidden>
        <Table.Td colSpan={columns} h={size} p={0} bd="none" />
      </Table.Tr>
    )
  return (
    <Table.Tbody>
      {room(above)}
      {seen.map(({ index }) => row(items[index]!))}
      {room(below)}
    </Table.Tbody>
  )
}
