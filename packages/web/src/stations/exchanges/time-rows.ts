import type { PanelEvent } from '@moth-lamp/core/rig'
import type { WireEntry } from '../../worker/messages.ts'

/** Something in the diagram of a run that has a height of its own, in the order of time. */
export type Item =
  | { kind: 'step'; key: string; id: string; atUs: number; height: number }
  | { kind: 'frame'; key: string; atUs: number; entry: WireEntry; answer: WireEntry | null }
  | { kind: 'folded'; key: string; atUs: number; toUs: number; entries: WireEntry[] }
  | { kind: 'mark'; key: string; atUs: number; event: PanelEvent }

export type Placed = Item & { y: number }

export interface TimeRows {
  items: Placed[]
  /** Where the axis is broken: so much time passes there. */
  breaks: { y: number; us: number }[]
  height: number
  /** Where a moment stands, px from the top. */
  yOf(us: number): number
}

const pitch = { frame: 19, answered: 31, folded: 20, mark: 17 }
const heightOf = (item: Item): number =>
  item.kind === 'step' ? 0 : item.kind === 'frame' ? (item.answer ? pitch.answered : pitch.frame) : pitch[item.kind]
/** A pause of this length is drawn as a break, µs. */
const breakUs = 300_000

/**
 * Places what happened one below the other: time goes down, slower where little happens and never so that two things cover one
 * another. A step stands beside the moment at which it was decided; what it takes more of height pushes down what comes after.
 */
export function placeInTime(items: readonly Item[]): TimeRows {
  const sorted = [...items].sort((a, b) => a.atUs - b.atUs || (a.kind === 'step' ? 1 : 0) - (b.kind === 'step' ? 1 : 0))
  const placed: Placed[] = []
  const breaks: TimeRows['breaks'] = []
  let y = 14
  let stepBottom = 0
  let last = sorted[0]?.atUs ?? 0
  let room = 0
  for (const item of sorted) {
    const us = item.atUs - last
    let next = y + Math.max(room, Math.min(34, us / 9_000))
    if (item.kind === 'step') next = Math.max(y, stepBottom)
    if (us > breakUs) {
      breaks.push({ y: next + 4, us })
      next += 26
    }
    placed.push({ ...item, y: next })
    if (item.kind === 'step') stepBottom = next + item.height + 4
    room = item.kind === 'step' ? Math.max(room - (next - y), 4) : heightOf(item)
    y = next
    last = item.kind === 'folded' ? item.toUs : item.atUs
  }
  const height = Math.max(y + room, stepBottom) + 12
  return { items: placed, breaks, height, yOf: (us) => yOf(placed, us, height) }
}

function yOf(placed: readonly Placed[], us: number, height: number): number {
  const after = placed.findIndex((p) => p.atUs > us)
  if (after < 0) return Math.min(height - 6, (placed.at(-1)?.y ?? 0) + 8)
  const [a, b] = [placed[after - 1], placed[after]!]
  if (!a) return b.y
  return a.y + ((b.y - a.y) * (us - a.atUs)) / Math.max(1, b.atUs - a.atUs)
}

/** More than so many frames in a row that no step asks for are one line. */
const folds = 2

/** The frames of a run with their answers; those that decide nothing and only go on are folded. */
export function framesOf(
  entries: readonly WireEntry[],
  events: readonly PanelEvent[],
  matters: (entry: WireEntry) => boolean,
  unfolded: ReadonlySet<string>,
): Item[] {
  const byId = new Map(entries.map((e) => [e.id, e]))
  const isAnswer = (e: WireEntry) =>
    e.answers !== null && byId.has(e.answers) && (e.message?.operation === 'done' || e.message?.operation === 'refused')
  const shown = entries.filter((e) => e.kind !== 'power' && !isAnswer(e))
  const marks = events.filter((b) => b.what === 'touched' || b.what === 'page' || b.what === 'pin')
  const out: Item[] = marks.map((b) => ({ kind: 'mark', key: `mark ${b.id}`, atUs: b.atUs, event: b }))
  const one = (entry: WireEntry): Item => ({
    kind: 'frame',
    key: `frame ${entry.id}`,
    atUs: entry.fromUs,
    entry,
    answer: entry.answeredBy === null ? null : (byId.get(entry.answeredBy) ?? null),
  })
  let run: WireEntry[] = []
  const end = () => {
    const key = `folded ${run[0]?.id}`
    if (run.length > folds && !unfolded.has(key))
      out.push({ kind: 'folded', key, atUs: run[0]!.fromUs, toUs: run.at(-1)!.toUs, entries: run })
    else out.push(...run.map(one))
    run = []
  }
  const moments = marks.map((m) => m.atUs)
  for (const entry of shown) {
    if (matters(entry)) {
      end()
      out.push(one(entry))
      continue
    }
    // An event between two frames keeps them apart.
    const before = run.at(-1)
    if (before && moments.some((us) => us > before.fromUs && us < entry.fromUs)) end()
    run.push(entry)
  }
  end()
  return out
}
