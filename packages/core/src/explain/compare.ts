import { toHex } from '../base/index.ts'
import type { Anatomy } from '../frames/index.ts'

/** A part in which two frames differ, as hex or as characters; '' where one lacks it. */
export interface Difference {
  label: string
  one: string
  other: string
}

/** The parts in which two frames differ, from left to right. */
export function differencesOf(one: Anatomy, other: Anatomy): Difference[] {
  const all = [partsIn(one), partsIn(other)] as const
  const keys = new Set(all.flatMap((parts) => [...parts.keys()]))
  return [...keys].flatMap((key) => {
    const [first, second] = [all[0].get(key), all[1].get(key)]
    if (first?.text === second?.text) return []
    return [{ label: first?.label ?? second!.label, one: first?.text ?? '', other: second?.text ?? '' }]
  })
}

/** The parts of a frame by kind, several of one kind counted. */
function partsIn({ pieces, isText }: Anatomy): Map<string, { label: string; text: string }> {
  const found = new Map<string, { label: string; text: string }>()
  const counts = new Map<string, number>()
  for (const { kind, label, plain } of pieces) {
    const count = counts.get(kind) ?? 0
    counts.set(kind, count + 1)
    const text = isText ? String.fromCharCode(...plain) : toHex(plain)
    found.set(`${kind} ${count}`, { label, text })
  }
  return found
}
