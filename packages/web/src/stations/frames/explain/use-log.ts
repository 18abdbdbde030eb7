import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { JudgedLog } from '@moth-lamp/core/exchanges'
import type { Exchange } from '@moth-lamp/core/scripts'
import type { Direction } from '@moth-lamp/core/frames'
import type { LogFilter, LogPart } from '@moth-lamp/core/explain'
import type { Project } from '@moth-lamp/core/project'
import type { Session } from '../../../session/session.ts'
import { LogReader } from '../../../worker/log-reader.ts'
import type { LogReading } from '../../../worker/messages.ts'

/** The source of a reading: text in the field, or a log that is too long for a field. */
export type Source = { kind: 'typed'; text: string } | { kind: 'log'; name: string; of: string | Blob; size: number }

const kept = new WeakMap<Session, Source>()
const nothing: Source = { kind: 'typed', text: '' }

/** The source of this window stays while other stations are looked at. */
export function useSource(session: Session): [Source, (source: Source) => void] {
  const [source, setSource] = useState(kept.get(session) ?? nothing)
  return [source, (next) => (kept.set(session, next), setSource(next))]
}

export const noFilter: LogFilter = { direction: null, isWrong: false, text: '' }

/** So many rows are explained beyond those that are seen. */
const around = 30

/** A reading with the rows that are seen. */
export type SeenReading = LogReading & { parts: readonly LogPart[] }

/** Rows that are there already stay the same objects, so that they are not drawn again. */
function merged(before: { reading: SeenReading | null; of: unknown }, next: LogReading, of: unknown): SeenReading {
  const known = before.of === of ? (before.reading?.parts ?? []) : []
  if (!next.parts) return { ...next, parts: known }
  const byRow = new Map(known.map((part) => [part.row, part]))
  const parts = next.parts.map((part) => {
    const same = byRow.get(part.row)
    return same && same.causes.length >= part.causes.length ? same : part
  })
  return { ...next, parts }
}

export interface ReadLog {
  reading: SeenReading | null
  /** The exchange that is looked for, as it was found; null: not yet. */
  judged: JudgedLog | null
  /** The worker has not answered for this source yet. */
  isBusy: boolean
  failed: string
  /** Rows from one on are seen. */
  look(from: number, count: number): void
  nextWrong(from: number): void
  stop(): void
}

/** The reading of a source by a worker: as much of it as is seen; the one before stands until the next has come. */
export function useLog(
  project: Project,
  source: Source,
  as: Direction | null,
  filter: LogFilter,
  exchange: Exchange | null,
  onNextWrong: (at: number | null) => void,
): ReadLog {
  const text = source.kind === 'typed' ? source.text : source.of
  const isEmpty = text === '' || (typeof text === 'string' && !text.trim())
  const [now, setNow] = useState<{ reading: SeenReading | null; of: unknown; failed: string }>({
    reading: null,
    of: null,
    failed: '',
  })
  const [verdict, setVerdict] = useState<{ exchange: string; judged: JudgedLog | null } | null>(null)
  const reader = useRef<LogReader | null>(null)
  const newest = useRef({ text, as, filter, onNextWrong, seen: { from: 0, count: 12 } })
  useEffect(() => void (newest.current = { ...newest.current, text, as, filter, onNextWrong }))
  const { layout, variables, widgets, panel, commands } = project
  // Another object whenever the same bytes may be read otherwise.
  const readBy = useMemo(
    () => [layout.toPanel, layout.toHost, variables, widgets, panel, commands],
    [layout.toPanel, layout.toHost, variables, widgets, panel, commands],
  )
  const view = () => {
    const { seen, filter: own } = newest.current
    return { from: Math.max(0, seen.from - around), count: seen.count + 2 * around, filter: own }
  }
  useEffect(() => {
    const made = new LogReader({
      came: (reading) =>
        setNow((before) => ({
          reading: reading && merged(before, reading, newest.current.text),
          of: newest.current.text,
          failed: '',
        })),
      nextWrong: (at) => newest.current.onNextWrong(at),
      judged: (of, judged) => setVerdict({ exchange: of, judged }),
      failed: (failed) => setNow({ reading: null, of: newest.current.text, failed }),
    })
    reader.current = made
    return () => made.end()
  }, [])
  useEffect(() => {
    newest.current.seen = { from: 0, count: 12 }
    if (!isEmpty) reader.current?.read({ project, text, as }, view())
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what of the project is read is its layout, and what has names
  }, [text, as, isEmpty, readBy])
  useEffect(() => {
    newest.current.filter = filter
    reader.current?.look(view())
  }, [filter])
  // After the reading was asked for: it is judged by what it is read by.
  useEffect(() => {
    if (!isEmpty && exchange) reader.current?.judge(project, exchange.id)
    // eslint-disable-next-line react-hooks/exhaustive-deps -- judged anew with whatever is read anew
  }, [exchange, text, as, isEmpty, readBy])
  const look = useCallback((from: number, count: number) => {
    const { seen } = newest.current
    if (seen.from === from && seen.count === count) return
    newest.current.seen = { from, count }
    reader.current?.look(view())
  }, [])
  return {
    reading: isEmpty ? null : now.reading,
    judged: !isEmpty && exchange && verdict?.exchange === exchange.id ? verdict.judged : null,
    isBusy: !isEmpty && now.of !== text,
    failed: isEmpty ? '' : now.failed,
    look,
    nextWrong: (from) => reader.current?.nextWrong(from),
    stop: () => reader.current?.stop(),
  }
}
