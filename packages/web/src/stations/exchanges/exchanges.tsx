import { useFolding } from '../../parts/folding.ts'
import { NothingYet } from '../../parts/nothing-yet.tsx'
import { Box, Button, Menu, UnstyledButton } from '@mantine/core'
import { useEffect, useRef, useState, type KeyboardEvent } from 'react'
import type { ExchangeId } from '@moth-lamp/core/base'
import { exchangeProblemWords } from '@moth-lamp/core/exchanges'
import { sentenceOf } from '@moth-lamp/core/explain'
import type { Project } from '@moth-lamp/core/project'
import { stepKind, stepKindNames, type Exchange, type StepKind } from '@moth-lamp/core/scripts'
import { Choice } from '../../controls/choice.tsx'
import { NumberField, TextField } from '../../controls/fields.tsx'
import { useKeys } from '../../controls/keys.ts'
import { Items } from '../../controls/pop.tsx'
import { Sentence } from '../../controls/sentence.tsx'
import { FindingBar } from '../../parts/finding-bar.tsx'
import { freshId } from '../../session/chance.ts'
import { useStore } from '../../session/store.ts'
import { useProject, useSession } from '../../session/context.tsx'
import type { ExchangeRun } from '../../worker/messages.ts'
import { Diagram, Mark } from './diagram.tsx'
import { TerminalSheet } from './terminal-sheet.tsx'
import { RunGlassCard } from './run-glass.tsx'
import { expectationOf } from './expectation.ts'
import { runNow, runsOf, settleUs } from './runs.ts'
import styles from './exchanges.module.css'
import station from '../../parts/station.module.css'

/** A touch so soon after the end needs no step that waits, ms. */
const leastWaitMs = 20

