import { ActionIcon, Box, Button, Checkbox, FileButton, Textarea, Tooltip } from '@mantine/core'
import { Maximize2, Minimize2, X } from 'lucide-react'
import { useCallback, useMemo, useRef, useState, type ClipboardEvent, type DragEvent } from 'react'
import type { ExchangeId } from '@moth-lamp/core/base'
import type { LogPart } from '@moth-lamp/core/explain'
import type { Direction } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { Choice } from '../../../controls/choice.tsx'
import { FindField } from '../../../controls/find-field.tsx'
import { CalculatorButton } from '../../../parts/calculator-button.tsx'
import { useProtocol } from '../../../parts/protocol.ts'
import { useSession } from '../../../session/context.tsx'
import { Picked } from './compare.tsx'
import { Judged } from './judged.tsx'
import { LogTable } from './log-table.tsx'
import { noFilter, useLog, useSource, type ReadLog, type Source } from './use-log.ts'
import styles from './explain.module.css'
import station from '../../../parts/station.module.css'

/** A longer text is no text of a field: it is read from where it is. */
const mostTyped = 60_000

interface Props {
  project: Project
  isWide: boolean
  onWide(isWide: boolean): void
}

/** A pasted frame or log beside its reading, stretch by stretch. */
export function ExplainCard({ project, isWide, onWide }: Props) {
  const session = useSession()
  const [source, setSource] = useSource(session)
  const [as, setAs] = useState<'' | Direction>('')
  const [filter, setFilter] = useState(noFilter)
  const [wanted, setWanted] = useState<{ at: number; n: number } | null>(null)
  const [[picked, other], setPicked] = useState<[LogPart | null, LogPart | null]>([null, null])
  const [judging, setJudging] = useState('')
  const exchange = project.exchanges[judging as ExchangeId] ?? null
  const log = useLog(project, source, as || null, filter, exchange, (at) => {
    if (at === null) session.say('No frame is wrong.')
    else setWanted((before) => ({ at, n: (before?.n ?? 0) + 1 }))
  })
  const again = useRef<() => void>(null)
  const { reading } = log
  const put = (next: Source) => (setSource(next), setPicked([null, null]), setFilter(noFilter))
  const take = (name: string, of: string | Blob) =>
    put({ kind: 'log', name, of, size: typeof of === 'string' ? of.length : of.size })
  const onDrop = (e: DragEvent) => {
    const file = e.dataTransfer.files[0]
    if (!file) return
    e.preventDefault()
    take(file.name, file)
  }
  const pick = useCallback(
    (part: LogPart, isOther: boolean) => setPicked(([before]) => (isOther && before ? [before, part] : [part, null])),
    [],
  )
  const isLong = (reading?.good ?? 0) + (reading?.bad ?? 0) > 12
  const shown = reading?.passing ? reading : null
  return (
    <section
      className={`${station.card} ${isWide ? styles.wide : ''}`}
      aria-label="Explain bytes"
      onDrop={onDrop}
      onDragOver={(e) => e.preventDefault()}
    >
      <header>
        <h2>Explain bytes</h2>
        <Status log={log} />
        <span className="end" />
        <CalculatorButton />
        <FileButton
          resetRef={again}
          onChange={(file) => {
            // The same file may be opened again.
            again.current?.()
            if (file) take(file.name, file)
          }}
          inputProps={{ 'aria-label': 'Log file' }}
        >
          {({ onClick }) => (
            <Button size="compact-xs" onClick={onClick}>
              Open a log …
            </Button>
          )}
        </FileButton>
        <Box component="span" w={172}>
          <Choice
            label="Read as"
            value={as}
            options={[
              { value: '', label: 'auto-detect direction' },
              { value: 'to panel', label: 'host → panel' },
              { value: 'to host', label: 'panel → host' },
            ]}
            onChange={(d) => setAs(d as typeof as)}
          />
        </Box>
        <Tooltip label={isWide ? 'back to the layout' : 'whole station'}>
          <ActionIcon
            variant="subtle"
            size={24}
            aria-label={isWide ? 'Explain small' : 'Explain large'}
            onClick={() => onWide(!isWide)}
          >
            {isWide ? <Minimize2 size={14} /> : <Maximize2 size={14} />}
          </ActionIcon>
        </Tooltip>
      </header>
      <div className={`${station.body} ${styles.explain}`}>
        <SourceField source={source} isTall={isWide} onPut={put} onLog={take} />
        <div className={styles.readings} aria-busy={log.isBusy}>
          {(isLong || (isWide && reading)) && (
            <div className={styles.tools}>
              <FindField
                label="Find in the log"
                width={190}
                placeholder="name, operation or hex"
                value={filter.text}
                onChange={(text) => setFilter({ ...filter, text })}
              />
              <Checkbox
                label="wrong only"
                checked={filter.isWrong}
                onChange={(e) => setFilter({ ...filter, isWrong: e.currentTarget.checked })}
              />
              <Button size="compact-xs" disabled={!reading?.passing} onClick={() => log.nextWrong(placeAfter(reading, picked))}>
                Next wrong{' '}
                <span className="key" aria-hidden>
                  F
                </span>
              </Button>
              {project.exchangeOrder.length > 0 && (
                <Box component="span" w={190} className="end">
                  <Choice
                    label="Exchange to judge"
                    value={judging}
                    options={[
                      { value: '', label: 'judge an exchange …' },
                      ...project.exchangeOrder.map((id) => ({ value: id as string, label: project.exchanges[id]!.name })),
                    ]}
                    onChange={setJudging}
                  />
                </Box>
              )}
              {reading && (
                <span className="muted small">{reading.passing.toLocaleString('en-GB').replaceAll(',', ' ')} shown</span>
              )}
            </div>
          )}
          <Remarks log={log} isEmpty={source.kind === 'typed' && !source.text.trim()} />
          {shown && (
            <LogTable
              reading={shown}
              picked={picked}
              other={other}
              wanted={wanted}
              onSeen={log.look}
              onNextWrong={log.nextWrong}
              onPick={pick}
            />
          )}
          {exchange && reading && (
            <Judged
              project={project}
              exchange={exchange}
              judged={log.judged}
              onRow={(row) => {
                setFilter(noFilter)
                setWanted((before) => ({ at: row, n: (before?.n ?? 0) + 1 }))
              }}
              onClose={() => setJudging('')}
            />
          )}
          {picked && <Picked picked={picked} other={other} onClose={() => setPicked([null, null])} />}
        </div>
      </div>
    </section>
  )
}

