import { ActionIcon, Button, Modal, Textarea, Tooltip } from '@mantine/core'
import { Trash2 } from 'lucide-react'
import { useMemo, useState } from 'react'
import { sentence, toHex, type Order, type Problem } from '@moth-lamp/core/base'
import {
  checkExamples,
  frameBytes,
  frameText,
  guessesOf,
  meaningSentences,
  meaningWords,
  parseMeaning,
  parseMeanings,
  readPasted,
  type ExampleCheck,
  type Explains,
  type Guess,
  type Guesses,
  type Known,
  type Sample,
  type Slot,
  type WayGuesses,
} from '@moth-lamp/core/examples'
import { mostExamples, type Anatomy, type Layout, type LayoutExample } from '@moth-lamp/core/frames'
import { bookOf, type Project } from '@moth-lamp/core/project'
import { unsaidSentences, unsaidWords } from '@moth-lamp/core/protocols'
import { TextField } from '../../controls/fields.tsx'
import { valueProblemWords } from '../../controls/value-words.ts'
import { Bytes } from '../../parts/frame.tsx'
import { useSession } from '../../session/context.tsx'
import type { Session } from '../../session/session.ts'
import styles from './examples.module.css'

/** A meaning or a frame that cannot be taken, in words. */
const problemWords = (problem: Problem): string =>
  meaningSentences[problem.code] ? sentence(meaningSentences[problem.code]!, problem.facts) : valueProblemWords(problem)

/** Why a layout cannot say an example. */
const cannotWords = (problem: Problem): string => (unsaidSentences[problem.code] ? unsaidWords(problem) : problemWords(problem))

/** The names that the meaning of an example may use. */
function knownOf(project: Project): Known {
  const book = bookOf(project)
  return {
    places: book.variables.map(({ name, page, cell }) => ({
      name,
      address: cell.address,
      holds: cell.holds,
      order: cell.order === project.panel.order ? null : cell.order,
      page: page ?? '',
    })),
    widgets: book.widgets,
  }
}

/** Text that was pasted and not taken yet, kept while the sheet is closed. */
const pasted = new WeakMap<Session, string>()

/** The line of the layout that tells of its examples, and the sheet they are looked at and guessed from. */
export function Examples({ project }: { project: Project }) {
  const [opened, setOpened] = useState(false)
  const [taken, setTaken] = useState<Record<string, string>>({})
  const { layout, panel } = project
  const checks = useMemo(() => checkExamples(layout, panel.order), [layout, panel.order])
  const wrong = checks.filter(({ differsAt }) => differsAt >= 0).length
  return (
    <>
      <Button size="compact-xs" onClick={() => setOpened(true)} aria-haspopup="dialog">
        {checks.length ? (
          <span className={wrong ? 'bad' : 'ok'}>
            {wrong ? `✕ ${wrong} of ${checks.length} examples differ` : `✓ ${checks.length} examples`}
          </span>
        ) : (
          'From examples …'
        )}
      </Button>
      <Modal
        opened={opened}
        onClose={() => setOpened(false)}
        title="Layout from examples"
        size={1180}
        transitionProps={{ duration: 0 }}
        overlayProps={{ blur: 0, backgroundOpacity: 0.28, color: '#14161f' }}
        classNames={{ content: styles.content!, header: styles.header! }}
        closeButtonProps={{ 'aria-label': 'Close' }}
      >
        {opened && <Sheet project={project} checks={checks} taken={taken} onTake={setTaken} onDone={() => setOpened(false)} />}
      </Modal>
    </>
  )
}

interface SheetProps {
  project: Project
  checks: readonly ExampleCheck[]
  taken: Record<string, string>
  onTake(taken: Record<string, string>): void
  onDone(): void
}

