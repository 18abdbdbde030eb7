import type { WireEntry } from '../../worker/messages.ts'
import { badSentence } from '@moth-lamp/core/protocols'

export const seconds = (us: number): string => `${(us / 1_000_000).toFixed(3)} s`

/** Text of an entry: `wind_speed = 6.1 m/s`, or why it is no frame. */
export function wordsOf(e: WireEntry): string {
  if (e.kind === 'power') return `power of ${e.note === 'both' ? 'both' : `the ${e.note}`}`
  const { said } = e
  if (!said) return e.kind === 'lost' ? 'lost on the line' : badSentence(e.code!)
  return (
    (said.what === 'write' || said.what === 'report' ? '' : `${said.what} `) + said.name + (said.value ? ` = ${said.value}` : '')
  )
}

/** Whether words fit what was typed to find: each word must be there, and none that stands after “not” or a minus. */
export function finds(text: string, typed: string): boolean {
  const words = text.toLowerCase()
  const tokens = typed.toLowerCase().split(/\s+/).filter(Boolean)
  return tokens.every((token, i) => {
    if (token === 'not') return i === tokens.length - 1 || !words.includes(tokens[i + 1]!)
    if (tokens[i - 1] === 'not') return true
    if (token.startsWith('-') && token.length > 1 && !/^-\d/.test(token)) return !words.includes(token.slice(1))
    return words.includes(token)
  })
}
