import { operationTexts } from '@moth-lamp/core/frames'
import { Button, Group } from '@mantine/core'
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { VariableId } from '@moth-lamp/core/base'
import { framesOfVariable } from '@moth-lamp/core/explain'
import {
  memoryPlanOf,
  retiredAddresses,
  retiredNumbers,
  unspentAddresses,
  type Project,
  type Variable,
} from '@moth-lamp/core/project'
import { formatAddress, travelWords, wordsOf, type Travels } from '@moth-lamp/core/variables'
import { Pop } from '../../controls/pop.tsx'
import { Bytes } from '../../parts/frame.tsx'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import { FlagCells } from './flag-cells.tsx'
import { inTheWay, nextFree, rowsOf, type Block, type Row, type Segment } from './rows.ts'
import styles from './memory.module.css'
import station from '../../parts/station.module.css'

const tint: Record<Travels, string> = {
  'host to panel': styles.toPanel!,
  'panel to host': styles.toHost!,
  both: styles.both!,
  stays: styles.stays!,
}

/** A block on its way: where it would stand, and who is there already. */
interface Moving {
  block: Block
  /** Word of the block at which it was taken. */
  grip: number
  to: number
  /** Where the pointer is, px of the window. */
  at: { x: number; y: number }
}

function blocksOf(project: Project): Block[] {
  const live = Object.values(project.variables).map((v): Block => ({
    id: v.id,
    name: v.name,
    address: v.address,
    words: wordsOf(v.holds),
    kind: 'variable',
  }))
  const old = retiredAddresses(project)
    .map((r): Block => ({ id: r.key, name: r.name, address: r.address, words: r.words, kind: 'retired' }))
    // Where somebody lives again, nothing is shown of who left.
    .filter((r) => !inTheWay(live, r, r.address).length)
  return [...live, ...old]
}

/** Memory as named blocks: a block is dragged to another address, or moved there by the arrows. */
export function MemoryMap({ project, picked }: { project: Project; picked: string | null }) {
  const session = useSession()
  const addresses = useStore(session.view, (v) => v.addresses)
  const [moving, setMoving] = useState<Moving | null>(null)
  const area = useRef<HTMLDivElement>(null)
  const blocks = blocksOf(project)
  const plan = memoryPlanOf(project.panel)
  const rows = rowsOf(blocks, plan.from, plan.to)
  const pick = (id: string) => session.view.set({ variable: id, widgets: [] })
  const place = (block: Block, address: number) => session.edit('set variable', { id: block.id, values: { address } })

  const wordAt = (e: PointerEvent): number | null => {
    const cell = document
      .elementsFromPoint(e.clientX, e.clientY)
      .find((found): found is HTMLElement => found instanceof HTMLElement && found.dataset['word'] !== undefined)
    return cell ? Number(cell.dataset['word']) : null
  }
  const begin = (e: PointerEvent, block: Block) => {
    if (e.button !== 0) return
    pick(block.id)
    const word = wordAt(e)
    if (word === null) return
    area.current?.setPointerCapture(e.pointerId)
    setMoving({ block, grip: word - block.address, to: block.address, at: { x: e.clientX, y: e.clientY } })
  }
  const go = (e: PointerEvent) => {
    if (!moving) return
    const word = wordAt(e)
    const to = word === null ? moving.to : Math.min(Math.max(word - moving.grip, plan.from), plan.to - moving.block.words)
    setMoving({ ...moving, to, at: { x: e.clientX, y: e.clientY } })
  }
  const drop = () => {
    if (moving && moving.to !== moving.block.address && !inTheWay(blocks, moving.block, moving.to).length)
      place(moving.block, moving.to)
    setMoving(null)
  }
  const variables = blocks.filter((b) => b.kind === 'variable').sort((a, b) => a.address - b.address)
  const here = variables.find((b) => b.id === picked)
  const onKey = (e: KeyboardEvent) => {
    if (e.key === 'Escape' && moving) return (e.stopPropagation(), setMoving(null))
    const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -16, ArrowDown: 16 }[e.key]
    if (e.key === '[' || e.key === ']') {
      const at = here ? variables.indexOf(here) + (e.key === ']' ? 1 : -1) : 0
      const next = variables[(at + variables.length) % variables.length]
      if (next) pick(next.id)
    } else if (by && here) {
      const to = nextFree(blocks, here, by, plan.from, plan.to)
      if (to !== null) place(here, to)
    } else return
    e.preventDefault()
    e.stopPropagation()
  }
  const used = variables.reduce((sum, b) => sum + b.words, 0)
  return (
    <section className={station.card} aria-label="Memory">
      <Group component="header" wrap="wrap">
        <h2>Memory</h2>
        <span className="muted small">Drag a block to move it ([ ] and arrow keys)</span>
        <Legend />
      </Group>
      <div className={`${station.body} ${styles.body}`}>
        <div
          ref={area}
          className={styles.map}
          role="application"
          aria-label={here ? `Memory: ${placeWords(here)}` : 'Memory: [ and ] select a variable'}
          tabIndex={0}
          data-station-home
          onKeyDown={onKey}
          onPointerMove={go}
          onPointerUp={drop}
          onPointerCancel={() => setMoving(null)}
        >
          <span />
          {Array.from({ length: 16 }, (_, i) => (
            <span key={i} className={styles.column}>
              {addresses === 'hex' ? i.toString(16).toUpperCase() : i}
            </span>
          ))}
          {rows.map((row) => (
            <MemoryRow
              key={row.address}
              row={row}
              project={project}
              picked={picked}
              moving={moving}
              blocks={blocks}
              onBegin={begin}
            />
          ))}
        </div>
        <p className="visually-hidden" aria-live="polite">
          {here && placeWords(here)}
        </p>
      </div>
      <Keeping project={project} used={used} />
      {moving && moving.to !== moving.block.address && (
        <Moved project={project} moving={moving} inWay={inTheWay(blocks, moving.block, moving.to)} />
      )}
    </section>
  )
}

