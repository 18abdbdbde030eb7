import { FindField } from '../controls/find-field.tsx'
import { Box, UnstyledButton } from '@mantine/core'
import { useEffect, useMemo, useRef, useState } from 'react'
import { hexByte } from '@moth-lamp/core/base'
import { badWords, linkInWords, type Piece } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { formatAddress } from '@moth-lamp/core/variables'
import { AnatomyView, CopyFrame } from '../parts/frame.tsx'
import { useRunningProtocol } from '../parts/protocol.ts'
import { useStore } from '../session/store.ts'
import { useSession } from '../shell/context.tsx'
import type { WireEntry } from '../worker/messages.ts'

const kept = 400

/** The newest entries of the live conversation, fetched as they come. A power cycle empties it. */
function useConversation(): WireEntry[] {
  const session = useSession()
  const [entries, setEntries] = useState<WireEntry[]>([])
  const last = useStore(session.live, (l) => l.lastEntry)
  const which = useStore(session.live, (l) => l.conversation)
  const have = useRef({ which: 0, id: 0 })
  const asking = useRef(false)
  useEffect(() => {
    const pull = () => {
      const { lastEntry, conversation } = session.live.value
      if (have.current.which !== conversation) have.current = { which: conversation, id: -1 }
      if (asking.current || lastEntry === have.current.id) return
      asking.current = true
      const fresh = have.current.id < 0
      const since = Math.max(0, have.current.id)
      void session.worker.conversation(since).then((more) => {
        asking.current = false
        if (!more || have.current.which !== conversation) return
        have.current = { which: conversation, id: more.at(-1)?.id ?? since }
        setEntries((old) => (fresh ? more : [...withAnswers(old, more), ...more]).slice(-kept))
        // More may have come while this was on its way.
        if (more.length) pull()
      })
    }
    pull()
  }, [session, last, which])
  return entries
}

/** Entries that were shown, with the answers that have come since. */
function withAnswers(old: WireEntry[], more: WireEntry[]): WireEntry[] {
  const answered = new Map(more.flatMap((e) => (e.answers === null ? [] : [[e.answers, e.id] as const])))
  return old.map((e) => (answered.has(e.id) ? { ...e, answeredBy: answered.get(e.id)! } : e))
}

const isAnswer = (e: WireEntry): boolean =>
  e.answers !== null && e.message !== null && (e.message.operation === 'done' || e.message.operation === 'refused')

export function ConversationCard({ project }: { project: Project }) {
  const session = useSession()
  const entries = useConversation()
  const lastGood = useStore(session.live, (l) => l.wire?.lastGood === true)
  const busy = useStore(session.live, (l) => l.busy)
  const [picked, setPicked] = useState<number | null>(null)
  const [find, setFind] = useState('')
  const byId = useMemo(() => new Map(entries.map((e) => [e.id, e])), [entries])
  const shown = entries
    .filter((e) => !isAnswer(e) || !byId.has(e.answers!))
    .filter((e) => !find || wordsOf(e).toLowerCase().includes(find.toLowerCase()))
  const entry = picked === null ? null : (byId.get(picked) ?? null)
  return (
    <section className="card" aria-label="Conversation">
      <Box component="header" pb={4}>
        <h2>Conversation</h2>
        <span className="end muted">
          {linkInWords(project.link)} · {Math.round(Math.max(busy['to panel'], busy['to host']) * 100)} % busy
        </span>
      </Box>
      {lastGood && (
        <Box component="p" className="bad small" role="status" pt={0} px={14} pb={4}>
          The layout of the project cannot be used: both sides still speak the last one that could.
        </Box>
      )}
      <Box className="row" pt={0} px={14} pb={8}>
        <FindField label="Find in the conversation" value={find} onChange={setFind} width={170} />
        <span className="muted small">{shown.length} shown</span>
      </Box>
      <TimeStrip entries={entries} />
      <Log entries={shown} byId={byId} picked={picked} onPick={setPicked} />
      {entry && entry.kind !== 'power' && (
        <Foot entry={entry} answer={entry.answeredBy ? (byId.get(entry.answeredBy) ?? null) : null} />
      )}
    </section>
  )
}

