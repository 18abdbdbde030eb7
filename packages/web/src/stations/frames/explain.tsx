import { Box, Button, Textarea } from '@mantine/core'
import { useDeferredValue, useMemo, useState } from 'react'
import { bookOf } from '@moth-lamp/core/compile'
import { explainLog, mostLogLines, type LogPart } from '@moth-lamp/core/explain'
import type { Direction } from '@moth-lamp/core/frames'
import type { Project } from '@moth-lamp/core/project'
import { Choice } from '../../controls/choice.tsx'
import { Bytes } from '../../parts/frame.tsx'
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
  const [most, setMost] = useState(perLook)
  const later = useDeferredValue(text)
  const book = useMemo(() => bookOf(project), [project])
  const read = useMemo(
    () => (later.trim() ? explainLog(project.layout, book, later, as || undefined) : null),
    [project.layout, book, later, as],
  )
  const tooLong = text.length >= mostCharacters
  return (
    <section className={station.card} aria-label="Explain bytes">
      <header>
        <h2>Explain bytes</h2>
        <span className="muted small">paste a frame or a whole log: time stamps, TX and RX, 0x and commas are passed over</span>
        {read && (
          <span className="small" role="status">
            <strong>{read.good}</strong> {read.good === 1 ? 'frame' : 'frames'}
            {read.bad > 0 && <strong className="bad"> · {read.bad} wrong</strong>}
          </span>
        )}
        <Box component="span" className="end" w={140}>
          <Choice
            label="Read as"
            value={as}
            options={[
              { value: '', label: 'each as it fits' },
              { value: 'to panel', label: 'host → panel' },
              { value: 'to host', label: 'panel → host' },
            ]}
            onChange={(d) => setAs(d as typeof as)}
          />
        </Box>
      </header>
      <div className={`${station.body} ${styles.explain}`}>
        <Textarea
          rows={4}
          aria-label="Bytes to explain"
          placeholder={'21:47:06.512 TX 7E 51 12 00 06 09 97 82 7E\n21:47:06.521 RX …'}
          value={text}
          classNames={{ input: 'mono' }}
          spellCheck={false}
          onChange={(e) => (setText(e.currentTarget.value.slice(0, mostCharacters)), setMost(perLook))}
        />
        <div className={styles.readings} aria-live="polite" tabIndex={0} role="log" aria-label="What the bytes say">
          {!text.trim() && (
            <p className="muted small">What was pasted is read here, frame by frame, in the names of this project.</p>
          )}
          {text.trim() && !read && <p className="bad">The layout cannot be used: see above.</p>}
          {read?.wrong.slice(0, 5).map(({ line, token }, i) => (
            <div key={i} className="bad small">
              line {line}: “{token}” is no byte and was left out
            </div>
          ))}
          {read?.parts.slice(0, most).map((part) => (
            <Reading key={`${part.line} ${part.from} ${part.direction}`} part={part} />
          ))}
          {read && !read.parts.length && (
            <p className="bad small">No bytes in hex were found: paste something like 7E 51 12 00.</p>
          )}
          {read && read.parts.length > most && (
            <Button size="compact-xs" onClick={() => setMost(most + perLook)}>
              Show {Math.min(perLook, read.parts.length - most)} more of {read.parts.length - most}
            </Button>
          )}
          {read && (read.passedOver > 0 || read.left > 0 || tooLong) && (
            <p className="muted small">
              {read.passedOver > 0 && `${read.passedOver} ${read.passedOver === 1 ? 'line has' : 'lines have'} no bytes. `}
              {read.left > 0 && `The first ${mostLogLines} lines are explained; ${read.left} are not. `}
              {tooLong && `Only the first ${mostCharacters / 1e6} million characters were taken in.`}
            </p>
          )}
        </div>
      </div>
    </section>
  )
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
        <Bytes bytes={part.bytes.slice(0, 40)} anatomy={part.anatomy} wrongCheck={part.code === 'check'} wrongAt={part.wrongAt} />
        {part.bytes.length > 40 ? ' … ' : ' '}
        <strong className={part.good ? '' : 'bad'}>{part.says}</strong> <span className="small">{part.hint}</span>
      </span>
      <span className="small muted">{part.beside}</span>
    </div>
  )
}