const placeWords = (b: Block): string =>
  `${b.name} at ${formatAddress(b.address)}, ${b.words === 1 ? '1 word' : `${b.words} words`}`

function Legend() {
  return (
    <span className={styles.legend}>
      {(['host to panel', 'panel to host', 'both', 'stays'] as const).map((way) => (
        <span key={way}>
          <i className={tint[way]} /> {travelWords[way]}
        </span>
      ))}
      <span>
        <i className={styles.retired} /> reserved
      </span>
    </span>
  )
}

interface RowProps {
  row: Row
  project: Project
  picked: string | null
  moving: Moving | null
  blocks: readonly Block[]
  onBegin(e: PointerEvent, block: Block): void
}

function MemoryRow({ row, project, picked, moving, blocks, onBegin }: RowProps) {
  const addresses = useStore(useSession().view, (v) => v.addresses)
  if (row.kind === 'folded')
    return (
      <span className={styles.folded}>
        {formatAddress(row.address, addresses)} to {formatAddress(row.to, addresses)}: free
      </span>
    )
  const flags = row.segments
    .map(({ block }) => project.variables[block.id as VariableId])
    .find((v): v is Variable => v?.id === picked && v.holds.type === 'flags')
  const ghost = moving && {
    from: Math.max(moving.to, row.address),
    to: Math.min(moving.to + moving.block.words, row.address + 16),
  }
  return (
    <>
      <span className={styles.address}>{formatAddress(row.address, addresses).replace('0x', '')}</span>
      <div className={styles.row}>
        {Array.from({ length: 16 }, (_, i) => (
          <i
            key={i}
            data-word={row.address + i}
            style={{ gridColumn: i + 1 }}
            title={formatAddress(row.address + i, addresses)}
          />
        ))}
        {row.segments.map((segment) => (
          <BlockPart
            key={`${segment.block.id} ${segment.column}`}
            segment={segment}
            project={project}
            picked={segment.block.id === picked}
            leaves={moving?.block.id === segment.block.id && moving.to !== segment.block.address}
            clash={segment.block.kind === 'variable' ? inTheWay(blocks, segment.block, segment.block.address) : []}
            onBegin={onBegin}
          />
        ))}
        {ghost && moving.to !== moving.block.address && ghost.to > ghost.from && (
          <span
            className={`${styles.block} ${styles.ghost} ${inTheWay(blocks, moving.block, moving.to).length ? styles.clash : ''}`}
            style={{ gridColumn: `${ghost.from - row.address + 1} / span ${ghost.to - ghost.from}` }}
          >
            {broken(moving.block.name, moving.block.words)}
          </span>
        )}
      </div>
      {flags && (
        <>
          <span className={styles.address}>bits</span>
          <FlagCells variable={flags} />
        </>
      )}
    </>
  )
}

interface PartProps {
  segment: Segment
  project: Project
  picked: boolean
  leaves: boolean
  clash: readonly Block[]
  onBegin(e: PointerEvent, block: Block): void
}

