import { Box, Button, Textarea } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'
import { mostLogLines, type LogPart } from '@moth-lamp/core/explain'
import type { Direction } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { Choice } from '../../controls/choice.tsx'
import { Bytes } from '../../parts/frame.tsx'
import { useProtocol } from '../../parts/protocol.ts'
import { LogReader } from '../../worker/log-reader.ts'
import type { LogReading } from '../../worker/messages.ts'
import styles from './frames.module.css'
import station from '../../parts/station.module.css'

/** So many stretches are shown at once. */
const perLook = 200
/** A longer text is not taken in. */
const mostCharacters = 2_000_000

/** A pasted frame or log beside its reading, line by line. */
export function ExplainCard({ project }: { project: Project }) {
  const [text, setText] = useState('')
  const [as, setAs] = useState<'' | Direction>('')
  const { read, reading, failed, more } = useReading(project, text, as || undefined)
  const protocol = useProtocol()
  const isText = protocol !== null && (protocol.isText['to panel'] || protocol.isText['to host'])
  const tooLong = text.length >= mostCharacters
  return (
    <section className={station.card} aria-label="Explain bytes">
      <header>
        <h2>Explain bytes</h2>
        <span className="muted small">
          {isText
            ? 'Paste lines or a log; hex is read too.'
            : 'Paste a frame or log. Time stamps, TX/RX, 0x and commas are ignored.'}
        </span>
        {reading && (
          <span className="small muted" role="status">
            reading …
          </span>
        )}
        {read && !reading && (
          <span className="small" role="status">
            <strong>{read.good}</strong> {read.good === 1 ? 'frame' : 'frames'}
            {read.bad > 0 && <strong className="bad"> · {read.bad} wrong</strong>}
          </span>
        )}
        <Box component="span" className="end" w={172}>
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
      </header>
      <div className={`${station.body} ${styles.explain}`}>
        <Textarea
          rows={text ? 4 : 1}
          aria-label="Bytes to explain"
          placeholder={isText ? '21:47:06.512 TX dome_target = 231.0' : '21:47:06.512 TX 7E 51 12 00 06 09 97 82 7E'}
          value={text}
          classNames={{ input: 'mono' }}
          spellCheck={false}
          onChange={(e) => setText(e.currentTarget.value.slice(0, mostCharacters))}
        />
        <div
          className={styles.readings}
          aria-live="polite"
          aria-busy={reading}
          tabIndex={0}
          role="log"
          aria-label="Decoded frames"
        >
          {!text.trim() && <p className="muted small">Decoded frames appear here.</p>}
          {text.trim() && !read && !reading && (
            <p className="bad">{failed ? `Decoding failed: ${failed}.` : 'The frame layout is invalid: see above.'}</p>
          )}
          {read?.wrong.map(({ line, token }, i) => (
            <div key={i} className="bad small">
              line {line}: “{token}” ignored (not a byte)
            </div>
          ))}
          {read?.parts.map((part) => (
            <Reading key={`${part.line} ${part.from} ${part.direction}`} part={part} />
          ))}
          {read && !read.parts.length && <p className="bad small">No hex bytes found. Example: 7E 51 12 00.</p>}
          {read && read.of > read.parts.length && (
            <Button size="compact-xs" onClick={() => more(read.parts.length + perLook)}>
              Show {Math.min(perLook, read.of - read.parts.length)} more of {read.of - read.parts.length}
            </Button>
          )}
          {read && (read.passedOver > 0 || read.left > 0 || tooLong) && (
            <p className="muted small">
              {read.passedOver > 0 && `${read.passedOver} ${read.passedOver === 1 ? 'line' : 'lines'} without bytes. `}
              {read.left > 0 && `Showing the first ${mostLogLines} lines; ${read.left} more. `}
              {tooLong && `Input truncated at ${mostCharacters / 1e6} million characters.`}
            </p>
          )}
        </div>
      </div>
    </section>
  )
}

/** The reading of a text, by a worker; the one before stands until the next has come. */
function useReading(project: Project, text: string, as: Direction | undefined) {
  const [now, setNow] = useState<{ read: LogReading | null; of: string; failed: string }>({ read: null, of: '', failed: '' })
  const reader = useRef<LogReader | null>(null)
  const wanted = useRef('')
  const [key, isEmpty] = [`${as ?? ''} ${text}`, !text.trim()]
  useEffect(() => {
    const made = new LogReader(
      (read) => setNow({ read, of: wanted.current, failed: '' }),
      (failed) => setNow({ read: null, of: wanted.current, failed }),
    )
    reader.current = made
    return () => made.end()
  }, [])
  useEffect(() => {
    wanted.current = key
    if (!isEmpty) reader.current?.read({ project, text, as }, perLook)
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what of the project is read is its layout, and what has names
  }, [key, isEmpty, project.layout, project.variables, project.widgets, project.panel])
  return {
    read: isEmpty ? null : now.read,
    reading: !isEmpty && now.of !== key,
    failed: now.failed,
    more: (most: number) => reader.current?.more(most),
  }
}

function Reading({ part }: { part: LogPart }) {
  const toPanel = part.direction === 'to panel'
  return (
    <div className={styles.reading}>
      <span className="mono small muted">{part.line}</span>
      <span className={part.good ? (toPanel ? 'to-panel' : 'to-host') : 'bad'} title={toPanel ? 'host → panel' : 'panel → host'}>
        {part.good ? (toPanel ? '→' : '←') : '✕'}
      </span>
      <span className={styles.said}>
        <Bytes bytes={part.bytes} most={40} anatomy={part.anatomy} wrongCheck={part.code === 'check'} wrongAt={part.wrongAt} />{' '}
        <strong className={part.good ? '' : 'bad'}>{part.says}</strong> <span className="small">{part.hint}</span>
      </span>
      <span className="small muted">{part.beside}</span>
    </div>
  )
}
