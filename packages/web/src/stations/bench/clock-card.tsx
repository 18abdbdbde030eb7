import { Box, Button, Group, Progress, SegmentedControl } from '@mantine/core'
import { Power } from 'lucide-react'
import { useState } from 'react'
import { NumberField, YesNo } from '../../controls/fields.tsx'
import { useKeys } from '../../controls/keys.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { seconds } from './words.ts'
import styles from './bench.module.css'
import station from '../../parts/station.module.css'

const speeds = [
  { value: '0.1', label: '1/10' },
  { value: '0.5', label: '½' },
  { value: '1', label: '1' },
  { value: '4', label: '4' },
  { value: '10', label: '10' },
]

/** The clock of panel and host: held, stepped, faster; and the power of both. */
export function ClockCard() {
  const session = useSession()
  const running = useStore(session.live, (l) => l.running)
  const speed = useStore(session.live, (l) => l.speed)
  const silent = useStore(session.live, (l) => l.silent)
  const [stepMs, setStepMs] = useState(100)
  const hold = () => session.setClock(!session.live.value.running)
  useKeys([
    ['h', hold],
    ['space', () => document.activeElement instanceof HTMLButtonElement || hold()],
  ])
  return (
    <section className={station.card} aria-label="Clock and power">
      <header>
        <h2>Clock</h2>
        <TimeNow />
      </header>
      <div className={`${station.body} stack`}>
        <span className="row">
          <Button flex="none" aria-pressed={!running} onClick={hold} miw={78}>
            {running ? 'Pause' : 'Run'}{' '}
            <span className="key" aria-hidden>
              H
            </span>
          </Button>
          <Button flex="none" disabled={running} onClick={() => session.worker.send({ type: 'step', us: stepMs * 1000 })}>
            Step
          </Button>
          <NumberField label="Step length" value={stepMs} min={1} max={600_000} whole unit="ms" onCommit={setStepMs} />
        </span>
        <Stepping />
        <div className={styles.line}>
          <span className="muted small">Speed</span>
          <SegmentedControl
            aria-label="Speed"
            fullWidth
            value={String(speed)}
            data={speeds}
            onChange={(s) => session.setClock(undefined, Number(s))}
          />
        </div>
        <div className={styles.line}>
          <span className="muted small">Power cycle</span>
          <Button.Group>
            <Button
              aria-label="Power cycle both"
              title="restarts panel and host at 0.000 s"
              onClick={() => session.worker.send({ type: 'restart' })}
            >
              <Power size={12} /> <Box ml={4}>both</Box>
            </Button>
            <Button aria-label="Power cycle the panel" onClick={() => session.worker.send({ type: 'power', which: 'panel' })}>
              panel
            </Button>
            <Button aria-label="Power cycle the host" onClick={() => session.worker.send({ type: 'power', which: 'host' })}>
              host
            </Button>
          </Button.Group>
        </div>
        <YesNo
          label="Disconnect host"
          words="Disconnect host"
          value={silent}
          onChange={(is) => session.worker.send({ type: 'host silent', silent: is })}
        />
      </div>
    </section>
  )
}

/** A step that takes long: how much of it has passed, and a way to stop it. */
function Stepping() {
  const session = useSession()
  const part = useStore(session.live, (l) => (l.stepping ? Math.floor((100 * l.stepping.doneUs) / l.stepping.ofUs) : null))
  if (part === null) return null
  return (
    <Group gap={6} wrap="nowrap" role="status">
      <Progress flex={1} aria-label="Step progress" value={part} />
      <span className="small mono">{part} %</span>
      <Button size="compact-xs" onClick={() => session.worker.send({ type: 'stop step' })}>
        Stop
      </Button>
    </Group>
  )
}

/** While the clock runs, tenths are enough for the eye, and cost little; held, it is told to the millisecond. */
function TimeNow() {
  const session = useSession()
  const words = useStore(session.live, (l) =>
    l.running ? `${(Math.floor(l.nowUs / 100_000) / 10).toFixed(1)} s` : seconds(l.nowUs),
  )
  return (
    <output className="end mono" aria-label="Time since power-on">
      {words}
    </output>
  )
}
