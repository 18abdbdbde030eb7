import { Box, Button, Menu, UnstyledButton } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'
import type { ExchangeId } from '@moth-lamp/core/base'
import { exchangeProblemWords, type Progress, type StepResult } from '@moth-lamp/core/exchanges'
import { sentenceOf } from '@moth-lamp/core/explain'
import type { Project } from '@moth-lamp/core/project'
import type { Values } from '@moth-lamp/core/describe'
import { stepKindNames, stepKind, stepWords, type Exchange, type Step, type StepKind } from '@moth-lamp/core/scripts'
import { nameOfId } from '@moth-lamp/core/signal-path'
import { putPainted } from '../glass/glass.tsx'
import { SettingRow } from '../inspector/setting-fields.tsx'
import { NumberField, TextField, YesNo } from '../controls/fields.tsx'
import { FindingBar } from '../parts/finding-bar.tsx'
import { Bytes } from '../parts/frame.tsx'
import { useRunningProtocol } from '../parts/protocol.ts'
import { api } from '../session/api.ts'
import { freshId, type Session } from '../session/session.ts'
import { useProject, useSession } from '../shell/context.tsx'
import type { ExchangeRun, PaintedRect } from '../worker/messages.ts'

/** A run and the exchange it was a run of: after an edit it no longer counts. */
interface Ran {
  run: ExchangeRun
  of: Exchange
}

async function runOne(
  session: Session,
  id: ExchangeId,
  progress: (progress: Progress) => void,
  signal: AbortSignal,
): Promise<Ran | null> {
  const of = session.project.exchanges[id]
  const run = await session.worker.runExchange(id, progress, signal)
  if (!run || !of) return null
  const failed = run.steps.findIndex((s) => s.status === 'failed')
  const failedStep = run.passed ? null : failed >= 0 ? `step ${failed + 1}` : 'left over'
  void api
    .addResult(session.id, { exchange: id, revision: session.document.value.revision, passed: run.passed, failedStep })
    .catch(() => undefined)
  return { run, of }
}

/** Scripted checks: the list, the steps edited in place, the verdict of each with its reason. */
export function ExchangesStation() {
  const session = useSession()
  const project = useProject()
  const [ran, setRan] = useState<Record<string, Ran>>({})
  const [picked, setPicked] = useState<string | null>(null)
  const [busy, setBusy] = useState<string | null>(null)
  const [progress, setProgress] = useState<Progress | null>(null)
  const stop = useRef(new AbortController())
  const order = project.exchangeOrder
  const current = project.exchanges[(picked ?? order[0] ?? '') as ExchangeId] ?? project.exchanges[order[0] as ExchangeId]

  const run = async (ids: readonly ExchangeId[]) => {
    stop.current = new AbortController()
    const { signal } = stop.current
    for (const id of ids) {
      if (signal.aborted) break
      setBusy(id)
      setProgress(null)
      const result = await runOne(session, id, setProgress, signal)
      if (result) setRan((old) => ({ ...old, [id]: result }))
    }
    setBusy(null)
  }
  const add = () => {
    const id = freshId('exchange')
    if (session.edit('add exchange', { id, after: '' })) setPicked(id)
  }
  const valid = (id: string): ExchangeRun | null => {
    const found = ran[id]
    return found && found.of === project.exchanges[id as ExchangeId] ? found.run : null
  }
  return (
    <div className="exchanges">
      <section className="card" aria-label="Exchanges">
        <header>
          <h2 className="grow">{order.length === 1 ? '1 exchange' : `${order.length} exchanges`}</h2>
          {busy ? (
            <Button onClick={() => stop.current.abort()}>Stop</Button>
          ) : (
            <Button disabled={!order.length} onClick={() => void run(order)}>
              Run all
            </Button>
          )}
        </header>
        <Box className="body" pt={0} px={8} pb={10}>
          {order.map((id) => {
            const result = valid(id)
            const failed = result ? result.steps.findIndex((s) => s.status === 'failed') : -1
            return (
              <UnstyledButton
                key={id}
                className="listed"
                aria-current={id === current?.id ? true : undefined}
                onClick={() => setPicked(id)}
              >
                <Mark status={busy === id ? 'busy' : result ? (result.passed ? 'passed' : 'failed') : 'not run'} />
                <span className="grow">{project.exchanges[id]!.name}</span>
                <span className="muted small">
                  {busy === id
                    ? progress
                      ? `step ${progress.done + 1} of ${progress.of}, ${(progress.nowUs / 1e6).toFixed(0)} s`
                      : 'runs'
                    : result
                      ? result.passed
                        ? `${(result.endUs / 1e6).toFixed(1)} s`
                        : failed >= 0
                          ? `step ${failed + 1}`
                          : 'left over'
                      : 'not run'}
                </span>
              </UnstyledButton>
            )
          })}
          <Button my={8} mx={4} onClick={add}>
            + Exchange
          </Button>
          {!order.length && (
            <Box component="p" className="muted" p={8}>
              An exchange is a scripted check: touch something, say what report must come, what must be shown.
            </Box>
          )}
        </Box>
      </section>
      {current ? (
        <ExchangeCard
          project={project}
          exchange={current}
          result={valid(current.id)}
          busy={busy !== null}
          onRun={() => void run([current.id as ExchangeId])}
        />
      ) : (
        <section className="card" />
      )}
      <div className="stack run-side">
        <ResultGlass project={project} result={current ? valid(current.id) : null} />
        <FindingBar station="Exchanges" />
      </div>
    </div>
  )
}

