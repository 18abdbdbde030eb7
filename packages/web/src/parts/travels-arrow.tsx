import type { Travels } from '@moth-lamp/core/variables'

const post = 'M3 3V17M45 3V17'
const right = 'M7 {y}H40M36 {a}L40 {y}L36 {b}'
const left = 'M41 {y}H8M12 {a}L8 {y}L12 {b}'
const at = (path: string, y: number): string =>
  path
    .replaceAll('{y}', String(y))
    .replace('{a}', String(y - 3.5))
    .replace('{b}', String(y + 3.5))

/** The way of a variable as an arrow between two posts: the host on the left, the panel on the right. */
export function TravelsArrow({ travels }: { travels: Travels }) {
  const both = travels === 'both'
  return (
    <svg width="48" height="20" viewBox="0 0 48 20" fill="none" strokeWidth="1.7" strokeLinecap="round" aria-hidden>
      <path d={post} stroke="#8a8f9e" />
      {(travels === 'host to panel' || both) && <path d={at(right, both ? 6.5 : 10)} stroke="var(--host)" />}
      {(travels === 'panel to host' || both) && <path d={at(left, both ? 14 : 10)} stroke="var(--panel)" />}
      {travels === 'stays' && <circle cx="37" cy="10" r="3" fill="#8a8f9e" />}
    </svg>
  )
}
