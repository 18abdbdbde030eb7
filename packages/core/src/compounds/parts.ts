import type { Rect } from '../base/index.ts'
import { noFace, type Face } from '../faces/index.ts'
import { isNumber, type Holds } from '../variables/index.ts'
import type { State, StateWhen } from '../widgets/index.ts'

/** Pixels between the parts of a compound. */
export const gap = 8

/** Columns of some shares of a place, with gaps between them. */
export function columns({ x, y, width, height }: Rect, ...shares: number[]): Rect[] {
  const sum = shares.reduce((all, share) => all + share, 0)
  const room = width - gap * (shares.length - 1)
  const edges = shares.map((_, k) => Math.round((room * shares.slice(0, k).reduce((all, s) => all + s, 0)) / sum))
  return shares.map((_, k) => ({
    x: x + edges[k]! + gap * k,
    y,
    width: Math.max(1, (edges[k + 1] ?? room) - edges[k]!),
    height,
  }))
}

/** Rows of the same height. */
export const rows = ({ x, y, width, height }: Rect, count: number): Rect[] =>
  Array.from({ length: count }, (_, k) => {
    const at = Math.round((height * k) / count)
    return { x, y: y + at, width, height: Math.max(1, Math.round((height * (k + 1)) / count) - at) }
  })

/** The bits of a word that have a name, with it. */
export const namedBits = (holds: Holds): { bit: number; name: string }[] =>
  holds.type === 'flags' ? holds.names.flatMap((name, bit) => (name ? [{ bit, name }] : [])) : []

/** A face of a tone, or one at rest. */
const switchFace = (tone: '' | 'accent'): Face => ({
  ...noFace,
  fill: tone ? `colour:${tone} tint` : 'colour:surface',
  border: tone ? `colour:${tone}` : 'colour:line',
  borderWidth: 1,
  radius: 8,
})

const stateOf = (k: number, when: StateWhen, meaning: string, isOn: boolean): State => ({
  id: `state:${k + 1}`,
  when,
  meaning,
  face: switchFace(isOn ? 'accent' : ''),
  textColour: isOn ? 'colour:accent' : 'colour:muted',
})

/** States in the words of what a variable holds: of a choice its own, of a number `off` and `on`. */
export function switchStates(holds: Holds): State[] {
  if (holds.type === 'choice') return holds.choices.map(({ value, word }, k) => stateOf(k, { by: 'value', value }, word, k > 0))
  const most = isNumber(holds) ? holds.max : 65_535
  return [stateOf(0, { by: 'value', value: 0 }, 'off', false), stateOf(1, { by: 'range', from: 1, to: most }, 'on', true)]
}

const lamp = { ...noFace, shape: 'ellipse' as const }

/** Off and on of one bit, as a lamp. */
export const lampStates = (bit: number): State[] => [
  {
    id: 'state:1',
    when: { by: 'bit', bit, set: false },
    meaning: 'off',
    face: { ...lamp, fill: 'colour:off', border: 'colour:line', borderWidth: 2 },
    textColour: 'colour:ink',
  },
  {
    id: 'state:2',
    when: { by: 'bit', bit, set: true },
    meaning: 'on',
    face: { ...lamp, fill: 'colour:good', border: 'colour:good tint', borderWidth: 3 },
    textColour: 'colour:ground',
  },
]
