import { Button, Textarea } from '@mantine/core'
import { useState } from 'react'
import { toHex } from '@moth-lamp/core/base'
import { frameBytes, meaningWords, parseMeanings, readPasted, type Known } from '@moth-lamp/core/examples'
import { mostExamples, type LayoutExample } from '@moth-lamp/core/frames'
import { useSession } from '../../../session/context.tsx'
import type { Session } from '../../../session/session.ts'
import { problemWords } from './example-words.ts'
import styles from './examples.module.css'

/** Text that was pasted and not taken yet, kept while the sheet is closed. */
const pasted = new WeakMap<Session, string>()

interface PasteProps {
  known: Known
  before: readonly LayoutExample[]
  onAdd(more: Omit<LayoutExample, 'id'>[]): boolean
}

/** Where frames are pasted with their meanings: those that are understood become examples, the others stay with why. */
export function Paste({ known, before, onAdd }: PasteProps) {
  const session = useSession()
  const [text, setText] = useState(pasted.get(session) ?? '')
  const [why, setWhy] = useState<string[]>([])
  const put = (next: string) => (pasted.set(session, next), setText(next), setWhy([]))
  const add = () => {
    const rows = readPasted(text)
    // All of them together tell the data types of their places.
    const meanings = parseMeanings([...before.map(({ means }) => means), ...rows.map(({ means }) => means)], known).slice(
      before.length,
    )
    const good: Omit<LayoutExample, 'id'>[] = []
    const left: string[] = []
    const problems: string[] = []
    rows.forEach(({ frame, means }, k) => {
      const [wire, meaning] = [frameBytes(frame), meanings[k]!]
      if (wire.ok && meaning.ok) return void good.push({ bytes: toHex(wire.value), means: meaningWords(meaning.value) })
      left.push(means ? `${frame} | ${means}` : frame)
      const problem = !wire.ok ? wire.problem : !meaning.ok ? meaning.problem : null
      if (problem) problems.push(`Line ${left.length}: ${problemWords(problem)}`)
    })
    const room = mostExamples - before.length
    if (good.length > room) return setWhy([`At most ${mostExamples} examples: ${good.length - room} too many.`])
    if (good.length && !onAdd(good)) return
    put(left.join('\n'))
    setWhy(problems)
  }
  return (
    <div className={styles.paste}>
      <Textarea
        autosize
        minRows={2}
        maxRows={8}
        aria-label="Frames to add"
        placeholder={'3C C4 05 82 12 00 00 14 | write 20 to 0x1200\nSET level 20.0{0D} | write 20.0 to level'}
        classNames={{ input: 'mono' }}
        value={text}
        error={why.length > 0 && <span role="alert">{why.slice(0, 3).join(' ')}</span>}
        onChange={(e) => put(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || !(e.ctrlKey || e.metaKey)) return
          e.preventDefault()
          add()
        }}
      />
      <Button disabled={!text.trim()} onClick={add}>
        Add frames
      </Button>
      <p className="muted small">
        One a line: the frame in hex or as characters ({'{0D}'} for CR), a bar, its meaning: write, read request, read response,
        report, event, acknowledge, reject.
      </p>
    </div>
  )
}