function Mark({ status }: { status: 'passed' | 'failed' | 'not run' | 'busy' }) {
  const [sign, words] = { passed: ['✓', 'passed'], failed: ['✕', 'failed'], 'not run': ['·', 'not run'], busy: ['…', 'runs'] }[
    status
  ] as [string, string]
  return (
    <span className={`mark ${status === 'passed' ? 'ok' : status === 'failed' ? 'bad' : 'muted'}`} aria-label={words} role="img">
      {sign}
    </span>
  )
}

interface CardProps {
  project: Project
  exchange: Exchange
  result: ExchangeRun | null
  busy: boolean
  onRun(): void
}

function ExchangeCard({ project, exchange, result, busy, onRun }: CardProps) {
  const session = useSession()
  const [open, setOpen] = useState<string | null>(null)
  const set = (values: Partial<Exchange>) => session.edit('set exchange', { id: exchange.id, values })
  const addStep = (kind: StepKind) => {
    const id = freshId('step')
    if (session.edit('add step', { exchange: exchange.id, id, kind, after: open ?? '' })) setOpen(id)
  }
  return (
    <section className="card" aria-label={`Exchange ${exchange.name}`}>
      <header>
        <Box component="span" className="grow" fw={700}>
          <TextField
            label="Name of the exchange"
            value={exchange.name}
            isName
            check={(t) => (t.trim() ? null : 'An exchange has a name.')}
            onCommit={(name) => set({ name })}
          />
        </Box>
        <Button variant="filled" disabled={busy} onClick={onRun}>
          Run
        </Button>
        <Menu position="bottom-end" width={220} transitionProps={{ duration: 0 }}>
          <Menu.Target>
            <Button>+ Step</Button>
          </Menu.Target>
          <Menu.Dropdown>
            {stepKindNames().map((kind) => (
              <Menu.Item key={kind} onClick={() => addStep(kind)}>
                {stepKind(kind).label}
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
        <Button onClick={() => session.edit('delete exchange', { id: exchange.id })}>Delete</Button>
      </header>
      <Box className="row small" pt={0} px={14} pb={8}>
        <span className="muted">power on, seed</span>
        <Box component="span" w={70}>
          <NumberField label="Seed" value={exchange.seed} min={0} max={4294967295} whole onCommit={(seed) => set({ seed })} />
        </Box>
        <label className="row">
          <YesNo
            label="Other reports are allowed"
            value={exchange.allowsOthers}
            onChange={(allowsOthers) => set({ allowsOthers })}
          />{' '}
          other reports are allowed
        </label>
      </Box>
      <div className="scroll grow">
        {exchange.stepOrder.map((id, i) => (
          <StepRow
            key={id}
            project={project}
            exchange={exchange}
            step={exchange.steps[id]!}
            index={i}
            result={result?.steps.find((s) => s.id === id) ?? null}
            open={open === id}
            onOpen={() => setOpen(open === id ? null : id)}
          />
        ))}
        {!exchange.stepOrder.length && (
          <p className="empty">No step yet. Begin with a touch or with what the host writes, then say what you expect.</p>
        )}
        {result?.leftOver && (
          <div className="step failed">
            <div className="main-line">
              <Mark status="failed" />
              <strong>at the end</strong>
              <span>
                {exchangeProblemWords({ code: 'exchange.left-over', facts: {} })}{' '}
                {result.leftOver.said ? sentenceOf(result.leftOver.said) : ''}
              </span>
            </div>
          </div>
        )}
        {result && (
          <Box component="p" py={10} px={14} fw={700} className={result.passed ? 'ok' : 'bad'} role="status">
            {result.passed ? `Passed in ${(result.endUs / 1e6).toFixed(3)} s of the panel’s time.` : 'Failed.'}
          </Box>
        )}
      </div>
    </section>
  )
}

interface StepProps {
  project: Project
  exchange: Exchange
  step: Step
  index: number
  result: StepResult | null
  open: boolean
  onOpen(): void
}

function StepRow({ project, exchange, step, index, result, open, onOpen }: StepProps) {
  const session = useSession()
  const failed = result?.status === 'failed'
  const name = (id: string) => nameOfId(project, id)
  const move = (after: string | null) => session.edit('move step', { exchange: exchange.id, id: step.id, after })
  return (
    <div className={`step ${failed ? 'failed' : ''}`}>
      <div className="main-line">
        <Mark status={result?.status ?? 'not run'} />
        <strong>{stepKind(step.kind).label}</strong>
        <Button
          variant="subtle"
          justify="flex-start"
          miw={0}
          aria-expanded={open}
          aria-label={`Step ${index + 1}: ${stepKind(step.kind).label} ${stepWords(step, name)}`}
          onClick={onOpen}
        >
          <span className="cut">{stepWords(step, name)}</span>
        </Button>
        <span className="mono small muted">{result && result.status !== 'not run' ? (result.atUs / 1e6).toFixed(3) : ''}</span>
      </div>
      {open && (
        <Box className="sub" mt={4} mr={0} mb={6} ml={24}>
          {stepKind(step.kind).settings.list.map((s) => (
            <SettingRow
              key={s.key}
              setting={s}
              value={(step.settings as Values)[s.key]}
              mixed={false}
              nameHint="value"
              beside={step.settings as Values}
              onChange={(value) => session.edit('set step', { exchange: exchange.id, id: step.id, values: { [s.key]: value } })}
            />
          ))}
          <span className="row">
            <Button size="compact-xs" disabled={index === 0} onClick={() => move(exchange.stepOrder[index - 2] ?? null)}>
              Earlier
            </Button>
            <Button
              size="compact-xs"
              disabled={index === exchange.stepOrder.length - 1}
              onClick={() => move(exchange.stepOrder[index + 1]!)}
            >
              Later
            </Button>
            <Button
              size="compact-xs"
              className="end"
              onClick={() => session.edit('delete step', { exchange: exchange.id, id: step.id })}
            >
              Remove
            </Button>
          </span>
        </Box>
      )}
      {failed && <Why result={result} />}
    </div>
  )
}

function Why({ result }: { result: StepResult }) {
  const protocol = useRunningProtocol()
  const bytes = (b: Uint8Array | null, other: Uint8Array | null) =>
    b && protocol ? <Bytes bytes={b} anatomy={protocol.dissect(result.direction, b)} differsFrom={other} /> : <span />
  return (
    <div className="why">
      {(result.expected || result.expectedBytes) && (
        <>
          <span>expected</span>
          <span className="mono">{result.expected}</span>
          {bytes(result.expectedBytes, null)}
        </>
      )}
      {(result.came || result.cameBytes) && (
        <>
          <span>came</span>
          <span className="mono">{result.came}</span>
          {bytes(result.cameBytes, result.expectedBytes)}
        </>
      )}
      <span style={{ gridColumn: '1 / 4' }} role="alert">
        {result.problem ? exchangeProblemWords(result.problem) : ''}
      </span>
    </div>
  )
}

/** The glass where the run ended, and what was said around there. */
function ResultGlass({ project, result }: { project: Project; result: ExchangeRun | null }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const session = useSession()
  useEffect(() => {
    let gone = false
    const show = (painted: PaintedRect | null) => {
      if (gone || !painted || !canvas.current) return
      canvas.current.width = painted.rect.width
      canvas.current.height = painted.rect.height
      putPainted(canvas.current, painted)
    }
    if (result) show(result.glass)
    else void session.thumbnail(project.startPage, 380).then(show)
    return () => void (gone = true)
  }, [session, result, project.startPage])
  const decisive = result?.steps.find((s) => s.status === 'failed')?.entry ?? null
  const spoken = result?.entries.filter((e) => e.kind !== 'power' && e.toUs > 1_500_000) ?? []
  const at = decisive === null ? spoken.length : spoken.findIndex((e) => e.id === decisive) + 1
  const around = spoken.slice(Math.max(0, at - 12), at + 8)
  return (
    <>
      <Box className="bezel" p={8}>
        <canvas
          ref={canvas}
          width={project.panel.width}
          height={project.panel.height}
          style={{ width: '100%', imageRendering: 'auto' }}
          role="img"
          aria-label="The glass at the end of the run"
        />
      </Box>
      <span className="muted small">
        {result
          ? `The glass at ${(result.endUs / 1e6).toFixed(3)} s · preview`
          : 'The start page. Run the exchange: the glass of the run is shown here.'}
      </span>
      <section className="card grow" aria-label="What was said">
        <header>
          <h2>{decisive === null ? 'What was said' : 'Around the failed step'}</h2>
        </header>
        <div className="body" role="log">
          {around.map((e) => (
            <Box key={e.id} className={`row ${e.id === decisive ? 'bad' : ''}`} py={2} px={0}>
              <span className={e.direction === 'to panel' ? 'to-panel' : 'to-host'}>
                {e.direction === 'to panel' ? '→' : '←'}
              </span>
              <span className="mono muted">{(e.toUs / 1e6).toFixed(3)}</span>
              <span className="cut">
                {e.said ? sentenceOf(e.said) : e.code}
                {e.kind === 'lost' ? ' · lost on the line' : ''}
              </span>
            </Box>
          ))}
          {!around.length && <p className="muted">Nothing yet.</p>}
        </div>
      </section>
    </>
  )
}
