import { Button, Modal } from '@mantine/core'
import { useMemo, useState } from 'react'
import {
  checkExamples,
  frameBytes,
  guessesOf,
  parseMeanings,
  type ExampleCheck,
  type Explains,
  type Guess,
  type Guesses,
  type Known,
  type Sample,
} from '@moth-lamp/core/examples'
import { mostExamples, type Layout, type LayoutExample } from '@moth-lamp/core/frames'
import { bookOf, type Project } from '@moth-lamp/core/project'
import { useSession } from '../../../session/context.tsx'
import { ExampleRow } from './example-row.tsx'
import { orderWords, TakeSure, Way, type TakenGuesses } from './guesses.tsx'
import { Paste } from './paste.tsx'
import styles from './examples.module.css'

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

/** The line of the layout that tells of its examples, and the sheet they are looked at and guessed from. */
export function Examples({ project }: { project: Project }) {
  const [opened, setOpened] = useState(false)
  const [taken, setTaken] = useState<TakenGuesses>({})
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
  taken: TakenGuesses
  onTake(taken: TakenGuesses): void
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
            <ExampleRow
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
const takenExplains = ({ ways }: Guesses, taken: TakenGuesses): Explains[] =>
  ways.flatMap(({ key, slots }) =>
    slots.flatMap((slot) => slot.guesses.find((guess) => guess.key === taken[`${key}/${slot.key}`])?.explains ?? []),
  )