function wordsOf(e: WireEntry): string {
  if (e.kind === 'power') return `power of ${e.note === 'both' ? 'both' : `the ${e.note}`}`
  const { said } = e
  if (!said) return e.kind === 'lost' ? 'lost on the line' : badWords[e.code!]
  return (
    (said.what === 'write' || said.what === 'report' ? '' : `${said.what} `) + said.name + (said.value ? ` = ${said.value}` : '')
  )
}

function Log({
  entries,
  byId,
  picked,
  onPick,
}: {
  entries: WireEntry[]
  byId: Map<number, WireEntry>
  picked: number | null
  onPick(id: number): void
}) {
  const log = useRef<HTMLDivElement>(null)
  const atEnd = useRef(true)
  useEffect(() => {
    if (atEnd.current && log.current) log.current.scrollTop = log.current.scrollHeight
  }, [entries, picked])
  const rows = useMemo(() => withBefore(entries), [entries])
  return (
    <div
      className="log"
      ref={log}
      role="log"
      aria-label="Frames"
      aria-live="off"
      tabIndex={0}
      onScroll={(e) =>
        (atEnd.current = e.currentTarget.scrollTop + e.currentTarget.clientHeight > e.currentTarget.scrollHeight - 30)
      }
    >
      {rows.map(({ entry: e, previous, gapUs }) => (
        <EntryRow
          key={e.id}
          entry={e}
          answer={e.answeredBy ? byId.get(e.answeredBy) : undefined}
          previous={previous}
          gapUs={gapUs}
          picked={e.id === picked}
          onPick={() => onPick(e.id)}
        />
      ))}
      {!entries.length && <p className="empty">Nothing has been said yet. Run the clock, or press something on the glass.</p>}
    </div>
  )
}

/** Each entry with the bytes of the last of its kind, and the time since the one above. */
function withBefore(entries: WireEntry[]): { entry: WireEntry; previous: Uint8Array | undefined; gapUs: number }[] {
  const lastOf = new Map<string, Uint8Array>()
  return entries.map((entry, i) => {
    const kind = entry.message ? `${entry.direction} ${entry.message.operation} ${entry.message.address}` : ''
    const previous = kind ? lastOf.get(kind) : undefined
    if (kind) lastOf.set(kind, entry.bytes)
    return { entry, previous, gapUs: entry.toUs - (entries[i - 1]?.toUs ?? entry.toUs) }
  })
}

function outcomeOf(e: WireEntry, answer: WireEntry | undefined): { words: string; wrong: boolean } {
  if (e.kind === 'lost') return { words: e.attempt ? `lost, try ${e.attempt}` : 'lost', wrong: true }
  if (e.kind === 'bad')
    return { words: { check: 'check wrong' }[e.code as string] ?? (e.code as string), wrong: e.code !== 'idle' }
  const refused = answer?.message?.operation === 'refused'
  const time = answer ? ` ${Math.max(1, Math.round((answer.toUs - e.toUs) / 1000))} ms` : ''
  const repeat = e.attempt > 1 ? `try ${e.attempt}, ` : ''
  if (refused || e.verdict === 'refused')
    return {
      words: `${repeat}refused: ${(answer?.message as { reason?: string } | undefined)?.reason ?? e.reason ?? ''}${time}`,
      wrong: true,
    }
  if (e.verdict === 'out of range') return { words: 'out of range', wrong: true }
  if (answer) return { words: `${repeat}${answer.message?.operation === 'value' ? 'answered' : 'done'}${time}`, wrong: false }
  return { words: repeat + (e.verdict ?? ''), wrong: e.verdict === 'unexpected' }
}

interface RowProps {
  entry: WireEntry
  answer: WireEntry | undefined
  previous: Uint8Array | undefined
  gapUs: number
  picked: boolean
  onPick(): void
}

