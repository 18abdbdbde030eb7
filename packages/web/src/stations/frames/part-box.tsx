import { Button, Menu, UnstyledButton } from '@mantine/core'
import type { DragEvent, KeyboardEvent, ReactNode } from 'react'
import type { FormField, Values } from '@moth-lamp/core/describe'
import { Items, Pop } from '../../controls/pop.tsx'
import { SettingRow } from '../../inspector/setting-fields.tsx'
import { tintOf } from '../../parts/frame.tsx'
import styles from './frames.module.css'

interface BoxProps<P> {
  part: P
  label: string
  made: string
  tint: string
  /** Columns of the grid that it stands in; '' in a row. */
  columns?: string
  fields: readonly FormField[]
  /** The list in which it is moved, and its place there. */
  list: string
  index: number
  count: number
  /** Where it is used, in words. */
  scope: string
  children?: ReactNode
  onChange(part: P | null): void
  onMove(from: number, to: number): void
}

/** One part of a frame: its bytes, its settings behind a click, moved among its neighbours by a drag or Alt with an arrow. */
export function PartBox<P extends object>(props: BoxProps<P>) {
  const { part, label, made, tint, columns = '', fields, list, index, count, scope, children, onChange, onMove } = props
  const type = `text/moth-lamp-part-${list.replaceAll(' ', '-')}`
  const drop = (e: DragEvent) => {
    const from = e.dataTransfer.getData(type)
    if (from !== '') onMove(Number(from), index)
  }
  const onKey = (e: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key]
    if (!e.altKey || !by) return
    e.preventDefault()
    onMove(index, index + by)
    // A box that has changed places keeps the focus, so that it can go on.
    const box = e.currentTarget as HTMLElement
    requestAnimationFrame(() => box.focus())
  }
  return (
    <Pop
      position="bottom"
      width={280}
      target={
        <UnstyledButton
          className={styles.part}
          data-tint={tintOf(tint)}
          style={columns ? { gridColumn: columns } : undefined}
          title={`Used in: ${scope}`}
          draggable
          onDragStart={(e) => e.dataTransfer.setData(type, String(index))}
          onDragOver={(e) => e.dataTransfer.types.includes(type) && e.preventDefault()}
          onDrop={drop}
          onKeyDown={onKey}
        >
          <strong>{label}</strong>
          <span className={styles.made}>{made}</span>
          {children}
        </UnstyledButton>
      }
    >
      <div className="stack">
        <div>
          <strong>{label}</strong>
          {fields.map((field) => (
            <SettingRow
              key={field.key}
              setting={field}
              value={(part as Values)[field.key]}
              mixed={false}
              nameHint=""
              siblings={part as Values}
              onChange={(value) => onChange({ ...part, [field.key]: value })}
            />
          ))}
        </div>
        <span className="row">
          {/* Not disabled at the ends: a button that is would lose the focus, and the keys with it. */}
          <Button size="compact-xs" {...atEnd(index === 0)} onClick={() => onMove(index, index - 1)}>
            Move left
          </Button>
          <Button size="compact-xs" {...atEnd(index === count - 1)} onClick={() => onMove(index, index + 1)}>
            Move right
          </Button>
          <Button size="compact-xs" className="end" onClick={() => onChange(null)}>
            Remove
          </Button>
        </span>
        <span className="small muted">Used in: {scope}</span>
      </div>
    </Pop>
  )
}

/** A button that does nothing at an end of the list, and keeps the focus. */
const atEnd = (is: boolean) => (is ? { 'aria-disabled': true, 'data-disabled': true } : {})

/** A button with the kinds of part that can be added. */
export function AddPart({
  where,
  kinds,
  onAdd,
}: {
  where: string
  kinds: readonly { part: string; label: string }[]
  onAdd(kind: string): void
}) {
  return (
    <Menu position="bottom-start">
      <Menu.Target>
        <Button size="compact-xs" aria-label={`Add ${where}`}>
          + {where}
        </Button>
      </Menu.Target>
      <Items>
        {kinds.map(({ part, label }) => (
          <Menu.Item key={part} onClick={() => onAdd(part)}>
            {label}
          </Menu.Item>
        ))}
      </Items>
    </Menu>
  )
}

/** A list with one of it moved to another place; unchanged where there is no such place. */
export function moved<T>(list: readonly T[], from: number, to: number): readonly T[] {
  const one = list[from]
  return one === undefined || to < 0 || to >= list.length ? list : list.toSpliced(from, 1).toSpliced(to, 0, one)
}

/** A list with one of it replaced, or without it. */
export const replaced = <T,>(list: readonly T[], at: number, by: T | null): T[] =>
  list.flatMap((one, k) => (k === at ? (by === null ? [] : [by]) : [one]))