/** The place behind the row that is picked. */
const placeAfter = (reading: ReadLog['reading'], picked: LogPart | null): number => {
  const at = picked && reading ? reading.parts.findIndex(({ row }) => row === picked.row) : -1
  return at < 0 || !reading ? 0 : reading.from + at + 1
}

function Status({ log: { reading, isBusy, stop } }: { log: ReadLog }) {
  if (isBusy && !reading) return <Told>reading …</Told>
  if (!reading) return null
  return (
    <>
      <Told>
        <strong>{reading.good}</strong> {reading.good === 1 ? 'frame' : 'frames'}
        {reading.bad > 0 && <strong className="bad"> · {reading.bad} wrong</strong>}
        {reading.share < 1 && (
          <span className="muted">
            {' '}
            · {Math.round(reading.share * 100)} % read{reading.isDone ? ', stopped' : ''}
          </span>
        )}
      </Told>
      {!reading.isDone && (
        <Button size="compact-xs" onClick={stop}>
          Stop
        </Button>
      )}
    </>
  )
}

const Told = ({ children }: { children: React.ReactNode }) => (
  <span className="small" role="status">
    {children}
  </span>
)

interface SourceProps {
  source: Source
  isTall: boolean
  onPut(source: Source): void
  onLog(name: string, of: string): void
}

function SourceField({ source, isTall, onPut, onLog }: SourceProps) {
  const protocol = useProtocol()
  const isText = protocol !== null && (protocol.isText['to panel'] || protocol.isText['to host'])
  if (source.kind === 'log')
    return (
      <div className={styles.file}>
        <strong className="cut">{source.name}</strong>
        <span className="muted small">{(source.size / 1e6).toFixed(1)} MB</span>
        <Tooltip label="remove the log">
          <ActionIcon variant="subtle" size={22} aria-label="Remove the log" onClick={() => onPut({ kind: 'typed', text: '' })}>
            <X size={13} />
          </ActionIcon>
        </Tooltip>
      </div>
    )
  const onPaste = (e: ClipboardEvent) => {
    const text = e.clipboardData.getData('text/plain')
    if (text.length <= mostTyped) return
    e.preventDefault()
    onLog('pasted log', text)
  }
  return (
    <Textarea
      rows={isTall ? 16 : source.text ? 4 : 1}
      aria-label="Bytes to explain"
      placeholder={isText ? '21:47:06.512 TX dome_target = 231.0' : '21:47:06.512 TX 7E 51 12 00 06 09 97 82 7E'}
      value={source.text}
      classNames={{ input: 'mono' }}
      spellCheck={false}
      onPaste={onPaste}
      onChange={(e) => {
        const text = e.currentTarget.value
        if (text.length > mostTyped) onLog('pasted log', text)
        else onPut({ kind: 'typed', text })
      }}
    />
  )
}

/** Remarks on a log besides its frames. */
function Remarks({ log, isEmpty }: { log: ReadLog; isEmpty: boolean }) {
  const { reading, failed, isBusy } = log
  const protocol = useProtocol()
  const lines = useMemo(() => {
    if (isEmpty) return [{ words: 'Decoded frames appear here. Time stamps, TX/RX, 0x and commas are ignored.', isBad: false }]
    if (failed) return [{ words: `Decoding failed: ${failed}.`, isBad: true }]
    if (!reading) return isBusy || protocol ? [] : [{ words: 'The frame layout is invalid: see above.', isBad: true }]
    const wrong = reading.wrong
      .slice(0, 5)
      .map(({ line, token }) => ({ words: `line ${line}: “${token}” ignored (not a byte)`, isBad: true }))
    const { passedOver } = reading
    return [
      ...wrong,
      ...(!reading.good && !reading.bad && reading.isDone
        ? [{ words: 'No hex bytes found. Example: 7E 51 12 00.', isBad: true }]
        : []),
      ...(passedOver ? [{ words: `${passedOver} ${passedOver === 1 ? 'line' : 'lines'} without bytes.`, isBad: false }] : []),
    ]
  }, [isEmpty, failed, reading, isBusy, protocol])
  return lines.map(({ words, isBad }) => (
    <p key={words} className={`small ${isBad ? 'bad' : 'muted'}`}>
      {words}
    </p>
  ))
}
