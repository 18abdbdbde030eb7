import { Button, UnstyledButton } from '@mantine/core'
import { useLayoutEffect, useMemo, useRef, useState } from 'react'
import { sentenceOf } from '@moth-lamp/core/explain'
import type { StepResult } from '@moth-lamp/core/exchanges'
import type { Project } from '@moth-lamp/core/project'
import { stepKind, stepWords, type Exchange, type Step } from '@moth-lamp/core/scripts'
import { nameOfId } from '@moth-lamp/core/signal-path'
import { Bytes, CopyFrame } from '../../parts/frame.tsx'
import { useRunningProtocol } from '../../parts/protocol.ts'
import { useSession } from '../../session/context.tsx'
import type { ExchangeRun, WireEntry } from '../../worker/messages.ts'
import { settleUs } from './runs.ts'
import { StepSentence } from './step-sentence.tsx'
import { framesOf, placeInTime, type Item, type Placed } from './time-rows.ts'
import { Why } from './why.tsx'
import styles from './exchanges.module.css'

/** The picture of the frames, px. */
const picture = { width: 270, panel: 44, host: 232 }

interface Props {
  project: Project
  exchange: Exchange
  run: ExchangeRun | null
  picked: string | null
  onPick(id: string): void
  atUs: number
  onAt(us: number): void
  /** A frame of the run is to be expected. */
  onExpect(entry: WireEntry): void
}

/** Steps beside their moments, and between two lifelines what was said: the diagram is where an exchange is edited. */
export function Diagram({ project, exchange, run, picked, onPick, atUs, onAt, onExpect }: Props) {
  const [heights, setHeights] = useState<Record<string, number>>({})
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set())
  const [frame, setFrame] = useState<number | null>(null)
  const results = useMemo(() => new Map(run?.steps.map((s) => [s.id, s]) ?? []), [run])
  const rows = useMemo(() => {
    const end = run ? run.endUs + (run.passed ? 0 : 1_000_000) : 0
    const decided = new Set(run?.steps.flatMap((s) => s.entry ?? []) ?? [])
    const matters = (e: WireEntry) =>
      decided.has(e.id) || e.kind !== 'frame' || (e.direction === 'to host' && e.answers === null) || e.verdict === 'refused'
    const from = (us: number) => us >= settleUs && us <= end
    const frames = run
      ? framesOf(
          run.entries.filter((e) => from(e.fromUs)),
          run.events.filter((b) => from(b.atUs)),
          matters,
          unfolded,
        )
      : []
    // A step that was not run stands after all that happened.
    const steps = exchange.stepOrder.reduce<Item[]>((before, id, i) => {
      const decided = run && momentOf(run, id, stepKind(exchange.steps[id]!.kind).expects)
      // The order of the steps is kept, whatever was decided first.
      const at = Math.max(before.at(-1)?.atUs ?? 0, decided ?? end + 1 + i)
      return [...before, { kind: 'step', key: id, id, atUs: at, height: heights[id] ?? 30 }]
    }, [])
    return placeInTime([...steps, ...frames])
  }, [run, exchange, heights, unfolded])
  const measure = (id: string, height: number) =>
    setHeights((old) => (Math.abs((old[id] ?? 0) - height) < 1 ? old : { ...old, [id]: height }))
  const chosen = run?.entries.find((e) => e.id === frame) ?? null
  return (
    <div className={styles.diagram} style={{ minHeight: rows.height }}>
      <div className={styles.steps}>
        {exchange.stepOrder.map((id, i) => {
          const place = rows.items.find((p) => p.key === id)
          return (
            <StepBox
              key={id}
              project={project}
              exchange={exchange}
              step={exchange.steps[id]!}
              index={i}
              top={place?.y ?? 0}
              result={results.get(id) ?? null}
              run={run}
              picked={id === picked}
              onPick={() => onPick(id)}
              onHeight={(height) => measure(id, height)}
            />
          )
        })}
      </div>
      <div className={styles.lines}>
        <svg width={picture.width} height={rows.height} role="img" aria-label="Frames between panel and host">
          <line x1={picture.panel} x2={picture.panel} y1="6" y2={rows.height} className={styles.life} />
          <line x1={picture.host} x2={picture.host} y1="6" y2={rows.height} className={styles.life} />
          {rows.breaks.map(({ y, us }) => (
            <g key={y}>
              <path d={zigzag(picture.panel, y)} className={styles.break} />
              <path d={zigzag(picture.host, y)} className={styles.break} />
              <text x={(picture.panel + picture.host) / 2} y={y + 11} textAnchor="middle" className={styles.dim}>
                {us >= 1e6 ? `${(us / 1e6).toFixed(2)} s` : `${Math.round(us / 1000)} ms`}
              </text>
            </g>
          ))}
          {run?.steps.map((s) => (
            <Window key={s.id} step={exchange.steps[s.id]} result={s} yOf={rows.yOf} />
          ))}
          {rows.items.map((p) =>
            p.kind === 'step' ? (
              <line key={p.key} x1="0" x2={picture.panel} y1={p.y + 12} y2={p.y + 12} className={styles.lead} />
            ) : (
              <Drawn
                key={p.key}
                item={p}
                picked={p.kind === 'frame' && p.entry.id === frame}
                decided={p.kind === 'frame' && run?.steps.find((s) => s.entry === p.entry.id)?.status}
                onClick={() => {
                  if (p.kind === 'folded') setUnfolded(new Set([...unfolded, p.key]))
                  else if (p.kind === 'frame') {
                    setFrame(p.entry.id === frame ? null : p.entry.id)
                    onAt(p.entry.toUs)
                  }
                }}
              />
            ),
          )}
          {run && <line x1="2" x2={picture.width - 2} y1={rows.yOf(atUs)} y2={rows.yOf(atUs)} className={styles.here} />}
        </svg>
        {chosen && (
          <FrameTip
            entry={chosen}
            top={(rows.items.find((p) => p.kind === 'frame' && p.entry.id === chosen.id)?.y ?? 0) + 22}
            onExpect={() => (setFrame(null), onExpect(chosen))}
          />
        )}
        {!run && exchange.stepOrder.length > 0 && <p className={styles.notRun}>Press R to run. Frames appear here.</p>}
      </div>
    </div>
  )
}

