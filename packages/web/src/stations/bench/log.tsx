import { reasonTexts } from '@moth-lamp/core/frames'
import { Box, Button, UnstyledButton } from '@mantine/core'
import { Bell, TriangleAlert, CircleDot, CircleSlash, Cpu, FileText, Sun, Repeat2 } from 'lucide-react'
import { memo, useEffect, useRef, useState, type KeyboardEvent, type MouseEvent, type PointerEvent } from 'react'
import { hexByte, toHex } from '@moth-lamp/core/base'
import type { PanelEvent } from '@moth-lamp/core/rig'
import type { WireEntry } from '../../worker/messages.ts'
import { Character } from '../../parts/frame.tsx'
import { useRunningProtocol } from '../../parts/protocol.ts'
import { Along, isAtEnd } from './along.tsx'
import styles from './bench.module.css'
import station from '../../parts/station.module.css'

/** A line of the log: a frame with its answer, or what happened beside the frames. */
export interface LogRow {
  key: string
  atUs: number
  words: string
  entry?: WireEntry
  answer?: WireEntry | undefined
  /** The bytes of the last frame of its kind. */
  previous?: Uint8Array | undefined
  event?: PanelEvent
  /** Since the line above, µs. */
  gapUs: number
}

/** While the log goes along, so many of its newest rows are there, which fill any screen; for the others there is room. */
const newest = 60
/** Height of most rows, px. */
const usualHeight = 44

/** Longer silence has a separate line. */
const silenceUs = 1_000_000

interface Props {
  rows: LogRow[]
  picked: string | null
  onPick(key: string | null): void
}

/** The log, one stop of Tab: it goes along with what comes until one scrolls up; arrows walk it, F goes to the next fault. */
export function Log({ rows, picked, onPick }: Props) {
  const log = useRef<HTMLDivElement>(null)
  const [atEnd, setAtEnd] = useState(true)
  const [left, setLeft] = useState<string | null>(null)
  useEffect(() => {
    if (picked) log.current?.querySelector(`[data-row="${picked}"]`)?.scrollIntoView({ block: 'nearest' })
  }, [picked])
  const hidden = atEnd && picked === null ? Math.max(0, rows.length - newest) : 0
  const newer = left === null ? 0 : rows.length - 1 - rows.findIndex((r) => r.key === left)
  const onScroll = (e: { currentTarget: HTMLDivElement }) => {
    const ends = isAtEnd(e.currentTarget)
    setAtEnd(ends)
    setLeft(ends ? null : (left ?? rows.at(-1)?.key ?? null))
  }
  const onKey = (e: KeyboardEvent) => {
    const at = rows.findIndex((r) => r.key === picked)
    const to =
      e.key === 'ArrowDown'
        ? rows[at + 1]
        : e.key === 'ArrowUp'
          ? rows[at < 0 ? rows.length - 1 : at - 1]
          : e.key.toLowerCase() === 'f' && !e.ctrlKey && !e.metaKey
            ? (rows.slice(at + 1).find(isWrong) ?? rows.find(isWrong))
            : undefined
    if (!to) return
    e.preventDefault()
    onPick(to.key)
  }
  return (
    <div className={styles.logBox}>
      <div
        className={styles.log}
        ref={log}
        role="log"
        aria-label="Frames: arrows select, F finds the next fault"
        aria-live="off"
        tabIndex={0}
        onScroll={onScroll}
        onKeyDown={onKey}
      >
        <Along box={log} of={rows} from={hidden > 0}>
          {hidden > 0 && <Box h={hidden * usualHeight} aria-hidden />}
          {rows.slice(hidden).map((row) => (
            <Row key={row.key} row={row} picked={row.key === picked} onPick={onPick} />
          ))}
        </Along>
        {!rows.length && <p className={station.empty}>No traffic yet. Run the clock or touch the glass.</p>}
      </div>
      {newer > 0 && !atEnd && (
        <Button
          className={styles.newer}
          variant="filled"
          size="compact-xs"
          onClick={() => log.current?.scrollTo({ top: log.current.scrollHeight })}
        >
          {newer} newer ↓
        </Button>
      )}
    </div>
  )
}

const isWrong = (row: LogRow): boolean => row.entry !== undefined && outcomeOf(row.entry, row.answer).wrong

function outcomeOf(e: WireEntry, answer: WireEntry | undefined): { words: string; wrong: boolean } {
  if (e.kind === 'lost') return { words: e.attempt ? `lost (attempt ${e.attempt})` : 'lost', wrong: true }
  if (e.kind === 'bad')
    return { words: { check: 'checksum error' }[e.code as string] ?? (e.code as string), wrong: e.code !== 'idle' }
  const refused = answer?.message?.operation === 'refused'
  const time = answer ? ` ${Math.max(1, Math.round((answer.toUs - e.toUs) / 1000))} ms` : ''
  const repeat = e.attempt > 1 ? `attempt ${e.attempt}, ` : ''
  const reason = answer?.message?.operation === 'refused' ? answer.message.reason : e.reason
  if (refused || e.verdict === 'refused')
    return {
      words: `${repeat}rejected${reason ? `: ${reasonTexts[reason]}` : ''}${time}`,
      wrong: true,
    }
  if (e.verdict === 'out of range') return { words: 'out of range', wrong: true }
  if (answer) return { words: `${repeat}${answer.message?.operation === 'value' ? 'read response' : 'ACK'}${time}`, wrong: false }
  return { words: repeat + (e.verdict ?? ''), wrong: e.verdict === 'unexpected' }
}

