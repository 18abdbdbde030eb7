import { Button, Group } from '@mantine/core'
import { exchangeProblemWords, type StepResult } from '@moth-lamp/core/exchanges'
import type { VariableId } from '@moth-lamp/core/base'
import type { Project } from '@moth-lamp/core/project'
import type { Step } from '@moth-lamp/core/scripts'
import { Bytes } from '../../parts/frame.tsx'
import { useRunningProtocol } from '../../parts/protocol.ts'
import { useSession } from '../../session/context.tsx'
import type { ExchangeRun } from '../../worker/messages.ts'
import styles from './exchanges.module.css'

interface Props {
  project: Project
  exchange: string
  step: Step
  result: StepResult
  run: ExchangeRun
}

/** Why a step failed: what was expected beside what came, byte by byte, and what would mend it. */
export function Why({ project, exchange, step, result, run }: Props) {
  const session = useSession()
  const protocol = useRunningProtocol()
  const bytes = (b: Uint8Array | null, other: Uint8Array | null) =>
    b && protocol ? <Bytes bytes={b} anatomy={protocol.dissect(result.direction, b)} differsFrom={other} /> : null
  const settings = step.settings as Record<string, unknown>
  const variable = project.variables[settings['variable'] as VariableId]
  const late = cameLate(project, step, result, run)
  const untold = step.kind === 'expect report' && variable?.travels === 'host to panel'
  return (
    <div className={styles.why}>
      {(result.expected || result.expectedBytes) && (
        <div className={styles.compared}>
          <span>Expected</span>
          <strong className="mono">{result.expected}</strong>
          {bytes(result.expectedBytes, null)}
        </div>
      )}
      {(result.came || result.cameBytes) && (
        <div className={styles.compared}>
          <span>Received</span>
          <strong className="mono bad">{result.came}</strong>
          {bytes(result.cameBytes, result.expectedBytes)}
        </div>
      )}
      <div role="alert">
        {result.problem ? exchangeProblemWords(result.problem) : ''}{' '}
        {late && (
          <>
            Continued run: {result.expected} at {(late.atUs / 1e6).toFixed(3)},{' '}
            <strong className="bad">{Math.round((late.atUs - result.atUs) / 1000)} ms late.</strong>
          </>
        )}
        {untold && `${variable.name} is host → panel only and is never reported.`}
      </div>
      <Group gap={5}>
        {late && (
          <Button
            size="compact-xs"
            onClick={() => session.edit('set step', { exchange, id: step.id, values: { withinMs: late.withinMs } })}
          >
            Change limit to {late.withinMs} ms
          </Button>
        )}
        {untold && (
          <Button
            size="compact-xs"
            onClick={() => session.edit('set variable', { id: variable.id, values: { travels: 'both' } })}
          >
            Set direction to both
          </Button>
        )}
      </Group>
    </div>
  )
}

/** Expected frame that came too late, in the second the run went on for; null where it did not. */
function cameLate(project: Project, step: Step, result: StepResult, run: ExchangeRun): { atUs: number; withinMs: number } | null {
  const { variable, withinMs } = step.settings as { variable?: string; withinMs?: number }
  const name = variable && project.variables[variable as VariableId]?.name
  if (!name || withinMs === undefined) return null
  const what = step.kind === 'expect report' ? 'report' : 'write'
  const [value] = result.expected.split(' ± ')
  const found = run.entries.find(
    (e) => e.kind === 'frame' && e.toUs > result.atUs && e.said?.what === what && e.said.name === name && e.said.value === value,
  )
  return found ? { atUs: found.toUs, withinMs: Math.ceil((found.toUs - result.fromUs) / 100_000) * 100 } : null
}
