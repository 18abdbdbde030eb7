import { Box, UnstyledButton } from '@mantine/core'
import { memo, useCallback, useEffect, useLayoutEffect, useRef, useState, type KeyboardEvent, type MouseEvent } from 'react'
import { surenessWords, type LogPart } from '@moth-lamp/core/explain'
import { Bytes } from '../../../parts/frame.tsx'
import type { SeenReading } from './use-log.ts'
import styles from './explain.module.css'

interface Props {
  reading: SeenReading
  picked: LogPart | null
  other: LogPart | null
  /** A row to be scrolled to and picked; `n` counts the wishes. */
  wanted: { at: number; n: number } | null
  onSeen(from: number, count: number): void
  /** `isOther`: it is to be compared with the one that is picked. */
  onPick(part: LogPart, isOther: boolean): void
  onNextWrong(from: number): void
}

/** Height of a row of a long log, px: a cause that is longer is cut there, and told in full where the row is picked. */
const rowHeight = 27
/** So few rows are all there, each as high as it needs. */
const mostWrapped = 40
/** Browsers have no higher elements, px. */
const mostHeight = 15_000_000

/** The rows that are seen of a long list whose rows are all of one height: nothing is worked out for the others. */
function useSeenRows(count: number) {
  const scroller = useRef<HTMLDivElement>(null)
  const [seen, setSeen] = useState({ top: 0, height: 400 })
  const look = useCallback(() => {
    const box = scroller.current
    if (box) setSeen({ top: box.scrollTop, height: box.clientHeight })
  }, [])
  useLayoutEffect(() => {
    const box = scroller.current
    if (!box) return
    const observer = new ResizeObserver(look)
    observer.observe(box)
    return () => observer.disconnect()
  }, [look])
  const height = Math.min(mostHeight, count * rowHeight)
  const room = Math.max(6, Math.ceil(seen.height / rowHeight) + 1)
  // Of a log that is higher than any element, the first row that is seen is told by the share that is scrolled.
  const scrollable = Math.max(1, height - seen.height)
  const isExact = height === count * rowHeight
  const last = Math.max(0, count - room + 1)
  const first = isExact ? Math.floor(seen.top / rowHeight) : Math.round(Math.min(1, seen.top / scrollable) * last)
  const scrollTo = (at: number) => {
    const box = scroller.current
    if (!box) return
    const above = isExact ? at * rowHeight : (at / Math.max(1, last)) * scrollable
    const isSeen = isExact
      ? above >= box.scrollTop && above + rowHeight <= box.scrollTop + box.clientHeight
      : at >= first && at < first + room - 1
    if (!isSeen) box.scrollTop = Math.max(0, isExact ? above - box.clientHeight / 2 : above)
  }
  return { scroller, onScroll: look, height, first, room, top: isExact ? first * rowHeight : seen.top, scrollTo }
}

/** Stretches of a log: as many of them are there as are seen, and the worker explains no more. */
export function LogTable({ reading, picked, other, wanted, onSeen, onPick, onNextWrong }: Props) {
  const { passing, from, parts } = reading
  const isWrapped = passing <= mostWrapped
  const { scroller, onScroll, height, first, room, top, scrollTo } = useSeenRows(passing)
  const [begin, end] = isWrapped ? [0, passing] : [first, Math.min(passing, first + room)]
  useEffect(() => onSeen(begin, Math.max(1, end - begin)), [begin, end, onSeen])
  const partAt = (at: number): LogPart | undefined => parts[at - from]
  const placeOf = (part: LogPart | null) => {
    const at = part ? parts.findIndex(({ row }) => row === part.row) : -1
    return at < 0 ? -1 : from + at
  }
  /** A place whose row is picked as soon as it has come. */
  const going = useRef<number | null>(null)
  useEffect(() => {
    if (!wanted) return
    scrollTo(wanted.at)
    going.current = wanted.at
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a wish is granted once
  }, [wanted])
  useEffect(() => {
    const part = going.current === null ? undefined : parts[going.current - from]
    if (!part) return
    going.current = null
    onPick(part, false)
  }, [parts, from, wanted, onPick])
  const onKey = (e: KeyboardEvent) => {
    const at = Math.max(-1, placeOf(e.shiftKey ? (other ?? picked) : picked))
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 12, PageUp: -12 }[e.key]
    if (by) {
      const to = Math.min(Math.max(at + by, 0), passing - 1)
      scrollTo(to)
      const part = partAt(to)
      if (part) onPick(part, e.shiftKey)
      else going.current = to
    } else if (e.key === 'Home' || e.key === 'End') {
      const to = e.key === 'Home' ? 0 : passing - 1
      scrollTo(to)
      going.current = to
      const part = partAt(to)
      if (part) onPick(part, false)
    } else if (e.key.toLowerCase() === 'f' && !e.ctrlKey && !e.metaKey) onNextWrong(at + 1)
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  const rows = Array.from({ length: Math.max(0, end - begin) }, (_, k) => {
    const part = partAt(begin + k)
    const state = part?.row === picked?.row ? 'picked' : part?.row === other?.row ? 'other' : ''
    return part ? (
      <Row key={part.row} part={part} state={state} isWrapped={isWrapped} onPick={onPick} />
    ) : (
      <div key={`blank ${k}`} className={styles.blank} />
    )
  })
  return (
    <div
      ref={scroller}
      className={styles.table}
      role="log"
      aria-label="Decoded frames: arrows select, Shift compares, F finds the next fault"
      aria-live="off"
      tabIndex={0}
      onScroll={onScroll}
      onKeyDown={onKey}
    >
      {isWrapped ? (
        rows
      ) : (
        <Box className={styles.room} h={height}>
          <Box className={styles.seen} top={top}>
            {rows}
          </Box>
        </Box>
      )}
    </div>
  )
}

interface RowProps {
  part: LogPart
  state: string
  isWrapped: boolean
  onPick(part: LogPart, isOther: boolean): void
}

const Row = memo(function Row({ part, state, isWrapped, onPick }: RowProps) {
  const toPanel = part.direction === 'to panel'
  const [cause] = part.causes
  const isOdd = !part.good || cause !== undefined
  return (
    <UnstyledButton
      className={`${styles.reading} ${isWrapped ? '' : styles.oneLine}`}
      data-reading={state}
      tabIndex={-1}
      aria-pressed={state !== ''}
      onClick={(e: MouseEvent) => onPick(part, e.shiftKey || e.ctrlKey)}
    >
      <span className="mono small muted">{part.line}</span>
      <span className={!isOdd ? (toPanel ? 'to-panel' : 'to-host') : 'bad'} title={toPanel ? 'host → panel' : 'panel → host'}>
        {part.good ? (toPanel ? '→' : '←') : '✕'}
      </span>
      <span className={styles.said}>
        <Bytes bytes={part.bytes} most={24} anatomy={part.anatomy} marks={part.marks} isDense={!isWrapped} />{' '}
        <strong className={part.good ? '' : 'bad'}>{part.says}</strong>{' '}
        {cause ? <CauseLine says={cause.says} sure={cause.sure} /> : <span className="small">{part.note}</span>}
      </span>
      <span className="small muted">{part.beside}</span>
    </UnstyledButton>
  )
})

/** A cause with how sure it is. */
export function CauseLine({ says, sure }: Pick<LogPart['causes'][number], 'says' | 'sure'>) {
  return (
    <span className="small">
      {says} <em className={styles.sure}>{surenessWords[sure]}</em>
    </span>
  )
}
