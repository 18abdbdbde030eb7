/** Block of memory from one address on: a variable, or a reserved one. */
export interface Block {
  id: string
  name: string
  address: number
  words: number
  kind: 'variable' | 'retired'
}

/** The part of a block that lies in one row of sixteen words. */
export interface Segment {
  block: Block
  /** Column of its first word, 0–15. */
  column: number
  words: number
  /** The first and the last part of its block. */
  begins: boolean
  ends: boolean
}

/** A row of sixteen words, or a stretch of rows in which nothing stands, folded into one. */
export type Row =
  { kind: 'row'; address: number; segments: Segment[] } | { kind: 'folded'; address: number; /** Of its last word. */ to: number }

const perRow = 16

/**
 * Memory from `from` up to `to` (excluded) in rows of sixteen words: those in use and the free one after each of them; what
 * is free beyond is folded.
 */
export function rowsOf(blocks: readonly Block[], from: number, to: number): Row[] {
  const segments = new Map<number, Segment[]>()
  for (const block of blocks) {
    const end = block.address + block.words
    for (let row = Math.floor(block.address / perRow); row * perRow < end; row++) {
      const first = Math.max(block.address, row * perRow)
      const last = Math.min(end, (row + 1) * perRow)
      const list = segments.get(row) ?? []
      segments.set(row, list)
      list.push({
        block,
        column: first - row * perRow,
        words: last - first,
        begins: first === block.address,
        ends: last === end,
      })
    }
  }
  const firstRow = Math.floor(from / perRow)
  const lastRow = Math.max(firstRow, Math.ceil(to / perRow) - 1)
  const shown = new Set([firstRow, ...[...segments.keys()].flatMap((row) => (row < lastRow ? [row, row + 1] : [row]))])
  const out: Row[] = []
  let next = firstRow
  for (const row of [...shown].sort((a, b) => a - b)) {
    if (row > next) out.push({ kind: 'folded', address: next * perRow, to: row * perRow - 1 })
    out.push({ kind: 'row', address: row * perRow, segments: segments.get(row) ?? [] })
    next = row + 1
  }
  if (next <= lastRow) out.push({ kind: 'folded', address: next * perRow, to: (lastRow + 1) * perRow - 1 })
  return out
}

/** The blocks, other than the one that is moved, on which it would stand at an address. */
export function inTheWay(blocks: readonly Block[], moved: Block, address: number): Block[] {
  return blocks.filter(
    (b) => b !== moved && b.kind === 'variable' && b.address < address + moved.words && address < b.address + b.words,
  )
}

/** The next address in steps of `by` words at which nothing is in the way, within [from, to); null where there is none. */
export function nextFree(blocks: readonly Block[], moved: Block, by: number, from: number, to: number): number | null {
  for (let at = moved.address + by; at >= from && at + moved.words <= to; at += by)
    if (!inTheWay(blocks, moved, at).length) return at
  return null
}