/** Scripted checks: the list, the run as a time diagram in which the steps are edited, the glass at any moment of it. */
export function ExchangesStation() {
  const session = useSession()
  const folding = useFolding()
  const project = useProject()
  const runs = runsOf(session)
  const state = useStore(runs.store, (s) => s)
  const [picked, setPicked] = useState<string | null>(null)
  const [step, setStep] = useState<string | null>(null)
  const [at, setAt] = useState<{ run: ExchangeRun | null; us: number } | null>(null)
  const order = project.exchangeOrder
  const current = project.exchanges[(picked ?? order[0] ?? '') as ExchangeId] ?? project.exchanges[order[0] as ExchangeId]
  const run = runNow(state, current)
  // Before the first step the glass is shown as soon as it can be touched: after a splash.
  const isEmpty = !current?.stepOrder.length
  const atUs = at && at.run === run ? at.us : isEmpty ? null : (run?.endUs ?? settleUs)
  const pickStep = (id: string | null) => {
    setStep(id)
    const result = run?.steps.find((s) => s.id === id)
    if (result && result.status !== 'not run') setAt({ run, us: result.atUs })
  }
  /** Where the focus goes when what was added has come: the glass of a new exchange, the first word of a new step. */
  const wanted = useRef<'glass' | 'step' | null>(null)
  const addExchange = () => {
    const id = freshId('exchange')
    if (!session.edit('add exchange', { id, after: '' })) return
    setPicked(id)
    setStep(null)
    wanted.current = 'glass'
  }
  /** Steps after the one that is picked, or at the end; in a new exchange where there is none. The last of them is picked. */
  const addSteps = (...added: { kind: StepKind; settings?: Record<string, unknown> }[]): string | null => {
    const steps = added.map((one) => ({ id: freshId('step'), ...one }))
    const exchange = current?.id ?? freshId('exchange')
    const after = step && current && step in current.steps ? step : (current?.stepOrder.at(-1) ?? '')
    const done = current
      ? session.edit('add steps', { exchange, steps, after })
      : session.edit('add exchange', { id: exchange, after: '', steps })
    if (!done) return null
    setPicked(exchange)
    setStep(steps.at(-1)!.id)
    return exchange
  }
  const addStep = (kind: StepKind) => {
    if (addSteps({ kind })) wanted.current = 'step'
  }
  useEffect(() => {
    const to =
      wanted.current === 'glass'
        ? document.querySelector<HTMLElement>('[data-glass="run"]')
        : wanted.current === 'step'
          ? document.querySelector<HTMLElement>('[data-picked] input, [data-picked] button')
          : null
    if (!to) return
    wanted.current = null
    // The menu that it was chosen from gives the focus back first.
    const timer = setTimeout(() => to.focus(), 0)
    return () => clearTimeout(timer)
  }, [current?.id, step])
  const runCurrent = () => current && void runs.run([current.id])
  /** A frame picked from the run, a touch or a value on the glass is a step at once, and is run; `us`: as it was then. */
  const show = (kind: StepKind, settings: Record<string, unknown>, us?: number) => {
    const isLast = !current || !step || step === current.stepOrder.at(-1) || !(step in current.steps)
    const endUs = isEmpty ? settleUs : run?.endUs
    // Where that was later than the end, it waits until then.
    const ms = isLast && us !== undefined && endUs !== undefined ? Math.ceil((us - endUs) / 1000) : 0
    const exchange = addSteps(...(ms > leastWaitMs ? [{ kind: 'wait' as const, settings: { ms } }] : []), { kind, settings })
    if (exchange) void runs.run([exchange])
  }
  const walk = (by: number) => {
    if (!current) return
    const to = current.stepOrder[Math.min(Math.max(current.stepOrder.indexOf(step ?? '') + by, 0), current.stepOrder.length - 1)]
    if (to) pickStep(to)
  }
  useKeys([
    ['ArrowUp', () => isFree() && walk(-1)],
    ['ArrowDown', () => isFree() && walk(1)],
    ['n', addExchange],
    ['r', runCurrent],
    ['s', () => walk(1)],
  ])
  const onKey = (e: KeyboardEvent) => {
    if (!current || e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement) return
    const index = current.stepOrder.indexOf(step ?? '')
    const by = { ArrowUp: -1, ArrowDown: 1 }[e.key]
    if (!step) {
      if (!by) return
      walk(by)
    } else if (by && e.altKey) {
      const after = by < 0 ? (current.stepOrder[index - 2] ?? null) : current.stepOrder[index + 1]
      if (index + by >= 0 && after !== undefined) session.edit('move step', { exchange: current.id, id: step, after })
    } else if (by) walk(by)
    else if (e.key === 'Delete' || e.key === 'Backspace') {
      session.edit('delete step', { exchange: current.id, id: step })
      pickStep(current.stepOrder[index + 1] ?? current.stepOrder[index - 1] ?? null)
    } else return
    e.preventDefault()
  }
  return (
    <div className={`${folding} ${styles.exchanges}`} data-sided>
      <ExchangeList
        project={project}
        current={current}
        onPick={(id) => (setPicked(id), setStep(null), setAt(null))}
        onAdd={addExchange}
      />
      {current ? (
        <section className={station.card} aria-label={`Exchange ${current.name}`} onKeyDown={onKey} tabIndex={-1} data-walks>
          <ExchangeHead exchange={current} busy={state.busy !== null} run={run} onRun={runCurrent} onStep={addStep} />
          <div
            className={`${station.scroll} grow ${styles.ground}`}
            data-station-home
            tabIndex={0}
            role="group"
            aria-label="Steps of the exchange"
          >
            <div className={styles.lanes} aria-hidden>
              <span className={styles.lanePanel}>panel</span>
              <span className={styles.laneHost}>host</span>
            </div>
            <Diagram
              project={project}
              exchange={current}
              run={run}
              picked={step}
              onPick={pickStep}
              atUs={atUs ?? settleUs}
              onAt={(us) => setAt({ run, us })}
              onExpect={(entry) => {
                const wanted = expectationOf(project, entry)
                if (wanted) show(wanted.kind, wanted.values)
              }}
            />
            {!current.stepOrder.length && <p className={station.empty}>No steps. Touch the glass on the right, or + Step.</p>}
            <Verdict run={run} />
          </div>
          <div className={styles.foot}>
            <span className="key">↑</span> <span className="key">↓</span> select <span className="key">Alt ↑</span> reorder{' '}
            <span className="key">⌫</span> delete{' '}
            <span className="key" aria-hidden>
              R
            </span>{' '}
            run <span className="key">S</span> next step
          </div>
        </section>
      ) : (
        <section className={station.card} />
      )}
      <div className={`stack ${styles.runSide}`} data-side>
        <RunGlassCard
          key={current?.id}
          project={project}
          exchange={current?.id ?? null}
          run={run}
          atUs={atUs}
          onAt={(us) => setAt({ run, us })}
          onTouch={(widget, us) => show('touch', { widget: widget.id }, us)}
          onValue={(widget, text, us) => show('expect shown', { widget: widget.id, text }, us)}
        />
        <FindingBar station="Exchanges" />
      </div>
    </div>
  )
}

/** Whether the arrows are nobody’s: of a list, a menu, a slider or the glass they are its own. */
const isFree = (): boolean =>
  !document.activeElement?.closest(
    '[data-walks], [role="listbox"], [role="menu"], [role="slider"], [role="application"], [role="dialog"], [aria-expanded="true"]',
  )

interface ListProps {
  project: Project
  current: Exchange | undefined
  onPick(id: string): void
  onAdd(): void
}

