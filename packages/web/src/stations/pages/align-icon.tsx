/** A stroke of the guide: from, to; and a block: x, y, width, height. All in a square of 16 px. */
type Line = readonly [x1: number, y1: number, x2: number, y2: number]
type Block = readonly [x: number, y: number, width: number, height: number]
interface Drawing {
  guides: readonly Line[]
  blocks: readonly Block[]
}

/** The drawings of what works across; what works down is the same with x and y exchanged. */
const across: Readonly<Record<string, Drawing>> = {
  'Left edges': { guides: [[2, 1, 2, 15]], blocks: [[5, 3, 9, 3], [5, 10, 5, 3]] }, // prettier-ignore
  'Centre horizontally': { guides: [[8, 1, 8, 15]], blocks: [[2, 3, 12, 3], [4.5, 10, 7, 3]] }, // prettier-ignore
  'Right edges': { guides: [[14, 1, 14, 15]], blocks: [[2, 3, 9, 3], [6, 10, 5, 3]] }, // prettier-ignore
  'Distribute horizontally': { guides: [[4.5, 8, 6, 8], [10, 8, 11.5, 8]], blocks: [[1.5, 3, 2, 10], [7, 3, 2, 10], [12.5, 3, 2, 10]] }, // prettier-ignore
  'Same width': { guides: [[2, 1, 2, 15], [14, 1, 14, 15]], blocks: [[4, 3, 8, 3], [4, 10, 8, 3]] }, // prettier-ignore
}
const turned: Readonly<Record<string, string>> = {
  'Top edges': 'Left edges',
  'Centre vertically': 'Centre horizontally',
  'Bottom edges': 'Right edges',
  'Distribute vertically': 'Distribute horizontally',
  'Same height': 'Same width',
}

const flip = ({ guides, blocks }: Drawing): Drawing => ({
  guides: guides.map(([x1, y1, x2, y2]): Line => [y1, x1, y2, x2]),
  blocks: blocks.map(([x, y, width, height]): Block => [y, x, height, width]),
})

/** The sign of an alignment by its name: blocks in ink on amber guides of 2 px. */
export function AlignIcon({ name }: { name: string }) {
  const drawing = across[name] ?? flip(across[turned[name]!]!)
  return (
    <svg width={16} height={16} viewBox="0 0 16 16" aria-hidden>
      {drawing.guides.map(([x1, y1, x2, y2]) => (
        <line key={`${x1} ${y1}`} x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--amber)" strokeWidth={2} strokeLinecap="round" />
      ))}
      {drawing.blocks.map(([x, y, width, height]) => (
        <rect key={`${x} ${y}`} x={x} y={y} width={width} height={height} rx={1} fill="currentColor" />
      ))}
    </svg>
  )
}
