import { Box, Button } from '@mantine/core'
import { useMemo, useState } from 'react'
import { linkInWords, type Piece, operationTexts } from '@moth-lamp/core/frames'
import { logText } from '@moth-lamp/core/explain'
import type { Project } from '@moth-lamp/core/project'
import type { PanelEvent } from '@moth-lamp/core/rig'
import { formatAddress } from '@moth-lamp/core/variables'
import { FindField } from '../../controls/find-field.tsx'
import { AnatomyView, CopyFrame } from '../../parts/frame.tsx'
import { useRunningProtocol } from '../../parts/protocol.ts'
import { fileName, saveFile } from '../../session/save-file.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import type { WireEntry } from '../../worker/messages.ts'
import { useConversation } from './heard.ts'
import { Log, type LogRow } from './log.tsx'
import { TimeStrip } from './time-strip.tsx'
import { finds, wordsOf } from './words.ts'
import station from '../../parts/station.module.css'
import styles from './bench.module.css'

const isAnswer = (e: WireEntry): boolean =>
  e.answers !== null && e.message !== null && (e.message.operation === 'done' || e.message.operation === 'refused')

/** Everything said and done on one time axis: strip, log, and the chosen frame part by part. */
export function ConversationCard({ project }: { project: Project }) {
  const session = useSession()
  const { entries, events } = useConversation()
  const lastGood = useStore(session.live, (l) => l.wire?.lastGood === true)
  const busy = useStore(session.live, (l) => Math.round(Math.max(l.busy['to panel'], l.busy['to host']) * 100))
  const [picked, setPicked] = useState<string | null>(null)
  const [find, setFind] = useState('')
  const byId = useMemo(() => new Map(entries.map((e) => [e.id, e])), [entries])
  const all = useMemo(() => rowsOf(entries, events, byId), [entries, events, byId])
  const shown = useMemo(() => (find.trim() ? all.filter((r) => finds(r.words, find)) : all), [all, find])
  const row = all.find((r) => r.key === picked)
  return (
    <section className={`${station.card} ${styles.conversation}`} aria-label="Conversation">
      <Box component="header" pb={4}>
        <h2>Conversation</h2>
        <span className="end muted small">
          {linkInWords(project.link)} · {busy} % load
        </span>
      </Box>
      {lastGood && (
        <Box component="p" className="bad small" role="status" pt={0} px={14} pb={4}>
          The frame layout is invalid; the last valid one is still in use.
        </Box>
      )}
      <Box className="row" pt={0} px={14} pb={6}>
        <FindField
          label="Find in the conversation"
          placeholder="Filter: name, value, !exclude"
          value={find}
          onChange={setFind}
          width={210}
        />
        <SaveLog />
        <span className="muted small end">
          {shown.length === all.length ? `${all.length} shown` : `${shown.length} of ${all.length} shown`}
        </span>
      </Box>
      <TimeStrip entries={entries} events={events} picked={row ?? null} onPick={setPicked} />
      <Log rows={shown} picked={picked} onPick={setPicked} />
      {row?.entry && row.entry.kind !== 'power' && <Foot entry={row.entry} answer={row.answer ?? null} />}
    </section>
  )
}

/** The conversation as a file that Explain reads back, and anybody else: time, TX or RX, the frame. */
function SaveLog() {
  const session = useSession()
  const protocol = useRunningProtocol()
  const save = async () => {
    const all = await session.worker.conversation(0, 0)
    if (!all || !protocol) return
    const frames = all.entries.filter(({ kind }) => kind === 'frame' || kind === 'bad')
    if (!frames.length) return session.say('No traffic yet.')
    saveFile(`${fileName(session.project.name, 'bench')}.log`, new Blob([logText(protocol, frames)], { type: 'text/plain' }))
  }
  return (
    <Button size="compact-xs" onClick={() => void save()}>
      Save log
    </Button>
  )
}

/** Frames, with the answers folded into what they answer, and what happened beside them, in the order of time. */
function rowsOf(entries: readonly WireEntry[], events: readonly PanelEvent[], byId: Map<number, WireEntry>): LogRow[] {
  const lastOf = new Map<string, Uint8Array>()
  const frames = entries
    .filter((e) => !isAnswer(e) || !byId.has(e.answers!))
    .map((entry): LogRow => {
      const kind = entry.message ? `${entry.direction} ${entry.message.operation} ${entry.message.address}` : ''
      const previous = kind ? lastOf.get(kind) : undefined
      if (kind) lastOf.set(kind, entry.bytes)
      const answer = entry.answeredBy === null ? undefined : byId.get(entry.answeredBy)
      return { key: `f${entry.id}`, atUs: entry.toUs, words: wordsOf(entry), entry, answer, previous, gapUs: 0 }
    })
  // Of a time of which no frames are kept any more, nothing that happened beside them is told either.
  const [oldest] = entries
  const fromUs = oldest && oldest.id > 1 ? oldest.fromUs : 0
  const since = events.filter((b) => b.atUs >= fromUs)
  const others = since.map((b): LogRow => ({ key: `b${b.id}`, atUs: b.atUs, words: b.words, event: b, gapUs: 0 }))
  const sorted = [...frames, ...others].sort((a, b) => a.atUs - b.atUs)
  let last: number | null = null
  return sorted.map((row) => {
    const gapUs = last === null ? 0 : row.atUs - last
    last = row.atUs
    return asBefore({ ...row, gapUs })
  })
}

const rowsBefore = new WeakMap<WireEntry | PanelEvent, LogRow>()

/** The very row that was made of the same before: what has not changed is not drawn again. */
function asBefore(row: LogRow): LogRow {
  const of = row.entry ?? row.event!
  const before = rowsBefore.get(of)
  if (before && before.answer === row.answer && before.previous === row.previous && before.gapUs === row.gapUs) return before
  rowsBefore.set(of, row)
  return row
}

/** The chosen frame part by part; it is copied from here, or said again. */
function Foot({ entry, answer }: { entry: WireEntry; answer: WireEntry | null }) {
  const session = useSession()
  const protocol = useRunningProtocol()
  if (!protocol) return null
  const anatomy = protocol.dissect(entry.direction, entry.bytes)
  const { said } = entry
  const explain = (piece: Piece): string =>
    piece.kind === 'address' ? (said?.name ?? formatAddress(0)) : piece.kind === 'payload' ? (said?.value ?? '') : piece.says
  return (
    <div className={styles.foot}>
      <AnatomyView bytes={entry.bytes} anatomy={anatomy} explain={explain} />
      <Box className="row small" mt={6}>
        <span className={`mono ${styles.nowrap}`} title={`${entry.fromUs}–${entry.toUs} µs`}>
          {(entry.toUs / 1e6).toFixed(6)} s
        </span>
        {answer?.message && (
          <span className="muted">
            {operationTexts[answer.message.operation]} +{((answer.toUs - entry.toUs) / 1000).toFixed(1)} ms
          </span>
        )}
        <Button
          size="compact-xs"
          className="end"
          title={`Resend these bytes as the ${entry.direction === 'to panel' ? 'host' : 'panel'}`}
          onClick={() => session.worker.send({ type: 'send bytes', direction: entry.direction, bytes: entry.bytes })}
        >
          Send again
        </Button>
        <CopyFrame bytes={entry.bytes} />
      </Box>
    </div>
  )
}