function Sheet({ project, checks, taken, onTake, onDone }: SheetProps) {
  const session = useSession()
  const known = useMemo(() => knownOf(project), [project])
  const examples = useMemo(() => project.layout.examples ?? [], [project.layout.examples])
  const samples = useMemo((): Sample[] => {
    const meanings = parseMeanings(
      examples.map(({ means }) => means),
      known,
    )
    return examples.flatMap(({ bytes }, k) => {
      const [wire, meaning] = [frameBytes(bytes), meanings[k]!]
      return wire.ok && meaning.ok ? [{ wire: wire.value, meaning: meaning.value }] : []
    })
  }, [examples, known])
  const guesses = useMemo(() => guessesOf(samples, taken), [samples, taken])
  const [hovered, setHovered] = useState<Guess | null>(null)
  const set = (next: readonly Omit<LayoutExample, 'id'>[]) =>
    session.edit('set layout', { values: { examples: next.slice(0, mostExamples) } })
  const tints = useMemo(() => takenExplains(guesses, taken), [guesses, taken])
  const someGood = checks.some(({ differsAt }) => differsAt < 0)
  /** The order that the values show, where the panel keeps its words the other way round. */
  const turned = guesses.ways.map(({ order }) => order).find((order) => order && order !== project.panel.order) ?? null
  const make = () => {
    if (!guesses.layout) return
    const values: Partial<Layout> = { ...guesses.layout, name: 'from examples' }
    const isMade = session.edit('set layout', { values })
    if (isMade && turned) session.edit('set panel', { values: { order: turned } })
    if (isMade) onDone()
  }
  return (
    <div className={styles.sheet}>
      <section className={styles.frames} aria-label="Example frames">
        {!examples.length && (
          <p className="muted">
            Paste the example frames of the manual, each with what it means. Six of them, two of each operation, tell most
            layouts.
          </p>
        )}
        {examples.length > 0 && !someGood && (
          <p className="muted small">The present layout says none of these frames: take guesses, and make one that does.</p>
        )}
        <ol className={styles.list}>
          {examples.map((example, k) => (
            <Row
              key={example.id ?? k}
              example={example}
              check={checks[k]}
              tellsWhy={someGood}
              known={known}
              tints={tints.filter((one) => one.example === k)}
              hovered={hovered?.explains.filter((one) => one.example === k) ?? []}
              onSet={(next) => set(examples.map((one, i) => (i === k ? { ...one, ...next } : one)))}
              onDelete={() => set(examples.filter((_, i) => i !== k))}
            />
          ))}
        </ol>
        <Paste known={known} before={examples} onAdd={(more) => set([...examples, ...more])} />
      </section>
      <section className={styles.guesses} aria-label="Guesses">
        {guesses.ways.map((way) => (
          <Way
            key={way.key}
            project={project}
            way={way}
            taken={taken}
            onHover={setHovered}
            onTake={(slot, guess) => {
              const at = `${way.key}/${slot}`
              const { [at]: before, ...others } = taken
              onTake(before === guess ? others : { ...others, [at]: guess })
            }}
          />
        ))}
        {!guesses.ways.length && <p className="muted small">Each reading of the bytes that fits all frames is offered here.</p>}
        {guesses.ways.length > 0 && (
          <footer className={styles.foot}>
            <TakeSure guesses={guesses} taken={taken} onTake={onTake} />
            <Button variant="filled" disabled={!guesses.layout || !guesses.isTaken} onClick={make}>
              {turned ? `Make the layout, set the panel to ${orderWords(turned)}` : 'Make the layout'}
            </Button>
            {guesses.isTaken && !guesses.layout && (
              <span className="bad small">These guesses make no layout. Take another one, or add a frame.</span>
            )}
          </footer>
        )}
      </section>
    </div>
  )
}

/** The stretches of the guesses that are taken. */
const takenExplains = ({ ways }: Guesses, taken: Record<string, string>): Explains[] =>
  ways.flatMap(({ key, slots }) =>
    slots.flatMap((slot) => slot.guesses.find((guess) => guess.key === taken[`${key}/${slot.key}`])?.explains ?? []),
  )

/** Everything that fits one way only, at once. */
function TakeSure({ guesses, taken, onTake }: { guesses: Guesses } & Pick<SheetProps, 'taken' | 'onTake'>) {
  const sure = guesses.ways.flatMap(({ key, slots }) =>
    slots.flatMap((slot) =>
      slot.guesses.length === 1 && !taken[`${key}/${slot.key}`] ? [[`${key}/${slot.key}`, slot.guesses[0]!.key] as const] : [],
    ),
  )
  return (
    <Button disabled={!sure.length} onClick={() => onTake({ ...taken, ...Object.fromEntries(sure) })}>
      Take {sure.length} without a rival
    </Button>
  )
}

interface WayProps {
  project: Project
  way: WayGuesses
  taken: Record<string, string>
  onTake(slot: string, guess: string): void
  onHover(guess: Guess | null): void
}

const wayWords = { both: 'Both directions', 'to panel': 'host → panel', 'to host': 'panel → host' }

function Way({ project, way, taken, onTake, onHover }: WayProps) {
  const { key, kind, slots, notes, open, order } = way
  return (
    <section aria-label={wayWords[key]}>
      <h3 className={styles.way}>
        {wayWords[key]} <span className="muted small">{kind === 'lines' ? 'lines of text' : 'bytes'}</span>
      </h3>
      {slots.map((slot) => (
        <SlotRow key={slot.key} slot={slot} taken={taken[`${key}/${slot.key}`]} onTake={onTake} onHover={onHover} />
      ))}
      <ul className={styles.notes}>
        {open.length > 0 && <li className="bad">{openWords(open)}</li>}
        {order && order !== project.panel.order && (
          <li>
            The values are {orderWords(order)}, the panel’s memory is not: texts and 32-bit values would be turned. The layout is
            made together with the order of memory.
          </li>
        )}
        {notes.map((note) => (
          <li key={note}>{note}</li>
        ))}
      </ul>
    </section>
  )
}

/** `Not explained: bytes 5–6 of frame 2.` */
const openWords = (open: readonly Explains[]): string =>
  `Not explained: ${open
    .slice(0, 4)
    .map(({ example, from, to }) => `${to - from === 1 ? `byte ${from + 1}` : `bytes ${from + 1}–${to}`} of frame ${example + 1}`)
    .join(', ')}${open.length > 4 ? ' …' : ''}.`

