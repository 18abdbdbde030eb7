import { useEffect, useRef, useState } from 'react'
import type { PanelEvent } from '@moth-lamp/core/rig'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import type { WireEntry } from '../../worker/messages.ts'

/** So many of either kind are kept for the eye. */
const kept = 400

export interface Conversation {
  entries: WireEntry[]
  events: PanelEvent[]
}

const nothing: Conversation = { entries: [], events: [] }

/** The newest of the live conversation and of what happened beside it, fetched as they come. A power cycle empties both. */
export function useConversation(): Conversation {
  const session = useSession()
  const [heard, setHeard] = useState(nothing)
  const last = useStore(session.live, (l) => l.lastEntry + l.lastEvent)
  const which = useStore(session.live, (l) => l.conversation)
  const have = useRef({ which: 0, id: -1, events: 0 })
  const asking = useRef(false)
  useEffect(() => {
    const pull = () => {
      const { lastEntry, lastEvent, conversation } = session.live.value
      if (have.current.which !== conversation) have.current = { which: conversation, id: -1, events: 0 }
      const { id, events } = have.current
      if (asking.current || (lastEntry === id && lastEvent === events)) return
      asking.current = true
      const fresh = id < 0
      void session.worker.conversation(Math.max(0, id), events).then((more) => {
        asking.current = false
        if (!more || have.current.which !== conversation) return
        have.current = {
          which: conversation,
          id: more.entries.at(-1)?.id ?? Math.max(0, id),
          events: more.events.at(-1)?.id ?? events,
        }
        setHeard((old) => ({
          entries: (fresh ? more.entries : [...withAnswers(old.entries, more.entries), ...more.entries]).slice(-kept),
          events: (fresh ? more.events : [...old.events, ...more.events]).slice(-kept),
        }))
        // More may have come while this was on its way.
        if (more.entries.length + more.events.length) pull()
      })
    }
    pull()
  }, [session, last, which])
  return heard
}

/** Entries that were shown, with the answers that have come since. */
function withAnswers(old: WireEntry[], more: WireEntry[]): WireEntry[] {
  const answered = new Map(more.flatMap((e) => (e.answers === null ? [] : [[e.answers, e.id] as const])))
  return old.map((e) => (answered.has(e.id) ? { ...e, answeredBy: answered.get(e.id)! } : e))
}
