import { noFace } from '../faces/index.ts'
import type { Holds } from '../variables/index.ts'
import type { State } from './setting-types.ts'

/** States by what a variable can be: one for each word of a choice; of flags the first named bit, set and clear. */
export function statesFromWords(states: readonly State[], holds: Holds | null): State[] | null {
  const looks = (k: number) => {
    const { face, textColour } = states[Math.min(k, states.length - 1)] ?? nextState([], null)
    return { face, textColour }
  }
  if (holds?.type === 'choice')
    return holds.choices.map((c, k) => ({ when: { by: 'value', value: c.value }, meaning: c.word, ...looks(k) }))
  if (holds?.type !== 'flags') return null
  const bit = Math.max(0, holds.names.findIndex(Boolean))
  return [false, true].map((set, k) => ({
    when: { by: 'bit', bit, set },
    meaning: set ? holds.names[bit] || 'on' : 'off',
    ...looks(k),
  }))
}

/** One more state: of the first word or bit that none speaks of yet. */
export function nextState(states: readonly State[], holds: Holds | null): State {
  const face = states.at(-1)?.face ?? { ...noFace, fill: 'colour:good' }
  const looks = { face, textColour: states.at(-1)?.textColour ?? 'colour:ink' }
  const values = states.flatMap(({ when }) => (when.by === 'value' ? [when.value] : []))
  const bits = states.flatMap(({ when }) => (when.by === 'bit' ? [when.bit] : []))
  if (holds?.type === 'choice') {
    const free = holds.choices.find((c) => !values.includes(c.value))
    if (free) return { when: { by: 'value', value: free.value }, meaning: free.word, ...looks }
  }
  if (holds?.type === 'flags') {
    const bit = holds.names.findIndex((name, k) => name && !bits.includes(k))
    if (bit >= 0) return { when: { by: 'bit', bit, set: true }, meaning: holds.names[bit]!, ...looks }
  }
  return { when: { by: 'value', value: states.length }, meaning: `state ${states.length}`, ...looks }
}