const orderWords = (order: Order): string => (order === 'low' ? 'little-endian' : 'big-endian')

interface SlotProps extends Pick<WayProps, 'onTake' | 'onHover'> {
  slot: Slot
  taken: string | undefined
}

function SlotRow({ slot, taken, onTake, onHover }: SlotProps) {
  const [all, setAll] = useState(false)
  const shown = slot.guesses.filter(({ key }, k) => all || k < 2 || key === taken)
  const more = slot.guesses.length - shown.length
  return (
    <div className={styles.slot} role="group" aria-label={slot.label}>
      <span className={styles.label}>{slot.label}</span>
      <div className={styles.chips}>
        {shown.map((guess) => (
          <Button
            key={guess.key}
            size="compact-xs"
            variant={guess.key === taken ? 'filled' : 'default'}
            aria-pressed={guess.key === taken}
            classNames={{ root: styles.chip!, label: styles.chipWords! }}
            onClick={() => onTake(slot.key, guess.key)}
            onMouseEnter={() => onHover(guess)}
            onMouseLeave={() => onHover(null)}
            onFocus={() => onHover(guess)}
            onBlur={() => onHover(null)}
          >
            {guess.key === taken && '✓ '}
            {guess.says} <small className={styles.fits}>{`${guess.fits} of ${guess.of}`}</small>
          </Button>
        ))}
        {more > 0 && (
          <Button size="compact-xs" variant="subtle" onClick={() => setAll(true)}>
            {more} more
          </Button>
        )}
      </div>
    </div>
  )
}

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

function Row({ example, check, tellsWhy, known, tints, hovered, onSet, onDelete }: RowProps) {
  const wire = check?.wire ?? new Uint8Array()
  const text = frameText(wire)
  const isText = text !== toHex(wire)
  const differs = (check?.differsAt ?? -1) >= 0 && tellsWhy
  return (
    <li className={styles.row}>
      <Tinted wire={wire} tints={tints} hovered={hovered} isText={isText} />
      <div className={styles.edit}>
        <TextField
          mono
          label="Frame of the example"
          value={text}
          check={(typed) => {
            const read = frameBytes(typed)
            return read.ok ? null : problemWords(read.problem)
          }}
          onCommit={(typed) => {
            const read = frameBytes(typed)
            return read.ok && onSet({ bytes: toHex(read.value) })
          }}
        />
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

interface PasteProps {
  known: Known
  before: readonly LayoutExample[]
  onAdd(more: Omit<LayoutExample, 'id'>[]): boolean
}

/** Where frames are pasted with their meanings: those that are understood become examples, the others stay with why. */
function Paste({ known, before, onAdd }: PasteProps) {
  const session = useSession()
  const [text, setText] = useState(pasted.get(session) ?? '')
  const [why, setWhy] = useState<string[]>([])
  const put = (next: string) => (pasted.set(session, next), setText(next), setWhy([]))
  const add = () => {
    const rows = readPasted(text)
    // All of them together tell the data types of their places.
    const meanings = parseMeanings([...before.map(({ means }) => means), ...rows.map(({ means }) => means)], known).slice(
      before.length,
    )
    const good: Omit<LayoutExample, 'id'>[] = []
    const left: string[] = []
    const problems: string[] = []
    rows.forEach(({ frame, means }, k) => {
      const [wire, meaning] = [frameBytes(frame), meanings[k]!]
      if (wire.ok && meaning.ok) return void good.push({ bytes: toHex(wire.value), means: meaningWords(meaning.value) })
      left.push(means ? `${frame} | ${means}` : frame)
      const problem = !wire.ok ? wire.problem : !meaning.ok ? meaning.problem : null
      if (problem) problems.push(`Line ${left.length}: ${problemWords(problem)}`)
    })
    const room = mostExamples - before.length
    if (good.length > room) return setWhy([`At most ${mostExamples} examples: ${good.length - room} too many.`])
    if (good.length && !onAdd(good)) return
    put(left.join('\n'))
    setWhy(problems)
  }
  return (
    <div className={styles.paste}>
      <Textarea
        autosize
        minRows={2}
        maxRows={8}
        aria-label="Frames to add"
        placeholder={'3C C4 05 82 12 00 00 14 | write 20 to 0x1200\nSET level 20.0{0D} | write 20.0 to level'}
        classNames={{ input: 'mono' }}
        value={text}
        error={why.length > 0 && <span role="alert">{why.slice(0, 3).join(' ')}</span>}
        onChange={(e) => put(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || !(e.ctrlKey || e.metaKey)) return
          e.preventDefault()
          add()
        }}
      />
      <Button disabled={!text.trim()} onClick={add}>
        Add frames
      </Button>
      <p className="muted small">
        One a line: the frame in hex or as characters ({'{0D}'} for CR), a bar, its meaning: write, read request, read response,
        report, event, acknowledge, reject.
      </p>
    </div>
  )
}