/** When a step was done or decided: at the frame that decided, where one did. Null: it was not run. */
function momentOf(run: ExchangeRun, id: string, expects: boolean): number | null {
  const result = run.steps.find((s) => s.id === id)
  if (!result || result.status === 'not run') return null
  if (!expects) return result.fromUs
  const entry = result.status === 'passed' ? run.entries.find((e) => e.id === result.entry) : undefined
  return entry?.toUs ?? result.atUs
}

const zigzag = (x: number, y: number): string => `M${x} ${y - 4}l-5 4l10 5l-10 5l5 4`

/** Until when a step may be held: a dashed line at the side that must act, solid for what it took. */
function Window({ step, result, yOf }: { step: Step | undefined; result: StepResult; yOf(us: number): number }) {
  const settings = step?.settings as { withinMs?: number; ms?: number; from?: string } | undefined
  const ms = settings?.withinMs ?? (step?.kind === 'expect nothing' ? settings?.ms : undefined)
  if (!step || ms === undefined || result.status === 'not run') return null
  const host = settings?.from === 'host' || step.kind === 'expect memory'
  const x = host ? picture.host + 18 : picture.panel - 16
  const [from, decided, until] = [yOf(result.fromUs), yOf(result.atUs), yOf(result.fromUs + ms * 1000)]
  const colour = result.status === 'failed' ? 'var(--bad)' : 'var(--ok)'
  return (
    <g>
      <title>{`within ${ms} ms: ${Math.round((result.atUs - result.fromUs) / 1000)} ms`}</title>
      <line x1={x} x2={x} y1={decided} y2={Math.max(decided, until)} stroke="#8a8f9e" strokeDasharray="3 3" />
      <circle cx={x} cy={Math.max(decided, until)} r="2.5" fill="none" stroke="#8a8f9e" />
      <line x1={x} x2={x} y1={from} y2={Math.max(decided, from + 4)} stroke={colour} strokeWidth="3" />
    </g>
  )
}

interface DrawnProps {
  item: Exclude<Placed, { kind: 'step' }>
  picked: boolean
  decided: StepResult['status'] | false | undefined
  onClick(): void
}