function BlockPart({ segment, project, picked, leaves, clash, onBegin }: PartProps) {
  const { block, column, words, begins, ends } = segment
  const variable = project.variables[block.id as VariableId]
  const said = variable
    ? `${placeWords(block)}, ${travelWords[variable.travels]}${clash.length ? `; overlaps ${clash.map((b) => b.name).join(', ')}` : ''}`
    : `${formatAddress(block.address)}: reserved (was ${block.name})`
  const classes = [
    styles.block,
    variable ? tint[variable.travels] : styles.retired,
    picked ? styles.here : '',
    leaves ? styles.leaves : '',
    clash.length ? styles.clash : '',
    begins ? '' : styles.goesOn,
    ends ? '' : styles.breaks,
  ]
  return (
    <span
      className={classes.filter(Boolean).join(' ')}
      style={{ gridColumn: `${column + 1} / span ${words}` }}
      title={said}
      data-block={block.name}
      onPointerDown={(e) => variable && onBegin(e, block)}
    >
      {leaves ? 'leaves' : variable ? (begins ? broken(block.name, words) : '…') : `was ${block.name}`}
    </span>
  )
}

/** A name that may be broken after its underscores, where there is little room for it. */
const broken = (name: string, words: number): string => (words > 2 ? name : name.replaceAll('_', '_\u200b'))

/** Beside the pointer: the way of the address, and the bytes that would be others. */
function Moved({ project, moving, inWay }: { project: Project; moving: Moving; inWay: readonly Block[] }) {
  const variable = project.variables[moving.block.id as VariableId]
  if (!variable) return null
  const before = framesOfVariable(project, variable)
  const after = framesOfVariable(project, { ...variable, address: moving.to })
  const left = Math.min(moving.at.x + 18, window.innerWidth - 400)
  const top = Math.min(moving.at.y + 16, window.innerHeight - 150)
  return (
    <div className={styles.moved} style={{ left, top }} role="status">
      <strong className="mono">
        {formatAddress(moving.block.address)} → {formatAddress(moving.to)}
      </strong>
      {inWay.length > 0 ? (
        <span className="bad"> {inWay.map((b) => b.name).join(', ')} stands there: it stays where it is</span>
      ) : (
        after.slice(0, 2).map((frame, i) => (
          <div key={frame.key} className={styles.frame}>
            <span className={frame.direction === 'to panel' ? 'to-panel' : 'to-host'}>
              {frame.direction === 'to panel' ? '→' : '←'} {operationTexts[frame.operation]}
            </span>
            <Bytes bytes={frame.bytes} anatomy={frame.anatomy} changedFrom={before[i]?.bytes ?? null} />
          </div>
        ))
      )}
    </div>
  )
}

/** Reserved and retired addresses, with their buttons. */
function Keeping({ project, used }: { project: Project; used: number }) {
  const session = useSession()
  const retired = retiredAddresses(project)
  const numbers = retiredNumbers(project)
  const unspent = unspentAddresses(project)
  const all = Object.keys(project.variables).length
  return (
    <Group gap={10} px={14} pb={8} className="small">
      <span className="muted">
        {used} of {project.panel.memoryTo - project.panel.memoryFrom} words used
      </span>
      {unspent.length > 0 && (
        <>
          <span className="muted" title="unreserved addresses are reused when the variable is deleted">
            {all - unspent.length} of {all} addresses reserved; exporting reserves all
          </span>
          <Button size="compact-xs" onClick={() => session.edit('spend addresses', {})}>
            Reserve all
          </Button>
        </>
      )}
      {retired.length + numbers.length > 0 && (
        <Pop
          position="top-end"
          width={420}
          target={<Button size="compact-xs">Reserved ({retired.length + numbers.length})</Button>}
        >
          <Group justify="space-between" wrap="nowrap" mb={6}>
            <span className="small muted">Previously used; the variable or record was deleted or moved.</span>
            <Button size="compact-xs" onClick={() => session.edit('release all addresses', {})}>
              Release all
            </Button>
          </Group>
          <div className={styles.retiredList}>
            {retired.map((r) => (
              <Group key={r.key} justify="space-between" wrap="nowrap" gap={8}>
                <span className="small cut">
                  <span className="mono">{formatAddress(r.address)}</span> was {r.name}; deployed firmware may still use it
                </span>
                <Button size="compact-xs" onClick={() => session.edit('release address', { key: r.key })}>
                  Release
                </Button>
              </Group>
            ))}
            {numbers.map((r) => (
              <Group key={r.key} justify="space-between" wrap="nowrap" gap={8}>
                <span className="small cut">
                  {r.one} <span className="mono">{r.number}</span> was “{r.name}”; deployed firmware may still use it
                </span>
                <Button size="compact-xs" onClick={() => session.edit('release number', { key: r.key })}>
                  Release
                </Button>
              </Group>
            ))}
          </div>
        </Pop>
      )}
    </Group>
  )
}
