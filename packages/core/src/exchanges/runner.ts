import type { Build, HostBuild } from '../compile/index.ts'
import type { Values } from '../describe/index.ts'
import { Rig, type Entry } from '../rig/index.ts'
import { registerStepKind, stepKind, type CompiledStep } from '../scripts/index.ts'
import type { CompiledExchange } from './compiled.ts'
import { doing } from './doing.ts'
import { expecting } from './expecting.ts'
import { fail, Watch, type Outcome, type Slices, type StepResult } from './watch.ts'

export interface ExchangeResult {
  passed: boolean
  steps: StepResult[]
  /** A report or event that no step expected, at the end. */
  leftOver: Entry | null
  endUs: number
  rig: Rig
}

/** Panel and host have started and synchronised by then. */
export const settleUs = 1_500_000
/** While nothing can be touched, the glass is looked at so often, µs. */
const lookUs = 50_000
/** After a failure the run goes on for so long, to show what came too late. */
const afterUs = 1_000_000
/** Observers run when all else of that instant is done. */
const watchSource = 9
/** An exchange is given up after so much virtual time. */
const mostUs = 3_600_000_000

/** How far an exchange has come: steps that are done, of how many. */
export interface Progress {
  done: number
  of: number
  nowUs: number
}

/**
 * How a kind of step is run. Null: it holds; else what was expected and came. An essential variable or widget that is missing has
 * failed it before it is run.
 */
export type RunStep = (watch: Watch, settings: never) => Slices<Outcome>
const runs = new Map<string, RunStep>(Object.entries({ ...doing, ...expecting }))

/** Adds a kind of step with how it is run; a test takes it out again with the function it gets back. */
export function registerStep(kind: string, record: Parameters<typeof registerStepKind>[1], run: RunStep): () => void {
  const gone = registerStepKind(kind, record)
  runs.set(kind, run)
  return () => {
    runs.delete(kind)
    gone()
  }
}

/** Panel and host on a clock of their own, started and synchronised: where an exchange is run. */
export function readyRig(build: Build, hostBuild: HostBuild, seed: number): Rig {
  const rig = new Rig(build, hostBuild, seed)
  rig.advance(settleUs)
  return rig
}

/** Work in slices, done without a break. */
export function atOnce<T>(slices: Generator<unknown, T>): T {
  for (let at = slices.next(); ; at = slices.next()) if (at.done) return at.value
}

/** Runs one exchange on a rig that is its own and has been made ready. The same rig and exchange always give the same result. */
export class Runner {
  private watch: Watch
  readonly results: StepResult[]
  private next = 0

  constructor(
    readonly rig: Rig,
    private exchange: CompiledExchange,
  ) {
    this.watch = new Watch(rig, exchange.allowsOthers)
    this.results = exchange.steps.map(({ id }) => ({ ...empty, id, status: 'not run' }))
  }

  /** Has something looked at when the panel's time comes to `atUs`; the run is the same as without. */
  whenAt(atUs: number, look: () => void): void {
    this.rig.clock.at(Math.max(atUs, this.rig.nowUs), watchSource, look)
  }

  /** Runs the next step; false when there is none, or the one before failed. */
  private *step(): Slices<boolean> {
    const step = this.exchange.steps[this.next]
    if (!step || this.results[this.next - 1]?.status === 'failed') return false
    const fromUs = this.rig.nowUs
    const outcome = this.rig.nowUs > mostUs ? fail('too-long', {}) : yield* this.run(step)
    this.results[this.next] = {
      ...empty,
      ...outcome,
      id: step.id,
      status: outcome?.problem ? 'failed' : 'passed',
      fromUs,
      atUs: this.rig.nowUs,
    }
    this.next++
    return true
  }

  /** Has time go by after its end until something may be touched, no longer than `mostMs`; says whether something may. */
  *waitForTouch(mostMs: number): Slices<boolean> {
    const { rig } = this
    const last = rig.nowUs + mostMs * 1000
    while (!rig.panel.canBeTouched && rig.nowUs < last) {
      rig.advance(lookUs)
      yield
    }
    return rig.panel.canBeTouched
  }

  /** Has time go by after its end. */
  pass(us: number): Slices<void> {
    return this.watch.pass(us)
  }

  /** The whole exchange; who asks may stop between any two slices. */
  *slices(): Generator<Progress, ExchangeResult> {
    for (let running = true; running;) {
      const step = this.step()
      for (let at = step.next(); ; at = step.next()) {
        if (at.done) {
          running = at.value
          break
        }
        yield { done: this.next, of: this.exchange.steps.length, nowUs: this.rig.nowUs }
      }
    }
    return this.result()
  }

  /** The whole exchange at once. */
  finish(): ExchangeResult {
    return atOnce(this.slices())
  }

  private result(): ExchangeResult {
    const failed = this.results.some((r) => r.status === 'failed')
    const leftOver = failed || this.exchange.allowsOthers ? null : this.watch.spoken()()
    const endUs = this.rig.nowUs
    if (failed) this.rig.advance(afterUs)
    // One that asks for nothing has not shown anything.
    return { passed: this.results.length > 0 && !failed && !leftOver, steps: this.results, leftOver, endUs, rig: this.rig }
  }

  /** A required reference of the step is missing or was deleted. */
  private lacks(step: CompiledStep): Outcome {
    const settings = step.settings as Values
    const field = stepKind(step.kind).settings.list.find(
      ({ key, essential, type }) => essential && settings[key] === null && (type.name === 'variable' || type.name === 'widget'),
    )
    return field ? fail(`no-${field.type.name}`, {}) : null
  }

  private *run(step: CompiledStep): Slices<Outcome> {
    return this.lacks(step) ?? (yield* runs.get(step.kind)!(this.watch, step.settings as never))
  }
}

const empty: Omit<StepResult, 'id'> = {
  status: 'not run',
  fromUs: 0,
  atUs: 0,
  problem: null,
  expected: '',
  came: '',
  expectedBytes: null,
  cameBytes: null,
  direction: 'to host',
  entry: null,
}

export const runExchange = (build: Build, hostBuild: HostBuild, exchange: CompiledExchange): ExchangeResult =>
  new Runner(readyRig(build, hostBuild, exchange.seed), exchange).finish()