function ExchangeList({ project, current, onPick, onAdd }: ListProps) {
  const session = useSession()
  const runs = runsOf(session)
  const state = useStore(runs.store, (s) => s)
  const order = project.exchangeOrder
  return (
    <section className={station.card} aria-label="Exchanges" data-side>
      <header>
        <h2 className="grow">{order.length === 1 ? '1 exchange' : `${order.length} exchanges`}</h2>
        {state.busy ? (
          <Button onClick={() => runs.stop()}>Stop</Button>
        ) : (
          <Button disabled={!order.length} onClick={() => void runs.run(order)}>
            Run all
          </Button>
        )}
      </header>
      <Box className={station.body} pt={0} px={8} pb={10}>
        {order.map((id) => {
          const exchange = project.exchanges[id]!
          const run = runNow(state, exchange)
          const busy = state.busy === id
          return (
            <UnstyledButton
              key={id}
              className={station.listed}
              aria-current={id === current?.id ? true : undefined}
              onClick={() => onPick(id)}
            >
              <Mark status={busy ? 'busy' : run ? (run.passed ? 'passed' : 'failed') : 'not run'} />
              <span className="grow">{exchange.name}</span>
              <span className={`small ${run && !run.passed ? 'bad' : 'muted'}`}>
                {busy
                  ? state.progress
                    ? `step ${state.progress.done + 1} of ${state.progress.of}, ${(state.progress.nowUs / 1e6).toFixed(0)} s`
                    : 'runs'
                  : run
                    ? verdictWords(run)
                    : ''}
              </span>
            </UnstyledButton>
          )
        })}
        <Button my={8} mx={4} onClick={onAdd}>
          + Exchange{' '}
          <span className="key" aria-hidden>
            N
          </span>
        </Button>
        {!order.length && (
          <NothingYet label="Add an exchange" to={onAdd}>
            An exchange is a script: touch a widget, then check the report and the glass.
          </NothingYet>
        )}
      </Box>
    </section>
  )
}

function verdictWords(run: ExchangeRun): string {
  if (run.passed) return `${(run.endUs / 1e6).toFixed(1)} s`
  if (!run.steps.length) return 'no steps'
  const failed = run.steps.findIndex((s) => s.status === 'failed')
  return failed >= 0 ? `step ${failed + 1}` : 'unexpected report'
}

interface HeadProps {
  exchange: Exchange
  busy: boolean
  run: ExchangeRun | null
  onRun(): void
  onStep(kind: StepKind): void
}

function ExchangeHead({ exchange, busy, run, onRun, onStep }: HeadProps) {
  const session = useSession()
  const set = (values: Partial<Exchange>) => session.edit('set exchange', { id: exchange.id, values })
  const failed = run?.steps.findIndex((s) => s.status === 'failed') ?? -1
  return (
    <>
      <header>
        <Box component="span" className="grow" fw={700}>
          <TextField
            label="Name of the exchange"
            value={exchange.name}
            isName
            check={(t) => (t.trim() ? null : 'Enter a name.')}
            onCommit={(name) => set({ name })}
          />
        </Box>
        <Button variant="filled" disabled={busy} onClick={onRun}>
          Run{' '}
          <span className="key" aria-hidden>
            R
          </span>
        </Button>
        <Menu position="bottom-end" width={220}>
          <Menu.Target>
            <Button>+ Step</Button>
          </Menu.Target>
          <Items>
            {stepKindNames().map((kind) => (
              <Menu.Item key={kind} onClick={() => onStep(kind)}>
                {stepKind(kind).label}
              </Menu.Item>
            ))}
          </Items>
        </Menu>
        <TerminalSheet project={session.project} exchange={exchange} />
        <Button onClick={() => session.edit('delete exchange', { id: exchange.id })}>Delete</Button>
      </header>
      <div className={styles.under}>
        <Sentence className={styles.sentence}>
          Random seed
          <NumberField label="Seed" value={exchange.seed} min={0} max={4294967295} whole onCommit={(seed) => set({ seed })} /> ·
          unexpected reports
          <Choice
            label="Unexpected reports"
            value={exchange.allowsOthers ? 'ignore' : 'fail'}
            options={[
              { value: 'fail', label: 'fail' },
              { value: 'ignore', label: 'ignore' },
            ]}
            onChange={(v) => set({ allowsOthers: v === 'ignore' })}
          />
        </Sentence>
        {failed >= 0 && (
          <strong className="bad small end">
            step {failed + 1} failed at {(run!.steps[failed]!.atUs / 1e6).toFixed(3)} s
          </strong>
        )}
      </div>
    </>
  )
}

function Verdict({ run }: { run: ExchangeRun | null }) {
  if (!run) return null
  return (
    <div className={styles.verdict}>
      {run.leftOver && (
        <p className="bad">
          {exchangeProblemWords({ code: 'exchange.left-over', facts: {} })}{' '}
          {run.leftOver.said ? sentenceOf(run.leftOver.said) : ''}
        </p>
      )}
      <strong className={run.passed ? 'ok' : 'bad'} role="status">
        {run.passed
          ? `Passed (${(run.endUs / 1e6).toFixed(3)} s simulated)`
          : run.steps.length
            ? 'Failed'
            : 'No steps: nothing was checked'}
      </strong>
    </div>
  )
}