/** A frame with its answer, a fold of several, or what happened at the panel. */
function Drawn({ item, picked, decided, onClick }: DrawnProps) {
  const middle = (picture.panel + picture.host) / 2
  if (item.kind === 'mark') {
    const { event } = item
    const host = event.what === 'pin'
    const x = host ? picture.host : picture.panel
    return (
      <g>
        <circle cx={x} cy={item.y + 8} r="6.5" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.6" />
        {event.what === 'touched' && <circle cx={x} cy={item.y + 8} r="3" fill="var(--ink)" />}
        <text x={host ? x - 12 : x + 12} y={item.y + 12} textAnchor={host ? 'end' : 'start'} className={styles.dim}>
          {short(event.words, 30)}
        </text>
      </g>
    )
  }
  if (item.kind === 'folded')
    return (
      <g onClick={onClick} className={styles.click}>
        <title>click to show each</title>
        <rect
          x={picture.panel + 5}
          y={item.y + 3}
          width={picture.host - picture.panel - 10}
          height="14"
          rx="3"
          className={styles.fold}
        />
        <text x={middle} y={item.y + 13.5} textAnchor="middle" className={styles.dim}>
          {foldWords(item.entries)}
        </text>
      </g>
    )
  const { entry, answer, y } = item
  const toPanel = entry.direction === 'to panel'
  const wrong = entry.kind !== 'frame' || decided === 'failed'
  const colour = wrong ? 'var(--bad)' : toPanel ? 'var(--host)' : 'var(--panel)'
  const words = entry.said ? sentenceOf(entry.said).replace(/^(write|report) /, '') : (entry.code ?? '')
  return (
    <g onClick={onClick} className={styles.click}>
      <title>{words}</title>
      <rect
        x={picture.panel}
        y={y - 2}
        width={picture.host - picture.panel}
        height={answer ? 31 : 19}
        fill={picked ? 'var(--amber-light)' : 'transparent'}
      />
      <text x={middle} y={y + 9} textAnchor="middle" fill={colour} className={decided ? styles.strong : styles.says}>
        {short(words, 31)}
        {entry.kind === 'lost' ? ' · lost' : ''}
        {entry.attempt > 1 ? ` · attempt ${entry.attempt}` : ''}
      </text>
      <Arrow y={y + 12} toPanel={toPanel} colour={colour} width={decided ? 2.2 : 1.4} lost={entry.kind === 'lost'} />
      {answer && (
        <>
          <Arrow
            y={y + 24}
            toPanel={!toPanel}
            colour={answer.message?.operation === 'refused' ? 'var(--bad)' : '#9aa0ad'}
            width={1}
            lost={false}
            short
          />
          <text x={middle} y={y + 26} textAnchor="middle" className={styles.answer}>
            {answer.message?.operation === 'refused' ? 'rejected' : 'ACK'},{' '}
            {Math.max(1, Math.round((answer.toUs - entry.toUs) / 1000))} ms
          </text>
        </>
      )}
    </g>
  )
}

function Arrow(props: { y: number; toPanel: boolean; colour: string; width: number; lost: boolean; short?: boolean }) {
  const { y, toPanel, colour, width, lost } = props
  const [from, to] = toPanel ? [picture.host - 3, picture.panel + 4] : [picture.panel + 3, picture.host - 4]
  const end = lost ? from + (to - from) * 0.6 : to
  const back = toPanel ? 6 : -6
  const tip = lost ? `M${end - 4} ${y - 1}l8 8m0-8l-8 8` : `M${end + back} ${y}L${end} ${y + 4}L${end + back} ${y + 7}`
  return (
    <path
      d={`M${from} ${y}L${end} ${y + 4}${tip}`}
      fill="none"
      stroke={colour}
      strokeWidth={width}
      opacity={props.short ? 0.7 : 1}
    />
  )
}

const short = (words: string, most: number): string => (words.length > most ? `${words.slice(0, most - 1)}…` : words)

function foldWords(entries: readonly WireEntry[]): string {
  const counts = new Map<string, number>()
  for (const { said } of entries) if (said) counts.set(said.name, (counts.get(said.name) ?? 0) + 1)
  const names = [...counts.keys()]
  return short(`${entries.length} frames: ${names.slice(0, 2).join(', ')}${names.length > 2 ? ' …' : ''}`, 36)
}

