import { ActionIcon, Tooltip, UnstyledButton } from '@mantine/core'
import { Trash2 } from 'lucide-react'
import { useEffect, useRef, useState, type ReactNode } from 'react'
import { toHex } from '@moth-lamp/core/base'
import {
  frameBytes,
  frameText,
  meaningWords,
  parseMeaning,
  type ExampleCheck,
  type Explains,
  type Known,
} from '@moth-lamp/core/examples'
import type { Anatomy, LayoutExample } from '@moth-lamp/core/frames'
import { TextField } from '../../../controls/fields.tsx'
import { Bytes } from '../../../parts/frame.tsx'
import { cannotWords, problemWords } from './example-words.ts'
import styles from './examples.module.css'

interface RowProps {
  example: LayoutExample
  check: ExampleCheck | undefined
  /** Some example is as the layout says, so that what differs is worth a look. */
  tellsWhy: boolean
  known: Known
  tints: readonly Explains[]
  hovered: readonly Explains[]
  onSet(next: Partial<LayoutExample>): boolean
  onDelete(): void
}

/** An example with its bytes tinted by the guesses that are taken, its meaning, and whether the layout says it. */
export function ExampleRow({ example, check, tellsWhy, known, tints, hovered, onSet, onDelete }: RowProps) {
  const wire = check?.wire ?? new Uint8Array()
  const text = frameText(wire)
  const isText = text !== toHex(wire)
  const differs = (check?.differsAt ?? -1) >= 0 && tellsWhy
  return (
    <li className={styles.row}>
      <FrameOf wire={wire} onSet={onSet}>
        <Tinted wire={wire} tints={tints} hovered={hovered} isText={isText} />
      </FrameOf>
      <div className={styles.edit}>
        <TextField
          label="Meaning of the example"
          value={example.means}
          check={(typed) => {
            const read = parseMeaning(typed, known)
            return read.ok ? null : problemWords(read.problem)
          }}
          onCommit={(typed) => {
            const read = parseMeaning(typed, known)
            return read.ok && onSet({ means: meaningWords(read.value) })
          }}
        />
        <Verdict check={check} />
        <Tooltip label="delete the example">
          <ActionIcon variant="subtle" size={22} aria-label="Delete the example" onClick={onDelete}>
            <Trash2 size={13} />
          </ActionIcon>
        </Tooltip>
      </div>
      {differs && check?.said && (
        <div className={`small ${styles.said}`}>
          The layout says <Bytes bytes={check.said} differsFrom={wire} anatomy={plainAnatomy(check.said, isText)} />
        </div>
      )}
      {check?.problem && tellsWhy && (
        <div className={`small bad ${styles.said}`}>The layout cannot say this: {cannotWords(check.problem)}</div>
      )}
    </li>
  )
}

interface FrameProps extends Pick<RowProps, 'onSet'> {
  wire: Uint8Array
  children: ReactNode
}

/** The bytes of an example; a click, and they are a field. It stays open while what is typed there is no frame. */
function FrameOf({ wire, onSet, children }: FrameProps) {
  const [isOpen, setOpen] = useState(false)
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (isOpen) box.current?.querySelector('input')?.focus()
  }, [isOpen])
  if (!isOpen)
    return (
      <UnstyledButton className={styles.frame} title="click to edit the frame" onClick={() => setOpen(true)}>
        {children}
      </UnstyledButton>
    )
  // Once the field has said whether it takes what is typed.
  const closeIfTaken = () => void setTimeout(() => box.current?.querySelector('[role="alert"]') ?? setOpen(false), 0)
  return (
    <div
      ref={box}
      className={styles.frameField}
      onBlur={closeIfTaken}
      onKeyDown={(e) => (e.key === 'Enter' || e.key === 'Escape') && closeIfTaken()}
    >
      <TextField
        mono
        label="Frame of the example"
        value={frameText(wire)}
        check={(typed) => {
          const read = frameBytes(typed)
          return read.ok ? null : problemWords(read.problem)
        }}
        onCommit={(typed) => {
          const read = frameBytes(typed)
          return read.ok && onSet({ bytes: toHex(read.value) })
        }}
      />
    </div>
  )
}

/** Bytes without parts: they are told apart by their differences only. */
const plainAnatomy = (bytes: Uint8Array, isText: boolean): Anatomy =>
  ({
    pieces: [{ kind: 'constant', label: '', from: 0, to: bytes.length, says: '', plain: bytes }],
    readings: [],
    bad: null,
    isText,
  }) as unknown as Anatomy

/** Green: the layout says exactly these bytes; red: another, or none. */
function Verdict({ check }: { check: ExampleCheck | undefined }) {
  if (!check) return null
  const isGood = check.differsAt < 0
  const words = isGood
    ? 'the layout says exactly these bytes'
    : check.said
      ? `byte ${check.differsAt + 1} differs`
      : 'the layout cannot say this'
  return (
    <Tooltip label={words}>
      <span className={isGood ? 'ok' : 'bad'} role="img" aria-label={words}>
        {isGood ? '✓' : '✕'}
      </span>
    </Tooltip>
  )
}

interface TintedProps {
  wire: Uint8Array
  tints: readonly Explains[]
  hovered: readonly Explains[]
  isText: boolean
}

/** The bytes of a frame, tinted by the guesses that are taken; the one that is pointed at has an outline. */
function Tinted({ wire, tints, hovered, isText }: TintedProps) {
  const pieces: Anatomy['pieces'] = []
  for (let at = 0; at < wire.length; at++) {
    const kind = tints.find(({ from, to }) => at >= from && at < to)?.kind ?? 'open'
    const last = pieces.at(-1)
    if (last?.kind === kind) last.to = at + 1
    else
      pieces.push({
        kind: kind as never,
        label: kind === 'open' ? 'not explained yet' : kind,
        from: at,
        to: at + 1,
        says: '',
        plain: wire.subarray(at, at + 1),
      })
  }
  const marked = (at: number) => hovered.some(({ from, to }) => at >= from && at < to)
  const anatomy = { pieces, readings: [], bad: null, isText } as unknown as Anatomy
  return (
    <div className={styles.tinted}>
      <Bytes bytes={wire} anatomy={anatomy} marked={marked} />
    </div>
  )
}