function EntryRow({ entry: e, answer, previous, gapUs, picked, onPick }: RowProps) {
  if (e.kind === 'power')
    return (
      <div className="entry power">
        <span className="times">{(e.toUs / 1e6).toFixed(4)}</span>
        <strong>{wordsOf(e)}</strong>
      </div>
    )
  const { words, wrong } = outcomeOf(e, answer)
  const toPanel = e.direction === 'to panel'
  return (
    <UnstyledButton
      className={`entry ${toPanel ? '' : 'host'} ${wrong ? 'wrong' : ''} ${picked ? 'picked' : ''}`}
      onClick={onPick}
      aria-pressed={picked}
    >
      <span className="times">
        {(e.toUs / 1e6).toFixed(4)} +{Math.round(gapUs / 1000)}
      </span>
      <strong className="cut" title={toPanel ? 'host → panel' : 'panel → host'}>
        <span className={toPanel ? 'to-panel' : 'to-host'}>{toPanel ? '→' : '←'}</span> {wordsOf(e)}
      </strong>
      <span className={`small ${wrong ? 'bad' : 'muted'}`}>{words}</span>
      <span className="hex">
        {Array.from(e.bytes.slice(0, 64), (b, i) => {
          const changed = previous && previous.length === e.bytes.length && previous[i] !== b && i > 1
          return changed && i < e.bytes.length - 3 ? <mark key={i}>{hexByte(b)} </mark> : `${hexByte(b)} `
        })}
        {e.bytes.length > 64 ? '…' : ''}
      </span>
    </UnstyledButton>
  )
}

/** Both sides on one axis: the last ten seconds. */
function TimeStrip({ entries }: { entries: WireEntry[] }) {
  const end = entries.at(-1)?.toUs ?? 0
  const span = 5_000_000
  const x = (us: number) => 40 + ((us - (end - span)) / span) * 350
  const recent = entries.filter((e) => e.toUs > end - span && e.kind !== 'power')
  return (
    <svg className="time-strip" viewBox="0 0 398 36" role="img" aria-label="The last five seconds: frames of host and panel">
      <text x="4" y="13" fontSize="9.5" fill="#176f74">
        host
      </text>
      <text x="4" y="30" fontSize="9.5" fill="#8b3566">
        panel
      </text>
      {recent.map((e) => (
        <rect
          key={e.id}
          x={x(e.fromUs)}
          y={e.direction === 'to panel' ? 5 : 22}
          width={Math.max(2.5, x(e.toUs) - x(e.fromUs))}
          height="9"
          fill={e.kind !== 'frame' ? '#ae3428' : e.direction === 'to panel' ? '#176f74' : '#8b3566'}
        />
      ))}
    </svg>
  )
}

/** The chosen frame part by part. */
function Foot({ entry, answer }: { entry: WireEntry; answer: WireEntry | null }) {
  const protocol = useRunningProtocol()
  if (!protocol) return null
  const anatomy = protocol.dissect(entry.direction, entry.bytes)
  const { said } = entry
  const explain = (piece: Piece): string =>
    piece.kind === 'address' ? (said?.name ?? formatAddress(0)) : piece.kind === 'payload' ? (said?.value ?? '') : piece.says
  return (
    <div className="foot">
      <AnatomyView bytes={entry.bytes} anatomy={anatomy} explain={explain} />
      <Box className="row small" mt={6}>
        <span className="mono" style={{ whiteSpace: 'nowrap' }} title={`${entry.fromUs} to ${entry.toUs} µs`}>
          {(entry.toUs / 1e6).toFixed(6)} s
        </span>
        {answer?.message && (
          <span className="muted">
            {answer.message.operation} after {((answer.toUs - entry.toUs) / 1000).toFixed(1)} ms
          </span>
        )}
        <span className="end">
          <CopyFrame bytes={entry.bytes} />
        </span>
      </Box>
    </div>
  )
}