/** The chosen frame: its bytes, and the way to expect it. */
function FrameTip({ entry, top, onExpect }: { entry: WireEntry; top: number; onExpect(): void }) {
  const protocol = useRunningProtocol()
  const operation = entry.message?.operation
  const may =
    operation === 'report' || operation === 'event' || operation === 'write' || operation === 'done' || operation === 'refused'
  return (
    <div className={styles.tip} style={{ top }}>
      <div className="small">
        {(entry.toUs / 1e6).toFixed(4)} {entry.direction === 'to panel' ? '→' : '←'}{' '}
        {entry.said ? sentenceOf(entry.said) : entry.code}
      </div>
      <Bytes bytes={entry.bytes} most={24} anatomy={protocol?.dissect(entry.direction, entry.bytes) ?? null} />
      <div className="row">
        {may && (
          <Button size="compact-xs" onClick={onExpect}>
            {operation === 'write' ? 'Expect in memory' : 'Expect'}
          </Button>
        )}
        <span className="end">
          <CopyFrame bytes={entry.bytes} />
        </span>
      </div>
    </div>
  )
}

interface StepProps {
  project: Project
  exchange: Exchange
  step: Step
  index: number
  top: number
  result: StepResult | null
  run: ExchangeRun | null
  picked: boolean
  onPick(): void
  onHeight(height: number): void
}

function StepBox({ project, exchange, step, index, top, result, run, picked, onPick, onHeight }: StepProps) {
  const session = useSession()
  const box = useRef<HTMLDivElement>(null)
  const failed = result?.status === 'failed'
  const name = (id: string) => nameOfId(project, id)
  useLayoutEffect(() => {
    const element = box.current
    if (!element) return
    const watch = new ResizeObserver(() => onHeight(element.offsetHeight))
    watch.observe(element)
    onHeight(element.offsetHeight)
    return () => watch.disconnect()
  })
  const move = (after: string | null) => session.edit('move step', { exchange: exchange.id, id: step.id, after })
  const words = stepWords(step, name)
  const { expects } = stepKind(step.kind)
  const at = run && momentOf(run, step.id, expects)
  const tookMs = result?.status === 'passed' && expects && at !== null ? Math.round((at - result.fromUs) / 1000) : 0
  return (
    <div
      ref={box}
      className={`${styles.step} ${failed ? styles.failed : ''} ${picked ? styles.picked : ''}`}
      style={{ top }}
      data-step={index + 1}
      data-picked={picked || undefined}
    >
      <div className={styles.stepLine}>
        <span className={styles.times}>{at === null ? '' : (at / 1e6).toFixed(3)}</span>
        <Mark status={result?.status ?? 'not run'} />
        {picked ? (
          <StepSentence
            step={step}
            set={(key, value) => session.edit('set step', { exchange: exchange.id, id: step.id, values: { [key]: value } })}
          />
        ) : (
          <UnstyledButton onClick={onPick} className={styles.stepWords}>
            <span className="visually-hidden">Step </span>
            <span className="muted small">{index + 1}</span> {words}
            {tookMs > 0 && (
              <span className="ok small" aria-hidden>
                {' '}
                {tookMs} ms
              </span>
            )}
          </UnstyledButton>
        )}
      </div>
      {failed && run && <Why project={project} exchange={exchange.id} step={step} result={result} run={run} />}
      {picked && (
        <div className={styles.stepTools}>
          <Button
            size="compact-xs"
            variant="subtle"
            disabled={index === 0}
            onClick={() => move(exchange.stepOrder[index - 2] ?? null)}
          >
            Move up
          </Button>
          <Button
            size="compact-xs"
            variant="subtle"
            disabled={index === exchange.stepOrder.length - 1}
            onClick={() => move(exchange.stepOrder[index + 1]!)}
          >
            Move down
          </Button>
          <Button
            size="compact-xs"
            variant="subtle"
            className="end"
            onClick={() => session.edit('delete step', { exchange: exchange.id, id: step.id })}
          >
            Remove
          </Button>
        </div>
      )}
    </div>
  )
}

export function Mark({ status }: { status: 'passed' | 'failed' | 'not run' | 'busy' }) {
  const [sign, words] = { passed: ['✓', 'passed'], failed: ['✕', 'failed'], 'not run': ['○', 'not run'], busy: ['…', 'runs'] }[
    status
  ] as [string, string]
  return (
    <span
      className={`${styles.mark} ${status === 'passed' ? 'ok' : status === 'failed' ? 'bad' : 'muted'}`}
      aria-label={words}
      role="img"
    >
      {sign}
    </span>
  )
}