const gapWords = (us: number): string => (us >= 10_000_000 ? `+${(us / 1e6).toFixed(1)} s` : `+${Math.round(us / 1000)} ms`)

interface RowProps {
  row: LogRow
  picked: boolean
  onPick(key: string | null): void
}

/** Rows move while the panel talks: a mouse picks where it goes down. By its going up another row may be there. */
const picking = (onPick: () => void) => ({
  onPointerDown: ({ button, pointerType }: PointerEvent) => button === 0 && pointerType === 'mouse' && onPick(),
  onClick: ({ nativeEvent }: MouseEvent) => (nativeEvent as globalThis.PointerEvent).pointerType !== 'mouse' && onPick(),
})

const Row = memo(function Row({ row, picked, onPick: pick }: RowProps) {
  const { entry: e, atUs, gapUs } = row
  const onPick = () => pick(picked ? null : row.key)
  return (
    <>
      {gapUs > silenceUs && (
        <div className={styles.silence}>
          <span className={styles.times}>{(gapUs / 1e6).toFixed(3)} s</span> silence
        </div>
      )}
      {row.event ? (
        <UnstyledButton
          className={`${styles.entry} ${styles.event} ${picked ? styles.picked : ''}`}
          data-entry={picked ? 'picked' : ''}
          data-row={row.key}
          tabIndex={-1}
          {...picking(onPick)}
        >
          <span className={styles.times}>{(atUs / 1e6).toFixed(4)}</span>
          <span className="cut">
            <BesideIcon what={row.event.what} /> {row.words}
          </span>
        </UnstyledButton>
      ) : e!.kind === 'power' ? (
        <div className={`${styles.entry} ${styles.power}`} data-entry="power" data-row={row.key}>
          <span className={styles.times}>{(atUs / 1e6).toFixed(4)}</span>
          <strong>{row.words}</strong>
        </div>
      ) : (
        <FrameRow row={row} entry={e!} picked={picked} onPick={onPick} />
      )}
    </>
  )
})

const icons = {
  touched: CircleDot,
  lifted: CircleDot,
  'not counted': CircleSlash,
  page: FileText,
  'pop-up': FileText,
  loop: Repeat2,
  beep: Bell,
  backlight: Sun,
  pin: Cpu,
  'not sent': TriangleAlert,
}

export function BesideIcon({ what }: { what: PanelEvent['what'] }) {
  const Icon = icons[what]
  return <Icon size={12} className={`${styles.icon} ${what === 'lifted' ? styles.faint : ''}`} aria-hidden />
}

function FrameRow({ row, entry: e, picked, onPick }: { row: LogRow; entry: WireEntry; picked: boolean; onPick(): void }) {
  const { words, wrong } = outcomeOf(e, row.answer)
  const toPanel = e.direction === 'to panel'
  const { previous } = row
  const isText = useRunningProtocol()?.isText[e.direction] ?? false
  return (
    <UnstyledButton
      className={`${styles.entry} ${toPanel ? '' : styles.toHost} ${wrong ? styles.wrong : ''} ${picked ? styles.picked : ''}`}
      data-entry={`${toPanel ? 'to-panel' : 'to-host'} ${wrong ? 'wrong' : ''} ${picked ? 'picked' : ''}`}
      data-row={row.key}
      tabIndex={-1}
      {...picking(onPick)}
      aria-pressed={picked}
    >
      <span className={styles.times}>{(e.toUs / 1e6).toFixed(4)}</span>
      <strong className="cut" title={toPanel ? 'host → panel' : 'panel → host'}>
        <span className={toPanel ? 'to-panel' : 'to-host'}>{toPanel ? '→' : '←'}</span> {row.words}
      </strong>
      <span className={`small ${wrong ? 'bad' : 'muted'}`}>{words}</span>
      <span className={styles.times}>{gapWords(row.gapUs)}</span>
      <span className={styles.hex} title={isText ? toHex(e.bytes) : undefined}>
        {isText && Array.from(e.bytes.slice(0, 96), (b, i) => <Character key={i} byte={b} />)}
        {(isText ? [] : Array.from(e.bytes.slice(0, 64))).map((b, i) => {
          const changed = previous && previous.length === e.bytes.length && previous[i] !== b && i > 1
          return changed && i < e.bytes.length - 3 ? [<mark key={i}>{hexByte(b)}</mark>, ' '] : `${hexByte(b)} `
        })}
        {e.bytes.length > (isText ? 96 : 64) ? '…' : ''}
      </span>
    </UnstyledButton>
  )
}
